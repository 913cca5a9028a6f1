import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Schema } from "../api/client";
import { useShelf } from "../api/hooks";
import { Awaited } from "../shell/said";
import { AddDyeLot, AddFibre } from "./add-item";

export function ShelfView() {
  const shelf = useShelf();
  const [sought, setSought] = useState("");
  const fits = (item: object) => JSON.stringify(item).toLowerCase().includes(sought.trim().toLowerCase());
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, overflow: "auto" }}>
      <Box sx={{ display: "flex", gap: 2, alignItems: "center", mb: 2, flexWrap: "wrap" }}>
        <Box component="h1" sx={{ m: 0 }}>
          Shelf
        </Box>
        <TextField label="Find on the Shelf" value={sought} onChange={(e) => setSought(e.target.value)} sx={{ maxWidth: 280 }} />
      </Box>
      <Awaited query={shelf}>
        {(there) => (
          <Box sx={{ display: "grid", gridTemplateColumns: { md: "1fr 1.4fr 1fr" }, gap: 3 }}>
            <section>
              <h2>Fibres</h2>
              {there.fibres.filter(fits).map((fibre) => (
                <Item key={fibre.key} name={fibre.name} facts={fibre.fibre_class} note={fibre.note} source={fibre.source} />
              ))}
              <AddFibre />
            </section>
            <section>
              <h2>Mordant routes</h2>
              {there.mordant_routes.filter(fits).map((route) => (
                <Item
                  key={route.key}
                  name={route.name}
                  facts={[...(route.baths ?? []).map(bathWords), `for ${route.suits.length === 5 ? "all fibres" : route.suits.join(", ")}`].join("; ")}
                  note={route.note}
                  source={route.source}
                />
              ))}
            </section>
            <section>
              <h2>Dye lots</h2>
              {there.dye_lots.filter(fits).map((lot) => (
                <Item
                  key={lot.key}
                  name={lot.name}
                  facts={[lot.state, lot.part, `${lot.strength_percent_wof} % WOF`, `${lot.temperature_c} °C`, `${lot.duration_min} min`, lot.collected].filter(Boolean).join(", ")}
                  note={lot.note}
                  source={lot.source}
                />
              ))}
              <AddDyeLot />
            </section>
          </Box>
        )}
      </Awaited>
    </Box>
  );
}

function bathWords(bath: Schema["MordantBath"]): string {
  const assist = bath.assist ? ` + ${bath.assist} ${bath.assist_percent_wof} %` : "";
  return `${bath.substance} ${bath.dose_percent_wof} %${assist}, ${bath.temperature_c ?? 20} °C, ${bath.duration_min} min`;
}

function Item(props: { name: string; facts: string; note: string | undefined; source: string | undefined }) {
  return (
    <Box sx={{ py: 0.75, borderBottom: 1, borderColor: "divider", fontSize: 13 }}>
      <strong>{props.name}</strong> {props.facts}
      {props.note && <div>{props.note}</div>}
      <Box sx={{ color: "text.secondary" }}>{props.source}</Box>
    </Box>
  );
}
