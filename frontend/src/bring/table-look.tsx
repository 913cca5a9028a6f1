import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import TextField from "@mui/material/TextField";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { useChange, useShelf } from "../api/hooks";
import { whoIsHere } from "../dye/outbox";
import { Chip } from "../grid/chip";
import { ChoiceField } from "../shell/choice-field";
import { counted } from "../shell/counted";
import { dayWords, todayIso } from "../shell/dates";
import { DayField } from "../shell/day-field";
import { QuantityField } from "../shell/quantity-field";
import { Awaited, Caution, ProblemNote } from "../shell/said";
import { AskedClasses } from "./asked-classes";
import type { FibreClass } from "./asked-classes";
import { ColumnsTable } from "./columns-table";
import { useTableLook } from "./queries";
import { TableFaults } from "./table-faults";

type TableStudy = Schema["TableStudy"];
type Role = TableStudy["roles"][number];

const ROLES: readonly (readonly [Role, string])[] = [
  ["leave", "leave it out"],
  ["name", "its own name"],
  ["fibre", "fibre"],
  ["mordant", "mordant"],
  ["dye", "dye"],
  ["strength", "strength, %"],
  ["temperature", "temperature, °C"],
  ["duration", "duration, min"],
  ["ph", "pH"],
  ["iron", "iron, %"],
  ["recipe", "recipe in words"],
  ["note", "note"],
  ["lightness", "L*"],
  ["a", "a*"],
  ["b", "b*"],
  ["hex", "hex colour"],
  ["doubt", "doubt, ΔE00"],
  ["day", "day of reading"],
];

interface TableLookProps {
  file: File;
  onAnother: () => void;
  onChoose: (study: number) => void;
  onClose: () => void;
}

/** A table of earlier swatches: its columns are matched, and it becomes a study. */
export function TableLook(props: TableLookProps) {
  const look = useTableLook(props.file);
  return look.data ? (
    <Matching look={look.data} {...props} />
  ) : (
    <>
      <DialogContent>
        <Awaited query={look}>{() => null}</Awaited>
      </DialogContent>
      <DialogActions>
        <Button onClick={props.onAnother}>Another file</Button>
        <Button onClick={props.onClose}>Leave it</Button>
      </DialogActions>
    </>
  );
}

function Matching({ look, file, onAnother, onChoose, onClose }: TableLookProps & { look: Schema["ColumnsLook"] }) {
  const [roles, setRoles] = useState<Role[]>([...look.roles]);
  const [name, setName] = useState(file.name.replace(/\.[a-z]+$/i, ""));
  const [day, setDay] = useState(todayIso());
  const [doubt, setDoubt] = useState<number | null>(null);
  const [fibre, setFibre] = useState("");
  const [classes, setClasses] = useState<Record<string, FibreClass>>({});
  const shelf = useShelf();
  const wanted: TableStudy = {
    table: look.table,
    roles,
    name: name.trim() || "Earlier swatches",
    question: "",
    who: whoIsHere(),
    read_on: day,
    doubt_de00: doubt || null,
    fibre: fibre || null,
    classes,
  };
  const would = useQuery({
    queryKey: ["entered", "study", wanted],
    gcTime: 0,
    placeholderData: keepPreviousData,
    queryFn: () => answered(api.POST("/api/entered/study/look", { body: wanted })),
  });
  const enter = useChange(() => answered(api.POST("/api/entered/study", { body: wanted })), "studies");
  const found = would.data;
  const ready =
    found && found.faults.length === 0 && found.asked.length === 0 && !Number.isNaN(doubt) && !would.isPlaceholderData;
  const needsFibre = !roles.includes("fibre");
  return (
    <>
      <DialogContent>
        <p>
          {counted(look.table.rows.length, "row")} in {file.name}. Say above each column what it is; what you leave out
          stays in your file.
        </p>
        <ColumnsTable
          table={look.table}
          choices={ROLES}
          chosen={roles}
          shared={["recipe", "note"]}
          onChoose={(chosen) => setRoles(chosen as Role[])}
        />
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "2fr 1fr 1fr" }, gap: 1.5, mt: 2 }}>
          <TextField
            label="Name of the study"
            value={name}
            onChange={(event) => setName(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 120 } }}
          />
          <DayField label="Read on, where no column says" value={day} onChange={setDay} past />
          <QuantityField
            label="Doubt, ± ΔE00"
            start={null}
            placeholder="2 of L*a*b*, 5 of hex"
            onTake={setDoubt}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          {needsFibre && (
            <ChoiceField
              label="All of them on"
              value={fibre}
              onChange={setFibre}
              options={(shelf.data?.fibres ?? [])
                .filter((one) => !one.retired)
                .map((one) => [one.key, one.name] as const)}
            />
          )}
        </Box>
        <AskedClasses asked={found?.asked ?? []} said={classes} onSay={setClasses} />
        <ProblemNote error={would.error} />
        <ProblemNote error={enter.error} />
        {found && <TableFaults faults={found.faults} />}
        {found && <WouldBe found={found} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onAnother}>Another file</Button>
        <Button onClick={onClose}>Leave it</Button>
        <Button
          variant="contained"
          disabled={!ready || enter.isPending}
          onClick={() => enter.mutate(undefined, { onSuccess: (made) => onChoose(made.id) })}>
          {found ? `Enter ${counted(found.swatches, "swatch")}` : "Enter them"}
        </Button>
      </DialogActions>
    </>
  );
}

const NEW_WORDS: Record<string, string> = { fibre: "fibre", dye_lot: "dye", mordant_route: "mordant" };

function WouldBe({ found }: { found: Schema["TableStudyLook"] }) {
  const lines = found.lines.slice(0, 6);
  if (lines.length === 0) return null;
  return (
    <Box component="section" aria-label="As they would be entered" sx={{ mt: 2 }}>
      <Box component="h3" sx={{ m: 0, fontSize: 15 }}>
        As they would be entered: {counted(found.swatches, "swatch")}, {found.coloured} with a colour
      </Box>
      {lines.map((line) => (
        <Box
          key={line.row}
          sx={{ display: "flex", gap: 1.5, alignItems: "center", py: 0.5, borderBottom: 1, borderColor: "divider" }}>
          <Box sx={{ flex: "none" }}>
            <Chip fills={line.hex ? [line.hex] : []} />
          </Box>
          <span>
            <strong>{line.name || `row ${line.row}`}</strong> · {line.words}
            {line.replicate > 1 && `, repeat ${line.replicate}`}
            {line.lab && ` · ${line.lab.map((value) => value.toFixed(1)).join(", ")} ± ${line.doubt_de00}`} ·{" "}
            {dayWords(line.day)}
          </span>
        </Box>
      ))}
      {found.new_items.length > 0 && (
        <p>
          New on the Shelf:{" "}
          {found.new_items.map((item) => `${item.name} (${NEW_WORDS[item.kind] ?? item.kind})`).join(", ")}.
        </p>
      )}
      <Caution>
        Its record will say that it was entered later. The baths count as done, and a colour from a table never
        outweighs one that is read from a photo or by an instrument.
      </Caution>
    </Box>
  );
}
