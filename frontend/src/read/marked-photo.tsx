import Box from "@mui/material/Box";

import type { Photo, Schema } from "../api/client";

type Outline = readonly (readonly number[])[];

export const pointsOf = (outline: Outline | undefined) => (outline ?? []).map((point) => point.join(",")).join(" ");

interface MarkedPhotoProps {
  photo: Photo;
  chosen: string | null;
  onChoose: (cell: string) => void;
}

/** The photo with chart patches, pieces and zones drawn where they were measured; a click chooses a cell. */
export function MarkedPhoto({ photo, chosen, onChoose }: MarkedPhotoProps) {
  const [width, height] = photo.measurement.photo_size_px as [number, number];
  const stroke = width / 500;
  return (
    <Box sx={{ position: "relative", bgcolor: "#777", lineHeight: 0 }}>
      <Box
        component="img"
        src={`/api/photos/${photo.id}/image?width=1600`}
        alt={photo.sheet.sheet.kind === "none" ? "Photo with a chart" : `Photo of sheet ${photo.sheet.sheet.id}`}
        sx={{ width: "100%" }}
      />
      <Box
        component="svg"
        viewBox={`0 0 ${width} ${height}`}
        aria-hidden
        sx={{ position: "absolute", inset: 0, width: "100%", height: "100%" }}>
        {photo.measurement.patches?.map((patch) => (
          <polygon
            key={patch.name}
            points={pointsOf(patch.outline_px)}
            fill="none"
            stroke="#fff"
            strokeWidth={stroke / 2}
          />
        ))}
        {photo.measurement.cells?.map((cell) => (
          <g key={cell.cell} onClick={() => onChoose(cell.cell)} style={{ cursor: "pointer" }}>
            <MarkedCell cell={cell} stroke={cell.cell === chosen ? 2 * stroke : stroke} mark={stroke} />
          </g>
        ))}
      </Box>
    </Box>
  );
}

function MarkedCell({ cell, stroke, mark }: { cell: Schema["CellMeasurement"]; stroke: number; mark: number }) {
  const asks = (cell.flags ?? []).some((flag) => !["yarn", "empty", "light not seen"].includes(flag));
  const [x, y] = cell.outline_px?.[0] ?? [0, 0];
  return (
    <>
      <polygon points={pointsOf(cell.outline_px)} fill="transparent" stroke="#000" strokeWidth={stroke * 1.6} />
      <polygon
        points={pointsOf(cell.outline_px)}
        fill="none"
        stroke="#fff"
        strokeWidth={stroke}
        strokeDasharray={`${stroke * 4}`}
      />
      {cell.zones?.map((zone) =>
        [zone.outline_px, ...(zone.more_outlines_px ?? [])].map((outline, i) => (
          <polygon
            key={`${zone.zone} ${i}`}
            points={pointsOf(outline)}
            fill="none"
            stroke="#fff"
            strokeWidth={stroke * 0.7}
          />
        )),
      )}
      {asks && (
        <g>
          <circle cx={x} cy={y} r={mark * 6} fill="#fff" stroke="#000" strokeWidth={mark} />
          <text
            x={x}
            y={y}
            fontSize={mark * 10}
            textAnchor="middle"
            dominantBaseline="central"
            fontWeight="bold"
            fill="#000">
            ?
          </text>
        </g>
      )}
    </>
  );
}
