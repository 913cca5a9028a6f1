import { Problem, answered, api } from "../api/client";
import type { Schema, StudyPlan, StudyView } from "../api/client";
import { keepChanges, keptChanges } from "./kept-steps";
import { merged } from "./merge";

type Effect = Schema["PlanEffect"];
/** The levels that begun swatches count as, by factor. */
export type Answers = Record<string, string>;

/** A change as a person made it: from what it was made, and what it made of that. */
export interface Change {
  base: StudyPlan;
  mine: StudyPlan;
  /** Undoing and redoing what was looked at before is not asked about again. */
  asked: boolean;
  onSaved: (before: StudyPlan) => void;
}

/** Why the first change in the queue waits, and what is known about it. */
export type Held =
  | { why: "looks"; plan: StudyPlan; effect: Effect; asks: Effect["asks"]; answers: Answers }
  | { why: "elsewhere" }
  | { why: "unreachable"; error: unknown };

interface QueueState {
  saving: boolean;
  waiting: number;
  held: Held | null;
  problem: unknown;
}

const TRY_AGAIN_MS = 8000;

interface Version {
  plan: StudyPlan;
  revision: number;
  begun: number;
}

/**
 * Saves changes one after the other, each onto what the one before has left. None is dropped: what
 * cannot be saved at once waits, and all behind it, until the person has said what to do.
 */
export class PlanQueue {
  private changes: Change[] = [];
  private state: QueueState = { saving: false, waiting: 0, held: null, problem: null };
  private listeners = new Set<() => void>();
  private version: Version;
  private retry: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly study: number,
    first: StudyView,
    private readonly saved: (view: StudyView) => void,
  ) {
    this.version = versionOf(first);
  }

  /** Takes up what this device could not save before it was reloaded. */
  takeUp(onSaved: (before: StudyPlan) => void) {
    if (this.changes.length > 0) return;
    this.changes = keptChanges(this.study).map((one) => ({ ...one, asked: false, onSaved }));
    if (this.changes.length > 0) void this.go();
  }

  subscribe = (changed: () => void) => {
    this.listeners.add(changed);
    return () => this.listeners.delete(changed);
  };
  snapshot = () => this.state;

  /** What the server says now; it may come from another tab. */
  seen(view: StudyView) {
    if (view.revision >= this.version.revision) this.version = versionOf(view);
  }

  add(change: Change) {
    this.changes.push(change);
    this.set({ problem: null });
    void this.go();
  }

  /** Says as what the begun swatches count, and looks again at what the change then does. */
  async answer(factor: string, level: string) {
    const held = this.state.held;
    if (held?.why !== "looks") return;
    const answers = { ...held.answers, [factor]: level };
    this.set({ held: { ...held, answers } });
    const effect = await this.effectOf(withAnswers(held.plan, answers));
    if (this.state.held?.why === "looks") this.set({ held: { ...held, answers, effect } });
  }

  /** Saves the change that was looked at. */
  confirm() {
    const held = this.state.held;
    const first = this.changes[0];
    if (held?.why !== "looks" || !first) return;
    this.changes[0] = { ...first, base: this.version.plan, mine: withAnswers(held.plan, held.answers), asked: true };
    this.set({ held: null });
    void this.go();
  }

  /** Lets the first change go, and those that were made on top of it. */
  letGo() {
    this.changes = [];
    this.set({ held: null });
  }

  /** Puts all that waits onto the newest version. */
  async putOnto() {
    const newest = await answered(api.GET("/api/studies/{study_id}", { params: { path: { study_id: this.study } } }));
    this.version = versionOf(newest);
    this.set({ held: null });
    void this.go();
  }

  again() {
    clearTimeout(this.retry);
    this.set({ held: null });
    void this.go();
  }

  private set(part: Partial<QueueState>) {
    this.state = { ...this.state, ...part, waiting: this.changes.length };
    keepChanges(this.study, this.changes);
    this.listeners.forEach((changed) => changed());
  }

  private async go() {
    if (this.state.saving) return;
    this.set({ saving: true });
    while (this.changes.length > 0 && !this.state.held) await this.saveFirst();
    this.set({ saving: false });
  }

  private async saveFirst() {
    const change = this.changes[0];
    if (!change) return;
    const { plan: before, revision } = this.version;
    const plan = merged(change.base, change.mine, before);
    try {
      if (!change.asked && this.version.begun > 0 && (await this.mustBeLookedAt(plan))) return;
      const saved = await answered(
        api.PUT("/api/studies/{study_id}", { params: { path: { study_id: this.study } }, body: { revision, plan } }),
      );
      this.version = versionOf(saved);
      this.changes.shift();
      this.set({ problem: null });
      change.onSaved(before);
      this.saved(saved);
    } catch (error) {
      if (!(error instanceof Problem) || error.status >= 500) this.waitForServer(error);
      else if (error.code === "changed-elsewhere") this.set({ held: { why: "elsewhere" } });
      else if (error.code === "begun-as") {
        this.changes[0] = { ...change, asked: false };
        this.version = { ...this.version, begun: Math.max(1, this.version.begun) };
      } else {
        this.changes.shift();
        this.set({ problem: error });
      }
    }
  }

  /** Tries again by itself until the server answers. */
  private waitForServer(error: unknown) {
    this.set({ held: { why: "unreachable", error } });
    clearTimeout(this.retry);
    this.retry = setTimeout(() => {
      if (this.state.held?.why === "unreachable") this.again();
    }, TRY_AGAIN_MS);
  }

  /** Whether the change concerns what was begun; then it waits to be looked at. */
  private async mustBeLookedAt(plan: StudyPlan): Promise<boolean> {
    const first = await this.effectOf(plan);
    const answers = Object.fromEntries(first.asks.flatMap((ask) => (ask.proposed ? [[ask.factor, ask.proposed]] : [])));
    const effect = Object.keys(answers).length > 0 ? await this.effectOf(withAnswers(plan, answers)) : first;
    const looks = first.asks.length > 0 || (effect.touches_record && effect.words.length > 0);
    if (looks) this.set({ held: { why: "looks", plan, effect, asks: first.asks, answers } });
    return looks;
  }

  private effectOf(plan: StudyPlan): Promise<Effect> {
    return answered(
      api.POST("/api/studies/{study_id}/effect", { params: { path: { study_id: this.study } }, body: plan }),
    );
  }
}

/** The plan with what was said of the swatches that were begun before its factors came. */
function withAnswers(plan: StudyPlan, answers: Answers): StudyPlan {
  const factors = plan.factors.map((factor) =>
    answers[factor.kind] ? { ...factor, begun_as: answers[factor.kind] ?? null } : factor,
  );
  return { ...plan, factors };
}

function versionOf(view: StudyView): Version {
  const begun = view.begun.length + view.swatches.filter((swatch) => swatch.begun).length;
  return { plan: view.plan, revision: view.revision, begun };
}
