import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { inMyUnits } from "../../settings/quantities";
import { QuantityField } from "../../shell/quantity-field";
import { typedMinutes } from "../../shell/durations";
import { clockWords, useTicking } from "../../shell/ticking";
import type { VesselBench } from "../bench-state";
import { useLogging } from "../outbox";

/** Heating a bath once more, with a clock of its own: overnight, or because it came out too pale. */
export function ReheatForm({ study, one, onBegun }: { study: number; one: VesselBench; onBegun: () => void }) {
  const log = useLogging(study);
  const [warm, setWarm] = useState<number | null>(one.vessel.temperature_c ?? null);
  const [long, setLong] = useState("30 min");
  const [note, setNote] = useState("");
  const minutes = typedMinutes(long);
  const wrong = long.trim() !== "" && minutes === null;
  const begin = () => {
    log({ kind: "reheat", vessel: one.vessel.name, temperature_c: warm, minutes, note });
    onBegun();
  };
  return (
    <Box role="group" aria-label="Heat again" sx={{ display: "grid", gridTemplateColumns: "84px 1fr", gap: 1, my: 1 }}>
      <QuantityField label="To, °C" start={one.vessel.temperature_c} onTake={setWarm} />
      <TextField
        label="For"
        value={long}
        error={wrong}
        helperText={wrong ? "45 min, 2 h, 1 day" : ""}
        onChange={(event) => setLong(event.target.value)}
      />
      <TextField
        label="Note, such as: too pale"
        value={note}
        sx={{ gridColumn: "1 / -1" }}
        onChange={(event) => setNote(event.target.value)}
      />
      <Button
        variant="contained"
        sx={{ gridColumn: "1 / -1", minHeight: 48 }}
        disabled={wrong || Number.isNaN(warm) || (minutes === null && warm === null)}
        onClick={begin}>
        Heat it again
      </Button>
    </Box>
  );
}

/** Reheats that run at a vessel, each with its end. */
export function Reheats({ study, one }: { study: number; one: VesselBench }) {
  const log = useLogging(study);
  const now = useTicking();
  const running = one.reheats.filter((each) => each.begun_at && !each.done_at);
  return (
    <>
      {running.map((each) => (
        <Box
          key={each.key}
          role="group"
          aria-label={each.title}
          sx={{ border: 2, p: 1, my: 1, display: "flex", alignItems: "center", gap: 1 }}>
          <Box sx={{ flex: 1 }}>
            <strong>{inMyUnits(each.title)}</strong>
            <Box sx={{ fontSize: 20, fontWeight: 700 }}>
              {each.due_at
                ? clockWords((Date.parse(each.due_at) - now) / 1000)
                : clockWords((now - Date.parse(each.begun_at ?? "")) / 1000)}
            </Box>
          </Box>
          <Button
            variant="contained"
            sx={{ minHeight: 48 }}
            onClick={() => log({ kind: "done", vessel: one.vessel.name, step: each.key })}>
            Done
          </Button>
        </Box>
      ))}
    </>
  );
}
