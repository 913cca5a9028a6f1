import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useDeferredValue, useState } from "react";

import type { Schema, StudyView } from "../api/client";
import { useBenchLog } from "../api/hooks";
import type { LogFilter } from "../api/hooks";
import { NotePicture } from "../notes/note-picture";
import { saidIn } from "./log-words";
import { ChoiceField } from "../shell/choice-field";
import { momentWords } from "../shell/dates";
import { Awaited } from "../shell/said";
import { DataTable } from "../shell/data-table";
import { Spoken } from "../shell/spoken";
import { CorrectDialog } from "./correct-dialog";

type LogLine = Schema["LogLine"];
const AT_ONCE = 200;

/** The whole log, newest first: searched, narrowed, printed, taken away; corrected, never changed. */
export function LogView({
  study,
  bench,
  onSwatch,
}: {
  study: StudyView;
  bench: Schema["DyeView"];
  onSwatch: (code: string) => void;
}) {
  const [filter, setFilter] = useState<LogFilter>({ text: "", who: "", vessel: "", kind: "" });
  const log = useBenchLog(study.id, useDeferredValue(filter));
  const [correcting, setCorrecting] = useState<LogLine | null>(null);
  const [shown, setShown] = useState(AT_ONCE);
  const phone = useMediaQuery("(max-width: 600px)");
  const people = [...new Set(bench.entries.map((entry) => entry.who))].filter(Boolean);
  const query = new URLSearchParams(Object.entries(filter).filter(([, value]) => value)).toString();
  const choice = (label: string, key: keyof LogFilter, options: [string, string][]) => (
    <ChoiceField
      label={label}
      value={filter[key]}
      onChange={(chosen) => setFilter({ ...filter, [key]: chosen })}
      sx={{ width: 150 }}
      options={[["", "all"], ...options.map(([value, words]) => [value, words] as const)]}
    />
  );
  return (
    <Box className="printed" sx={{ p: 2, overflow: "auto", minHeight: 0 }}>
      <Box className="not-printed" sx={{ display: "flex", flexWrap: "wrap", gap: 1, mb: 1 }}>
        <TextField
          label="Search the log"
          value={filter.text}
          onChange={(event) => setFilter({ ...filter, text: event.target.value })}
          sx={{ width: 220 }}
        />
        {choice(
          "Vessel",
          "vessel",
          bench.vessels.map((one) => [one.vessel.name, `${one.vessel.name} ${one.vessel.title}`]),
        )}
        {choice("What", "kind", KINDS)}
        {choice(
          "By",
          "who",
          people.map((name) => [name, name]),
        )}
        <Button component="a" href={`/api/studies/${study.id}/dye/log.csv?${query}`}>
          CSV file
        </Button>
        <Button onClick={() => window.print()}>Print</Button>
      </Box>
      <Awaited query={log}>
        {(lines) =>
          lines.length === 0 ? (
            <p>
              {bench.entries.length === 0
                ? "Nothing is logged yet. What you tick, read and note at the bench comes here."
                : "Nothing in the log matches."}
            </p>
          ) : (
            <>
              <Box sx={{ fontSize: 13, color: "text.secondary" }}>{lines.length} entries</Box>
              <DataTable
                name="log"
                sx={{
                  width: "100%",
                  borderCollapse: "collapse",
                  fontSize: 14,
                  "& td, & th": {
                    textAlign: "left",
                    verticalAlign: "top",
                    borderBottom: 1,
                    borderColor: "divider",
                    py: 0.5,
                    pr: 1,
                  },
                }}>
                <thead>
                  <tr>
                    {!phone && <th>No.</th>}
                    <th>When, who</th>
                    {!phone && <th>Where</th>}
                    <th>{phone ? "Where, what" : "What"}</th>
                    <th>
                      <Spoken>What can be done</Spoken>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {lines.slice(0, shown).map((line) => (
                    <Line
                      key={line.id}
                      study={study.id}
                      line={line}
                      narrow={phone}
                      onCorrect={setCorrecting}
                      onSwatch={onSwatch}
                    />
                  ))}
                </tbody>
              </DataTable>
              {lines.length > shown && (
                <Button onClick={() => setShown(shown + AT_ONCE)}>Show more of {lines.length}</Button>
              )}
            </>
          )
        }
      </Awaited>
      {correcting && (
        <CorrectDialog study={study} line={correcting} bench={bench} onClose={() => setCorrecting(null)} />
      )}
    </Box>
  );
}

const KINDS: [string, string][] = [
  ["record", "reading"],
  ["done", "done"],
  ["begun", "begun"],
  ["loaded", "in"],
  ["unloaded", "taken out"],
  ["looked", "out for a look"],
  ["pulled", "pulled"],
  ["addition", "put in"],
  ["reheat", "heated again"],
  ["rinses", "rinsed"],
  ["hand", "hand"],
  ["placed", "counts as"],
  ["deviation", "went wrong"],
  ["cure", "what is done about it"],
  ["note", "note"],
];

interface LineProps {
  study: number;
  line: LogLine;
  /** Two columns of words, for a phone. */
  narrow: boolean;
  onCorrect: (line: LogLine) => void;
  onSwatch: (code: string) => void;
}

function Line({ study, line, narrow, onCorrect, onSwatch }: LineProps) {
  const over = line.replaced_by != null;
  const arrived = Date.parse(line.received_at) - Date.parse(line.entered_at) > 60_000;
  const where = (
    <>
      <strong>{line.vessel}</strong> {line.step_title}
    </>
  );
  return (
    <Box component="tr" sx={{ color: over ? "text.secondary" : "text.primary" }}>
      {!narrow && <td>{line.id}</td>}
      <td>
        {momentWords(line.at)}
        {narrow && <Box sx={{ fontSize: 12 }}>no. {line.id}</Box>}
        <Box sx={{ fontSize: 12 }}>{[line.who, line.device].filter(Boolean).join(" · ")}</Box>
        {line.entered_later && <Box sx={{ fontSize: 12 }}>entered later, {momentWords(line.entered_at)}</Box>}
        {arrived && <Box sx={{ fontSize: 12 }}>arrived {momentWords(line.received_at)}</Box>}
      </td>
      {!narrow && <td>{where}</td>}
      <Box component="td" sx={{ textDecoration: over ? "line-through" : "none" }}>
        {narrow && line.vessel && <Box sx={{ fontSize: 13 }}>{where}</Box>}
        <strong>{line.kind_words}</strong> {saidIn(line)}
        {line.swatches.length === 1 && (
          <Button
            size="small"
            className="not-printed"
            sx={{ p: 0, ml: 1, minHeight: 24 }}
            onClick={() => onSwatch(line.swatches[0] ?? "")}>
            its record
          </Button>
        )}
        {line.photo && <NotePicture study={study} photo={line.photo} of={`entry ${line.id}`} />}
      </Box>
      <td className="not-printed">
        {over ? (
          `see ${line.replaced_by ?? ""}`
        ) : line.kind === "struck" ? null : (
          <Button size="small" sx={{ p: 0, minHeight: 32 }} onClick={() => onCorrect(line)}>
            correct
          </Button>
        )}
      </td>
    </Box>
  );
}
