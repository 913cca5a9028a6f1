import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from "react";

import type { StudyPlan, StudyView } from "../api/client";
import { askAnew } from "../api/what-changed";
import { keepSteps, keptSteps } from "./kept-steps";
import { PlanQueue } from "./plan-queue";
import type { Held } from "./plan-queue";

export interface PlanDraft {
  saving: boolean;
  /** The version on the screen came from another tab or device. */
  changedElsewhere: boolean;
  problem: unknown;
  /** Why the last changes are not saved yet. */
  held: Held | null;
  /** `looked`: what it does was seen already. */
  change: (plan: StudyPlan, how?: { looked: boolean }) => void;
  answer: (factor: string, level: string) => void;
  confirm: () => void;
  putOnto: () => void;
  again: () => void;
  letGo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  undo: () => void;
  redo: () => void;
}

const MOST_STEPS = 100;

/** Saves every change of the plan as it is made; never over a newer version unseen. */
export function usePlanDraft(study: StudyView): PlanDraft {
  const queries = useQueryClient();
  const [past, setPast] = useState<StudyPlan[]>(() => keptSteps(study.id, study.revision).past);
  const [future, setFuture] = useState<StudyPlan[]>(() => keptSteps(study.id, study.revision).future);
  const [own, setOwn] = useState(study.revision);
  const [changedElsewhere, setChangedElsewhere] = useState(false);
  const id = study.id;
  const [queue] = useState(
    () =>
      new PlanQueue(id, study, (saved) => {
        setOwn(saved.revision);
        setChangedElsewhere(false);
        queries.setQueryData(["study", id], saved);
        queries.setQueryData(["study", id, "revision"], { revision: saved.revision });
        void askAnew(
          queries,
          [{ study: id }],
          [
            ["study", id],
            ["study", id, "revision"],
          ],
        );
      }),
  );
  const state = useSyncExternalStore(queue.subscribe, queue.snapshot);
  useEffect(() => queue.seen(study), [queue, study]);
  const wasSaved = useCallback((before: StudyPlan) => {
    setPast((steps) => [...steps.slice(1 - MOST_STEPS), before]);
    setFuture([]);
  }, []);
  useEffect(() => queue.takeUp(wasSaved), [queue, wasSaved]);
  useEffect(() => keepSteps(id, { revision: own, past, future }), [id, own, past, future]);
  const busy = state.saving || state.waiting > 0;
  if (study.revision > own && !busy) {
    // Another tab saved: undoing past that would overwrite it unseen.
    setOwn(study.revision);
    setPast([]);
    setFuture([]);
    setChangedElsewhere(true);
  }

  const change = useCallback(
    (plan: StudyPlan, how = { looked: false }) =>
      queue.add({ base: study.plan, mine: plan, asked: how.looked, onSaved: wasSaved }),
    [queue, study.plan, wasSaved],
  );
  const step = useCallback(
    (from: StudyPlan[], setFrom: typeof setPast, setTo: typeof setPast) => {
      const wanted = from.at(-1);
      if (!wanted || busy) return;
      const onSaved = (before: StudyPlan) => {
        setFrom((steps) => steps.slice(0, -1));
        setTo((steps) => [...steps, before]);
      };
      queue.add({ base: study.plan, mine: wanted, asked: true, onSaved });
    },
    [busy, queue, study.plan],
  );
  const undo = useCallback(() => step(past, setPast, setFuture), [past, step]);
  const redo = useCallback(() => step(future, setFuture, setPast), [future, step]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || (event.target as HTMLElement).closest("input, textarea")) return;
      const key = event.key.toLowerCase();
      if (key === "z" && !event.shiftKey) undo();
      else if (key === "y" || (key === "z" && event.shiftKey)) redo();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [undo, redo]);

  return useMemo(
    () => ({
      saving: busy,
      changedElsewhere,
      problem: state.problem,
      held: state.held,
      change,
      answer: (factor, level) => void queue.answer(factor, level),
      confirm: () => queue.confirm(),
      putOnto: () => void queue.putOnto(),
      again: () => queue.again(),
      letGo: () => {
        queue.letGo();
        void askAnew(queries, [{ study: id }]);
      },
      canUndo: past.length > 0 && !busy,
      canRedo: future.length > 0 && !busy,
      undo,
      redo,
    }),
    [busy, change, changedElsewhere, future.length, id, past.length, queries, queue, redo, state, undo],
  );
}
