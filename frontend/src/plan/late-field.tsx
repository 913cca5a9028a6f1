import TextField from "@mui/material/TextField";
import { useState } from "react";

interface LateFieldProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  multiline?: boolean;
  number?: boolean;
}

/** A field that hands on what was typed when it is left, or on Enter. */
export function LateField({ label, value, onChange, multiline = false, number = false }: LateFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const done = () => {
    setTyped(null);
    if (typed !== null && typed !== value && !(number && typed.trim() === "")) onChange(typed);
  };
  return (
    <TextField
      label={label}
      value={typed ?? value}
      multiline={multiline}
      type={number ? "number" : "text"}
      slotProps={{ htmlInput: number ? { step: "any" } : {} }}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key === "Enter" && !multiline) done();
      }}
    />
  );
}
