import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { Schema, StudyView } from "../api/client";
import { ChoiceField } from "../shell/choice-field";
import { dayWords } from "../shell/dates";
import { Several } from "../shell/several";
import { EyeNote } from "../eye/eye-note";
import { whoIs } from "./bench-state";
import type { VesselBench } from "./bench-state";
import { useLogging } from "./outbox";

type Hand = NonNullable<Schema["NewBenchEntry"]["hand"]>;
type Evenness = NonNullable<Schema["NewBenchEntry"]["evenness"]>;
const HANDS: Hand[] = ["soft", "as before", "stiff", "sticky", "felted"];
const EVENNESS: Evenness[] = ["even", "a little uneven", "streaky", "spotted"];

/** When dry: how it feels, how even it is by eye, and when it may be read. */
export function HandForm({ study, one }: { study: StudyView; one: VesselBench }) {
  const log = useLogging(study.id);
  const [hand, setHand] = useState<Hand>("as before");
  const [evenness, setEvenness] = useState<Evenness>("even");
  const [which, setWhich] = useState<string[]>([]);
  const [noted, setNoted] = useState(false);
  const hung = one.steps[one.steps.length - 1]?.done_at;
  const note = () => {
    log({ kind: "hand", vessel: one.vessel.name, step: "dry", hand, evenness, swatches: which });
    setNoted(true);
  };
  return (
    <Box sx={{ mb: 2 }}>
      {hung && one.ready_at && (
        <Box sx={{ mb: 1 }}>
          Hung {dayWords(hung)}; dry and rested, ready to read from <strong>{dayWords(one.ready_at)}</strong>.
        </Box>
      )}
      <Box sx={{ display: "grid", gap: 1 }}>
        <Several
          label="Swatches (none: all of them)"
          options={whoIs(one).map((code) => [code, code] as const)}
          value={which}
          onChange={setWhich}
        />
        <ChoiceField label="The hand" value={hand} onChange={setHand} options={HANDS} />
        <ChoiceField label="Evenness by eye" value={evenness} onChange={setEvenness} options={EVENNESS} />
        <EyeNote />
        <Button variant="outlined" color="secondary" sx={{ minHeight: 48 }} onClick={note}>
          {noted ? "Noted; note another" : "Note it"}
        </Button>
      </Box>
    </Box>
  );
}
