import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { FactorKind, Level, Schema, StudyPlan } from "../api/client";
import { FACTOR_NAMES } from "../grid/axes";
import { ChoiceField } from "../shell/choice-field";
import type { Change } from "./change-plan";
import { chosenMass, typedMass } from "../settings/quantities";
import { PasteColumn } from "../shell/paste-column";
import { waysNow } from "../settings/ways";
import { KeepOrCancel } from "./keep-or-cancel";

type OwnMass = Schema["OwnMass"];
type LargerPiece = Schema["LargerPiece"];
const CONTROLS: Record<NonNullable<OwnMass["control"]>, string> = {
  undyed: "undyed controls",
  unmordanted: "unmordanted controls",
  "mordanted-undyed": "mordanted, undyed controls",
  bridge: "bridge pieces",
};

/** Masses of their own for a fibre or a kind of control, and larger pieces that stay in the pots. */
export function MassesPart({ plan, change }: { plan: StudyPlan; change: Change }) {
  const [adding, setAdding] = useState<"mass" | "piece" | "paste" | null>(null);
  const fibres = plan.factors.find((factor) => factor.kind === "fibre")?.levels ?? [];
  const wordsOf = (own: OwnMass) =>
    [fibres.find((level) => level.key === own.fibre)?.label ?? own.fibre, own.control ? CONTROLS[own.control] : null]
      .filter(Boolean)
      .join(", ");
  const labelOf = (kind: string, key: string) =>
    plan.factors.find((factor) => factor.kind === kind)?.levels.find((level) => level.key === key)?.label ?? key;
  return (
    <Box sx={{ fontSize: 13, mt: 1 }}>
      {plan.own_masses.map((own) => (
        <Line
          key={wordsOf(own)}
          words={`${wordsOf(own)}: ${chosenMass(own.mass_g)} each`}
          remove={() => change({ own_masses: plan.own_masses.filter((one) => one !== own) })}
        />
      ))}
      {plan.larger_pieces.map((piece) => (
        <Line
          key={piece.key}
          words={`${piece.name}, ${chosenMass(piece.mass_g)}, stays beside ${Object.entries(piece.levels)
            .map(([kind, key]) => labelOf(kind, key))
            .join(", ")}`}
          remove={() => change({ larger_pieces: plan.larger_pieces.filter((one) => one.key !== piece.key) })}
        />
      ))}
      {adding === "mass" && (
        <NewMass
          fibres={fibres.map((level) => [level.key, level.label])}
          controls={plan.controls}
          onClose={() => setAdding(null)}
          onMade={(own) =>
            change({ own_masses: [...plan.own_masses.filter((one) => wordsOf(one) !== wordsOf(own)), own] })
          }
        />
      )}
      {adding === "piece" && (
        <NewPiece
          plan={plan}
          onClose={() => setAdding(null)}
          onMade={(piece) => change({ larger_pieces: [...plan.larger_pieces, piece] })}
        />
      )}
      {adding === "paste" && (
        <PasteColumn
          label="Fibres and their masses"
          help={`Two columns of a spreadsheet: the fibre, and the dry mass of a swatch of it in ${waysNow().mass}.`}
          read={([name = "", mass = ""]) => ownMass(fibres, name, mass)}
          words={(own) => `${wordsOf(own)}: ${chosenMass(own.mass_g)}`}
          onAdd={(many) => {
            const changed = new Set(many.map(wordsOf));
            change({
              own_masses: [
                ...plan.own_masses.filter((one) => !changed.has(wordsOf(one))),
                ...new Map(many.map((own) => [wordsOf(own), own])).values(),
              ],
            });
            setAdding(null);
          }}
          onClose={() => setAdding(null)}
        />
      )}
      {adding === null && (
        <>
          <Button size="small" sx={{ p: 0, mr: 2, minHeight: 32 }} onClick={() => setAdding("mass")}>
            Another mass for some
          </Button>
          <Button size="small" sx={{ p: 0, minHeight: 32 }} onClick={() => setAdding("piece")}>
            A larger piece in the pot
          </Button>
          {fibres.length > 1 && (
            <Button size="small" sx={{ p: 0, ml: 2, minHeight: 32 }} onClick={() => setAdding("paste")}>
              Paste masses
            </Button>
          )}
        </>
      )}
    </Box>
  );
}

/** A row of a spreadsheet: a fibre of the plan by its name, and a mass. */
function ownMass(fibres: readonly Level[], name: string, mass: string): OwnMass | null {
  const fibre = fibres.find((level) => level.label.toLowerCase() === name.toLowerCase());
  const grams = typedMass(mass);
  return fibre && grams !== null && grams > 0 ? { fibre: fibre.key, control: null, mass_g: grams } : null;
}

