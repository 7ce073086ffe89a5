import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';

/** Nothing here yet: what this is for, and three ways in. */
@Component({
  selector: 'ck-begin-ways',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="begin" aria-label="Three ways to begin">
      <p class="empty">No job on this device yet. Everything you enter is saved on this device and goes nowhere else.</p>
      <ul>
        <li>
          <h2>Set chargers by the sheet</h2>
          <p>
            Enter what the battery maker prints, and choose each charger. Every value of every menu is worked out with its sum, put in an order that the device
            accepts, and read back.
          </p>
          <button type="button" class="ghost" (click)="named.emit()">Begin a job</button>
        </li>
        <li>
          <h2>Judge a log</h2>
          <p>
            Any table of times and values. What its columns mean is guessed and shown to you; what it shows by itself is there at once. Say which battery it is,
            and each requirement of its sheet gets a verdict. What the log does not show is said.
          </p>
          <button type="button" class="ghost" (click)="logged.emit()" [disabled]="busy()">Choose a log</button>
        </li>
        <li>
          <h2>Practise</h2>
          <p>Find faults in six made-up banks with meter and keys, or try the front of a charger. Nothing there touches a job or a real device.</p>
          <a class="ghost" routerLink="/practice">Go to the practice bench</a>
        </li>
      </ul>
    </section>
  `,
  styles: `
    .empty {
      padding: 40px 0;
      font-size: 1.0625rem;
    }
    .begin ul {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(min(100%, 260px), 1fr));
      gap: 20px 36px;
      margin-top: 18px;
    }
    .begin li {
      border-top: 1.5px solid var(--ck-ink);
      padding-top: 10px;
      display: grid;
      grid-template-rows: auto 1fr auto;
      gap: 6px;
      justify-items: start;
    }
    .begin h2 {
      font-size: 1.125rem;
      font-weight: var(--ck-w-strong);
    }
    .begin li p {
      line-height: 1.45;
      margin-bottom: 8px;
    }
    .begin .empty {
      padding: 18px 0 0;
    }
    .begin .ghost {
      min-height: 44px;
    }
  `,
})
export class BeginWays {
  readonly busy = input.required<boolean>();
  readonly named = output();
  readonly logged = output();
}
