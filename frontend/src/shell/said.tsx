import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import CircularProgress from "@mui/material/CircularProgress";
import type { ReactNode } from "react";

import { Problem } from "../api/client";
import { inMyUnits } from "../settings/quantities";

/** What went wrong and what to do, beside the thing that it concerns. */
export function ProblemNote({ error, again }: { error: unknown; again?: () => void }) {
  if (!error) return null;
  const problem = error instanceof Problem ? error : null;
  return (
    <Box role="alert" sx={{ border: 1, borderColor: "error.main", borderLeftWidth: 6, p: 1.25, my: 1 }}>
      <strong>{problem?.message ?? "The server cannot be reached."}</strong>
      <div>{problem?.cure ?? "Nothing that you entered is lost. Check that it is running."}</div>
      {problem?.faults.map((fault) => (
        <div key={fault.field + fault.given}>
          {fault.field}: {fault.given} – {fault.allowed}
        </div>
      ))}
      {again && (
        <Button variant="outlined" size="small" onClick={again} sx={{ mt: 1 }}>
          Try again
        </Button>
      )}
    </Box>
  );
}

/** Loading, failed, or what there is. */
export function Awaited<T>(props: {
  query: { data: T | undefined; error: unknown; refetch: () => unknown };
  children: (data: T) => ReactNode;
}) {
  const { data, error, refetch } = props.query;
  if (data !== undefined) return <>{props.children(data)}</>;
  if (error) return <ProblemNote error={error} again={() => void refetch()} />;
  return <Fetching />;
}

export function Fetching() {
  return (
    <Box sx={{ p: 3, display: "flex", gap: 2, alignItems: "center" }} role="status">
      <CircularProgress size={20} color="inherit" aria-label="Fetching" /> Fetching
    </Box>
  );
}

/** A titled part of a side panel. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" sx={{ py: 1.5, borderBottom: 1, borderColor: "divider" }}>
      <Box component="h2" sx={{ m: 0, mb: 1, fontSize: 15 }}>
        {title}
      </Box>
      {children}
    </Box>
  );
}

/** A short line with the reason, at the step where it matters. */
export function Caution({ children }: { children: ReactNode }) {
  return (
    <Box sx={{ borderLeft: 6, borderColor: "text.primary", pl: 1, my: 0.75, fontSize: 13 }}>
      <strong>Caution. </strong>
      {typeof children === "string" ? inMyUnits(children) : children}
    </Box>
  );
}
