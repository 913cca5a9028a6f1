import { useQuery } from "@tanstack/react-query";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";

export type EyeTask = Schema["EyeTask"];
export type EyeResult = Schema["EyeResult"];
export type Judged = Schema["Judged"];

export const useRound = (seed: number, study: number | null) =>
  useQuery({
    queryKey: ["eye", seed, study],
    staleTime: Infinity,
    queryFn: () => answered(api.GET("/api/eye/round", { params: { query: { seed, ...(study === null ? {} : { study }) } } })),
  });

export const resultOf = (judged: readonly Judged[]) => answered(api.POST("/api/eye/result", { body: { judged: [...judged] } }));

/** What this device knows of the eye in front of it. */
export interface KeptEye {
  on: string;
  result: EyeResult;
}

const KEPT = "eye";

export function keptEye(): KeptEye | null {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "null") as KeptEye | null;
  } catch {
    return null;
  }
}

export const keepEye = (result: EyeResult, on: string): void => localStorage.setItem(KEPT, JSON.stringify({ on, result }));
