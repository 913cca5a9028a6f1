import Box from "@mui/material/Box";

/** The first stop of the keyboard: over all that is the same everywhere. */
export function SkipToPanel() {
  const skip = () => {
    const panel =
      document.querySelector<HTMLElement>("aside[aria-label$=panel]") ?? document.querySelector<HTMLElement>("main");
    panel?.setAttribute("tabindex", "-1");
    panel?.focus();
  };
  return (
    <Box
      component="button"
      type="button"
      className="not-printed"
      onClick={skip}
      sx={{
        position: "absolute",
        left: 8,
        top: -60,
        zIndex: 2000,
        minHeight: 44,
        px: 2,
        border: 2,
        bgcolor: "background.paper",
        color: "text.primary",
        font: "inherit",
        fontWeight: 700,
        "&:focus": { top: 8 },
      }}>
      Skip to the panel
    </Box>
  );
}
