import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { answered, api } from "../api/client";
import type { Photo, StudyView } from "../api/client";
import { useChange, useFlags, usePhotoQuestions, usePhotos, useSheets } from "../api/hooks";
import { askAnew } from "../api/what-changed";
import { ProblemNote } from "../shell/said";
import { MarkedPhoto } from "./marked-photo";
import { sendPhoto } from "./send-photo";

interface Shot {
  picture: string;
  photo?: Photo;
  problem?: unknown;
}

/** At the moment of taking: the camera opens, and each shot says at once what is wrong with it and where. */
export function TakePhotos({ study, onClose }: { study: StudyView; onClose: () => void }) {
  const [shot, setShot] = useState<Shot | null>(null);
  const [busy, setBusy] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const queries = useQueryClient();
  const discard = useChange(
    (photo: number) =>
      answered(
        api.POST("/api/photos/{photo_id}/discard", {
          params: { path: { photo_id: photo } },
          body: { discarded: true },
        }),
      ),
    { study: study.id },
  );
  const take = async (file: File | undefined) => {
    if (!file) return;
    if (shot) URL.revokeObjectURL(shot.picture);
    const picture = URL.createObjectURL(file);
    setShot({ picture });
    setBusy(true);
    try {
      setShot({ picture, photo: await sendPhoto(file) });
    } catch (problem) {
      setShot({ picture, problem });
    }
    setBusy(false);
    await askAnew(queries, [{ study: study.id }]);
  };
  const open = () => input.current?.click();
  const again = () => {
    if (shot?.photo) discard.mutate(shot.photo.id);
    open();
  };
  return (
    <Dialog open onClose={onClose} fullScreen slotProps={{ paper: { "aria-label": "Take photos" } }}>
      <Box sx={{ display: "flex", alignItems: "center", p: 1.5, gap: 1 }}>
        <Box component="h2" sx={{ m: 0, flex: 1, fontSize: 18 }}>
          Take photos
        </Box>
        <Button variant="outlined" color="secondary" onClick={onClose}>
          Done
        </Button>
      </Box>
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        hidden
        aria-label="Camera"
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
      <Box sx={{ flex: 1, minHeight: 0, overflowY: "auto", px: 1.5, maxWidth: 900, width: "100%", mx: "auto" }}>
        {!shot && <BeforeTheFirst study={study} />}
        {shot && !shot.photo && (
          <Box
            component="img"
            src={shot.picture}
            alt="The shot"
            sx={{ width: "100%", maxHeight: "50vh", objectFit: "contain", bgcolor: "#777" }}
          />
        )}
        <div aria-live="polite">
          {busy && <p>Looking at it</p>}
          <ProblemNote error={shot?.problem} />
          {shot?.photo && <Verdict photo={shot.photo} />}
        </div>
      </Box>
      <Box sx={{ display: "flex", gap: 1, p: 1.5, maxWidth: 900, width: "100%", mx: "auto" }}>
        {shot?.photo && !busy && (
          <Button variant="outlined" color="secondary" onClick={again} sx={{ flex: 1, minHeight: 56 }}>
            Take it again
          </Button>
        )}
        <Button variant="contained" disabled={busy} onClick={open} sx={{ flex: 2, minHeight: 56 }}>
          {shot?.photo ? "Keep it, next sheet" : shot && !busy ? "Take it again" : "Open the camera"}
        </Button>
      </Box>
    </Dialog>
  );
}

/** How to hold it, and which sheets have no photo yet. */
function BeforeTheFirst({ study }: { study: StudyView }) {
  const sheets = useSheets(study.id);
  const photos = usePhotos(study.id);
  const there = new Set(photos.data?.filter((one) => !one.discarded).map((one) => one.sheet));
  const left = (sheets.data ?? []).filter((one) => !there.has(one.id));
  return (
    <Box sx={{ fontSize: 15, "& li": { mb: 0.5 } }}>
      <HowItLies />
      <ul>
        <li>
          One kind of light, from both sides, none from behind you: your shadow stays off the sheet and the chart.
        </li>
        <li>Hold it level, with all four corner marks in the picture and little table around.</li>
        <li>Leave flash, portrait and picture-improving modes off; wipe the lens.</li>
      </ul>
      {left.length > 0 && (
        <p>Without a photo yet: {left.map((one) => `${one.trial ? "trial " : ""}page ${one.page}`).join(", ")}.</p>
      )}
    </Box>
  );
}

