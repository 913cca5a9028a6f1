import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";

import type { StudyView } from "../api/client";
import { useShelf } from "../api/hooks";
import { cellOf, cellWords } from "../grid/cells";

/** A swatch of the study, a cloth of the Shelf, or (both null) neither. */
export interface Lying {
  swatch: string | null;
  cloth: string | null;
}

interface Option extends Lying {
  key: string;
  words: string;
  group: string;
}

interface WhatLiesHereProps {
  study: StudyView;
  label: string;
  value: Lying;
  /** What it is called when nothing is chosen. */
  none: string;
  onChange: (value: Lying) => void;
}

/** Chooses what a cell or a sample is: found by its code, its levels, or the name of the cloth. */
export function WhatLiesHere({ study, label, value, none, onChange }: WhatLiesHereProps) {
  const shelf = useShelf();
  const cloths = (shelf.data?.cloths ?? []).filter((one) => !one.retired || one.key === value.cloth);
  const options: Option[] = [
    ...cloths.map((one) => ({
      key: `cloth ${one.key}`,
      words: one.name,
      group: "On the Shelf",
      swatch: null,
      cloth: one.key,
    })),
    ...study.swatches.map((one) => {
      const cell = cellOf(study, one.code);
      return {
        key: one.code,
        words: `${one.code}${cell ? ` ${cellWords(study, cell)}` : ""}`,
        group: "Swatches",
        swatch: one.code,
        cloth: null,
      };
    }),
  ];
  const chosen = options.find((one) => one.swatch === value.swatch && one.cloth === value.cloth) ?? null;
  return (
    <Autocomplete
      size="small"
      options={options}
      value={chosen}
      groupBy={(one) => one.group}
      getOptionLabel={(one) => one.words}
      getOptionKey={(one) => one.key}
      isOptionEqualToValue={(one, other) => one.key === other.key}
      onChange={(_, next) => onChange({ swatch: next?.swatch ?? null, cloth: next?.cloth ?? null })}
      noOptionsText="No swatch and no cloth of the Shelf is called so."
      renderInput={(params) => (
        <TextField
          {...params}
          label={label}
          placeholder={none}
          slotProps={{ ...params.slotProps, inputLabel: { ...params.slotProps.inputLabel, shrink: true } }}
        />
      )}
      sx={{ minWidth: 220 }}
    />
  );
}
