import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import { useState } from "react";

import type { StudyView } from "../api/client";
import { useEveryStudy } from "../api/hooks";
import { ChoiceField } from "../shell/choice-field";
import { Awaited, Part } from "../shell/said";
import { DataTable } from "../shell/data-table";
import { useBeside } from "./compare-queries";
import { PairOfCloth } from "./pair-of-cloth";

const MOST = 12;

interface StudiesBesideProps {
  study: StudyView;
  onLay: (keys: string[]) => void;
  filled: number | null;
  setFilled: (study: number | null) => void;
}

/** Another study matched with this one: is it repeatable, and what differed between the runs? */
export function StudiesBeside({ study, onLay, filled, setFilled }: StudiesBesideProps) {
  const others = (useEveryStudy().data ?? []).filter((one) => one.id !== study.id && one.read_count > 0);
  const [other, setOther] = useState<number | null>(filled);
  const query = useBeside(study.id, other);
  if (others.length === 0) return null;
  return (
    <Part title="Beside another study">
      <ChoiceField
        label="Study"
        value={other ?? ""}
        onChange={setOther}
        options={others.map((one) => [one.id, one.name] as const)}
      />
      {other !== null && (
        <Awaited query={query}>
          {(found) => (
            <Box sx={{ fontSize: 13, mt: 1 }}>
              <p>{found.words}</p>
              <FormControlLabel
                control={
                  <Switch
                    color="secondary"
                    checked={filled === other}
                    onChange={(_, on) => setFilled(on ? other : null)}
                  />
                }
                label="Fill its swatches into the gaps of this grid"
              />
              {found.pairs.slice(0, MOST).map((one) => (
                <Box
                  key={one.first.join() + one.second.join()}
                  sx={{ display: "flex", gap: 1, alignItems: "center", my: 0.5 }}>
                  <PairOfCloth from={one.first_hex} to={one.second_hex} width={56} height={28} />
                  <span>
                    <strong>{one.de00.toFixed(1)}</strong> {one.first[0]} · {one.second[0]} {one.words}
                  </span>
                </Box>
              ))}
              {found.pairs.length > MOST && <div>and {found.pairs.length - MOST} closer ones</div>}
              {found.pairs.length > 0 && (
                <Button
                  variant="outlined"
                  sx={{ mt: 1 }}
                  onClick={() => onLay(found.pairs.slice(0, 20).flatMap((one) => one.keys.filter(Boolean)))}>
                  Lay these pairs
                </Button>
              )}
              {found.differs.length > 0 && (
                <DataTable
                  name="studies"
                  aria-label="What differs between the studies"
                  sx={{ mt: 1, "& td, & th": { textAlign: "left", verticalAlign: "top", pr: 1, py: 0.25 } }}>
                  <thead>
                    <tr>
                      <th>What differs</th>
                      <th>here</th>
                      <th>there</th>
                    </tr>
                  </thead>
                  <tbody>
                    {found.differs.map((one) => (
                      <tr key={one.what}>
                        <td>{one.what}</td>
                        <td>{one.first || "–"}</td>
                        <td>{one.second || "–"}</td>
                      </tr>
                    ))}
                  </tbody>
                </DataTable>
              )}
              {found.only_first.length > 0 && <div>{found.only_first.length} here have no like there.</div>}
              {found.only_second.length > 0 && <div>{found.only_second.length} there have no like here.</div>}
            </Box>
          )}
        </Awaited>
      )}
    </Part>
  );
}
