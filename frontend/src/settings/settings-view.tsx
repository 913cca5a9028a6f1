import Box from "@mui/material/Box";
import FormControlLabel from "@mui/material/FormControlLabel";
import Radio from "@mui/material/Radio";
import RadioGroup from "@mui/material/RadioGroup";
import type { ReactNode } from "react";

import { dayWords } from "../shell/dates";
import { keysOf } from "../shell/keys";
import type { Bench } from "../shell/theme";
import { massWords, temperatureWords, volumeWords } from "./quantities";
import { chooseWays, waysNow } from "./ways";
import type { Ways } from "./ways";

interface SettingsViewProps {
  chosen: Bench | null;
  onBench: (bench: Bench | null) => void;
}

const CHOICES: { [Key in keyof Ways]: { title: string; options: readonly (readonly [Ways[Key], string])[] } } = {
  mass: { title: "Weights", options: [["g", "grams"], ["oz", "ounces"]] },
  volume: { title: "Volumes", options: [["mL", "millilitres and litres"], ["us", "US cups and spoons"]] },
  temperature: { title: "Temperatures", options: [["C", "°C"], ["F", "°F"]] },
  length: { title: "Lengths", options: [["cm", "centimetres"], ["in", "inches"]] },
  light: { title: "Light", options: [["lx", "lux"], ["fc", "foot-candles"]] },
  decimal: { title: "Decimals", options: [[".", "0.5"], [",", "0,5"]] },
  dates: { title: "Dates", options: [["dmy", "3 Sep 2026"], ["mdy", "Sep 3, 2026"], ["iso", "2026-09-03"]] },
  paper: { title: "Paper", options: [["A4", "A4"], ["Letter", "Letter"]] },
};

/** How this device shows things. */
export function SettingsView({ chosen, onBench }: SettingsViewProps) {
  return (
    <Box sx={{ flex: 1, overflow: "auto", p: { xs: 1.5, sm: 3 } }}>
      <Box component="h1" sx={{ mt: 0, fontSize: 20 }}>
        How this device shows things
      </Box>
      <Box component="p" sx={{ maxWidth: 620 }}>
        It holds for this device alone. Everything is stored in grams, litres and degrees Celsius, whatever is chosen. Fields are
        filled in the unit that their name holds; weights and temperatures take another behind the number, such as “0.5 oz”.
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(240px, 1fr))", gap: 3, maxWidth: 1100 }}>
        <Choice title="Bench" value={chosen ?? "system"} options={[["system", "as the system has it"], ["light", "light"], ["dark", "dark"]]} onChange={(bench) => onBench(bench === "system" ? null : (bench as Bench))} />
        {keysOf(CHOICES).map((key) => (
          <Choice key={key} title={CHOICES[key].title} value={waysNow()[key]} options={CHOICES[key].options} onChange={(value) => chooseWays({ [key]: value })} />
        ))}
      </Box>
      <Box role="status" sx={{ mt: 3 }}>
        So it is written: {massWords(12.5)} in {volumeWords(500)} at {temperatureWords(60)} on {dayWords("2026-09-03")}.
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
          <FormControlLabel key={key} value={key} label={words} control={<Radio sx={{ py: 1, color: "inherit", "&.Mui-checked": { color: "inherit" } }} />} />
        ))}
      </RadioGroup>
    </Box>
  );
}
