import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { PictureButton } from "../shell/file-button";
import { usePictureUrl } from "../shell/picture-url";
import { Several } from "../shell/several";
import type { VesselBench } from "./bench-state";
import { LaidMap } from "./laid-map";
import type { LaidZone } from "./laid-map";
import { useLogging } from "./outbox";

/** What lies where, drawn once when it is laid: for one cloth, or for all that are laid alike. */
export function MapForm({ study, one, step }: { study: number; one: VesselBench; step: string }) {
  const log = useLogging(study);
  const [which, setWhich] = useState<string[]>([]);
  const [moved, setMoved] = useState<LaidZone[] | null>(null);
  const [picture, setPicture] = useState<File>();
  const taken = usePictureUrl(picture);
  // What lies face to face on another mirrors its map, and needs none of its own.
  const upper = one.maps.filter((map) => map.faces != null);
  const codes = which.length > 0 ? which : one.maps.filter((map) => map.faces == null).map((map) => map.swatch);
  const first = one.maps.find((map) => codes.includes(map.swatch));
  if (!first) return null;
  const zones = moved ?? first.zones;
  const shown = taken ?? (first.photo ? `/api/studies/${study}/dye/photos/${first.photo}` : null);
  const drawn = one.maps.filter((map) => map.drawn).map((map) => map.swatch);
  const keep = () => {
    log(
      {
        kind: "laid",
        vessel: one.vessel.name,
        step,
        swatches: codes,
        zones: [...zones],
        photo: picture ? null : (first.photo ?? null),
      },
      picture,
    );
    setMoved(null);
    setPicture(undefined);
    setWhich([]);
  };
  return (
    <Box role="group" aria-label="What lies where" sx={{ display: "grid", gap: 1, my: 1 }}>
      <Several
        label={upper.length > 0 ? "On these cloths (none: on the lower ones)" : "On these cloths (none: on all)"}
        options={one.maps.map((map) => [map.swatch, map.swatch] as const)}
        value={which}
        onChange={setWhich}
      />
      <LaidMap zones={zones} label={`What lies where on ${codes.join(" ")}`} picture={shown} onChange={setMoved} />
      <Box sx={{ fontSize: 13 }}>
        Drag a zone to where it lies; draw it larger at its dark corner.
        {upper.length > 0 &&
          ` ${upper.map((map) => map.swatch).join(" ")} ${upper.length === 1 ? "lies" : "lie"} on them face to face: the same map, mirrored.`}
        {drawn.length > 0 && ` Kept already: ${drawn.join(" ")}.`}
      </Box>
      <PictureButton
        words={picture ? "Another picture of the laid cloth" : "Picture of the laid cloth"}
        label="Picture of the laid cloth"
        onPicture={setPicture}
      />
      <Button variant="outlined" color="secondary" sx={{ minHeight: 48 }} onClick={keep}>
        Keep the map of {codes.length > 4 ? `${codes.length} cloths` : codes.join(" ")}
      </Button>
    </Box>
  );
}
