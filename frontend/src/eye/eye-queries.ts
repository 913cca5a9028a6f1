import { useQuery } from "@tanstack/react-query";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { keep, keptOver } from "../shell/kept";

export type EyeTask = Schema["EyeTask"];
export type EyeResult = Schema["EyeResult"];
export type Judged = Schema["Judged"];

export const useRound = (seed: number, study: number | null) =>
  useQuery({
    queryKey: ["eye", seed, study],
    staleTime: Infinity,
    queryFn: () =>
      answered(api.GET("/api/eye/round", { params: { query: { seed, ...(study === null ? {} : { study }) } } })),
  });

export const resultOf = (judged: readonly Judged[]) =>
  answered(api.POST("/api/eye/result", { body: { judged: [...judged] } }));

/** What this device knows of the eye in front of it. */
interface KeptEye {
  on: string;
  result: EyeResult;
}

const KEPT = "eye";

export function keptEye(): KeptEye | null {
  const { on, result } = keptOver<{ on: string; result: Partial<EyeResult> }>(
    { on: "", result: {} },
    localStorage,
    KEPT,
  );
  return isResult(result) ? { on, result } : null;
}

export const keepEye = (result: EyeResult, on: string): void => keep(localStorage, KEPT, { on, result });

const isResult = (found: Partial<EyeResult>): found is EyeResult =>
  Array.isArray(found.words) && typeof found.pairs === "number";
