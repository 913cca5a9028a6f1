import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import { useChange, useCloth } from "../api/hooks";
import { Chip } from "../grid/chip";
import { labWords } from "../read/colours";
import { dayWords } from "../shell/dates";
import { typedNumber } from "../settings/quantities";
import { Awaited, ProblemNote } from "../shell/said";
import { TilePlot } from "./tile-plot";

const SOURCES = { photo: "from a photo", instrument: "by an instrument", typed: "typed in" } as const;

/** What a cloth or a tile was read as, and a place to type a colour in. */
export function ClothReadings({ cloth, isTile }: { cloth: string; isTile: boolean }) {
  const view = useCloth(cloth);
  const [typed, setTyped] = useState({ l: "", a: "", b: "", note: "" });
  const add = useChange(
    () =>
      answered(
        api.POST("/api/cloths/{key}/readings", {
          params: { path: { key: cloth } },
          body: {
            lightness: typedNumber(typed.l) ?? NaN,
            a: typedNumber(typed.a) ?? NaN,
            b: typedNumber(typed.b) ?? NaN,
            uncertainty_de00: 1,
            note: typed.note,
          },
        }),
      ),
    "shelf",
  );
  const whole = [typed.l, typed.a, typed.b].every((one) => typedNumber(one) !== null);
  return (
    <Awaited query={view}>
      {({ readings, mean, drift }) => (
        <Box sx={{ fontSize: 13, display: "grid", gap: 1 }}>
          {mean ? (
            <Box sx={{ display: "flex", gap: 1.5, alignItems: "center" }}>
              <Chip fills={[mean.hex]} width={160} height={110} />
              <Box>
                <strong>{mean.colour_words}</strong>
                <div>{labWords(mean.lab)} (D50, 2°)</div>
                <div>±{mean.uncertainty_de00.toFixed(1)} ΔE00</div>
              </Box>
            </Box>
          ) : (
            <div>
              Not read yet: lay it in a free cell of any sheet and say so when the photo is looked at, bring in an
              instrument's file, or type its colour.
            </div>
          )}
          {drift && (
            <Box role="note" sx={{ borderLeft: 6, pl: 1 }}>
              {drift.words}
            </Box>
          )}
          {isTile && readings.length > 1 && <TilePlot readings={readings} />}
          {readings.length > 0 && (
            <Box component="details">
              <summary>{readings.length === 1 ? "1 reading" : `${readings.length} readings`}</summary>
              {readings.map((one) => (
                <Box key={one.id} sx={{ display: "flex", gap: 1, alignItems: "center", py: 0.25 }}>
                  <Chip fills={[one.hex]} />
                  {dayWords(one.taken_on)} · {labWords(one.lab)} ±{one.uncertainty_de00.toFixed(1)} ·{" "}
                  {SOURCES[one.source]} {one.note}
                </Box>
              ))}
            </Box>
          )}
          <Box sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr) auto", gap: 1 }}>
            {(["l", "a", "b"] as const).map((axis) => (
              <TextField
                key={axis}
                label={`${axis === "l" ? "L" : axis}*`}
                value={typed[axis]}
                onChange={(event) => setTyped({ ...typed, [axis]: event.target.value })}
                slotProps={{ htmlInput: { inputMode: "decimal" } }}
              />
            ))}
            <Button
              variant="outlined"
              color="secondary"
              disabled={!whole || add.isPending}
              onClick={() => add.mutate(undefined, { onSuccess: () => setTyped({ l: "", a: "", b: "", note: "" }) })}>
              Type it in
            </Button>
          </Box>
          <ProblemNote error={add.error} />
        </Box>
      )}
    </Awaited>
  );
}
