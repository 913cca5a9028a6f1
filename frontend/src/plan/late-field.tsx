import TextField from "@mui/material/TextField";
import { useState } from "react";

import { NO_NUMBER, fieldUnit } from "../settings/field-unit";

interface LateFieldProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  multiline?: boolean;
  /** What is wrong with what is typed; then it is not handed on. */
  faultOf?: (typed: string) => string;
}

/** A field that hands on what was typed when it is left, or on Enter; it shows it until it is kept. */
export function LateField({ label, value, onChange, multiline = false, faultOf }: LateFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [handedOn, setHandedOn] = useState<string | null>(null);
  const [kept, setKept] = useState(value);
  if (value !== kept) {
    setKept(value);
    setTyped(null);
    setHandedOn(null);
  }
  const fault = typed === null ? "" : (faultOf?.(typed) ?? "");
  const done = (again = false) => {
    if (typed === null || fault) return;
    if (typed === value) setTyped(null);
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
      error={fault !== ""}
      helperText={fault}
      slotProps={{ htmlInput: faultOf ? { inputMode: "decimal" } : {} }}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => done()}
      onKeyDown={(event) => {
        if (event.key === "Enter" && !multiline) done(true);
      }}
    />
  );
}

interface LateNumberProps {
  /** Ends with the unit in which it is stored, if it has one. */
  label: string;
  value: number | null;
  digits?: number;
  onTake: (value: number) => void;
  /** Empty is allowed, and means null. */
  onNone?: () => void;
}

/** The same for a number or a quantity, in the person's unit. */
export function LateNumber({ label, value, digits, onTake, onNone }: LateNumberProps) {
  const unit = fieldUnit(label);
  const faultOf = (typed: string) => {
    const read = unit.stored(typed);
    const sound = read === null ? onNone !== undefined : Number.isFinite(read);
    return sound ? "" : NO_NUMBER;
  };
  const take = (typed: string) => {
    const read = unit.stored(typed);
    if (read === null) onNone?.();
    else onTake(read);
  };
  return (
    <LateField
      label={unit.label}
      value={value === null ? "" : digits === undefined ? unit.typed(value) : value.toFixed(digits)}
      faultOf={faultOf}
      onChange={take}
    />
  );
}
