import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { Problem } from "../api/client";
import { ProblemNote } from "../shell/said";

interface Queued {
  id: number;
  name: string;
  state: "waiting" | "measuring" | "measured" | "refused" | "stopped";
  problem?: unknown;
}

/** Photos dropped here are measured one after the other; each says what became of it. */
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
    for (const { id, file } of added) {
      if (control.signal.aborted) {
        set(id, { state: "stopped" });
        continue;
      }
      set(id, { state: "measuring" });
      try {
        await send(study, file, control.signal);
        set(id, { state: "measured" });
      } catch (error) {
        set(id, control.signal.aborted ? { state: "stopped" } : { state: "refused", problem: error });
      }
      await queries.invalidateQueries();
    }
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
        sx={{ border: "2px dashed", borderColor: over ? "text.primary" : "divider", p: 2, textAlign: "center" }}
      >
        <div>Drop photos of the sheets here: JPEG, PNG or TIFF.</div>
        <Button variant="outlined" sx={{ mt: 1 }} onClick={() => input.current?.click()}>
          Choose photos
        </Button>
        <input
          ref={input}
          type="file"
          multiple
          accept=".jpg,.jpeg,.png,.tif,.tiff"
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
            <ProblemNote error={one.problem} />
          </Box>
        ))}
      </Box>
    </>
  );
}

async function send(study: number, file: File, signal: AbortSignal): Promise<void> {
  const body = new FormData();
  body.append("photo", file);
  const response = await fetch(`/api/studies/${study}/photos`, { method: "POST", body, signal });
  if (!response.ok) throw new Problem(await response.json().catch(() => null), response.status);
}
