import {
  answer,
  client,
  type Odds,
  type OpenPlan,
  type Plan,
  type Problem,
  type RunReport,
  refusalIn,
  type Sky,
} from "../api/client";
import { Newest } from "../api/newest";

/** What the pages see: the plan as it stands on screen, and the run that belongs to it. */
export interface PlanState {
  plan: OpenPlan;
  /** The document on screen; ahead of `plan` while something is dragged or being saved. */
  draft: Plan;
  run: RunReport;
  /** On a trip under way: the odds of the rest for the draft, from where the battery stands. */
  rest: Odds | null;
  /** On such a trip: whether the plan as it was is looked at, and not the rest from now. */
  asPlanned: boolean;
  /** Which future is looked at: the expected one, or one that stands for its tenth. */
  sky: Sky;
  /** What is tried on screen and not kept yet, in words. */
  trial: string | null;
  problem: Problem | null;
  saving: boolean;
  /** Whether the run on screen is not yet the draft's own with advice and all its scenarios. */
  behind: boolean;
}

/** A draft to be run: quickly, or with advice and all its scenarios. */
interface PreviewRequest {
  draft: Plan;
  full: boolean;
}

/**
 * Holds one plan: previews while a shape is dragged, saves when it is let go.
 *
 * At most one preview is under way (`Newest`).
 * Saves go one after the other, each from the revision that the one before returned. A refused
 * change puts the last good document back.
 */
export class PlanStore {
  private listeners = new Set<() => void>();
  private stepped = new Set<() => void>();
  private readonly questions = new Newest<PreviewRequest>((request) => this.answerTo(request));
  /** The draft whose quick run is on screen. */
  private shown: Plan | null = null;
  private saves: Promise<void> = Promise.resolve();
  private pending = 0;
  /** Whether the trip is under way, so that its rest is run beside the plan. */
  private underWay = false;

  constructor(private state: PlanState) {}

  static async open(planId: number): Promise<PlanStore> {
    const path = { params: { path: { plan_id: planId } } };
    const [plan, run] = await Promise.all([
      answer(client.GET("/api/plans/{plan_id}", path)),
      answer(client.GET("/api/plans/{plan_id}/report", path)),
    ]);
    return new PlanStore({
      plan,
      draft: plan.document,
      run,
      rest: null,
      asPlanned: false,
      sky: "expected",
      trial: null,
      problem: null,
      saving: false,
      behind: false,
    });
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): PlanState => this.state;

  /**
   * The track was fetched anew, and the trip is under way or not. What was run from the standpoint
   * before is out of date: the track has its own rest, and a trial is run again.
   */
  setUnderway = (underWay: boolean): void => {
    this.underWay = underWay;
    if (underWay && this.state.trial !== null) this.ask(this.state.draft, true);
    else if (this.state.rest) this.set({ rest: null });
  };

  /** On a trip under way: look at the whole plan, or at the rest from now. */
  showPlan = (asPlanned: boolean): void => {
    this.set({ asPlanned });
    this.shown = null;
    this.ask(this.state.draft, true);
  };

  /** Ask for all sentences again: their reader writes otherwise now. */
  refetchText = (): void => {
    const document = { ...this.state.plan.document };
    const kept = this.state.draft === this.state.plan.document;
    const draft = kept ? document : { ...this.state.draft };
    this.set({ plan: { ...this.state.plan, document }, draft });
    this.shown = null;
    this.ask(draft, true);
  };

  /** Look at another future. */
  setScenario = (sky: Sky): void => {
    this.set({ sky });
    this.shown = null;
    this.ask(this.state.draft, true);
  };

  /** Try a change on every page without keeping it. */
  try = (draft: Plan, text: string): void => {
    this.set({ draft, trial: text, problem: null });
    this.ask(draft, true);
  };

  /** Keep what is tried. */
  keepTrial = (): void => {
    const { draft, trial } = this.state;
    if (trial !== null) this.commit(draft, `tried and kept: ${trial}`.slice(0, 120));
  };

  /** Put back what was before the trial. */
  dropTrial = (): void => {
    this.set({ trial: null });
    this.showStored();
  };

  /** Show a draft and its run without saving. */
  preview = (draft: Plan): void => {
    this.set({ draft, problem: null });
    this.ask(draft, false);
  };

  /** Show a draft, its run with advice, and save it. `did` names the step for undo. */
  commit = (draft: Plan, did: string): void => {
    if (JSON.stringify(draft) === JSON.stringify(this.state.plan.document) && this.pending === 0) {
      this.set({ draft, trial: null, problem: null });
      this.ask(draft, true);
      return;
    }
    this.set({ draft, trial: null, problem: null });
    this.ask(draft, true);
    this.queue(() =>
      answer(
        client.PUT("/api/plans/{plan_id}", {
          params: { path: { plan_id: this.state.plan.id } },
          body: { base_revision: this.state.plan.revision, did, document: draft },
        }),
      ),
    );
  };

