import Box from "@mui/material/Box";

interface RangeBarProps {
  value: number;
  low: number;
  high: number;
  /** The ends of the scale. */
  from: number;
  to: number;
}

/** A number with its range on a scale, with nothing (0) marked. */
export function RangeBar({ value, low, high, from, to }: RangeBarProps) {
  const at = (number: number) => `${(100 * (Math.min(Math.max(number, from), to) - from)) / (to - from)}%`;
  return (
    <Box sx={{ position: "relative", height: 16, minWidth: 60, borderBottom: 1, borderColor: "divider" }} aria-hidden>
      {from < 0 && (
        <Box
          sx={{ position: "absolute", left: at(0), top: 0, bottom: 0, borderLeft: 1, borderColor: "text.secondary" }}
        />
      )}
      <Box
        sx={{
          position: "absolute",
          left: at(low),
          width: `calc(${at(high)} - ${at(low)})`,
          top: 4,
          height: 8,
          bgcolor: "text.primary",
          opacity: 0.25,
        }}
      />
      <Box
        sx={{
          position: "absolute",
          left: at(value),
          top: 1,
          width: 3,
          height: 14,
          ml: "-1px",
          bgcolor: "text.primary",
        }}
      />
    </Box>
  );
}
