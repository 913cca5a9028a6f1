import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "@mui/material/Link";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { GridCell, Photo, StudyView } from "../api/client";
import { useChange, usePhotos, useSheets, useTrials } from "../api/hooks";
import { codesIn } from "../grid/cells";
import { Awaited, Part, ProblemNote } from "../shell/said";
import { ChosenReadings } from "./chosen-readings";
import type { Colours } from "./colours";
import { AcceptClear } from "./accept-clear";
import { PhotoDrop } from "./photo-drop";
import { PhotoReview } from "./photo-review";
import { ReadAgain } from "./read-again";

interface ReadPanelProps {
  study: StudyView;
  chosen: readonly GridCell[];
  colours: Colours;
  /** Which kind of state the grid shows; null: the newest that was read. */
  state: string | null;
  setState: (state: string | null) => void;
}

export function ReadPanel({ study, chosen, colours, state, setState }: ReadPanelProps) {
  const photos = usePhotos(study.id);
  const [reviewed, setReviewed] = useState<number | null>(null);
  const codes = codesIn(chosen);
  const waiting = photos.data?.filter((photo) => !photo.accepted && !photo.discarded) ?? [];
  const taken = photos.data?.filter((photo) => photo.accepted && !photo.discarded) ?? [];
  const aside = photos.data?.filter((photo) => photo.discarded) ?? [];
  const looked = photos.data?.find((photo) => photo.id === reviewed);
  return (
    <>
      {colours.kinds.length > 1 && (
        <Box sx={{ pt: 1.5 }}>
          <TextField select label="Shown in the grid" value={state ?? ""} onChange={(event) => setState(event.target.value || null)} slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}>
            <MenuItem value="">the newest state that was read</MenuItem>
            {colours.kinds.map(([kind, words]) => (
              <MenuItem key={kind} value={kind}>
                {words}
              </MenuItem>
            ))}
          </TextField>
        </Box>
      )}
      {codes.length > 0 && <ChosenReadings study={study} codes={codes} colours={colours} />}
      <Part title="1. Print the sheets">
        <Sheets study={study} codes={codes} />
      </Part>
      <Part title="2. Drop the photos">
        <PhotoDrop study={study.id} />
      </Part>
      <Part title={`3. Look and accept${waiting.length ? `: ${waiting.length} waiting` : ""}`}>
        <Awaited query={photos}>
          {() => (
            <>
              {waiting.length === 0 && <div>No photo waits to be accepted.</div>}
              <AcceptClear study={study.id} waiting={waiting.length} />
              {waiting.map((photo) => (
                <PhotoLine key={photo.id} photo={photo} onOpen={setReviewed} primary />
              ))}
              {taken.length > 0 && (
                <Box component="details" sx={{ mt: 1 }}>
                  <summary>{taken.length === 1 ? "1 accepted photo" : `${taken.length} accepted photos`}</summary>
                  {taken.map((photo) => (
                    <PhotoLine key={photo.id} photo={photo} onOpen={setReviewed} />
                  ))}
                  <ReadAgain photos={taken} />
                </Box>
              )}
              {aside.length > 0 && (
                <Box component="details" sx={{ mt: 1 }}>
                  <summary>{aside.length === 1 ? "1 photo set aside" : `${aside.length} photos set aside`}</summary>
                  {aside.map((photo) => (
                    <PhotoLine key={photo.id} photo={photo} onOpen={setReviewed} />
                  ))}
                </Box>
              )}
            </>
          )}
        </Awaited>
      </Part>
      {looked && <PhotoReview study={study} photo={looked} colours={colours} onClose={() => setReviewed(null)} />}
    </>
  );
}

function PhotoLine(props: { photo: Photo; onOpen: (photo: number) => void; primary?: boolean }) {
  const { photo } = props;
  const measured = photo.measurement.cells.filter((cell) => cell.status === "measured").length;
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1, py: 0.5 }}>
      <Box sx={{ flex: 1, fontSize: 13, minWidth: 0, overflowWrap: "anywhere" }}>
        {photo.filename} · sheet {photo.sheet.sheet.id} · {measured} measured
      </Box>
      <Button
        variant={props.primary ? "contained" : "text"}
        size="small"
        onClick={() => props.onOpen(photo.id)}
      >
        Look
      </Button>
    </Box>
  );
}

function Sheets({ study, codes }: { study: StudyView; codes: readonly string[] }) {
  const sheets = useSheets(study.id);
  const trials = useTrials(study.id);
  const lay = useChange((swatches: string[]) =>
    answered(
      api.POST("/api/studies/{study_id}/sheets", {
        params: { path: { study_id: study.id } },
        body: { cells_per_page: 12, swatches },
      }),
    ),
  );
  const laid = new Set(
    sheets.data?.filter((one) => !one.trial).flatMap((one) => one.assignments.map((a) => a.swatch)),
  );
  const there = [...study.swatches, ...study.guests.map((guest) => guest.swatch)];
  const missing = there.filter((swatch) => !laid.has(swatch.code)).length;
  return (
    <Awaited query={sheets}>
      {(pages) => (
        <>
          {missing > 0 && (
            <Button variant="contained" disabled={lay.isPending} onClick={() => lay.mutate([])}>
              Lay out sheets for {missing} swatches
            </Button>
          )}
          {codes.length > 0 && codes.every((code) => laid.has(code)) && (
            <Button variant="outlined" disabled={lay.isPending} onClick={() => lay.mutate([...codes])}>
              Lay out {codes.length === 1 ? "a sheet for the selected one" : `sheets for the ${codes.length} selected`}
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
                  {trials.data?.find((trial) => trial.id === page.trial)?.plan.name ?? "Whole swatches"} page {page.page}
                </Link>
              ))}
              <Box sx={{ flexBasis: "100%", color: "text.secondary" }}>
                The same pages serve before and after a further bath: each reading belongs to the state of its day. Select swatches
                to lay out sheets for them alone.
              </Box>
            </Box>
          )}
        </>
      )}
    </Awaited>
  );
}
