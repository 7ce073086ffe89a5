import { ChangeDetectionStrategy, Component, computed, inject, input, resource } from '@angular/core';
import { RouterLink } from '@angular/router';
import { displayText, keyStroke, parameterFor } from '@calm-keel/core/card';
import { editPlan } from '@calm-keel/core/edits';
import { faceRules } from '@calm-keel/core/face';
import { toJob } from '@calm-keel/core/job';
import { cardOf, deriveSettings, deviceName, devicesOf, factoryValues, valuesOn, type Plan } from '@calm-keel/core/settings';
import { JobBook } from '../data/job-book';
import type { Mark } from '../data/stations';
import { DeviceFront } from '../drawings/device-front';
import { Glyph } from '../ui/glyph';
import { workFront } from './front-work';
import { PracticeFrame } from './practice-frame';
import { rangeVolts } from '@calm-keel/core/system';

/** The edits of one device of a job, practised on its front as it was found: the job is read and never written. */
@Component({
  selector: 'ck-keying-page',
  imports: [RouterLink, DeviceFront, Glyph, PracticeFrame],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ck-practice-frame>
      @if (place(); as p) {
        <div class="vh">
          <h1>{{ p.name }}: practise its edits</h1>
          <p>Its front as it was found on this job. Enter each value in this order, and save. Nothing here reaches the job or the device.</p>
        </div>
        <div class="two">
          <div>
            <ck-device-front
              [rules]="p.rules"
              [state]="front.state()!"
              [name]="p.name"
              [model]="p.model"
              [home]="[left() === 0 ? 'All saved' : left() + ' to enter', 'practice']"
              [note]="front.note()"
              (stroke)="front.move({ do: 'key', stroke: $event })"
              (reach)="front.move({ do: 'reach', level: $event })"
              (leave)="front.move({ do: 'leave' })"
              (without)="front.step($event)"
            />
            <div class="acts">
              <button type="button" class="ghost" (click)="front.cut()">Cut its power</button>
              <button type="button" class="ghost" (click)="front.afresh()">Start as found</button>
            </div>
          </div>
          <section aria-label="Edits in order">
            <div class="sech">
              <span role="heading" aria-level="2">Edits in order</span><small>{{ left() }} left</small>
            </div>
            @if (edits().length === 0) {
              <p class="quiet">Everything on it is as it should be.</p>
            }
            <ol>
              @for (e of edits(); track $index) {
                <li>
                  <ck-glyph [name]="e.mark" />
                  <div>
                    <b>{{ e.label }}</b>&ngsp;<span class="n">{{ e.to }}</span>
                    <small>{{ e.keys }}</small>
                    <small>{{ e.words }}</small>
                  </div>
                </li>
              }
            </ol>
          </section>
        </div>
      } @else if (found.isLoading()) {
        <p class="quiet">Reading the job.</p>
      } @else {
        <div class="vh"><h1>No such device</h1></div>
        <p>This device has no such job, or the job no such device with a card. <a class="do" routerLink="/practice">Back to the practice bench</a></p>
      }
    </ck-practice-frame>
  `,
  styles: `
    .two {
      display: grid;
      grid-template-columns: minmax(280px, 420px) minmax(0, 1fr);
      gap: 20px 40px;
    }
    .acts {
      margin-top: 14px;
    }
    li {
      display: grid;
      grid-template-columns: 22px minmax(0, 1fr);
      gap: 8px;
      padding: 8px 0;
      border-top: 1px solid var(--ck-rule);
      line-height: 1.35;
    }
    small {
      display: block;
      color: var(--ck-ink-2);
      font-size: 0.8125rem;
    }
    .n {
      margin-left: 6px;
      white-space: normal;
      overflow-wrap: anywhere;
    }
    small {
      overflow-wrap: anywhere;
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
export class KeyingPage {
  readonly job = input.required<string>();
  readonly device = input.required<string>();
  private readonly book = inject(JobBook);

  protected readonly found = resource({
    params: () => this.job(),
    loader: async ({ params }): Promise<Plan | null> => {
      const row = await this.book.get(params);
      const job = row && toJob(row.doc);
      return job?.ok ? deriveSettings(job.value) : null;
    },
  });
  protected readonly place = computed(() => {
    const plan = this.found.hasValue() ? this.found.value() : null;
    const place = plan && devicesOf(plan.input).find((d) => d.id === this.device());
    const card = plan && place && cardOf(plan.input, place);
    if (!plan || !place || !card) return null;
    const systemVolts = rangeVolts(plan.facts);
    return {
      plan,
      card,
      name: deviceName(plan.input, place.id),
      model: `${card.maker} ${card.model}`,
      values: valuesOn(plan, place.id),
      rules: faceRules({ card, factory: factoryValues(plan, place.id), systemVolts }),
    };
  });
  protected readonly front = workFront(
    computed(() => this.place()?.rules ?? null),
    computed(() => {
      const values = this.place()?.values;
      return values ? { inUse: values, stored: values } : null;
    }),
  );
  /** What is to be entered, in the order that every step is accepted in, and how far each is. */
  protected readonly edits = computed(() => {
    const place = this.place();
    const state = this.front.state();
    if (!place || !state) return [];
    return (editPlan(place.plan, this.device())?.steps ?? [])
      .filter((s) => !s.temporary)
      .map((s) => {
        const p = parameterFor(place.card, s.role);
        const saved = state.memory.stored[s.role] === s.to;
        const used = state.memory.inUse[s.role] === s.to;
        const mark: Mark = saved && used ? 'done' : used ? 'attention' : 'notyet';
        const now = state.memory.inUse[s.role];
        return {
          label: s.label,
          to: p ? displayText(p, s.to) : String(s.to),
          keys: (p?.keys ?? []).map((k) => (keyStroke(k).kind === 'shows' ? `“${keyStroke(k).text}”` : k)).join(', '),
          mark,
          words: saved && used ? 'saved' : used ? 'in use, not saved' : p && now !== undefined ? `is ${displayText(p, now)}` : 'not set',
        };
      });
  });
  protected readonly left = computed(() => this.edits().filter((e) => e.mark !== 'done').length);
}
