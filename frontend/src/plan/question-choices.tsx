import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import ListItemText from "@mui/material/ListItemText";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

import { Suspense, lazy, useState } from "react";

import type { Schema } from "../api/client";
import { useShelf } from "../api/hooks";
import type { ShelfKind } from "../shelf/kinds";

const ItemDialog = lazy(() => import("../shelf/item-dialog").then((module) => ({ default: module.ItemDialog })));

/** Choices of things on the Shelf, and what a new one is called. */
const ON_SHELF: Record<string, [ShelfKind, string]> = {
  dye: ["dye_lot", "A dye of your own …"],
  fibres: ["fibre", "A fibre of your own …"],
};
const NEW = "a new one";

export type Answers = Record<string, string[]>;

interface QuestionChoicesProps {
  question: Schema["Question"];
  answers: Answers;
  onChange: (answers: Answers) => void;
}

/** The three choices of a ready question, each with something sound chosen to begin with. */
export function QuestionChoices({ question, answers, onChange }: QuestionChoicesProps) {
  const shelf = useShelf().data;
  const [making, setMaking] = useState<Schema["Choice"] | null>(null);
  const onShelf = making ? ON_SHELF[making.key] : undefined;
  const take = (choice: Schema["Choice"], key: string) =>
    onChange({
      ...answers,
      [choice.key]: (choice.at_most ?? 12) > 1 ? [...(answers[choice.key] ?? choice.usual), key] : [key],
    });
  return (
    <Box sx={{ display: "grid", gap: 1.5 }}>
      {making && onShelf && shelf && (
        <Suspense fallback={null}>
          <ItemDialog
            kind={onShelf[0]}
            item={null}
            shelf={shelf}
            brief
            onClose={() => setMaking(null)}
            onSaved={(item) => take(making, item.key)}
          />
        </Suspense>
      )}
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
                renderValue: (value) =>
                  [value]
                    .flat()
                    .map((key) => label(String(key)))
                    .join(", "),
              },
            }}
            onChange={(event) => {
              const keys = [event.target.value].flat();
              if (keys.includes(NEW)) setMaking(choice);
              else onChange({ ...answers, [choice.key]: keys });
            }}>
            {choice.options.map((option) => (
              <MenuItem key={option.key} value={option.key}>
                {several && <Checkbox checked={chosen.includes(option.key)} size="small" sx={{ py: 0 }} />}
                <ListItemText primary={option.label} />
              </MenuItem>
            ))}
            {ON_SHELF[choice.key] && (
              <MenuItem value={NEW} sx={{ borderTop: 1, borderColor: "divider", fontWeight: 700 }}>
                {ON_SHELF[choice.key]?.[1]}
              </MenuItem>
            )}
          </TextField>
        );
      })}
    </Box>
  );
}
