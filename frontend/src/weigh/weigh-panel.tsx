import Box from "@mui/material/Box";
import { useState } from "react";

import type { Cell, Schema, StudyView, Vessel } from "../api/client";
import { useWeigh } from "../api/hooks";
import { Awaited, Caution, Part } from "../shell/said";

export function WeighPanel({ study, chosen }: { study: StudyView; chosen: readonly Cell[] }) {
  const weigh = useWeigh(study.id);
  const keys = new Set(chosen.map((cell) => cell.key));
  const vessels = study.vessels.filter(
    (vessel) => keys.size === 0 || vessel.cells.some((cell) => keys.has(cell)),
  );
  const total = study.cells.filter((cell) => cell.included).length * (study.plan.swatch_mass_g ?? 0);
  return (
    <Awaited query={weigh}>
      {(amounts) => (
        <>
          <Part title="Before the first bath">
            <div>
              Cut and weigh {study.cells.filter((cell) => cell.included).length} swatches of{" "}
              {study.plan.swatch_mass_g} g: {total.toFixed(0)} g of dry fibre.
            </div>
            {amounts.iron_stock && (
              <Box sx={{ mt: 1 }}>
                <FigureRow
                  name="Make up the 1 % iron stock"
                  value={`${amounts.iron_stock.grams.toFixed(2)} g in ${amounts.iron_stock.volume_ml.toFixed(0)} mL`}
                  working={amounts.iron_stock.working}
                  source="common practice: small doses are measured as volume"
                />
              </Box>
            )}
            {amounts.cautions.map((caution) => (
              <Caution key={caution}>{caution}</Caution>
            ))}
          </Part>
          {vessels.map((vessel) => {
            const own = amounts.vessels.find((one) => one.vessel === vessel.key);
            return own ? <VesselAmounts key={vessel.key} study={study} vessel={vessel} amounts={own} /> : null;
          })}
          {vessels.length === 0 && (
            <Part title="No vessel">
              {keys.size > 0 ? "The selected swatches go into no vessel." : "The plan has no baths yet."}
            </Part>
          )}
        </>
      )}
    </Awaited>
  );
}

function VesselAmounts(props: { study: StudyView; vessel: Vessel; amounts: Schema["VesselAmounts"] }) {
  const { study, vessel, amounts } = props;
  const inVessel = new Set(vessel.cells);
  const unsuited = study.advice.filter(
    (advice) =>
      vessel.route != null &&
      advice.code.startsWith(`unsuited:${vessel.route}:`) &&
      advice.cells.some((cell) => inVessel.has(cell)),
  );
  return (
    <Part title={`${vessel.name}  ${vessel.title}`}>
      <FigureRow
        name="dry fibre"
        value={`${amounts.dry_fibre_g.toFixed(1)} g`}
        working={amounts.dry_fibre_working}
        source="from the plan"
      />
      {amounts.figures.map((figure) => (
        <FigureRow
          key={figure.role + figure.name}
          name={figure.name}
          value={amountWords(figure)}
          working={figure.working}
          source={figure.source}
        />
      ))}
      {unsuited.map((advice) => (
        <Box key={advice.code} role="note" sx={{ borderLeft: 6, pl: 1, my: 0.75, fontSize: 13 }}>
          <strong>{advice.text}</strong> {advice.reason}
        </Box>
      ))}
    </Part>
  );
}

function amountWords(figure: Schema["Figure"]): string {
  const volume = figure.volume_ml;
  if (figure.role === "iron" && volume != null) return `${volume.toFixed(1)} mL of 1 % stock`;
  if (figure.grams != null) return `${figure.grams.toFixed(figure.grams < 10 ? 2 : 1)} g`;
  return volume != null && volume >= 1000 ? `${(volume / 1000).toFixed(2)} L` : `${volume?.toFixed(0)} mL`;
}

/** An amount that opens to its working. */
function FigureRow(props: { name: string; value: string; working: string; source: string }) {
  const [open, setOpen] = useState(false);
  return (
    <Box>
      <Box
        component="button"
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        sx={{
          width: "100%",
          minHeight: 36,
          display: "flex",
          gap: 1,
          alignItems: "center",
          border: 0,
          p: 0,
          bgcolor: "transparent",
          color: "inherit",
          font: "inherit",
          textAlign: "left",
          cursor: "pointer",
        }}
      >
        <Box sx={{ width: 12 }}>{open ? "−" : "+"}</Box>
        <Box sx={{ flex: 1 }}>{props.name}</Box>
        <strong>{props.value}</strong>
      </Box>
      {open && (
        <Box sx={{ pl: 2.5, pb: 1, fontSize: 13 }}>
          <div>{props.working}</div>
          <Box sx={{ color: "text.secondary" }}>{props.source}</Box>
        </Box>
      )}
    </Box>
  );
}
