import type { StudyPlan } from "../api/client";
import { keep, keptOver, readKept } from "../shell/kept";

/** What can be undone and redone, kept for this tab, so that a reload does not forget it. Two tabs have each their own. */
interface KeptSteps {
  /** The version of the study that they lead away from: with another one they would overwrite it unseen. */
  revision: number;
  past: StudyPlan[];
  future: StudyPlan[];
}

const MOST_KEPT = 30;
const nameOf = (study: number) => `steps of study ${study}`;

export function keptSteps(study: number, revision: number): Pick<KeptSteps, "past" | "future"> {
  const found = keptOver<KeptSteps>({ revision: -1, past: [], future: [] }, sessionStorage, nameOf(study));
  return found.revision === revision ? found : { past: [], future: [] };
}

export function keepSteps(study: number, steps: KeptSteps): void {
  keep(sessionStorage, nameOf(study), {
    ...steps,
    past: steps.past.slice(-MOST_KEPT),
    future: steps.future.slice(-MOST_KEPT),
  });
}

/** Changes that wait to be saved. */
interface KeptChange {
  base: StudyPlan;
  mine: StudyPlan;
}

const waitingNameOf = (study: number) => `unsaved changes of study ${study}`;

export function keptChanges(study: number): KeptChange[] {
  const found = readKept(sessionStorage, waitingNameOf(study));
  return Array.isArray(found) ? found : [];
}

export function keepChanges(study: number, changes: readonly KeptChange[]): void {
  if (changes.length === 0) sessionStorage.removeItem(waitingNameOf(study));
  else
    keep(
      sessionStorage,
      waitingNameOf(study),
      changes.map(({ base, mine }) => ({ base, mine })),
    );
}
