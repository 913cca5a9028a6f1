import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";

const at = (id: number) => ({ path: { study_id: id } });

/** What each factor and each pair does to colour. */
export const useEffects = (id: number, state = "", filled: number | null = null) =>
  useQuery({
    queryKey: ["study", id, "compare", "effects", state, filled],
    queryFn: () =>
      answered(api.GET("/api/studies/{study_id}/compare/effects", { params: { ...at(id), query: { state, filled } } })),
  });

/** Two ways against what both started from. */
export const useWays = (id: number, asked: { factor: string; start: string; one: string; other: string }) =>
  useQuery({
    queryKey: ["study", id, "compare", "ways", asked],
    enabled: Object.values(asked).every((said) => said !== ""),
    queryFn: () => answered(api.GET("/api/studies/{study_id}/compare/ways", { params: { ...at(id), query: asked } })),
  });

export const useUnevenness = (id: number) =>
  useQuery({
    queryKey: ["study", id, "compare", "unevenness"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/compare/unevenness", { params: at(id) })),
  });

export const useFadingEffects = (id: number) =>
  useQuery({
    queryKey: ["study", id, "compare", "fading"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/compare/fading", { params: at(id) })),
  });

/** As many as one looks through before one types more. */
const FOUND_AT_ONCE = 60;

/** The first pieces of a study with a colour whose name, state, recipe or colour holds every word. */
export const useColouredFound = (id: number, text: string, wanted: boolean) =>
  useQuery({
    queryKey: ["study", id, "coloured", "found", text],
    enabled: wanted,
    queryFn: () =>
      answered(
        api.GET("/api/studies/{study_id}/coloured", { params: { ...at(id), query: { text, most: FOUND_AT_ONCE } } }),
      ),
  });

/** All that has a colour of some swatches. */
export const useColouredOf = (id: number, codes: readonly string[]) =>
  useQuery({
    queryKey: ["study", id, "coloured", codes],
    enabled: codes.length > 0,
    queryFn: () =>
      answered(
        api.GET("/api/studies/{study_id}/coloured", { params: { ...at(id), query: { codes: codes.join(",") } } }),
      ),
  });

export const useColouredCloths = () =>
  useQuery({ queryKey: ["coloured-cloths"], queryFn: () => answered(api.GET("/api/coloured-cloths")) });

export const useKeptTables = () => useQuery({ queryKey: ["tables"], queryFn: () => answered(api.GET("/api/tables")) });

/** The pieces of a table; what was there stays while the next is fetched. */
export const useTableLook = (table: Schema["LaidTable"]) =>
  useQuery({
    queryKey: ["tables", "look", table.keys, table.pairs],
    enabled: table.keys.length > 0,
    placeholderData: keepPreviousData,
    queryFn: () => answered(api.POST("/api/tables/look", { body: { ...table, name: "look" } })),
  });

export const useBeside = (id: number, other: number | null) =>
  useQuery({
    queryKey: ["study", id, "compare", "beside", other],
    enabled: other !== null,
    queryFn: () =>
      answered(
        api.GET("/api/studies/{study_id}/compare/beside/{other_id}", {
          params: { path: { study_id: id, other_id: other ?? 0 } },
        }),
      ),
  });

export const useColourChart = (id: number, filled: number | null = null, wanted = true) =>
  useQuery({
    queryKey: ["study", id, "compare", "chart", filled],
    enabled: wanted,
    queryFn: () =>
      answered(api.GET("/api/studies/{study_id}/compare/chart", { params: { ...at(id), query: { filled } } })),
  });

export const useProfile = (id: number, first: string, second: string) =>
  useQuery({
    queryKey: ["study", id, "compare", "profile", first, second],
    enabled: first !== "" && second !== "" && first !== second,
    placeholderData: keepPreviousData,
    queryFn: () =>
      answered(api.GET("/api/studies/{study_id}/compare/profile", { params: { ...at(id), query: { first, second } } })),
  });

export const useFound = (question: Schema["FindQuestion"] | null) =>
  useQuery({
    queryKey: ["find", question],
    enabled: question !== null,
    placeholderData: keepPreviousData,
    queryFn: () => answered(api.POST("/api/find", { body: question as Schema["FindQuestion"] })),
  });

export const useRecipe = (code: string, mass: number, run: number | null) =>
  useQuery({
    queryKey: ["recipe", code, mass, run],
    placeholderData: keepPreviousData,
    queryFn: () =>
      answered(api.GET("/api/swatches/{code}/recipe", { params: { path: { code }, query: { mass_g: mass, run } } })),
  });

export const useBetween = (id: number, wanted = true) =>
  useQuery({
    queryKey: ["study", id, "compare", "between"],
    enabled: wanted,
    queryFn: () => answered(api.GET("/api/studies/{study_id}/compare/between", { params: at(id) })),
  });

export const useForetold = (id: number, question: Schema["ForetellQuestion"] | null) =>
  useQuery({
    queryKey: ["study", id, "compare", "foretell", question],
    enabled: question !== null,
    placeholderData: keepPreviousData,
    queryFn: () =>
      answered(
        api.POST("/api/studies/{study_id}/compare/foretell", {
          params: at(id),
          body: question as Schema["ForetellQuestion"],
        }),
      ),
  });

export const useOdd = (id: number) =>
  useQuery({
    queryKey: ["study", id, "compare", "odd"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/compare/odd", { params: at(id) })),
  });

export const useFurther = (id: number) =>
  useQuery({
    queryKey: ["study", id, "compare", "further"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/compare/further", { params: { path: { study_id: id } } })),
  });
