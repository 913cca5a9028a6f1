import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { useToday } from "../api/hooks";
import type { View } from "../shell/place";
import { Awaited } from "../shell/said";

interface TodayViewProps {
  onGo: (study: number, view: View) => void;
  onSafekeeping: () => void;
}

export function TodayView({ onGo, onSafekeeping }: TodayViewProps) {
  const today = useToday();
  return (
    <Box sx={{ p: { xs: 2, md: 4 }, maxWidth: 760, overflow: "auto" }}>
      <h1>Today</h1>
      <Awaited query={today}>
        {(tasks) =>
          tasks.length === 0 ? (
            <p>Nothing is due. Plan the next grid, or have a rest.</p>
          ) : (
            <>
              {tasks.map((task) => (
                <Box
                  key={`${task.study}-${task.words}`}
                  sx={{ display: "flex", alignItems: "center", gap: 2, py: 1, borderBottom: 1, borderColor: "divider" }}
                >
                  <Box sx={{ fontSize: 24, fontWeight: 700, width: 48, textAlign: "right" }}>{task.count}</Box>
                  <Box sx={{ flex: 1 }}>
                    {task.words}
                    <Box sx={{ color: "text.secondary", fontSize: 13 }}>{task.study_name}</Box>
                  </Box>
                  <Button variant="contained" sx={{ minHeight: 48 }} onClick={() => onGo(task.study, task.lens as View)}>
                    Go there
                  </Button>
                </Box>
              ))}
            </>
          )
        }
      </Awaited>
      <Button onClick={onSafekeeping} sx={{ mt: 3, px: 0 }}>
        Backups, and who may come in
      </Button>
    </Box>
  );
}
