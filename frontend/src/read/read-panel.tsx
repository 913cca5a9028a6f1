import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "@mui/material/Link";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Cell, Photo, Reading, StudyView } from "../api/client";
import { useChange, usePhotos, useSheets, useTrials } from "../api/hooks";
import { cellWords } from "../grid/axes";
import { Chip } from "../grid/chip";
import { dayWords } from "../shell/dates";
import { Awaited, Part, ProblemNote } from "../shell/said";
import { PhotoDrop } from "./photo-drop";
import { PhotoReview } from "./photo-review";

interface ReadPanelProps {
  study: StudyView;
  chosen: readonly Cell[];
  readings: readonly Reading[];
}

export function ReadPanel({ study, chosen, readings }: ReadPanelProps) {
  const photos = usePhotos(study.id);
  const [reviewed, setReviewed] = useState<Photo | null>(null);
  const waiting = photos.data?.filter((photo) => !photo.accepted) ?? [];
  const taken = photos.data?.filter((photo) => photo.accepted) ?? [];
  return (
    <>
      {chosen.length > 0 && <ChosenReadings study={study} chosen={chosen} readings={readings} />}
      <Part title="1. Print the sheets">
        <Sheets study={study} />
      </Part>
      <Part title="2. Drop the photos">
        <PhotoDrop study={study.id} />
      </Part>
      <Part title={`3. Look and accept${waiting.length ? `: ${waiting.length} waiting` : ""}`}>
        <Awaited query={photos}>
          {() => (
            <>
              {waiting.length === 0 && <div>No photo waits to be accepted.</div>}
              {waiting.map((photo) => (
                <PhotoLine key={photo.id} photo={photo} onOpen={setReviewed} primary />
              ))}
              {taken.length > 0 && (
                <Box component="details" sx={{ mt: 1 }}>
                  <summary>{taken.length} accepted photos</summary>
                  {taken.map((photo) => (
                    <PhotoLine key={photo.id} photo={photo} onOpen={setReviewed} />
                  ))}
                </Box>
              )}
            </>
          )}
        </Awaited>
      </Part>
      {reviewed && (
        <PhotoReview study={study} photo={reviewed} onClose={() => setReviewed(null)} />
      )}
    </>
  );
}

function PhotoLine(props: { photo: Photo; onOpen: (photo: Photo) => void; primary?: boolean }) {
  const { photo } = props;
  const measured = photo.measurement.cells?.filter((cell) => cell.status === "measured").length ?? 0;
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1, py: 0.5 }}>
      <Box sx={{ flex: 1, fontSize: 13, minWidth: 0, overflowWrap: "anywhere" }}>
        {photo.filename} · sheet {photo.sheet.sheet.id} · {measured} measured
      </Box>
      <Button
        variant={props.primary ? "contained" : "text"}
        size="small"
        onClick={() => props.onOpen(photo)}
      >
        Look
      </Button>
    </Box>
  );
}

function Sheets({ study }: { study: StudyView }) {
  const sheets = useSheets(study.id);
  const trials = useTrials(study.id);
  const lay = useChange(() =>
    answered(
      api.POST("/api/studies/{study_id}/sheets", {
        params: { path: { study_id: study.id } },
        body: { cells_per_page: 12 },
      }),
    ),
  );
  const laid = new Set(
    sheets.data?.filter((one) => !one.trial).flatMap((one) => one.assignments.map((a) => a.swatch)),
  );
  const missing = Object.keys(study.ties).filter((key) => !laid.has(study.codes[key] ?? "")).length;
  return (
    <Awaited query={sheets}>
      {(pages) => (
        <>
          {missing > 0 && (
            <Button variant="contained" disabled={lay.isPending} onClick={() => lay.mutate(undefined)}>
              Lay out sheets for {missing} swatches
            </Button>
          )}
          <ProblemNote error={lay.error} />
          {pages.length > 0 && (
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1, fontSize: 13 }}>
              {pages.map((page) => (
                <Link
                  key={page.sheet.id}
                  href={`/api/sheets/${page.sheet.id}.pdf`}
                  target="_blank"
                  rel="noreferrer"
                  color="inherit"
                >
                  {trials.data?.find((trial) => trial.id === page.trial)?.plan.name ?? "As dyed"} page{" "}
                  {page.page}
                </Link>
              ))}
            </Box>
          )}
        </>
      )}
    </Awaited>
  );
}

function ChosenReadings({ study, chosen, readings }: ReadPanelProps) {
  const shown = chosen.slice(0, 6);
  return (
    <Part title={`${chosen.length} selected`}>
      {shown.map((cell) => {
        const own = readings.filter((one) => one.cell === cell.key && one.piece === "whole");
        const newest = own.at(-1);
        return (
          <Box key={cell.key} sx={{ display: "flex", gap: 1.5, mb: 1 }}>
            <Chip fills={newest ? [newest.hex] : []} width={64} height={52} />
            <Box sx={{ fontSize: 13 }}>
              <strong>{study.codes[cell.key] ?? "left out"}</strong> {cellWords(study.plan, cell)}
              {newest ? (
                <>
                  <div>
                    L* {newest.lab[0].toFixed(1)} · a* {newest.lab[1].toFixed(1)} · b*{" "}
                    {newest.lab[2].toFixed(1)} · ±{newest.uncertainty_de00.toFixed(1)} ΔE00
                  </div>
                  <div>
                    {newest.colour_words} · levelness {newest.levelness_de00.toFixed(1)} ·{" "}
                    {dayWords(newest.taken_on)}
                    {own.length > 1 && ` · ${own.length} readings`}
                    {newest.flags.length > 0 && ` · ${newest.flags.join(", ")}`}
                  </div>
                </>
              ) : (
                <div>not read yet</div>
              )}
            </Box>
          </Box>
        );
      })}
      {chosen.length > shown.length && <div>and {chosen.length - shown.length} more</div>}
    </Part>
  );
}
