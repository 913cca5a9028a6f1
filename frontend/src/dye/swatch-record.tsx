import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMemo } from "react";
import type { ReactNode } from "react";

import type { Schema, StudyView } from "../api/client";
import { useColours, useSwatchRecord } from "../api/hooks";
import { Chip } from "../grid/chip";
import { NotesPart } from "../notes/notes-part";
import { coloursOf, labWords } from "../read/colours";
import type { Colours } from "../read/colours";
import { counted } from "../shell/counted";
import { inMyUnits } from "../settings/quantities";
import { dayWords, momentWords } from "../shell/dates";
import { durationWords } from "../shell/durations";
import { usePlace } from "../shell/place";
import { Awaited } from "../shell/said";
import { AnotherWay } from "./another-way";

type Record_ = Schema["SwatchRecord"];
type Bath = Schema["BathPassed"];

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

function Pages({ study, record }: { study: StudyView; record: Record_ }) {
  const stored = useColours(study.id);
  const colours = useMemo(() => coloursOf(stored.data), [stored.data]);
  const zones = colours.zonesOf(record.code);
  const newest = record.states.filter((state) => state.colour !== null).at(-1);
  const meant = Object.entries(record.meant ?? {}).filter(([kind, key]) => record.levels[kind] !== key);
  return (
    <>
      <Box sx={{ display: "flex", gap: 2, alignItems: "center" }}>
        <Chip
          fills={newest?.colour ? [newest.colour.hex] : zones.map((one) => one.colour.hex)}
          pictures={[newest && colours.pictureOf(record.code, newest.run)]}
          width={120}
          height={92}
        />
        <div>
          <h1 style={{ margin: 0 }}>
            {record.code}{" "}
            {record.tie && (
              <Box component="span" sx={{ fontWeight: 400 }}>
                tie {record.tie}
              </Box>
            )}
          </h1>
          {Object.values(record.level_words).join(", ")}
          {record.control && ` (control: ${record.control})`}
          {!record.planned && <strong> · no longer planned</strong>}
          {meant.length > 0 && (
            <div>
              It was meant to have {meant.map(([kind, key]) => labelIn(study, kind, key)).join(", ")}, and went another
              way.
            </div>
          )}
        </div>
      </Box>
      <p>
        <strong>From the Shelf:</strong> {record.fibre_words} {record.mass_g} g.
      </p>
      <Relatives study={study} record={record} />
      {record.marks.map((mark) => (
        <Box key={mark.entry} sx={{ borderLeft: 6, pl: 1, my: 1 }}>
          <strong>Went wrong: {mark.deviation}</strong>, {momentWords(mark.at)} {mark.note}
          {mark.through && ` · through ${mark.through}`} · {mark.cure ?? "nothing decided yet"}
        </Box>
      ))}
      <Box className="not-printed" sx={{ my: 1 }}>
        {record.passages.some((bath) => bath.in_at && bath.study === study.id) && (
          <AnotherWay study={study} code={record.code} />
        )}
      </Box>
      <Heading>Noted</Heading>
      <NotesPart study={study.id} about={{ swatches: [record.code] }} of={record.code} />
      <Heading>Its states</Heading>
      <States code={record.code} states={record.states} colours={colours} />
      <Heading>Its path</Heading>
      {record.passages.length === 0 && (
        <p>{study.entered_from ? "It was dyed before its record began." : "It was in no bath yet."}</p>
      )}
      {record.passages.map((bath) => (
        <BathLines key={`${bath.study} ${bath.vessel}`} bath={bath} elsewhere={bath.study !== study.id} />
      ))}
      {record.hand.map((line) => (
        <p key={line.id}>
          <strong>Hand:</strong> {line.words}, {dayWords(line.at)}
        </p>
      ))}
      <Heading>Readings</Heading>
      {record.readings.length === 0 && <p>Not read yet.</p>}
      {record.readings.map((reading) => (
        <Box
          key={reading.id}
          sx={{ display: "flex", gap: 1.5, alignItems: "center", py: 0.5, opacity: reading.counts ? 1 : 0.65 }}>
          <Chip fills={[reading.hex]} />
          <span>
            {dayWords(reading.taken_on)} · {record.states.find((state) => state.run === reading.run)?.label ?? ""} ·{" "}
            {[reading.piece === "whole" && reading.zone ? "" : reading.piece, reading.zone].filter(Boolean).join(", ")}
            {reading.stage != null && `, stage ${reading.stage + 1}`} · {labWords(reading.lab)} · ±
            {reading.uncertainty_de00.toFixed(1)} · {reading.colour_words}
            {reading.instrument &&
              ` · ${reading.instrument.startsWith("entered later") ? "" : "by "}${reading.instrument}`}
            {reading.damp && " · damp"}
            {!reading.counts && " · does not count"}
            {reading.note && ` · ${reading.note}`}
          </span>
        </Box>
      ))}
    </>
  );
}

const Heading = ({ children }: { children: ReactNode }) => (
  <h2 style={{ margin: "16px 0 4px", fontSize: 17 }}>{children}</h2>
);

const labelIn = (study: StudyView, kind: string, key: string) =>
  study.grid.factors.find((factor) => factor.kind === kind)?.levels.find((level) => level.key === key)?.label ?? key;

