import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { timer } from 'rxjs';
import { Exchange, ExchangeProblem, type Offer } from '../data/exchange';
import type { Brought } from '../data/job-files';
import { storageProblem } from '../data/database';
import { clockWords } from '../ui/day-words';

/** How often waiting jobs are asked for while this page is looked at, ms. */
const everyMs = 5000;

/** Jobs that the other device has handed over. Shown only where this page is served for two. */
@Component({
  selector: 'ck-exchange-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (open()) {
      <section aria-labelledby="exchange-title">
        <h2 id="exchange-title">Handed over from the {{ exchange.pairing()?.here ? 'paired device' : 'other machine' }}</h2>
        @for (offer of exchange.offers(); track offer.id + offer.at) {
          <p>
            <b>{{ offer.name }}</b>&ngsp;<span>{{ when(offer.at) }}, {{ (offer.size / 1e6).toFixed(2) }} MB</span>
            <button type="button" class="ghost" (click)="take(offer)" [disabled]="busy()">Take it in</button>
          </p>
        } @empty {
          <p class="quiet">Nothing waits. On the other device choose <b>Hand to the other device</b> under More.</p>
        }
        @if (problem(); as why) {
          <p class="wrong" role="alert">{{ why }}</p>
        }
      </section>
    }
  `,
  styles: `
    section {
      border-left: 5px solid var(--ck-copper);
      padding: 6px 12px 8px;
      margin: 6px 0 10px;
      background: var(--ck-surface);
    }
    h2 {
      font-size: 0.9375rem;
      font-weight: var(--ck-w-strong);
    }
    p {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 14px;
      align-items: center;
      padding: 3px 0;
    }
    .quiet {
      display: block;
    }
  `,
})
export class ExchangePanel {
  protected readonly exchange = inject(Exchange);
  readonly brought = output<Brought>();
  protected readonly busy = signal(false);
  protected readonly problem = signal<string | null>(null);
  protected readonly open = computed(() => {
    const pairing = this.exchange.pairing();
    return pairing !== null && pairing.lan && pairing.paired;
  });
  protected readonly when = clockWords;

  constructor() {
    timer(0, everyMs)
      .pipe(takeUntilDestroyed())
      .subscribe((n) => {
        // Where nothing is served for two, asking once is enough.
        if (n === 0 || (this.open() && document.visibilityState === 'visible')) void this.exchange.look();
      });
  }

  protected async take(offer: Offer): Promise<void> {
    this.busy.set(true);
    this.problem.set(null);
    try {
      this.brought.emit(await this.exchange.take(offer));
    } catch (error) {
      this.problem.set(error instanceof ExchangeProblem ? error.message : storageProblem(error));
    } finally {
      this.busy.set(false);
    }
  }
}
