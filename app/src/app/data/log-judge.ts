import { computed, DestroyRef, effect, inject, Injectable } from '@angular/core';
import { asEntered, proofBasis, type Job, type LogEntry } from '@calm-keel/core/job';
import { requirementKey } from '@calm-keel/core/requirements';
import { JobBook } from './job-book';
import { JobStore } from './job-store';
import { lent, LogWork } from './log-work';

/** Rest after the last change before logs are judged anew, ms. */
const restMs = 1200;

/** Judges the logs of the job in view again, in the worker, whenever what their verdicts rest on has changed, and keeps the answer. */
@Injectable({ providedIn: 'root' })
export class LogJudge {
  private readonly store = inject(JobStore);
  private readonly book = inject(JobBook);
  private readonly work = inject(LogWork);
  private busy = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** Logs without a verdict that still counts; logs whose samples are not on this device stay among them. */
  private readonly stale = computed(() => {
    const job = this.store.job();
    const kept = this.store.kept();
    return job ? job.logs.filter((log) => !kept?.some((k) => k.logId === log.id && k.basis === proofBasis(job, log.id))) : [];
  });

  constructor() {
    effect(() => {
      clearTimeout(this.timer);
      if (this.stale().length > 0 && this.store.kept() !== null) this.timer = setTimeout(() => void this.judgeAll(), restMs);
    });
    inject(DestroyRef).onDestroy(() => {
      clearTimeout(this.timer);
    });
  }

  private async judgeAll(): Promise<void> {
    const job = this.store.job();
    if (!job || this.busy) return;
    this.busy = true;
    try {
      for (const entry of this.stale()) await this.judge(job, entry);
    } catch {
      // A device that cannot answer leaves the station at "not judged yet"; Prove itself says what is wrong.
    } finally {
      this.busy = false;
    }
  }

  private async judge(job: Job, entry: LogEntry): Promise<void> {
    const row = await this.book.getLog(job.id, entry.id);
    if (!row) return;
    const { rows } = await this.work.api.judge(job, lent(asEntered(row.log, entry)), row.report, entry.instrument);
    const verdicts = Object.fromEntries(rows.map((r) => [requirementKey(r), r.verdict]));
    // Every sentence is kept too, so that what covers a requirement can be told without reading samples.
    const kept = Object.fromEntries(
      rows
        .filter((r) => r.verdict !== 'notTested')
        .map((r) => [requirementKey(r), { verdict: r.verdict, why: r.why, ...(r.witness ? { witness: r.witness } : {}), ...(r.next ? { next: r.next } : {}) }]),
    );
    await this.book.keepVerdicts({ jobId: job.id, logId: entry.id, basis: proofBasis(job, entry.id), verdicts, rows: kept });
  }
}
