import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";

import { Problem, answered, api } from "../api/client";
import type { StudyPlan, StudyView } from "../api/client";

export interface PlanDraft {
  saving: boolean;
  /** The version on the screen came from another tab or device. */
  changedElsewhere: boolean;
  problem: unknown;
  /** A change that could not be saved because the study was changed elsewhere. */
  conflict: { mine: StudyPlan; revision: number } | null;
  change: (plan: StudyPlan) => void;
  saveMine: () => void;
  useTheirs: () => void;
  canUndo: boolean;
  canRedo: boolean;
  undo: () => void;
  redo: () => void;
}

const MOST_STEPS = 100;

/** Saves every change of the plan as it is made; never over a newer version unseen. */
export function usePlanDraft(study: StudyView): PlanDraft {
  const queries = useQueryClient();
  const [saving, setSaving] = useState(false);
  const [problem, setProblem] = useState<unknown>(null);
  const [conflict, setConflict] = useState<PlanDraft["conflict"]>(null);
  const [past, setPast] = useState<StudyPlan[]>([]);
  const [future, setFuture] = useState<StudyPlan[]>([]);
  const [seen, setSeen] = useState(study.revision);
  const [changedElsewhere, setChangedElsewhere] = useState(false);
  if (study.revision > seen) {
    // Another tab saved: undoing past that would overwrite it unseen.
    setSeen(study.revision);
    setPast([]);
    setFuture([]);
    setChangedElsewhere(true);
  }

  const save = useCallback(
    async (plan: StudyPlan, revision: number): Promise<boolean> => {
      setSaving(true);
      try {
        const saved = await answered(
          api.PUT("/api/studies/{study_id}", {
            params: { path: { study_id: study.id } },
            body: { revision, plan },
          }),
        );
        setSeen(saved.revision);
        setChangedElsewhere(false);
        queries.setQueryData(["study", study.id], saved);
        queries.setQueryData(["study", study.id, "revision"], { revision: saved.revision });
        setProblem(null);
        // A change that waits for its answer is not lost by another one that could be saved.
        setConflict((waiting) => (waiting && waiting.mine !== plan ? waiting : null));
        void queries.invalidateQueries({
          predicate: (query) => query.queryKey.length !== 2 && query.queryKey[2] !== "revision",
        });
        return true;
      } catch (error) {
        if (error instanceof Problem && error.code === "changed-elsewhere")
          setConflict({ mine: plan, revision: error.revision ?? revision });
        else setProblem(error);
        return false;
      } finally {
        setSaving(false);
      }
    },
    [queries, study.id],
  );

  const change = useCallback(
    (plan: StudyPlan) => {
      const before = study.plan;
      void save(plan, study.revision).then((saved) => {
        if (!saved) return;
        setPast((steps) => [...steps.slice(1 - MOST_STEPS), before]);
        setFuture([]);
      });
    },
    [save, study.plan, study.revision],
  );
  const step = useCallback(
    (from: StudyPlan[], setFrom: typeof setPast, setTo: typeof setPast) => {
      const wanted = from.at(-1);
      if (!wanted || saving) return;
      const before = study.plan;
      void save(wanted, study.revision).then((saved) => {
        if (!saved) return;
        setFrom((steps) => steps.slice(0, -1));
        setTo((steps) => [...steps, before]);
      });
    },
    [save, saving, study.plan, study.revision],
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

  return {
    saving,
    changedElsewhere,
    problem,
    conflict,
    change,
    saveMine: () => conflict && void save(conflict.mine, Math.max(conflict.revision, study.revision)),
    useTheirs: () => {
      setConflict(null);
      setPast([]);
      setFuture([]);
      void queries.invalidateQueries();
    },
    canUndo: past.length > 0 && !saving,
    canRedo: future.length > 0 && !saving,
    undo,
    redo,
  };
}
