import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { answered, api } from "../api/client";
import type { StudyView } from "../api/client";
import { useChange } from "../api/hooks";
import { cellWords } from "../grid/cells";
import { counted } from "../shell/counted";
import { Part, ProblemNote } from "../shell/said";

const NAMED = 6;

/** The places that stand open, by name, and one press that plans a new piece for each of them. */
export function OpenPlaces({ study }: { study: StudyView }) {
  const again = useChange(
    () => answered(api.POST("/api/studies/{study_id}/dye/make-again", { params: { path: { study_id: study.id } } })),
    "studies",
    { study: study.id },
  );
  const lacking = study.grid.cells.filter((cell) => cell.lacks > 0);
  const pieces = lacking.reduce((sum, cell) => sum + cell.lacks, 0);
  if (pieces === 0)
    return again.data ? (
      <Box role="status" sx={{ my: 1 }}>
        {again.data.swatches.join(" ")} {again.data.swatches.length === 1 ? "goes" : "go"} into{" "}
        {again.data.vessels.join(", ")}, filled as before.
      </Box>
    ) : null;
  const names = lacking.map((cell) => `${cellWords(study, cell)}${cell.lacks > 1 ? ` (${cell.lacks})` : ""}`);
  return (
    <Part title={pieces === 1 ? "1 place stands open" : `${pieces} places stand open`}>
      {names.slice(0, NAMED).map((name) => (
        <div key={name}>{name}</div>
      ))}
      {names.length > NAMED && <div>and {names.length - NAMED} more</div>}
      <Button
        variant="contained"
        sx={{ minHeight: 48, mt: 1 }}
        disabled={again.isPending}
        onClick={() => again.mutate(undefined)}>
        Dye {counted(pieces, "new piece")}
      </Button>
      <ProblemNote error={again.error} />
    </Part>
  );
}
