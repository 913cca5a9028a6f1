import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { isNamed } from "./colours";

interface ZoneNameProps {
  /** The zones that the plan has on the cloth. */
  names: readonly string[];
  name: string;
  onName: (name: string) => void;
}

/** What a zone that was read is called: said later, without reading it again. */
export function ZoneName({ names, name, onName }: ZoneNameProps) {
  const [typed, setTyped] = useState(isNamed(name) ? name : "");
  return (
    <Box sx={{ display: "flex", gap: 1, alignItems: "center", mt: 0.5 }}>
      <Autocomplete
        freeSolo
        size="small"
        sx={{ flex: 1 }}
        slotProps={{ paper: { elevation: 6 } }}
        options={[...names]}
        inputValue={typed}
        onInputChange={(_, next) => setTyped(next)}
        renderInput={(params) => <TextField {...params} label={isNamed(name) ? "Name" : `Name of ${name}`} />}
      />
      <Button size="small" disabled={typed.trim() === "" || typed === name} onClick={() => onName(typed.trim())}>
        Name it
      </Button>
    </Box>
  );
}
