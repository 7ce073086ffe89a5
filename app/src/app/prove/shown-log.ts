import { computed, inject, linkedSignal, resource, type Signal } from '@angular/core';
import { asEntered, type LogEntry } from '@calm-keel/core/job';
import { drawnLog, longestStep, type DrawnLog, type Explanation } from '@calm-keel/core/proof';
import { formatDate } from '@calm-keel/core/quantity';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { lent, LogWork } from '../data/log-work';
import type { Stretch } from './log-window';

/** What a log came to, and which it was. */
interface LogAnswer {
  readonly log: string;
  readonly told: Awaited<ReturnType<LogWork['api']['view']>>;
}

/** Points of a drawn trace: about two to a pixel of a desk. */
const plotPoints = 1400;
/** Days that are offered one by one. */
const mostDays = 62;

/** One log of the job in view: its samples from this device, and what the worker makes of them. Made where something can be injected. */
export class ShownLog {
  private readonly store = inject(JobStore);
  private readonly book = inject(JobBook);
  private readonly work = inject(LogWork);

  /** @param wanted the log that is asked for by name; undefined for the newest */
  constructor(private readonly wanted: Signal<string | undefined>) {}

  readonly logs = computed(() => this.store.job()?.logs ?? []);
  /** The log in view; null where the job has none, or not the one that is asked for. */
  readonly entry = computed<LogEntry | null>(() => {
    const wanted = this.wanted();
    return (wanted === undefined ? this.logs().at(-1) : this.logs().find((l) => l.id === wanted)) ?? null;
  });

  /** Which log is shown, as one word: an edit of the job that leaves it the same reads nothing anew. */
  private readonly key = computed(() => {
    const id = this.store.job()?.id;
    const entry = this.entry();
    return id !== undefined && entry ? `${id} ${entry.id}` : undefined;
  });
  private readonly stored = resource({
    params: () => this.key(),
    loader: async ({ params }) => {
      const [job = '', log = ''] = params.split(' ');
      return (await this.book.getLog(job, log)) ?? null;
    },
  });
  /** The log's samples are not on this device. */
  readonly lost = computed(() => this.entry() !== null && this.stored.status() === 'resolved' && this.stored.value() === null);
  /** Why it could not be read or judged. */
  readonly problem = computed<string | null>(() => {
    const error = this.stored.error() ?? this.viewed.error();
    return error ? `This log could not be judged (${error.message}). Reload the page; if it stays so, bring the file in again.` : null;
  });
  private readonly viewed = resource({
    params: () => {
      const job = this.store.job();
      const row = this.row();
      const entry = this.entry();
      return job && row && entry ? { job, row, entry } : undefined;
    },
    loader: async ({ params }) => ({
      log: params.entry.id,
      told: await this.work.api.view(params.job, lent(asEntered(params.row.log, params.entry)), params.row.report, params.entry.instrument),
    }),
  });
  private readonly answered = linkedSignal<LogAnswer | undefined, LogAnswer | null>({
    source: () => (this.viewed.hasValue() ? this.viewed.value() : undefined),
    computation: (now, before) => now ?? before?.value ?? null,
  });
  /** The last answer stays in view while the next one of the same log is worked out; another log’s would stand under this one’s name. */
  readonly view = computed(() => {
    const answer = this.answered();
    return answer && answer.log === this.entry()?.id ? answer.told : null;
  });
  /** The samples; null until they are read, and for another log than the one in view. */
  readonly row = computed(() => {
    const row = this.stored.hasValue() ? this.stored.value() : null;
    return row && row.id === this.entry()?.id ? row : null;
  });
  /** Minutes ahead of UTC of the log's clock. */
  readonly offset = computed(() => this.row()?.log.offsetMinutes ?? null);

  /** The log as it is drawn whole: before it is judged. */
  readonly drawn = computed(() => this.thinned());
  /** A stretch of it, by its own samples. */
  thinned(within?: Stretch): DrawnLog | null {
    const row = this.row();
    return row && drawnLog(row.log, plotPoints, longestStep(row.report), within);
  }

  readonly rows = computed(() => this.view()?.proof.rows ?? []);
  /** What is told of the log, in the order of time. */
  readonly told = computed<readonly Explanation[]>(() => this.view()?.proof.told ?? []);
  readonly odd = computed(() => this.told().filter((t) => t.kind === 'odd'));
  /** The days of a log that is longer than one, by its own clock. */
  readonly days = computed(() => {
    const entry = this.entry();
    if (!entry || entry.to - entry.from < 36 * 3600) return [];
    const offset = (this.offset() ?? 0) * 60;
    const first = Math.floor((entry.from + offset) / 86_400);
    const last = Math.floor((entry.to + offset) / 86_400);
    return Array.from({ length: Math.min(mostDays, last - first + 1) }, (_, i) => {
      const from = (first + i) * 86_400 - offset;
      return { from, to: from + 86_400, words: formatDate(from + 3600, this.offset()).replace(/ \d{4}$/, '') };
    });
  });
}
