import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { Schema, StudyView } from "../api/client";
import { useBenchNow } from "../api/hooks";
import { tieOf } from "../grid/cells";
import { useTicking } from "../shell/ticking";
import { whoIs } from "./bench-state";
import type { StepState, VesselBench } from "./bench-state";
import { useLogging } from "./outbox";

interface IronWatchProps {
  study: StudyView;
  one: VesselBench;
  state: StepState;
  passages: readonly Schema["Passage"][];
}

/** A clock that counts up; one tap for each swatch as it is pulled. */
export function IronWatch({ study, one, state, passages }: IronWatchProps) {
  const log = useLogging(study.id);
  const ahead = useBenchNow().data?.aheadMs ?? 0;
  const now = useTicking(200) + ahead;
  const at = { vessel: one.vessel.name, step: state.step.key };
  const codes = whoIs(one);
  const pulled = new Map(
    passages.flatMap((each) =>
      each.vessel === one.vessel.name && each.seconds != null ? [[each.swatch, each.seconds] as const] : [],
    ),
  );
  if (!state.begun_at)
    return (
      <Button
        variant="contained"
        size="large"
        fullWidth
        sx={{ minHeight: 72, fontSize: 20, my: 1 }}
        onClick={() => log({ kind: "begun", ...at })}>
        All in: start the clock
      </Button>
    );
  const gone = Math.max(0, (now - Date.parse(state.begun_at)) / 1000);
  const left = codes.filter((code) => !pulled.has(code));
  return (
    <Box sx={{ my: 1 }}>
      <Box role="timer" aria-label="Seconds in the iron" sx={{ fontSize: 56, fontWeight: 700, lineHeight: 1 }}>
        {left.length > 0 ? `${Math.floor(gone)} s` : "All pulled"}
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}>
        {codes.map((code) => {
          const seconds = pulled.get(code);
          const limits = one.iron_limits[code];
          const limit = limits?.planned_s ?? limits?.most_s ?? 60;
          const late = seconds === undefined && gone > limit;
          return (
            <Button
              key={code}
              variant={seconds === undefined ? "contained" : "outlined"}
              color={seconds === undefined ? "primary" : "secondary"}
              disabled={seconds !== undefined}
              onClick={() => log({ kind: "pulled", ...at, swatches: [code] })}
              sx={{
                minHeight: 64,
                minWidth: 104,
                flexDirection: "column",
                lineHeight: 1.15,
                fontSize: 17,
                outline: late ? "4px solid" : "none",
                "&.Mui-disabled": { color: "text.primary" },
              }}>
              {seconds === undefined ? `Pull ${code}` : `${code} ✓`}
              <Box component="span" sx={{ fontSize: 12, fontWeight: 400 }}>
                {seconds !== undefined
                  ? `${seconds.toFixed(1)} s`
                  : late
                    ? `over ${limit} s: pull`
                    : `${tieOf(study, code)} · ${limits?.planned_s ? "planned" : "at most"} ${limit} s`}
              </Box>
            </Button>
          );
        })}
      </Box>
    </Box>
  );
}
