import Button from "@mui/material/Button";

import { answered, api } from "../api/client";
import { useChange } from "../api/hooks";
import { ProblemNote } from "../shell/said";

/** Takes this plan as the start of the next study. */
export function CopyStudy({ id, onCopied }: { id: number; onCopied: (id: number) => void }) {
  const copy = useChange(
    () => answered(api.POST("/api/studies/{study_id}/copy", { params: { path: { study_id: id } } })),
    "studies",
  );
  return (
    <>
      <ProblemNote error={copy.error} />
      <Button
        variant="outlined"
        sx={{ mt: 2, mr: 1 }}
        disabled={copy.isPending}
        onClick={() => copy.mutate(undefined, { onSuccess: (made) => onCopied(made.id) })}>
        Copy as the next study
      </Button>
    </>
  );
}
