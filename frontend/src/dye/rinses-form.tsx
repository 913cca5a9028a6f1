import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { Schema } from "../api/client";
import { ChoiceField } from "../shell/choice-field";
import { useLogging, useOutbox } from "./outbox";

interface RinsesFormProps {
  study: number;
  at: { vessel: string; step: string };
  entries: readonly Schema["BenchEntry"][];
  standing: readonly number[];
}

type Bleeding = NonNullable<Schema["NewBenchEntry"]["bled"]>;

/** One tap a rinse; then whether the water is clear and how much came out. */
export function RinsesForm({ study, at, entries, standing }: RinsesFormProps) {
  const log = useLogging(study);
  const waiting = useOutbox().map((one) => one.entry);
  const known = new Set(entries.map((entry) => entry.key));
  const stands = new Set(standing);
  const own = [
    ...entries.filter((entry) => stands.has(entry.id)),
    ...waiting.filter((entry) => !known.has(entry.key)),
  ].filter((entry) => entry.kind === "rinses" && entry.vessel === at.vessel && entry.step === at.step);
  const count = own[own.length - 1]?.count ?? 0;
  const [bled, setBled] = useState<Bleeding>("a little");
  return (
    <Box sx={{ my: 1 }}>
      <Box sx={{ fontSize: 20, fontWeight: 700 }} aria-live="polite">
        {count} {count === 1 ? "rinse" : "rinses"}
        {own[own.length - 1]?.clear ? ", clear" : ""}
      </Box>
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <ChoiceField label="It bleeds" value={bled} onChange={setBled} options={["none", "a little", "much"]} />
        <Button
          variant="outlined"
          color="secondary"
          fullWidth
          sx={{ minHeight: 52 }}
          onClick={() => log({ kind: "rinses", ...at, count: count + 1, clear: false, bled })}>
          One more
        </Button>
        <Button
          variant="outlined"
          color="secondary"
          fullWidth
          sx={{ minHeight: 52 }}
          onClick={() => log({ kind: "rinses", ...at, count: count + 1, clear: true, bled })}>
          Clear now
        </Button>
      </Box>
    </Box>
  );
}
