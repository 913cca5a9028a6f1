import Box from "@mui/material/Box";

import type { Schema } from "../api/client";

const SHOWN = 12;

/** What in a table cannot be, by row and column. */
export function TableFaults({ faults }: { faults: readonly Schema["Fault"][] }) {
  if (faults.length === 0) return null;
  return (
    <Box role="alert" sx={{ border: 1, borderColor: "error.main", borderLeftWidth: 6, p: 1.25, my: 1.5 }}>
      <strong>
        {faults.length === 1
          ? "One cell cannot be entered as it is."
          : `${faults.length} cells cannot be entered as they are.`}
      </strong>
      <div>
        Put them right in the file and choose it again, or leave a column out. Nothing is entered until all is right.
      </div>
      <Box component="ul" sx={{ my: 0.5, pl: 2.5 }}>
        {faults.slice(0, SHOWN).map((fault) => (
          <li key={fault.field + fault.given}>
            {fault.field}: “{fault.given}”. Wanted: {fault.allowed}
          </li>
        ))}
      </Box>
      {faults.length > SHOWN && <div>and {faults.length - SHOWN} more</div>}
    </Box>
  );
}
