import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogTitle from "@mui/material/DialogTitle";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Photo, StudyView } from "../api/client";
import { useChange, usePhotoQuestions } from "../api/hooks";
import { ProblemNote } from "../shell/said";
import { Accepting } from "./accepting";
import { CellDetail } from "./cell-detail";
import { CellList } from "./cell-list";
import type { Colours } from "./colours";
import { JoinPhotos } from "./join-photos";
import { MarkedPhoto } from "./marked-photo";
import { useWanted } from "./wanted-cells";
import type { Cell } from "./wanted-cells";

interface PhotoReviewProps {
  study: StudyView;
  photo: Photo;
  colours: Colours;
  onClose: () => void;
}

/** Areas are numbered in the order in which they were drawn. */
const nextArea = (photo: Photo) => String(1 + Math.max(0, ...photo.measurement.cells.map((one) => Number(one.cell))));
const newArea = (cell: string): Cell => ({ cell, status: "empty", flags: [], outline_px: [], zones: [] });

/** The photo with what was found drawn on it; each cell large beside it, to be looked at, corrected and accepted. */
export function PhotoReview({ study, photo, colours, onClose }: PhotoReviewProps) {
  const [chosen, setChosen] = useState<string | null>(null);
  const asked = usePhotoQuestions(photo.id, photo.measurement_id);
  const wanted = useWanted(photo);
  const discard = useChange(
    (discarded: boolean) =>
      answered(
        api.POST("/api/photos/{photo_id}/discard", { params: { path: { photo_id: photo.id } }, body: { discarded } }),
      ),
    { study: study.id },
  );
  const calibration = photo.measurement.calibration;
  const noSheet = photo.sheet.sheet.kind === "none";
  const cell =
    photo.measurement.cells.find((one) => one.cell === chosen) ??
    (noSheet && chosen !== null ? newArea(chosen) : undefined);
  // On a phone there is no room for a bar that stays: accepting comes after the pieces.
  const narrow = useMediaQuery("(max-width: 899px)");
  const accepting = photo.accepted ? (
    <Box sx={{ flex: 1 }}>Accepted: its readings are kept.</Box>
  ) : (
    <Accepting
      key={photo.measurement_id}
      study={study}
      photo={photo}
      colours={colours}
      cells={wanted.cells}
      zones={wanted.zones}
      lies={wanted.lies}
      onDone={onClose}
    />
  );
  return (
    <Dialog open onClose={onClose} fullScreen aria-label={`Photo ${photo.filename}`}>
      <DialogTitle sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center", py: 1 }}>
        <Box sx={{ flex: { xs: "1 0 100%", md: 1 }, overflowWrap: "anywhere" }}>
          {photo.filename} · {noSheet ? "a chart, and areas drawn by hand" : `sheet ${photo.sheet.sheet.id}`}
        </Box>
        <Button onClick={() => discard.mutate(!photo.discarded)} disabled={discard.isPending}>
          {photo.discarded ? "Bring the photo back" : "Set the photo aside"}
        </Button>
        <Button variant="outlined" color="secondary" onClick={onClose}>
          Close
        </Button>
      </DialogTitle>
      <Box
        sx={{
          flex: 1,
          minHeight: 0,
          overflowY: "auto",
          display: "flex",
          flexDirection: { xs: "column", md: "row" },
          gap: 2,
          px: 2,
        }}>
        <Box sx={{ flex: 3, minWidth: 0, position: { md: "sticky" }, top: 0, alignSelf: "flex-start" }}>
          <MarkedPhoto photo={photo} chosen={chosen} onChoose={setChosen} />
          {calibration.warnings?.map((warning) => (
            <Box key={warning} role="note" sx={{ fontSize: 13, borderLeft: 6, pl: 1, mt: 1 }}>
              {warning}
            </Box>
          ))}
          {!noSheet && <JoinPhotos photo={photo} />}
          <Box component="details" sx={{ fontSize: 13, mt: 1 }}>
            <summary>How the colours were worked out</summary>
            Correction: {calibration.model}. Chart patches, each predicted without itself: mean{" "}
            {calibration.residual_de00.mean.toFixed(2)}, worst {calibration.residual_de00.max.toFixed(2)} ΔE00.{" "}
            {calibration.camera && `Camera: ${calibration.camera}.`}{" "}
            {calibration.taught &&
              `Taught by ${calibration.taught.swatches} swatches: swatches left out are off by ${calibration.taught.after_de00.toFixed(2)} instead of ${calibration.taught.before_de00.toFixed(2)} ΔE00.`}
          </Box>
          <ProblemNote error={discard.error} />
        </Box>
        <Box sx={{ flex: 2, minWidth: { md: 420 } }}>
          {cell ? (
            <CellDetail
              key={`${photo.measurement_id} ${cell.cell}`}
              study={study}
              photo={photo}
              cell={cell}
              colours={colours}
              wanted={wanted}
              asked={asked.data ?? []}
              onBack={() => setChosen(null)}
            />
          ) : (
            <>
              {noSheet && !photo.accepted && (
                <Button variant="contained" sx={{ mb: 1 }} onClick={() => setChosen(nextArea(photo))}>
                  Draw an area
                </Button>
              )}
              <CellList
                study={study}
                photo={photo}
                colours={colours}
                wanted={wanted}
                asked={asked.data ?? []}
                onChoose={setChosen}
              />
            </>
          )}
          {narrow && <Box sx={{ py: 2 }}>{accepting}</Box>}
        </Box>
      </Box>
      {!narrow && <DialogActions sx={{ flexWrap: "wrap", gap: 1, px: 2, pb: 1.5, pt: 1 }}>{accepting}</DialogActions>}
    </Dialog>
  );
}
