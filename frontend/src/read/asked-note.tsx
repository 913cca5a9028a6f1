import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { Photo, Schema } from "../api/client";
import { Chip } from "../grid/chip";
import type { Wanted } from "./wanted-cells";

interface AskedNoteProps {
  photo: Photo;
  one: Schema["OddPiece"];
  wanted: Wanted;
}

/** A piece that is other than was to be expected; where it may be another swatch, that is said with one press. */
export function AskedNote({ photo, one, wanted }: AskedNoteProps) {
  const other = one.looks_like ?? null;
  const elsewhere = photo.sheet.assignments.find((there) => there.swatch === other)?.cell;
  const isSo = () => {
    wanted.setLying(one.cell, { swatch: other, cloth: null });
    if (elsewhere) wanted.setLying(elsewhere, { swatch: one.swatch, cloth: null });
  };
  const done = other !== null && wanted.lyingIn(one.cell).swatch === other;
  return (
    <Box
      role="note"
      sx={{
        display: "flex",
        flexWrap: "wrap",
        gap: 1,
        alignItems: "center",
        borderLeft: 6,
        pl: 1,
        mt: 0.5,
        fontSize: 13,
      }}>
      {one.expected_hex && <Chip fills={[one.expected_hex]} />}
      <strong>{one.words}</strong>
      {other !== null && !photo.accepted && !done && (
        <Button size="small" variant="outlined" color="secondary" onClick={isSo}>
          {elsewhere ? `Yes: ${other} here, ${one.swatch} in ${elsewhere}` : `Yes: it is ${other}`}
        </Button>
      )}
      {done && <span>Said so.</span>}
    </Box>
  );
}
