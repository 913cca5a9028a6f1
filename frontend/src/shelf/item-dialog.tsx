import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Shelf } from "../api/client";
import { useChange } from "../api/hooks";
import { ProblemNote } from "../shell/said";
import { offerUndo } from "../shell/undo-bar";
import { BathsEditor } from "./baths-editor";
import { ChartOverTime } from "./chart-over-time";
import { ChartEditor } from "./chart-editor";
import { ClothReadings } from "./cloth-readings";
import { ItemField } from "./item-field";
import { startOf } from "./item-start";
import type { Facts } from "./item-start";
import { addItem, changeItem } from "./keep-item";
import { KINDS, keyOf } from "./kinds";
import type { ShelfItem, ShelfKind } from "./kinds";
import { PartsEditor } from "./parts-editor";

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
  const [facts, setFacts] = useState<Facts>(() => (item ? { ...item } : startOf(kind)));
  const set = (name: string) => (value: unknown) => setFacts((old) => ({ ...old, [name]: value }));
  const body = () => {
    const name = String(facts["name"] ?? "").trim();
    return { ...numbered(kind, facts), name, key: item?.key ?? keyOf(name), kind } as unknown as ShelfItem;
  };
  const save = useChange(() => (item ? changeItem(body()) : addItem(body())), "shelf");
  const retire = useChange((retired: boolean) => changeItem({ ...(item as ShelfItem), retired }), "shelf");
  const remove = useChange(() =>
    answered(api.DELETE("/api/shelf/{kind}/{key}", { params: { path: { kind, key: item?.key ?? "" } } })),
    "shelf",
  );
  const takeAway = () =>
    remove.mutate(undefined, {
      onSuccess: () => {
        offerUndo(`${item?.name ?? ""} was taken off the Shelf.`, () =>
          addItem(item as ShelfItem),
        );
        onClose();
      },
    });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          event.stopPropagation();
          save.mutate(undefined, {
            onSuccess: () => {
              onSaved?.(body());
              onClose();
            },
          });
        }}
      >
        <DialogTitle>{item ? item.name : `New ${shape.one}`}</DialogTitle>
        <DialogContent sx={{ display: "grid", gap: 1.5 }}>
          <TextField label="Name" required autoFocus value={facts["name"] ?? ""} onChange={(e) => set("name")(e.target.value)} sx={{ mt: 1 }} />
          <Box sx={{ display: "grid", gridTemplateColumns: { sm: "1fr 1fr" }, gap: 1.5 }}>
            {shape.fields
              .filter((field) => !field.when || facts[field.when[0]] === field.when[1])
              .filter((field) => all || (NEEDED[kind] ?? []).includes(field.name))
              .filter((field) => !field.unless || facts[field.unless[0]] !== field.unless[1])
              .map((field) => (
                <ItemField key={field.name} field={field} value={facts[field.name]} onChange={set(field.name)} />
              ))}
          </Box>
          {kind === "mordant_route" && <BathsEditor value={facts["baths"]} shelf={shelf} onChange={set("baths")} />}
          {kind === "fibre" && (
            <PartsEditor label="Blend" what="fibre_class" options={["protein", "cellulose", "regenerated cellulose", "synthetic", "polyamide"].map((one) => [one, one])} value={facts["blend"]} onChange={set("blend")} />
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
          {kind === "chart" && <ChartEditor name={String(facts["name"] ?? "")} value={facts["chart"]} onChange={set("chart")} />}
          {kind === "chart" && item && <ChartOverTime chart={item.key} />}
          {kind === "cloth" && item && <ClothReadings cloth={item.key} isTile={facts["is_tile"] === true} />}
          {!all && (
            <Button onClick={() => setAll(true)} sx={{ justifySelf: "start" }}>
              All that can be said of it
            </Button>
          )}
          {all && <TextField label="Notes" multiline value={facts["note"] ?? ""} onChange={(e) => set("note")(e.target.value)} />}
          {all && <TextField label="Where these figures come from" value={facts["source"] ?? ""} onChange={(e) => set("source")(e.target.value)} />}
          <ProblemNote error={save.error ?? retire.error ?? remove.error} />
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
          <Button type="submit" variant="contained" disabled={!String(facts["name"] ?? "").trim() || (kind === "chart" && !facts["chart"]) || save.isPending}>
            {item ? "Save" : `Put the ${shape.one} on the Shelf`}
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  );
}

/** Typed numbers as numbers; what was left empty takes its default, or is not known. */
function numbered(kind: ShelfKind, facts: Facts): Facts {
  const fields = new Map(KINDS[kind].fields.map((field) => [field.name, field]));
  return Object.fromEntries(
    Object.entries(facts).flatMap(([name, typed]) => {
      const field = fields.get(name);
      const empty = typed === "" || typed == null;
      if (field?.type !== "number" && field?.type !== "choice") return [[name, typed]];
      if (empty) return field.start === undefined ? [[name, null]] : [];
      return [[name, field.type === "number" ? Number(String(typed).replace(",", ".")) : typed]];
    }),
  );
}
