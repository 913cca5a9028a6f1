import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { useToday } from "../api/hooks";
import type { Schema } from "../api/client";
import { inMyUnits } from "../settings/quantities";
import type { View } from "../shell/place";
import { Awaited } from "../shell/said";

type Task = Schema["Task"];

interface TodayViewProps {
  onGo: (study: number, view: View) => void;
  onSafekeeping: () => void;
}

/** What is due, study by study, side by side where there is room. */
export function TodayView({ onGo, onSafekeeping }: TodayViewProps) {
  const today = useToday();
  return (
    <Box sx={{ p: { xs: 2, md: 4 }, overflow: "auto" }}>
      <h1>Today</h1>
      <Awaited query={today}>
        {(tasks) =>
          tasks.length === 0 ? (
            <p>Nothing is due. Plan the next grid, or have a rest.</p>
          ) : (
            <Box
              sx={{
                display: "grid",
                gridTemplateColumns: "repeat(auto-fill, minmax(min(100%, 460px), 1fr))",
                columnGap: 5,
                rowGap: 3,
                alignItems: "start",
                maxWidth: 1560,
              }}>
              {byStudy(tasks).map(([name, own]) => (
                <Box key={own[0]?.study} component="section" aria-label={name}>
                  <Box component="h2" sx={{ m: 0, pb: 0.5, fontSize: 18, borderBottom: 2 }}>
                    {name}
                  </Box>
                  {own.map((task) => (
                    <Box
                      key={task.words}
                      sx={{
                        display: "flex",
                        alignItems: "center",
                        gap: 2,
                        py: 1,
                        borderBottom: 1,
                        borderColor: "divider",
                      }}>
                      <Box sx={{ fontSize: 24, fontWeight: 700, width: 44, flex: "none", textAlign: "right" }}>
                        {task.count}
                      </Box>
                      <Box sx={{ flex: 1 }}>{inMyUnits(task.words)}</Box>
                      <Button
                        variant="contained"
                        sx={{ minHeight: 48, flex: "none" }}
                        onClick={() => onGo(task.study, task.lens)}>
                        Go there
                      </Button>
                    </Box>
                  ))}
                </Box>
              ))}
            </Box>
          )
        }
      </Awaited>
      <Button onClick={onSafekeeping} sx={{ mt: 3, px: 0 }}>
        Backups, and who may come in
      </Button>
    </Box>
  );
}

/** The tasks of each study, in the order in which the first of them is due. */
function byStudy(tasks: readonly Task[]): [string, Task[]][] {
  const found = new Map<number, Task[]>();
  for (const task of tasks) found.set(task.study, [...(found.get(task.study) ?? []), task]);
  return [...found.values()].map((own) => [own[0]?.study_name ?? "", own]);
}
