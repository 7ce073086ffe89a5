import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { displayText, parameterFor } from '@calm-keel/core/card';
import { judgeReading } from '@calm-keel/core/runsheet';
import { nextHeld } from '@calm-keel/core/settings';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { clockWords } from '../ui/day-words';
import { Derivation } from '../ui/derivation';
import { RunRows } from './run-rows';

/** Beside a step: why its value, what other readings would mean, what comes next, and what went otherwise. */
@Component({
  selector: 'ck-run-aside',
  imports: [Derivation],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (setting(); as s) {
      <div class="top">
        <h2>Why {{ work.step()?.value?.readBack }}</h2>
      </div>
      <ck-derivation [steps]="s.derivation" />
    }
    @if (instead().length > 0) {
      <div class="sech"><span role="heading" aria-level="2">If it reads something else</span></div>
      @for (line of instead(); track line.reads) {
        <div class="else">
          <b class="n">{{ line.reads }}</b>
          <p>{{ line.says }}</p>
        </div>
      }
    }
    @if (next().length > 0) {
      <div class="sech"><span role="heading" aria-level="2">Next</span></div>
      @for (row of next(); track row.step.id) {
        <div class="next">
          <span class="n">{{ row.number }}</span><span>{{ row.device ? row.device + ', ' : '' }}{{ row.step.title }}</span
          ><b class="n">{{ row.step.value?.readBack ?? '' }}</b>
        </div>
      }
    }
    @if (work.record()?.trouble; as trouble) {
      @if (trouble.length > 0) {
        <div class="sech"><span role="heading" aria-level="2">What went otherwise</span></div>
        @for (t of trouble.slice(-4).reverse(); track t.at + t.text) {
          <p class="trouble">
            <span class="n">{{ clock(t.at) }}</span> {{ t.text }}
          </p>
        }
      }
    }
  `,
  styles: `
    .else,
    .next {
      display: grid;
      grid-template-columns: 78px 1fr;
      gap: 8px;
      font-size: 0.8438rem;
      line-height: 1.3;
      padding: 5px 0;
      border-top: 1px solid var(--ck-rule);
    }
    .next {
      grid-template-columns: 28px 1fr auto;
    }
    .trouble {
      font-size: 0.8438rem;
      line-height: 1.35;
      padding: 4px 0;
      border-top: 1px solid var(--ck-rule);
    }
  `,
})
export class RunAside {
  private readonly store = inject(JobStore);
  protected readonly work = inject(RunWork);
  private readonly rows = inject(RunRows);

  /** The setting that the step in view sets. */
  protected readonly setting = computed(() => {
    const step = this.work.step();
    return step?.value && step.device ? (this.store.settled()?.setting(step.device, step.value.role) ?? null) : null;
  });

  /** Readings that are likely instead of the right one, judged as they would be. */
  protected readonly instead = computed(() => {
    const plan = this.store.settled();
    const step = this.work.step();
    const card = this.rows.card();
    const p = step?.value && card ? parameterFor(card, step.value.role) : undefined;
    if (!plan || !step?.value || !step.device || !p) return [];
    const { from, to, role } = step.value;
    const up = typeof to === 'number' ? nextHeld(plan, step.device, role, 1)?.device : undefined;
    const far = p.unit !== 'choice' && p.wraps ? p.max : undefined;
    return [up, from ?? undefined, far]
      .filter((v): v is number | string => v !== undefined && v !== to)
      .filter((v, i, list) => list.indexOf(v) === i)
      .map((v) => {
        const judged = judgeReading(plan, step, v);
        return { reads: displayText(p, v), says: `${judged.says.replace(`${displayText(p, v)}. `, '')} ${judged.next}` };
      });
  });

  protected readonly next = computed(() => this.rows.next().slice(0, 3));
  protected readonly clock = clockWords;
}
