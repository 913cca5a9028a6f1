import Box from "@mui/material/Box";
import { useState } from "react";
import type { ReactNode } from "react";

import type { Schema, StudyView } from "../api/client";
import { Awaited } from "../shell/said";
import { EffectDetail } from "./effect-detail";
import { NumberEffects } from "./number-effects";
import { PairsOfCloth } from "./pair-of-cloth";
import { useEffects } from "./compare-queries";
import { WaysPart } from "./ways-part";

type View = Schema["EffectsView"];
type Statement = View["statements"][number];

const pairs = (many: number) => (many === 1 ? "1 pair of levels" : `${many} pairs of levels`);

interface RealViewProps {
  study: StudyView;
  /** Of states that were read, with their words. */
  kinds: readonly (readonly [string, string])[];
  state: string;
  filled: number | null;
  /** The cells that would part two levels are put back into the plan, and Plan opened. */
  onThirdLot: (cells: readonly string[]) => void;
}

/** Which differences are real: in sentences, the surest first; what cannot be told is one folded line. */
export function RealView({ study, kinds, state, filled, onThirdLot }: RealViewProps) {
  const query = useEffects(study.id, state, filled);
  const [open, setOpen] = useState<number | null>(null);
  return (
    <Awaited query={query}>
      {(view) => {
        const { compared } = view;
        if (!compared || compared.effects.length === 0)
          return (
            <Box sx={{ p: 3, maxWidth: 640 }}>
              Too few swatches are read to say which differences are real. Read two that differ in a factor; Plan tells
              how small a difference this grid can show.
            </Box>
          );
        const opened = open === null ? undefined : compared.effects[open];
        const of = (verdict: Statement["verdict"]) => view.statements.filter((one) => one.verdict === verdict);
        const untold = of("untold");
        const depends = view.depends.filter((words) => words !== "");
        const said = (one: Statement) => (
          <Said key={one.effects.join()} said={one} view={view} open={open} onOpen={setOpen} />
        );
        return (
          <Box
            sx={{
              p: 2,
              display: "grid",
              gap: 2,
              gridTemplateColumns: { xs: "1fr", lg: opened ? "minmax(0, 1fr) minmax(380px, 1fr)" : "1fr" },
              alignItems: "start",
            }}>
            <Box>
              {of("different").length > 0 && (
                <Group title="≠ Different, if it were dyed again">{of("different").map(said)}</Group>
              )}
              {of("same").length > 0 && <Group title="= The same">{of("same").map(said)}</Group>}
              {untold.length > 0 && (
                <Box component="details" sx={{ mb: 2 }}>
                  <Box component="summary" sx={{ fontWeight: 700, minHeight: 32 }}>
                    ? Cannot be told: {pairs(untold.flatMap((one) => one.effects).length)}
                  </Box>
                  {untold.map(said)}
                </Box>
              )}
              {view.chance.map((words) => (
                <Box key={words} sx={{ fontSize: 13, color: "text.secondary", mb: 2 }}>
                  {words}
                </Box>
              ))}
              {depends.length > 0 && (
                <Group title="What depends on what">
                  {depends.map((words) => (
                    <Box key={words} sx={{ py: 0.5 }}>
                      {words}
                    </Box>
                  ))}
                </Group>
              )}
              <WaysPart study={study} kinds={kinds} view={view} />
              <NumberEffects study={study} words={view.words} />
            </Box>
            {opened && open !== null && (
              <EffectDetail
                effect={opened}
                said={view.effect_words[open] ?? ""}
                words={view.words}
                thirdLot={view.third_lots?.[open] ?? []}
                onThirdLot={onThirdLot}
              />
            )}
          </Box>
        );
      }}
    </Awaited>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mb: 2 }}>
      <Box component="h2" sx={{ m: 0, mb: 0.5, fontSize: 16 }}>
        {title}
      </Box>
      {children}
    </Box>
  );
}

interface SaidProps {
  said: Statement;
  view: View;
  open: number | null;
  onOpen: (effect: number | null) => void;
}

/** One sentence. One over several pairs unfolds them; one over one pair opens it. */
function Said({ said, view, open, onOpen }: SaidProps) {
  const [unfolded, setUnfolded] = useState(false);
  const effects = view.compared?.effects ?? [];
  const [first] = said.effects;
  if (first === undefined) return null;
  const isOne = said.effects.length === 1;
  const isOpen = isOne ? open === first : unfolded;
  return (
    <>
      <Line
        at={effects[first]?.at ?? []}
        open={isOpen}
        onOpen={() => (isOne ? onOpen(isOpen ? null : first) : setUnfolded(!unfolded))}>
        {said.words}
        {said.rests && <Box sx={{ fontSize: 13, color: "text.secondary" }}>{said.rests}</Box>}
      </Line>
      {!isOne && unfolded && (
        <Box sx={{ pl: 3 }}>
          {said.effects.map((number) => (
            <Line
              key={number}
              at={effects[number]?.at ?? []}
              open={open === number}
              onOpen={() => onOpen(open === number ? null : number)}>
              {view.effect_words[number]}
            </Line>
          ))}
        </Box>
      )}
    </>
  );
}

interface LineProps {
  at: Schema["FactorEffect"]["at"];
  open: boolean;
  onOpen: () => void;
  children: ReactNode;
}

function Line({ at, open, onOpen, children }: LineProps) {
  return (
    <Box
      component="button"
      type="button"
      aria-expanded={open}
      onClick={onOpen}
      sx={{
        display: "grid",
        gridTemplateColumns: "92px minmax(0, 1fr)",
        gap: 1.5,
        alignItems: "center",
        width: "100%",
        minHeight: 48,
        textAlign: "left",
        font: "inherit",
        color: "inherit",
        bgcolor: open ? "background.paper" : "transparent",
        border: 0,
        borderBottom: 1,
        borderColor: "divider",
        borderLeft: open ? 6 : 0,
        cursor: "pointer",
        p: 0.75,
        "&:focus-visible": { outline: "3px solid", outlineColor: "text.primary" },
      }}>
      <PairsOfCloth at={at} />
      <span>{children}</span>
    </Box>
  );
}
