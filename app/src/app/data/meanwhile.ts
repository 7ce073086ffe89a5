import { clashesOf, type Job } from '@calm-keel/core/job';

/** How long a change of another page counts as one that whoever types here may not have seen, ms. */
const meanwhileMs = 120_000;
/** So many places are told of at once. */
const mostTold = 3;

/** What other pages do to a job while it is in view here. Counts by this page’s own running time, not by the clock. */
export class Meanwhile {
  private since: { readonly before: Job; readonly at: number; readonly told: ReadonlySet<string> } | null = null;

  /** Another page has changed the job, which looked so here before. */
  note(before: Job): void {
    this.since = { before: this.current()?.before ?? before, at: performance.now(), told: this.current()?.told ?? new Set() };
  }

  /**
   * What an edit has replaced that another page had set meanwhile, in words; null when nothing, or when it was told before.
   *
   * @param shown the document this page had from the database before the edit
   * @param theirs the document the edit was made on
   * @param mine the document it made
   */
  replaced(shown: Job, theirs: Job, mine: Job): string | null {
    const since = this.current();
    const told = since?.told ?? new Set();
    const clashes = clashesOf(since?.before ?? shown, mine, theirs).filter((clash) => !told.has(clash.path));
    if (clashes.length === 0) return null;
    if (since) this.since = { ...since, told: new Set([...told, ...clashes.map((c) => c.path)]) };
    return clashes
      .slice(0, mostTold)
      .map((c) => `${c.label}: another page had just set this to ${c.theirs}; your ${c.mine} has replaced it. Undo brings it back.`)
      .join(' ');
  }

  /** Whether anything of another page still counts. */
  counts(): boolean {
    return this.current() !== null;
  }

  private current(): Meanwhile['since'] {
    return this.since && performance.now() - this.since.at <= meanwhileMs ? this.since : null;
  }
}
