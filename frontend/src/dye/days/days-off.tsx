import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { dayWords } from "../../shell/dates";
import { DayField } from "../../shell/day-field";

interface DaysOffProps {
  /** 2026-12-24 */
  days: readonly string[];
  onChange: (days: string[]) => void;
}

/** Days on which nobody works. */
export function DaysOff({ days, onChange }: DaysOffProps) {
  const [day, setDay] = useState("");
  const add = () => {
    onChange([...new Set([...days, day])].sort());
    setDay("");
  };
  return (
    <Box role="group" aria-label="Days off">
      <Box sx={{ display: "flex", gap: 1, alignItems: "flex-start" }}>
        <DayField label="A day off" value={day} onChange={setDay} />
        <Button variant="outlined" disabled={day === "" || days.includes(day)} onClick={add}>
          Add
        </Button>
      </Box>
      {days.map((one) => (
        <Box key={one} sx={{ display: "flex", alignItems: "center", fontSize: 13 }}>
          <Box sx={{ flex: 1 }}>{dayWords(one)}</Box>
          <Button
            size="small"
            sx={{ minHeight: 28, p: 0 }}
            aria-label={`Work on ${dayWords(one)}`}
            onClick={() => onChange(days.filter((each) => each !== one))}>
            take out
          </Button>
        </Box>
      ))}
    </Box>
  );
}
