import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { useChange } from "../api/hooks";

/** What can be noted of a trial while it runs. */
export type Entry =
  | Schema["StageDone"]
  | Schema["StageLeftOut"]
  | Schema["StageAdded"]
  | Schema["Turned"]
  | Schema["Started"]
  | Schema["LightSaid"];

/** Notes something of a trial, and everything that rests on it is fetched anew. */
export function useTrialNote(study: number, trial: number) {
  return useChange(
    (entry: Entry) =>
      answered(
        api.POST("/api/studies/{study_id}/trials/{trial_id}/entries", {
          params: { path: { study_id: study, trial_id: trial } },
          body: entry,
        }),
      ),
    { study },
  );
}
