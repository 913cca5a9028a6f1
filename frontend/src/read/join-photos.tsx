import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { answered, api } from "../api/client";
import type { Photo } from "../api/client";
import { useChange, usePhotos } from "../api/hooks";
import { ProblemNote } from "../shell/said";

/** Other photos of the same sheet, to be read together with this one: another lamp tells what one alone cannot. */
export function JoinPhotos({ photo }: { photo: Photo }) {
  const photos = usePhotos(photo.study);
  const join = useChange(
    (others: number[]) =>
      answered(
        api.POST("/api/photos/{photo_id}/measure", {
          params: { path: { photo_id: photo.id } },
          body: { cells: [], join: others },
        }),
      ),
    { study: photo.study },
  );
  const others = (photos.data ?? []).filter(
    (one) =>
      one.id !== photo.id &&
      one.sheet === photo.sheet.sheet.id &&
      !one.accepted &&
      !one.discarded &&
      (one.taken_on === photo.taken_on || !one.taken_on || !photo.taken_on),
  );
  const joined = photo.measurement.photos ?? [];
  if (joined.length > 1)
    return (
      <Box sx={{ fontSize: 13, mt: 1 }}>
        Read together from {joined.map((one) => one.name).join(", ")}:{" "}
        {new Set(joined.map((one) => one.light)).size === 1 ? "one light" : "different lights"}.
      </Box>
    );
  if (photo.accepted) return null;
  return (
    <Box sx={{ fontSize: 13, mt: 1 }}>
      {others.length > 0 ? (
        <Button
          variant="outlined"
          color="secondary"
          disabled={join.isPending}
          onClick={() => join.mutate(others.map((one) => one.id))}>
          Read together with {others.length === 1 ? others[0]?.filename : `${others.length} other photos of this sheet`}
        </Button>
      ) : (
        "Colours that differ under a lamp only: leave the sheet as it is, change the lamp, take it again and drop that photo too. Both can then be read together."
      )}
      <ProblemNote error={join.error} />
    </Box>
  );
}
