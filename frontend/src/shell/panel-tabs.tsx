import Box from "@mui/material/Box";
import { useEffect, useRef } from "react";
import type { KeyboardEvent } from "react";
import { keysOf } from "./keys";

interface PanelTabsProps<Key extends string> {
  tabs: Record<Key, string>;
  value: Key;
  onChange: (key: Key) => void;
}

/** The parts of a side panel, one at a time. */
export function PanelTabs<Key extends string>({ tabs, value, onChange }: PanelTabsProps<Key>) {
  const keys = keysOf(tabs);
  const strip = useRef<HTMLDivElement>(null);
  // A phone has no room for all of them: the one that is open is brought into sight.
  useEffect(() => {
    const open = strip.current?.querySelector<HTMLElement>("[aria-selected=true]");
    if (open && strip.current)
      strip.current.scrollLeft = open.offsetLeft - (strip.current.clientWidth - open.offsetWidth) / 2;
  }, [value]);
  const onKey = (event: KeyboardEvent<HTMLElement>) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    const next = (keys.indexOf(value) + step + keys.length) % keys.length;
    const wanted = keys[next];
    if (wanted) onChange(wanted);
    (event.currentTarget.children[next] as HTMLElement | undefined)?.focus();
  };
  return (
    <Box
      ref={strip}
      role="tablist"
      onKeyDown={onKey}
      sx={{ position: "relative", display: "flex", mt: 1, borderBottom: 1, borderColor: "divider", overflowX: "auto" }}>
      {keys.map((key) => (
        <Box
          key={key}
          component="button"
          type="button"
          role="tab"
          aria-selected={key === value}
          tabIndex={key === value ? 0 : -1}
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
          }}>
          {tabs[key]}
        </Box>
      ))}
    </Box>
  );
}