/** Where it was cut from and what was cut from it, and the other studies that it is in. */
function Relatives({ study, record }: { study: StudyView; record: Record_ }) {
  const [, go] = usePlace();
  const others = record.studies.filter((one) => one.study !== study.id);
  const link = (one: Schema["Relative"], words: string) => (
    <Button
      key={`${words} ${one.study} ${one.swatch}`}
      size="small"
      sx={{ p: 0, mr: 1.5, minHeight: 28 }}
      onClick={() => go({ study: one.study, view: "dye", part: `swatch/${one.swatch}` })}>
      {words} {one.swatch === record.code ? "" : `${one.swatch} `}in “{one.study_name}”
    </Button>
  );
  if (!record.cut_from && record.cut_into.length === 0 && others.length === 0) return null;
  return (
    <Box sx={{ my: 1 }}>
      {record.cut_from && link(record.cut_from, "Cut from")}
      {record.cut_into.map((one) => link(one, "Cut into"))}
      {others.map((one) => link(one, "Also"))}
    </Box>
  );
}

/** The piece before and after each bath, side by side with what the bath did to it. */
function States({ code, states, colours }: { code: string; states: Record_["states"]; colours: Colours }) {
  const read = states.filter((state) => state.colour !== null);
  const zones = colours.zonesOf(code);
  const byZone = new Set(zones.map((one) => one.colour.run));
  const unread = states.filter((state) => state.colour === null && !byZone.has(state.run));
  return (
    <>
      <Box role="list" aria-label="States" sx={{ display: "flex", flexWrap: "wrap", gap: 2 }}>
        {read.map((state) => (
          <Box key={state.run} role="listitem" sx={{ width: 170, fontSize: 13 }}>
            <Chip
              fills={state.colour ? [state.colour.hex] : []}
              pictures={[colours.pictureOf(code, state.run)]}
              width={150}
              height={110}
            />
            <div>
              <strong>{inMyUnits(state.label)}</strong>
              {state.at && `, ${dayWords(state.at)}`}
            </div>
            {state.colour && (
              <>
                <div>
                  {labWords(state.colour.lab)} ±{state.colour.uncertainty_de00.toFixed(1)}
                </div>
                {state.colour.readings > 1 && (
                  <div>
                    {counted(state.colour.readings, "reading")}
                    {state.colour.scatter_de00 != null && `, scatter ${state.colour.scatter_de00.toFixed(1)}`}
                  </div>
                )}
                {state.change && state.limit_de00 != null && (
                  <div>
                    ΔE00 {state.change.de00.toFixed(1)} to the one before
                    {state.change.de00 <= state.limit_de00 && ", too small to tell"}
                  </div>
                )}
              </>
            )}
          </Box>
        ))}
        {zones.map((one) => (
          <Box key={one.zone} role="listitem" sx={{ width: 170, fontSize: 13 }}>
            <Chip fills={[one.colour.hex]} width={150} height={110} />
            <strong>{one.zone}</strong>, {colours.labelOf(one.colour.run)}
            <div>
              {labWords(one.colour.lab)} ±{one.colour.uncertainty_de00.toFixed(1)}
            </div>
          </Box>
        ))}
      </Box>
      {unread.length > 0 && (
        <Box sx={{ fontSize: 13, color: "text.secondary", mt: 0.5 }}>
          Not read: {unread.map((state) => `${state.label}${state.at ? ` (${dayWords(state.at)})` : ""}`).join(", ")}.
        </Box>
      )}
    </>
  );
}

function BathLines({ bath, elsewhere }: { bath: Bath; elsewhere: boolean }) {
  return (
    <Box component="section" aria-label={`${bath.vessel} ${bath.title}`} sx={{ my: 1.5 }}>
      <h3 style={{ margin: 0, fontSize: 16 }}>
        {bath.vessel} {inMyUnits(bath.title)}{" "}
        {bath.ended ? "✓" : bath.in_at ? "· in it now" : bath.begun ? "· begun" : "· still ahead"}
        {elsewhere && ` (in “${bath.study_name}”)`}
      </h3>
      {bath.stray && <Box sx={{ fontSize: 13, fontWeight: 700 }}>It was not meant for this bath.</Box>}
      <Box sx={{ fontSize: 13 }}>{bath.recipe.join("; ")}</Box>
      {bath.in_at && <Box sx={{ fontSize: 14 }}>{pathWords(bath)}</Box>}
      {bath.lines.map((line) => (
        <Box key={line.id} sx={{ fontSize: 14, display: "flex", gap: 1 }}>
          <Box sx={{ width: 104, flex: "none" }}>{momentWords(line.at)}</Box>
          <span>
            {line.step_title}: <strong>{line.kind_words}</strong> {line.swatches.length > 1 ? "" : line.words}{" "}
            {line.who && `(${line.who})`}
            {line.entered_later && ` · entered later, ${momentWords(line.entered_at)}`}
          </span>
        </Box>
      ))}
    </Box>
  );
}

/** How long it was in, at which readings, and how that is known. */
function pathWords(bath: Bath): string {
  const range = (pair: readonly number[] | null | undefined, unit: string) =>
    pair ? `${pair[0] === pair[1] ? `${pair[0] ?? ""}` : `${pair[0] ?? ""} to ${pair[1] ?? ""}`}${unit}` : "";
  const minutes = bath.in_at && bath.out_at ? (Date.parse(bath.out_at) - Date.parse(bath.in_at)) / 60_000 : null;
  const long = bath.seconds != null ? `${bath.seconds.toFixed(1)} s` : minutes != null ? durationWords(minutes) : "";
  return [
    bath.in_at ? `in from ${momentWords(bath.in_at)}` : "",
    bath.out_at ? `until ${momentWords(bath.out_at)}` : "",
    long,
    inMyUnits(range(bath.temperature_c, " °C")),
    bath.ph ? `pH ${range(bath.ph, "")}` : "",
    bath.heated_again > 0 ? `heated again ${bath.heated_again} ×` : "",
    bath.known === "as planned" ? "nobody ticked it in: taken as planned" : "ticked in",
  ]
    .filter(Boolean)
    .join(" · ");
}
