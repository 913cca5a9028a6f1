import Box from "@mui/material/Box";
import { Fragment } from "react";

import { Chip } from "../grid/chip";

const ROWS = ["Wool", "Silk", "Cotton", "Linen"] as const;
const COLUMNS = ["No mordant", "Alum", "Alum, then iron"] as const;

/** The shape of what comes of a question: unread cloth, in no colour, as none was dyed. */
export function FirstGrid() {
  return (
    <Box
      aria-hidden
      sx={{
        display: { xs: "none", md: "grid" },
        gridTemplateColumns: `70px repeat(${COLUMNS.length}, 130px)`,
        gap: "14px 18px",
        alignItems: "center",
        justifyContent: "center",
        pt: 2,
      }}>
      <span />
      {COLUMNS.map((words) => (
        <Box key={words} sx={{ textAlign: "center", fontWeight: 700, fontSize: 14 }}>
          {words}
        </Box>
      ))}
      {ROWS.map((row) => (
        <Fragment key={row}>
          <Box sx={{ fontWeight: 700, fontSize: 14 }}>{row}</Box>
          {COLUMNS.map((column, i) => (
            <Box key={column} sx={{ textAlign: "center" }}>
              <Chip fills={[]} leftOut={i === 2 && (row === "Linen" || row === "Silk")} width={130} height={92} />
            </Box>
          ))}
        </Fragment>
      ))}
    </Box>
  );
}
