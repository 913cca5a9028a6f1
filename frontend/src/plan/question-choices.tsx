import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import ListItemText from "@mui/material/ListItemText";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

import type { Schema } from "../api/client";

export type Answers = Record<string, string[]>;

interface QuestionChoicesProps {
  question: Schema["Question"];
  answers: Answers;
  onChange: (answers: Answers) => void;
}

/** The three choices of a ready question, each with something sound chosen to begin with. */
export function QuestionChoices({ question, answers, onChange }: QuestionChoicesProps) {
  return (
    <Box sx={{ display: "grid", gap: 1.5 }}>
      {question.choices.map((choice) => {
        const several = (choice.at_most ?? 12) > 1;
        const chosen = answers[choice.key] ?? choice.usual;
        const label = (key: string) => choice.options.find((option) => option.key === key)?.label ?? key;
        return (
          <TextField
            key={choice.key}
            select
            label={choice.words}
            value={several ? chosen : (chosen[0] ?? "")}
            slotProps={{
              select: {
                multiple: several,
                renderValue: (value) => [value].flat().map((key) => label(String(key))).join(", "),
              },
            }}
            onChange={(event) => onChange({ ...answers, [choice.key]: [event.target.value].flat() })}
          >
            {choice.options.map((option) => (
              <MenuItem key={option.key} value={option.key}>
                {several && <Checkbox checked={chosen.includes(option.key)} size="small" sx={{ py: 0 }} />}
                <ListItemText primary={option.label} />
              </MenuItem>
            ))}
          </TextField>
        );
      })}
    </Box>
  );
}
