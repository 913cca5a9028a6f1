import type { FactorKind, Level, Shelf } from "../api/client";
import { useChange } from "../api/hooks";
import { startOf } from "../shelf/item-start";
import { addItem } from "../shelf/keep-item";
import { keyOf } from "../shelf/kinds";
import { typedMinutes } from "../shell/durations";
import { PasteColumn } from "../shell/paste-column";
import { FACTOR_NAMES } from "../grid/axes";
import { fieldUnit } from "../settings/field-unit";
import { asLevelValue, ironLevel, isDuration, level, unitOf, valuedLevel } from "./levels";

interface PastedProps {
  there: readonly string[];
  most: number;
  onAdd: (...levels: Level[]) => void;
  onClose: () => void;
}

/** Levels of a factor that carry a number: one a line. */
export function PastedValues({ kind, there, most, onAdd, onClose }: PastedProps & { kind: FactorKind }) {
  const unit = fieldUnit(`${FACTOR_NAMES[kind]}, ${unitOf(kind) ?? ""}`);
  const read = ([cell = ""]: string[]): Level | null => {
    const value = isDuration(kind) ? typedMinutes(cell) : asLevelValue(unit.stored(cell), unitOf(kind));
    if (value === null || Number.isNaN(value)) return null;
    return kind === "iron" ? ironLevel(value) : valuedLevel(kind, value);
  };
  const add = (many: Level[]) => {
    onAdd(...new Map(many.map((one) => [one.key, one])).values());
    onClose();
  };
  return (
    <PasteColumn
      label="A column of values"
      help="From a spreadsheet, one value a line."
      read={read}
      words={(one) => one.label}
      isThere={(one) => there.includes(one.key)}
      most={most}
      onAdd={add}
      onClose={onClose}
    />
  );
}

/** Dyes by their names, one a line; those that are not on the Shelf yet are put there. */
export function PastedDyes({ shelf, there, most, onAdd, onClose }: PastedProps & { shelf: Shelf }) {
  const lots = shelf.dye_lots ?? [];
  const lotNamed = (name: string) => lots.find((lot) => lot.name.toLowerCase() === name.toLowerCase());
  const keep = useChange(async (names: string[]) => {
    const made: Level[] = [];
    for (const name of new Set(names)) {
      const known = lotNamed(name);
      const key = known?.key ?? keyOf(name);
      if (!known) await addItem({ ...startOf("dye_lot"), name, key, kind: "dye_lot" });
      made.push(level(key, known?.name ?? name));
    }
    return made;
  }, "shelf");
  const add = (names: string[]) =>
    keep.mutate(names, {
      onSuccess: (levels) => {
        onAdd(...levels);
        onClose();
      },
    });
  const read = ([name = ""]: string[]) => (name.length > 0 && name.length <= 80 ? name : null);
  const words = (name: string) => (lotNamed(name) ? name : `${name} (new)`);
  return (
    <PasteColumn
      label="A column of dyes"
      help="From a spreadsheet, one name a line. New ones come onto the Shelf with usual values, which you can change there."
      read={read}
      words={words}
      isThere={(name) => there.includes(lotNamed(name)?.key ?? "")}
      most={most}
      onAdd={add}
      onClose={onClose}
      busy={keep.isPending}
      error={keep.error}
    />
  );
}
