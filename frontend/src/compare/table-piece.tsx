import Box from "@mui/material/Box";
import IconButton from "@mui/material/IconButton";
import { useState } from "react";
import type { KeyboardEvent } from "react";

import { PieceName } from "../grid/swatch-code";
import type { Schema } from "../api/client";
import { labWords } from "../read/colours";
import { inMyUnits } from "../settings/quantities";

interface TablePieceProps {
  piece: Schema["Coloured"];
  undyed: Schema["Coloured"] | undefined;
  beside: Schema["Neighbours"] | undefined;
  nextName: string | undefined;
  size: { width: string; height: string };
  /** Where a pair ends the next one stands apart. */
  gap: string | number;
  ink: string;
  onKey: (event: KeyboardEvent<HTMLElement>) => void;
  onRemove: () => void;
  onMove: (by: number) => void;
  onDrop: (key: string) => void;
}

/** One piece of cloth on the table; its right edge touches the next one, where their difference stands. */
export function TablePiece(props: TablePieceProps) {
  const { piece, undyed, beside, size, gap, ink } = props;
  const [inHand, setInHand] = useState(false);
  const said = beside
    ? `; to ${props.nextName ?? "the next"} ΔE00 ${beside.difference.de00.toFixed(1)}, ${beside.words}`
    : "";
  return (
    <Box
      role="listitem"
      tabIndex={0}
      data-piece={piece.key}
      draggable
      aria-label={`${piece.name}, ${piece.words}, ${piece.state}, ${piece.colour_words}${said}`}
      onKeyDown={props.onKey}
      onDragStart={(event) => event.dataTransfer.setData("text/plain", piece.key)}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        props.onDrop(event.dataTransfer.getData("text/plain"));
      }}
      onMouseEnter={() => setInHand(true)}
      onMouseLeave={() => setInHand(false)}
      onFocus={() => setInHand(true)}
      onBlur={(event) => !event.currentTarget.contains(event.relatedTarget) && setInHand(false)}
      sx={{
        width: size.width,
        minWidth: { xs: 130, md: 90 },
        mr: gap,
        position: "relative",
        "&:focus-visible": { outline: `3px solid ${ink}`, outlineOffset: 2 },
      }}>
      <Box sx={{ position: "relative", bgcolor: piece.hex, height: { xs: 220, md: size.height } }}>
        {undyed && (
          <Box
            title={`undyed: ${undyed.name}`}
            sx={{ position: "absolute", left: 0, right: 0, bottom: 0, height: "22%", bgcolor: undyed.hex }}
          />
        )}
        {inHand && (
          <Box
            className="not-printed"
            sx={{
              position: "absolute",
              top: 4,
              left: 4,
              display: "flex",
              bgcolor: "background.paper",
              color: "text.primary",
            }}>
            <IconButton
              color="inherit"
              size="small"
              aria-label={`Move ${piece.name} left`}
              onClick={() => props.onMove(-1)}>
              ←
            </IconButton>
            <IconButton
              color="inherit"
              size="small"
              aria-label={`Move ${piece.name} right`}
              onClick={() => props.onMove(1)}>
              →
            </IconButton>
            <IconButton
              color="inherit"
              size="small"
              aria-label={`Take ${piece.name} off the table`}
              onClick={props.onRemove}>
              ✕
            </IconButton>
          </Box>
        )}
      </Box>
      <Box sx={{ fontSize: 13, lineHeight: 1.3, pt: 0.5, pr: 1 }}>
        <PieceName piece={piece} /> {piece.state}
        <div>{inMyUnits(piece.words)}</div>
        <div>
          {labWords(piece.lab)} ±{piece.uncertainty_de00.toFixed(1)}
        </div>
        {beside && (
          <Box sx={{ textAlign: "right", pr: 0.5 }}>
            <strong>
              {beside.distinguishable ? "" : "≈ "}
              {beside.difference.de00.toFixed(1)}
            </strong>{" "}
            → {beside.words}
          </Box>
        )}
      </Box>
    </Box>
  );
}
