import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import useMediaQuery from "@mui/material/useMediaQuery";
import { Fragment, useEffect, useRef, useState } from "react";
import type { KeyboardEvent } from "react";

import type { StudyView } from "../api/client";
import type { Colours } from "../read/colours";
import { ProblemNote } from "../shell/said";
import { useTableLook } from "./compare-queries";
import { EmptyTable } from "./empty-table";
import { TablePiece } from "./table-piece";
import type { Ground, TableState } from "./table-state";

const GREYS: Record<Ground, { ground: string; ink: string }> = {
  light: { ground: "#eeeeee", ink: "#1c1c1c" },
  grey: { ground: "#9a9a9a", ink: "#000000" },
  dark: { ground: "#2b2b2b", ink: "#f5f5f5" },
};

/** Between pairs, in percent of the table. */
const PAIR_GAP = 2;

interface TableViewProps {
  study: StudyView;
  colours: Colours;
  state: TableState;
}

/** Swatches laid beside each other, large, on a neutral ground, with the difference of neighbours. */
export function TableView({ study, colours, state }: TableViewProps) {
  const { table } = state;
  const look = useTableLook(table);
  const phone = useMediaQuery("(max-width: 600px)");
  const [at, setAt] = useState(0);
  const list = useRef<HTMLDivElement>(null);
  const { ground, ink } = GREYS[table.ground ?? "grey"];
  const { set } = state;

  useEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => {
      if (
        (event.target as HTMLElement).closest("input, textarea, select, [role=dialog]") ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey
      )
        return;
      if (event.key.toLowerCase() === "u") set({ undyed: !table.undyed });
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [set, table.undyed]);

  if (table.keys.length === 0) return <EmptyTable study={study} colours={colours} onLay={state.add} />;
  const pieces = look.data?.pieces ?? [];
  const start = pieces.length > 2 ? Math.min(at, pieces.length - 2) : 0;
  const shown = phone ? pieces.slice(start, start + 2) : pieces;
  const between = new Map(look.data?.neighbours.map((one) => [`${one.first} ${one.second}`, one]));
  const undyed = new Map(look.data?.undyed.map((one) => [one.key, one]));
  const focus = (place: number) => list.current?.querySelectorAll<HTMLElement>("[data-piece]")[place]?.focus();
  const onKey = (event: KeyboardEvent<HTMLElement>, key: string) => {
    const place = shown.findIndex((one) => one.key === key);
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (event.key === "Delete") state.remove(key);
    else if (step && event.shiftKey) {
      state.move(key, step);
      requestAnimationFrame(() => focus(place + step));
    } else if (step) focus(Math.max(0, Math.min(shown.length - 1, place + step)));
    else return;
    event.preventDefault();
  };
  return (
    <Box sx={{ minHeight: "100%", bgcolor: ground, color: ink, p: { xs: 1, md: 2 } }}>
      <ProblemNote error={look.error} again={() => void look.refetch()} />
      {phone && pieces.length > 2 && (
        <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
          <Button variant="outlined" sx={{ minHeight: 48 }} disabled={start === 0} onClick={() => setAt(start - 1)}>
            Before
          </Button>
          <Box role="status" sx={{ flex: 1, textAlign: "center" }}>
            {start + 1} and {start + 2} of {pieces.length}
          </Box>
          <Button
            variant="outlined"
            sx={{ minHeight: 48 }}
            disabled={start >= pieces.length - 2}
            onClick={() => setAt(start + 1)}>
            Next
          </Button>
        </Box>
      )}
      <Box ref={list} role="list" aria-label="Laid side by side" sx={{ display: "flex", flexWrap: "wrap", rowGap: 3 }}>
        {shown.map((piece, i) => {
          const next = shown[i + 1];
          const beside = next && between.get(`${piece.key} ${next.key}`);
          const endsPair = table.pairs && table.keys.indexOf(piece.key) % 2 === 1;
          return (
            <Fragment key={piece.key}>
              <TablePiece
                piece={piece}
                undyed={table.undyed && piece.undyed ? undyed.get(piece.undyed) : undefined}
                beside={beside}
                nextName={next?.name}
                size={sizeOf(phone ? 2 : pieces.length, table.pairs ?? false)}
                gap={endsPair && !phone ? `${PAIR_GAP}%` : 0}
                ink={ink}
                onKey={(event) => onKey(event, piece.key)}
                onRemove={() => state.remove(piece.key)}
                onMove={(by) => state.move(piece.key, by)}
                onDrop={(key) => state.moveTo(key, table.keys.indexOf(piece.key))}
              />
            </Fragment>
          );
        })}
      </Box>
      {(look.data?.missing ?? []).length > 0 && <p>No longer there: {look.data?.missing?.join(", ")}</p>}
    </Box>
  );
}

/** The fewer there are, the larger each can be: a hand's breadth where there is room. */
function sizeOf(count: number, pairs: boolean): { width: string; height: string } {
  const fits = count <= 4 ? Math.max(2, count) : count <= 10 ? Math.ceil(count / 2) : 6;
  // A pair is never parted by the end of a row.
  const across = pairs ? fits + (fits % 2) : fits;
  const gaps = pairs ? (across / 2) * PAIR_GAP : 0;
  const rows = Math.ceil(count / across);
  return {
    width: `${((99 - gaps) / across).toFixed(2)}%`,
    height: rows === 1 ? "min(58vh, 520px)" : rows === 2 ? "min(30vh, 320px)" : "min(22vh, 240px)",
  };
}
