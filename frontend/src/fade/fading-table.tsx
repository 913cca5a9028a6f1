import type { ReactNode } from "react";

import type { Schema, StudyView } from "../api/client";
import { SwatchCode } from "../grid/swatch-code";
import { ColumnNames, DataTable } from "../shell/data-table";
import { THRESHOLDS, reachedWords } from "./fade-words";

type Fading = Schema["SwatchFading"];
type Kind = Schema["TrialView"]["plan"]["kind"];

interface FadingTableProps {
  study: StudyView;
  kind: Kind;
  swatches: readonly Fading[];
}

/** At which dose each change is reached: a line for each swatch, or a line for each change of one alone. */
export function FadingTable({ study, kind, swatches }: FadingTableProps) {
  const columns = columnsOf(kind);
  const [one] = swatches;
  const code = (swatch: string) => <SwatchCode study={study.id} code={swatch} />;
  return (
    <DataTable
      name="fading"
      sx={{
        borderCollapse: "collapse",
        fontSize: 13,
        mt: 1,
        width: "100%",
        "& th, & td": { textAlign: "left", p: 0.5, borderBottom: 1, borderColor: "divider" },
      }}>
      {swatches.length === 1 && one ? (
        <tbody>
          <tr>
            <th scope="row">Swatch</th>
            <td>{code(one.swatch)}</td>
          </tr>
          {columns.map(([words, of]) => (
            <tr key={words}>
              <th scope="row">{words}</th>
              <td>{of(one)}</td>
            </tr>
          ))}
        </tbody>
      ) : (
        <>
          <ColumnNames names={["Swatch", ...columns.map(([words]) => words)]} />
          <tbody>
            {swatches.map((fading) => (
              <tr key={fading.swatch}>
                <th scope="row">{code(fading.swatch)}</th>
                {columns.map(([words, of]) => (
                  <td key={words}>{of(fading)}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </>
      )}
    </DataTable>
  );
}

function columnsOf(kind: Kind): [string, (fading: Fading) => ReactNode][] {
  const reached = THRESHOLDS.map(([key, words]): [string, (fading: Fading) => ReactNode] => [
    words,
    ({ thresholds }) => thresholds[key] && reachedWords(kind, thresholds[key]),
  ]);
  const fastness: [string, (fading: Fading) => ReactNode] = [
    "Light fastness",
    (fading) =>
      `${fading.fastness?.words ?? ""}${fading.fastness_beside ? ` (beside the wools ${fading.fastness_beside.words})` : ""}`,
  ];
  return [["Shape", ({ model }) => model], ...reached, ...(kind === "light" ? [fastness] : [])];
}
