import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import useMediaQuery from "@mui/material/useMediaQuery";

import type { Photo, Schema, StudyView } from "../api/client";
import { Chip } from "../grid/chip";
import { Accepting } from "./accepting";
import type { Colours } from "./colours";

interface PhotoReviewProps {
  study: StudyView;
  photo: Photo;
  colours: Colours;
  onClose: () => void;
}

/** The photo with what was found drawn on it, the colours beside it, and the choice to accept. */
export function PhotoReview({ study, photo, colours, onClose }: PhotoReviewProps) {
  const narrow = useMediaQuery("(max-width: 899px)");
  const cells = photo.measurement.cells ?? [];
  const assigned = new Map(photo.sheet.assignments.map((a) => [a.cell, a]));
  const ready = cells.filter((cell) => cell.status === "measured" && assigned.has(cell.cell));
  const calibration = photo.measurement.calibration;
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth fullScreen={narrow}>
      <DialogTitle>
        {photo.filename} · sheet {photo.sheet.sheet.id}
      </DialogTitle>
      <DialogContent sx={{ display: "flex", flexDirection: { xs: "column", md: "row" }, gap: 2 }}>
        <Box sx={{ flex: 3, minWidth: 0 }}>
          <MarkedPhoto photo={photo} />
          <Box sx={{ fontSize: 13, mt: 1 }}>
            Correction: {calibration.model}. Chart patches, each predicted without itself: mean{" "}
            {calibration.residual_de00.mean.toFixed(2)}, worst {calibration.residual_de00.max.toFixed(2)} ΔE00.
          </Box>
          {calibration.warnings?.map((warning) => (
            <Box key={warning} role="note" sx={{ fontSize: 13, borderLeft: 6, pl: 1, mt: 1 }}>
              {warning}
            </Box>
          ))}
        </Box>
        <Box sx={{ flex: 2, minWidth: 0, overflowX: "auto" }}>
          <table>
            <thead>
              <tr>
                {["", "Cell", "Swatch", "L*", "a*", "b*", "±", "Level"].map((name) => (
                  <Box component="th" key={name} sx={{ textAlign: "left", px: 0.75, fontSize: 13 }}>
                    {name}
                  </Box>
                ))}
              </tr>
            </thead>
            <tbody>
              {cells.map((cell) => (
                <CellRow key={cell.cell} cell={cell} assignment={assigned.get(cell.cell)} />
              ))}
            </tbody>
          </table>
        </Box>
      </DialogContent>
      <DialogActions sx={{ flexWrap: "wrap", gap: 1, px: 3, pb: 2, pt: 1.5 }}>
        {photo.accepted ? (
          <Box sx={{ flex: 1 }}>Accepted: its readings are kept.</Box>
        ) : (
          <Accepting study={study} photo={photo} colours={colours} cells={ready.map((cell) => cell.cell)} onDone={onClose} />
        )}
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

function CellRow(props: { cell: Schema["CellMeasurement"]; assignment: Schema["Assignment"] | undefined }) {
  const { cell, assignment } = props;
  const piece = assignment && assignment.piece !== "whole" ? ` ${assignment.piece}` : "";
  return (
    <tr>
      <td>
        <Chip fills={cell.hex ? [cell.hex] : []} leftOut={cell.status === "empty"} />
      </td>
      <td>{cell.cell}</td>
      <td>
        {assignment ? assignment.swatch + piece : "–"}
        {cell.flags && cell.flags.length > 0 && <Box sx={{ fontSize: 12 }}>{cell.flags.join(", ")}</Box>}
      </td>
      {cell.lab ? (
        <>
          {cell.lab.map((value, i) => (
            <td key={i} align="right">
              {value.toFixed(1).replace("-", "−")}
            </td>
          ))}
          <td align="right">{cell.uncertainty_de00?.toFixed(1)}</td>
          <td align="right">{cell.levelness_de00?.toFixed(1)}</td>
        </>
      ) : (
        <td colSpan={5}>{cell.status}</td>
      )}
    </tr>
  );
}

function MarkedPhoto({ photo }: { photo: Photo }) {
  const [width, height] = photo.measurement.photo_size_px as [number, number];
  const points = (outline: readonly (readonly number[])[] | undefined) =>
    (outline ?? []).map((point) => point.join(",")).join(" ");
  const stroke = width / 500;
  return (
    <Box sx={{ position: "relative", bgcolor: "#777", lineHeight: 0 }}>
      <Box
        component="img"
        src={`/api/photos/${photo.id}/image?width=1200`}
        alt={`Photo of sheet ${photo.sheet.sheet.id}`}
        sx={{ width: "100%" }}
      />
      <Box
        component="svg"
        viewBox={`0 0 ${width} ${height}`}
        aria-hidden
        sx={{ position: "absolute", inset: 0, width: "100%", height: "100%" }}
      >
        {photo.measurement.patches?.map((patch) => (
          <polygon key={patch.name} points={points(patch.outline_px)} fill="none" stroke="#fff" strokeWidth={stroke / 2} />
        ))}
        {photo.measurement.cells?.map((cell) => (
          <g key={cell.cell}>
            <polygon points={points(cell.outline_px)} fill="none" stroke="#000" strokeWidth={stroke * 1.6} />
            <polygon points={points(cell.outline_px)} fill="none" stroke="#fff" strokeWidth={stroke} strokeDasharray={`${stroke * 4}`} />
          </g>
        ))}
      </Box>
    </Box>
  );
}
