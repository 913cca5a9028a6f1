import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { GridCell, StudyView } from "../../api/client";
import { cellKeysOf } from "../../grid/cells";
import type { Selection } from "../../grid/selection";
import { usePlace } from "../../shell/place";
import { Part } from "../../shell/said";
import type { Change } from "../change-plan";

interface TreatmentsPartProps {
  study: StudyView;
  selection: Selection;
  chosen: readonly GridCell[];
  change: Change;
}

/** What is done to swatches beyond the baths of their levels, and where they come from and go. */
export function TreatmentsPart({ study, selection, chosen, change }: TreatmentsPartProps) {
  const { treatments } = study.plan;
  const [, go] = usePlace();
  const begun = new Set(study.begun);
  const relatives = [
    ["Comes from", study.comes_from],
    ["Goes on in", study.goes_into],
  ] as const;
  return (
    <>
      {chosen.length === 0 && (
        <Part title="Go on from what is there">
          <Box sx={{ fontSize: 13 }}>
            Select swatches in the grid, dyed or not: iron, another pH, a second dye, the same bath again or a wash can
            follow for all or a part of them, or their cloth can be the start of a new study.
          </Box>
        </Part>
      )}
      <Part title={`Further treatments: ${treatments.length}`}>
        {treatments.map((one) => {
          const vessel = study.vessels.find((each) => each.treatment === one.key);
          const fixed = vessel !== undefined && begun.has(vessel.name);
          return (
            <Box key={one.key} sx={{ mb: 1, fontSize: 13 }}>
              <strong>
                {vessel ? `${vessel.name} ` : ""}
                {one.name}
              </strong>
              : {one.swatches.length} {one.swatches.length === 1 ? "swatch" : "swatches"}
              {fixed && ", begun"}{" "}
              <Button
                size="small"
                sx={{ minHeight: 24, p: 0, mr: 1 }}
                onClick={() => selection.replace(cellKeysOf(study, one.swatches))}>
                Show them
              </Button>
              {vessel && (
                <Button
                  size="small"
                  sx={{ minHeight: 24, p: 0, mr: 1 }}
                  onClick={() => go({ study: study.id, view: "dye", part: `at/${vessel.name}` })}>
                  To the bench
                </Button>
              )}
              {!fixed && (
                <Button
                  size="small"
                  sx={{ minHeight: 24, p: 0 }}
                  onClick={() => change({ treatments: treatments.filter((other) => other.key !== one.key) })}>
                  Take it out
                </Button>
              )}
            </Box>
          );
        })}
        {treatments.length === 0 && <Box sx={{ fontSize: 13 }}>None is planned.</Box>}
      </Part>
      {relatives.map(
        ([title, studies]) =>
          studies.length > 0 && (
            <Part key={title} title={title}>
              {studies.map((one) => (
                <Button key={one.study} onClick={() => go({ study: one.study, view: "plan" })}>
                  {one.study_name}
                </Button>
              ))}
            </Part>
          ),
      )}
    </>
  );
}
