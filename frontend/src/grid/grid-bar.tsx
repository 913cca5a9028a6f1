import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useTheme } from "@mui/material/styles";
import { Suspense, lazy, useState } from "react";
import type { ChangeEvent, KeyboardEvent, ReactNode } from "react";

import { keysOf } from "../shell/keys";
import { fromSlider, toSlider } from "./cell-size";
import { LOOKING_AT_ALL, ORDERS, SHOWN, isLooking } from "./find-in-grid";
import type { Looking, Order, Shown } from "./find-in-grid";

const BelowButton = lazy(() => import("./below-button").then((module) => ({ default: module.BelowButton })));

interface GridBarProps {
  looking: Looking;
  setLooking: (looking: Looking) => void;
  found: number;
  all: number;
  /** To the next one that was found. */
  onNext: () => void;
  onChooseFound: () => void;
  width: number;
  fitted: boolean;
  setWidth: (width: number | null) => void;
  /** As wide as lets all be seen at once. */
  wholeAt: number;
  /** What else can be done with what is chosen. */
  children: ReactNode;
}

/** What is looked for in the grid, in which order it lies, and how large. */
export function GridBar(props: GridBarProps) {
  const { looking, setLooking, found, all, onNext, onChooseFound, children } = props;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const theme = useTheme();
  const phone = useMediaQuery(theme.breakpoints.down("md"));
  const narrow = useMediaQuery(theme.breakpoints.down("xl"));
  const said = isLooking(looking) ? `${found} of ${all}` : "";
  return (
    <Box
      className="not-printed"
      role="toolbar"
      aria-label="Grid"
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1,
        px: 1,
        minHeight: 48,
        borderBottom: 1,
        borderColor: "divider",
        flex: "none",
      }}>
      <Box
        component="input"
        type="search"
        aria-label="Find in the grid"
        placeholder="Find"
        maxLength={80}
        value={looking.text}
        onChange={(event: ChangeEvent<HTMLInputElement>) => setLooking({ ...looking, text: event.target.value })}
        onKeyDown={(event: KeyboardEvent) => {
          if (event.key === "Enter") onNext();
          if (event.key === "Escape") setLooking(LOOKING_AT_ALL);
        }}
        sx={{
          flex: "0 1 170px",
          minWidth: 70,
          minHeight: 36,
          px: 1,
          bgcolor: "transparent",
          border: 0,
          borderBottom: "2px dashed",
          borderColor: "text.secondary",
          borderRadius: 0,
          color: "text.primary",
          font: "inherit",
          fontSize: 16,
          "&:focus": { borderBottomStyle: "solid", borderColor: "text.primary" },
          "&::placeholder": { color: "text.secondary", opacity: 1 },
        }}
      />
      <Box role="status" sx={{ fontSize: 13, whiteSpace: "nowrap" }}>
        {said}
      </Box>
      {isLooking(looking) && found > 0 && (
        <Button size="small" onClick={onChooseFound} sx={{ minHeight: 36, flex: "none" }}>
          Select them
        </Button>
      )}
      {children}
      <Box sx={{ flex: 1 }} />
      {!narrow && <Choices {...props} />}
      {!phone && <Size {...props} />}
      {narrow && (
        <>
          <Button
            aria-haspopup="dialog"
            aria-label="View: show and order"
            onClick={(event) => setAnchor(event.currentTarget)}
            sx={{ minWidth: 48, minHeight: 48, flex: "none" }}>
            {looking.order === "crossed" && looking.shown === "all" ? "View" : "View •"}
          </Button>
          {anchor && (
            <Suspense fallback={null}>
              <BelowButton label="Show and order" anchor={anchor} onClose={() => setAnchor(null)}>
                <Choices {...props} />
                {phone && <Size {...props} />}
              </BelowButton>
            </Suspense>
          )}
        </>
      )}
    </Box>
  );
}

function Choices({ looking, setLooking }: GridBarProps) {
  return (
    <>
      <Chosen
        label="Show"
        words={SHOWN}
        value={looking.shown}
        onChange={(shown: Shown) => setLooking({ ...looking, shown })}
      />
      <Chosen
        label="Order"
        words={ORDERS}
        value={looking.order}
        onChange={(order: Order) => setLooking({ ...looking, order })}
      />
    </>
  );
}

interface ChosenProps<Key extends string> {
  label: string;
  words: Record<Key, string>;
  value: Key;
  onChange: (key: Key) => void;
}

function Chosen<Key extends string>({ label, words, value, onChange }: ChosenProps<Key>) {
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 0.75, fontSize: 13 }}>
      <Box component="span" aria-hidden sx={{ color: "text.secondary" }}>
        {label}
      </Box>
      <Box
        component="select"
        aria-label={label}
        value={value}
        onChange={(event: ChangeEvent<HTMLSelectElement>) =>
          keysOf(words)
            .filter((key) => key === event.target.value)
            .forEach(onChange)
        }
        sx={{
          minHeight: 40,
          border: 0,
          borderBottom: "2px dashed",
          borderColor: "text.secondary",
          bgcolor: "background.default",
          color: "text.primary",
          font: "inherit",
          fontSize: 14,
          fontWeight: value === "all" || value === "crossed" ? 400 : 700,
        }}>
        {keysOf(words).map((key) => (
          <option key={key} value={key}>
            {words[key]}
          </option>
        ))}
      </Box>
    </Box>
  );
}

function Size({ width, fitted, setWidth, wholeAt }: GridBarProps) {
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
      <Fleck size={9} />
      <Box
        component="input"
        type="range"
        aria-label="Size of the swatches"
        min={0}
        max={1}
        step={0.02}
        value={toSlider(width)}
        aria-valuetext={`${width} pixels`}
        onChange={(event: ChangeEvent<HTMLInputElement>) => setWidth(fromSlider(Number(event.target.value)))}
        sx={{ width: { xs: 130, lg: 110 }, height: 32, m: 0, accentColor: (theme) => theme.palette.text.primary }}
      />
      <Fleck size={20} />
      <Button
        size="small"
        aria-pressed={fitted}
        onClick={() => setWidth(null)}
        sx={{ minWidth: 40, minHeight: 40, fontWeight: fitted ? 700 : 400 }}>
        Fit
      </Button>
      <Button
        size="small"
        onClick={() => setWidth(wholeAt)}
        title="All swatches at once"
        sx={{ minWidth: 40, minHeight: 40, fontWeight: 400 }}>
        All
      </Button>
    </Box>
  );
}

/** A small and a large piece, at the ends of the slider. */
function Fleck({ size }: { size: number }) {
  return <Box aria-hidden sx={{ width: size, height: size * 0.8, bgcolor: "text.secondary", flex: "none" }} />;
}
