import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Reading, StudyView } from "../api/client";
import { useChange, useReadings } from "../api/hooks";
import { whoIsHere } from "../dye/outbox";
import { cellOf, cellWords, oddWords } from "../grid/cells";
import { Chip } from "../grid/chip";
import { ChoiceField } from "../shell/choice-field";
import { dayWords } from "../shell/dates";
import { usePlace } from "../shell/place";
import { Part, ProblemNote } from "../shell/said";
import { Word } from "../help/word";
import { zonesOn } from "../grid/zones";
import { isNamed, labWords } from "./colours";
import type { Colours } from "./colours";
import { ZoneName } from "./zone-name";

const AT_ONCE = 6;

interface Choice {
  counts: boolean;
  run: number | null;
  zone: string | null;
}

interface ChosenReadingsProps {
  study: StudyView;
  codes: readonly string[];
  colours: Colours;
}

/** Each selected swatch with its own states, their colours, and every reading behind them. */
export function ChosenReadings({ study, codes, colours }: ChosenReadingsProps) {
  const readings = useReadings(study.id, codes.slice(0, AT_ONCE));
  const own = (code: string) => (readings.data ?? []).filter((one) => one.swatch === code && one.piece === "whole");
  return (
    <Part title={`${codes.length} ${codes.length === 1 ? "swatch" : "swatches"} selected`}>
      {codes.slice(0, AT_ONCE).map((code) => (
        <OneSwatch key={code} study={study} code={code} colours={colours} readings={own(code)} />
      ))}
      {codes.length > AT_ONCE && <div>and {codes.length - AT_ONCE} more</div>}
      <ProblemNote error={readings.error} again={() => void readings.refetch()} />
    </Part>
  );
}

function OneSwatch({
  study,
  code,
  colours,
  readings,
}: {
  study: StudyView;
  code: string;
  colours: Colours;
  readings: Reading[];
}) {
  const [, go] = usePlace();
  const cell = cellOf(study, code);
  const states = colours.of(code);
  const read = [...(states?.colours ?? [])];
  const zones = colours.zonesOf(code);
  return (
    <Box role="group" aria-label={`Readings of ${code}`} sx={{ mb: 1.5, fontSize: 13 }}>
      <strong>{code}</strong> {cell ? cellWords(study, cell) : ""}{" "}
      <Button
        size="small"
        sx={{ p: 0, minHeight: 24 }}
        onClick={() => go({ study: study.id, view: "dye", part: `swatch/${code}` })}>
        its record
      </Button>
      {cell &&
        oddWords(study, cell)
          .filter((words) => words.includes(code))
          .map((words) => <div key={words}>{words}</div>)}
      {read.length === 0 && zones.length === 0 && <div>not read yet</div>}
      {zones.map((one) => (
        <Box key={one.zone} sx={{ display: "flex", gap: 1.5, mt: 0.5, alignItems: "center" }}>
          <Chip fills={[one.colour.hex]} width={64} height={40} />
          <Box>
            <strong>{one.zone}</strong>, {colours.labelOf(one.colour.run)}: {one.colour.colour_words}
            <div>
              {labWords(one.colour.lab)} · ±{one.colour.uncertainty_de00.toFixed(1)} ΔE00
            </div>
          </Box>
        </Box>
      ))}
      {read.map((colour) => (
        <Box key={colour.run} sx={{ display: "flex", gap: 1.5, mt: 0.5 }}>
          <Chip fills={[colour.hex]} width={64} height={52} />
          <Box>
            <div>
              {colours.labelOf(colour.run)}: {colour.colour_words}
            </div>
            <div>
              <Word of="lab">{labWords(colour.lab)}</Word> ·{" "}
              <Word of="doubt">±{colour.uncertainty_de00.toFixed(1)}</Word> ΔE00
            </div>
            <div>
              {colour.readings === 1
                ? `1 reading, ${dayWords(colour.taken_on)}`
                : `mean of ${colour.readings} readings, to ${dayWords(colour.taken_on)}`}
              {byInstrument(readings, colour.run)}
              {colour.scatter_de00 != null && ` · they scatter by ${colour.scatter_de00.toFixed(1)} ΔE00`}
            </div>
          </Box>
        </Box>
      ))}
      {readings.length > 0 && (
        <Box component="details" open={zones.some((one) => !isNamed(one.zone))} sx={{ mt: 0.5 }}>
          <summary>
            {readings.length === 1 ? "The reading behind it" : `The ${readings.length} readings behind it`}
          </summary>
          {readings.map((reading) => (
            <ReadingLine key={reading.id} study={study} reading={reading} colours={colours} />
          ))}
        </Box>
      )}
    </Box>
  );
}

