import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import { useState } from "react";

import { useStudies } from "../api/hooks";
import { dayWords, todayIso } from "../shell/dates";
import { Awaited, ProblemNote } from "../shell/said";
import { keepEye, keptEye, resultOf, useRound } from "./eye-queries";
import type { EyeResult, EyeTask, Judged } from "./eye-queries";
import { OneTask } from "./one-task";

const SEEDS = 2 ** 31;
const newSeed = () => Math.floor(Math.random() * SEEDS);

interface Begun {
  seed: number;
  study: number | null;
}

/** Five minutes for the eye: how small a difference it sees, and which way it leans. */
export function TrainerView() {
  const [begun, setBegun] = useState<Begun | null>(null);
  const [result, setResult] = useState<EyeResult | null>(null);
  const studies = useStudies().data ?? [];
  const read = studies.filter((one) => one.read_count > 0);
  const kept = keptEye();
  const begin = (study: number | null) => {
    setResult(null);
    setBegun({ seed: newSeed(), study });
  };
  return (
    <Box sx={{ flex: 1, overflow: "auto", p: { xs: 1.5, sm: 3 } }}>
      <Box component="h1" sx={{ mt: 0, fontSize: 20 }}>
        Trainer for the eye
      </Box>
      {begun && !result && <Round key={begun.seed} begun={begun} onDone={setResult} onStop={() => setBegun(null)} />}
      {result && <Result result={result} />}
      {(!begun || result) && (
        <Box sx={{ maxWidth: 620 }}>
          {!result && (
            <p>
              Twenty-four tasks, about five minutes: which of two is yellower, lighter or duller, how much a piece has
              faded, a ladder from dark to light, damp or dry, even or not. It says how small a difference you see on
              this screen, and whether you rate fading milder or more strictly than the formula.
            </p>
          )}
          {kept && !result && (
            <Box role="note" sx={{ borderLeft: 6, pl: 1.5, my: 2 }}>
              <strong>On {dayWords(kept.on)}:</strong> {kept.result.words.join(" ")}
            </Box>
          )}
          <Button variant="contained" size="large" onClick={() => begin(null)} sx={{ mr: 1, mb: 1 }}>
            {result ? "Once more" : "Begin, with made-up colours"}
          </Button>
          {read.slice(0, 3).map((one) => (
            <Button key={one.id} variant="outlined" onClick={() => begin(one.id)} sx={{ mr: 1, mb: 1 }}>
              With the colours of “{one.name}”
            </Button>
          ))}
        </Box>
      )}
    </Box>
  );
}

function Round({ begun, onDone, onStop }: { begun: Begun; onDone: (result: EyeResult) => void; onStop: () => void }) {
  const query = useRound(begun.seed, begun.study);
  return <Awaited query={query}>{(tasks) => <Tasks tasks={tasks} onDone={onDone} onStop={onStop} />}</Awaited>;
}

function Tasks({
  tasks,
  onDone,
  onStop,
}: {
  tasks: readonly EyeTask[];
  onDone: (result: EyeResult) => void;
  onStop: () => void;
}) {
  const [judged, setJudged] = useState<Judged[]>([]);
  const [failed, setFailed] = useState<unknown>(null);
  const task = tasks[judged.length];
  const before = judged.at(-1);
  const finish = (all: readonly Judged[]) => {
    setFailed(null);
    resultOf(all).then(
      (result) => {
        keepEye(result, todayIso());
        onDone(result);
      },
      (error: unknown) => setFailed(error),
    );
  };
  const take = (one: Judged) => {
    const all = [...judged, one];
    setJudged(all);
    if (all.length === tasks.length) finish(all);
  };
  return (
    <Box>
      <LinearProgress
        variant="determinate"
        color="secondary"
        aria-label="Tasks done"
        value={Math.round((100 * judged.length) / tasks.length)}
        sx={{ height: 6, mb: 2 }}
      />
      <Box role="status" sx={{ minHeight: 24, color: "text.secondary" }}>
        {before ? saidOf(before) : ""}
      </Box>
      {task && (
        <>
          <Box component="h2" sx={{ fontSize: 24, textAlign: "center" }}>
            {task.asks}
          </Box>
          <OneTask key={judged.length} task={task} onJudged={take} />
        </>
      )}
      <ProblemNote error={failed} again={() => finish(judged)} />
      <Box sx={{ textAlign: "center", mt: 3 }}>
        <Button onClick={onStop}>Stop</Button>
      </Box>
    </Box>
  );
}

/** Whether the last one was right, and how small it was: an eye learns by that. */
function saidOf(one: Judged): string {
  const apart = `${one.de00.toFixed(1)} ΔE00`;
  if (one.kind === "grey")
    return one.said === one.grade
      ? `Yes: ${one.grade ?? ""}.`
      : `The formula says ${one.grade ?? ""}; you said ${one.said ?? ""}.`;
  return one.right ? `Right, at ${apart}.` : `No; it was ${apart}.`;
}

function Result({ result }: { result: EyeResult }) {
  return (
    <Box role="status" sx={{ maxWidth: 620, fontSize: 17, mb: 3 }}>
      {result.words.map((words) => (
        <p key={words}>{words}</p>
      ))}
      <Box sx={{ fontSize: 14, color: "text.secondary" }}>
        One round is short: the limits show how much it leaves open. Another screen or another light gives another
        result. It is kept on this device and shown where fading is rated by eye.
      </Box>
    </Box>
  );
}
