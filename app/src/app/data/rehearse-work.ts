import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { proxy, releaseProxy, wrap, type Remote } from 'comlink';
import type { Job } from '@calm-keel/core/job';
import type { Log } from '@calm-keel/core/proof';
import type { Problem } from '@calm-keel/core/quantity';
import { scenarioKinds, scenarioNamed, togetherBy, type Rehearsal, type StudyResult, type StudyRun } from '@calm-keel/core/rehearsal';
import type { Plan } from '@calm-keel/core/settings';
import type { RunView } from '../workers/run-view';
import type { RehearseWorkerApi } from '../workers/rehearse.worker';
import { JobBook } from './job-book';
import { JobStore } from './job-store';

/** A worker with its remote end; ending it is how a run is stopped. */
interface Hand {
  readonly api: Remote<RehearseWorkerApi>;
  readonly end: () => void;
}

function newHand(): Hand {
  const worker = new Worker(new URL('../workers/rehearse.worker', import.meta.url), { type: 'module' });
  const api = wrap<RehearseWorkerApi>(worker);
  return {
    api,
    end: () => {
      api[releaseProxy]();
      worker.terminate();
    },
  };
}

/** What is shown of a rehearsal. */
export interface Shown {
  readonly a: RunView;
  readonly b: RunView | null;
  readonly bProblems: readonly Problem[];
}

/** How a study stands. */
export interface Study {
  readonly key: string;
  readonly done: number;
  readonly count: number;
  readonly running: boolean;
  readonly results: readonly StudyResult[];
}

/** Rest after a change before it is rehearsed anew, ms. */
const restMs = 60;
/** A run that takes longer says that it works and can be stopped, ms. */
const slowMs = 300;
/** Runs that a worker does before it reports. */
const portion = 8;
const hands = 2;

/** The rehearsal a job begins with: the first day that suits it, beside the values as found. */
export function firstRehearsal(plan: Plan): Rehearsal {
  const name = scenarioKinds.find((k) => k.suits(plan))?.name ?? 'clear-day';
  const scenario = scenarioNamed(plan, name);
  if (!scenario) throw new Error('a shipped day has a scenario');
  return { scenario, nudges: [], against: 'asFound' };
}

/**
 * Rehearses the job in view in a worker, again whenever its settings or its day change. The newest request wins: an older one that still runs is
 * ended with its worker. A study runs in workers of its own.
 */
@Injectable({ providedIn: 'root' })
export class RehearseWork {
  private readonly store = inject(JobStore);
  private readonly book = inject(JobBook);
  private hand: Hand | null = null;
  private busyWith = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private studyHands: Hand[] = [];

  /** A change of the day that is still under the finger. */
  readonly draft = signal<Rehearsal | null>(null);
  /** The job on which Rehearse was last opened. */
  readonly visited = signal<string | null>(null);
  /** The day a job begins with, while it keeps none: looking at it changes nothing. */
  private readonly first = computed<Rehearsal | null>(() => {
    const plan = this.store.job()?.id === this.visited() ? this.store.settled() : null;
    return plan && plan.input.system.chargers.length > 0 ? firstRehearsal(plan) : null;
  });
  /** The day as it stands; null while nobody has rehearsed this job. */
  readonly rehearsal = computed<Rehearsal | null>(() => this.draft() ?? this.store.job()?.rehearsal ?? this.first());
  readonly shown = signal<Shown | null>(null);
  readonly problems = signal<readonly Problem[]>([]);
  readonly running = signal(false);
  /** How much of a run that takes its time is done, 0 to 1; null while none does. A short run says nothing of itself. */
  readonly part = signal<number | null>(null);
  readonly stopped = signal(false);
  readonly study = signal<Study | null>(null);

  /** The job as far as a rehearsal rests on it, and the day. */
  private readonly request = computed(() => {
    const job = this.store.job();
    const rehearsal = this.rehearsal();
    return job && rehearsal ? { job, rehearsal } : null;
  });
  /** How the run that is shown stands: requirements that break and that cannot be told, each counted once; null without one. */
  readonly standing = computed(() => {
    const shown = this.shown();
    const stale = this.part() !== null || this.stopped() || this.problems().length > 0;
    if (!shown || stale || !this.rehearsal()) return null;
    const together = togetherBy(shown.a.outcomes);
    return { breaks: together.filter((t) => t.holding === 'breaks').length, holds: together.filter((t) => t.holding === 'holds').length };
  });
  /** Changes with everything that moves a run. */
  readonly key = computed(() => {
    const request = this.request();
    if (!request) return '';
    const { sheet, system, cards, schools, overrides, id } = request.job;
    return JSON.stringify([id, sheet, system, cards, schools, overrides, request.rehearsal]);
  });