/** Where an instrument has read a state, the camera's readings stand beside it and are not averaged in. */
function byInstrument(readings: readonly Reading[], run: number): string {
  const own = readings.filter((one) => one.run === run && one.counts && !one.zone && one.trial == null);
  const instrument = own.find((one) => one.instrument)?.instrument;
  if (!instrument) return "";
  const photos = own.filter((one) => !one.instrument).length;
  return ` · by ${instrument}${photos ? `; ${photos === 1 ? "the camera's reading stands" : `the camera's ${photos} readings stand`} beside it` : ""}`;
}

function ReadingLine({ study, reading, colours }: { study: StudyView; reading: Reading; colours: Colours }) {
  const choose = useChange(
    (choice: Choice) =>
      answered(
        api.POST("/api/readings/{reading_id}/choice", {
          params: { path: { reading_id: reading.id } },
          body: { ...choice, who: whoIsHere(), note: "" },
        }),
      ),
    { study: study.id },
  );
  const states = colours.of(reading.swatch)?.states ?? [];
  // The box answers the click at once; the server's word replaces it when it has come.
  const [asked, setAsked] = useState<Choice | null>(null);
  const said = asked ?? reading;
  const names = zonesOn(study, reading.swatch);
  const ask = (choice: Choice) => {
    setAsked(choice);
    choose.mutate(choice, { onSettled: () => setAsked(null) });
  };
  const lay = [
    reading.zone ? `${reading.zone}, ${Math.round(100 * (reading.share ?? 0))} % of the piece` : "",
    reading.instrument ? `by ${reading.instrument}` : "",
    reading.damp ? "damp" : "",
    reading.layers ? `${reading.layers} layers` : "",
    reading.backing ? `on ${reading.backing}` : "",
    reading.levelness_de00 ? `levelness ${reading.levelness_de00.toFixed(1)}` : "",
    ...reading.flags,
    ...(reading.warnings ?? []),
    reading.note,
  ].filter(Boolean);
  return (
    <Box
      role="group"
      aria-label={`Reading of ${dayWords(reading.taken_on)}`}
      sx={{ borderTop: 1, borderColor: "divider", py: 0.5 }}>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        <Chip fills={[reading.hex]} />
        <span>
          {dayWords(reading.taken_on)} · {labWords(reading.lab)} · ±{reading.uncertainty_de00.toFixed(1)}
          {lay.length > 0 && <div>{lay.join(" · ")}</div>}
        </span>
      </Box>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
        <FormControlLabel
          control={<Checkbox checked={said.counts} onChange={(_, on) => ask({ counts: on, run: null, zone: null })} />}
          label="counts"
          sx={{ "& .MuiFormControlLabel-label": { fontSize: 13 } }}
        />
        {states.length > 1 && (
          <ChoiceField
            label="It shows"
            value={reading.run}
            onChange={(chosen) => ask({ counts: said.counts, run: chosen, zone: null })}
            sx={{ flex: 1 }}
            options={states.map((run) => [run, colours.labelOf(run)] as const)}
          />
        )}
      </Box>
      {(reading.zone !== "" || names.length > 0) && (
        <ZoneName
          names={names}
          name={reading.zone}
          onName={(zone) => choose.mutate({ counts: said.counts, run: null, zone })}
        />
      )}
      <ProblemNote error={choose.error} />
    </Box>
  );
}
