import Box from "@mui/material/Box";

import type { TrialView } from "../api/client";
import { ColumnNames, DataTable } from "../shell/data-table";

/** How white neighbours were stained at the last stage, fibre by fibre. */
export function StainTable({ trial, codes }: { trial: TrialView; codes: readonly string[] }) {
  const stains = trial.stains;
  if (stains.length === 0) return null;
  const last = Math.max(...stains.map((one) => one.stage));
  const own = stains.filter((one) => one.stage === last);
  const fibres = [...trial.plan.neighbours];
  return (
    <Box component="section" aria-label="Staining of white neighbours" sx={{ mt: 3 }}>
      <Box component="h2" sx={{ fontSize: 16 }}>
        Staining of white neighbours, {trial.state.stages[last]?.plan.label}
      </Box>
      <DataTable
        name="staining"
        sx={{
          borderCollapse: "collapse",
          fontSize: 13,
          "& th, & td": { textAlign: "left", p: 0.5, borderBottom: 1, borderColor: "divider" },
        }}>
        <ColumnNames names={["Swatch", ...fibres]} />
        <tbody>
          {codes
            .filter((code) => own.some((one) => one.swatch === code))
            .map((code) => (
              <tr key={code}>
                <th scope="row">{code}</th>
                {fibres.map((fibre) => {
                  const stain = own.find(
                    (one) => one.swatch === code && (one.neighbour === fibre || fibres.length === 1),
                  );
                  return (
                    <td key={fibre}>
                      {stain && (
                        <Box sx={{ display: "flex", gap: 0.75, alignItems: "center" }}>
                          <Box sx={{ display: "flex", width: 52, height: 30 }} aria-hidden>
                            <Box sx={{ flex: 1, bgcolor: stain.clean_hex }} />
                            <Box sx={{ flex: 1, bgcolor: stain.hex }} />
                          </Box>
                          {stain.distinguishable ? stain.rating_words : `≈ ${stain.rating_words}`}
                        </Box>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
        </tbody>
      </DataTable>
      <Box sx={{ fontSize: 12, color: "text.secondary", mt: 0.5 }}>
        Clean | after; rated by ISO 105-A04, 5 is clean.
      </Box>
    </Box>
  );
}
