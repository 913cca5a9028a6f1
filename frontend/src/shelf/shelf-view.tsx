import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Shelf } from "../api/client";
import { useShelf } from "../api/hooks";
import { keysOf } from "../shell/keys";
import { PanelTabs } from "../shell/panel-tabs";
import { Awaited } from "../shell/said";
import { ItemDialog } from "./item-dialog";
import { ListDialog } from "./list-dialog";
import type { ListKind } from "./list-dialog";
import { KINDS } from "./kinds";
import type { ShelfItem, ShelfKind } from "./kinds";
import { inMyUnits } from "../settings/quantities";

interface Open {
  kind: ShelfKind;
  item: ShelfItem | null;
}

/** Everything that a plan draws on: found, added, changed, retired. */
export function ShelfView() {
  const shelf = useShelf();
  const [sought, setSought] = useState("");
  const [kind, setKind] = useState<ShelfKind>("fibre");
  const [retired, setRetired] = useState(false);
  const [open, setOpen] = useState<Open | null>(null);
  const seeking = sought.trim() !== "";
  const titles = Object.fromEntries(ALL_KINDS.map((one) => [one, KINDS[one].title])) as Record<ShelfKind, string>;
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, overflow: "auto" }}>
      <Box sx={{ display: "flex", gap: 2, alignItems: "center", flexWrap: "wrap" }}>
        <Box component="h1" sx={{ m: 0 }}>
          Shelf
        </Box>
        <TextField
          label="Find on the Shelf"
          value={sought}
          onChange={(event) => setSought(event.target.value)}
          sx={{ maxWidth: 280 }}
        />
        <FormControlLabel
          control={<Checkbox checked={retired} onChange={(_, on) => setRetired(on)} />}
          label="Show what is retired"
        />
      </Box>
      {!seeking && <PanelTabs tabs={titles} value={kind} onChange={setKind} />}
      <Awaited query={shelf}>
        {(there) => (
          <>
            {(seeking ? ALL_KINDS : [kind]).map((one) => {
              const items = itemsOf(there, one).filter((item) => fits(item, sought, retired));
              if (seeking && items.length === 0) return null;
              return <KindList key={one} kind={one} items={items} onOpen={(item) => setOpen({ kind: one, item })} />;
            })}
            {open && <ItemDialog kind={open.kind} item={open.item} shelf={there} onClose={() => setOpen(null)} />}
          </>
        )}
      </Awaited>
    </Box>
  );
}

const ALL_KINDS = keysOf(KINDS);

const itemsOf = (shelf: Shelf, kind: ShelfKind) => (shelf[KINDS[kind].list] ?? []) as ShelfItem[];

const fits = (item: ShelfItem, sought: string, retired: boolean) =>
  (retired || !item.retired) && JSON.stringify(item).toLowerCase().includes(sought.trim().toLowerCase());

const isListKind = (kind: ShelfKind): kind is ListKind => ["fibre", "dye_lot", "vessel"].includes(kind);

function KindList({
  kind,
  items,
  onOpen,
}: {
  kind: ShelfKind;
  items: ShelfItem[];
  onOpen: (item: ShelfItem | null) => void;
}) {
  const shape = KINDS[kind];
  const [listing, setListing] = useState(false);
  const facts = shape.facts as (item: ShelfItem) => (string | null | undefined | false)[];
  return (
    <Box component="section" aria-label={shape.title} sx={{ mt: 2 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 2, mb: 1 }}>
        <Box component="h2" sx={{ m: 0, fontSize: 17 }}>
          {shape.title}: {items.length}
        </Box>
        <Button variant="contained" onClick={() => onOpen(null)}>
          New {shape.one}
        </Button>
        {isListKind(kind) && <Button onClick={() => setListing(true)}>From a list</Button>}
        {listing && isListKind(kind) && (
          <ListDialog kind={kind} title={shape.title} onClose={() => setListing(false)} />
        )}
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(280px, 1fr))", columnGap: 3 }}>
        {items.map((item) => (
          <Box
            key={item.key}
            sx={{
              display: "flex",
              flexDirection: "column",
              position: "relative",
              minHeight: 48,
              py: 1,
              px: 0.5,
              borderBottom: 1,
              borderColor: "divider",
              fontSize: 13,
              "&:hover": { bgcolor: "background.paper" },
            }}>
            {/* Its name is the button, and all of the card is its target. */}
            <Box
              component="button"
              type="button"
              onClick={() => onOpen(item)}
              sx={{
                p: 0,
                border: 0,
                bgcolor: "transparent",
                color: "inherit",
                font: "inherit",
                fontWeight: 700,
                fontSize: 15,
                textAlign: "left",
                cursor: "pointer",
                "&::after": { content: '""', position: "absolute", inset: 0 },
              }}>
              {item.name}
              {item.retired && " (retired)"}
            </Box>
            <span>{inMyUnits(facts(item).filter(Boolean).join(", "))}</span>
            {item.note && <span>{item.note}</span>}
            <Box component="span" sx={{ color: "text.secondary" }}>
              {item.source}
            </Box>
          </Box>
        ))}
      </Box>
      {items.length === 0 && <Box sx={{ fontSize: 13, color: "text.secondary" }}>Nothing here yet.</Box>}
    </Box>
  );
}
