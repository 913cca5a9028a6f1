import { queryOptions, useQuery } from "@tanstack/react-query";

import { answered, api } from "../api/client";

const LOOK_MS = 60_000;

/** Whether a code is asked for here, and what this device came in with. */
export const whoMayComeIn = queryOptions({ queryKey: ["access"], queryFn: () => answered(api.GET("/api/access")) });

export const useAccess = () => useQuery({ ...whoMayComeIn, refetchInterval: LOOK_MS });

export const useFileState = (wanted = true) =>
  useQuery({
    queryKey: ["safekeeping"],
    enabled: wanted,
    queryFn: () => answered(api.GET("/api/safekeeping")),
    refetchInterval: LOOK_MS,
  });

export const useDoors = (wanted: boolean) =>
  useQuery({ queryKey: ["access", "doors"], enabled: wanted, queryFn: () => answered(api.GET("/api/access/doors")) });
