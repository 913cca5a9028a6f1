import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../../api/client";
import type { StudyView } from "../../api/client";
import { useBench, useChange } from "../../api/hooks";
import { DayField } from "../../shell/day-field";
import { DurationField } from "../../shell/duration-field";
import { NumberField } from "../../shell/number-field";
import { ProblemNote } from "../../shell/said";
import type { Protocol } from "./day-plan";
import { DaysOff } from "./days-off";
import { StepTimes } from "./step-times";

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const USUAL = { opens_min: 540, closes_min: 1080 };

const clock = (minutes: number) =>
  `${String(Math.floor(minutes / 60) % 24).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
const minutes = (text: string) => {
  const [h, m] = text.split(":").map(Number);
  return (h ?? 0) * 60 + (m ?? 0);
};

/** The working week, the hands, what may wait and for how long, and times of one's own. */
export function ProtocolDialog({ study, onClose }: { study: StudyView; onClose: () => void }) {
  const bench = useBench(study.id).data;
  const [own, setOwn] = useState<Protocol | null>(null);
  const protocol = own ?? bench?.protocol;
  const save = useChange(
    (changed: Protocol) =>
      answered(
        api.PUT("/api/studies/{study_id}/dye/protocol", { params: { path: { study_id: study.id } }, body: changed }),
      ),
    { study: study.id },
  );
  if (!protocol || !bench) return null;
  const change = (part: Partial<Protocol>) => setOwn({ ...protocol, ...part });
  const week = protocol.week ?? [];
  const setDay = (i: number, hours: (typeof week)[number]) =>
    change({ week: week.map((each, j) => (j === i ? hours : each)) });
  const hours = (label: string, key: "extract_keeps_h" | "dry_h" | "rest_h") => (
    <DurationField
      label={label}
      minutes={60 * (protocol[key] ?? 0)}
      onTake={(minutes) => minutes !== null && change({ [key]: minutes / 60 })}
    />
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Hours, hands and waits</DialogTitle>
      <DialogContent>
        <Box sx={{ pt: 1 }} />
        {DAYS.map((name, i) => {
          const hours = week[i];
          return (
            <Box
              key={name}
              sx={{
                display: "grid",
                gridTemplateColumns: { xs: "1fr 1fr", sm: "150px 1fr 1fr" },
                columnGap: 1,
                alignItems: "center",
                minHeight: 48,
              }}>
              <FormControlLabel
                sx={{ gridColumn: { xs: "1 / -1", sm: "auto" } }}
                control={
                  <Checkbox checked={!!hours} onChange={(event) => setDay(i, event.target.checked ? USUAL : null)} />
                }
                label={name}
              />
              {hours && (
                <>
                  <TextField
                    type="time"
                    label={`${name} from`}
                    value={clock(hours.opens_min ?? 540)}
                    onChange={(event) => setDay(i, { ...hours, opens_min: minutes(event.target.value) })}
                  />
                  <TextField
                    type="time"
                    label={`${name} until`}
                    value={clock(hours.closes_min ?? 1080)}
                    onChange={(event) => setDay(i, { ...hours, closes_min: minutes(event.target.value) })}
                  />
                </>
              )}
            </Box>
          );
        })}
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" }, gap: 1.5, mt: 2 }}>
          <NumberField
            label="Pairs of hands"
            start={protocol.pairs_of_hands}
            onTake={(pairs_of_hands) => change({ pairs_of_hands })}
          />
          {hours("An extract keeps", "extract_keeps_h")}
          {hours("Drying", "dry_h")}
          {hours("Rest before reading", "rest_h")}
          <DurationField
            label="On wet after mordanting within"
            helperText="Empty: pieces may be dried and kept between"
            minutes={protocol.wet_within_h == null ? null : 60 * protocol.wet_within_h}
            onTake={(minutes) => change({ wet_within_h: minutes === null ? null : minutes / 60 })}
          />
          <DayField
            label="Ready by"
            value={protocol.finish_by ?? ""}
            onChange={(day) => change({ finish_by: day || null })}
          />
          <DaysOff days={protocol.days_off ?? []} onChange={(days_off) => change({ days_off })} />
          <Box>
            <FormControlLabel
              control={
                <Checkbox
                  checked={protocol.scour ?? true}
                  onChange={(event) => change({ scour: event.target.checked })}
                />
              }
              label="Scour first"
            />
            <FormControlLabel
              control={
                <Checkbox
                  checked={protocol.iron_last ?? true}
                  onChange={(event) => change({ iron_last: event.target.checked })}
                />
              }
              label="Iron last in its day"
            />
          </Box>
        </Box>
        <StepTimes bench={bench} protocol={protocol} change={change} />
        <ProblemNote error={save.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave as it was</Button>
        <Button
          variant="contained"
          disabled={!own || save.isPending}
          onClick={() => own && save.mutate(own, { onSuccess: onClose })}>
          Keep these
        </Button>
      </DialogActions>
    </Dialog>
  );
}
