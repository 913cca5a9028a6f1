import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";

import { Problem, answered, api } from "../api/client";
import type { Shelf } from "../api/client";
import { useChange } from "../api/hooks";
import { typedNumber } from "../settings/quantities";
import { todayIso } from "../shell/dates";
import { ProblemNote } from "../shell/said";
import { offerUndo } from "../shell/undo-bar";
import { BathsEditor } from "./baths-editor";
import { ChartOverTime } from "./chart-over-time";
import { ChartEditor } from "./chart-editor";
import { ClothReadings } from "./cloth-readings";
import { ItemField, WordsField } from "./item-field";
import { startOf } from "./item-start";
import type { Facts } from "./item-start";
import { addItem, changeItem } from "./keep-item";
import { KINDS, keyOf } from "./kinds";
import type { ShelfItem, ShelfKind } from "./kinds";
import { PartsEditor } from "./parts-editor";
import { ScaleEditor } from "./scale-editor";

interface ItemDialogProps {
  kind: ShelfKind;
  /** None: a new one. */
  item: ShelfItem | null;
  shelf: Shelf;
  onClose: () => void;
  /** Only what cannot do without, the rest on demand. */
  brief?: boolean;
  onSaved?: (item: ShelfItem) => void;
}

/** What a thing of a kind cannot do without; the rest has usual values. */
const NEEDED: Partial<Record<ShelfKind, readonly string[]>> = {
  dye_lot: ["state", "measured", "strength_percent_wof"],
  fibre: ["fibre_class", "form"],
};

