import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";

import { answered, api } from "../api/client";
import type { GridCell, StudyView } from "../api/client";
import { useChange, useLook } from "../api/hooks";
import { codesIn } from "../grid/cells";
import type { Colours } from "../read/colours";
import { ChoiceField } from "../shell/choice-field";
import { Part, ProblemNote } from "../shell/said";
import { waysNow } from "../settings/ways";
import { AnyPiece } from "./any-piece";
import { openFile } from "./open-file";
import { useKeptTables } from "./compare-queries";
import { StudiesBeside } from "./studies-beside";
import type { Ground, TableState } from "./table-state";

interface TablePanelProps {
  study: StudyView;
  chosen: readonly GridCell[];
  colours: Colours;
  state: TableState;
  filled: number | null;
  setFilled: (study: number | null) => void;
}

/** What is laid, on which ground, under which name. */
export function TablePanel({ study, chosen, colours, state, filled, setFilled }: TablePanelProps) {
  const { table } = state;
  const codes = codesIn(chosen);
  const newest = codes.flatMap((code) => {
    const colour = colours.newest(code);
    return colour ? [`${code}@${colour.run}`] : [];
  });
  const kept = useKeptTables().data ?? [];
  const keep = useChange(() => answered(api.POST("/api/tables", { body: table })), "tables");
  const keepChange = useChange(
    (id: number) => answered(api.PUT("/api/tables/{table_id}", { params: { path: { table_id: id } }, body: table })),
    "tables",
  );
  const takeAway = useChange(
    (id: number) => answered(api.DELETE("/api/tables/{table_id}", { params: { path: { table_id: id } } })),
    "tables",
  );
  const print = useLook(() =>
    answered(
      api.POST("/api/tables/print", { params: { query: { paper: waysNow().paper } }, body: table, parseAs: "blob" }),
    ),
  );
  return (
    <>
      <Part title="Lay on the table">
        <Button variant="contained" fullWidth disabled={newest.length === 0} onClick={() => state.add(newest)}>
          {codes.length > 0 ? `Lay the selected (${codes.length})` : "Select swatches in the grid"}
        </Button>
        <AnyPiece study={study} onChoose={(key) => state.add([key])} />
      </Part>
      <Part title="How they lie">
        <ToggleButtonGroup
          exclusive
          size="small"
          value={table.ground ?? "grey"}
          onChange={(_, ground: Ground | null) => ground && state.set({ ground })}
          aria-label="Ground">
          <ToggleButton value="light">Light</ToggleButton>
          <ToggleButton value="grey">Middle grey</ToggleButton>
          <ToggleButton value="dark">Dark</ToggleButton>
        </ToggleButtonGroup>
        <Box>
          <FormControlLabel
            control={
              <Switch color="secondary" checked={table.pairs ?? false} onChange={(_, pairs) => state.set({ pairs })} />
            }
            label="In pairs"
          />
          <FormControlLabel
            control={
              <Switch
                color="secondary"
                checked={table.undyed ?? false}
                onChange={(_, undyed) => state.set({ undyed })}
              />
            }
            label="Undyed below (U)"
          />
        </Box>
        <Box sx={{ fontSize: 13 }}>
          Drag a piece, or move the focused one with Shift and the arrow keys; Delete takes it off.
        </Box>
      </Part>
      <Part title="Keep and print">
        <TextField
          label="Name of the table"
          value={table.name}
          onChange={(event) => state.set({ name: event.target.value })}
        />
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1 }}>
          {state.kept === null ? (
            <Button
              variant="outlined"
              disabled={table.keys.length === 0 || !table.name.trim()}
              onClick={() => keep.mutate(undefined, { onSuccess: (made) => state.openKept(made.id) })}>
              Keep
            </Button>
          ) : (
            <>
              <Button
                variant="outlined"
                disabled={!state.changed || !table.name.trim()}
                onClick={() => keepChange.mutate(state.kept ?? 0)}>
                {state.changed ? "Keep the change" : "Kept"}
              </Button>
              <Button
                variant="text"
                onClick={() => takeAway.mutate(state.kept ?? 0, { onSuccess: () => state.openKept(null) })}>
                Take away
              </Button>
            </>
          )}
          <Button
            variant="outlined"
            disabled={table.keys.length === 0}
            onClick={() => print.mutate(undefined, { onSuccess: (blob) => openFile(blob, "table.pdf") })}>
            Print in colour
          </Button>
          {table.keys.length > 0 && (
            <Button variant="text" onClick={() => state.openKept(null)}>
              Clear
            </Button>
          )}
        </Box>
        <ProblemNote error={keep.error ?? keepChange.error ?? takeAway.error ?? print.error} />
        {kept.length > 0 && (
          <ChoiceField
            label="Kept tables"
            sx={{ mt: 1.5 }}
            value={state.kept ?? ""}
            onChange={state.openKept}
            options={kept.map((one) => [one.id, `${one.table.name} (${one.table.keys.length})`] as const)}
          />
        )}
        {state.kept !== null && (
          <Box sx={{ fontSize: 13, mt: 1 }}>This table has its own address: send it to whoever uses this file.</Box>
        )}
      </Part>
      <StudiesBeside study={study} onLay={(keys) => state.add(keys)} filled={filled} setFilled={setFilled} />
    </>
  );
}
