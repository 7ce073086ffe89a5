import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { consequenceOf, type Consequence } from '@calm-keel/core/findings';
import { defaultSchools, schoolQuestions, type Plan, type SchoolQuestion, type Schools } from '@calm-keel/core/settings';
import { JobStore, today } from '../data/job-store';
import { Speech } from '../data/speech';
import { ChoiceField } from '../ui/choice-field';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';

/** Changed values of a school that are listed; the rest are counted. */
const mostShown = 4;

/** What each other school of a question would come to. */
type Weighed = ReadonlyMap<SchoolQuestion['school'], ReadonlyMap<string, Consequence>>;

/**
 * Where practitioners differ: what was chosen otherwise than the careful default; opened, each question that makes a difference on this job with what each of
 * its schools gives, costs and changes here, and who chose it; the questions that change nothing folded.
 */
@Component({
  selector: 'ck-schools',
  imports: [ChoiceField, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './schools-panel.html',
  styleUrl: './schools-panel.scss',
})
export class SchoolsPanel {
  private readonly store = inject(JobStore);
  private readonly speech = inject(Speech);
  readonly plan = input.required<Plan>();
  protected readonly by = signal('technician');
  protected readonly reason = signal('');
  protected readonly open = signal(false);

  private readonly questions = computed(() => schoolQuestions.filter((q) => q.bears(this.plan())));
  /** What was chosen otherwise than the default, in words. */
  protected readonly otherwise = computed(() =>
    this.questions()
      .filter((q) => this.value(q) !== defaultSchools[q.school])
      .map((q) => ({ school: q.school, question: q.question, words: this.wordsOf(q, this.value(q)), record: this.record(q) })),
  );
  protected readonly count = computed(() => this.questions().length);

  private readonly weighed = signal<Weighed | null>(null);
  /** How far the weighing is; null while none is under way. */
  protected readonly progress = signal<{ readonly done: number; readonly of: number } | null>(null);

  protected readonly weighty = computed(() => {
    const weighed = this.weighed();
    return weighed === null
      ? []
      : this.questions()
          .filter((q) => weighs(weighed.get(q.school)))
          .map((q) => this.said(q, weighed.get(q.school)));
  });
  protected readonly light = computed(() => {
    const weighed = this.weighed();
    return weighed === null ? [] : this.questions().filter((q) => !weighs(weighed.get(q.school)));
  });

  constructor() {
    effect((stop) => {
      const plan = this.open() ? this.store.settled() : null;
      if (!plan) return;
      let stopped = false;
      stop(() => (stopped = true));
      untracked(() => void this.weigh(plan, () => stopped));
    });
  }

  /** Works out every school, a turn of the page at a time so that nothing waits for it. */
  private async weigh(plan: Plan, stopped: () => boolean): Promise<void> {
    const { schools } = plan.input;
    const list = schoolQuestions
      .filter((q) => q.bears(plan))
      .flatMap((q) => q.options.filter((o) => o.value !== schools[q.school]).map((o) => ({ school: q.school, value: o.value })));
    const found = new Map<SchoolQuestion['school'], Map<string, Consequence>>();
    for (const [done, { school, value }] of list.entries()) {
      this.progress.set({ done, of: list.length });
      await new Promise((resolve) => setTimeout(resolve));
      if (stopped()) return;
      const own = found.get(school) ?? new Map<string, Consequence>();
      found.set(school, own.set(value, consequenceOf(plan, school, value, today())));
    }
    this.weighed.set(found);
    this.progress.set(null);
  }

  /** A question with its schools as they are told here. */
  private said(q: SchoolQuestion, consequences: ReadonlyMap<string, Consequence> | undefined) {
    const value = this.value(q);
    return {
      q,
      record: this.record(q),
      options: q.options.map((o) => {
        const c = o.value === value ? undefined : consequences?.get(o.value);
        const changes = (c?.changes ?? []).map((change) => this.speech.changed(change));
        return {
          ...o,
          chosen: o.value === value,
          careful: o.value === defaultSchools[q.school],
          changes: changes.slice(0, mostShown),
          more: Math.max(0, changes.length - mostShown),
          nothing: c !== undefined && isNothing(c),
          gone: this.speech.findings(c?.gone ?? []),
          come: this.speech.findings(c?.come ?? []),
        };
      }),
    };
  }

  protected value(q: SchoolQuestion): string {
    return this.plan().input.schools[q.school];
  }

  private wordsOf(q: SchoolQuestion, value: string): string {
    return q.options.find((o) => o.value === value)?.words ?? '';
  }

  protected gives(q: SchoolQuestion): string {
    return q.options.find((o) => o.value === this.value(q))?.gives ?? '';
  }

  /** "Chosen by the technician on 2026-06-09: owner wants long life." */
  protected record(q: SchoolQuestion): string | null {
    const choice = this.store
      .job()
      ?.choices.filter((c) => c.school === q.school && c.to === this.value(q))
      .at(-1);
    return choice ? `Chosen by the ${choice.by} on ${choice.date}${choice.reason ? `: ${choice.reason}` : ''}.` : null;
  }

  protected choose(school: keyof Schools, to: string | number): void {
    if (this.plan().input.schools[school] === to) return;
    this.store.apply('Change school', [
      { kind: 'setSchool', school, to, chosen: { by: this.by().trim() || 'technician', reason: this.reason().trim(), date: today() } },
    ]);
    this.reason.set('');
  }
}

const isNothing = (c: Consequence): boolean => c.changes.length + c.gone.length + c.come.length === 0;

/** Whether any other school of a question makes a difference. */
const weighs = (consequences: ReadonlyMap<string, Consequence> | undefined): boolean => [...(consequences?.values() ?? [])].some((c) => !isNothing(c));
