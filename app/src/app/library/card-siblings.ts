import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { differenceKey, mergeCards, onlyOn, roleInfo, sameModel, type Card } from '@calm-keel/core/card';
import { differenceWords, revisionWords } from './card-words';

/** Other firmware and menus of the same model, and what differs there. */
@Component({
  selector: 'ck-card-siblings',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (s of siblings(); track s.card.id) {
      <details>
        <summary>
          Also here with {{ s.which }}:
          {{ s.lines.length === 0 ? 'no difference is known' : s.lines.length === 1 ? 'one difference' : s.lines.length + ' differences' }}
        </summary>
        <ul>
          @for (line of s.lines; track line.key) {
            <li>
              <b>{{ line.what }}</b>&ngsp;<span>here {{ line.mine }}, there {{ line.theirs }}</span>
            </li>
          }
        </ul>
        <a class="do" routerLink="/library" [queryParams]="{ show: s.card.id }">Open that card</a>
      </details>
    }
  `,
  styles: `
    details {
      border-top: 1px solid var(--ck-rule);
      padding: 4px 0;
    }
    summary {
      min-height: 32px;
      cursor: pointer;
      font-weight: 560;
    }
    li {
      padding: 3px 0 3px 16px;
      line-height: 1.3;
      span {
        color: var(--ck-ink-2);
      }
    }
  `,
})
export class CardSiblings {
  readonly card = input.required<Card>();
  readonly cards = input.required<readonly Card[]>();

  protected readonly siblings = computed(() => {
    const card = this.card();
    return this.cards()
      .filter((other) => other.id !== card.id && sameModel(other, card))
      .map((other) => ({
        card: other,
        which: revisionWords(other),
        lines: [
          ...mergeCards(card, other).asked.map((d) => ({ key: differenceKey(d), ...differenceWords(card, other, d) })),
          ...onlyOn(card, other).map((role) => ({ key: `here ${role}`, what: roleInfo[role].name, mine: 'a setting', theirs: 'none' })),
          ...onlyOn(other, card).map((role) => ({ key: `there ${role}`, what: roleInfo[role].name, mine: 'none', theirs: 'a setting' })),
        ],
      }));
  });
}
