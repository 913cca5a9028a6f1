import Box from "@mui/material/Box";

import type { Schema } from "../api/client";

const MOST_PAIRS = 3;

/** Two colours touching, so that the difference is seen. */
export function PairOfCloth({
  from,
  to,
  width = 92,
  height = 34,
}: {
  from: string;
  to: string;
  width?: number;
  height?: number;
}) {
  return (
    <Box sx={{ display: "flex", width, height }} aria-hidden>
      <Box sx={{ flex: 1, bgcolor: from }} />
      <Box sx={{ flex: 1, bgcolor: to }} />
    </Box>
  );
}

/** The pairs where they lie, one below the other: never a mean of colours that belong to nothing. */
export function PairsOfCloth({ at }: { at: Schema["FactorEffect"]["at"] }) {
  const some = at.slice(0, MOST_PAIRS);
  return (
    <Box aria-hidden>
      {some.map((one) => (
        <PairOfCloth
          key={Object.values(one.levels).join()}
          from={one.from_hex}
          to={one.to_hex}
          height={some.length > 1 ? 20 : 34}
        />
      ))}
    </Box>
  );
}
