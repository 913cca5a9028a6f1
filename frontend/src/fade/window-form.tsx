import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Schema } from "../api/client";
import { useTowns } from "../api/hooks";
import { typedNumber } from "../settings/quantities";
import { ChoiceField } from "../shell/choice-field";
import { NumberField } from "../shell/number-field";

export type WindowLight = Schema["WindowLight"];

export const START_WINDOW: WindowLight = {
  kind: "window",
  name: "Window",
  latitude: 50,
  longitude: 8,
  sky: "mixed",
  sun_share: [],
  window: {
    faces_deg: 180,
    tilt_deg: 90,
    glass: "single",
    horizon_deg: 0,
    curtain: false,
    distance_m: 0,
    width_m: 1.2,
    height_m: 1.4,
  },
};
const FACES = ["north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"];

/** A place, where the window looks, its glass, and what stands before it. */
export function WindowForm({ value, onChange }: { value: WindowLight; onChange: (value: WindowLight) => void }) {
  const [words, setWords] = useState("");
  const [town, setTown] = useState("");
  const towns = useTowns(words).data ?? [];
  const window = value.window ?? START_WINDOW.window;
  const put = (part: Partial<Schema["Window"]>) =>
    onChange({ ...value, window: { ...window, ...part } as Schema["Window"] });
  const number = (label: string, shown: number | undefined, keep: (value: number) => void) => (
    <NumberField
      key={`${label} ${label === "Latitude" || label === "Longitude" ? town : ""}`}
      label={label}
      start={shown}
      onTake={keep}
    />
  );
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "repeat(3, 1fr)" }, gap: 1 }}>
      <Autocomplete
        options={towns}
        filterOptions={(all) => all}
        getOptionLabel={(town) => `${town.name}, ${town.country}`}
        isOptionEqualToValue={(a, b) => a.latitude === b.latitude && a.longitude === b.longitude}
        onInputChange={(_, text) => setWords(text)}
        onChange={(_, chosen) => {
          if (!chosen) return;
          setTown(chosen.name);
          onChange({ ...value, latitude: chosen.latitude, longitude: chosen.longitude });
        }}
        renderInput={(props) => <TextField {...props} label="Town" helperText="or coordinates" />}
      />
      {number("Latitude", value.latitude, (latitude) => onChange({ ...value, latitude }))}
      {number("Longitude", value.longitude, (longitude) => onChange({ ...value, longitude }))}
      <TextField
        select
        label="Faces"
        value={Math.round((window?.faces_deg ?? 180) / 45) % 8}
        onChange={(event) => put({ faces_deg: 45 * Number(event.target.value) })}>
        {FACES.map((name, i) => (
          <MenuItem key={name} value={i}>
            {name} ({45 * i}°)
          </MenuItem>
        ))}
      </TextField>
      <ChoiceField
        label="Glass"
        value={window?.glass ?? "single"}
        onChange={(chosen) => put({ glass: chosen })}
        options={[
          ["none", "no glass: outside"],
          ["single", "single pane"],
          ["double", "double pane"],
          ["uv-filter", "filters ultraviolet"],
        ]}
      />
      <ChoiceField
        label="Sky"
        value={value.sky ?? "mixed"}
        onChange={(chosen) => onChange({ ...value, sky: chosen })}
        options={["clear", "mixed", "overcast"]}
      />
      {number("Tilt, ° (90 upright)", window?.tilt_deg, (tilt_deg) => put({ tilt_deg }))}
      {number("Stands before it, ° high", window?.horizon_deg, (horizon_deg) => put({ horizon_deg }))}
      {number("Away from the pane, m", window?.distance_m, (distance_m) => put({ distance_m }))}
      <SunShare start={value.sun_share ?? []} onTake={(sun_share) => onChange({ ...value, sun_share })} />
      <FormControlLabel
        control={<Checkbox checked={window?.curtain ?? false} onChange={(_, on) => put({ curtain: on })} />}
        label="A sheer curtain before them"
      />
    </Box>
  );
}

const sharesOf = (text: string) =>
  text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((one) => (typedNumber(one.replace(/,$/, "")) ?? NaN) / 100);

/** How much of the time the sun shines: one share, or one for each month. */
function SunShare({ start, onTake }: { start: readonly number[]; onTake: (shares: number[]) => void }) {
  const [text, setText] = useState(start.map((one) => Math.round(100 * one)).join(" "));
  const sound = (shares: readonly number[]) =>
    shares.every((one) => one >= 0 && one <= 1) && [0, 1, 12].includes(shares.length);
  const wrong = !sound(sharesOf(text));
  return (
    <TextField
      label="Share of sun, %"
      value={text}
      error={wrong}
      helperText={wrong ? "One number from 0 to 100, or twelve with spaces between." : "one, or twelve for the months"}
      onChange={(event) => {
        setText(event.target.value);
        const shares = sharesOf(event.target.value);
        if (sound(shares)) onTake(shares);
      }}
      sx={{ gridColumn: { sm: "span 2" } }}
    />
  );
}
