import TextField from "@mui/material/TextField";
import { useState } from "react";

interface LateFieldProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  multiline?: boolean;
  number?: boolean;
}

/** A field that hands on what was typed when it is left, or on Enter; it shows it until it is kept. */
export function LateField({ label, value, onChange, multiline = false, number = false }: LateFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [handedOn, setHandedOn] = useState<string | null>(null);
  const [kept, setKept] = useState(value);
  if (value !== kept) {
    setKept(value);
    setTyped(null);
    setHandedOn(null);
  }
  const done = (again = false) => {
    if (typed === null) return;
    if (typed === value || (number && typed.trim() === "")) setTyped(null);
    else if (again || typed !== handedOn) {
      setHandedOn(typed);
      onChange(typed);
    }
  };
  return (
    <TextField
      label={label}
      value={typed ?? value}
      multiline={multiline}
      type={number ? "number" : "text"}
      slotProps={{ htmlInput: number ? { step: "any" } : {} }}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => done()}
      onKeyDown={(event) => {
        if (event.key === "Enter" && !multiline) done(true);
      }}
    />
  );
}
