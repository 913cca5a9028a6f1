import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { useChange } from "../api/hooks";
import { AskedClasses } from "../bring/asked-classes";
import type { FibreClass } from "../bring/asked-classes";
import { ColumnsTable } from "../bring/columns-table";
import { useTableLook } from "../bring/queries";
import { TableFaults } from "../bring/table-faults";
import { counted } from "../shell/counted";
import { FileButton } from "../shell/file-button";
import { Awaited, ProblemNote } from "../shell/said";

export type ListKind = Schema["TableShelf"]["kind"];

const WORDS: Record<string, string> = {
  "": "leave it out",
  name: "name",
  fibre_class: "made of",
  form: "form",
  mass_g_m2: "g/m²",
  width_cm: "width, cm",
  mass_g_per_100_m: "g for 100 m",
  amount_in_hand_g: "in hand, g",
  price_per_100_g: "price of 100 g",
  preparation: "preparation",
  source: "source",
  note: "note",
  part: "part of the plant",
  state: "state",
  place: "place",
  collected: "collected",
  strength_percent_wof: "usual strength, %",
  litres: "litres",
  material: "material",
  count: "how many",
};

interface ListDialogProps {
  kind: ListKind;
  title: string;
  onClose: () => void;
}

/** A list of things for the Shelf, from somebody's table. */
export function ListDialog({ kind, title, onClose }: ListDialogProps) {
  const [file, setFile] = useState<File | null>(null);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth={file ? "lg" : "sm"} aria-labelledby="list-title">
      <DialogTitle id="list-title">{title} from a list</DialogTitle>
      {file ? (
        <ReadList file={file} kind={kind} onAnother={() => setFile(null)} onClose={onClose} />
      ) : (
        <>
          <DialogContent>
            <p>
              A table (.csv, .xlsx) with a row for each, and names of columns in its first row. What stands on the Shelf
              under the same name stays as it is.
            </p>
            <FileButton
              label="List for the Shelf"
              accept=".csv,.tsv,.txt,.xlsx"
              variant="contained"
              sx={{ minHeight: 48 }}
              onFile={setFile}>
              Choose a file
            </FileButton>
          </DialogContent>
          <DialogActions>
            <Button onClick={onClose}>Leave it</Button>
          </DialogActions>
        </>
      )}
    </Dialog>
  );
}

interface ReadListProps {
  file: File;
  kind: ListKind;
  onAnother: () => void;
  onClose: () => void;
}

function ReadList(props: ReadListProps) {
  const look = useTableLook(props.file);
  return look.data ? (
    <Matching look={look.data} {...props} />
  ) : (
    <DialogContent>
      <Awaited query={look}>{() => null}</Awaited>
      {look.error && <Button onClick={props.onAnother}>Another file</Button>}
    </DialogContent>
  );
}

function Matching({ look, kind, onAnother, onClose }: ReadListProps & { look: Schema["ColumnsLook"] }) {
  const [fields, setFields] = useState<string[]>([...(look.fields[kind] ?? [])]);
  const [classes, setClasses] = useState<Record<string, FibreClass>>({});
  const wanted: Schema["TableShelf"] = { table: look.table, kind, fields, classes };
  const would = useQuery({
    queryKey: ["entered", "shelf", wanted],
    gcTime: 0,
    placeholderData: keepPreviousData,
    queryFn: () => answered(api.POST("/api/entered/shelf/look", { body: wanted })),
  });
  const enter = useChange(() => answered(api.POST("/api/entered/shelf", { body: wanted })), "shelf");
  const found = would.data;
  const ready =
    found && found.faults.length + found.asked.length === 0 && found.items.length > 0 && !would.isPlaceholderData;
  const choices = ["", ...(look.allowed[kind] ?? [])].map((one) => [one, WORDS[one] ?? one] as const);
  return (
    <>
      <DialogContent>
        <ColumnsTable table={look.table} choices={choices} chosen={fields} onChoose={setFields} />
        <AskedClasses asked={found?.asked ?? []} said={classes} onSay={setClasses} />
        <ProblemNote error={would.error} />
        <ProblemNote error={enter.error} />
        {found && <TableFaults faults={found.faults} />}
        {found && found.items.length > 0 && <p>New: {found.items.map((item) => item.name).join(", ")}.</p>}
        {found && found.there.length > 0 && (
          <Box sx={{ color: "text.secondary" }}>
            On the Shelf already, and left as they are: {found.there.join(", ")}.
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onAnother}>Another file</Button>
        <Button onClick={onClose}>Leave it</Button>
        <Button
          variant="contained"
          disabled={!ready || enter.isPending}
          onClick={() => enter.mutate(undefined, { onSuccess: onClose })}>
          Add {counted(found?.items.length ?? 0, "thing")}
        </Button>
      </DialogActions>
    </>
  );
}
