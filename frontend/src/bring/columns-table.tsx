import Box from "@mui/material/Box";

import type { Schema } from "../api/client";
import { ChoiceField } from "../shell/choice-field";

const ROWS_SHOWN = 5;

interface ColumnsTableProps {
  table: Schema["EnteredTable"];
  /** What a column may be, with its words; the first means nothing. */
  choices: readonly (readonly [string, string])[];
  chosen: readonly string[];
  /** Choices that several columns may have. */
  shared?: readonly string[];
  onChoose: (chosen: string[]) => void;
}

/** The first rows of somebody's table, with the question above each column what it says. */
export function ColumnsTable({ table, choices, chosen, shared = [], onChoose }: ColumnsTableProps) {
  const none = choices[0]?.[0] ?? "";
  const choose = (column: number, role: string) =>
    onChoose(
      chosen.map((one, i) =>
        i === column ? role : one === role && role !== none && !shared.includes(role) ? none : one,
      ),
    );
  const more = table.rows.length - ROWS_SHOWN;
  return (
    <Box
      sx={{ overflowX: "auto", border: 1, borderColor: "divider" }}
      tabIndex={0}
      role="region"
      aria-label="Columns of the table">
      <Box
        component="table"
        sx={{
          borderCollapse: "collapse",
          fontSize: 13,
          "& td, & th": { p: 0.75, textAlign: "left", verticalAlign: "top", maxWidth: 220, overflowWrap: "anywhere" },
        }}>
        <thead>
          <tr>
            {table.headers.map((header, i) => (
              <th key={i} scope="col">
                <ChoiceField
                  size="small"
                  label={header || `Column ${i + 1}`}
                  value={chosen[i] ?? none}
                  onChange={(chosen) => choose(i, chosen)}
                  sx={{ minWidth: 132, "& .MuiInputBase-root": { fontWeight: chosen[i] === none ? 400 : 700 } }}
                  options={choices}
                />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.slice(0, ROWS_SHOWN).map((row, i) => (
            <Box component="tr" key={i} sx={{ borderTop: 1, borderColor: "divider" }}>
              {row.map((cell, j) => (
                <Box component="td" key={j} sx={{ color: chosen[j] === none ? "text.secondary" : "text.primary" }}>
                  {cell}
                </Box>
              ))}
            </Box>
          ))}
        </tbody>
      </Box>
      {more > 0 && <Box sx={{ p: 0.75, fontSize: 13, color: "text.secondary" }}>and {more} more rows</Box>}
    </Box>
  );
}