/** One thing on the Shelf: looked at, changed, retired, or put there. */
export function ItemDialog({ kind, item, shelf, onClose, brief = false, onSaved }: ItemDialogProps) {
  const [all, setAll] = useState(!brief);
  const shape = KINDS[kind];
  const form = useForm<Facts>({ defaultValues: item ? { ...item } : startOf(kind), mode: "onTouched" });
  const { control } = form;
  const [elsewhere, setElsewhere] = useState<unknown>(null);
  const facts = useWatch({ control });
  const set = (name: string) => (value: unknown) => form.setValue(name, value);
  const body = () => {
    const typed = form.getValues();
    const name = String(typed["name"] ?? "").trim();
    return { ...numbered(kind, typed), name, key: item?.key ?? keyOf(name), kind } as unknown as ShelfItem;
  };
  const save = useChange(() => (item ? changeItem(body()) : addItem(body())), "shelf");
  const retire = useChange((retired: boolean) => changeItem({ ...(item as ShelfItem), retired }), "shelf");
  const remove = useChange(
    () => answered(api.DELETE("/api/shelf/{kind}/{key}", { params: { path: { kind, key: item?.key ?? "" } } })),
    "shelf",
  );
  /** What the server says of the values of fields stands at the fields; a refusal that has reasons is said whole. */
  const sayAtFields = (error: unknown) => {
    const shown = ["name", ...shape.fields.map((field) => field.name)];
    const said = error instanceof Problem && ["invalid", "key-taken"].includes(error.code) ? error.faults : [];
    const placed = said.map((fault) => ({
      place: fault.field === "key" ? "name" : (fault.field.split(".").pop() ?? ""),
      message: fault.field === "key" ? "This is already on the Shelf: say another name." : `Not so: ${fault.allowed}.`,
    }));
    const atFields = placed.filter(({ place }) => shown.includes(place));
    for (const { place, message } of atFields) form.setError(place, { message });
    setElsewhere(placed.length > 0 && atFields.length === placed.length ? null : error);
  };
  const keep = () =>
    save.mutate(undefined, {
      onSuccess: () => {
        onSaved?.(body());
        onClose();
      },
      onError: sayAtFields,
    });
  const takeAway = () =>
    remove.mutate(undefined, {
      onSuccess: () => {
        offerUndo(`${item?.name ?? ""} was taken off the Shelf.`, () => addItem(item as ShelfItem));
        onClose();
      },
    });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <Box
        component="form"
        noValidate
        onSubmit={(event) => {
          event.stopPropagation();
          void form.handleSubmit(keep)(event);
        }}>
        <DialogTitle>{item ? item.name : `New ${shape.one}`}</DialogTitle>
        <DialogContent sx={{ display: "grid", gap: 1.5 }}>
          <WordsField name="name" label="Name" control={control} required autoFocus sx={{ mt: 1 }} />
          <Box sx={{ display: "grid", gridTemplateColumns: { sm: "1fr 1fr" }, gap: 1.5 }}>
            {shape.fields
              .filter((field) => !field.when || facts[field.when[0]] === field.when[1])
              .filter((field) => all || (NEEDED[kind] ?? []).includes(field.name))
              .filter((field) => !field.unless || facts[field.unless[0]] !== field.unless[1])
              .map((field) => (
                <ItemField key={field.name} field={field} control={control} />
              ))}
          </Box>
          {kind === "mordant_route" && <BathsEditor value={facts["baths"]} shelf={shelf} onChange={set("baths")} />}
          {kind === "fibre" && (
            <PartsEditor
              label="Blend"
              what="fibre_class"
              options={["protein", "cellulose", "regenerated cellulose", "synthetic", "polyamide"].map((one) => [
                one,
                one,
              ])}
              value={facts["blend"]}
              onChange={set("blend")}
            />
          )}
          {kind === "dye_lot" && (
            <PartsEditor
              label="Mixed from other lots"
              what="lot"
              options={(shelf.dye_lots ?? []).filter((lot) => lot.key !== item?.key).map((lot) => [lot.key, lot.name])}
              value={facts["mixture"]}
              onChange={set("mixture")}
            />
          )}
          {kind === "chart" && (
            <ChartEditor name={String(facts["name"] ?? "")} value={facts["chart"]} onChange={set("chart")} />
          )}
          {kind === "chart" && item && <ChartOverTime chart={item.key} />}
          {kind === "ph_strip" && (
            <ScaleEditor
              value={facts["steps"]}
              onChange={(steps) => {
                set("steps")(steps);
                set("taught_on")(todayIso());
              }}
            />
          )}
          {kind === "cloth" && item && <ClothReadings cloth={item.key} isTile={facts["is_tile"] === true} />}
          {!all && (
            <Button onClick={() => setAll(true)} sx={{ justifySelf: "start" }}>
              All that can be said of it
            </Button>
          )}
          {all && <WordsField name="note" label="Notes" control={control} multiline />}
          {all && <WordsField name="source" label="Where these figures come from" control={control} />}
          <ProblemNote error={elsewhere ?? retire.error ?? remove.error} />
        </DialogContent>
        <DialogActions sx={{ flexWrap: "wrap" }}>
          {item && (
            <>
              <Button onClick={takeAway}>Take it away</Button>
              <Button onClick={() => retire.mutate(!item.retired, { onSuccess: onClose })}>
                {item.retired ? "Use it again" : "Retire"}
              </Button>
            </>
          )}
          <Box sx={{ flex: 1 }} />
          <Button onClick={onClose}>Cancel</Button>
          <Button
            type="submit"
            variant="contained"
            disabled={
              (kind === "chart" && !facts["chart"]) ||
              (kind === "ph_strip" && !facts["steps"]) ||
              holdsUnread(facts) ||
              save.isPending
            }>
            {item ? "Save" : `Put the ${shape.one} on the Shelf`}
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  );
}

/** Whether a number was typed that cannot be read: its field says so. */
const holdsUnread = (value: unknown): boolean =>
  Number.isNaN(value) || (typeof value === "object" && value !== null && Object.values(value).some(holdsUnread));

/** Typed numbers as numbers; what was left empty takes its default, or is not known. */
function numbered(kind: ShelfKind, facts: Facts): Facts {
  const fields = new Map(KINDS[kind].fields.map((field) => [field.name, field]));
  return Object.fromEntries(
    Object.entries(facts).flatMap(([name, typed]) => {
      const field = fields.get(name);
      const empty = typed === "" || typed == null;
      if (field?.type !== "number" && field?.type !== "choice") return [[name, typed]];
      if (empty) return field.start === undefined ? [[name, null]] : [];
      return [[name, field.type === "number" ? typedNumber(String(typed)) : typed]];
    }),
  );
}
