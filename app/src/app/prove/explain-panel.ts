import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { Explanation } from '@calm-keel/core/proof';
import { formatClock } from '@calm-keel/core/quantity';
import { Units } from '../data/units';
import { Glyph } from '../ui/glyph';
import { stageLook } from '../ui/stages';

/** What happened at one moment of a log: time, change, cause, what counted, what it means, how sure. */
@Component({
  selector: 'ck-explain-panel',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let t = told();
    <div class="head">
      <b class="n time">{{ clock(t.at) }}</b>
      <div>
        <h2>{{ t.title }}</h2>
        <p class="who">{{ name() }}</p>
      </div>
    </div>
    @if (t.before && t.after) {
      <p class="change">
        <span class="tile" [style.background]="'var(--ck-' + look(t.before).texture + '-wash)'">{{ look(t.before).letter || '–' }}</span>{{
          look(t.before).words
        }}
        <span aria-hidden="true">→</span>
        <span class="tile" [style.background]="'var(--ck-' + look(t.after).texture + '-wash)'">{{ look(t.after).letter || '–' }}</span>{{ look(t.after).words }}
      </p>
    } @else if (t.kind === 'odd') {
      <p class="change"><ck-glyph name="attention" />Odd in this log</p>
    }
    <p class="cause" data-testid="cause">{{ units.speak(t.cause) }}</p>
    @if (strip(); as s) {
      <div class="strip">
        <p>
          <span class="n">{{ clock(s.from) }}</span><span class="mid">counted at voltage</span><span class="n">{{ clock(s.to) }}</span>
        </p>
        <svg viewBox="0 0 280 16" role="img" aria-label="What counted at voltage, over the time it took">
          <rect x="0.5" y="0.5" width="279" height="15" fill="var(--ck-surface)" stroke="var(--ck-absorb)" />
          @for (p of s.parts; track p.x) {
            <rect [attr.x]="p.x" y="0" [attr.width]="p.w" height="16" fill="var(--ck-absorb)" />
          }
        </svg>
      </div>
    }
    @if (t.means) {
      <h3>What this means</h3>
      <p class="quiet">{{ t.means }}</p>
    }
    @if (t.advice) {
      <h3>What to do</h3>
      <p class="quiet">{{ t.advice }}</p>
    }
    @if (t.sure) {
      <h3>How sure</h3>
      <p class="quiet">{{ t.sure }}</p>
    }
    <p class="acts">
      <button type="button" class="ghost" (click)="zoom.emit()">Zoom to {{ clock(t.at) }}</button>
      <button type="button" class="ghost" [disabled]="first()" (click)="step.emit(-1)">Before</button>
      <button type="button" class="ghost" [disabled]="last()" (click)="step.emit(1)">Next</button>
    </p>
  `,
  styles: `
    :host {
      display: block;
    }
    .head {
      display: flex;
      gap: 12px;
      align-items: baseline;
      border-bottom: 1px solid var(--ck-rule-strong);
      padding: 14px 0 8px;
    }
    .time {
      font-size: 1.875rem;
      color: var(--ck-copper-text);
      line-height: 1;
    }
    h2 {
      font-size: 1.0312rem;
      font-weight: var(--ck-w-strong);
      line-height: 1.15;
    }
    h3 {
      font-size: 0.9062rem;
      font-weight: var(--ck-w-strong);
      margin-top: 10px;
    }
    .who {
      font-size: 0.8438rem;
      color: var(--ck-ink-2);
    }
    .change {
      display: flex;
      gap: 7px;
      align-items: center;
      font-size: 0.875rem;
      margin: 8px 0 4px;
    }
    .tile {
      border: 1px solid var(--ck-ink-2);
      width: 24px;
      height: 22px;
      display: inline-grid;
      place-items: center;
      font-weight: 700;
      font-size: 0.8125rem;
    }
    .cause {
      font-size: 0.9375rem;
    }
    .strip {
      margin-top: 8px;
      p {
        display: flex;
        justify-content: space-between;
        gap: 6px;
        font-size: 0.7812rem;
      }
      .mid {
        color: var(--ck-absorb);
      }
      svg {
        display: block;
        width: 100%;
        height: 16px;
      }
    }
    .acts {
      margin-top: 12px;
    }
  `,
})
export class ExplainPanel {
  protected readonly units = inject(Units);
  readonly told = input.required<Explanation>();
  readonly name = input.required<string>();
  readonly offset = input.required<number | null>();
  readonly first = input(false);
  readonly last = input(false);
  readonly zoom = output();
  readonly step = output<1 | -1>();
  protected readonly look = (stage: NonNullable<Explanation['before']>) => stageLook[stage];
  protected clock(seconds: number): string {
    return formatClock(seconds, this.offset());
  }
  protected readonly strip = computed(() => {
    const counted = this.told().counted;
    if (!counted || counted.length === 0) return null;
    const from = Math.min(this.told().at, ...counted.map((c) => c.from));
    const to = Math.max(...counted.map((c) => c.to), from + 60);
    const x = (t: number): number => ((t - from) / (to - from)) * 280;
    return {
      from,
      to,
      parts: counted.slice(0, 300).map((c) => ({ x: x(c.from), w: Math.max(1.2, x(c.to) - x(c.from)) })),
    };
  });
}
