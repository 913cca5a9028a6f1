import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";
import type { ReactNode } from "react";

import type { GridCell, Schema, StudyView } from "../api/client";
import { SwatchCode } from "../grid/swatch-code";
import { cellWords, codesIn } from "../grid/cells";
import { Chip } from "../grid/chip";
import type { Colours } from "../read/colours";
import { waysNow } from "../settings/ways";
import { useColouredOf } from "./compare-queries";
import { RecipeDialog, ofColoured } from "./recipe-dialog";

const MOST_CARDS = 12;

interface TellViewProps {
  study: StudyView;
  chosen: readonly GridCell[];
  colours: Colours;
}

/** What leaves the house: recipe cards, the report, numbers and palettes. */
export function TellView({ study, chosen, colours }: TellViewProps) {
  const [recipe, setRecipe] = useState<Schema["Coloured"] | null>(null);
  const codes = codesIn(chosen);
  const onCards = chosen.slice(0, MOST_CARDS);
  const pieces = useColouredOf(study.id, codesIn(onCards)).data ?? [];
  const base = `/api/studies/${study.id}`;
  const only = codes.length > 0 ? `?codes=${codes.join(",")}` : "";
  const of = codes.length > 0 ? `the ${codes.length} selected` : "all swatches";
  const nothing = colours.kinds.length === 0;
  return (
    <Box sx={{ p: 2, maxWidth: 900 }}>
      {nothing && (
        <p>Nothing was read yet: there is no colour to tell of. The report holds the plan and the log already.</p>
      )}
      <Section
        title="Recipe card"
        about="One page a colour: its cloth, every bath for the mass that you want, what was really done, cautions, lasting.">
        {codes.length === 0 && <p>Select swatches in the grid to make their cards.</p>}
        {onCards.map((cell) =>
          cell.swatches.map((code) => {
            const piece = pieces.filter((one) => one.code === code && one.kind !== "stage").at(-1);
            return (
              <Box key={code} sx={{ display: "flex", gap: 1.5, alignItems: "center", mb: 0.5 }}>
                <Chip fills={colours.newest(code) ? [colours.newest(code)?.hex ?? ""] : []} width={84} height={48} />
                <Box sx={{ flex: 1 }}>
                  <SwatchCode study={study.id} code={code} /> {cellWords(study, cell)}
                </Box>
                <Button
                  variant="outlined"
                  disabled={!piece}
                  onClick={() => piece && setRecipe(piece)}
                  aria-label={`Recipe card of ${code}`}>
                  Card
                </Button>
              </Box>
            );
          }),
        )}
      </Section>
      <Section
        title="Study report"
        about="The question, what was crossed and how, the grid in colour, what is real, fading, every swatch, the log, methods and uncertainties.">
        <Links>
          <FileLink href={`${base}/report.pdf?paper=${waysNow().paper}`} words="As PDF" main />
          <FileLink href={`${base}/report.html`} words="As one page" />
        </Links>
      </Section>
      <Section
        title="Package"
        about="All of the study in open formats, for a colleague or another program: tables as CSV with their meaning and units, photographs, calibrations.">
        <Links>
          <FileLink href={`/api/package.zip?studies=${study.id}`} words="This study" />
          <FileLink href="/api/package.zip" words="All studies" />
        </Links>
      </Section>
      <Section title="Numbers" about="Every state, zone and stage with L*a*b*, its uncertainty and its recipe.">
        <Links>
          <FileLink href={`${base}/colours.csv`} words="CSV" />
        </Links>
      </Section>
      <Section title="Palette" about={`The newest colours of ${of}, in sRGB, and as L*a*b* where that is understood.`}>
        <Links>
          <FileLink href={`${base}/palette.css${only}`} words="CSS" />
          <FileLink href={`${base}/palette.svg${only}`} words="SVG" />
          <FileLink href={`${base}/palette.txt${only}`} words="Plain text" />
        </Links>
      </Section>
      {recipe && <RecipeDialog swatches={[ofColoured(recipe)]} mass_g={100} onClose={() => setRecipe(null)} />}
    </Box>
  );
}

function Section({ title, about, children }: { title: string; about: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mb: 3 }}>
      <Box component="h2" sx={{ m: 0, fontSize: 16 }}>
        {title}
      </Box>
      <Box sx={{ color: "text.secondary", mb: 1 }}>{about}</Box>
      {children}
    </Box>
  );
}

const Links = ({ children }: { children: ReactNode }) => (
  <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>{children}</Box>
);

function FileLink({ href, words, main = false }: { href: string; words: string; main?: boolean }) {
  return (
    <Button variant={main ? "contained" : "outlined"} component="a" href={href} target="_blank" rel="noreferrer">
      {words}
    </Button>
  );
}
