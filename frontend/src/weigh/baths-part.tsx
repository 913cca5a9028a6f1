import Box from "@mui/material/Box";
import { useState } from "react";

import type { Schema, StudyView, Vessel } from "../api/client";
import { inMyUnits, volumeWords } from "../settings/quantities";
import { counted } from "../shell/counted";
import { Caution } from "../shell/said";
import { namesInShort } from "./names-in-short";
import { VesselCard } from "./vessel-card";

interface BathsPartProps {
  study: StudyView;
  vessels: readonly Vessel[];
  weighing: Schema["Weighing"];
}

/** The baths in the order of the work, one of them open with its cautions; below, each caution once for all baths that it concerns. */
export function BathsPart({ study, vessels, weighing }: BathsPartProps) {
  const [picked, setPicked] = useState<string | null | undefined>(undefined);
  const open =
    picked === undefined || (picked !== null && !vessels.some((one) => one.name === picked))
      ? vessels[0]?.name
      : picked;
  const cautions = byCaution(vessels, weighing);
  return (
    <>
      {vessels.map((vessel) => (
        <Box
          key={vessel.name}
          component="section"
          aria-label={vessel.name}
          sx={{ borderBottom: 1, borderColor: "divider" }}>
          <Box component="h2" sx={{ m: 0, fontSize: 15 }}>
            <Box
              component="button"
              type="button"
              aria-expanded={open === vessel.name}
              onClick={() => setPicked(open === vessel.name ? null : vessel.name)}
              sx={{
                display: "flex",
                width: "100%",
                minHeight: 48,
                gap: 1,
                alignItems: "center",
                p: 0,
                border: 0,
                bgcolor: "transparent",
                color: "inherit",
                font: "inherit",
                textAlign: "left",
                cursor: "pointer",
              }}>
              <span aria-hidden>{open === vessel.name ? "▾" : "▸"}</span>
              <Box component="span" sx={{ flex: 1 }}>
                {vessel.name} {inMyUnits(vessel.title)}
              </Box>
              <Box
                component="span"
                sx={{ fontWeight: 400, fontSize: 13, color: "text.secondary", whiteSpace: "nowrap" }}>
                {counted(vessel.swatches.length, "swatch")}, {volumeWords(vessel.volume_ml)}
              </Box>
            </Box>
          </Box>
          {open === vessel.name && <VesselCard study={study} vessel={vessel} weighing={weighing} />}
        </Box>
      ))}
      {cautions.length > 0 && (
        <Box component="details" sx={{ py: 1 }}>
          <Box component="summary" sx={{ minHeight: 40, fontWeight: 700, cursor: "pointer" }}>
            {counted(cautions.length, "caution")} for all these baths, each once
          </Box>
          {cautions.map(([caution, names]) => (
            <Caution key={caution}>
              <>
                <strong>{namesInShort(names)}: </strong>
                {inMyUnits(caution)}
              </>
            </Caution>
          ))}
        </Box>
      )}
    </>
  );
}

function byCaution(vessels: readonly Vessel[], weighing: Schema["Weighing"]): [string, string[]][] {
  const found = new Map<string, string[]>();
  for (const vessel of vessels)
    for (const caution of weighing.vessel_cautions[vessel.name] ?? [])
      found.set(caution, [...(found.get(caution) ?? []), vessel.name]);
  return [...found];
}
