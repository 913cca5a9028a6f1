import Box from "@mui/material/Box";
import { Fragment } from "react";

import type { GridCell } from "../api/client";

interface SwatchCodeProps {
  study: number;
  code: string;
}

/** The code of a swatch, which leads to its record. */
export function SwatchCode({ study, code }: SwatchCodeProps) {
  return (
    <Box component="a" href={`#/study/${study}/dye/swatch/${code}`} title={`The record of ${code}`} sx={{ color: "inherit", fontWeight: 700, textUnderlineOffset: 2 }}>
      {code}
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
