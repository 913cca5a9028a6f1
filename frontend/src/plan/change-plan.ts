import type { FactorKind, Level, StudyPlan } from "../api/client";

export type Change = (part: Partial<StudyPlan>) => void;
export type Axis = "rows" | "columns";

/** Rules that still name only what is crossed. */
function soundRules(plan: StudyPlan, factors: StudyPlan["factors"]): StudyPlan["rules"] {
  return (plan.rules ?? []).flatMap((rule) => {
    const levels = Object.entries(rule.levels ?? {}).map(([kind, keys]) => {
      const there = factors?.find((factor) => factor.kind === kind)?.levels.map((level) => level.key) ?? [];
      return [kind, (keys as string[]).filter((key) => there.includes(key))] as const;
    });
    return levels.every(([, keys]) => keys.length > 0) ? [{ ...rule, levels: Object.fromEntries(levels) }] : [];
  });
}

/** A factor with other levels; what its begun swatches count as stays while that level is there. */
function withOwn(factor: StudyPlan["factors"][number], levels: Level[]): StudyPlan["factors"][number] {
  const as = factor.begun_as;
  const known = as === "apart" || levels.some((level) => level.key === as);
  return { kind: factor.kind, levels, begun_as: known ? (as ?? null) : null };
}

export function withLevels(plan: StudyPlan, kind: FactorKind, levels: Level[]): Partial<StudyPlan> {
  const factors = (plan.factors ?? []).map((factor) => (factor.kind === kind ? withOwn(factor, levels) : factor));
  return { factors, rules: soundRules(plan, factors) };
}

export function withFactor(plan: StudyPlan, kind: FactorKind, level: Level): Partial<StudyPlan> {
  return { factors: [...(plan.factors ?? []), { kind, levels: [level] }], columns: [...(plan.columns ?? []), kind] };
}

export function withoutFactor(plan: StudyPlan, kind: FactorKind): Partial<StudyPlan> {
  const factors = (plan.factors ?? []).filter((factor) => factor.kind !== kind);
  return {
    factors,
    rows: (plan.rows ?? []).filter((one) => one !== kind),
    columns: (plan.columns ?? []).filter((one) => one !== kind),
    rules: soundRules(plan, factors),
  };
}

/** Puts back cells that were left out, one by one or by a rule. */
export function withCellsBack(plan: StudyPlan, cells: readonly string[]): StudyPlan {
  const out = plan.left_out ?? [];
  return {
    ...plan,
    left_out: out.filter((cell) => !cells.includes(cell)),
    put_back: [...(plan.put_back ?? []), ...cells.filter((cell) => !out.includes(cell))],
  };
}

/** Puts a factor on an axis, before another one there or at its end. */
export function moved(plan: StudyPlan, kind: FactorKind, axis: Axis, before?: FactorKind): Partial<StudyPlan> {
  const axes = {
    rows: (plan.rows ?? []).filter((one) => one !== kind),
    columns: (plan.columns ?? []).filter((one) => one !== kind),
  };
  const at = before ? axes[axis].indexOf(before) : -1;
  axes[axis].splice(at < 0 ? axes[axis].length : at, 0, kind);
  return axes;
}
