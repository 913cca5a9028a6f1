import { keepPreviousData, queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { QueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";

import { answered, api } from "./client";
import type { Schema } from "./client";
import { askAnew } from "./what-changed";
import type { Changed } from "./what-changed";

const at = (id: number) => ({ params: { path: { study_id: id } } });

/** As many as a list shows at once; the others are found by their words. */
export const STUDIES_AT_ONCE = 60;

export const studiesFound = (text = "") =>
  queryOptions({
    queryKey: ["studies", "found", text],
    queryFn: () => answered(api.GET("/api/studies", { params: { query: { text, most: STUDIES_AT_ONCE } } })),
  });

export const useStudies = (text = "") => useQuery({ ...studiesFound(text), placeholderData: keepPreviousData });

/** For choosing another study: all of them. */
export const useEveryStudy = () =>
  useQuery({ queryKey: ["studies", "every"], queryFn: () => answered(api.GET("/api/studies")) });

export const oneStudy = (id: number) =>
  queryOptions({ queryKey: ["study", id], queryFn: () => answered(api.GET("/api/studies/{study_id}", at(id))) });

export const useStudy = (id: number, wanted = true) => useQuery({ ...oneStudy(id), enabled: wanted });

const WATCH_MS = 4000;

/** Looks whether another tab or device has saved, and fetches the study anew when it has. */
export function useRevisionWatch(id: number, known: number) {
  const queries = useQueryClient();
  const newest = useQuery({
    queryKey: ["study", id, "revision"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/revision", at(id))),
    refetchInterval: WATCH_MS,
  });
  const revision = newest.data?.revision ?? known;
  useEffect(() => {
    if (revision > known) void queries.invalidateQueries({ queryKey: ["study", id] });
  }, [id, known, queries, revision]);
}

export const useTelling = (id: number) =>
  useQuery({
    queryKey: ["study", id, "telling"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/telling", at(id))),
  });

export const useChoices = (id: number) =>
  useQuery({
    queryKey: ["study", id, "choices"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/choices", at(id))),
  });

export const useQuestions = (wanted: boolean) =>
  useQuery({ queryKey: ["questions"], enabled: wanted, queryFn: () => answered(api.GET("/api/questions")) });

export const useShelf = () => useQuery({ queryKey: ["shelf"], queryFn: () => answered(api.GET("/api/shelf")) });

export const useCloth = (key: string) =>
  useQuery({
    queryKey: ["cloth", key],
    queryFn: () => answered(api.GET("/api/cloths/{key}", { params: { path: { key } } })),
  });

export const useChartWatch = (key: string, wanted: boolean) =>
  useQuery({
    queryKey: ["chart-watch", key],
    enabled: wanted,
    queryFn: () => answered(api.GET("/api/charts/watch", { params: { query: key ? { key } : {} } })),
  });

export const useInstruments = (id: number) =>
  useQuery({
    queryKey: ["study", id, "instruments"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/instruments", at(id))),
  });

export const useToday = () => useQuery({ queryKey: ["today"], queryFn: () => answered(api.GET("/api/today")) });

export const useWeigh = (id: number) =>
  useQuery({
    queryKey: ["study", id, "weigh"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/weigh", at(id))),
  });

export const useBench = (id: number) =>
  useQuery({ queryKey: ["study", id, "dye"], queryFn: () => answered(api.GET("/api/studies/{study_id}/dye", at(id))) });

const BENCH_MS = 3000;

/** What this tab logged last, after which it asked anew for all of that study. */
const OWN = "zesty-grid logged";
export const hasLogged = (study: number, newest: number) =>
  sessionStorage.setItem(OWN, JSON.stringify([study, newest]));
const loggedHere = () => JSON.parse(sessionStorage.getItem(OWN) ?? "[0, 0]") as [number, number];

/** What runs on all benches; what another device has logged or read is fetched anew. */
export function useBenchNow() {
  const queries = useQueryClient();
  const now = useQuery({
    queryKey: ["bench-now"],
    queryFn: async () => {
      const asked = Date.now();
      const said = await answered(api.GET("/api/today/bench"));
      const here = (asked + Date.now()) / 2;
      return { ...said, aheadMs: Date.parse(said.now) - here };
    },
    refetchInterval: BENCH_MS,
    refetchIntervalInBackground: true,
    retry: false,
  });
  const newest = now.data?.newest;
  const before = useRef(newest);
  useEffect(() => {
    const [own, last] = loggedHere();
    const isKnown = (study: unknown) => study === own && newest !== undefined && newest <= last;
    if (before.current !== undefined && newest !== before.current)
      void queries.invalidateQueries({ queryKey: ["study"], predicate: ({ queryKey }) => !isKnown(queryKey[1]) });
    before.current = newest;
  }, [newest, queries]);
  return now;
}

export const useDayPlan = (id: number) =>
  useQuery({
    queryKey: ["study", id, "day-plan"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/dye/plan", at(id))),
    refetchInterval: (query) => (query.state.data?.planning?.running ? 700 : false),
  });

export interface LogFilter {
  text: string;
  who: string;
  vessel: string;
  kind: string;
}

export const useBenchLog = (id: number, filter: LogFilter) =>
  useQuery({
    queryKey: ["study", id, "log", filter],
    placeholderData: (before) => before,
    queryFn: () =>
      answered(api.GET("/api/studies/{study_id}/dye/log", { params: { path: { study_id: id }, query: filter } })),
  });

export const useSwatchRecord = (id: number, code: string) =>
  useQuery({
    queryKey: ["study", id, "swatch", code],
    queryFn: () =>
      answered(api.GET("/api/studies/{study_id}/swatches/{code}", { params: { path: { study_id: id, code } } })),
  });

export const useProbes = (wanted: boolean) =>
  useQuery({
    queryKey: ["probes"],
    enabled: wanted,
    refetchInterval: 2000,
    queryFn: () => answered(api.GET("/api/probes")),
  });

export const useWatch = (id: number, vessel: string, step: string, live: boolean) =>
  useQuery({
    queryKey: ["study", id, "dye", "watch", vessel, step],
    refetchInterval: live ? 4000 : false,
    queryFn: () =>
      answered(
        api.GET("/api/studies/{study_id}/dye/watch", { params: { path: { study_id: id }, query: { vessel, step } } }),
      ),
  });

export const useNextDose = (id: number, vessel: string, step: string) =>
  useQuery({
    queryKey: ["study", id, "dye", "next-dose", vessel, step],
    retry: false,
    queryFn: () =>
      answered(
        api.GET("/api/studies/{study_id}/dye/next-dose", {
          params: { path: { study_id: id }, query: { vessel, step } },
        }),
      ),
  });

export const useSheets = (id: number) =>
  useQuery({
    queryKey: ["study", id, "sheets"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/sheet-lines", at(id))),
  });

export const usePhotos = (id: number) =>
  useQuery({
    queryKey: ["study", id, "photos"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/photos", at(id))),
  });

/** A photo with all that was measured in it. */
export const usePhoto = (photo: number | null) =>
  useQuery({
    queryKey: ["photo", photo],
    enabled: photo !== null,
    queryFn: () => answered(api.GET("/api/photos/{photo_id}", { params: { path: { photo_id: photo ?? 0 } } })),
  });

/** Pieces of a photo that look other than was to be expected. */
export const usePhotoQuestions = (photo: number, measurement: number) =>
  useQuery({
    queryKey: ["photo", photo, measurement, "questions"],
    queryFn: () => answered(api.GET("/api/photos/{photo_id}/questions", { params: { path: { photo_id: photo } } })),
  });

/** What the flags of a measurement mean. */
export const useFlags = () =>
  useQuery({ queryKey: ["flags"], staleTime: Infinity, queryFn: () => answered(api.GET("/api/read/flags")) });

/** The readings of some swatches. */
export const useReadings = (id: number, codes: readonly string[]) =>
  useQuery({
    queryKey: ["study", id, "readings", codes],
    enabled: codes.length > 0,
    placeholderData: keepPreviousData,
    queryFn: () =>
      answered(
        api.GET("/api/studies/{study_id}/readings", {
          params: { path: { study_id: id }, query: { codes: codes.join(",") } },
        }),
      ),
  });

export const useTrials = (id: number) =>
  useQuery({
    queryKey: ["study", id, "trials"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/trials", at(id))),
  });

const ofTrial = (id: number, trial: number) => ({ path: { study_id: id, trial_id: trial } });

const ofLasting = (id: number, trial: number | undefined, ...rest: unknown[]) => [
  "study",
  id,
  "trials",
  trial,
  "lasting",
  ...rest,
];

/** Asks again and again until the ways of all swatches are worked out; those who wait for it share one round. */
const workAhead = (queries: QueryClient, id: number, trial: number) =>
  queries.fetchQuery({
    queryKey: ofLasting(id, trial, "worked out"),
    queryFn: async ({ signal }) => {
      let ahead = { done: 0, of: 1 };
      while (ahead.done < ahead.of) {
        const asked = { ...ofTrial(id, trial), query: { after: ahead.done } };
        ahead = await answered(
          api.GET("/api/studies/{study_id}/trials/{trial_id}/lasting/ahead", { params: asked, signal }),
        );
        queries.setQueryData(ofLasting(id, trial, "ahead"), ahead);
      }
      return ahead;
    },
  });

/** The order of lasting of a trial, and what factors do to it. Of thousands of swatches it takes a minute: `useLastingAhead` tells how far it is. */
export function useLasting(id: number, trial: number | undefined) {
  const queries = useQueryClient();
  return useQuery({
    queryKey: ofLasting(id, trial),
    enabled: trial !== undefined,
    queryFn: async ({ signal }) => {
      await workAhead(queries, id, trial ?? 0);
      return answered(
        api.GET("/api/studies/{study_id}/trials/{trial_id}/lasting", { params: ofTrial(id, trial ?? 0), signal }),
      );
    },
  });
}

/** How far the order of lasting is worked out. */
export const useLastingAhead = (id: number, trial: number | undefined) =>
  useQuery<Schema["WorkedAhead"]>({ queryKey: ofLasting(id, trial, "ahead"), enabled: false });

/** The curves of some swatches with their limits; those shown before stay until others are there. */
export const useSwatchesFading = (id: number, trial: number, codes: readonly string[]) =>
  useQuery({
    queryKey: ofLasting(id, trial, "swatches", codes),
    enabled: codes.length > 0,
    placeholderData: (before: Schema["SwatchFading"][] | undefined, query) =>
      query?.queryKey[3] === trial ? before : undefined,
    queryFn: () =>
      answered(
        api.GET("/api/studies/{study_id}/trials/{trial_id}/lasting/swatches", {
          params: { ...ofTrial(id, trial), query: { codes: codes.join(",") } },
        }),
      ),
  });

/** The mean curve of each dye. */
export const useGroupsFading = (id: number, trial: number, wanted: boolean) =>
  useQuery({
    queryKey: ofLasting(id, trial, "groups"),
    enabled: wanted,
    queryFn: () =>
      answered(api.GET("/api/studies/{study_id}/trials/{trial_id}/lasting/groups", { params: ofTrial(id, trial) })),
  });

/** Which stages still to come say something new. */
export function useStageAdvice(id: number, trial: number, wanted: boolean) {
  const queries = useQueryClient();
  return useQuery({
    queryKey: ofLasting(id, trial, "advice"),
    enabled: wanted,
    queryFn: async ({ signal }) => {
      await workAhead(queries, id, trial);
      return answered(
        api.GET("/api/studies/{study_id}/trials/{trial_id}/lasting/advice", { params: ofTrial(id, trial), signal }),
      );
    },
  });
}

/** The light that a trial got, by every source. */
export const useDose = (id: number, trial: number) =>
  useQuery({
    queryKey: ["study", id, "trials", trial, "dose"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/trials/{trial_id}/dose", { params: ofTrial(id, trial) })),
  });

/** Years to each change of some swatches in a place of the Shelf. */
export const useLife = (id: number, trial: number, place: string, codes: readonly string[]) =>
  useQuery({
    queryKey: ["study", id, "trials", trial, "life", place, codes],
    enabled: place !== "" && codes.length > 0,
    placeholderData: (before: Schema["LifeInPlace"] | undefined, query) =>
      query?.queryKey[3] === trial && query.queryKey[5] === place ? before : undefined,
    queryFn: () =>
      answered(
        api.GET("/api/studies/{study_id}/trials/{trial_id}/life", {
          params: { ...ofTrial(id, trial), query: { place, codes: codes.join(",") } },
        }),
      ),
  });

/** The colours after so many years in a place, or so many washes; what was shown stays meanwhile. */
export const useAged = (id: number, trial: number | undefined, count: number, place: string, wanted: boolean) =>
  useQuery({
    queryKey: ["study", id, "trials", trial, "aged", count, place],
    enabled: wanted && trial !== undefined,
    placeholderData: (before: Schema["AgedGrid"] | undefined) => before,
    queryFn: () =>
      answered(
        api.GET("/api/studies/{study_id}/trials/{trial_id}/aged", {
          params: { ...ofTrial(id, trial ?? 0), query: { count, place } },
        }),
      ),
  });

export const useTowns = (words: string) =>
  useQuery({
    queryKey: ["towns", words],
    enabled: words.trim().length > 1,
    placeholderData: (before: Schema["Town"][] | undefined) => before,
    queryFn: () => answered(api.GET("/api/light/towns", { params: { query: { words } } })),
  });

export const useConditions = () =>
  useQuery({ queryKey: ["conditions"], queryFn: () => answered(api.GET("/api/light/conditions")) });

/** The states of every swatch, and the mean colour of each that was read. */
export const studyColours = (id: number) =>
  queryOptions({
    queryKey: ["study", id, "colours"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/colours", at(id))),
  });

export const useColours = (id: number) => useQuery(studyColours(id));

export const useVersions = (id: number, wanted: boolean) =>
  useQuery({
    queryKey: ["study", id, "versions"],
    enabled: wanted,
    queryFn: () => answered(api.GET("/api/studies/{study_id}/versions", at(id))),
  });

export type Reference = Schema["CellReference"] | Schema["FactorReference"] | Schema["BeforeReference"];

export const useComparison = (id: number, reference: Reference | null) =>
  useQuery({
    queryKey: ["study", id, "compare", reference],
    enabled: reference !== null,
    queryFn: () => answered(api.POST("/api/studies/{study_id}/compare", { ...at(id), body: reference as Reference })),
  });

/** A question to the server that changes nothing there. */
export const useLook = <Given, Got>(run: (given: Given) => Promise<Got>) => useMutation({ mutationFn: run });

/** Puts the worked example into the file, or finds it there. */
export const useExample = () => useChange(() => answered(api.POST("/api/example")), "studies", "shelf");

/** How far the demo is; once it is made, everything is asked for anew. */
export function useDemo() {
  const queries = useQueryClient();
  return useQuery({
    queryKey: ["demo"],
    refetchInterval: (query) => (query.state.data?.being_made ? 700 : false),
    queryFn: async () => {
      const before = queries.getQueryData<Schema["DemoBeingMade"]>(["demo"]);
      const now = await answered(api.GET("/api/demo"));
      if (before?.being_made && !now.being_made) void queries.invalidateQueries({ queryKey: ["studies"] });
      return now;
    },
  });
}

/** A change, after which all that it touched is asked for anew. */
export function useChange<Given, Got>(run: (given: Given) => Promise<Got>, ...changes: Changed[]) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: run, onSuccess: () => askAnew(queries, changes) });
}
