import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Photo, Schema, StudyView } from "../api/client";
import { useBench, useChange, useFlags } from "../api/hooks";
import { LaidMap } from "../dye/laid-map";
import { cellOf, cellWords } from "../grid/cells";
import { Chip } from "../grid/chip";
import { zonesOn } from "../grid/zones";
import { ProblemNote } from "../shell/said";
import { AskedNote } from "./asked-note";
import { labWords } from "./colours";
import type { Colours } from "./colours";
import { OutlineEditor } from "./outline-editor";
import { WhatLiesHere } from "./what-lies-here";
import { fillsOf } from "./wanted-cells";
import type { Cell, Piece, Wanted } from "./wanted-cells";

type ByHand = Schema["CellByHand"];
const VIEWS = [
  ["photo", "As photographed"],
  ["use", "What was used"],
  ["levelness", "Levelness"],
] as const;

interface CellDetailProps {
  study: StudyView;
  photo: Photo;
  cell: Cell;
  colours: Colours;
  wanted: Wanted;
  asked: Schema["OddPiece"][];
  onBack: () => void;
}

/** One cell close up: the pixels behind its number, its zones by name, and what a person says against what was found. */
export function CellDetail({ study, photo, cell, colours, wanted, asked, onBack }: CellDetailProps) {
  const [view, setView] = useState<(typeof VIEWS)[number][0]>("use");
  const noSheet = photo.sheet.sheet.kind === "none";
  const [drawing, setDrawing] = useState(noSheet && cell.status === "empty");
  const flags = useFlags();
  const assignment = photo.sheet.assignments.find((one) => one.cell === cell.cell);
  const { swatch } = wanted.lyingIn(cell.cell);
  const place = swatch ? cellOf(study, swatch) : undefined;
  const before = swatch && (assignment?.piece ?? "whole") === "whole" ? colours.newest(swatch) : undefined;
  const again = useChange(
    (said: ByHand) =>
      answered(
        api.POST("/api/photos/{photo_id}/measure", {
          params: { path: { photo_id: photo.id } },
          body: { cells: [said], join: [] },
        }),
      ),
    { study: study.id },
  );
  const zoneNames = swatch ? zonesOn(study, swatch) : [];
  const bench = useBench(study.id);
  const map = bench.data?.vessels.flatMap((one) => one.maps).find((one) => one.swatch === swatch);
  const plain = (change: Partial<ByHand> = {}): ByHand => ({
    cell: cell.cell,
    zone_count: 0,
    areas: [],
    left_out: [],
    empty: false,
    opaque: false,
    ...change,
  });
  const count = Math.max(1, cell.zones?.length ?? 1);
  if (drawing)
    return (
      <OutlineEditor
        photo={photo}
        cell={cell}
        pending={again.isPending}
        error={again.error}
        onMeasure={(said) => again.mutate(said, { onSuccess: () => setDrawing(false) })}
        onCancel={() => setDrawing(false)}
      />
    );
  return (
    <Box role="group" aria-label={`Cell ${cell.cell}`} sx={{ fontSize: 14 }}>
      <Button onClick={onBack} sx={{ mb: 0.5 }}>
        All pieces
      </Button>
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "center" }}>
        <Chip fills={fillsOf(cell)} leftOut={cell.status === "empty"} width={120} height={92} />
        {before && <Chip fills={[before.hex]} width={56} height={92} />}
        <Box>
          <strong>
            {cell.cell} {swatch}
          </strong>{" "}
          {place && cellWords(study, place)}
          {cell.lab && !wanted.hasMean(cell.cell) ? (
            <div>read by its zones</div>
          ) : cell.lab ? (
            <>
              <div>{cell.colour_words}</div>
              <div>
                {labWords(cell.lab)} · ±{cell.uncertainty_de00?.toFixed(1)} ΔE00
              </div>
            </>
          ) : (
            <div>{cell.status}</div>
          )}
          {before && <div>right: as it was read before</div>}
          {cell.unevenness && <div>{unevenWords(cell.unevenness)}</div>}
        </Box>
      </Box>
      {cell.flags?.map((flag) => {
        const said = flags.data?.find((one) => one.flag === flag);
        return (
          <Box key={flag} role="note" sx={{ borderLeft: 6, pl: 1, mt: 1, fontSize: 13 }}>
            <strong>{said?.words ?? flag}</strong> {said?.cure}
            {flag === "see-through" && cell.as_seen_lab && (
              <Box>
                As it is seen: {labWords(cell.as_seen_lab)}.{" "}
                <Button size="small" disabled={again.isPending} onClick={() => again.mutate(plain({ opaque: true }))}>
                  Nothing shows through
                </Button>
              </Box>
            )}
          </Box>
        );
      })}
      {asked
        .filter((one) => one.cell === cell.cell)
        .map((one) => (
          <AskedNote key={one.words} photo={photo} one={one} wanted={wanted} />
        ))}
      {cell.status === "measured" && !photo.accepted && (
        <Box sx={{ mt: 1.5 }}>
          <WhatLiesHere
            study={study}
            label="What lies here"
            none="nothing that is to be kept"
            value={wanted.lyingIn(cell.cell)}
            onChange={(lying) => wanted.setLying(cell.cell, lying)}
          />
        </Box>
      )}
      {cell.parts && (
        <Box component="details" sx={{ mt: 1, fontSize: 13 }}>
          <summary>What the uncertainty is made of</summary>
          {partsWords(cell.parts)}
        </Box>
      )}
      {cell.status === "measured" && !noSheet && (
        <>
          <ToggleButtonGroup
            exclusive
            size="small"
            value={view}
            onChange={(_, next: typeof view | null) => next && setView(next)}
            aria-label="Pixels"
            sx={{ mt: 1 }}>
            {VIEWS.map(([key, words]) => (
              <ToggleButton key={key} value={key}>
                {words}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
          <Box
            component="img"
            src={`/api/photos/${photo.id}/cells/${cell.cell}.png?shown=${view}&of=${photo.measurement_id}`}
            alt={`Cell ${cell.cell}: ${VIEWS.find(([key]) => key === view)?.[1]}`}
            sx={{ display: "block", width: "100%", maxWidth: 460, mt: 1, bgcolor: "#777", imageRendering: "pixelated" }}
          />
          <Box sx={{ fontSize: 12 }}>
            {view === "use" &&
              "Bright: measured. Dim: page, edge and borders between zones. Dotted: glare, or the shadow between strands."}
            {view === "levelness" && "Light: the mean of the piece. Black: 6 ΔE00 from it, or more."}
          </Box>
        </>
      )}
      {map && (
        <LaidMap
          zones={map.zones}
          label={`What lies where on ${swatch}`}
          picture={map.photo ? `/api/studies/${study.id}/dye/photos/${map.photo}` : null}
        />
      )}
      {zoneNames.length > 0 && (cell.zones ?? []).length === 0 && (
        <Autocomplete
          freeSolo
          size="small"
          slotProps={{ paper: { elevation: 6 } }}
          sx={{ mt: 1 }}
          options={zoneNames}
          inputValue={wanted.nameOf(cell.cell, "")}
          onInputChange={(_, name) => wanted.setName(cell.cell, "", name)}
          renderInput={(params) => (
            <TextField {...params} label="Which place or zone of it this is; empty: the whole" />
          )}
        />
      )}
      {(cell.zones ?? []).map((zone) => (
        <Box
          key={zone.zone}
          role="group"
          aria-label={`Zone ${zone.zone}`}
          sx={{ display: "grid", gridTemplateColumns: "56px 1fr 1fr", gap: 1, alignItems: "center", mt: 1 }}>
          <Chip fills={[zone.hex]} width={56} height={44} />
          <Autocomplete
            freeSolo
            size="small"
            slotProps={{ paper: { elevation: 6 } }}
            options={zoneNames}
            inputValue={wanted.nameOf(cell.cell, zone.zone)}
            onInputChange={(_, name) => wanted.setName(cell.cell, zone.zone, name)}
            renderInput={(params) => (
              <TextField {...params} label={`Name of zone ${zone.zone}, ${Math.round(100 * zone.share)} %`} />
            )}
          />
          {photo.sheet.trial ? (
            <TextField
              select
              size="small"
              label="It is"
              value={wanted.pieceOf(cell.cell, zone.zone)}
              onChange={(event) => wanted.setPiece(cell.cell, zone.zone, event.target.value as "" | Piece)}
              slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}>
              <MenuItem value="">a part of the piece</MenuItem>
              <MenuItem value="dark">the covered half</MenuItem>
              <MenuItem value="light">the exposed half</MenuItem>
              {wanted.pieceOf(cell.cell, zone.zone) === "neighbour" && (
                <MenuItem value="neighbour">a white neighbour</MenuItem>
              )}
            </TextField>
          ) : (
            <Box sx={{ fontSize: 13 }}>
              {labWords(zone.lab)} ±{zone.uncertainty_de00.toFixed(1)}
            </Box>
          )}
        </Box>
      ))}
      <ProblemNote error={again.error} />
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1.5 }}>
        {!noSheet && (
          <>
            <Button
              variant="outlined"
              color="secondary"
              disabled={again.isPending || count < 2}
              onClick={() => again.mutate(plain({ zone_count: count - 1 }))}>
              One colour fewer
            </Button>
            <Button
              variant="outlined"
              color="secondary"
              disabled={again.isPending || count > 5}
              onClick={() => again.mutate(plain({ zone_count: count + 1 }))}>
              One colour more
            </Button>
          </>
        )}
        <Button variant="outlined" color="secondary" disabled={again.isPending} onClick={() => setDrawing(true)}>
          Draw by hand
        </Button>
        <Button
          variant="outlined"
          color="secondary"
          disabled={again.isPending}
          onClick={() => again.mutate(plain({ empty: true }))}>
          Nothing lies here
        </Button>
        {!noSheet && (
          <Button disabled={again.isPending} onClick={() => again.mutate(plain())}>
            As it was found
          </Button>
        )}
      </Box>
    </Box>
  );
}

function unevenWords(found: Schema["Unevenness"]): string {
  const said = [`uneven by ${found.rms_de00.toFixed(1)} ΔE00, at worst ${found.worst_de00.toFixed(1)}`];
  if (found.blotch_mm) said.push(`blotches about ${found.blotch_mm.toFixed(0)} mm wide`);
  if (found.streaks != null && found.streaks > 0.5) said.push(`in streaks at ${found.streak_angle_deg?.toFixed(0)}°`);
  return said.join(", ");
}

function partsWords(parts: Schema["UncertaintyParts"]): string {
  const named: [string, number | undefined][] = [
    ["chart", parts.chart_de00],
    ["light", parts.light_de00],
    ["evenness", parts.evenness_de00],
    ["cloth is no paint", parts.material_de00],
    ["rendering", parts.rendering_de00],
    ["what shows through", parts.backing_de00],
  ];
  return named
    .filter(([, value]) => value)
    .map(([name, value]) => `${name} ${value?.toFixed(2)}`)
    .join(", ");
}
