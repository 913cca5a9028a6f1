import { createTheme } from "@mui/material/styles";

/** Greys have no tint, so that nothing beside a swatch colours it; zest is for actions only. */
export const ZEST = "#c9d436";
const INK = "#1c1c1c";

export type Bench = "light" | "dark";

export function themeFor(bench: Bench) {
  const dark = bench === "dark";
  const line = dark ? "#555555" : "#c4c4c4";
  return createTheme({
    palette: {
      mode: bench,
      primary: { main: ZEST, contrastText: INK },
      secondary: { main: dark ? "#e0e0e0" : "#333333" },
      error: { main: dark ? "#ff8a80" : "#a3241b" },
      background: { default: dark ? "#2b2b2b" : "#e9e9e9", paper: dark ? "#363636" : "#f7f7f7" },
      text: { primary: dark ? "#f2f2f2" : INK, secondary: dark ? "#c4c4c4" : "#4d4d4d" },
      divider: line,
    },
    typography: {
      fontFamily: '"Atkinson Hyperlegible", sans-serif',
      fontSize: 14,
      h1: { fontSize: 20, fontWeight: 700 },
      h2: { fontSize: 16, fontWeight: 700 },
      h3: { fontSize: 14, fontWeight: 700 },
      button: { textTransform: "none", fontWeight: 700 },
    },
    shape: { borderRadius: 2 },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          // The browser's own parts too: the calendar of a day, the bars of what scrolls.
          ":root": { colorScheme: bench },
          body: { fontVariantNumeric: "tabular-nums" },
          ":focus-visible": { outline: "3px solid currentColor", outlineOffset: 2 },
          "::selection": { backgroundColor: ZEST, color: INK },
          // Wet fingers, and gloves.
          "@media (pointer: coarse)": {
            ".MuiButton-root, .MuiIconButton-root, .MuiToggleButton-root, button, summary, select, [role=tab], [role=slider]":
              { minHeight: "48px !important", minWidth: "48px !important" },
            "input[type=range]": { minHeight: 48 },
          },
          // The colours of cloth are what is looked at: they stay, whatever else a system replaces.
          "@media (forced-colors: active)": {
            "[data-cell] svg": { forcedColorAdjust: "none" },
            "[data-cell].selected": { outline: "3px solid Highlight" },
          },
          "@media print": {
            ".not-printed": { display: "none !important" },
            // The height of what is drawn is its own.
            "#root *:not(svg, svg *)": { overflow: "visible !important", height: "auto !important" },
            "#root svg": { printColorAdjust: "exact" },
          },
          "@media (prefers-reduced-motion: reduce)": {
            "*": { animation: "none !important", transition: "none !important" },
          },
        },
      },
      MuiButtonBase: {
        defaultProps: { disableRipple: true },
        styleOverrides: { root: { "&.Mui-focusVisible": { outline: "3px solid currentColor", outlineOffset: 2 } } },
      },
      MuiSlider: {
        styleOverrides: { thumb: { "&.Mui-focusVisible": { outline: "3px solid currentColor", outlineOffset: 3 } } },
      },
      MuiButton: {
        defaultProps: { disableElevation: true, disableRipple: true },
        styleOverrides: {
          root: { minHeight: 40 },
          outlined: {
            color: "inherit",
            borderColor: line,
            "&:hover": { backgroundColor: dark ? "#444444" : "#e2e2e2" },
          },
          text: {
            color: "inherit",
            textDecoration: "underline",
            textUnderlineOffset: 3,
            "&:hover": { backgroundColor: dark ? "#444444" : "#e2e2e2", textDecoration: "underline" },
          },
        },
      },
      MuiDialog: {
        styleOverrides: {
          paper: {
            // What ends a form stays in sight while its fields scroll.
            "& > form": { display: "flex", flexDirection: "column", minHeight: 0 },
            "@media (max-width: 600px)": { margin: 10, width: "calc(100% - 20px)", maxHeight: "calc(100% - 20px)" },
          },
        },
      },
      MuiDialogActions: {
        styleOverrides: {
          root: {
            flexWrap: "wrap",
            rowGap: 8,
            "& > .MuiButton-root": {
              whiteSpace: "nowrap",
              "@media (max-width: 600px)": { paddingLeft: 10, paddingRight: 10 },
            },
          },
        },
      },
      MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { backgroundImage: "none" } } },
      MuiTextField: { defaultProps: { size: "small", fullWidth: true } },
      MuiFormHelperText: { styleOverrides: { root: { marginLeft: 3 } } },
      // What is filled in stands on a running stitch; what is pressed has a box.
      MuiInputLabel: {
        styleOverrides: {
          root: { "&.Mui-focused": { color: "inherit" } },
          outlined: {
            transform: "translate(3px, 9px)",
            "&.MuiInputLabel-shrink": { transform: "translate(3px, -6px) scale(0.8)" },
          },
        },
      },
      MuiOutlinedInput: {
        styleOverrides: {
          root: {
            "& .MuiOutlinedInput-notchedOutline": {
              borderWidth: "0 0 2px !important",
              borderStyle: "dashed",
              borderColor: dark ? "#9c9c9c" : "#6a6a6a",
              borderRadius: 0,
            },
            "&:hover .MuiOutlinedInput-notchedOutline": { borderColor: "currentColor" },
            "&.Mui-focused .MuiOutlinedInput-notchedOutline": { borderColor: "currentColor", borderStyle: "solid" },
            "&.Mui-disabled .MuiOutlinedInput-notchedOutline": { borderStyle: "dotted" },
          },
          input: { paddingLeft: 3, "&.MuiInputBase-inputSizeSmall": { paddingTop: 11, paddingBottom: 6 } },
          multiline: { paddingLeft: 3, paddingTop: 14, "& .MuiOutlinedInput-input": { paddingLeft: 0 } },
        },
      },
      MuiToggleButton: {
        styleOverrides: {
          root: {
            color: dark ? "#d8d8d8" : "#3a3a3a",
            textTransform: "none",
            minHeight: 40,
            "&.Mui-selected": {
              color: dark ? "#f2f2f2" : INK,
              backgroundColor: dark ? "#505050" : "#dcdcdc",
              fontWeight: 700,
            },
          },
        },
      },
      MuiCheckbox: { styleOverrides: { root: { color: "inherit", "&.Mui-checked": { color: "inherit" } } } },
    },
  });
}
