import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";

import { Problem, answered, api } from "../api/client";
import type { StudyPlan, StudyView } from "../api/client";

export interface PlanDraft {
  saving: boolean;
  problem: unknown;
  /** A change that could not be saved because the study was changed elsewhere. */
  conflict: { mine: StudyPlan; revision: number } | null;
  change: (plan: StudyPlan) => void;
  saveMine: () => void;
  useTheirs: () => void;
}

/** Saves every change of the plan as it is made; never over a newer version unseen. */
export function usePlanDraft(study: StudyView): PlanDraft {
  const queries = useQueryClient();
  const [saving, setSaving] = useState(false);
  const [problem, setProblem] = useState<unknown>(null);
  const [conflict, setConflict] = useState<PlanDraft["conflict"]>(null);

  const save = useCallback(
    async (plan: StudyPlan, revision: number) => {
      setSaving(true);
      try {
        const saved = await answered(
          api.PUT("/api/studies/{study_id}", {
            params: { path: { study_id: study.id } },
            body: { revision, plan },
          }),
        );
        queries.setQueryData(["study", study.id], saved);
        setProblem(null);
        setConflict(null);
        await queries.invalidateQueries();
      } catch (error) {
        if (error instanceof Problem && error.code === "changed-elsewhere")
          setConflict({ mine: plan, revision: error.revision ?? revision });
        else setProblem(error);
      } finally {
        setSaving(false);
      }
    },
    [queries, study.id],
  );
  return {
    saving,
    problem,
    conflict,
    change: (plan) => void save(plan, study.revision),
    saveMine: () => conflict && void save(conflict.mine, conflict.revision),
    useTheirs: () => {
      setConflict(null);
      void queries.invalidateQueries();
    },
  };
}
