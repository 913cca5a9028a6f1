import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { StudyView } from "../api/client";
import { useEveryStudy } from "../api/hooks";
import { useSettled } from "../shell/settled";
import { useColouredCloths, useColouredFound } from "./compare-queries";

/** Finds any piece of any study, or a cloth of the Shelf. */
export function AnyPiece({
  study,
  onChoose,
  label = "Or find any piece",
}: {
  study: StudyView;
  onChoose: (key: string) => void;
  label?: string;
}) {
  const studies = useEveryStudy().data ?? [];
  const [from, setFrom] = useState<number | "cloths">(study.id);
  const [text, setText] = useState("");
  const [open, setOpen] = useState(false);
  const settled = useSettled(text);
  const found = useColouredFound(from === "cloths" ? study.id : from, settled, open && from !== "cloths");
  const cloths = useColouredCloths().data ?? [];
  // What was found for other words is not offered for these.
  const looking = from !== "cloths" && (settled !== text || found.isPending);
  const options = from === "cloths" ? cloths : looking ? [] : (found.data ?? []);
  return (
    <Box sx={{ mt: 1.5, display: "grid", gap: 1 }}>
      <TextField
        select
        label="From"
        value={from}
        onChange={(event) => setFrom(event.target.value === "cloths" ? "cloths" : Number(event.target.value))}>
        {studies.map((one) => (
          <MenuItem key={one.id} value={one.id}>
            {one.name}
          </MenuItem>
        ))}
        <MenuItem value="cloths">Reference cloths of the Shelf</MenuItem>
      </TextField>
      <Autocomplete
        size="small"
        options={options}
        {...(from === "cloths" ? {} : { filterOptions: (all: typeof options) => all })}
        inputValue={text}
        onInputChange={(_, typed) => setText(typed)}
        open={open}
        onOpen={() => setOpen(true)}
        onClose={() => setOpen(false)}
        loading={looking}
        loadingText="Looking"
        value={null}
        blurOnSelect
        clearOnBlur
        getOptionLabel={(one) => `${one.name} ${one.state} ${one.words} ${one.colour_words}`}
        getOptionKey={(one) => one.key}
        onChange={(_, one) => one && onChoose(one.key)}
        noOptionsText="Nothing that was read is called so."
        renderOption={({ key, ...rest }, one) => (
          <Box component="li" key={key} {...rest} sx={{ gap: 1, fontSize: 13 }}>
            <Box sx={{ width: 34, height: 26, bgcolor: one.hex, flex: "none" }} aria-hidden />
            <span>
              <strong>{one.name}</strong> {one.state} · {one.words}
            </span>
          </Box>
        )}
        renderInput={(params) => (
          <TextField
            {...params}
            label={label}
            placeholder="code, recipe, stage, colour"
            slotProps={{ ...params.slotProps, inputLabel: { ...params.slotProps.inputLabel, shrink: true } }}
          />
        )}
      />
    </Box>
  );
}
