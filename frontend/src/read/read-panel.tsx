import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Link from "@mui/material/Link";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { GridCell, Schema, StudyView } from "../api/client";
import { useChange, usePhoto, usePhotos, useSheets, useShelf, useTrials } from "../api/hooks";
import { ChoiceField } from "../shell/choice-field";
import { Folded } from "../shell/folded";
import { codesIn } from "../grid/cells";
import { counted } from "../shell/counted";
import { entriesOf } from "../shell/keys";
import { usePlace } from "../shell/place";
import { Awaited, Part, ProblemNote } from "../shell/said";
import { ChartSelect } from "./chart-select";
import { ChosenReadings } from "./chosen-readings";
import type { Colours } from "./colours";
import { ChartOverTime } from "../shelf/chart-over-time";
import { chooseWays, waysNow } from "../settings/ways";
import { AcceptClear } from "./accept-clear";
import { InstrumentPart } from "./instrument-part";
import { PhotoDrop } from "./photo-drop";
import { PhotoReview } from "./photo-review";
import { ReadAgain } from "./read-again";
import { TakePhotos } from "./take-photos";

type Paper = Schema["NewSheets"]["paper"];
type CellKind = Schema["NewSheets"]["kind"];
const FREE_KEY = "sheet free cell";
const CHART_KEY = "sheet chart";
type SheetKind = "twelve" | "many" | "hanks" | "large" | "window";
const SHEET_KINDS: Record<SheetKind, { words: string; kind: CellKind; cells_per_page: number }> = {
  twelve: { words: "12 cuttings to a page", kind: "cuttings", cells_per_page: 12 },
  many: { words: "24 small cuttings", kind: "cuttings", cells_per_page: 24 },
  hanks: { words: "6 hanks or long pieces", kind: "hanks", cells_per_page: 6 },
  large: { words: "one large piece", kind: "large", cells_per_page: 1 },
  window: { words: "a window, to lay on a garment", kind: "window", cells_per_page: 1 },
};

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
  const [place, go] = usePlace();
  const [reviewed, setReviewed] = useState<number | null>(null);
  const codes = codesIn(chosen);
  const waiting = photos.data?.filter((photo) => !photo.accepted && !photo.discarded) ?? [];
  const taken = photos.data?.filter((photo) => photo.accepted && !photo.discarded) ?? [];
  const aside = photos.data?.filter((photo) => photo.discarded) ?? [];
  const looked = usePhoto(reviewed).data;
  return (
    <>
      {colours.kinds.length > 1 && (
        <Box sx={{ pt: 1.5 }}>
          <ChoiceField
            label="Shown in the grid"
            value={state ?? ""}
            onChange={(chosen) => setState(chosen || null)}
            slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
            options={[
              ["", "the newest state that was read"],
              ...colours.kinds.map(([kind, words]) => [kind, words] as const),
            ]}
          />
        </Box>
      )}
      {codes.length > 0 && <ChosenReadings study={study} codes={codes} colours={colours} />}
      <Part title="1. Print the sheets">
        <Sheets study={study} codes={codes} />
      </Part>
      <Part title="2. Drop the photos">
        <PhotoDrop study={study.id} />
        <Button sx={{ mt: 1 }} onClick={() => go({ study: study.id, view: "read", part: "take" })}>
          Take them with this device
        </Button>
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
                  <Folded of={taken} at={40}>
                    {(photo) => <PhotoLine key={photo.id} photo={photo} onOpen={setReviewed} />}
                  </Folded>
                  <ReadAgain study={study.id} photos={taken} />
                  <ChartOverTime chart="" />
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
      <InstrumentPart study={study} />
      {place.part === "take" && <TakePhotos study={study} onClose={() => go({ study: study.id, view: "read" })} />}
      {reviewed !== null && looked?.id === reviewed && (
        <PhotoReview study={study} photo={looked} colours={colours} onClose={() => setReviewed(null)} />
      )}
    </>
  );
}

