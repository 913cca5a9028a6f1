import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { Problem, answered, api } from "../api/client";
import type { Schema, StudyView } from "../api/client";
import { useChange, useLook, useTrials } from "../api/hooks";
import { Chip } from "../grid/chip";
import { ChoiceField } from "../shell/choice-field";
import { todayIso } from "../shell/dates";
import { DayField } from "../shell/day-field";
import { FileButton } from "../shell/file-button";
import { ProblemNote } from "../shell/said";
import { labWords } from "./colours";
import { WhatLiesHere } from "./what-lies-here";
import type { Lying } from "./what-lies-here";

type Sample = Schema["InstrumentSample"];
type Under = Schema["ViewedUnder"];
const INSTRUMENT_KEY = "instrument";
const ILLUMINANTS: Under["illuminant"][] = ["D50", "D55", "D65", "D75", "A", "C", "E", "FL2", "FL7", "FL11"];

interface InstrumentDialogProps {
  study: StudyView;
  onDone: () => void;
}

/** A file dropped or pasted, looked at sample by sample, and kept. */
export function InstrumentDialog({ study, onDone }: InstrumentDialogProps) {
  const trials = useTrials(study.id);
  const [file, setFile] = useState({ filename: "pasted", content: "" });
  const [instrument, setInstrument] = useState(() => localStorage.getItem(INSTRUMENT_KEY) ?? "");
  const [day, setDay] = useState(todayIso());
  const [under, setUnder] = useState<Partial<Under>>({});
  const [trial, setTrial] = useState("");
  const [stage, setStage] = useState("");
  const [said, setSaid] = useState<Record<string, Lying>>({});
  const body = (early = false): Schema["NewInstrumentFile"] => ({
    ...file,
    instrument: instrument.trim() || "instrument",
    measured_on: day,
    said: under.illuminant && under.observer ? { illuminant: under.illuminant, observer: under.observer } : null,
    trial: trial === "" ? null : Number(trial),
    stage: stage === "" ? null : Number(stage),
    early,
    named: Object.entries(said).map(([name, lying]) => ({ name, ...lying })),
  });
  const params = { path: { study_id: study.id } };
  const look = useLook(() => answered(api.POST("/api/studies/{study_id}/instruments/look", { params, body: body() })));
  const keep = useChange(
    (early: boolean) => answered(api.POST("/api/studies/{study_id}/instruments", { params, body: body(early) })),
    { study: study.id },
  );
  const take = async (dropped: File | undefined) => {
    if (!dropped) return;
    look.reset();
    setFile({ filename: dropped.name, content: await dropped.text() });
  };
  const samples = look.data?.samples ?? [];
  const lyingOf = (one: Sample): Lying => said[one.name] ?? { swatch: one.swatch ?? null, cloth: one.cloth ?? null };
  const wanted = samples.filter((one) => one.lab && (lyingOf(one).swatch ?? lyingOf(one).cloth));
  const apart = samples.filter((one) => !one.lab);
  const early = keep.error instanceof Problem && keep.error.code === "not-rested";
  const lightAsked =
    under.illuminant !== undefined || (look.error instanceof Problem && look.error.code === "which-light");
  const stages = trials.data?.find((one) => String(one.id) === trial)?.plan.stages ?? [];
  return (
    <>
      <DialogTitle>Readings of an instrument</DialogTitle>
      <DialogContent
        sx={{ display: "grid", gap: 1.5, alignContent: "start" }}
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault();
          void take(event.dataTransfer.files[0]);
        }}>
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center", fontSize: 13 }}>
          <FileButton
            label="Instrument file"
            accept=".txt,.csv,.tsv,.cgats,.it8,.ti3"
            color="secondary"
            onFile={(chosen) => void take(chosen)}>
            Choose a file
          </FileButton>
          <span>
            {file.content
              ? `${file.filename}, ${file.content.split("\n").length} lines`
              : "or drop it here, or paste: CGATS text, CSV of L*a*b*, XYZ or spectra, or four columns of a spreadsheet: code, L*, a*, b*. A swatch's code in the sample's name is enough."}
          </span>
        </Box>
        {samples.length === 0 && (
          <TextField
            multiline
            minRows={4}
            maxRows={8}
            label="Text of the file"
            value={file.content}
            onChange={(event) => {
              look.reset();
              setFile({ filename: "pasted", content: event.target.value });
            }}
            slotProps={{ htmlInput: { style: { fontFamily: "monospace", fontSize: 12 } } }}
          />
        )}
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" }, gap: 1 }}>
          <TextField
            label="Instrument"
            value={instrument}
            onChange={(event) => {
              setInstrument(event.target.value);
              localStorage.setItem(INSTRUMENT_KEY, event.target.value);
            }}
          />
          <DayField label="Measured on" value={day} onChange={setDay} past />
          <ChoiceField
            label="Trial"
            value={trial}
            onChange={setTrial}
            slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
            options={[
              ["", "none: whole swatches"],
              ...(trials.data ?? []).map((one) => [String(one.id), one.plan.name] as const),
            ]}
          />
          {stages.length > 0 && (
            <TextField select label="Stage" value={stage} onChange={(event) => setStage(event.target.value)}>
              {stages.map((one, i) => (
                <MenuItem key={one.label} value={String(i)}>
                  {one.label}
                </MenuItem>
              ))}
            </TextField>
          )}
          {lightAsked && (
            <>
              <ChoiceField
                label="Values are for"
                value={under.illuminant ?? ""}
                onChange={(chosen) => setUnder({ observer: "2", ...under, illuminant: chosen })}
                options={ILLUMINANTS}
              />
              <ChoiceField
                label="Observer"
                value={under.observer ?? ""}
                onChange={(chosen) => setUnder({ illuminant: "D50", ...under, observer: chosen })}
                options={[
                  ["2", "2°"],
                  ["10", "10°"],
                ]}
              />
            </>
          )}
        </Box>
        <ProblemNote error={look.error} />
        {early && keep.error instanceof Problem ? (
          <Box role="alert" sx={{ border: 2, p: 1.25 }}>
            <strong>{keep.error.message}</strong>
            <Button
              variant="outlined"
              color="secondary"
              onClick={() => keep.mutate(true, { onSuccess: onDone })}
              sx={{ ml: 1 }}>
              They are dry: keep them early
            </Button>
          </Box>
        ) : (
          <ProblemNote error={keep.error} />
        )}
        {apart.length > 0 && (
          <Box role="note" sx={{ borderLeft: 6, pl: 1, fontSize: 13 }}>
            {apart.length} {apart.length === 1 ? "sample is" : "samples are"} for {apart[0]?.given_under} and without
            spectra: they are kept, and stand apart from colours for D50, 2°, which cannot be worked out from them.
          </Box>
        )}
        <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }} aria-label="Samples">
          {samples.map((one) => (
            <Box
              component="li"
              key={`${one.name} ${one.piece}`}
              sx={{
                display: "grid",
                gridTemplateColumns: { xs: "52px 1fr", md: "52px 1fr 1fr" },
                gap: 1,
                alignItems: "center",
                py: 0.75,
                borderBottom: 1,
                borderColor: "divider",
                fontSize: 13,
              }}>
              <Chip fills={one.hex ? [one.hex] : []} width={48} height={38} />
              <Box>
                <strong>{one.name}</strong>
                {one.piece !== "whole" && ` (${one.piece})`}
                <div>
                  {one.lab
                    ? `${one.colour_words} · ${labWords(one.lab)}`
                    : one.given_lab
                      ? `${labWords(one.given_lab)} for ${one.given_under}`
                      : ""}{" "}
                  · ±{one.uncertainty_de00.toFixed(1)}
                  {one.repeats > 1 && ` · ${one.repeats} places, ${one.spread_de00?.toFixed(1)} apart`}
                  {one.wavelengths_nm && one.wavelengths_nm.length > 0 && " · with its spectrum"}
                </div>
                {one.warnings?.map((warning) => (
                  <strong key={warning}>{warning}</strong>
                ))}
              </Box>
              <WhatLiesHere
                study={study}
                label="It is"
                none="not kept as a reading"
                value={lyingOf(one)}
                onChange={(lying) => setSaid((old) => ({ ...old, [one.name]: lying }))}
              />
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onDone}>Cancel</Button>
        {samples.length === 0 ? (
          <Button variant="contained" disabled={!file.content.trim() || look.isPending} onClick={() => look.mutate()}>
            Look at it
          </Button>
        ) : (
          <Button
            variant="contained"
            disabled={keep.isPending || (wanted.length === 0 && apart.length === 0) || !instrument.trim()}
            onClick={() => keep.mutate(false, { onSuccess: onDone })}>
            Keep {wanted.length} {wanted.length === 1 ? "reading" : "readings"}
          </Button>
        )}
      </DialogActions>
    </>
  );
}
