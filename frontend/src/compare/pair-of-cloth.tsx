import Box from "@mui/material/Box";

/** Both mean colours touching, so that the difference is seen. */
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
