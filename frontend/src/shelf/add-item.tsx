import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { useChange } from "../api/hooks";
import { ProblemNote } from "../shell/said";

const CLASSES = ["protein", "cellulose", "regenerated cellulose", "synthetic", "polyamide"] as const;

const keyOf = (name: string) =>
  name
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 40) || "item";

export function AddFibre() {
  const [name, setName] = useState("");
  const [fibreClass, setClass] = useState<(typeof CLASSES)[number]>("protein");
  const add = useChange(() =>
    answered(
      api.POST("/api/shelf/fibres", {
        body: { key: keyOf(name), name, fibre_class: fibreClass, note: "", source: "added here" },
      }),
    ),
  );
  return (
    <Box sx={{ display: "grid", gap: 1, mt: 2 }}>
      <TextField label="New fibre" value={name} onChange={(e) => setName(e.target.value)} />
      <TextField select label="Class" value={fibreClass} onChange={(e) => setClass(e.target.value as (typeof CLASSES)[number])}>
        {CLASSES.map((one) => (
          <MenuItem key={one} value={one}>
            {one}
          </MenuItem>
        ))}
      </TextField>
      <ProblemNote error={add.error} />
      <Button
        variant="outlined"
        disabled={!name.trim() || add.isPending}
        onClick={() => add.mutate(undefined, { onSuccess: () => setName("") })}
      >
        Put the fibre on the Shelf
      </Button>
    </Box>
  );
}

export function AddDyeLot() {
  const [name, setName] = useState("");
  const [part, setPart] = useState("");
  const [state, setState] = useState<Schema["DyeLot"]["state"]>("dried");
  const [strength, setStrength] = useState("100");
  const add = useChange(() =>
    answered(
      api.POST("/api/shelf/dye-lots", {
        body: {
          key: keyOf(name),
          name,
          part,
          state,
          collected: "",
          strength_percent_wof: Number(strength),
          temperature_c: 80,
          duration_min: 60,
          note: "",
          source: "added here",
        },
      }),
    ),
  );
  return (
    <Box sx={{ display: "grid", gap: 1, mt: 2 }}>
      <TextField label="New dye lot" value={name} onChange={(e) => setName(e.target.value)} />
      <TextField label="Part of the plant" value={part} onChange={(e) => setPart(e.target.value)} />
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
        <TextField select label="State" value={state} onChange={(e) => setState(e.target.value as Schema["DyeLot"]["state"])}>
          {["fresh", "dried", "frozen", "extract"].map((one) => (
            <MenuItem key={one} value={one}>
              {one}
            </MenuItem>
          ))}
        </TextField>
        <TextField label="Strength, % WOF" value={strength} onChange={(e) => setStrength(e.target.value)} />
      </Box>
      <ProblemNote error={add.error} />
      <Button
        variant="outlined"
        disabled={!name.trim() || add.isPending}
        onClick={() =>
          add.mutate(undefined, {
            onSuccess: () => {
              setName("");
              setPart("");
            },
          })
        }
      >
        Put the dye lot on the Shelf
      </Button>
    </Box>
  );
}
