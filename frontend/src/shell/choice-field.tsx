import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import type { TextFieldProps } from "@mui/material/TextField";
import type { ReactNode } from "react";

/** What can be chosen; with other words than its own where they stand beside it. */
export type Option<Value> = Value | readonly [Value, ReactNode];

interface ChoiceFieldProps<Value extends string | number> extends Omit<
  TextFieldProps,
  "select" | "value" | "onChange" | "children"
> {
  /** Empty while nothing is chosen. */
  value: string | number;
  options: readonly Option<Value>[];
  onChange: (value: Value) => void;
}

/** A field that takes one of what is offered. */
export function ChoiceField<Value extends string | number>({
  value,
  options,
  onChange,
  ...field
}: ChoiceFieldProps<Value>) {
  const offered = options.map((option) => (typeof option === "object" ? option : ([option, option] as const)));
  const choose = (said: string) => {
    const chosen = offered.find(([one]) => String(one) === said);
    if (chosen) onChange(chosen[0]);
  };
  return (
    <TextField {...field} select value={value} onChange={(event) => choose(String(event.target.value))}>
      {offered.map(([one, words]) => (
        <MenuItem key={one} value={one}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
}
