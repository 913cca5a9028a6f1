import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQuery } from "@tanstack/react-query";

import { answered, api } from "../../api/client";
import type { Schema, StudyView } from "../../api/client";
import { isElsewhere, swatchesOf } from "../../grid/cells";
import { inMyUnits } from "../../settings/quantities";
import { Part } from "../../shell/said";
import { useLogging } from "../outbox";

/** Pieces that were in a vessel where they did not belong, and as what they count. */
export function StraysPart({ study, bench }: { study: StudyView; bench: Schema["DyeView"] }) {
  const strays = bench.passages.filter((passage) => passage.stray);
  if (strays.length === 0) return null;
  return (
    <Part title="Went another way than planned">
      {strays.map((passage) => (
        <Stray
          key={`${passage.vessel} ${passage.swatch}`}
          study={study}
          code={passage.swatch}
          vessel={passage.vessel}
        />
      ))}
    </Part>
  );
}

function Stray({ study, code, vessel }: { study: StudyView; code: string; vessel: string }) {
  const log = useLogging(study.id);
  const swatch = swatchesOf(study).get(code);
  const asked = useQuery({
    queryKey: ["study", study.id, "dye", "true-place", vessel, code],
    queryFn: () =>
      answered(
        api.POST("/api/studies/{study_id}/dye/who", {
          params: { path: { study_id: study.id } },
          body: { vessel, text: code },
        }),
      ),
  });
  const offered = asked.data?.counts_as;
  const settled = swatch?.true_levels != null;
  const count = (levels: Record<string, string>) => log({ kind: "placed", vessel, swatches: [code], levels });
  return (
    <Box role="group" aria-label={`${code} in ${vessel}`} sx={{ mb: 1.5 }}>
      <strong>
        {code} was in {vessel}
      </strong>
      {settled
        ? `: it counts ${isElsewhere(study, code) ? `as it really is${offered ? ` (${offered.words})` : ""}` : "as planned all the same"}.`
        : ". Until you say as what it counts, it is left out of Compare and Tell."}
      {!settled && swatch && (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75, mt: 0.5 }}>
          {offered && (
            <Button variant="contained" sx={{ minHeight: 48 }} onClick={() => count(offered.levels)}>
              Count it as {inMyUnits(offered.words)}
            </Button>
          )}
          <Button variant="outlined" color="secondary" sx={{ minHeight: 48 }} onClick={() => count(swatch.levels)}>
            As planned all the same
          </Button>
        </Box>
      )}
    </Box>
  );
}