function PhotoLine(props: { photo: Schema["PhotoLine"]; onOpen: (photo: number) => void; primary?: boolean }) {
  const { photo } = props;
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1, py: 0.5 }}>
      <Box sx={{ flex: 1, fontSize: 13, minWidth: 0, overflowWrap: "anywhere" }}>
        {photo.filename} · {photo.sheet_kind === "none" ? "no sheet" : `sheet ${photo.sheet}`} · {photo.measured}{" "}
        measured
      </Box>
      <Button variant={props.primary ? "contained" : "text"} size="small" onClick={() => props.onOpen(photo.id)}>
        Look
      </Button>
    </Box>
  );
}

function Sheets({ study, codes }: { study: StudyView; codes: readonly string[] }) {
  const sheets = useSheets(study.id);
  const trials = useTrials(study.id);
  const [kind, setKind] = useState<SheetKind>("twelve");
  const chosen = SHEET_KINDS[kind];
  const [paper, setPaper] = useState<Paper>(waysNow().paper);
  const choosePaper = (next: Paper) => {
    chooseWays({ paper: next });
    setPaper(next);
  };
  const charts = (useShelf().data?.charts ?? []).filter((one) => !one.retired);
  const [kept, setChart] = useState(() => localStorage.getItem(CHART_KEY) ?? "");
  const chart = charts.some((one) => one.key === kept) ? kept : "";
  const chooseChart = (next: string) => {
    localStorage.setItem(CHART_KEY, next);
    setChart(next);
  };
  const [free, setFree] = useState(() => localStorage.getItem(FREE_KEY) === "yes");
  const chooseFree = (next: boolean) => {
    localStorage.setItem(FREE_KEY, next ? "yes" : "no");
    setFree(next);
  };
  const lay = useChange(
    (swatches: string[]) =>
      answered(
        api.POST("/api/studies/{study_id}/sheets", {
          params: { path: { study_id: study.id } },
          body: {
            kind: chosen.kind,
            cells_per_page: chosen.cells_per_page,
            paper,
            swatches,
            free_cells: free && chosen.cells_per_page > 1 ? 1 : 0,
            chart: chart || null,
          },
        }),
      ),
    { study: study.id },
  );
  const laid = new Set(sheets.data?.filter((one) => !one.trial).flatMap((one) => one.swatches));
  const there = [...study.swatches, ...study.guests.map((guest) => guest.swatch)];
  const missing = there.filter((swatch) => !laid.has(swatch.code)).length;
  return (
    <Awaited query={sheets}>
      {(pages) => (
        <>
          {(missing > 0 || codes.length > 0) && (
            <Box
              sx={{ display: "grid", gridTemplateColumns: charts.length ? "2fr 1fr 1.6fr" : "2fr 1fr", gap: 1, mb: 1 }}>
              <ChoiceField
                label="Cells"
                value={kind}
                onChange={setKind}
                options={entriesOf(SHEET_KINDS).map(([key, { words }]) => [key, words] as const)}
              />
              <ChoiceField label="Paper" value={paper} onChange={choosePaper} options={["A4", "Letter"]} />
              <ChartSelect label="Chart" value={chart} onChange={chooseChart} />
              {chosen.cells_per_page > 1 && (
                <FormControlLabel
                  control={<Checkbox checked={free} onChange={(_, on) => chooseFree(on)} />}
                  label="Leave a cell of each page for a control tile or another cloth"
                  sx={{ gridColumn: "1 / -1" }}
                />
              )}
            </Box>
          )}
          {missing > 0 && (
            <Button variant="contained" disabled={lay.isPending} onClick={() => lay.mutate([])}>
              Lay out sheets for {counted(missing, "swatch")}
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
              <Folded of={pages} at={40}>
                {(page) => (
                  <Link
                    key={page.id}
                    href={`/api/sheets/${page.id}.pdf`}
                    target="_blank"
                    rel="noreferrer"
                    color="inherit">
                    {trials.data?.find((trial) => trial.id === page.trial)?.plan.name ?? "Whole swatches"} page{" "}
                    {page.page}
                  </Link>
                )}
              </Folded>
              <Box sx={{ flexBasis: "100%", color: "text.secondary" }}>
                The same pages serve before and after a further bath: each reading belongs to the state of its day.
                Select swatches to lay out sheets for them alone.
              </Box>
            </Box>
          )}
        </>
      )}
    </Awaited>
  );
}
