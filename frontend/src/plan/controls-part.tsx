import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

import type { StudyPlan, StudyView } from "../api/client";
import { keysOf } from "../shell/keys";
import { Part } from "../shell/said";
import type { Change } from "./change-plan";

type Control = NonNullable<StudyPlan["controls"]>[number];

const WORDS: Record<Control, string> = {
  undyed: "Undyed fibre",
  unmordanted: "Dyed without mordant",
  "mordanted-undyed": "Mordanted, not dyed",
  bridge: "Bridge piece in every dye vessel",
};

/** Controls proposed and counted, with what each shows. */
export function ControlsPart({ study, change }: { study: StudyView; change: Change }) {
  const plan = study.plan;
  const chosen = plan.controls ?? [];
  const offers = new Map(study.control_offers.map((offer) => [offer.control, offer]));
  const counted = (control: Control) =>
    study.grid.cells.filter((cell) => cell.key.startsWith(`control=${control};`) && cell.included).length;
  const level = (kind: "fibre" | "mordant") => plan.factors?.find((factor) => factor.kind === kind)?.levels ?? [];
  return (
    <Part title="Controls">
      <Box sx={{ fontSize: 13 }}>○ marks a control: a swatch with a treatment left out on purpose.</Box>
      {keysOf(WORDS)
        .filter((control) => chosen.includes(control) || offers.has(control))
        .map((control) => {
          const offer = offers.get(control);
          return (
            <Box key={control}>
              <FormControlLabel
                control={
                  <Checkbox
                    checked={chosen.includes(control)}
                    onChange={(_, on) =>
                      change({ controls: on ? [...chosen, control] : chosen.filter((one) => one !== control) })
                    }
                  />
                }
                label={`${WORDS[control]}: ${offer ? `+${offer.swatches}` : counted(control)}`}
              />
              {offer && (
                <Box sx={{ fontSize: 13, color: "text.secondary", ml: 4, mt: -0.75 }}>
                  {offer.shows} Often missed afterwards.
                </Box>
              )}
            </Box>
          );
        })}
      {chosen.includes("bridge") && (
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, mt: 1 }}>
          {(["fibre", "mordant"] as const).map((kind) => (
            <TextField
              key={kind}
              select
              label={`Bridge ${kind}`}
              value={plan.bridge?.[kind] ?? ""}
              onChange={(event) =>
                change({
                  bridge: {
                    fibre: plan.bridge?.fibre ?? level("fibre")[0]?.key ?? "",
                    mordant: plan.bridge?.mordant ?? level("mordant")[0]?.key ?? null,
                    [kind]: event.target.value,
                  },
                })
              }>
              {level(kind).map((one) => (
                <MenuItem key={one.key} value={one.key}>
                  {one.label}
                </MenuItem>
              ))}
            </TextField>
          ))}
        </Box>
      )}
    </Part>
  );
}