/** The sheet from above with its chart and swatches, a lamp at each side, and the edge of the picture. */
function HowItLies() {
  const cells = [0, 1, 2, 3].flatMap((column) => [0, 1].map((row) => [74 + 34 * column, 74 + 28 * row] as const));
  return (
    <Box
      component="svg"
      viewBox="0 0 280 170"
      role="img"
      aria-label="A lamp at each side of the sheet, all four corner marks in the picture"
      sx={{ width: "100%", maxWidth: 420, display: "block", mx: "auto" }}>
      <rect x={48} y={14} width={184} height={142} fill="none" stroke="currentColor" strokeDasharray="7 5" />
      <rect x={60} y={24} width={160} height={122} fill="#fff" stroke="currentColor" />
      {[
        [63, 27],
        [209, 27],
        [63, 135],
        [209, 135],
      ].map(([x, y]) => (
        <rect key={`${x} ${y}`} x={x} y={y} width={8} height={8} fill="#000" />
      ))}
      {Array.from({ length: 12 }, (_, i) => (
        <rect
          key={i}
          x={80 + 11 * (i % 6)}
          y={32 + 11 * Math.floor(i / 6)}
          width={9}
          height={9}
          fill={
            ["#8a6a4a", "#c98", "#69a", "#6a5", "#88b", "#6bb", "#f4f4f4", "#ccc", "#aaa", "#777", "#555", "#333"][i]
          }
        />
      ))}
      {cells.map(([x, y]) => (
        <rect key={`${x} ${y}`} x={x} y={y} width={26} height={20} fill="#d9b45b" stroke="#8a8a8a" strokeWidth={0.5} />
      ))}
      {[
        [20, 1],
        [260, -1],
      ].map(([x = 0, way = 1]) => (
        <g key={x} stroke="currentColor" fill="none">
          <circle cx={x} cy={84} r={11} fill="#fff3b0" />
          {[-14, 0, 14].map((dy) => (
            <line key={dy} x1={x + 14 * way} y1={84 + dy / 2} x2={x + 30 * way} y2={84 + dy} />
          ))}
        </g>
      ))}
    </Box>
  );
}

/** What was found in a shot: the spots marked, and in words what is wrong with each. */
function Verdict({ photo }: { photo: Photo }) {
  const flags = useFlags();
  const asked = usePhotoQuestions(photo.id, photo.measurement_id);
  const [chosen, setChosen] = useState<string | null>(null);
  const swatches = new Map(photo.sheet.assignments.map((one) => [one.cell, one.swatch]));
  const said = (flag: string) => flags.data?.find((one) => one.flag === flag);
  const faults = photo.measurement.cells
    .filter((cell) => swatches.has(cell.cell))
    .map((cell) => ({ cell: cell.cell, flags: (cell.flags ?? []).filter((flag) => said(flag)?.asks) }))
    .filter((one) => one.flags.length > 0);
  const warnings = photo.measurement.calibration.warnings ?? [];
  const odd = asked.data ?? [];
  const measured = photo.measurement.cells.filter(
    (cell) => cell.status === "measured" && swatches.has(cell.cell),
  ).length;
  const clear = faults.length === 0 && warnings.length === 0 && odd.length === 0;
  return (
    <Box>
      <MarkedPhoto photo={photo} chosen={chosen} onChoose={setChosen} />
      <Box sx={{ fontSize: 18, fontWeight: 700, mt: 1.5 }}>
        Page {photo.sheet.page}.{" "}
        {clear
          ? `Good: ${measured} pieces read, nothing to ask.`
          : `${measured} pieces read; look at ${faults.length + warnings.length + odd.length === 1 ? "this" : "these"}:`}
      </Box>
      {warnings.map((warning) => (
        <Box key={warning} role="note" sx={{ borderLeft: 6, pl: 1, my: 1 }}>
          {warning}
        </Box>
      ))}
      {faults.map(({ cell, flags: own }) => (
        <Box key={cell} role="note" sx={{ borderLeft: 6, pl: 1, my: 1 }}>
          <strong>
            {cell} {swatches.get(cell)}
          </strong>
          {own.map((flag) => (
            <div key={flag}>
              <strong>{said(flag)?.words}</strong> {said(flag)?.cure}
            </div>
          ))}
        </Box>
      ))}
      {odd.map((one) => (
        <Box key={one.cell} role="note" sx={{ borderLeft: 6, pl: 1, my: 1 }}>
          <strong>
            {one.cell}: {one.words}
          </strong>
        </Box>
      ))}
    </Box>
  );
}
