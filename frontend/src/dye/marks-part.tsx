import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { Schema, StudyView } from "../api/client";
import { counted } from "../shell/counted";
import { momentWords } from "../shell/dates";
import { Part } from "../shell/said";
import type { VesselBench } from "./bench-state";
import { useLogging } from "./outbox";

type Cure = NonNullable<Schema["NewBenchEntry"]["cure"]>;
const CURES: [Cure, string][] = [
  ["repeat", "Repeat it"],
  ["replace", "Replace it"],
  ["leave out", "Leave it out"],
  ["keep with a mark", "Keep, with a mark"],
];

/** What went wrong at this vessel, and what is done about it. */
export function MarksPart({ study, bench, one }: { study: StudyView; bench: Schema["DyeView"]; one: VesselBench }) {
  const log = useLogging(study.id);
  const entries = new Map<number, Schema["Mark"][]>();
  for (const mark of bench.marks)
    if (mark.vessel === one.vessel.name) entries.set(mark.entry, [...(entries.get(mark.entry) ?? []), mark]);
  if (entries.size === 0) return null;
  return (
    <Part title="Went wrong">
      {[...entries.entries()].map(([entry, marks]) => {
        const mark = marks[0];
        if (!mark) return null;
        return (
          <Box key={entry} sx={{ mb: 1.5 }}>
            <strong>{mark.deviation}</strong>, {momentWords(mark.at)}
            {mark.note && `: ${mark.note}`} ·{" "}
            {marks.length > 8 ? counted(marks.length, "swatch") : marks.map((each) => each.swatch).join(" ")}
            {mark.cure ? (
              <Box>What is done: {mark.cure}</Box>
            ) : (
              <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 0.75, mt: 0.5 }}>
                {CURES.map(([cure, words]) => (
                  <Button
                    key={cure}
                    variant="outlined"
                    color="secondary"
                    sx={{ minHeight: 48 }}
                    onClick={() => log({ kind: "cure", vessel: one.vessel.name, step: mark.step, cure, about: entry })}>
                    {words}
                  </Button>
                ))}
              </Box>
            )}
          </Box>
        );
      })}
    </Part>
  );
}
