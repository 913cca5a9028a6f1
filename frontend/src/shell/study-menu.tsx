import Button from "@mui/material/Button";
import Divider from "@mui/material/Divider";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useState } from "react";

import type { Schema } from "../api/client";
import { NewStudyDialog } from "../plan/new-study-dialog";

interface StudyMenuProps {
  studies: readonly Schema["StudySummary"][];
  study: number | null;
  onChoose: (id: number) => void;
}

export function StudyMenu({ studies, study, onChoose }: StudyMenuProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [naming, setNaming] = useState(false);
  const current = studies.find((one) => one.id === study);
  return (
    <>
      <Button
        variant="outlined"
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
        {current?.name ?? "Studies"} ▾
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {studies.map((one) => (
          <MenuItem
            key={one.id}
            selected={one.id === study}
            onClick={() => {
              setAnchor(null);
              onChoose(one.id);
            }}
          >
            {one.name} · {one.read_count} of {one.swatch_count} read
          </MenuItem>
        ))}
        {studies.length > 0 && <Divider />}
        <MenuItem
          onClick={() => {
            setAnchor(null);
            setNaming(true);
          }}
        >
          New study
        </MenuItem>
      </Menu>
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
