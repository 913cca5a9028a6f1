import Box from "@mui/material/Box";
import { useQuery } from "@tanstack/react-query";

import { answered, api } from "../api/client";
import type { Schema, StudyView } from "../api/client";
import { inMyUnits } from "../settings/quantities";
import { Awaited, Part } from "../shell/said";
import { PairOfCloth } from "./pair-of-cloth";

/** What followed the recipe of a swatch, beside that swatch: the same, or what was otherwise. */
export function CameOutPart({ study }: { study: StudyView }) {
  const follows = study.plan.factors.some((factor) => factor.kind === "recipe");
  const query = useQuery({
    queryKey: ["study", study.id, "came-out"],
    enabled: follows,
    queryFn: () =>
      answered(api.GET("/api/studies/{study_id}/compare/came-out", { params: { path: { study_id: study.id } } })),
  });
  if (!follows) return null;
  return (
    <Part title="Did it come out the same?">
      <Awaited query={query}>
        {(found) => (
          <>
            {found.length === 0 && (
              <div>Read the new pieces; then they are laid beside the swatch that they follow.</div>
            )}
            {found.map((one) => (
              <Beside key={`${one.of_swatch} ${one.swatches.join(" ")}`} one={one} />
            ))}
          </>
        )}
      </Awaited>
    </Part>
  );
}

function Beside({ one }: { one: Schema["CameOut"] }) {
  const pieces = one.swatches.join(" ");
  return (
    <Box component="section" aria-label={`${pieces} beside ${one.of_swatch}`} sx={{ mb: 2 }}>
      <PairOfCloth from={one.of_hex} to={one.hex} width={240} height={84} />
      <Box sx={{ fontSize: 13 }}>
        {one.of_swatch}, then {pieces}
      </Box>
      <strong>{one.is_other ? `Not the same: ${one.words}` : "As two dyeings of one recipe are"}</strong>
      <div>
        ΔE00 {one.de00.toFixed(1)}; two dyeings of one recipe lie up to {one.usual_de00.toFixed(1)} apart.
      </div>
      {one.differs.map((line) => (
        <Box key={line.what} sx={{ fontSize: 13 }}>
          {inMyUnits(`${line.what}: ${line.first}, now ${line.second}`)}
        </Box>
      ))}
    </Box>
  );
}
