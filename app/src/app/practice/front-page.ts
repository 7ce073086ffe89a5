import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { cardQuirks, factoryOf } from '@calm-keel/core/card';
import { faceRules, isUnsaved } from '@calm-keel/core/face';
import { Library } from '../data/library';
import { DeviceFront } from '../drawings/device-front';
import { workFront } from './front-work';
import { PracticeFrame } from './practice-frame';

/** The front of one card, one’s own included: to try its keys, and to see at once whether a survey of it is right. */
@Component({
  selector: 'ck-front-page',
  imports: [RouterLink, DeviceFront, PracticeFrame],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ck-practice-frame>
      @if (chosen(); as c) {
        <div class="vh">
          <h1>{{ c.maker }} {{ c.model }}</h1>
          <p>
            Its front as its card describes it, with factory values where the card has them. Work it like the real one: what is not saved is gone after the
            power cut.
          </p>
        </div>
        <div class="two">
          <div>
            @if (rules(); as r) {
              <ck-device-front
                [rules]="r"
                [state]="front.state()!"
                [name]="c.model"
                [model]="c.maker"
                [home]="['Home', unsaved() ? 'something is not saved' : 'everything is saved']"
                [note]="front.note()"
                (stroke)="front.move({ do: 'key', stroke: $event })"
                (reach)="front.move({ do: 'reach', level: $event })"
                (leave)="front.move({ do: 'leave' })"
                (without)="front.step($event)"
              />
            }
            <div class="acts">
              <button type="button" class="ghost" (click)="front.cut()">Cut its power</button>
              <button type="button" class="ghost" (click)="front.afresh()">Start with factory values</button>
              <label class="ghost">
                Battery
                <select (change)="volts.set(+$any($event.target).value)">
                  @for (v of c.ratings.systemVolts; track v) {
                    <option [value]="v" [selected]="v === volts()">{{ v }} V</option>
                  }
                </select>
              </label>
            </div>
          </div>
          <section aria-label="What its card says">
            <div class="sech"><span role="heading" aria-level="2">What its card says</span></div>
            <ul class="quirks">
              <li>{{ c.commit.how }}</li>
              @for (quirk of quirks(); track $index) {
                <li>{{ quirk }}</li>
              }
            </ul>
          </section>
        </div>
      } @else if (library.reading()) {
        <p class="quiet">Reading the library.</p>
      } @else {
        <div class="vh"><h1>No such card</h1></div>
        <p>This device has no card of that name. <a class="do" routerLink="/practice">Choose another front</a></p>
      }
    </ck-practice-frame>
  `,
  styles: `
    .two {
      display: grid;
      grid-template-columns: minmax(300px, 420px) minmax(0, 1fr);
      gap: 20px 40px;
    }
    .acts {
      margin-top: 14px;
    }
    .quirks li {
      padding: 6px 0;
      border-top: 1px solid var(--ck-rule);
      font-size: 0.875rem;
      line-height: 1.4;
    }
    @media (max-width: 767px) {
      .two {
        grid-template-columns: minmax(0, 1fr);
      }
      .acts .ghost {
        min-height: 48px;
      }
    }
  `,
})
export class FrontPage {
  readonly card = input.required<string>();
  protected readonly library = inject(Library);
  protected readonly chosen = computed(() => this.library.cards().find((c) => c.id === this.card()));
  protected readonly volts = linkedSignal(() => this.chosen()?.ratings.systemVolts.at(-1) ?? 12);
  protected readonly rules = computed(() => {
    const card = this.chosen();
    if (!card) return null;
    const factory = Object.fromEntries(
      card.parameters.flatMap((p) => {
        const value = factoryOf(p, this.volts());
        return value === undefined ? [] : [[p.role, value] as const];
      }),
    );
    return faceRules({ card, factory, systemVolts: this.volts() });
  });
  protected readonly front = workFront(
    this.rules,
    computed(() => {
      const factory = this.rules()?.factory;
      return factory ? { inUse: factory, stored: factory } : null;
    }),
  );
  protected readonly unsaved = computed(() => {
    const state = this.front.state();
    return state !== null && isUnsaved(state.memory);
  });
  protected readonly quirks = computed(() => {
    const card = this.chosen();
    return card ? cardQuirks(card) : [];
  });
}
