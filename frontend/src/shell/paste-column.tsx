import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { counted } from "./counted";
import { pastedRows } from "./pasted";
import { ProblemNote } from "./said";

interface PasteColumnProps<T> {
  label: string;
  /** What a row holds, for the person. */
  help: string;
  /** What a row means; null where it means nothing. */
  read: (row: string[]) => T | null;
  words: (one: T) => string;
  /** It is there already, and is not added again. */
  isThere?: (one: T) => boolean;
  onAdd: (many: T[]) => void;
  onClose: () => void;
  /** For how many there is room. */
  most?: number;
  /** It is being kept. */
  busy?: boolean;
  error?: unknown;
}

/** Takes a column of a spreadsheet; what cannot be read is said line by line, and nothing is lost. */
export function PasteColumn<T>({
  label,
  help,
  read,
  words,
  isThere = () => false,
  onAdd,
  onClose,
  most = Infinity,
  busy = false,
  error,
}: PasteColumnProps<T>) {
  const [text, setText] = useState("");
  const rows = pastedRows(text).map((row) => ({ row, meant: read(row) }));
  const sound = rows.flatMap((one) => (one.meant === null ? [] : [one.meant]));
  const wanted = sound.filter((one) => !isThere(one));
  const meant = wanted.slice(0, most);
  const strange = rows.filter((one) => one.meant === null);
  return (
    <Box role="group" aria-label={label} sx={{ display: "grid", gap: 1, mt: 1, width: "100%", gridColumn: "1 / -1" }}>
      <TextField
        autoFocus
        multiline
        minRows={3}
        maxRows={8}
        label={label}
        helperText={help}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {sound.length > 0 && (
        <Box sx={{ fontSize: 13 }}>
          {sound.map((one) => `${words(one)}${isThere(one) ? " (there already)" : ""}`).join(" · ")}
        </Box>
      )}
      {strange.length > 0 && (
        <Box role="status" sx={{ fontSize: 13, borderLeft: 6, pl: 1 }}>
          {counted(strange.length, "line")} cannot be read and {strange.length === 1 ? "stays" : "stay"} out:{" "}
          {strange
            .slice(0, 4)
            .map(({ row }) => `“${row.join(" ")}”`)
            .join(", ")}
        </Box>
      )}
      {wanted.length > most && (
        <Box role="status" sx={{ fontSize: 13, borderLeft: 6, pl: 1 }}>
          There is room for {most}: the rest stays out.
        </Box>
      )}
      <ProblemNote error={error} />
      <Box sx={{ display: "flex", gap: 0.5 }}>
        <Button variant="outlined" size="small" disabled={meant.length === 0 || busy} onClick={() => onAdd(meant)}>
          Add {meant.length > 0 ? meant.length : ""}
        </Button>
        <Button size="small" onClick={onClose}>
          Cancel
        </Button>
      </Box>
    </Box>
  );
}
