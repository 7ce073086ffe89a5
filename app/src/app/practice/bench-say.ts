import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Assessed, FaultCode } from '@calm-keel/core/practice';
import { Announcer } from '../ui/announcer';
import { ChoiceField } from '../ui/choice-field';
import { Glyph } from '../ui/glyph';
import type { Mark } from '../data/stations';
import { BenchSession } from './bench-session';

/** What is said of something that was claimed. */
const cameTo: Readonly<Record<Assessed, { readonly mark: Mark; readonly words: string }>> = {
  so: { mark: 'done', words: 'So it is. Now put it right.' },
  notShown: { mark: 'inconclusive', words: 'That may be so, but what you pointed at does not show it. Measure or read on, then say it again.' },
  follows: { mark: 'attention', words: 'True, but something else brings it about.' },
  wrong: { mark: 'stop', words: 'Not so.' },
};

/** So many lines are shown before somebody asks for all. */
const fewLines = 6;

/** The whole place, where a cause is not on one device. */
const everywhere = '';

/** What somebody says it is, and what shows it; hints; and the end of the exercise. */
@Component({
  selector: 'ck-bench-say',
  imports: [ChoiceField, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bench-say.html',
  styles: `
    :host {
      display: block;
    }
    .do {
      margin-top: 8px;
    }
    .opt {
      display: flex;
      gap: 8px;
      width: 100%;
      text-align: left;
      border: var(--ck-edge);
      background: var(--ck-surface);
      padding: 9px 12px;
      margin-top: 7px;
      line-height: 1.3;
      min-height: 44px;
      align-items: center;
    }
    .opt[aria-pressed='true'] {
      box-shadow: inset 0 0 0 2.5px var(--ck-copper);
      border-color: var(--ck-copper);
    }
    .press {
      width: 100%;
      min-height: 48px;
      margin-top: 14px;
    }
    .ghost {
      min-height: 44px;
    }
    .came {
      padding: 8px 0;
      border-top: 1px solid var(--ck-rule);
      display: grid;
      grid-template-columns: 20px 1fr;
      gap: 4px 6px;
      line-height: 1.35;
    }
    .came small {
      grid-column: 2;
      font-size: 0.875rem;
      color: var(--ck-ink-2);
    }
    .hint {
      padding: 6px 0;
      line-height: 1.4;
    }
    .end {
      border-top: 1.5px solid var(--ck-ink);
      margin-top: 18px;
      padding-top: 10px;
    }
    .n {
      min-width: 44px;
      color: var(--ck-ink-2);
      font-size: 0.8125rem;
    }
  `,
})
export class BenchSay {
  protected readonly session = inject(BenchSession);
  private readonly voice = inject(Announcer);
  protected readonly where = signal<string>(everywhere);
  protected readonly code = signal<FaultCode | null>(null);
  protected readonly shownBy = signal<readonly number[]>([]);

  protected readonly finds = computed(() => this.session.bench()?.exercise.kind === 'find');
  protected readonly places = computed(() => {
    const bench = this.session.bench();
    const used = new Set(this.session.choices().map((c) => c.device ?? everywhere));
    return [{ value: everywhere, words: 'The place as a whole' }, ...(bench?.devices ?? []).map((d) => ({ value: d.id, words: d.name }))].filter((p) =>
      used.has(p.value),
    );
  });
  /** What it may be there; once one is chosen, only that. */
  protected readonly choices = computed(() =>
    this.session.choices().filter((c) => (c.device ?? everywhere) === this.where() && (this.code() === null || c.code === this.code())),
  );
  protected readonly came = computed(() => this.session.said().map((s) => ({ ...s, ...cameTo[s.came], what: s.words })));
  /** What was done that may show it: first what was done there. */
  protected readonly lines = computed(() => {
    const device = this.where() === everywhere ? null : this.where();
    return [...this.session.done()].sort((a, b) => Number(b.device === device) - Number(a.device === device) || b.i - a.i);
  });

  protected readonly allLines = signal(false);
  protected readonly shownLines = computed(() => (this.allLines() ? this.lines() : this.lines().slice(0, fewLines)));

  protected readonly cameWords = (came: Assessed): string => cameTo[came].words;
  /** As many were rightly said as there are. */
  protected readonly allSo = computed(() => {
    const exercise = this.session.bench()?.exercise;
    return exercise?.kind === 'find' && this.session.said().filter((s) => s.came === 'so').length >= exercise.faults.length;
  });

  protected choosePlace(where: string): void {
    this.where.set(where);
    this.code.set(null);
  }
  protected point(i: number): void {
    this.shownBy.update((list) => (list.includes(i) ? list.filter((x) => x !== i) : [...list, i]));
  }
  protected say(): void {
    const code = this.code();
    if (code === null || this.shownBy().length === 0) return;
    const device = this.where() === everywhere ? null : this.where();
    const came = this.session.claim({ code, device, shownBy: this.shownBy() });
    this.voice.say(cameTo[came].words);
    if (came !== 'notShown') {
      this.code.set(null);
      this.shownBy.set([]);
    }
  }
}
