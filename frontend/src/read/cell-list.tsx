import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";

import type { Photo, Schema, StudyView } from "../api/client";
import { useFlags, useShelf } from "../api/hooks";
import { cellOf, cellWords } from "../grid/cells";
import { Chip } from "../grid/chip";
import { AskedNote } from "./asked-note";
import { labWords } from "./colours";
import type { Colours } from "./colours";
import { fillsOf } from "./wanted-cells";
import type { Wanted } from "./wanted-cells";

interface CellListProps {
  study: StudyView;
  photo: Photo;
  colours: Colours;
  wanted: Wanted;
  asked: Schema["OddPiece"][];
  onChoose: (cell: string) => void;
}

/** Every piece in the photo: its colour large before the one that was read before, what was doubtful, and whether it is wanted. */
export function CellList({ study, photo, colours, wanted, asked, onChoose }: CellListProps) {
  const assigned = new Map(photo.sheet.assignments.map((one) => [one.cell, one]));
  const flags = useFlags();
  const cloths = useShelf().data?.cloths ?? [];
  const laid = photo.measurement.cells.filter((cell) => assigned.has(cell.cell) || cell.status !== "empty");
  return (
    <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }} aria-label="Pieces in the photo">
      {laid.map((cell) => {
        const assignment = assigned.get(cell.cell);
        const lying = wanted.lyingIn(cell.cell);
        const place = lying.swatch ? cellOf(study, lying.swatch) : undefined;
        const before =
          lying.swatch && (assignment?.piece ?? "whole") === "whole" ? colours.newest(lying.swatch) : undefined;
        const piece = assignment && assignment.piece !== "whole" ? ` ${assignment.piece}` : "";
        const cloth = cloths.find((one) => one.key === lying.cloth);
        const name = lying.swatch ? lying.swatch + piece : (cloth?.name ?? "no swatch");
        const known = lying.swatch !== null || lying.cloth !== null;
        return (
          <Box
            component="li"
            key={cell.cell}
            sx={{
              display: "flex",
              flexWrap: { xs: "wrap", md: "nowrap" },
              gap: 1,
              alignItems: "flex-start",
              borderBottom: 1,
              borderColor: "divider",
              py: 1,
            }}>
            <Checkbox
              checked={cell.status === "measured" && known && wanted.isWanted(cell.cell)}
              disabled={cell.status !== "measured" || !known || photo.accepted}
              onChange={(_, on) => wanted.setWanted(cell.cell, on)}
              slotProps={{ input: { "aria-label": `Accept ${name}` } }}
            />
            <Chip fills={fillsOf(cell)} leftOut={cell.status === "empty"} width={84} height={64} />
            {before && <Chip fills={[before.hex]} width={40} height={64} />}
            <Box sx={{ flex: { xs: "1 1 160px", md: 1 }, minWidth: 0, fontSize: 13 }}>
              <strong>
                {cell.cell} {name}
              </strong>{" "}
              {place && cellWords(study, place)}
              {cell.lab && wanted.hasMean(cell.cell) && (
                <div>
                  {cell.colour_words} · {labWords(cell.lab)} · ±{cell.uncertainty_de00?.toFixed(1)}
                </div>
              )}
              {assignment && lying.swatch !== assignment.swatch && <div>said instead of {assignment.swatch}</div>}
              {before && <div>right: as it was read before</div>}
              {cell.agreement_de00 != null && (
                <div>the photos lie {cell.agreement_de00.toFixed(1)} ΔE00 from their mean</div>
              )}
              {cell.zones && cell.zones.length > 1 && (
                <div>
                  {cell.zones
                    .map((zone) => `${Math.round(100 * zone.share)} % ${zone.name || zone.colour_words}`)
                    .join(", ")}
                </div>
              )}
              {cell.flags?.map((flag) => (
                <div key={flag}>
                  <strong>{flags.data?.find((one) => one.flag === flag)?.words ?? flag}</strong>
                </div>
              ))}
              {asked
                .filter((one) => one.cell === cell.cell)
                .map((one) => (
                  <AskedNote key={one.words} photo={photo} one={one} wanted={wanted} />
                ))}
            </Box>
            <Button size="small" onClick={() => onChoose(cell.cell)} aria-label={`Look closer at ${cell.cell}`}>
              Closer
            </Button>
          </Box>
        );
      })}
    </Box>
  );
}
