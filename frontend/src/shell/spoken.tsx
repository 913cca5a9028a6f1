import Box from "@mui/material/Box";
import type { ElementType, ReactNode } from "react";

interface SpokenProps {
  children: ReactNode;
  component?: ElementType;
}

/** Said by a screen reader and not drawn. */
export function Spoken({ children, component = "span" }: SpokenProps) {
  return (
    <Box
      component={component}
      sx={{
        position: "absolute",
        width: "1px",
        height: "1px",
        m: "-1px",
        p: 0,
        overflow: "hidden",
        clipPath: "inset(50%)",
        whiteSpace: "nowrap",
        border: 0,
      }}>
      {children}
    </Box>
  );
}
