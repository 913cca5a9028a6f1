import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { Fragment, useState } from "react";

import type { Schema, StudyView } from "../api/client";
import { useChoices, useShelf } from "../api/hooks";
import { cellKeysOf } from "../grid/cells";
import { inRunOrder } from "../grid/run-order";
import type { Selection } from "../grid/selection";
import { counted } from "../shell/counted";
import { inMyUnits } from "../settings/quantities";
import { Part } from "../shell/said";
import type { Change } from "./change-plan";
import { OwnVesselForm } from "./own-vessel-form";

const SETTING: Record<string, Record<string, string>> = {
  mordants_in_dye_bath: { together: "All mordants in one dye bath", apart: "A dye bath for each mordant" },
  iron_with_alum: { apart: "Iron pieces apart from alum pieces", together: "Iron and alum pieces in one bath" },
  taken_out: { apart: "A bath for each duration", "one vessel": "Taken out of one bath at different times" },
  replicate_vessels: { shared: "Repeats share a pot", apart: "Repeats in runs of their own" },
};

/** The vessels, what a different choice would cost, and the random order. */
export function VesselsPart({ study, selection, change }: { study: StudyView; selection: Selection; change: Change }) {
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<string | null>(null);
  const shelf = useShelf();
  const choices = useChoices(study.id);
  const inOrder = inRunOrder(study.vessels);
  const shown = open ? inOrder : inOrder.slice(0, 8);
  const litres =
    study.vessels.filter((vessel) => !vessel.liquor_of).reduce((sum, vessel) => sum + vessel.volume_ml, 0) / 1000;
  return (
    <>
      <Part title={`Vessels: ${study.vessels.length}, ${inMyUnits(`${litres.toFixed(1)} L`)}`}>
        {shown.map((vessel) => (
          <Fragment key={vessel.name}>
            <Box sx={{ display: "flex", alignItems: "baseline", fontSize: 13, gap: 1, py: 0.25 }}>
              <strong>
                {vessel.name}
                {study.begun.includes(vessel.name) && " ✓"}
              </strong>
              <Box sx={{ flex: 1 }}>
                {inMyUnits(vessel.title)}
                <Box sx={{ color: "text.secondary" }}>
                  {study.begun.includes(vessel.name) && "begun, stays as it is; "}
                  {vessel.on_shelf_name || "no vessel on the Shelf fits"}, {(vessel.volume_ml / 1000).toFixed(2)} L
                  {vessel.liquor_of ? `, the liquor of ${vessel.liquor_of}` : ""}, run as number {vessel.run_order}
                </Box>
              </Box>
              <Button
                size="small"
                sx={{ minHeight: 24 }}
                onClick={() => selection.replace(cellKeysOf(study, vessel.swatches))}>
                {counted(vessel.swatches.length, "swatch")}
              </Button>
              {!study.begun.includes(vessel.name) && !vessel.liquor_of && (
                <Button
                  size="small"
                  sx={{ minHeight: 24, minWidth: 0 }}
                  aria-label={`Choose the vessel of ${vessel.name}`}
                  onClick={() => setChosen(chosen === vessel.name ? null : vessel.name)}>
                  vessel
                </Button>
              )}
            </Box>
            {chosen === vessel.name && shelf.data && (
              <OwnVesselForm
                plan={study.plan}
                shelf={shelf.data}
                vessel={vessel}
                change={change}
                onClose={() => setChosen(null)}
              />
            )}
          </Fragment>
        ))}
        {study.vessels.length > 8 && (
          <Button size="small" onClick={() => setOpen(!open)}>
            {open ? "Show fewer" : `Show all ${study.vessels.length}`}
          </Button>
        )}
      </Part>
      {choices.data?.map((choice) => (
        <ChoicePart key={choice.field} choice={choice} change={change} />
      ))}
      <Part title="Random order">
        <Box sx={{ fontSize: 13, mb: 1 }}>
          Vessels are run, and swatches take their positions, in a random order, so that the hour of the day and the
          place in the pot do not pass for an effect. Seed {study.plan.order_seed ?? 1}.
        </Box>
        <Button variant="outlined" onClick={() => change({ order_seed: (study.plan.order_seed ?? 1) + 1 })}>
          Shuffle again
        </Button>
      </Part>
    </>
  );
}

function ChoicePart({ choice, change }: { choice: Schema["OtherChoice"]; change: Change }) {
  const names = SETTING[choice.field] ?? {};
  const more = choice.vessels_other - choice.vessels_now;
  const cost =
    more === 0
      ? "the same number of vessels"
      : `${Math.abs(more)} vessel${Math.abs(more) === 1 ? "" : "s"} ${more > 0 ? "more" : "fewer"}`;
  return (
    <Part title={names[choice.now] ?? choice.now}>
      <Box sx={{ fontSize: 13 }}>{choice.reason_now}</Box>
      <Box sx={{ fontSize: 13, my: 0.75 }}>
        <strong>{names[choice.other]}</strong> would take {cost}. {choice.reason_other}
      </Box>
      <Button variant="outlined" size="small" onClick={() => change({ [choice.field]: choice.other })}>
        Choose that
      </Button>
    </Part>
  );
}
