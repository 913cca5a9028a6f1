import type { Schema } from "../api/client";
import { inMyUnits } from "../settings/quantities";

/** What a line of the log says in the person's units; what somebody wrote stays as it was written. */
export const saidIn = (line: Schema["LogLine"]): string => (line.kind === "note" ? line.words : inMyUnits(line.words));
