import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output, signal } from '@angular/core';
import { groupOf, roleInfo, type Card, type Role } from '@calm-keel/core/card';
import { formatDuration } from '@calm-keel/core/quantity';
import { answersOf, habitFinds, habitsFor, habitsOf, withAnswer, type HabitId } from '@calm-keel/core/survey';
import { surveyEnglish } from '@calm-keel/core/words';
import { NumberField } from '../ui/number-field';
import type { CardEdit } from './card-edit';

/** What a device does by itself, one line each; on a card of one's own each answer is changed where it is. */
@Component({
  selector: 'ck-card-habits',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech"><span role="heading" aria-level="2">What it does by itself</span></div>
    @for (row of rows(); track row.id) {
      <div class="row" [class.open]="open() === row.id">
        @if (editable()) {
          <button type="button" class="line" [attr.aria-expanded]="open() === row.id" (click)="toggle(row.id)">
            <span class="name">{{ row.name }}</span><span [class.unknown]="!row.known">{{ row.says }}</span>
          </button>
        } @else {
          <p class="line">
            <span class="name">{{ row.name }}</span><span [class.unknown]="!row.known">{{ row.says }}</span>
          </p>
        }
        @if (!row.known && row.costs && open() !== row.id) {
          <p class="costs">{{ row.costs }}</p>
        }
        @if (editable() && open() === row.id) {
          <div class="ask" role="group" [attr.aria-label]="row.question">
            <p>{{ row.question }}</p>
            <p class="costs">{{ row.how }}</p>
            @for (answer of row.answers; track answer.id) {
              <button type="button" class="answer" [attr.aria-pressed]="row.given === answer.id || pending() === answer.id" (click)="give(row.id, answer.id)">
                {{ answer.words }}
              </button>
            }
            <button type="button" class="answer" [attr.aria-pressed]="!row.known" (click)="give(row.id, null)">Not known</button>
            @if (needs() === 'seconds') {
              <ck-number-field
                [label]="row.id === 'timeout' ? 'Lost after' : 'Seconds at its voltage'"
                unit="s"
                [optional]="true"
                [min]="1"
                [max]="3600"
                [value]="seconds()"
                (changed)="giveSeconds(row.id, $event)"
              />
            }
            @if (needs() === 'settings') {
              @for (role of roles(); track role) {
                <label class="tick"
                  ><input type="checkbox" [checked]="card().forgets.includes(role)" (change)="forget(role)" /> {{ roleInfo[role].name }}</label
                >
              }
            }
          </div>
        }
      </div>
    }
  `,
  styles: `
    .row {
      border-bottom: 1px solid var(--ck-rule);
    }
    .line {
      display: grid;
      grid-template-columns: 46% 1fr;
      gap: 10px;
      width: 100%;
      text-align: left;
      padding: 6px 4px;
      line-height: 1.25;
    }
    button.line:hover {
      background: var(--ck-sunk);
    }
    .name {
      color: var(--ck-ink-2);
    }
    .unknown {
      font-style: italic;
    }
    .costs {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
      line-height: 1.3;
      padding: 0 4px 6px;
    }
    .open {
      border-left: 5px solid var(--ck-copper);
      background: var(--ck-paper);
    }
    .ask {
      display: grid;
      gap: 6px;
      padding: 2px 10px 12px;
    }
    .answer {
      text-align: left;
      min-height: 40px;
      padding: 6px 12px;
      border: var(--ck-edge);
      border-radius: var(--ck-radius);
      background: var(--ck-surface);
    }
    .answer[aria-pressed='true'] {
      border: 2px solid var(--ck-ink);
      padding: 5px 11px;
      background: var(--ck-copper-wash);
    }
    @media (max-width: 767px) {
      .line,
      .answer {
        min-height: 44px;
      }
    }
  `,
})
export class CardHabits {
  readonly card = input.required<Card>();
  readonly editable = input.required<boolean>();
  readonly edited = output<CardEdit>();
  protected readonly roleInfo = roleInfo;
  /** Another card begins with everything closed; a change of this one does not. */
  private readonly id = computed(() => this.card().id);
  protected readonly open = linkedSignal<string, HabitId | null>({ source: this.id, computation: () => null });
  /** An answer that still lacks its number or its settings. */
  protected readonly pending = signal<string | null>(null);

  protected readonly rows = computed(() => {
    const card = this.card();
    const given = habitsOf(card);
    const told = new Set<string>();
    return habitsFor(card).map((id) => {
      const { name, question, how, answers } = surveyEnglish.habits[id];
      const words: Readonly<Record<string, string>> = answers;
      const answer = given[id];
      return {
        id,
        name,
        question,
        how,
        given: answer,
        known: answer !== undefined,
        says: answer === undefined ? 'not known' : `${words[answer] ?? ''}${this.more(id, answer)}`,
        costs: answer === undefined ? costOf(id, told) : '',
        answers: answersOf(id).map((a) => ({ id: a, words: words[a] ?? a })),
      };
    });
  });

  protected readonly needs = computed<'seconds' | 'settings' | null>(() => {
    const id = this.open();
    const answer = this.pending() ?? this.rows().find((r) => r.id === id)?.given;
    return answer === 'goes' || answer === 'held' ? 'seconds' : answer === 'some' ? 'settings' : null;
  });
  protected readonly seconds = computed(() => {
    const { commit, absorb } = this.card();
    return this.open() === 'timeout' ? commit.timeoutSeconds : absorb.start.kind === 'held' ? absorb.start.seconds : undefined;
  });
  protected readonly roles = computed(() => this.card().parameters.map((p) => p.role));

  /** The number or the names that belong to an answer. */
  private more(id: HabitId, answer: string): string {
    const { commit, absorb, forgets } = this.card();
    if (id === 'timeout' && answer === 'goes') return `: ${formatDuration(commit.timeoutSeconds ?? 0)}`;
    if (id === 'absorbStart' && absorb.start.kind === 'held') return `: ${formatDuration(absorb.start.seconds)}`;
    if (id === 'powerCut' && answer === 'some') return `: ${forgets.map((role) => roleInfo[role].name).join(', ')}`;
    return '';
  }

  protected toggle(id: HabitId): void {
    this.pending.set(null);
    this.open.update((open) => (open === id ? null : id));
  }

  protected give(id: HabitId, answer: string | null): void {
    const next = withAnswer(this.card(), id, answer);
    // Nothing comes of an answer that lacks something: it waits for it.
    this.pending.set(answer !== null && habitsOf(next)[id] !== answer ? answer : null);
    if (this.pending() === null) this.emit(id, next);
  }

  protected giveSeconds(id: HabitId, seconds: number | undefined): void {
    if (seconds === undefined) return;
    this.emit(id, id === 'timeout' ? withAnswer(this.card(), id, 'goes', { timeoutS: seconds }) : withAnswer(this.card(), id, 'held', { holdS: seconds }));
    this.pending.set(null);
  }

  protected forget(role: Role): void {
    const { forgets } = this.card();
    const next = forgets.includes(role) ? forgets.filter((r) => r !== role) : [...forgets, role];
    this.emit('powerCut', next.length === 0 ? withAnswer(this.card(), 'powerCut', 'nothing') : withAnswer(this.card(), 'powerCut', 'some', { forgets: next }));
    this.pending.set(next.length === 0 ? 'some' : null);
  }

  private emit(id: HabitId, card: Card): void {
    this.edited.emit({ label: surveyEnglish.habits[id].name, card });
  }
}

/** What it costs that a question is open: what its whole group costs, once. */
function costOf(id: HabitId, told: Set<string>): string {
  const { costs } = surveyEnglish;
  const what = habitFinds(id);
  if (what === null) return '';
  const words = costs[what] ?? costs[groupOf(what) ?? 'settings'];
  if (told.has(words)) return '';
  told.add(words);
  return words;
}
