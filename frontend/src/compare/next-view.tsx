import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useRef } from "react";

import { answered, api } from "../api/client";
import type { Schema, StudyView } from "../api/client";
import { useChange, useLook, useTrials } from "../api/hooks";
import { SwatchCode } from "../grid/swatch-code";
import { inMyUnits } from "../settings/quantities";
import { counted } from "../shell/counted";
import { Folded } from "../shell/folded";
import { Awaited, ProblemNote } from "../shell/said";
import { useEffects, useFurther } from "./compare-queries";
import type { FindState } from "./find-state";
import { levelWords } from "./level-words";
import { PairsOfCloth } from "./pair-of-cloth";

interface NextViewProps {
  study: StudyView;
  find: FindState;
  onMade: (study: number) => void;
  onFind: () => void;
  /** Begins a trial with these swatches selected. */
  onFade: (codes: string[]) => void;
}

type Next = Schema["NextTest"];

const MOST_PIECES = 8;

/** For a question that is not settled: the few swatches and pots that would tell most. */
export function NextView({ study, find, onMade, onFind, onFade }: NextViewProps) {
  const effects = useEffects(study.id);
  const answer = useRef<HTMLDivElement>(null);
  // Below the questions where there is no room beside them.
  const show = () => answer.current?.scrollIntoView({ block: "nearest" });
  const propose = useLook((body: Schema["NextQuestion"]) =>
    answered(api.POST("/api/studies/{study_id}/compare/next", { params: { path: { study_id: study.id } }, body })),
  );
  const ask = (body: Schema["NextQuestion"]) => propose.mutate(body, { onSuccess: () => requestAnimationFrame(show) });
  return (
    <Box sx={{ p: 2, display: "grid", gridTemplateColumns: { xs: "1fr", lg: "1fr 1fr" }, gap: 3, alignItems: "start" }}>
      <Box>
        <Box component="h2" sx={{ m: 0, fontSize: 16 }}>
          Which effect?
        </Box>
        <Awaited query={effects}>
          {({ compared, words }) => {
            const open = (compared?.effects ?? [])
              .filter((one) => one.verdict === "untold" || one.rests_on?.how === "usual")
              .sort((a, b) => Number(b.verdict === "untold") - Number(a.verdict === "untold") || b.de00 - a.de00);
            if (open.length === 0)
              return <p>{compared ? "All effects of this grid are settled." : "Too few swatches are read yet."}</p>;
            const shown = (one: (typeof open)[number]) => {
              const name = `${levelWords(words, one.factor, one.to)} or ${levelWords(words, one.factor, one.from)}`;
              return (
                <Box
                  key={one.factor + one.from + one.to}
                  sx={{
                    display: "grid",
                    gridTemplateColumns: "92px minmax(0, 1fr) auto",
                    gap: 1.5,
                    alignItems: "center",
                    py: 0.5,
                    borderBottom: 1,
                    borderColor: "divider",
                  }}>
                  <PairsOfCloth at={one.at} />
                  <span>
                    {name}: seems {one.de00.toFixed(1)} ΔE00
                  </span>
                  <Button
                    variant="outlined"
                    size="small"
                    aria-label={`Propose: ${name}`}
                    onClick={() => ask({ factor: one.factor, from_level: one.from, to_level: one.to, most: 6 })}>
                    Propose
                  </Button>
                </Box>
              );
            };
            return (
              <Folded of={open} at={6}>
                {shown}
              </Folded>
            );
          }}
        </Awaited>
        <Further study={study} onMade={onMade} />
        <Box component="h2" sx={{ mt: 3, mb: 0.5, fontSize: 16 }}>
          Which colour?
        </Box>
        <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
          {find.by === "picked" && <Box sx={{ width: 60, height: 40, bgcolor: find.hex }} aria-hidden />}
          <Button
            variant="outlined"
            disabled={find.question === null}
            onClick={() => find.question && ask({ wanted: find.question, most: 6, from_level: "", to_level: "" })}>
            Towards the colour of Find
          </Button>
          <Button onClick={onFind}>Say another</Button>
        </Box>
        <Box component="h2" sx={{ mt: 3, mb: 0.5, fontSize: 16 }}>
          Which life?
        </Box>
        <NextTrial study={study} onFade={onFade} />
      </Box>
      <Box ref={answer} sx={{ scrollMarginTop: 16 }}>
        <ProblemNote error={propose.error} />
        {propose.isPending && <div role="status">Working it out</div>}
        {propose.isIdle && (
          <Box sx={{ color: "text.secondary", pt: { lg: 4 } }}>
            Choose what is not settled yet: the few swatches and pots that would tell it are proposed here, as a study
            to begin.
          </Box>
        )}
        {propose.data && <Proposal next={propose.data} onMade={onMade} />}
      </Box>
    </Box>
  );
}

