import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { answered, api } from "../api/client";
import { useChange } from "../api/hooks";
import { ProblemNote } from "../shell/said";
import { offerUndo } from "../shell/undo-bar";

/** Takes a study off the list; an undo is offered at once, and nothing in it is destroyed. */
export function DeleteStudy({ id, name, onGone }: { id: number; name: string; onGone: () => void }) {
  const at = { params: { path: { study_id: id } } };
  const remove = useChange(() => answered(api.DELETE("/api/studies/{study_id}", at)), "studies");
  return (
    <Box sx={{ py: 2 }}>
      <ProblemNote error={remove.error} />
      <Button
        onClick={() =>
          remove.mutate(undefined, {
            onSuccess: () => {
              offerUndo(`“${name}” is off the list.`, () => answered(api.POST("/api/studies/{study_id}/restore", at)));
              onGone();
            },
          })
        }>
        Take this study off the list
      </Button>
    </Box>
  );
}
