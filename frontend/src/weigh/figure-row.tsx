import Box from "@mui/material/Box";
import { useState } from "react";
import { inMyUnits } from "../settings/quantities";

interface FigureRowProps {
  name: string;
  value: string;
  working: string;
  source?: string;
}

/** An amount that opens to its working. */
export function FigureRow({ name, value, working, source }: FigureRowProps) {
  const [open, setOpen] = useState(false);
  return (
    <Box>
      <Box
        component="button"
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        sx={{
          width: "100%",
          minHeight: 34,
          display: "flex",
          gap: 1,
          alignItems: "center",
          border: 0,
          p: 0,
          bgcolor: "transparent",
          color: "inherit",
          font: "inherit",
          textAlign: "left",
          cursor: "pointer",
        }}>
        <Box sx={{ width: 12, flex: "none" }}>{open ? "−" : "+"}</Box>
        <Box sx={{ flex: "1 1 42%" }}>{inMyUnits(name)}</Box>
        <Box component="strong" sx={{ textAlign: "right", flex: "0 1 auto", maxWidth: "58%" }}>
          {inMyUnits(value)}
        </Box>
      </Box>
      {open && (
        <Box sx={{ pl: 2.5, pb: 1, fontSize: 13 }}>
          <div>{inMyUnits(working)}</div>
          {source && <Box sx={{ color: "text.secondary" }}>{source}</Box>}
        </Box>
      )}
    </Box>
  );
}
