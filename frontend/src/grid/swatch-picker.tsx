import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { StudyView } from "../api/client";
import { cellOf, cellWords } from "./cells";

interface SwatchPickerProps {
  study: StudyView;
  offered: readonly string[];
  value: readonly string[];
  onChange: (codes: string[]) => void;
  /** Swatches of other studies may be named by their codes. */
  others?: boolean;
}

/** Which swatches are meant: each can be left out, and those of other studies named by their codes. */
export function SwatchPicker({ study, offered, value, onChange, others = false }: SwatchPickerProps) {
  const [typed, setTyped] = useState("");
  const every = [...new Set([...offered, ...value])];
  const add = () => {
    const codes = typed
      .toUpperCase()
      .split(/[\s,;]+/)
      .filter(Boolean);
    onChange([...new Set([...value, ...codes])]);
    setTyped("");
  };
  const words = (code: string) => {
    const cell = cellOf(study, code);
    return cell ? cellWords(study, cell) : "of another study";
  };
  return (
    <>
      <Box
        role="group"
        aria-label="Swatches"
        sx={{ display: "flex", flexWrap: "wrap", gap: 0.75, maxHeight: 150, overflowY: "auto" }}>
        {every.map((code) => {
          const on = value.includes(code);
          return (
            <Button
              key={code}
              size="small"
              variant="outlined"
              color="secondary"
              aria-pressed={on}
              title={words(code)}
              onClick={() => onChange(on ? value.filter((one) => one !== code) : [...value, code])}
              sx={{ borderWidth: on ? 2 : 1, opacity: on ? 1 : 0.6, minHeight: 36 }}>
              {on ? "✓ " : ""}
              {code}
            </Button>
          );
        })}
      </Box>
      {others && (
        <Box sx={{ display: "flex", flexWrap: { xs: "wrap", sm: "nowrap" }, gap: 1, mt: 1.5 }}>
          <TextField
            label="Codes from other studies"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={(event) => event.key === "Enter" && add()}
          />
          <Button variant="outlined" disabled={!typed.trim()} onClick={add} sx={{ flex: "none" }}>
            Take them too
          </Button>
        </Box>
      )}
    </>
  );
}
