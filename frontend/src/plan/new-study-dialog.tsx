import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import Radio from "@mui/material/Radio";
import RadioGroup from "@mui/material/RadioGroup";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema, StudyPlan } from "../api/client";
import { useChange, useQuestions } from "../api/hooks";
import { Awaited, ProblemNote } from "../shell/said";
import { QuestionChoices } from "./question-choices";
import type { Answers } from "./question-choices";

interface NewStudyProps {
  open: boolean;
  onClose: () => void;
  onMade: (id: number) => void;
}

const OWN = "own";

/** A study starts from a ready question and three choices, or from an empty grid. */
export function NewStudyDialog({ open, onClose, onMade }: NewStudyProps) {
  const questions = useQuestions(open);
  return (
    <Dialog open={open} onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>What do you want to know?</DialogTitle>
      <Awaited query={questions}>
        {(ready) => <NewStudyForm questions={ready} onClose={onClose} onMade={onMade} />}
      </Awaited>
    </Dialog>
  );
}

function NewStudyForm(props: { questions: Schema["Question"][]; onClose: () => void; onMade: (id: number) => void }) {
  const { questions, onClose, onMade } = props;
  const [key, setKey] = useState(questions[0]?.key ?? OWN);
  const [answers, setAnswers] = useState<Answers>({});
  const [name, setName] = useState("");
  const question = questions.find((one) => one.key === key);
  const make = useChange(async () => {
    const plan = question ? await planFrom(key, answers) : emptyPlan(name.trim());
    const named = question && name.trim() ? { ...plan, name: name.trim() } : plan;
    return answered(api.POST("/api/studies", { body: named }));
  }, "studies");
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate(undefined, { onSuccess: (made) => onMade(made.id) });
      }}>
      <DialogContent sx={{ display: "grid", gap: 1.5, pt: 0 }}>
        <RadioGroup
          aria-label="Question"
          value={key}
          onChange={(_, chosen) => {
            setKey(chosen);
            setAnswers({});
          }}>
          {questions.map((one, i) => (
            <FormControlLabel
              key={one.key}
              value={one.key}
              control={
                <Radio
                  autoFocus={i === 0}
                  size="small"
                  sx={{ py: 0.5, color: "inherit", "&.Mui-checked": { color: "inherit" } }}
                />
              }
              label={one.words}
            />
          ))}
          <FormControlLabel
            value={OWN}
            control={<Radio size="small" sx={{ py: 0.5, color: "inherit", "&.Mui-checked": { color: "inherit" } }} />}
            label="Something else: an empty grid"
          />
        </RadioGroup>
        {question && (
          <>
            <Box sx={{ fontSize: 13 }}>{question.finds_out}</Box>
            <QuestionChoices question={question} answers={answers} onChange={setAnswers} />
          </>
        )}
        <TextField
          label={question ? "Name, else it is named after the question" : "Name"}
          required={!question}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <ProblemNote error={make.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button type="submit" variant="contained" disabled={(!question && !name.trim()) || make.isPending}>
          Make the study
        </Button>
      </DialogActions>
    </form>
  );
}

const planFrom = (key: string, answers: Answers): Promise<StudyPlan> =>
  answered(api.POST("/api/questions/{key}", { params: { path: { key } }, body: { answers } }));

const emptyPlan = (name: string) => ({ name, factors: [], rows: [], columns: [] }) as unknown as StudyPlan;
