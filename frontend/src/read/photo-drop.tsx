import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { Problem } from "../api/client";
import { useChange, useStudies } from "../api/hooks";
import { askAnew } from "../api/what-changed";
import { usePlace } from "../shell/place";
import { ProblemNote } from "../shell/said";
import { ChartSelect } from "./chart-select";
import { sendPhoto, sendWithoutSheet } from "./send-photo";

interface Queued {
  id: number;
  name: string;
  state: "waiting" | "measuring" | "measured" | "refused" | "stopped";
  problem?: unknown;
  file?: File;
  /** The study that it belongs to, where that is not the one that is open. */
  elsewhere?: number | undefined;
}

const AT_ONCE = 2;

/** Photos dropped here are measured, two at a time; each goes to its study and sheet by its code, and says what became of it. */
export function PhotoDrop({ study }: { study: number }) {
  const [queue, setQueue] = useState<Queued[]>([]);
  const [over, setOver] = useState(false);
  const stop = useRef<AbortController | null>(null);
  const counter = useRef(0);
  const input = useRef<HTMLInputElement>(null);
  const queries = useQueryClient();
  const busy = queue.some((one) => one.state === "waiting" || one.state === "measuring");

  const set = (id: number, change: Partial<Queued>) =>
    setQueue((old) => old.map((one) => (one.id === id ? { ...one, ...change } : one)));

  const measure = async (files: File[]) => {
    const added = files.map((file) => ({ id: ++counter.current, name: file.name, file }));
    setQueue((old) => [
      ...old.filter((one) => one.state === "refused"),
      ...added.map(({ id, name }): Queued => ({ id, name, state: "waiting" })),
    ]);
    const control = new AbortController();
    stop.current = control;
    const waiting = [...added];
    const work = async () => {
      for (let next = waiting.shift(); next; next = waiting.shift()) {
        const { id, file } = next;
        if (control.signal.aborted) {
          set(id, { state: "stopped" });
          continue;
        }
        set(id, { state: "measuring" });
        try {
          const photo = await sendPhoto(file, control.signal);
          set(id, { state: "measured", elsewhere: photo.study === study ? undefined : photo.study });
        } catch (error) {
          set(id, control.signal.aborted ? { state: "stopped" } : { state: "refused", problem: error, file });
        }
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, work));
    await askAnew(queries, [{ study }]);
  };

  return (
    <>
      <Box
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          setOver(false);
          void measure([...event.dataTransfer.files]);
        }}
        sx={{ border: "2px dashed", borderColor: over ? "text.primary" : "divider", p: 2, textAlign: "center" }}>
        <div>
          Drop photos of sheets here, as many as there are: from a phone (JPEG, HEIC, AVIF, WebP), PNG, TIFF or raw.
        </div>
        <Button variant="outlined" sx={{ mt: 1 }} onClick={() => input.current?.click()}>
          Choose photos
        </Button>
        <input
          ref={input}
          type="file"
          multiple
          accept="image/*,.heic,.heif,.avif,.webp,.tif,.tiff,.dng,.cr2,.cr3,.nef,.arw,.raf,.orf,.rw2,.pef"
          aria-label="Photos"
          hidden
          onChange={(event) => {
            void measure([...(event.target.files ?? [])]);
            event.target.value = "";
          }}
        />
      </Box>
      <Box aria-live="polite">
        {busy && (
          <Box sx={{ my: 1 }}>
            <LinearProgress
              color="secondary"
              variant="determinate"
              aria-label="Photos measured"
              value={(100 * queue.filter((one) => one.state === "measured").length) / queue.length}
            />
            <Button size="small" onClick={() => stop.current?.abort()}>
              Stop
            </Button>
          </Box>
        )}
        {queue.map((one) => (
          <Box key={one.id} sx={{ fontSize: 13, overflowWrap: "anywhere" }}>
            {one.name}: {one.state}
            {one.elsewhere !== undefined && <ElsewhereNote study={one.elsewhere} />}
            <ProblemNote error={one.problem} />
            {one.state === "refused" &&
              one.file &&
              one.problem instanceof Problem &&
              one.problem.code === "no-sheet" && (
                <WithoutSheet
                  study={study}
                  file={one.file}
                  onKept={() => set(one.id, { state: "measured", problem: undefined })}
                />
              )}
          </Box>
        ))}
      </Box>
    </>
  );
}

/** A photo that holds a chart and no sheet is kept all the same: its colours are read from areas drawn by hand. */
function WithoutSheet({ study, file, onKept }: { study: number; file: File; onKept: () => void }) {
  const [chart, setChart] = useState("");
  const keep = useChange(() => sendWithoutSheet(study, file, chart), { study });
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center", mb: 1 }}>
      <ChartSelect label="Chart in the photo" value={chart} onChange={setChart} />
      <Button
        variant="outlined"
        color="secondary"
        disabled={keep.isPending}
        onClick={() => keep.mutate(undefined, { onSuccess: onKept })}>
        It holds a chart: draw the areas by hand
      </Button>
      <ProblemNote error={keep.error} />
    </Box>
  );
}

/** A photo of another study's sheet went there. */
function ElsewhereNote({ study }: { study: number }) {
  const [, go] = usePlace();
  const studies = useStudies();
  const name = studies.data?.find((one) => one.id === study)?.name ?? "another study";
  return (
    <Button size="small" onClick={() => go({ study, view: "read" })}>
      It waits in {name}
    </Button>
  );
}
