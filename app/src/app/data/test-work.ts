import { inject, Injectable, signal } from '@angular/core';
import { testNamed, type TestAnswer, type TestCode, type TestRecord } from '@calm-keel/core/fieldtest';
import { addReading, answerTest, beginTest, dropReading, endTest, noteTest, undoTestAnswer, type Job } from '@calm-keel/core/job';
import { freeId } from './free-id';
import { JobStore } from './job-store';
import { WhoIsThere } from './who-is-there';

type Values = TestAnswer['values'];

/** Guided tests of the job in view. Every reading is a command of its own: undone, kept and shared between tabs like any other. */
@Injectable({ providedIn: 'root' })
export class TestWork {
  private readonly store = inject(JobStore);
  private readonly who = inject(WhoIsThere);
  /** Why the last thing could not be kept. */
  readonly refused = signal<string | null>(null);

  /** A command is applied again to whatever another tab wrote meanwhile: its moment is told beforehand, or a reading would change its own time. */
  private edit(label: string, command: (job: Job, at: string) => Job): void {
    const at = new Date().toISOString();
    this.refused.set(this.store.edit(label, (job) => command(job, at))[0]?.text ?? null);
  }

  /** Begins a test and returns its id. */
  begin(code: TestCode, device: string): string | null {
    const job = this.store.job();
    if (!job) return null;
    const id = freeId(
      `${code}-${device}`,
      job.tests.map((t) => t.id),
      'test',
    );
    const by = this.who.initials().trim() || 'none';
    this.edit(`Begin ${testNamed(code).name}`, (j, at) => beginTest(j, { id, code, device, at, by, instrument: j.system.provingInstrument }));
    return this.refused() === null ? id : null;
  }
  /** @param taken when it was read, where that is not now: readings from a notebook carry their own time, ISO */
  answer(id: string, step: string, values: Values, { skipped, taken }: { skipped?: string; taken?: string } = {}): void {
    this.edit(`Answer a test step`, (j, at) => answerTest(j, id, { step, at: taken ?? at, values, ...(skipped ? { skipped } : {}) }));
  }
  undo(id: string, step: string): void {
    this.edit('Take a test step back', (j) => undoTestAnswer(j, id, step));
  }
  read(id: string, step: string, values: Values, taken?: string): void {
    this.edit('Add a reading', (j, at) => addReading(j, id, { step, at: taken ?? at, values }));
  }
  /** Readings of earlier moments in one step: a charger’s own history. */
  readAll(id: string, step: string, list: readonly { readonly at: string; readonly values: Values }[]): void {
    this.edit(`Bring in ${list.length} readings`, (j) => list.reduce((next, { at, values }) => addReading(next, id, { step, at, values }), j));
  }
  unread(id: string, at: string): void {
    this.edit('Take a reading out', (j) => dropReading(j, id, at));
  }
  note(id: string, patch: Partial<Pick<TestRecord, 'note' | 'grade' | 'instrument' | 'photos' | 'log'>>): void {
    this.edit('Note on a test', (j) => noteTest(j, id, patch));
  }
  end(id: string): void {
    this.edit('End a test', (j, at) => endTest(j, id, at));
  }
}
