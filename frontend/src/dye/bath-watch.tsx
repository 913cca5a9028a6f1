import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useEffect, useState } from "react";

import type { Schema } from "../api/client";
import { useProbes, useWatch } from "../api/hooks";
import { ChoiceField } from "../shell/choice-field";
import { ring } from "../shell/ringing";
import { BathCurve } from "./bath-curve";
import type { VesselBench } from "./bench-state";
import { useLogging } from "./outbox";
import { inMyUnits, temperatureWords } from "../settings/quantities";

/** The live curve of a bath, the probe that hangs in it, and what is wrong, said at once. */
export function BathWatch({ study, one, step }: { study: number; one: VesselBench; step: string }) {
  const probes = useProbes(true).data ?? [];
  const here = probes.find((probe) => probe.study === study && probe.vessel === one.vessel.name);
  const watch = useWatch(study, one.vessel.name, step, true).data;
  const log = useLogging(study);
  const [picked, setPicked] = useState("");
  const alarms = watch?.alarms ?? [];
  const first = alarms[0] ?? "";
  useEffect(() => {
    if (first) ring(`${one.vessel.name}: ${inMyUnits(first)}`);
  }, [first, one.vessel.name]);
  const free = probes.filter((probe) => probe !== here);
  return (
    <Box sx={{ my: 1 }}>
      {alarms.map((alarm) => (
        <Box key={alarm} role="alert" sx={{ border: 3, p: 1, my: 0.5, fontSize: 17, fontWeight: 700 }}>
          {inMyUnits(alarm)}
        </Box>
      ))}
      {here && (
        <Box sx={{ display: "flex", alignItems: "baseline", gap: 1 }}>
          <Box sx={{ fontSize: 28, fontWeight: 700 }} role="status" aria-label="Probe reads">
            {here.temperature_c != null && `${temperatureWords(here.temperature_c)} `}
            {here.ph != null && `pH ${here.ph.toFixed(1)}`}
          </Box>
          <Box sx={{ fontSize: 13, flex: 1 }}>{here.probe}</Box>
          <Button
            size="small"
            onClick={() => log({ kind: "probe", vessel: "", probe: here.probe, note: `out of ${one.vessel.name}` })}>
            Take out
          </Button>
        </Box>
      )}
      {watch && (watch.readings.length > 0 || watch.put_in.length > 0) && <BathCurve watch={watch} />}
      {!here && free.length > 0 && (
        <Box sx={{ display: "flex", gap: 1 }}>
          <ChoiceField
            label="Hang in a probe"
            value={picked}
            onChange={setPicked}
            options={free.map((probe) => [probe.probe, probeWords(probe)] as const)}
          />
          <Button
            variant="outlined"
            color="secondary"
            sx={{ minHeight: 48, flex: "none" }}
            disabled={!picked}
            onClick={() => log({ kind: "probe", vessel: one.vessel.name, step, probe: picked })}>
            Hang in
          </Button>
        </Box>
      )}
    </Box>
  );
}

function probeWords(probe: Schema["ProbeNow"]): string {
  const read = [
    probe.temperature_c != null && temperatureWords(probe.temperature_c),
    probe.ph != null && `pH ${probe.ph.toFixed(1)}`,
  ];
  const reads = read.filter(Boolean).join(", ");
  return `${probe.probe}${reads && `: ${reads}`}${probe.vessel ? " (in another bath)" : ""}`;
}
