import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import List from "@mui/material/List";
import ListItemButton from "@mui/material/ListItemButton";
import Popover from "@mui/material/Popover";
import TextField from "@mui/material/TextField";
import { useDeferredValue, useState } from "react";

import { STUDIES_AT_ONCE, useExample, useStudies } from "../api/hooks";
import { ProblemNote } from "./said";

interface StudyListProps {
  anchor: HTMLElement;
  study: number | null;
  onChoose: (id: number) => void;
  onNew: () => void;
  onBring: () => void;
  onClose: () => void;
}

/** The studies, a few of them at once, and the ways to another one. */
export function StudyList({ anchor, study, onChoose, onNew, onBring, onClose }: StudyListProps) {
  const example = useExample();
  return (
    <Popover
      anchorEl={anchor}
      open
      onClose={onClose}
      anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
      slotProps={{ paper: { "aria-label": "Studies", role: "dialog", sx: { width: 420, maxWidth: "94vw" } } }}>
      <Found study={study} onChoose={onChoose} />
      <Button
        fullWidth
        sx={{ justifyContent: "flex-start", px: 2, minHeight: 48, borderTop: 1, borderColor: "divider" }}
        onClick={onNew}>
        New study
      </Button>
      <Button fullWidth sx={{ justifyContent: "flex-start", px: 2, minHeight: 48 }} onClick={onBring}>
        Studies from a file
      </Button>
      <Button
        fullWidth
        disabled={example.isPending}
        sx={{ justifyContent: "flex-start", px: 2, minHeight: 48 }}
        onClick={() => example.mutate(undefined, { onSuccess: (made) => onChoose(made.study) })}>
        {example.isPending ? "The example is dyed and photographed: a few seconds" : "A worked example"}
      </Button>
      <ProblemNote error={example.error} />
    </Popover>
  );
}

function Found({ study, onChoose }: { study: number | null; onChoose: (id: number) => void }) {
  const [text, setText] = useState("");
  const studies = useStudies(useDeferredValue(text.trim()));
  const found = studies.data ?? [];
  return (
    <>
      <Box sx={{ p: 1.5, pt: 2, pb: 0.5 }}>
        <TextField
          label="Find a study"
          value={text}
          onChange={(event) => setText(event.target.value)}
          autoFocus
          fullWidth
          slotProps={{ htmlInput: { maxLength: 200 } }}
        />
      </Box>
      <ProblemNote error={studies.error} again={() => void studies.refetch()} />
      <List aria-label="Studies" sx={{ maxHeight: "50vh", overflow: "auto" }}>
        {found.map((one) => (
          <li key={one.id}>
            <ListItemButton
              selected={one.id === study}
              aria-current={one.id === study}
              onClick={() => onChoose(one.id)}
              sx={{ "&.Mui-selected, &.Mui-selected:hover": { bgcolor: "action.hover", fontWeight: 700 } }}>
              {one.name} · {one.read_count} of {one.swatch_count} read
            </ListItemButton>
          </li>
        ))}
      </List>
      {studies.data && found.length === 0 && (
        <Box sx={{ px: 2, pb: 1 }}>No study has these words in its name or question.</Box>
      )}
      {found.length >= STUDIES_AT_ONCE && (
        <Box sx={{ px: 2, pb: 1, fontSize: 13 }}>The first {STUDIES_AT_ONCE}; type a word to find others.</Box>
      )}
    </>
  );
}
