import { useQuery } from "@tanstack/react-query";

import { answered, api } from "../api/client";
import { useOutbox } from "../dye/outbox";
import type { Waiting } from "../dye/kept-outbox";
import { countsOf, notesAbout } from "./about";
import type { About } from "./about";

const useStudyNotes = (study: number) =>
  useQuery({
    queryKey: ["study", study, "notes"],
    queryFn: () => answered(api.GET("/api/studies/{study_id}/dye/notes", { params: { path: { study_id: study } } })),
  });

/** The notes about one thing, the newest first; what was written without a network is among them. */
export function useNotes(study: number, about: About) {
  const kept = useStudyNotes(study);
  const waiting = useOutbox();
  return { ...kept, data: kept.data && notesAbout(about, kept.data, waitingIn(study, waiting)) };
}

/** Also what was just sent: it is shown from here until it is seen in what the server says. */
const waitingIn = (study: number, waiting: readonly Waiting[]) =>
  waiting.filter((one) => one.study === study && !one.refused);

/** How many notes there are of each level, by factor and key, and of each swatch, by its code. */
export function useNoteCounts(study: number): Map<string, number> {
  const kept = useStudyNotes(study);
  return countsOf(kept.data ?? []);
}