function Line({ words, remove }: { words: string; remove: () => void }) {
  return (
    <Box sx={{ display: "flex", alignItems: "center" }}>
      <Box sx={{ flex: 1 }}>{words}</Box>
      <Button size="small" sx={{ minHeight: 28, p: 0 }} onClick={remove} aria-label={`Take out: ${words}`}>
        take out
      </Button>
    </Box>
  );
}

interface NewMassProps {
  fibres: [string, string][];
  controls: StudyPlan["controls"];
  onMade: (own: OwnMass) => void;
  onClose: () => void;
}

function NewMass({ fibres, controls, onMade, onClose }: NewMassProps) {
  const [fibre, setFibre] = useState("");
  const [control, setControl] = useState("");
  const [mass, setMass] = useState("");
  const grams = typedMass(mass);
  const keep = () => {
    onMade({ fibre: fibre || null, control: (control || null) as OwnMass["control"] | null, mass_g: grams ?? 0 });
    onClose();
  };
  return (
    <Box
      role="group"
      aria-label="Another mass for some"
      sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 84px", gap: 1, mt: 1 }}>
      <ChoiceField
        label="Fibre"
        value={fibre}
        onChange={setFibre}
        options={[["", "any"], ...fibres.map(([key, label]) => [key, label] as const)]}
      />
      <ChoiceField
        label="Only"
        value={control}
        onChange={setControl}
        options={[["", "all of them"], ...controls.map((kind) => [kind, CONTROLS[kind]] as const)]}
      />
      <TextField
        label={`${waysNow().mass} each`}
        value={mass}
        onChange={(event) => setMass(event.target.value)}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
      />
      <KeepOrCancel
        words="Weigh them so"
        sound={!!grams && grams > 0 && (!!fibre || !!control)}
        keep={keep}
        cancel={onClose}
      />
    </Box>
  );
}

function NewPiece({
  plan,
  onMade,
  onClose,
}: {
  plan: StudyPlan;
  onMade: (piece: LargerPiece) => void;
  onClose: () => void;
}) {
  const [name, setName] = useState("Full skein");
  const [mass, setMass] = useState(waysNow().mass === "g" ? "50" : "1.75");
  const [levels, setLevels] = useState<Partial<Record<FactorKind, string>>>({});
  const [places, setPlaces] = useState("");
  const grams = typedMass(mass);
  const keep = () => {
    const taken = new Set(plan.larger_pieces.map((piece) => piece.key));
    const key = Array.from({ length: 99 }, (_, i) => `piece-${i + 1}`).find((one) => !taken.has(one)) ?? "piece";
    const chosen = plan.factors.map(
      (factor) => [factor.kind, levels[factor.kind] ?? factor.levels[0]?.key ?? ""] as const,
    );
    onMade({
      key,
      name: name.trim(),
      mass_g: grams ?? 0,
      levels: Object.fromEntries(chosen),
      places: places
        .split(",")
        .map((one) => one.trim())
        .filter(Boolean),
    });
    onClose();
  };
  return (
    <Box
      role="group"
      aria-label="A larger piece in the pot"
      sx={{ display: "grid", gridTemplateColumns: "1fr 84px", gap: 1, mt: 1 }}>
      <TextField label="What it is" value={name} onChange={(event) => setName(event.target.value)} />
      <TextField
        label={waysNow().mass}
        value={mass}
        onChange={(event) => setMass(event.target.value)}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
      />
      {plan.factors.map((factor) => (
        <ChoiceField
          key={factor.kind}
          label={FACTOR_NAMES[factor.kind]}
          value={levels[factor.kind] ?? factor.levels[0]?.key ?? ""}
          onChange={(chosen) => setLevels({ ...levels, [factor.kind]: chosen })}
          sx={{ gridColumn: "1 / -1" }}
          options={factor.levels.map((level) => [level.key, level.label] as const)}
        />
      ))}
      <TextField
        label="Places that are read, each with a thread"
        placeholder="collar, hem, sleeve"
        value={places}
        sx={{ gridColumn: "1 / -1" }}
        onChange={(event) => setPlaces(event.target.value)}
      />
      <Box sx={{ gridColumn: "1 / -1" }}>
        It goes through the baths of these levels, and counts in their weights, water and vessels.
      </Box>
      <KeepOrCancel words="Put it in" sound={!!grams && grams > 0 && !!name.trim()} keep={keep} cancel={onClose} />
    </Box>
  );
}
