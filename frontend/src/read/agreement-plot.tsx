import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { useChange } from "../api/hooks";
import { ProblemNote } from "../shell/said";

const SIZE = 300;
const EDGE = 16;
/** Errors of a good camera are too short to be seen as they are. */
const LONGER = 5;

/** Camera against instrument: each swatch as the instrument sees it, and a line to where the camera puts it. */
export function AgreementPlot({ study, agreement }: { study: number; agreement: Schema["Agreement"] }) {
  const { pairs, bias, teaching } = agreement;
  const teach = useChange(
    (in_use: boolean) =>
      answered(
        api.POST("/api/studies/{study_id}/instruments/teach", {
          params: { path: { study_id: study } },
          body: { camera: agreement.camera, capture: agreement.capture ?? 0, in_use },
        }),
      ),
    { study },
  );
  const as = pairs.map((one) => one.instrument_lab[1]);
  const bs = pairs.map((one) => one.instrument_lab[2]);
  const [left, right, low, high] = [
    Math.min(-10, ...as) - 5,
    Math.max(10, ...as) + 5,
    Math.min(-10, ...bs) - 5,
    Math.max(10, ...bs) + 5,
  ];
  const scale = (SIZE - 2 * EDGE) / Math.max(right - left, high - low);
  const width = (right - left) * scale + 2 * EDGE;
  const height = (high - low) * scale + 2 * EDGE;
  const x = (a: number) => EDGE + (a - left) * scale;
  const y = (b: number) => EDGE + (high - b) * scale;
  const said = (value: number) => `${value >= 0 ? "+" : "−"}${Math.abs(value).toFixed(1)}`;
  return (
    <Box sx={{ mt: 1.5, fontSize: 13 }} role="group" aria-label={`Camera against instrument: ${agreement.camera}`}>
      <strong>{agreement.camera || "Camera"} against the instrument</strong>
      <div>
        {pairs.length} {pairs.length === 1 ? "reading" : "readings"}: mean {agreement.mean_de00.toFixed(2)}, p95{" "}
        {agreement.p95_de00.toFixed(1)} ΔE00. {Math.round(100 * agreement.within_twice)} of 100 within twice the
        uncertainty that was said.
      </div>
      <div>
        Bias {agreement.bias_de00.toFixed(2)} ΔE00 (L* {said(bias[0] ?? 0)}, a* {said(bias[1] ?? 0)}, b*{" "}
        {said(bias[2] ?? 0)}); without it they scatter by {agreement.scatter_de00.toFixed(2)}.
      </div>
      {teaching && agreement.capture != null && (
        <Box sx={{ my: 1 }}>
          {teaching.is_worth_it ? (
            <>
              These {teaching.swatches} swatches can teach the camera how it sees cloth in such a light: swatches left
              out would be off by <strong>{teaching.after_de00.toFixed(2)}</strong> instead of{" "}
              {teaching.before_de00.toFixed(2)} ΔE00.
              <Button
                variant={teaching.in_use ? "text" : "outlined"}
                color="secondary"
                disabled={teach.isPending}
                onClick={() => teach.mutate(!teaching.in_use)}
                sx={{ display: "block", mt: 0.5 }}>
                {teaching.in_use ? "Stop using it" : "Teach the camera"}
              </Button>
              {teaching.in_use && "In use: new photos, and old ones that are read again, are corrected by it."}
            </>
          ) : (
            <>
              What these {teaching.swatches} swatches would teach the camera does not lower the error of swatches left
              out ({teaching.before_de00.toFixed(2)} to {teaching.after_de00.toFixed(2)} ΔE00): it is not used.
            </>
          )}
          <ProblemNote error={teach.error} />
        </Box>
      )}
      <Box
        component="svg"
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label="a* to the right, b* upwards: dots by the instrument, lines towards the camera's"
        sx={{ width: "100%", maxHeight: 420, fontSize: 11, "& text": { fill: "currentColor" } }}>
        <line x1={0} x2={width} y1={y(0)} y2={y(0)} stroke="currentColor" strokeOpacity={0.3} />
        <line y1={0} y2={height} x1={x(0)} x2={x(0)} stroke="currentColor" strokeOpacity={0.3} />
        <text x={width - 2} y={y(0) - 5} textAnchor="end">
          a*
        </text>
        <text x={x(0) + 5} y={11}>
          b*
        </text>
        {pairs.map((one, i) => {
          const [, a = 0, b = 0] = one.instrument_lab;
          const [, seenA = 0, seenB = 0] = one.camera_lab;
          return (
            <g key={i}>
              <title>{`${one.swatch}: ${one.de00.toFixed(1)} ΔE00`}</title>
              <line
                x1={x(a)}
                y1={y(b)}
                x2={x(a + LONGER * (seenA - a))}
                y2={y(b + LONGER * (seenB - b))}
                stroke="currentColor"
                strokeWidth={1.2}
              />
              <circle cx={x(a)} cy={y(b)} r={4} fill={one.instrument_hex} stroke="currentColor" strokeWidth={0.7} />
            </g>
          );
        })}
      </Box>
      <Box sx={{ fontSize: 12 }}>
        Dots: by the instrument. Lines: to where the camera puts them, {LONGER} times as long as they are.
      </Box>
    </Box>
  );
}
