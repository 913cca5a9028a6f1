import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ListSubheader from "@mui/material/ListSubheader";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Level, Schema, Shelf } from "../api/client";
import { ChoiceField } from "../shell/choice-field";
import { entriesOf } from "../shell/keys";
import { DURATION_HELP } from "../shell/duration-field";
import { durationWords, typedMinutes } from "../shell/durations";
import { typedNumber } from "../settings/quantities";
import { KeepOrCancel } from "./keep-or-cancel";
import { level } from "./levels";

type Added = Schema["PlannedAddition"];
const UNITS: Added["unit"][] = ["% WOF", "g", "g/L", "mL", "mL/L", "drops", "pinch", "tsp", "tbsp", "cup"];
const OF_DYE: Added["unit"][] = ["% WOF", "g"];
const INTO: Record<Added["into"], string> = {
  dye: "the dye bath",
  mordant: "the mordant bath",
  adjust: "the pH after-bath",
  iron: "the iron after-bath",
  overdye: "the second dye bath",
};
const MOMENTS: Record<Added["moment"], string> = {
  first: "before the pieces",
  "after the pH": "once the pH is set",
  "with the pieces in": "with the pieces in",
};

interface AdditionAdderProps {
  shelf: Shelf;
  dips: readonly number[];
  onAdd: (level: Level) => void;
  onClose: () => void;
}

/** A level of what is put in: one thing or several, each with its amount and its moment. */
export function AdditionAdder({ shelf, dips, onAdd, onClose }: AdditionAdderProps) {
  const [made, setMade] = useState<Added[]>([]);
  const [item, setItem] = useState("");
  const [amount, setAmount] = useState("");
  const [unit, setUnit] = useState<Added["unit"]>("% WOF");
  const [into, setInto] = useState<Added["into"]>("dye");
  const [dip, setDip] = useState(1);
  const [moment, setMoment] = useState<Added["moment"]>("first");
  const [after, setAfter] = useState("45 min");
  const [what, key] = [item.slice(0, item.indexOf("|")), item.slice(item.indexOf("|") + 1)] as [Added["what"], string];
  const number = typedNumber(amount);
  const minutes = moment === "with the pieces in" ? typedMinutes(after) : null;
  const wrongTime = moment === "with the pieces in" && minutes === null;
  const units = what === "dye lot" ? OF_DYE : UNITS;
  const sound = item !== "" && number !== null && number > 0 && !wrongTime;
  const own = (): Added => ({
    what,
    item: key,
    amount: number ?? 0,
    unit: units.includes(unit) ? unit : "g",
    into,
    dip: into === "dye" ? dip : 1,
    moment,
    after_min: minutes === null ? null : Math.round(minutes),
  });
  const all = sound ? [...made, own()] : made;
  const more = () => {
    setMade(all);
    setItem("");
    setAmount("");
  };
  const add = () => {
    const label = all
      .map((one) => additionWords(one, shelf))
      .join(", ")
      .slice(0, 80);
    const name = all
      .map((one) => `${one.item}-${one.amount}-${one.dip}-${one.after_min ?? one.moment[0] ?? ""}`)
      .join("-");
    onAdd({
      ...level(
        name
          .toLowerCase()
          .replace(/[^a-z0-9.-]/g, "")
          .slice(0, 40),
        label,
      ),
      additions: all,
    });
    onClose();
  };
  return (
    <Box
      role="group"
      aria-label="What is put in"
      sx={{ display: "grid", gridTemplateColumns: "1fr 84px 96px", gap: 1, width: "100%", mt: 0.5 }}>
      {made.map((one, i) => (
        <Box key={i} sx={{ gridColumn: "1 / -1", fontSize: 13 }}>
          {additionWords(one, shelf)}{" "}
          <Button size="small" sx={{ minHeight: 24 }} onClick={() => setMade(made.filter((_, k) => k !== i))}>
            remove
          </Button>
        </Box>
      ))}
      <TextField
        select
        autoFocus
        label="Put in"
        value={item}
        sx={{ gridColumn: "1 / -1" }}
        onChange={(event) => setItem(event.target.value)}>
        <ListSubheader>Substances</ListSubheader>
        {shelf.substances
          .filter((one) => !one.retired)
          .map((one) => (
            <MenuItem key={one.key} value={`substance|${one.key}`}>
              {one.name}
            </MenuItem>
          ))}
        <ListSubheader>More of a dye</ListSubheader>
        {shelf.dye_lots
          .filter((one) => !one.retired)
          .map((one) => (
            <MenuItem key={one.key} value={`dye lot|${one.key}`}>
              {one.name}
            </MenuItem>
          ))}
      </TextField>
      <ChoiceField label="Into" value={into} onChange={setInto} options={entriesOf(INTO)} />
      <TextField
        label="How much"
        value={amount}
        error={amount.trim() !== "" && (number === null || Number.isNaN(number))}
        onChange={(event) => setAmount(event.target.value)}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
      />
      <ChoiceField label="In" value={units.includes(unit) ? unit : "g"} onChange={setUnit} options={units} />
      <ChoiceField
        label="When"
        value={moment}
        sx={{ gridColumn: moment === "with the pieces in" ? "1 / 3" : "1 / -1" }}
        onChange={setMoment}
        options={entriesOf(MOMENTS)}
      />
      {moment === "with the pieces in" ? (
        <TextField
          label="After"
          value={after}
          error={wrongTime}
          helperText={wrongTime ? DURATION_HELP : ""}
          onChange={(event) => setAfter(event.target.value)}
        />
      ) : null}
      {into === "dye" && dips.length > 1 && (
        <ChoiceField
          label="In dip"
          value={dip}
          sx={{ gridColumn: "1 / -1" }}
          onChange={setDip}
          options={dips.map((one) => [one, one === 1 ? "the first" : `dip ${one}: into the used bath`] as const)}
        />
      )}
      <KeepOrCancel words="Add as a level" sound={all.length > 0} keep={add} cancel={onClose}>
        <Button size="small" disabled={!sound} onClick={more}>
          and something else
        </Button>
      </KeepOrCancel>
    </Box>
  );
}

/** "Vinegar 5 mL at 45 min", "Potassium alum 10 % WOF, dip 2". */
function additionWords(one: Added, shelf: Shelf): string {
  const list: readonly { key: string; name: string }[] = one.what === "dye lot" ? shelf.dye_lots : shelf.substances;
  const name = list.find((each) => each.key === one.item)?.name ?? one.item;
  const into = one.into === "dye" ? (one.dip > 1 ? `, dip ${one.dip}` : "") : ` in ${INTO[one.into]}`;
  const when =
    one.after_min != null
      ? ` at ${durationWords(one.after_min)}`
      : one.moment === "after the pH"
        ? " once the pH is set"
        : "";
  return `${name} ${one.amount} ${one.unit.replace(" WOF", "")}${into}${when}`;
}
