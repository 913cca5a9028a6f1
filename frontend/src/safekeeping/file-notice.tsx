import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { useAccess, useFileState } from "./queries";

/** On every screen: why nothing can be saved, or what should be done for the safety of the data. */
export function FileNotice({ onOpen }: { onOpen: () => void }) {
  const access = useAccess();
  const guest = access.data?.kind === "guest";
  const file = useFileState(!guest);
  const said = [file.data?.only_reading, ...(file.data?.warnings ?? [])].filter(Boolean);
  if (guest) return <Line>You look on as a guest: everything is shown, and nothing can be changed.</Line>;
  if (said.length === 0) return null;
  return (
    <Line>
      {said[0]}
      {said.length > 1 && ` And ${said.length - 1} more.`}{" "}
      <Button size="small" variant="outlined" sx={{ minHeight: 28, py: 0 }} onClick={onOpen}>
        Safekeeping
      </Button>
    </Line>
  );
}

function Line({ children }: { children: React.ReactNode }) {
  return (
    <Box
      role="status"
      aria-label="The data file"
      className="not-printed"
      sx={{ borderLeft: 6, borderColor: "text.primary", bgcolor: "background.paper", px: 1.5, py: 0.75, fontSize: 14 }}>
      {children}
    </Box>
  );
}
