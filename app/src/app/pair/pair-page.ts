import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Exchange, ExchangeProblem } from '../data/exchange';
import { storageProblem } from '../data/database';

/** Pairs this browser with the machine that serves it, by the code that machine shows. */
@Component({
  selector: 'ck-pair-page',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <h1>Pair this device</h1>
      @if (exchange.pairing(); as state) {
        @if (!state.lan) {
          <p>This page is not served for a second device. On the machine that has the jobs, start it with <code>npm run demo -- --lan</code>.</p>
        } @else if (state.paired) {
          <p>This device is paired. Jobs go both ways now, and what both changed is merged.</p>
        } @else {
          <p>Enter the six digits that the other machine shows. They are good once.</p>
          <form (submit)="$event.preventDefault(); pair(field.value)">
            <label class="lbl" for="code">Pairing code</label>
            <input #field id="code" class="plain n" inputmode="numeric" autocomplete="one-time-code" maxlength="9" [value]="code" />
            <button type="submit" class="press" [disabled]="busy()">Pair</button>
          </form>
        }
      } @else {
        <p>No machine answers here. A job can be carried over as a file all the same: <b>Job file, Save job and logs</b>.</p>
      }
      @if (problem(); as why) {
        <p class="wrong" role="alert">{{ why }}</p>
      }
      <p><a class="do" routerLink="/">To the jobs</a></p>
    </main>
  `,
  styles: `
    main {
      max-width: 460px;
      padding: 24px 16px;
      display: grid;
      gap: 12px;
    }
    h1 {
      font-size: 1.5rem;
      font-weight: var(--ck-w-strong);
    }
    form {
      display: grid;
      gap: 8px;
    }
    input {
      font-size: 1.75rem;
      min-height: 60px;
      letter-spacing: 0.08em;
    }
    .press {
      min-height: 60px;
      font-size: 1.0625rem;
    }
  `,
})
export class PairPage {
  protected readonly exchange = inject(Exchange);
  private readonly router = inject(Router);
  /** The code that came with the address: read off the other machine's screen by the camera. */
  protected readonly code = /^#(\d{6})$/.exec(location.hash)?.[1] ?? '';
  protected readonly busy = signal(false);
  protected readonly problem = signal<string | null>(null);

  constructor() {
    void this.exchange.look();
  }

  protected async pair(code: string): Promise<void> {
    this.busy.set(true);
    this.problem.set(null);
    try {
      await this.exchange.pair(code);
      await this.router.navigate(['/']);
    } catch (error) {
      this.problem.set(error instanceof ExchangeProblem ? error.message : storageProblem(error));
    } finally {
      this.busy.set(false);
    }
  }
}
