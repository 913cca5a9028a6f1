import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import List from "@mui/material/List";
import ListItemButton from "@mui/material/ListItemButton";
import Popover from "@mui/material/Popover";
import TextField from "@mui/material/TextField";
import { useDeferredValue, useState } from "react";

import { STUDIES_AT_ONCE, useStudies } from "../api/hooks";
import { BringDialog } from "../bring/bring-dialog";
import { NewStudyDialog } from "../plan/new-study-dialog";
import { ProblemNote } from "./said";

interface StudyMenuProps {
  name: string | undefined;
  study: number | null;
  onChoose: (id: number) => void;
}

/** The list of studies: a few of them at once, the others by their words. */
export function StudyMenu({ name, study, onChoose }: StudyMenuProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [naming, setNaming] = useState(false);
  const [bringing, setBringing] = useState(false);
  const choose = (id: number) => {
    setAnchor(null);
    onChoose(id);
  };
  return (
    <>
      <Button
        variant="outlined"
        aria-haspopup="dialog"
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{
          flex: { xs: "1 1 90px", sm: "none" },
          minWidth: 0,
          maxWidth: 360,
          overflow: "hidden",
          whiteSpace: "nowrap",
          justifyContent: "flex-start",
        }}
      >
        {name ?? "Studies"} ▾
      </Button>
      <Popover
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{ paper: { "aria-label": "Studies", role: "dialog", sx: { width: 420, maxWidth: "94vw" } } }}
      >
        <Found study={study} onChoose={choose} />
        <Button
          fullWidth
          sx={{ justifyContent: "flex-start", px: 2, minHeight: 48, borderTop: 1, borderColor: "divider" }}
          onClick={() => {
            setAnchor(null);
            setNaming(true);
          }}
        >
          New study
        </Button>
        <Button
          fullWidth
          sx={{ justifyContent: "flex-start", px: 2, minHeight: 48 }}
          onClick={() => {
            setAnchor(null);
            setBringing(true);
          }}
        >
          Studies from a file
        </Button>
      </Popover>
      {bringing && (
        <BringDialog
          onClose={() => setBringing(false)}
          onChoose={(id) => {
            setBringing(false);
            onChoose(id);
          }}
        />
      )}
      <NewStudyDialog
        open={naming}
        onClose={() => setNaming(false)}
        onMade={(id) => {
          setNaming(false);
          onChoose(id);
        }}
      />
    </>
  );
}

function Found({ study, onChoose }: { study: number | null; onChoose: (id: number) => void }) {
  const [text, setText] = useState("");
  const studies = useStudies(useDeferredValue(text.trim()));
  const found = studies.data ?? [];
  return (
    <>
      <Box sx={{ p: 1.5, pb: 0.5 }}>
        <TextField label="Find a study" value={text} onChange={(event) => setText(event.target.value)} autoFocus fullWidth slotProps={{ htmlInput: { maxLength: 200 } }} />
      </Box>
      <ProblemNote error={studies.error} again={() => void studies.refetch()} />
      <List aria-label="Studies" sx={{ maxHeight: "50vh", overflow: "auto" }}>
        {found.map((one) => (
          <li key={one.id}>
            <ListItemButton
              selected={one.id === study}
              aria-current={one.id === study}
              onClick={() => onChoose(one.id)}
              sx={{ "&.Mui-selected, &.Mui-selected:hover": { bgcolor: "action.hover", fontWeight: 700 } }}
            >
              {one.name} · {one.read_count} of {one.swatch_count} read
            </ListItemButton>
          </li>
        ))}
      </List>
      {studies.data && found.length === 0 && <Box sx={{ px: 2, pb: 1 }}>No study has these words in its name or question.</Box>}
      {found.length >= STUDIES_AT_ONCE && <Box sx={{ px: 2, pb: 1, fontSize: 13 }}>The first {STUDIES_AT_ONCE}; type a word to find others.</Box>}
    </>
  );
}
