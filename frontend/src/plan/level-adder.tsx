import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { Suspense, lazy, useState } from "react";

import type { FactorKind, Level, Shelf, StudyPlan } from "../api/client";
import { FACTOR_NAMES } from "../grid/axes";
import type { ShelfKind } from "../shelf/kinds";
import { ChoiceField } from "../shell/choice-field";
import { entriesOf } from "../shell/keys";
import { DURATION_HELP } from "../shell/duration-field";
import { durationWords, typedMinutes } from "../shell/durations";
import { fieldUnit } from "../settings/field-unit";
import { inMyUnits } from "../settings/quantities";
import { AdditionAdder } from "./addition-adder";
import { ExtractionAdder } from "./extraction-adder";
import { PastedDyes, PastedValues } from "./pasted-levels";
import {
  IRON_ROUTES,
  MOST_LEVELS,
  asLevelValue,
  gramsOf,
  ironLevel,
  isDuration,
  level,
  levelInGrams,
  unitOf,
  valuedLevel,
} from "./levels";

interface LevelAdderProps {
  kind: FactorKind;
  plan: StudyPlan;
  shelf: Shelf;
  options: Level[];
  onAdd: (...levels: Level[]) => void;
}

const ItemDialog = lazy(() => import("../shelf/item-dialog").then((module) => ({ default: module.ItemDialog })));

/** Factors whose levels are things on the Shelf, and what a new one is called. */
const ON_SHELF: Partial<Record<FactorKind, [ShelfKind, string]>> = {
  fibre: ["fibre", "A fibre of your own …"],
  mordant: ["mordant_route", "A route of your own …"],
  dye: ["dye_lot", "A dye of your own …"],
  second_dye: ["dye_lot", "A dye of your own …"],
  source: ["dye_lot", "A dye of your own …"],
};

const OWN_WORDS: Partial<Record<FactorKind, string>> = { addition: "Something …", extraction: "Another way …" };

/** Adds a level from what is offered, or a value of one's own. */
export function LevelAdder({ kind, plan, shelf, options, onAdd }: LevelAdderProps) {
  const [own, setOwn] = useState(false);
  const [making, setMaking] = useState(false);
  const [pasting, setPasting] = useState(false);
  const onShelf = ON_SHELF[kind];
  const unit = kind === "addition" || kind === "extraction" ? "" : unitOf(kind);
  const dips = plan.factors.find((factor) => factor.kind === "dip")?.levels.map((one) => one.value ?? 1) ?? [];
  if (own && kind === "addition")
    return <AdditionAdder shelf={shelf} dips={dips} onAdd={onAdd} onClose={() => setOwn(false)} />;
  if (own && kind === "extraction")
    return <ExtractionAdder shelf={shelf} onAdd={(levels) => onAdd(...levels)} onClose={() => setOwn(false)} />;
  const there = plan.factors.find((factor) => factor.kind === kind)?.levels.map((one) => one.key) ?? [];
  const pasted = { there, most: MOST_LEVELS - there.length, onAdd, onClose: () => setPasting(false) };
  if (pasting) return onShelf ? <PastedDyes shelf={shelf} {...pasted} /> : <PastedValues kind={kind} {...pasted} />;
  if (own) return <OwnValue kind={kind} onAdd={onAdd} onClose={() => setOwn(false)} />;
  if (options.length === 0 && unit === null && !onShelf) return null;
  return (
    <>
      {making && onShelf && (
        <Suspense fallback={null}>
          <ItemDialog
            kind={onShelf[0]}
            item={null}
            shelf={shelf}
            brief={onShelf[0] !== "mordant_route"}
            onClose={() => setMaking(false)}
            onSaved={(item) => onAdd(level(item.key, item.name))}
          />
        </Suspense>
      )}
      <TextField
        select
        value=""
        label="Add"
        aria-label={`Add a level of ${FACTOR_NAMES[kind]}`}
        sx={{ width: 92 }}
        onChange={(event) => {
          if (event.target.value === "own") {
            setOwn(true);
            return;
          }
          if (event.target.value === "paste") {
            setPasting(true);
            return;
          }
          if (event.target.value === "new") {
            setMaking(true);
            return;
          }
          const level = options.find((one) => one.key === event.target.value);
          if (level) onAdd(level);
        }}>
        {options.map((level) => (
          <MenuItem key={level.key} value={level.key}>
            {inMyUnits(level.label)}
          </MenuItem>
        ))}
        {unit !== null && <MenuItem value="own">{OWN_WORDS[kind] ?? "Another value …"}</MenuItem>}
        {onShelf && (
          <MenuItem value="new" sx={{ borderTop: 1, borderColor: "divider", fontWeight: 700 }}>
            {onShelf[1]}
          </MenuItem>
        )}
        {(unit ? true : onShelf?.[0] === "dye_lot") && <MenuItem value="paste">Paste a column …</MenuItem>}
      </TextField>
    </>
  );
}

function OwnValue({ kind, onAdd, onClose }: { kind: FactorKind; onAdd: (level: Level) => void; onClose: () => void }) {
  const [value, setValue] = useState("");
  const [route, setRoute] = useState<NonNullable<Level["route"]>>("after-bath");
  const [seconds, setSeconds] = useState("");
  const [inGrams, setInGrams] = useState(false);
  const long = isDuration(kind);
  const storedIn = inGrams ? "g" : unitOf(kind);
  const unit = fieldUnit(`${FACTOR_NAMES[kind]}, ${storedIn ?? ""}`);
  const typed = long ? typedMinutes(value) : asLevelValue(unit.stored(value), storedIn);
  const number = Number.isNaN(typed) ? null : typed;
  const add = () => {
    if (number === null) return;
    if (inGrams) onAdd(levelInGrams(kind, number, route));
    else
      onAdd(
        kind === "iron" ? ironLevel(number, route, seconds ? Number(seconds) : undefined) : valuedLevel(kind, number),
      );
    onClose();
  };
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
      sx={{ display: "flex", flexWrap: "wrap", gap: 0.5, alignItems: "center", width: "100%", mt: 0.5 }}>
      <TextField
        autoFocus
        label={long ? FACTOR_NAMES[kind] : unit.label}
        placeholder={long ? "2 h, 3 days" : ""}
        value={value}
        error={value.trim() !== "" && number === null}
        helperText={long && value.trim() ? (number === null ? DURATION_HELP : durationWords(number)) : undefined}
        onChange={(event) => setValue(event.target.value)}
        sx={{ width: 130 }}
      />
      {gramsOf(kind) && (
        <ChoiceField
          label="In"
          value={inGrams ? "g" : "wof"}
          onChange={(chosen) => setInGrams(chosen === "g")}
          sx={{ width: 120 }}
          options={[
            ["wof", "% WOF"],
            ["g", "g for the bath"],
          ]}
        />
      )}
      {kind === "iron" && (
        <>
          <ChoiceField
            label="Route"
            value={route}
            onChange={setRoute}
            sx={{ width: 110 }}
            options={entriesOf(IRON_ROUTES)}
          />
          {route === "after-bath" && !inGrams && (
            <TextField
              label="Seconds"
              value={seconds}
              onChange={(event) => setSeconds(event.target.value)}
              sx={{ width: 84 }}
            />
          )}
        </>
      )}
      <Button type="submit" variant="outlined" size="small" disabled={number === null}>
        Add
      </Button>
      <Button size="small" onClick={onClose}>
        Cancel
      </Button>
    </Box>
  );
}