function Proposal({ next, onMade }: { next: Next; onMade: (study: number) => void }) {
  const make = useChange(() => answered(api.POST("/api/studies", { body: next.plan })), "studies");
  const labelOf = (kind: string, key: string) =>
    next.plan.factors?.find((one) => one.kind === kind)?.levels.find((one) => one.key === key)?.label ?? key;
  return (
    <Box component="section" aria-label="Proposal" sx={{ bgcolor: "background.paper", p: 2 }}>
      <Box component="h2" sx={{ m: 0, fontSize: 16 }}>
        {next.title}
      </Box>
      <p>{inMyUnits(next.words)}</p>
      <p>
        <strong>{next.swatches}</strong> swatches in <strong>{next.vessels}</strong> vessels.
      </p>
      {(next.foretold ?? []).map((one) => (
        <Box
          key={JSON.stringify([one.levels, one.numbers])}
          sx={{ display: "flex", gap: 1, alignItems: "center", fontSize: 13, my: 0.5 }}>
          <Box
            sx={{
              width: 70,
              height: 40,
              bgcolor: one.hex,
              border: "2px dashed",
              borderColor: "text.secondary",
              flex: "none",
            }}
            aria-hidden
          />
          <span>
            {Object.entries(one.levels ?? {})
              .map(([kind, key]) =>
                one.numbers?.[kind] !== undefined ? `${kind} ${one.numbers[kind] ?? ""}` : labelOf(kind, key),
              )
              .join(", ")}{" "}
            ±{one.uncertainty_de00.toFixed(1)}
          </span>
        </Box>
      ))}
      <Button variant="contained" onClick={() => make.mutate(undefined, { onSuccess: (made) => onMade(made.id) })}>
        Make this study
      </Button>
      <ProblemNote error={make.error} />
    </Box>
  );
}

/** Strengths, times and temperatures beyond those that were dyed. */
function Further({ study, onMade }: { study: StudyView; onMade: (study: number) => void }) {
  const found = useFurther(study.id).data ?? [];
  const make = useChange((plan: Next["plan"]) => answered(api.POST("/api/studies", { body: plan })), "studies");
  if (found.length === 0) return null;
  return (
    <>
      <Box component="h2" sx={{ mt: 3, mb: 0.5, fontSize: 16 }}>
        Would more be worth it?
      </Box>
      {found.map((one) => (
        <Box key={one.title} sx={{ display: "flex", gap: 1.5, py: 1, borderBottom: 1, borderColor: "divider" }}>
          <Box sx={{ flex: 1 }}>
            <strong>{inMyUnits(one.title)}</strong> {inMyUnits(one.words)} {counted(one.swatches, "swatch")} in{" "}
            {counted(one.vessels, "vessel")}.
          </Box>
          <Button
            variant="outlined"
            size="small"
            aria-label={`Make it: ${one.title}`}
            sx={{ flex: "none", alignSelf: "center" }}
            onClick={() => make.mutate(one.plan, { onSuccess: (made) => onMade(made.id) })}>
            Make it
          </Button>
        </Box>
      ))}
      <ProblemNote error={make.error} />
    </>
  );
}

/** The swatches that were never on trial and would tell most, to be taken to Fade. */
function NextTrial({ study, onFade }: { study: StudyView; onFade: (codes: string[]) => void }) {
  const trials = useTrials(study.id).data ?? [];
  const tried = new Set(trials.filter((one) => one.plan.kind === "light").flatMap((one) => one.plan.swatches));
  const untried = study.swatches.map((one) => one.code).filter((code) => !tried.has(code));
  const propose = useLook(() =>
    answered(
      api.POST("/api/studies/{study_id}/trials/proposal", {
        params: { path: { study_id: study.id } },
        body: { pieces: MOST_PIECES, among: untried },
      }),
    ),
  );
  const found = propose.data;
  return (
    <>
      <p>
        {tried.size > 0
          ? `${tried.size} swatches are or were in light, ${untried.length} never.`
          : "No swatch was in light yet."}
      </p>
      {untried.length > 0 && (
        <Button variant="outlined" onClick={() => propose.mutate(undefined)}>
          Which would tell most
        </Button>
      )}
      <ProblemNote error={propose.error} />
      {found && (
        <Box role="status" sx={{ mt: 1 }}>
          <div>{inMyUnits(found.words)}</div>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
            {found.swatches.map((code) => (
              <SwatchCode key={code} study={study.id} code={code} />
            ))}
          </Box>
          <Button variant="contained" sx={{ mt: 1 }} onClick={() => onFade([...found.swatches])}>
            Select their cells and open Fade
          </Button>
        </Box>
      )}
    </>
  );
}
