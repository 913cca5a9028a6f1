import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { fileForm, fileKey } from "../api/file-form";
import { useShelf } from "../api/hooks";
import { ChartSelect } from "../read/chart-select";
import { typedNumber } from "../settings/quantities";
import { ItemDialog } from "../shelf/item-dialog";
import { PrintedScale } from "../shelf/printed-scale";
import { ChoiceField } from "../shell/choice-field";
import { PictureButton } from "../shell/file-button";
import { Caution, ProblemNote } from "../shell/said";
import { TappedPhoto } from "../shell/tapped-photo";
import type { Place } from "../shell/tapped-photo";
import { useLogging } from "./outbox";

type StripRead = Schema["StripRead"];

interface StripDialogProps {
  study: number;
  at: { vessel: string; step: string };
  onClose: () => void;
}

/** A strip read from a photo beside the chart; what the eye reads stands beside it. */
export function StripDialog({ study, at, onClose }: StripDialogProps) {
  const log = useLogging(study);
  const shelf = useShelf().data;
  const boxes = (shelf?.ph_strips ?? []).filter((one) => !one.retired);
  const [picked, setPicked] = useState("");
  const [teaching, setTeaching] = useState(false);
  const [file, setFile] = useState<File | null>(null);
  const [late, setLate] = useState(false);
  const [chart, setChart] = useState("");
  const [eye, setEye] = useState("");
  const [tapped, setTapped] = useState<readonly Place[]>([]);
  const box = boxes.find((one) => one.key === picked) ?? boxes[0];
  const wanted = (box?.steps[0]?.pads.length ?? 1) > 1 ? 2 : 1;
  const between = tapped.length > 0 && tapped.length < wanted;
  const read = useQuery({
    queryKey: ["pH strip", file && fileKey(file), box?.key, tapped, late, chart],
    enabled: file !== null && box !== undefined && !between,
    retry: false,
    gcTime: 0,
    queryFn: () =>
      answered(
        api.POST("/api/ph-strips/{key}/readings", {
          params: {
            path: { key: box?.key ?? "" },
            query: { late, ...(tapped.length > 0 && { at: tapped.flat() }), ...(chart && { chart }) },
          },
          ...fileForm("photo", file as File),
        }),
      ),
  });
  const byEye = typedNumber(eye);
  const wrongEye = byEye !== null && !(byEye >= 0 && byEye <= 14);
  const said = read.data?.range;
  const keep = () => {
    if (!box || !said || !file) return;
    const { low, high, beyond } = said;
    const strip = { box: box.key, low, high, beyond, late, by_eye: byEye };
    log({ kind: "record", ...at, ph: said.ph === null ? byEye : Math.round(said.ph * 10) / 10, strip }, file);
    onClose();
  };
  if (teaching && shelf)
    return (
      <ItemDialog
        kind="ph_strip"
        item={null}
        shelf={shelf}
        brief
        onClose={() => setTeaching(false)}
        onSaved={(item) => setPicked(item.key)}
      />
    );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>pH by a strip</DialogTitle>
      <DialogContent sx={{ display: "grid", gap: 1, alignContent: "start" }}>
        {!box && <div>A box of strips is taught once: its printed colours are photographed beside the chart.</div>}
        {boxes.length > 1 && box && (
          <ChoiceField
            label="From which box"
            value={box.key}
            onChange={(key) => {
              setPicked(key);
              setTapped([]);
            }}
            options={boxes.map((one) => [one.key, one.name] as const)}
            sx={{ mt: 1 }}
          />
        )}
        {box && (
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center", mt: 0.5 }}>
            <PictureButton
              words={file ? "Another photo" : "Photo of the strip, beside the chart"}
              label="Photo of the strip"
              onPicture={(picture) => {
                setFile(picture);
                setTapped([]);
              }}
            />
            <ChartSelect label="Chart beside it" value={chart} onChange={setChart} />
            <FormControlLabel
              control={<Checkbox checked={late} onChange={(_, on) => setLate(on)} />}
              label="Taken late, more than a minute after the dip"
            />
          </Box>
        )}
        {file && box && (
          <>
            <Box role="status" sx={{ fontSize: 18 }}>
              {read.isFetching ? "Measuring" : said && <PhSaid range={said} />}
            </Box>
            {said && <Cautions range={said} late={late} />}
            {read.data && (
              <PrintedScale
                steps={box.steps}
                strip={{ ph: read.data.range.best_ph, pads: read.data.pads.map((pad) => pad.hex) }}
              />
            )}
            <ProblemNote error={read.error} />
            <div>{askedToTap(wanted, between)}</div>
            <TappedPhoto
              key={fileKey(file)}
              file={file}
              alt="Photo of the strip"
              onTap={(place) => setTapped(tapped.length < wanted ? [...tapped, place] : [place])}
              tapped={between ? tapped : []}
              outlines={read.data?.pads.map((pad) => pad.outline_px) ?? []}
              sizePx={read.data?.photo_size_px}
            />
            <TextField
              label="pH as the eye reads it"
              value={eye}
              error={wrongEye}
              helperText={wrongEye ? "pH from 0 to 14" : "Stands beside it in the log."}
              onChange={(event) => setEye(event.target.value)}
              slotProps={{ htmlInput: { inputMode: "decimal" } }}
            />
          </>
        )}
      </DialogContent>
      <DialogActions>
        {shelf && (
          <Button onClick={() => setTeaching(true)} sx={{ mr: "auto" }}>
            Teach a box
          </Button>
        )}
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          sx={{ minHeight: 48 }}
          disabled={!said || wrongEye || (said.ph === null && byEye === null)}
          onClick={keep}>
          {said?.ph === null ? "Record what the eye reads" : "Record"}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function askedToTap(wanted: number, between: boolean): string {
  if (wanted === 1) return "Is the outline not on the pad? Tap its middle.";
  return between
    ? "Now the last pad."
    : "Are the outlines not on the pads? Tap the first pad, at the tip, then the last.";
}

function PhSaid({ range }: { range: StripRead["range"] }) {
  if (range.ph === null || range.low === null || range.high === null)
    return (
      <span>
        It fits no pH of this box: at the nearest, {range.best_ph.toFixed(1)}, it is ΔE00 {range.away_de00.toFixed(0)}{" "}
        away.
      </span>
    );
  const end = range.beyond === "below" ? ", or lower" : range.beyond === "above" ? ", or higher" : "";
  return (
    <span>
      <strong>pH {range.ph.toFixed(1)}</strong>, nine times of ten from {range.low.toFixed(1)} to{" "}
      {range.high.toFixed(1)}
      {end}
    </span>
  );
}

function Cautions({ range, late }: { range: StripRead["range"]; late: boolean }) {
  return (
    <>
      {range.ph === null && (
        <Caution>
          A strip that the dye has stained, of another box, or with a reflection on it. Dip a new one, or read it by
          eye.
        </Caution>
      )}
      {late && (
        <Caution>
          A strip that waits dries paler and takes up air: an alkaline bath may read too low. The range is wider for it.
        </Caution>
      )}
    </>
  );
}
