import Box from "@mui/material/Box";
import { useRef } from "react";
import type { KeyboardEvent } from "react";

import type { Schema, StudyView, TrialView } from "../api/client";
import { SwatchCode } from "../grid/swatch-code";
import { cellOf, cellWords } from "../grid/cells";
import { changeWords, doseWords, ratingWords } from "./fade-words";

interface StripsProps {
  study: StudyView;
  trial: TrialView;
  codes: readonly string[];
  fadingOf: (code: string) => Schema["SwatchFading"] | undefined;
}

/** Each swatch as a strip of cloth: stage after stage, with the piece kept dark along its edge. */
export function Strips({ study, trial, codes, fadingOf }: StripsProps) {
  const list = useRef<HTMLDivElement>(null);
  const onKey = (event: KeyboardEvent<HTMLElement>) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!step || !list.current) return;
    event.preventDefault();
    const rows = [...list.current.children] as HTMLElement[];
    const at = rows.indexOf(document.activeElement as HTMLElement);
    rows[Math.max(0, Math.min(rows.length - 1, at + step))]?.focus();
  };
  return (
    <Box ref={list} role="list" aria-label="Strips of stages" onKeyDown={onKey} sx={{ display: "grid", gap: 1.5 }}>
      {codes.map((code) => (
        <Strip key={code} study={study} trial={trial} code={code} fading={fadingOf(code)} />
      ))}
    </Box>
  );
}

function Strip(props: {
  study: StudyView;
  trial: TrialView;
  code: string;
  fading: Schema["SwatchFading"] | undefined;
}) {
  const { study, trial, code, fading } = props;
  const points = trial.points.filter((one) => one.swatch === code);
  const cell = cellOf(study, code);
  const words = cell ? cellWords(study, cell) : "";
  const last = points.at(-1);
  const dark = last?.dark_hex;
  if (!last || !dark) return null;
  const spoken = points.map((p) => `${labelOf(trial, p)}: rating ${ratingWords(p)}, ${changeWords(p)}`).join("; ");
  return (
    <Box
      role="listitem"
      tabIndex={0}
      aria-label={`${code}, ${words}. ${spoken}`}
      sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "150px 1fr" }, gap: 1, alignItems: "center" }}>
      <Box sx={{ fontSize: 13, lineHeight: 1.3 }}>
        <SwatchCode study={study.id} code={code} />
        <div>{words}</div>
        <Box sx={{ color: "text.secondary" }}>{fading?.words}</Box>
      </Box>
      <Box>
        <Box sx={{ display: "flex", height: { xs: 72, md: 84 }, clipPath: PINKED }} aria-hidden>
          <Box sx={{ flex: "0 0 13%", bgcolor: dark }} />
          {points.map((p) => (
            <Box key={`${p.stage} ${p.zone ?? ""}`} sx={{ flex: 1, display: "flex", flexDirection: "column" }}>
              <Box sx={{ flex: 1, bgcolor: p.exposed_hex }} />
              <Box sx={{ height: "22%", bgcolor: p.dark_hex }} />
            </Box>
          ))}
        </Box>
        <Box sx={{ display: "flex", fontSize: 12, mt: 0.25 }} aria-hidden>
          <Box sx={{ flex: "0 0 13%" }}>kept dark</Box>
          {points.map((p) => (
            <Box key={`${p.stage} ${p.zone ?? ""}`} sx={{ flex: 1, minWidth: 0, lineHeight: 1.25 }}>
              {labelOf(trial, p)}
              {p.dose != null && trial.plan.kind === "light" ? `, ${doseWords("light", p.dose)}` : ""}
              <div>
                <strong>{ratingWords(p)}</strong> {p.distinguishable ? p.difference.de00.toFixed(1) : ""}
                {p.dark_from_same_stage ? "" : " · dark from an earlier photo"}
              </div>
            </Box>
          ))}
        </Box>
      </Box>
    </Box>
  );
}

const labelOf = (trial: TrialView, point: Schema["FadePoint"]) =>
  `${trial.state.stages[point.stage]?.plan.label ?? ""}${point.zone ? `, ${point.zone}` : ""}`;

const TEETH = 60;
/** The edge of pinking shears above and below, however wide the strip is. */
const PINKED = `polygon(${[
  ...Array.from({ length: TEETH + 1 }, (_, i) => `${((i * 100) / TEETH).toFixed(2)}% ${i % 2 ? "0px" : "4px"}`),
  ...Array.from(
    { length: TEETH + 1 },
    (_, i) => `${(100 - (i * 100) / TEETH).toFixed(2)}% ${i % 2 ? "100%" : "calc(100% - 4px)"}`,
  ),
].join(", ")})`;
