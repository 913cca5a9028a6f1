import Box from "@mui/material/Box";

import type { Schema, StudyView, Vessel } from "../api/client";
import { tieOf } from "../grid/cells";
import { counted } from "../shell/counted";
import { Caution } from "../shell/said";
import { inMyUnits, massWords, volumeWords } from "../settings/quantities";
import { amountWords } from "./amount-words";
import { FigureRow } from "./figure-row";
import { PhCorrection } from "./ph-correction";

interface VesselCardProps {
  study: StudyView;
  vessel: Vessel;
  weighing: Schema["Weighing"];
}

/** One bath: everything in the order in which it goes in, its heat, and its cautions. */
export function VesselCard({ study, vessel, weighing }: VesselCardProps) {
  const own = weighing.vessels.find((one) => one.vessel === vessel.name);
  const effort = weighing.effort.vessels.find((one) => one.vessel === vessel.name);
  if (!own) return null;
  const inVessel = new Set(vessel.cells);
  const unsuited = study.advice.filter(
    (advice) =>
      vessel.route != null &&
      advice.code.startsWith(`unsuited:${vessel.route}:`) &&
      advice.cells.some((cell) => inVessel.has(cell)),
  );
  return (
    <Box sx={{ pb: 1.5 }}>
      <Box sx={{ fontSize: 13, color: "text.secondary" }}>
        {vessel.on_shelf_name || "no vessel on the Shelf fits"} · {volumeWords(vessel.volume_ml)} ·{" "}
        {counted(vessel.swatches.length, "swatch")}
        {study.begun.includes(vessel.name) && <strong> · begun: as it was then</strong>}
      </Box>
      <FigureRow
        name="who goes in, by position"
        value={counted(vessel.swatches.length, "swatch")}
        working={vessel.swatches.map((code) => `${code} (${tieOf(study, code)})`).join("  ")}
        source={`code and tie, in random order; vessel run as number ${vessel.run_order}`}
      />
      <FigureRow
        name="dry fibre"
        value={massWords(own.dry_fibre_g)}
        working={own.dry_fibre_working}
        source={study.begun.includes(vessel.name) ? "as it was begun" : "from the plan"}
      />
      {own.figures.map((figure) => (
        <FigureRow
          key={figure.role + figure.name + figure.moment}
          name={figureName(figure)}
          value={
            figure.role === "dye stuff" && figure.words && figure.grams != null
              ? `${amountWords(figure)} = ${figure.words}`
              : amountWords(figure)
          }
          working={figure.working}
          source={figure.source}
        />
      ))}
      {own.ph && <VesselPh ph={own.ph} />}
      {own.course.map((after, i) => (
        <Box key={i} sx={{ fontSize: 13, my: 0.5 }}>
          <strong>
            {after.name}, {after.moment}:
          </strong>{" "}
          pH {after.ph_before.toFixed(1)} → {after.ph_after.toFixed(1)} in your water alone; a plant bath moves less.
          {after.warnings.map((warning) => (
            <Caution key={warning}>{warning}</Caution>
          ))}
        </Box>
      ))}
      {effort && (effort.heat.warm_kwh > 0 || effort.heat.steam_water_l != null) && (
        <FigureRow
          name={effort.heat.steam_water_l != null ? "steamer water and heat" : "heat"}
          value={`${effort.heat.steam_water_l != null ? `${inMyUnits(`${effort.heat.steam_water_l.toFixed(1)} L`)}, ` : ""}${(effort.heat.warm_kwh + effort.heat.hold_kwh).toFixed(2)} kWh`}
          working={`${effort.heat.working}. Hands: ${effort.hands_working}.`}
          source="estimate, good to about a third"
        />
      )}
      {(weighing.vessel_cautions[vessel.name] ?? []).map((caution) => (
        <Caution key={caution}>{caution}</Caution>
      ))}
      {unsuited.map((advice) => (
        <Box key={advice.code} role="note" sx={{ borderLeft: 6, pl: 1, my: 0.75, fontSize: 13 }}>
          <strong>{inMyUnits(advice.text)}</strong> {inMyUnits(advice.reason)}
        </Box>
      ))}
    </Box>
  );
}

function figureName(figure: Schema["Figure"]): string {
  if (figure.moment) return `${figure.name}, ${figure.moment}`;
  return figure.role === "adjuster" ? `${figure.name}, ${figure.words}` : figure.name;
}

function VesselPh({ ph }: { ph: Schema["VesselPh"] }) {
  return (
    <Box sx={{ fontSize: 13, my: 0.5 }}>
      <strong>To pH {ph.target_ph}.</strong> {inMyUnits(ph.words)}
      {ph.warnings.map((warning) => (
        <Caution key={warning}>{warning}</Caution>
      ))}
      {ph.question && <PhCorrection question={ph.question} />}
    </Box>
  );
}
