import type { Schema } from "../../api/client";

export type DayPlan = Schema["DayPlan"];
export type PlannedWork = Schema["PlannedWork"];
export type Protocol = Schema["Protocol"];
