import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { differenceKey, mergeCards, roleInfo, unknownWords, type Card } from '@calm-keel/core/card';
import { differenceWords, lookedUp } from './card-words';

/** Two cards of one charger: what the other knows is taken, what both know differently is asked. */
@Component({
  selector: 'ck-merge-cards',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="Two cards of one charger">
      <h3>You have a card of {{ mine().maker }} {{ mine().model }} already</h3>
      <p class="quiet">{{ whose() }} {{ learnt() }}</p>
      @if (lines().length > 0) {
        <p>They differ in {{ lines().length === 1 ? 'one point' : lines().length + ' points' }}. Choose which is right:</p>
        <ul>
          @for (line of lines(); track line.key) {
            <li role="group" [attr.aria-label]="line.what">
              <b>{{ line.what }}</b>
              <span class="choices">
                <button type="button" [attr.aria-pressed]="!taken().has(line.key)" (click)="choose(line.key, false)">Mine: {{ line.mine }}</button>
                <button type="button" [attr.aria-pressed]="taken().has(line.key)" (click)="choose(line.key, true)">Theirs: {{ line.theirs }}</button>
              </span>
            </li>
          }
        </ul>
      }
      <p class="acts">
        <button type="button" class="press" (click)="merged.emit(result().card)">Merge them</button>
        <button type="button" class="ghost" (click)="beside.emit()">Bring it in beside mine</button>
        <button type="button" class="ghost" (click)="left.emit()">Leave it</button>
      </p>
    </section>
  `,
  styles: `
    section {
      border: 1.5px solid var(--ck-ink);
      padding: 12px 16px;
      margin-bottom: 14px;
    }
    h3 {
      font-size: 1.125rem;
      margin: 0 0 4px;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      justify-content: space-between;
      align-items: center;
      gap: 6px 16px;
      padding: 6px 0;
      border-bottom: 1px solid var(--ck-rule);
    }
    .choices button {
      min-height: 44px;
    }
    .acts {
      padding-top: 10px;
    }
  `,
})
export class MergePanel {
  readonly mine = input.required<Card>();
  readonly theirs = input.required<Card>();
  readonly merged = output<Card>();
  readonly beside = output();
  readonly left = output();
  protected readonly taken = signal<ReadonlySet<string>>(new Set());

  protected readonly result = computed(() => mergeCards(this.mine(), this.theirs(), this.taken()));
  protected readonly whose = computed(() => {
    const who = lookedUp(this.theirs());
    return who ? `The other was ${who}.` : 'Nobody says who looked the other up.';
  });
  protected readonly learnt = computed(() => {
    const { settings, habits } = this.result().learnt;
    if (settings.length + habits.length === 0) return 'It knows nothing that yours does not.';
    return `It adds ${[
      ...(settings.length > 0 ? [settings.map((role) => roleInfo[role].name).join(', ')] : []),
      ...(habits.length > 0 ? [habits.map((what) => unknownWords[what]).join(', ')] : []),
    ].join('; and ')}.`;
  });
  protected readonly lines = computed(() =>
    mergeCards(this.mine(), this.theirs()).asked.map((difference) => ({
      key: differenceKey(difference),
      ...differenceWords(this.mine(), this.theirs(), difference),
    })),
  );

  protected choose(key: string, theirs: boolean): void {
    this.taken.update((set) => {
      const next = new Set(set);
      if (theirs) next.add(key);
      else next.delete(key);
      return next;
    });
  }
}
