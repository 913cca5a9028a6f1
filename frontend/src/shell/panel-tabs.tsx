import Box from "@mui/material/Box";

interface PanelTabsProps<Key extends string> {
  tabs: Record<Key, string>;
  value: Key;
  onChange: (key: Key) => void;
}

/** The parts of a side panel, one at a time. */
export function PanelTabs<Key extends string>({ tabs, value, onChange }: PanelTabsProps<Key>) {
  return (
    <Box role="tablist" sx={{ display: "flex", mt: 1, borderBottom: 1, borderColor: "divider", overflowX: "auto" }}>
      {(Object.keys(tabs) as Key[]).map((key) => (
        <Box
          key={key}
          component="button"
          type="button"
          role="tab"
          aria-selected={key === value}
          onClick={() => onChange(key)}
          sx={{
            flex: "1 0 auto",
            minHeight: 40,
            px: 1,
            border: 0,
            borderBottom: 3,
            borderColor: key === value ? "text.primary" : "transparent",
            bgcolor: "transparent",
            color: "inherit",
            font: "inherit",
            fontWeight: key === value ? 700 : 400,
            cursor: "pointer",
          }}
        >
          {tabs[key]}
        </Box>
      ))}
    </Box>
  );
}
