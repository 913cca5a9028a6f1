import Box from "@mui/material/Box";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";

import type { StudyView } from "../api/client";
import { useShelf } from "../api/hooks";
import { ChoiceField } from "../shell/choice-field";
import { NumberField } from "../shell/number-field";
import { QuantityField } from "../shell/quantity-field";
import { Part } from "../shell/said";
import { AnyPiece } from "./any-piece";
import type { FindState } from "./find-state";
import { ObjectPhoto } from "./object-photo";

/** The colour that is wanted, and what else it has to be. */
export function FindPanel({ study, state }: { study: StudyView; state: FindState }) {
  const shelf = useShelf().data;
  const { set } = state;
  return (
    <>
      <Part title="Which colour">
        <ToggleButtonGroup
          exclusive
          size="small"
          value={state.by}
          onChange={(_, by: FindState["by"] | null) => by && set({ by })}
          aria-label="Said how">
          <ToggleButton value="picked">Picked</ToggleButton>
          <ToggleButton value="number">L*a*b*</ToggleButton>
          <ToggleButton value="piece">A piece</ToggleButton>
        </ToggleButtonGroup>
        {state.by === "picked" && (
          <Box sx={{ display: "flex", gap: 1, mt: 1.5, alignItems: "center" }}>
            <input
              type="color"
              aria-label="Colour that is wanted"
              value={/^#[0-9a-f]{6}$/i.test(state.hex) ? state.hex : "#808080"}
              onChange={(event) => set({ hex: event.target.value })}
              style={{ width: 64, height: 48, border: 0, padding: 0 }}
            />
            <TextField
              label="As sRGB"
              value={state.hex}
              onChange={(event) => /^#?[0-9a-f]{0,6}$/i.test(event.target.value) && set({ hex: event.target.value })}
              helperText="six hexadecimal digits"
            />
          </Box>
        )}
        {state.by === "number" && (
          <Box sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr)", gap: 1, mt: 1.5 }}>
            {(["L*", "a*", "b*"] as const).map((name, i) => (
              <TextField
                key={name}
                label={name}
                value={state.lab[i]}
                onChange={(event) =>
                  set({
                    lab: state.lab.map((old, k) => (k === i ? event.target.value : old)) as FindState["lab"],
                    photoDoubt: 0,
                  })
                }
              />
            ))}
          </Box>
        )}
        {state.by === "piece" && <AnyPiece study={study} label="Piece or cloth" onChoose={(piece) => set({ piece })} />}
        <ObjectPhoto
          onColour={(lab, doubt) =>
            set({ by: "number", lab: lab.map((value) => value.toFixed(1)) as FindState["lab"], photoDoubt: doubt })
          }
        />
      </Part>
      <Part title="What else it has to be">
        <ChoiceField
          label="Fibre"
          value={state.fibre}
          onChange={(chosen) => set({ fibre: chosen })}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          options={[
            ["", "any fibre"],
            ...(shelf?.fibres ?? []).filter((one) => !one.retired).map((one) => [one.key, one.name] as const),
          ]}
        />
        <FormControlLabel
          sx={{ mt: 1 }}
          control={<Switch color="secondary" checked={state.gentle} onChange={(_, gentle) => set({ gentle })} />}
          label="Gentle: no iron, copper or heat, pH 5 to 8"
        />
        <FormControlLabel
          control={<Switch color="secondary" checked={state.inHand} onChange={(_, inHand) => set({ inHand })} />}
          label="All of it in hand"
        />
        <ChoiceField
          label="Lasting in"
          sx={{ mt: 1 }}
          value={state.place}
          onChange={(chosen) => set({ place: chosen })}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          options={[["", "not asked"], ...(shelf?.light_places ?? []).map((one) => [one.key, one.name] as const)]}
        />
        {state.place && (
          <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, mt: 1.5 }}>
            <NumberField label="After years" start={state.years} onTake={(years) => set({ years })} />
            <NumberField
              label="Still within ΔE00"
              start={state.within_de00}
              onTake={(within_de00) => set({ within_de00 })}
            />
          </Box>
        )}
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, mt: 1.5 }}>
          <NumberField label="Dry fibre, g" start={state.mass_g} onTake={(mass_g) => set({ mass_g })} />
          <QuantityField label="Costs at most" start={state.costAtMost} onTake={(costAtMost) => set({ costAtMost })} />
        </Box>
      </Part>
    </>
  );
}
