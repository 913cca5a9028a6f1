import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ListSubheader from "@mui/material/ListSubheader";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Problem, answered, api } from "../../api/client";
import type { Schema, Shelf } from "../../api/client";
import { useShelf } from "../../api/hooks";
import { inMyUnits, typedNumber } from "../../settings/quantities";
import { ChoiceField } from "../../shell/choice-field";
import { ProblemNote } from "../../shell/said";
import type { VesselBench } from "../bench-state";
import { useLogging } from "../outbox";

type Addition = Schema["Addition"];
type Unit = Addition["unit"];
const UNITS: Unit[] = ["g", "mL", "L", "drops", "pinch", "tsp", "tbsp"];
const WET: Unit[] = ["mL", "L", "drops"];

interface AdditionFormProps {
  study: number;
  bench: Schema["DyeView"];
  one: VesselBench;
  step: string;
  /** What is to be put in, where that is known: its name, and the stock that it is measured from. */
  proposed?: { name: string; stock: number | null };
}

/** Anything that goes into the bath, in the measure in which it is taken; its grams are shown first. */
export function AdditionForm({ study, bench, one, step, proposed }: AdditionFormProps) {
  const log = useLogging(study);
  const shelf = useShelf().data;
  const expected = proposed ? keyOf(shelf, proposed.name) : "";
  const [picked, setPicked] = useState<string | null>(null);
  const [amount, setAmount] = useState("");
  const [unitPicked, setUnit] = useState<Unit | null>(null);
  const [stockTyped, setStock] = useState<string | null>(null);
  const item = picked ?? (expected ? `substance|${expected}` : "water|");
  const [what, key] = [item.slice(0, item.indexOf("|")), item.slice(item.indexOf("|") + 1)] as [string, string];
  const planned = plannedStock(one, shelf, key) ?? (picked === null ? (proposed?.stock ?? null) : null);
  const wetOnly = what === "water" || what === "extract";
  const unit: Unit = unitPicked ?? (wetOnly ? "mL" : planned === null ? "g" : "mL");
  const stockText = stockTyped ?? (planned === null ? "" : String(planned));
  const value = typedNumber(amount);
  const stock = WET.includes(unit) && !wetOnly ? typedNumber(stockText) : null;
  const addition: Addition = {
    what: what as Addition["what"],
    item: key,
    amount: value ?? 0,
    unit,
    stock_percent: stock,
    name: "",
    working: "",
  };
  const sound = value !== null && value > 0 && (stock === null || stock > 0);
  const look = useQuery({
    queryKey: ["study", study, "dye", "addition", one.vessel.name, addition],
    enabled: sound,
    retry: false,
    queryFn: () =>
      answered(
        api.POST("/api/studies/{study_id}/dye/additions", {
          params: { path: { study_id: study } },
          body: { vessel: one.vessel.name, addition },
        }),
      ),
  });
  const refused = look.error instanceof Problem && look.error.status < 500;
  const keep = () => {
    log({ kind: "addition", vessel: one.vessel.name, step, addition, sure: look.data?.question != null });
    setAmount("");
  };
  const extracts = bench.vessels.filter((each) => each.vessel.bath === "extract");
  return (
    <Box
      role="group"
      aria-label="Put in"
      sx={{ display: "grid", gridTemplateColumns: "1fr 84px 104px", gap: 1, my: 1 }}>
      <TextField
        select
        label="Put in"
        value={item}
        sx={{ gridColumn: "1 / -1" }}
        onChange={(event) => {
          setPicked(event.target.value);
          setUnit(null);
          setStock(null);
        }}>
        <MenuItem value="water|">Water</MenuItem>
        {extracts.map((each) => (
          <MenuItem key={each.vessel.name} value={`extract|${each.vessel.name}`}>
            {each.vessel.name} {inMyUnits(each.vessel.title)}
          </MenuItem>
        ))}
        <ListSubheader>Substances</ListSubheader>
        {shelf?.substances
          .filter((each) => !each.retired)
          .map((each) => (
            <MenuItem key={each.key} value={`substance|${each.key}`}>
              {each.name}
            </MenuItem>
          ))}
        <ListSubheader>Dye stuffs</ListSubheader>
        {shelf?.dye_lots
          .filter((each) => !each.retired)
          .map((each) => (
            <MenuItem key={each.key} value={`dye lot|${each.key}`}>
              {each.name}
            </MenuItem>
          ))}
      </TextField>
      <TextField
        label="How much"
        value={amount}
        onChange={(event) => setAmount(event.target.value)}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
      />
      <ChoiceField
        label="In"
        value={unit}
        onChange={setUnit}
        options={UNITS.filter((each) => !wetOnly || WET.includes(each))}
      />
      <TextField
        label="of stock, %"
        value={stockText}
        disabled={!WET.includes(unit) || wetOnly}
        onChange={(event) => setStock(event.target.value)}
        slotProps={{ inputLabel: { shrink: true }, htmlInput: { inputMode: "decimal" } }}
      />
      <Box sx={{ gridColumn: "1 / -1", minHeight: 22 }} aria-live="polite">
        {sound && look.data && (
          <>
            <strong>{inMyUnits(look.data.words)}</strong>
            <Box sx={{ fontSize: 13, color: "text.secondary" }}>{look.data.addition.working}</Box>
          </>
        )}
        {sound && refused && <ProblemNote error={look.error} />}
        {sound && look.data?.question && (
          <Box role="alert" sx={{ borderLeft: 6, borderColor: "error.main", pl: 1, my: 0.5, fontWeight: 700 }}>
            {look.data.question}
          </Box>
        )}
      </Box>
      <Button
        variant={look.data?.question ? "outlined" : "contained"}
        color={look.data?.question ? "secondary" : "primary"}
        sx={{ gridColumn: "1 / -1", minHeight: 48 }}
        disabled={!sound || refused || look.isPending}
        onClick={keep}>
        {look.data?.question ? "Yes, it is so: log it" : "Log it"}
      </Button>
    </Box>
  );
}

const keyOf = (shelf: Shelf | undefined, name: string) =>
  shelf?.substances.find((each) => each.name.toLowerCase() === name.toLowerCase())?.key ?? "";

/** The stock solution from which the plan measures a substance for this bath. */
function plannedStock(one: VesselBench, shelf: Shelf | undefined, key: string): number | null {
  const name = shelf?.substances.find((each) => each.key === key)?.name.toLowerCase();
  const figures = [...one.amounts.figures, ...(one.amounts.ph?.figure ? [one.amounts.ph.figure] : [])];
  return figures.find((figure) => figure.name.toLowerCase() === name)?.stock_percent ?? null;
}
