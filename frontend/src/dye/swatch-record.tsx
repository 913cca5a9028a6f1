import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { Schema, StudyView } from "../api/client";
import { useSwatchRecord } from "../api/hooks";
import { Chip } from "../grid/chip";
import { dayWords, momentWords } from "../shell/dates";
import { Awaited } from "../shell/said";

/** The record of one swatch, from the Shelf to its last reading, on one page. */
export function SwatchRecord({ study, code, onBack }: { study: StudyView; code: string; onBack: () => void }) {
  const record = useSwatchRecord(study.id, code);
  return (
    <Box className="printed" sx={{ p: 2, overflow: "auto", minHeight: 0 }}>
      <Box className="not-printed" sx={{ display: "flex", gap: 1 }}>
        <Button onClick={onBack}>Back to the log</Button>
        <Button onClick={() => window.print()}>Print</Button>
      </Box>
      <Awaited query={record}>{(data) => <Pages study={study} record={data} />}</Awaited>
    </Box>
  );
}

function Pages({ study, record }: { study: StudyView; record: Schema["SwatchRecord"] }) {
  const newest = record.readings[record.readings.length - 1];
  const label = (kind: string, key: string) =>
    study.plan.factors?.find((factor) => factor.kind === kind)?.levels.find((level) => level.key === key)?.label ?? key;
  return (
    <>
      <Box sx={{ display: "flex", gap: 2, alignItems: "center" }}>
        <Chip fills={newest ? [newest.hex] : []} width={84} height={64} />
        <div>
          <h1 style={{ margin: 0 }}>
            {record.code} <Box component="span" sx={{ fontWeight: 400 }}>tie {record.tie}</Box>
          </h1>
          {Object.entries(record.levels)
            .map(([kind, key]) => label(kind, key))
            .join(", ")}
          {record.control && ` (control: ${record.control})`}
        </div>
      </Box>
      <p>
        <strong>From the Shelf:</strong> {record.fibre_words} {record.mass_g} g.
      </p>
      {record.marks.map((mark) => (
        <Box key={mark.entry} sx={{ borderLeft: 6, pl: 1, my: 1 }}>
          <strong>Went wrong: {mark.deviation}</strong>, {momentWords(mark.at)} {mark.note} · {mark.cure ?? "nothing decided yet"}
        </Box>
      ))}
      {record.passages.map((passage) => (
        <Box key={passage.vessel} component="section" sx={{ my: 1.5 }}>
          <h2 style={{ margin: 0, fontSize: 17 }}>
            {passage.vessel_name} {passage.title} {passage.done ? "✓" : ""}
          </h2>
          <Box sx={{ fontSize: 13 }}>{passage.recipe.join("; ")}</Box>
          {passage.lines.map((line) => (
            <Box key={line.id} sx={{ fontSize: 14, display: "flex", gap: 1 }}>
              <Box sx={{ width: 104, flex: "none" }}>{momentWords(line.at)}</Box>
              <span>
                {line.step_title}: <strong>{line.kind_words}</strong> {line.swatches.length > 1 ? "" : line.words} {line.who && `(${line.who})`}
              </span>
            </Box>
          ))}
          {passage.lines.length === 0 && <Box sx={{ fontSize: 13 }}>Nothing logged yet.</Box>}
        </Box>
      ))}
      {record.pulls.map((pull) => (
        <p key={pull.vessel}>
          <strong>{pull.seconds.toFixed(1)} s</strong> in the iron.
        </p>
      ))}
      {record.hand.map((line) => (
        <p key={line.id}>
          <strong>Hand:</strong> {line.words}, {dayWords(line.at)}
        </p>
      ))}
      <h2 style={{ marginBottom: 0, fontSize: 17 }}>Readings</h2>
      {record.readings.length === 0 && <p>Not read yet.</p>}
      {record.readings.map((reading) => (
        <Box key={reading.id} sx={{ display: "flex", gap: 1.5, alignItems: "center", py: 0.5 }}>
          <Chip fills={[reading.hex]} />
          <span>
            {dayWords(reading.taken_on)} · {reading.piece}
            {reading.stage != null && `, stage ${reading.stage + 1}`} · L* {reading.lab[0].toFixed(1)} a* {reading.lab[1].toFixed(1)} b* {reading.lab[2].toFixed(1)} · ±{reading.uncertainty_de00.toFixed(1)} · {reading.colour_words}
          </span>
        </Box>
      ))}
    </>
  );
}
