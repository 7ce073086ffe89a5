import { computed, inject, Injectable, signal } from '@angular/core';
import type { DeviceValues, Role } from '@calm-keel/core/card';
import {
  aimAt,
  answerStep,
  beginProgramming,
  endProgramming,
  noteFound,
  noteReset,
  noteTrouble,
  showStep,
  undoAnswer,
  withLine,
  withoutLine,
  type Doing,
} from '@calm-keel/core/job';
import { keptAnswers, runSheet, standingOf, type Answer, type Programming, type SheetStep, type Way } from '@calm-keel/core/runsheet';
import { cardOf, devicesOf } from '@calm-keel/core/settings';
import { cardSeen, type Seen } from '@calm-keel/core/survey';
import { surveyEnglish } from '@calm-keel/core/words';
import { JobStore, today } from './job-store';
import { Library } from './library';
import { WhoIsThere } from './who-is-there';

type Given = Omit<Answer, 'step' | 'at' | 'by' | 'way'>;

/** The run sheet of the job in view, and what is done on it. Every answer is a command of its own: undone, kept and shared between tabs like any other. */
@Injectable({ providedIn: 'root' })
export class RunWork {
  private readonly store = inject(JobStore);
  private readonly who = inject(WhoIsThere);
  private readonly library = inject(Library);

  readonly record = computed(() => this.store.job()?.programming ?? null);
  readonly running = computed(() => this.record()?.endedAt === null);
  readonly sheet = computed(() => {
    const plan = this.store.settled();
    return plan ? runSheet(plan, this.record()) : null;
  });
  readonly standing = computed(() => {
    const sheet = this.sheet();
    const record = this.record();
    return sheet && record ? standingOf(sheet, record) : null;
  });
  readonly kept = computed(() => {
    const record = this.record();
    return record ? keptAnswers(record) : new Map<string, Answer>();
  });
  /** The step in view; null when all are answered. */
  readonly step = computed<SheetStep | null>(() => this.sheet()?.steps[this.standing()?.at ?? -1] ?? null);
  /** Why the last thing could not be kept. */
  readonly refused = signal<string | null>(null);

  private doing(way: Way): Doing {
    return { at: new Date().toISOString(), by: this.record()?.by ?? this.who.initials(), way };
  }

  private edit(label: string, command: Parameters<JobStore['edit']>[1]): void {
    const problems = this.store.edit(label, command);
    this.refused.set(problems[0]?.text ?? null);
  }

  begin(by: string, instrument: string): void {
    this.who.initials.set(by);
    const doing = { at: new Date().toISOString(), by, way: 'display' as const };
    this.edit('Begin the run sheet', (job) => beginProgramming(job, doing, instrument));
  }

  answer(step: SheetStep, given: Given, way: Way = 'display'): void {
    const doing = this.doing(way);
    this.edit(`${given.state === 'skipped' ? 'Skip' : 'Answer'}: ${step.title}`, (job) => answerStep(job, step.id, doing, given));
  }

  /** What was filled in on paper, in the order of the sheet; each with the time that was written down. */
  answerFromPaper(list: readonly { readonly step: SheetStep; readonly given: Given; readonly at: string }[]): void {
    const by = this.doing('paper').by;
    this.edit(`Enter ${list.length} answers from paper`, (job) =>
      list.reduce((next, { step, given, at }) => answerStep(next, step.id, { at, by, way: 'paper' }, given), job),
    );
  }

  /** What a setting takes, seen while it is set: the card of the job has it, and one’s own card of that id in the library. */
  learn(step: SheetStep, role: Role, seen: Seen, shown: string): void {
    const at = { by: this.record()?.by ?? this.who.initials(), on: today() };
    const job = this.store.job();
    const device = job && devicesOf(job).find((d) => d.id === step.device);
    const id = device && cardOf(job, device)?.id;
    if (id === undefined) return;
    this.edit(`Note what ${step.title.toLowerCase()} takes`, (now) => ({
      ...now,
      cards: now.cards.map((card) => (card.id === id ? cardSeen(card, role, seen, at, surveyEnglish, shown) : card)),
    }));
    const own = this.library.ownCards().find((card) => card.id === id);
    if (own && this.refused() === null) void this.library.putCard(cardSeen(own, role, seen, at, surveyEnglish, shown)).catch(() => undefined);
  }

  /** As read from the device’s registers before anything is keyed. */
  noteFound(device: string, values: DeviceValues, way: Way = 'wire'): void {
    const doing = this.doing(way);
    this.edit('Note what it is set to', (job) => noteFound(job, device, doing, values));
  }

  /** A device was reset: nothing on it counts as read any more. */
  noteReset(device: string, name: string): void {
    const { at } = this.doing('display');
    this.edit(`Note that ${name} was reset`, (job) => noteReset(job, device, at));
  }

  /** A line of one’s own before a step; it is the next to be done. */
  addLine(step: SheetStep, says: string): void {
    this.edit('Add a line to the run sheet', (job) => withLine(job, step, says));
  }

  /** Takes a line of one’s own out again. */
  removeLine(step: SheetStep): void {
    this.edit('Remove a line from the run sheet', (job) => withoutLine(job, step));
  }

  trouble(step: SheetStep, text: string): void {
    const { at } = this.doing('display');
    this.edit('Note what went otherwise', (job) => noteTrouble(job, step, at, text));
  }

  undo(): void {
    this.edit('Take an answer back', undoAnswer);
  }

  show(id: string): void {
    this.edit('Show another step', (job) => showStep(job, id));
  }

  aim(aim: Programming['aim']): void {
    this.edit(aim === 'putBack' ? 'Stop here, put back as found' : 'Go on with the run sheet', (job) => aimAt(job, aim));
  }

  end(): void {
    const doing = this.doing('display');
    this.edit('End the run sheet', (job) => endProgramming(job, doing));
  }
}
