import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { BringDialog } from "../bring/bring-dialog";
import { Chip } from "../grid/chip";
import { NewStudyDialog } from "./new-study-dialog";

export function FirstStudy({ onMade }: { onMade: (id: number) => void }) {
  const [naming, setNaming] = useState(false);
  const [bringing, setBringing] = useState(false);
  return (
    <Box sx={{ p: 4, maxWidth: 560 }}>
      <Box sx={{ display: "flex", gap: 1, mb: 2 }}>
        {[0, 1, 2, 3].map((i) => (
          <Chip key={i} fills={[]} width={64} height={48} />
        ))}
      </Box>
      <h1>No study yet</h1>
      <p>
        A study is one question and its grid of swatches: fibres, mordants, dyes, pH and iron, crossed with
        one another. Name it, then say what to cross.
      </p>
      <Button variant="contained" size="large" onClick={() => setNaming(true)}>
        Plan the first study
      </Button>{" "}
      <Button size="large" onClick={() => setBringing(true)}>
        Studies from a file
      </Button>
      {bringing && <BringDialog onClose={() => setBringing(false)} onChoose={onMade} />}
      <NewStudyDialog open={naming} onClose={() => setNaming(false)} onMade={onMade} />
    </Box>
  );
}
