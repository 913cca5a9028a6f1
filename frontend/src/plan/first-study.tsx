import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import CircularProgress from "@mui/material/CircularProgress";
import { useState } from "react";

import { useDemo, useExample } from "../api/hooks";
import { BringDialog } from "../bring/bring-dialog";
import { Word } from "../help/word";
import { ProblemNote } from "../shell/said";
import { DemoBeingMade } from "./demo-being-made";
import { FirstGrid } from "./first-grid";
import { NewStudyDialog } from "./new-study-dialog";

/** What an empty file opens with: what to do first, and what comes of it. */
export function FirstStudy({ onMade }: { onMade: (id: number) => void }) {
  const [naming, setNaming] = useState(false);
  const [bringing, setBringing] = useState(false);
  const example = useExample();
  const demo = useDemo().data;
  if (demo?.being_made) return <DemoBeingMade demo={demo} />;
  return (
    <Box
      sx={{
        flex: 1,
        overflow: "auto",
        p: { xs: 2, sm: 4 },
        display: "grid",
        gridTemplateColumns: { md: "minmax(320px, 480px) 1fr" },
        gap: 4,
        alignItems: "start",
      }}>
      <Box>
        <Box component="h2" sx={{ mt: 0, fontSize: 28, lineHeight: 1.15 }}>
          What do you want to know?
        </Box>
        <Box sx={{ fontSize: 17 }}>
          A <Word of="study">study</Word> is one question and its <Word of="grid">grid</Word> of swatches: fibres,
          mordants, dyes, pH and iron, crossed with one another. Choose a question and name your dye: a sound grid with
          its <Word of="control">controls</Word> is there in a minute, and everything in it can be changed.
        </Box>
        <Box sx={{ display: "grid", gap: 1.5, my: 3, justifyItems: "start" }}>
          <Button variant="contained" size="large" onClick={() => setNaming(true)} sx={{ minHeight: 56, fontSize: 18 }}>
            Plan the first study
          </Button>
          <Button
            variant="outlined"
            size="large"
            disabled={example.isPending}
            onClick={() => example.mutate(undefined, { onSuccess: (made) => onMade(made.study) })}>
            {example.isPending ? (
              <>
                <CircularProgress size={18} color="inherit" aria-label="Made" sx={{ mr: 1 }} /> It is dyed and
                photographed: a few seconds
              </>
            ) : (
              "Look at a worked example"
            )}
          </Button>
          <Button size="large" onClick={() => setBringing(true)}>
            Studies from a file
          </Button>
        </Box>
        <ProblemNote error={example.error} />
        <Box sx={{ color: "text.secondary", fontSize: 14 }}>
          The work then goes through six <Word of="lens">lenses</Word> on the same grid: plan it, weigh it, dye it, read
          its colours, fade them, compare them. Words with dots below them explain themselves.
        </Box>
      </Box>
      <FirstGrid />
      {bringing && <BringDialog onClose={() => setBringing(false)} onChoose={onMade} />}
      <NewStudyDialog open={naming} onClose={() => setNaming(false)} onMade={onMade} />
    </Box>
  );
}
