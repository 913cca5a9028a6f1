import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useEffect, useRef } from "react";

import type { Schema } from "../api/client";
import { useBenchNow } from "../api/hooks";
import type { Waiting } from "../dye/kept-outbox";
import { forget, isUnsent, itIsSo, useLogging, useOutbox, useSending, useUnkept, withoutPicture } from "../dye/outbox";
import { sayDue } from "./page-title";
import { readyToSound, remind, ring } from "./ringing";
import { clockWords, useTicking } from "./ticking";

type Timer = Schema["Timer"];
const STIR_SHOWN_MS = 60_000;

/** Everything that runs on any bench, on every screen; and what waits for the network. */
export function Dock({ onGo }: { onGo: (study: number, vesselName: string) => void }) {
  useSending();
  const bench = useBenchNow();
  const waiting = useOutbox();
  const now = useTicking() + (bench.data?.aheadMs ?? 0);
  const timers = running(bench.data?.timers ?? [], waiting);
  useRinging(timers, now);
  useEffect(() => {
    window.addEventListener("pointerdown", readyToSound, { once: true });
    return () => window.removeEventListener("pointerdown", readyToSound);
  }, []);
  if (timers.length === 0 && !waiting.some((one) => one.refused || isUnsent(one))) return null;
  return (
    <Box
      component="footer"
      aria-label="Dock"
      sx={{
        display: "flex",
        gap: 1,
        px: 1,
        py: 0.5,
        borderTop: 2,
        borderColor: "text.primary",
        overflowX: "auto",
        flex: "none",
        bgcolor: "background.paper",
      }}>
      <Outbox waiting={waiting} />
      {timers.map((timer) => (
        <DockTimer key={`${timer.study} ${timer.vessel} ${timer.step}`} timer={timer} now={now} onGo={onGo} />
      ))}
    </Box>
  );
}

/** Without the steps that this device has ticked off while the server could not be reached. */
function running(timers: readonly Timer[], waiting: readonly Waiting[]): Timer[] {
  const over = waiting.filter((one) => !one.refused && (one.entry.kind === "done" || one.entry.kind === "undone"));
  return timers.filter(
    (timer) =>
      !over.some(
        (one) =>
          one.study === timer.study &&
          one.entry.vessel === timer.vessel &&
          one.entry.step === timer.step &&
          (one.entry.at ?? one.entry.entered_at) > timer.begun_at,
      ),
  );
}

const leftMs = (timer: Timer, now: number) => (timer.due_at ? Date.parse(timer.due_at) - now : null);

function stirDue(timer: Timer, now: number): boolean {
  if (!timer.stir_every_min) return false;
  const left = leftMs(timer, now);
  const gone = now - Date.parse(timer.begun_at);
  const every = timer.stir_every_min * 60_000;
  return gone >= every && gone % every < STIR_SHOWN_MS && (left === null || left > 0);
}

function useRinging(timers: readonly Timer[], now: number) {
  const rung = useRef(new Set<string>());
  useEffect(() => {
    let due = 0;
    for (const timer of timers) {
      const left = leftMs(timer, now);
      const key = `${timer.vessel} ${timer.step} ${timer.begun_at}`;
      if (left !== null && left <= 0) {
        due += 1;
        // Rings again every minute until somebody has seen to it.
        const turn = `${key} ${Math.floor(left / 60_000)}`;
        if (!rung.current.has(turn)) ring(`${timer.vessel} ${timer.title}: time is up`);
        rung.current.add(turn);
      } else if (stirDue(timer, now) && timer.stir_every_min) {
        const turn = `${key} stir ${Math.floor((now - Date.parse(timer.begun_at)) / (timer.stir_every_min * 60_000))}`;
        if (!rung.current.has(turn)) remind();
        rung.current.add(turn);
      }
    }
    sayDue(due);
  }, [timers, now]);
}

function DockTimer({
  timer,
  now,
  onGo,
}: {
  timer: Timer;
  now: number;
  onGo: (study: number, vesselName: string) => void;
}) {
  const log = useLogging(timer.study);
  const left = leftMs(timer, now);
  const over = left !== null && left <= 0;
  const seconds = left === null ? (now - Date.parse(timer.begun_at)) / 1000 : left / 1000;
  const stir = stirDue(timer, now);
  return (
    <Box
      role="timer"
      aria-label={`${timer.vessel} ${timer.title}`}
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1,
        border: over ? 3 : 1,
        borderColor: over ? "text.primary" : "divider",
        pl: 1,
        flex: "none",
      }}>
      <Box
        component="button"
        type="button"
        onClick={() => onGo(timer.study, timer.vessel)}
        sx={{
          border: 0,
          bgcolor: "transparent",
          color: "inherit",
          font: "inherit",
          textAlign: "left",
          cursor: "pointer",
          minHeight: 48,
          p: 0,
        }}>
        <Box sx={{ fontSize: 20, fontWeight: 700, lineHeight: 1.1 }}>
          {over ? `time is up ${clockWords(seconds)}` : clockWords(seconds)}
          {left === null && " ↑"}
        </Box>
        <Box sx={{ fontSize: 12 }}>
          <strong>{timer.vessel}</strong> {timer.title}
          {stir && <strong> · {timer.title === "Steam" ? "look at its water" : "stir now"}</strong>}
        </Box>
      </Box>
      {over && (
        <Button
          onClick={() =>
            log({
              kind: "timer",
              vessel: timer.vessel,
              step: timer.step,
              minutes: Math.ceil(-(left ?? 0) / 60_000) + 5,
            })
          }>
          5 min more
        </Button>
      )}
      {over && (
        <Button variant="contained" onClick={() => log({ kind: "done", vessel: timer.vessel, step: timer.step })}>
          Done
        </Button>
      )}
    </Box>
  );
}

function Outbox({ waiting }: { waiting: readonly Waiting[] }) {
  const refused = waiting.filter((one) => one.refused);
  const left = waiting.filter(isUnsent).length;
  const unkept = useUnkept();
  return (
    <>
      {left > 0 && (
        <Box role="status" sx={{ alignSelf: "center", flex: "none", fontSize: 13 }}>
          {left} {left === 1 ? "entry waits" : "entries wait"} for the network;{" "}
          {unkept ? "this device cannot keep them: leave this page open" : "kept on this device"}
        </Box>
      )}
      {refused.map((one) => (
        <Box
          key={one.entry.key}
          role="alert"
          sx={{ flex: "none", maxWidth: 420, fontSize: 13, borderLeft: 6, borderColor: "error.main", pl: 1 }}>
          {one.asks ? "Asked before it is kept" : "Not accepted"} ({one.entry.kind} {one.entry.vessel}): {one.refused}
          {one.asks && (
            <Button size="small" variant="outlined" onClick={() => itIsSo(one.entry.key)}>
              It is so: keep it
            </Button>
          )}
          {one.picture && !one.entry.photo && (
            <Button size="small" variant="outlined" onClick={() => withoutPicture(one.entry.key)}>
              Keep it without the picture
            </Button>
          )}
          <Button size="small" onClick={() => forget(one.entry.key)}>
            Let it go
          </Button>
        </Box>
      ))}
    </>
  );
}
