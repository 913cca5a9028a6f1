import Box from "@mui/material/Box";
import FormControlLabel from "@mui/material/FormControlLabel";
import Radio from "@mui/material/Radio";
import RadioGroup from "@mui/material/RadioGroup";
import { Fragment } from "react";
import type { ReactNode } from "react";

import { dayWords } from "../shell/dates";
import { keysOf } from "../shell/keys";
import type { Bench } from "../shell/theme";
import { inMyUnits, lengthWords, massWords, temperatureWords, volumeWords } from "./quantities";
import { chooseWays, waysNow } from "./ways";
import type { Ways } from "./ways";

interface SettingsViewProps {
  chosen: Bench | null;
  onBench: (bench: Bench | null) => void;
}

const CHOICES: { [Key in keyof Ways]: { title: string; options: readonly (readonly [Ways[Key], string])[] } } = {
  mass: {
    title: "Weights",
    options: [
      ["g", "grams"],
      ["oz", "ounces"],
    ],
  },
  volume: {
    title: "Volumes",
    options: [
      ["mL", "millilitres and litres"],
      ["us", "US cups and spoons"],
    ],
  },
  temperature: {
    title: "Temperatures",
    options: [
      ["C", "°C"],
      ["F", "°F"],
    ],
  },
  length: {
    title: "Lengths",
    options: [
      ["cm", "centimetres"],
      ["in", "inches"],
    ],
  },
  light: {
    title: "Light",
    options: [
      ["lx", "lux"],
      ["fc", "foot-candles"],
    ],
  },
  decimal: {
    title: "Decimals",
    options: [
      [".", "0.5"],
      [",", "0,5"],
    ],
  },
  dates: {
    title: "Dates",
    options: [
      ["dmy", "3 Sep 2026"],
      ["mdy", "Sep 3, 2026"],
      ["iso", "2026-09-03"],
    ],
  },
  paper: {
    title: "Paper",
    options: [
      ["A4", "A4"],
      ["Letter", "Letter"],
    ],
  },
};

/** How this device shows things. */
export function SettingsView({ chosen, onBench }: SettingsViewProps) {
  return (
    <Box sx={{ flex: 1, overflow: "auto", p: { xs: 1.5, sm: 3 } }}>
      <Box component="h1" sx={{ mt: 0, fontSize: 20 }}>
        How this device shows things
      </Box>
      <Box component="p" sx={{ maxWidth: 620 }}>
        It holds for this device alone. Everything is stored in grams, litres and degrees Celsius, whatever is chosen.
        Fields are filled in the unit that their name holds; weights, volumes and temperatures take another behind the
        number, such as “0.5 oz”.
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "1fr 320px" }, gap: 4, maxWidth: 1600 }}>
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: "repeat(auto-fill, minmax(200px, 1fr))",
            gap: 3,
            alignContent: "start",
          }}>
          <Choice
            title="Bench"
            value={chosen ?? "system"}
            options={[
              ["system", "as the system has it"],
              ["light", "light"],
              ["dark", "dark"],
            ]}
            onChange={(bench) => onBench(bench === "system" ? null : (bench as Bench))}
          />
          {keysOf(CHOICES).map((key) => (
            <Choice
              key={key}
              title={CHOICES[key].title}
              value={waysNow()[key]}
              options={CHOICES[key].options}
              onChange={(value) => chooseWays({ [key]: value })}
            />
          ))}
        </Box>
        <SoItIsWritten />
      </Box>
    </Box>
  );
}

/** Lines as they stand at the bench and in the readings, in what is chosen. */
function SoItIsWritten() {
  const lines: [string, string][] = [
    ["In the bath", `25 % × ${massWords(50)} = ${massWords(12.5)}`],
    ["From the stock", inMyUnits(`500 mL of the 2.5 % stock`)],
    ["Water", volumeWords(1920)],
    ["Heat", temperatureWords(60)],
    ["Cloth", `${lengthWords(10)} × ${lengthWords(10)}`],
    ["At the window", inMyUnits("450 lx, 0.62 Mlx·h so far")],
    ["Dyed on", dayWords("2026-09-03")],
    ["Printed on", waysNow().paper],
  ];
  return (
    <Box
      component="section"
      role="status"
      aria-label="So it is written"
      sx={{ borderLeft: 4, pl: 2, alignSelf: "start" }}>
      <Box component="h2" sx={{ mt: 0, fontSize: 16 }}>
        So it is written
      </Box>
      <Box
        component="dl"
        sx={{
          m: 0,
          display: "grid",
          gridTemplateColumns: "max-content 1fr",
          columnGap: 2,
          rowGap: 1,
          "& dt": { color: "text.secondary" },
          "& dd": { m: 0 },
        }}>
        {lines.map(([name, words]) => (
          <Fragment key={name}>
            <dt>{name}</dt>
            <dd>{words}</dd>
          </Fragment>
        ))}
      </Box>
    </Box>
  );
}

interface ChoiceProps {
  title: string;
  value: string;
  options: readonly (readonly [string, ReactNode])[];
  onChange: (value: string) => void;
}

function Choice({ title, value, options, onChange }: ChoiceProps) {
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
      <Box component="legend" sx={{ fontWeight: 700, p: 0 }}>
        {title}
      </Box>
      <RadioGroup aria-label={title} value={value} onChange={(_, next) => onChange(next)}>
        {options.map(([key, words]) => (
          <FormControlLabel
            key={key}
            value={key}
            label={words}
            control={<Radio sx={{ py: 1, color: "inherit", "&.Mui-checked": { color: "inherit" } }} />}
          />
        ))}
      </RadioGroup>
    </Box>
  );
}
