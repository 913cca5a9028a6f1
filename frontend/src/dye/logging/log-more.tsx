import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";
import type { ReactNode } from "react";

import type { Schema, StudyView } from "../../api/client";
import { keysOf } from "../../shell/keys";
import type { VesselBench } from "../bench-state";
import { ReadingForm } from "../reading-form";
import { AdditionForm } from "./addition-form";
import { LeftoverForm } from "./leftover-form";
import { NoteForm } from "./note-form";
import { ReheatForm } from "./reheat-form";
import { TakingOut } from "./taking-out";

const WHAT = {
  add: "Put in",
  read: "Reading",
  out: "A piece out",
  heat: "Heat again",
  note: "Note",
  left: "Keep what is left",
} as const;
type What = keyof typeof WHAT;
const HOLDS_DYE = ["dye", "overdye", "extract"];

interface LogMoreProps {
  study: StudyView;
  bench: Schema["DyeView"];
  one: VesselBench;
  step: string;
  /** Its own button, beside the others. */
  wentWrong: ReactNode;
}

/** Whatever happens, in whatever step and also after the last one. */
export function LogMore({ study, bench, one, step, wentWrong }: LogMoreProps) {
  const [open, setOpen] = useState<What | null>(null);
  const at = { vessel: one.vessel.name, step };
  const forms: Record<What, ReactNode> = {
    add: <AdditionForm study={study.id} bench={bench} one={one} step={step} />,
    read: <ReadingForm study={study.id} at={at} wantsPh={false} />,
    out: <TakingOut study={study.id} bench={bench} one={one} step={step} />,
    heat: <ReheatForm study={study.id} one={one} onBegun={() => setOpen(null)} />,
    note: <NoteForm study={study.id} one={one} />,
    left: <LeftoverForm study={study.id} one={one} />,
  };
  return (
    <Box component="section" aria-label="Log anything" sx={{ my: 1 }}>
      <Box sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr)", gap: 0.75 }}>
        {keysOf(WHAT)
          .filter((what) => what !== "left" || HOLDS_DYE.includes(one.vessel.bath))
          .map((what) => (
            <Button
              key={what}
              variant="outlined"
              color="secondary"
              aria-expanded={open === what}
              onClick={() => setOpen(open === what ? null : what)}
              sx={{ minHeight: 48, px: 0.5, borderWidth: open === what ? 2 : 1 }}>
              {WHAT[what]}
            </Button>
          ))}
        {wentWrong}
      </Box>
      {open && forms[open]}
    </Box>
  );
}
