import Box from "@mui/material/Box";
import { Fragment } from "react";

import type { GridCell, Schema } from "../api/client";

interface SwatchCodeProps {
  study: number;
  code: string;
  /** What is written in place of the code. */
  words?: string;
}

/** The code of a swatch, which leads to its record. */
export function SwatchCode({ study, code, words }: SwatchCodeProps) {
  return (
    <Box
      component="a"
      href={`#/study/${study}/dye/swatch/${code}`}
      title={`The record of ${code}`}
      sx={{ color: "inherit", fontWeight: 700, textUnderlineOffset: 2 }}>
      {words ?? code}
    </Box>
  );
}

/** The codes of a cell's swatches, each of which leads to its record. */
export function CellCodes({ study, cell }: { study: number; cell: GridCell }) {
  return cell.swatches.map((code, i) => (
    <Fragment key={code}>
      {i > 0 && " "}
      <SwatchCode study={study} code={code} />
    </Fragment>
  ));
}

/** The name of anything that has a colour; that of a swatch leads to its record. */
export function PieceName({ piece }: { piece: Schema["Coloured"] }) {
  return piece.study != null && piece.code ? (
    <SwatchCode study={piece.study} code={piece.code} words={piece.name} />
  ) : (
    <strong>{piece.name}</strong>
  );
}