  constructor() {
    let last = '';
    let of: string | undefined;
    effect(() => {
      const key = this.key();
      if (key === last) return;
      last = key;
      const id = untracked(() => this.store.job()?.id);
      if (id !== of) {
        of = id;
        this.draft.set(null);
        this.shown.set(null);
      }
      this.endStudy();
      this.study.set(null);
      clearTimeout(this.timer);
      if (key === '') {
        this.shown.set(null);
        return;
      }
      this.timer = setTimeout(() => void this.run(), restMs);
    });
  }

  /** Keeps a day, or what is tried on it, with the job. */
  keep(label: string, rehearsal: Rehearsal, mergeKey: string): void {
    this.draft.set(null);
    this.store.edit(label, (job) => ({ ...job, rehearsal }), mergeKey);
  }

  /** Rehearses what stands now. */
  async run(): Promise<void> {
    const request = this.request();
    if (!request) return;
    if (this.running()) this.endHand();
    const mine = ++this.busyWith;
    this.running.set(true);
    this.stopped.set(false);
    const slow = setTimeout(() => {
      if (mine === this.busyWith && this.running()) this.part.set(0);
    }, slowMs);
    try {
      const log = await this.logOf(request.job, request.rehearsal);
      if (mine !== this.busyWith) return;
      this.hand ??= newHand();
      const progress = proxy((part: number) => {
        if (mine === this.busyWith && this.part() !== null) this.part.set(part);
      });
      const answer = await this.hand.api.run(request.job, request.rehearsal, log, progress);
      if (mine !== this.busyWith) return;
      if ('problems' in answer) this.problems.set(answer.problems);
      else {
        this.problems.set([]);
        this.shown.set(answer);
      }
    } catch (error) {
      if (mine !== this.busyWith) return;
      this.problems.set([
        {
          code: 'rehearse-failed',
          text: `The rehearsal broke off (${error instanceof Error ? error.message : 'unknown reason'}). Change the day, or reload the page.`,
        },
      ]);
    }
    clearTimeout(slow);
    this.part.set(null);
    this.running.set(false);
  }

  /** Ends a run that takes too long; what was shown stays. */
  stop(): void {
    this.busyWith++;
    this.endHand();
    this.part.set(null);
    this.running.set(false);
    this.stopped.set(true);
  }

  /** The run that is shown, as a standard log. */
  async csv(): Promise<string> {
    return (await this.hand?.api.csv()) ?? '';
  }

  private endHand(): void {
    this.hand?.end();
    this.hand = null;
  }

  private async logOf(job: Job, rehearsal: Rehearsal): Promise<Log | null> {
    const id = rehearsal.scenario.replay;
    return id === null ? null : ((await this.book.getLog(job.id, id))?.log ?? null);
  }

  /** Varies what is not known exactly, over so many runs on two workers. */
  async runStudy(count: number): Promise<void> {
    const request = this.request();
    if (!request) return;
    this.endStudy();
    const key = this.key();
    const log = await this.logOf(request.job, request.rehearsal);
    const all: StudyRun[] = [];
    let next = 0;
    const mine: Hand[] = Array.from({ length: hands }, newHand);
    this.studyHands = mine;
    const show = (results: readonly StudyResult[] | null): void => {
      if (this.studyHands === mine) this.study.set({ key, done: all.length, count, running: results === null, results: results ?? [] });
    };
    show(null);
    const work = async (hand: Hand): Promise<void> => {
      while (next < count && this.studyHands === mine) {
        const from = next;
        next += portion;
        all.push(...(await hand.api.study(request.job, request.rehearsal, log, count, from, from + portion)));
        show(null);
      }
    };
    try {
      await Promise.all(mine.map(work));
      if (this.studyHands !== mine) return;
      show((await mine[0]?.api.result(request.job, request.rehearsal, all)) ?? []);
    } catch (error) {
      if (this.studyHands !== mine) return;
      this.study.set(null);
      this.problems.set([
        {
          code: 'study-failed',
          text: `Varying the day broke off (${error instanceof Error ? error.message : 'unknown reason'}). The day itself is not changed; try it again.`,
        },
      ]);
    }
    if (this.studyHands === mine) this.endStudy();
  }

  /** Stops a study; what it has counted so far is not shown as a result. */
  stopStudy(): void {
    this.endStudy();
    this.study.set(null);
  }

  private endStudy(): void {
    for (const hand of this.studyHands) hand.end();
    this.studyHands = [];
  }
}
