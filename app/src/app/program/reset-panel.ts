import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { parameterFor, roleInfo } from '@calm-keel/core/card';
import { cardOf, type Plan } from '@calm-keel/core/settings';
import type { Charger } from '@calm-keel/core/system';
import { RunWork } from '../data/run-work';

/** Ways back for a device: to its factory values, to a forgotten passcode; and the note that it was reset, after which nothing on it counts as read. */
@Component({
  selector: 'ck-reset-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (card(); as c) {
      <details [open]="open()" (toggle)="open.set(box.open)" #box>
        <summary class="do">Reset it, or its passcode is forgotten</summary>
        @for (way of ways(); track way.title) {
          <h3>{{ way.title }}</h3>
          @if (way.steps.length > 0) {
            <ol>
              @for (step of way.steps; track $index) {
                <li>{{ step }}</li>
              }
            </ol>
          }
          <p class="quiet">{{ way.after }}</p>
        }
        <p class="quiet">Keep its source off until it is set again: a reset brings the factory’s charge voltages back.</p>
        <button type="button" class="ghost" (click)="reset()">It was reset: doubt everything on it</button>
      </details>
    }
  `,
  styles: `
    details {
      padding: 6px 0 8px;
      border-bottom: 1px solid var(--ck-rule);
    }
    h3 {
      font-size: 0.9375rem;
      margin: 8px 0 2px;
    }
    ol {
      padding-left: 20px;
      list-style: decimal;
      line-height: 1.4;
    }
    p {
      padding: 2px 0 6px;
    }
  `,
})
export class ResetPanel {
  private readonly work = inject(RunWork);
  readonly plan = input.required<Plan>();
  readonly device = input.required<Charger>();
  private readonly id = computed(() => this.device().id);
  protected readonly open = linkedSignal({ source: this.id, computation: () => false });
  protected readonly card = computed(() => cardOf(this.plan().input, this.device()) ?? null);

  protected readonly ways = computed(() => {
    const card = this.card();
    if (!card) return [];
    const { factoryReset, forgottenPasscode } = card.procedures ?? {};
    const unknown = 'Its card does not say how. The maker’s manual does.';
    const spares = (factoryReset?.spares ?? []).flatMap((role) => (parameterFor(card, role) ? [roleInfo[role].name] : []));
    const left =
      factoryReset?.spares === undefined
        ? 'Whether every setting goes back is not known.'
        : spares.length === 0
          ? 'Every setting goes back.'
          : `Not reset: ${spares.join(', ')}.`;
    const gone =
      forgottenPasscode?.resets === undefined
        ? 'Whether its settings stay is not known: read every value afterwards.'
        : forgottenPasscode.resets
          ? 'Its settings are gone then too.'
          : 'Its settings stay.';
    return [
      { title: 'To its factory values', steps: factoryReset?.steps ?? [], after: factoryReset ? left : unknown },
      {
        title: 'Passcode forgotten',
        steps: forgottenPasscode?.steps ?? [],
        after: forgottenPasscode ? gone : unknown,
      },
    ];
  });

  protected reset(): void {
    this.work.noteReset(this.device().id, this.device().name);
    this.open.set(false);
  }
}
