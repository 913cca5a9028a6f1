import Popover from "@mui/material/Popover";
import type { ReactNode } from "react";

interface BelowButtonProps {
  label: string;
  anchor: HTMLElement;
  onClose: () => void;
  children: ReactNode;
}

/** What a button opens below itself. */
export function BelowButton({ label, anchor, onClose, children }: BelowButtonProps) {
  return (
    <Popover
      open
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
      transformOrigin={{ vertical: "top", horizontal: "right" }}
      slotProps={{
        paper: {
          role: "dialog",
          "aria-label": label,
          sx: { p: 2, width: 300, display: "flex", flexDirection: "column", gap: 1.5 },
        },
      }}>
      {children}
    </Popover>
  );
}
