import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { ReactNode } from "react";

interface KeepOrCancelProps {
  words: string;
  sound: boolean;
  keep: () => void;
  cancel: () => void;
  children?: ReactNode;
}

/** The row that ends a small form of the plan; what else can be done stands between. */
export function KeepOrCancel({ words, sound, keep, cancel, children }: KeepOrCancelProps) {
  return (
    <Box sx={{ gridColumn: "1 / -1", display: "flex", gap: 0.5 }}>
      <Button variant="outlined" size="small" disabled={!sound} onClick={keep}>
        {words}
      </Button>
      {children}
      <Button size="small" onClick={cancel}>
        Cancel
      </Button>
    </Box>
  );
}
