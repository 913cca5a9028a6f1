import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { ReactNode } from "react";

import { PieceName, SwatchCode } from "../grid/swatch-code";
import type { StudyView } from "../api/client";
import { cellKeysOf } from "../grid/cells";
import type { Selection } from "../grid/selection";
import { inMyUnits } from "../settings/quantities";
import { Awaited } from "../shell/said";
import { useOdd } from "./compare-queries";
import { PairOfCloth } from "./pair-of-cloth";
import type { TableState } from "./table-state";

interface OddViewProps {
  study: StudyView;
  selection: Selection;
  table: TableState;
}

/** Twins, twins that part, movers, and those that do not fit. */
export function OddView({ study, selection, table }: OddViewProps) {
  const query = useOdd(study.id);
  const choose = (codes: string[]) => selection.replace(cellKeysOf(study, codes));
  return (
    <Awaited query={query}>
      {(view) => (
        <Box
          sx={{
            p: 2,
            display: "grid",
            gridTemplateColumns: { xs: "1fr", lg: "1fr 1fr" },
            gap: 3,
            alignItems: "start",
          }}>
          <Section
            title="Twins"
            about="Recipes within 1 ΔE00: nobody can tell them apart. Take the gentler, or the cheaper."
            none="No two recipes lie so close."
            count={view.twins.length}>
            {view.twins.map((one) => (
              <Row
                key={one.first.key + one.second.key}
                from={one.first.hex}
                to={one.second.hex}
                onChoose={() => choose([one.first.code ?? "", one.second.code ?? ""])}
                onLay={() => table.add([one.first.key, one.second.key])}>
                <strong>{one.de00.toFixed(1)}</strong> <PieceName piece={one.first} /> {inMyUnits(one.first.words)},{" "}
                {one.first.state}
                <div>
                  <PieceName piece={one.second} /> {inMyUnits(one.second.words)}, {one.second.state}
                  {one.second.study !== one.first.study ? ` · “${one.second.study_name ?? ""}”` : ""}
                </div>
                {one.words && <div>{inMyUnits(one.words)}</div>}
              </Row>
            ))}
          </Section>
          <Section
            title="Do not fit"
            about="Against what all others foretell of them; by chance one study in twenty has one."
            none="All swatches fit their neighbours."
            count={view.misfits.length}>
            {view.misfits.map((one) => (
              <Row key={one.code} from={one.foretold_hex} to={one.hex} onChoose={() => choose([one.code])}>
                <SwatchCode study={study.id} code={one.code} /> is {one.de00.toFixed(1)} ΔE00 from what is foretold
                (left), where {one.usual_de00.toFixed(1)} is usual.
                <div>{inMyUnits(one.words)}</div>
              </Row>
            ))}
          </Section>
          <Section
            title="Twins that part"
            about="Alike as dyed, different after a trial."
            none="No swatches of a trial that were alike have parted."
            count={view.partings.length}>
            {view.partings.map((one) => (
              <Row
                key={one.trial + one.first + one.second}
                from={one.first_hexes[1]}
                to={one.second_hexes[1]}
                onChoose={() => choose([one.first, one.second])}>
                <SwatchCode study={study.id} code={one.first} /> and <SwatchCode study={study.id} code={one.second} />:{" "}
                {one.before_de00.toFixed(1)} apart kept dark, {one.after_de00.toFixed(1)} after {one.stage} ({one.trial}
                )
              </Row>
            ))}
          </Section>
          <Section
            title="Movers"
            about="What changes most from one state to the next."
            none="No swatch was read in two states."
            count={view.movers.length}>
            {view.movers.map((one) => (
              <Row
                key={one.code + one.from_state}
                from={one.from_hex}
                to={one.to_hex}
                onChoose={() => choose([one.code])}>
                <strong>{one.de00.toFixed(1)}</strong> <SwatchCode study={study.id} code={one.code} />{" "}
                {inMyUnits(one.words)}
                <div>
                  {one.from_state} → {one.to_state}
                </div>
              </Row>
            ))}
          </Section>
        </Box>
      )}
    </Awaited>
  );
}

function Section({
  title,
  about,
  none,
  count,
  children,
}: {
  title: string;
  about: string;
  none: string;
  count: number;
  children: ReactNode;
}) {
  return (
    <Box component="section" aria-label={title}>
      <Box component="h2" sx={{ m: 0, fontSize: 16 }}>
        {title} ({count})
      </Box>
      <Box sx={{ fontSize: 13, color: "text.secondary", mb: 0.5 }}>{about}</Box>
      {count === 0 ? none : children}
    </Box>
  );
}

function Row({
  from,
  to,
  onChoose,
  onLay,
  children,
}: {
  from: string;
  to: string;
  onChoose: () => void;
  onLay?: () => void;
  children: ReactNode;
}) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "110px minmax(0, 1fr) auto",
        gap: 1.5,
        alignItems: "center",
        py: 0.75,
        borderBottom: 1,
        borderColor: "divider",
        fontSize: 13,
      }}>
      <PairOfCloth from={from} to={to} width={110} height={46} />
      <Box>{children}</Box>
      <Box sx={{ display: "grid" }}>
        <Button size="small" onClick={onChoose}>
          Select
        </Button>
        {onLay && (
          <Button size="small" onClick={onLay}>
            Lay
          </Button>
        )}
      </Box>
    </Box>
  );
}
