import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQueryClient } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";

interface Offer {
  words: string;
  undo: () => Promise<unknown>;
}

let current: Offer | null = null;
const listeners = new Set<() => void>();

function show(offer: Offer | null) {
  current = offer;
  listeners.forEach((changed) => changed());
}

/** Says what was taken away and offers to bring it back, until something else is done. */
export const offerUndo = (words: string, undo: () => Promise<unknown>) => show({ words, undo });

const subscribe = (changed: () => void) => {
  listeners.add(changed);
  return () => listeners.delete(changed);
};

export function UndoBar() {
  const offer = useSyncExternalStore(subscribe, () => current);
  const queries = useQueryClient();
  if (!offer) return null;
  return (
    <Box role="status" sx={{ display: "flex", alignItems: "center", gap: 2, px: 2, py: 0.5, borderTop: 2 }}>
      {offer.words}
      <Button
        variant="contained"
        onClick={() =>
          void offer
            .undo()
            .then(() => queries.invalidateQueries())
            .then(() => show(null))
        }>
        Undo
      </Button>
      <Button onClick={() => show(null)}>Close</Button>
    </Box>
  );
}
