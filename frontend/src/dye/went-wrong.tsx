import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Schema, StudyView } from "../api/client";
import { WaitingPicture } from "../notes/note-picture";
import { PictureButton } from "../shell/file-button";
import { counted } from "../shell/counted";
import { Several } from "../shell/several";
import { nowIn, whoIs } from "./bench-state";
import type { VesselBench } from "./bench-state";
import { useLogging } from "./outbox";
import type { NewEntry } from "./outbox";

type Deviation = NonNullable<Schema["NewBenchEntry"]["deviation"]>;
const USUAL: [Deviation, string][] = [
  ["boiled", "It boiled"],
  ["ran dry", "It ran dry"],
  ["too long", "Too long in"],
  ["spilled", "Spilled"],
  ["wrong swatch", "Wrong swatch"],
  ["forgot to stir", "Forgot to stir"],
  ["felted", "Felted"],
  ["foamed", "Foamed over"],
  ["iron spots", "Iron spots"],
  ["bled from a neighbour", "Bled from a neighbour"],
  ["twisted", "Was twisted"],
  ["crowded", "Was crowded"],
  ["other", "Something else"],
];

/** One tap says what went wrong; a note, a picture and whom it concerns can follow at once. */
export function WentWrong({
  study,
  bench,
  one,
  step,
}: {
  study: StudyView;
  bench: Schema["DyeView"];
  one: VesselBench;
  step: string;
}) {
  const log = useLogging(study.id);
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState("");
  const [which, setWhich] = useState<string[]>([]);
  const [picture, setPicture] = useState<File>();
  const [stock, setStock] = useState("");
  const [unsure, setUnsure] = useState(false);
  const stocks = stocksOf(bench);
  const { inside } = nowIn(bench, one);
  const there = inside.length > 0 ? inside : whoIs(one);
  const asked = which.length > 0 ? which : there;
  const say = (deviation: Deviation) => {
    const where = stock ? { stock } : { vessel: one.vessel.name, step, swatches: which };
    const doubt: Partial<NewEntry> =
      unsure && !stock && asked.length > 1
        ? { swatches: asked, cure: "leave out", note: ["not sure which of them", note].filter(Boolean).join(": ") }
        : {};
    log({ kind: "deviation", ...where, deviation, note, ...doubt }, picture);
    setOpen(false);
    setUnsure(false);
    setNote("");
    setWhich([]);
    setPicture(undefined);
    setStock("");
  };
  return (
    <>
      <Button variant="outlined" color="secondary" sx={{ minHeight: 48, px: 0.5 }} onClick={() => setOpen(true)}>
        It went wrong
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} fullWidth maxWidth="sm">
        <DialogTitle>What went wrong at {one.vessel.name}</DialogTitle>
        <DialogContent>
          <Box sx={{ display: "grid", gap: 1, pt: 1 }}>
            {stocks.length > 0 && (
              <TextField
                select
                label="Where"
                value={stock}
                onChange={(event) => setStock(event.target.value)}
                slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}>
                <MenuItem value="">in {one.vessel.name}</MenuItem>
                {stocks.map((name) => (
                  <MenuItem key={name} value={name}>
                    in the stock of {name}: all baths that take of it
                  </MenuItem>
                ))}
              </TextField>
            )}
            {!stock && one.vessel.bath === "extract" && (
              <Box sx={{ fontSize: 13 }}>All that is dyed with this extract carries the mark.</Box>
            )}
            {!stock && there.length > 0 && (
              <Several
                label="Swatches concerned (none: all in it)"
                options={there.map((code) => [code, code] as const)}
                value={which}
                onChange={setWhich}
              />
            )}
            {!stock && asked.length > 1 && (
              <FormControlLabel
                control={<Checkbox checked={unsure} onChange={(_, on) => setUnsure(on)} />}
                label="Not sure which of them"
              />
            )}
            {unsure && asked.length > 1 && (
              <Box role="note" sx={{ borderLeft: 6, pl: 1, fontSize: 13 }}>
                It costs {counted(asked.length, "swatch")}: none of {asked.join(" ")} counts in Compare and Tell until
                this entry is put right in the log.
              </Box>
            )}
            <TextField label="Note" value={note} onChange={(event) => setNote(event.target.value)} />
            {picture && <WaitingPicture picture={picture} of="what went wrong" />}
            <PictureButton
              words={picture ? "Another picture" : "Take a picture"}
              label="Picture of what went wrong"
              onPicture={setPicture}
            />
            <Box sx={{ fontSize: 13 }}>Then say what it was; that logs it:</Box>
            <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "1fr 1fr 1fr" }, gap: 1 }}>
              {USUAL.map(([deviation, words]) => (
                <Button
                  key={deviation}
                  variant="outlined"
                  color="secondary"
                  sx={{ minHeight: 56, px: 0.5 }}
                  onClick={() => say(deviation)}>
                  {words}
                </Button>
              ))}
            </Box>
          </Box>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Nothing</Button>
        </DialogActions>
      </Dialog>
    </>
  );
}

/** The stock solutions that the baths take of, as the log calls them. */
function stocksOf(bench: Schema["DyeView"]): string[] {
  const names = bench.vessels.flatMap((one) =>
    one.amounts.figures.flatMap((figure) => (figure.stock_percent ? [`${figure.name} ${figure.stock_percent} %`] : [])),
  );
  return [...new Set(names)];
}