  /** Change the document on screen and save it. */
  edit = (change: (plan: Plan) => Plan, did: string): void => {
    this.commit(change(this.state.draft), did);
  };

  undo = (): void => this.step("/api/plans/{plan_id}/undo");
  redo = (): void => this.step("/api/plans/{plan_id}/redo");

  /** The log changed: what undo would take back is asked anew. What is on screen stays. */
  refreshSteps = async (): Promise<void> => {
    if (this.pending > 0) return;
    try {
      const path = { plan_id: this.state.plan.id };
      const { data } = await client.GET("/api/plans/{plan_id}", { params: { path } });
      const { plan } = this.state;
      if (!data || this.pending > 0 || data.revision !== plan.revision) return;
      const { did, can_undo, can_redo } = data;
      this.set({ plan: { ...plan, did, can_undo, can_redo } });
    } catch {
      // Away: undo stays as it was known.
    }
  };

  /** Drop what is on screen and show what is stored. */
  reload = (): void => {
    this.queue(
      () =>
        answer(
          client.GET("/api/plans/{plan_id}", { params: { path: { plan_id: this.state.plan.id } } }),
        ),
      true,
    );
  };

  /** Show a problem that another part of the page met. */
  showProblem = (problem: Problem): void => this.set({ problem });

  dismiss = (): void => this.set({ problem: null });

  private step(path: "/api/plans/{plan_id}/undo" | "/api/plans/{plan_id}/redo"): void {
    this.queue(async () => {
      const plan = await answer(
        client.POST(path, { params: { path: { plan_id: this.state.plan.id } } }),
      );
      for (const listener of this.stepped) listener();
      return plan;
    }, true);
  }

  /** Told after each undo and redo: they may have changed the log. */
  onStep = (listener: () => void): (() => void) => {
    this.stepped.add(listener);
    return () => this.stepped.delete(listener);
  };

  private queue(work: () => Promise<OpenPlan>, show = false): void {
    this.pending += 1;
    if (!this.state.saving) this.set({ saving: true });
    this.saves = this.saves.then(async () => {
      try {
        const plan = await work();
        this.set({ plan });
        if (show) this.showStored();
      } catch (error) {
        this.refuse(error);
      } finally {
        this.pending -= 1;
        if (this.pending === 0) this.set({ saving: false });
      }
    });
  }

  private showStored(): void {
    const draft = this.state.plan.document;
    this.set({ draft, trial: null, problem: null });
    this.ask(draft, true);
  }

  private refuse(error: unknown): void {
    const { problem } = refusalIn(error);
    // Only a plan that cannot be is taken back; an unreachable server may come again.
    if (problem.status === 422) this.showStored();
    this.set({ problem });
  }

  private ask(draft: Plan, full: boolean): void {
    if (!this.state.behind) this.set({ behind: true });
    this.questions.ask({ draft, full });
  }

  private async answerTo(request: PreviewRequest): Promise<void> {
    try {
      // The quick answer first: a change shows at once, advice and all the scenarios a little later.
      if (!request.full || this.shown !== request.draft)
        await this.show({ ...request, full: false });
      if (request.full && !this.questions.outdated) {
        await this.show(request);
        if (!this.questions.outdated) this.set({ behind: false });
      }
    } catch (error) {
      // A refused draft while dragging: the save will say why; the last good run stays.
      this.set({ problem: refusalIn(error).problem, behind: this.questions.outdated });
    }
  }

  private async show(request: PreviewRequest): Promise<void> {
    // The rest from now takes the place of the plan's own odds: while dragged one of them is enough.
    const onlyRest = this.underWay && !this.state.asPlanned && !request.full;
    const run = await fetchRun(request, this.state.sky, {
      depth: onlyRest ? "none" : request.full ? "full" : "quick",
      underWay: this.underWay ? this.state.plan.id : null,
    });
    this.shown = request.draft;
    // Judgements come with advice only: those of before stay in sight while a shape is dragged.
    const judgements = run.judgements ?? this.state.run.judgements;
    const odds = onlyRest ? this.state.run.odds : run.odds;
    this.set({ run: { ...run, judgements, odds }, rest: run.rest ?? null });
  }

  private set(part: Partial<PlanState>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }
}

interface Asked {
  /** How many scenarios. */
  depth: "none" | "quick" | "full";
  /** The saved plan, where its trip is under way. */
  underWay: number | null;
}

function fetchRun({ draft, full }: PreviewRequest, sky: Sky, asked: Asked): Promise<RunReport> {
  const { depth, underWay } = asked;
  const rest = underWay === null ? {} : { under_way: underWay };
  const query = { advice: full, odds: depth, sky, ...rest };
  return answer(client.POST("/api/preview", { params: { query }, body: draft }));
}
