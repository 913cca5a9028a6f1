import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";

import type { Schema, Shelf, StudyPlan } from "../api/client";
import { useShelf } from "../api/hooks";
import { LateNumber } from "../plan/late-field";
import { ChoiceField } from "../shell/choice-field";
import { Part } from "../shell/said";
import { DataTable } from "../shell/data-table";
import { inMyUnits, massWords, volumeWords } from "../settings/quantities";
import { FigureRow } from "./figure-row";

interface TotalsPartProps {
  plan: StudyPlan;
  weighing: Schema["Weighing"];
  change: (part: Partial<StudyPlan>) => void;
}

/** All that it takes, against what is in hand; water, heat, hands and waste, hot beside cold. */
export function TotalsPart({ plan, weighing, change }: TotalsPartProps) {
  const effort = weighing.effort;
  const cost = weighing.totals.reduce((sum, total) => sum + (total.cost ?? 0), 0);
  return (
    <>
      <Part title="To have ready">
        {weighing.totals.map((total) => (
          <FigureRow
            key={total.kind + total.name}
            name={total.name}
            value={total.volume_ml == null ? massWords(total.grams) : volumeWords(total.volume_ml)}
            working={total.working}
            source={inHand(total)}
          />
        ))}
        {weighing.totals
          .filter((total) => total.short_g != null && total.short_g > 0)
          .map((total) => (
            <Box key={total.name} role="note" sx={{ borderLeft: 6, pl: 1, my: 0.75, fontSize: 13 }}>
              <strong>{total.name} does not suffice:</strong> {massWords(total.short_g ?? 0)} are missing.
            </Box>
          ))}
        {cost > 0 && <Box sx={{ fontSize: 13 }}>Cost of what has a price on the Shelf: {cost.toFixed(2)}</Box>}
      </Part>
      <Part title="Water, heat, hands, waste">
        <DataTable
          name="shopping"
          sx={{
            width: "100%",
            fontSize: 13,
            borderSpacing: 0,
            "& td, & th": { textAlign: "right", py: 0.25, pl: 1 },
            "& td:first-of-type, & th:first-of-type": { textAlign: "left", pl: 0 },
          }}>
          <thead>
            <tr>
              <th>Baths</th>
              <th>L</th>
              <th>kWh</th>
              <th>h</th>
            </tr>
          </thead>
          <tbody>
            {effort.routes.map((route) => (
              <tr key={route.title}>
                <td>{inMyUnits(route.title)}</td>
                <td>{route.water_l.toFixed(1)}</td>
                <td>{route.energy_kwh.toFixed(1)}</td>
                <td>{route.hands_h.toFixed(1)}</td>
              </tr>
            ))}
            <tr>
              <th>All, with rinsing</th>
              <th>{effort.water_l.toFixed(1)}</th>
              <th>{effort.energy_kwh.toFixed(1)}</th>
              <th>{effort.hands_h.toFixed(1)}</th>
            </tr>
          </tbody>
        </DataTable>
        <Box sx={{ fontSize: 13, color: "text.secondary", mb: 1 }}>Estimates, good to about a third.</Box>
        <strong>{inMyUnits(`${effort.waste_l.toFixed(0)} L of waste`)}</strong>
        {effort.neutralise.map((line) => (
          <Box key={line} sx={{ fontSize: 13 }}>
            {inMyUnits(line)}
          </Box>
        ))}
        <FormControlLabel
          control={<Checkbox checked={plan.lidded ?? true} onChange={(_, lidded) => change({ lidded })} />}
          label="Pots have their lids on"
        />
      </Part>
      <HowWeighed plan={plan} change={change} />
      {weighing.cards.length > 0 && (
        <Part title="What is in the jars">
          {weighing.cards.map((card) => (
            <Box key={card.name} component="details" sx={{ fontSize: 13, mb: 0.5 }}>
              <Box component="summary" sx={{ cursor: "pointer", minHeight: 28 }}>
                {card.name}
              </Box>
              <div>{card.harms}</div>
              <div>Wear: {card.wear}</div>
              <div>Spilled: {card.spilled}</div>
              <div>Waste: {card.waste}</div>
              <div>Local rules and the supplier&apos;s safety sheet come first.</div>
            </Box>
          ))}
        </Part>
      )}
    </>
  );
}

function HowWeighed({ plan, change }: { plan: StudyPlan; change: (part: Partial<StudyPlan>) => void }) {
  const shelf = useShelf().data;
  const pick = (
    label: string,
    field: "scale" | "water" | "acid" | "alkali",
    items: { key: string; name: string }[],
  ) => (
    <ChoiceField
      label={label}
      value={plan[field] ?? ""}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      onChange={(chosen) => change({ [field]: chosen || null })}
      options={[["", "as usual"], ...items.map((item) => [item.key, item.name] as const)]}
    />
  );
  const adjusters = (role: "acid" | "alkali") => (shelf?.substances ?? []).filter((one) => one.role === role);
  return (
    <Part title="Weighed and adjusted with">
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
        {pick("Scale", "scale", inUse(shelf?.scales))}
        <LateNumber
          label="Wanted accuracy, %"
          value={plan.weighing_accuracy_percent ?? 5}
          onTake={(percent) => change({ weighing_accuracy_percent: percent })}
        />
        {pick("Water", "water", inUse(shelf?.waters))}
        {pick("Acid", "acid", adjusters("acid"))}
        {pick("Alkali", "alkali", adjusters("alkali"))}
      </Box>
    </Part>
  );
}

const inUse = (items: Shelf["scales"] | Shelf["waters"] | undefined) => (items ?? []).filter((one) => !one.retired);

const inHand = (total: Schema["Total"]) =>
  [
    total.in_hand_g == null ? "the amount in hand is not on the Shelf" : `in hand: ${massWords(total.in_hand_g)}`,
    ...(total.cost == null ? [] : [`cost ${total.cost.toFixed(2)}`]),
  ].join("; ");
