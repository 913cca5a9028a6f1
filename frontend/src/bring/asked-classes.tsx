import Box from "@mui/material/Box";

import type { Schema } from "../api/client";
import { ChoiceField } from "../shell/choice-field";

export type FibreClass = Schema["Fibre"]["fibre_class"];
const CLASSES: FibreClass[] = ["protein", "cellulose", "regenerated cellulose", "synthetic", "polyamide"];

interface AskedClassesProps {
  asked: readonly string[];
  said: Record<string, FibreClass>;
  onSay: (said: Record<string, FibreClass>) => void;
}

/** Fibres whose names do not tell what they are made of. */
export function AskedClasses({ asked, said, onSay }: AskedClassesProps) {
  const names = [...new Set([...asked, ...Object.keys(said)])];
  if (names.length === 0) return null;
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, my: 1.5, alignItems: "center" }}>
      <span>What are these made of?</span>
      {names.map((name) => (
        <ChoiceField
          key={name}
          label={name}
          value={said[name] ?? ""}
          onChange={(chosen) => onSay({ ...said, [name]: chosen })}
          sx={{ width: 260 }}
          options={CLASSES}
        />
      ))}
    </Box>
  );
}
