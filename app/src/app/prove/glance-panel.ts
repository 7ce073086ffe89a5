import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { testNamed } from '@calm-keel/core/fieldtest';
import type { Covered } from '@calm-keel/core/job';
import { verdictOrder, verdictRank, verdictWords, type Verdict } from '@calm-keel/core/proof';
import { requirementKey, allowedWords } from '@calm-keel/core/requirements';
import { JobStore } from '../data/job-store';
import { Units } from '../data/units';
import { Glyph } from '../ui/glyph';
import { verdictGlyphs } from '../ui/verdicts';

/** Every requirement at a glance: what it is proved by, what is open, and what no longer counts. */
@Component({
  selector: 'ck-glance-panel',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="count" role="status">
      @for (c of counts(); track c.verdict) {
        <span [class]="'st t-' + glyphs[c.verdict]"
          ><ck-glyph [name]="glyphs[c.verdict]" [size]="16" /><b class="n">{{ c.count }}</b> {{ words[c.verdict].toLowerCase() }}</span
        >
      }
    </p>
    @for (g of groups(); track g.name) {
      <section [attr.aria-label]="g.name">
        <h2>{{ g.name }}</h2>
        <ul>
          @for (c of g.rows; track keyOf(c)) {
            <li>
              <span [class]="'st t-' + glyphs[c.verdict]"><ck-glyph [name]="glyphs[c.verdict]" [size]="15" />{{ words[c.verdict] }}</span>
              <div>
                <b>{{ c.requirement.name }}</b>&ngsp;<small>{{ allowed(c) }}</small>
                @if (c.by; as by) {
                  <p>
                    {{ units.speak(by.why) }}
                    <button
                      type="button"
                      class="do"
                      (click)="by.kind === 'log' ? openLog.emit(by.id) : by.kind === 'test' ? openTest.emit(by.id) : null"
                      [disabled]="by.kind === 'record'"
                    >
                      {{ by.name }}, {{ day(by.at) }}
                    </button>
                    @if (by.witness && c.verdict === 'pass') {
                      <span class="next">{{ units.speak(by.witness) }}</span>
                    }
                    @if (by.next && c.verdict === 'inconclusive') {
                      <span class="next">{{ units.speak(by.next) }}</span>
                    }
                  </p>
                }
                @for (p of expired(c); track p.id) {
                  <p class="old">
                    <s>{{ words[p.verdict] }}</s> by {{ p.name }} of {{ day(p.at) }} no longer counts: {{ p.expired }}.
                  </p>
                }
                @if (c.verdict !== 'pass' && c.test; as t) {
                  <p>
                    <button type="button" class="do" (click)="begin.emit(t)">{{ testName(t.code) }}</button>
                  </p>
                }
              </div>
            </li>
          }
        </ul>
      </section>
    }
  `,
  styles: `
    .count {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 20px;
      padding: 6px 0 8px;
      border-bottom: 1.5px solid var(--ck-ink);
    }
    h2 {
      font-size: 1rem;
      font-weight: var(--ck-w-strong);
      padding-top: 12px;
    }
    li {
      display: grid;
      grid-template-columns: 118px 1fr;
      gap: 10px;
      border-bottom: 1px solid var(--ck-rule);
      padding: 6px 0;
      font-size: 0.875rem;
    }
    b {
      font-weight: 600;
    }
    small {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
      margin-left: 6px;
    }
    p {
      font-size: 0.8438rem;
      color: var(--ck-ink-2);
    }
    .next {
      display: block;
      color: var(--ck-ink);
    }
    .old {
      color: var(--ck-attention);
    }
    .do:disabled {
      color: var(--ck-ink-2);
      text-decoration: none;
      border: 0;
      cursor: default;
    }
    @media (max-width: 767px) {
      li {
        grid-template-columns: 1fr;
        gap: 2px;
      }
    }
  `,
})
export class GlancePanel {
  private readonly store = inject(JobStore);
  protected readonly units = inject(Units);
  readonly openLog = output<string>();
  readonly openTest = output<string>();
  readonly begin = output<NonNullable<Covered['test']>>();
  protected readonly glyphs = verdictGlyphs;
  protected readonly words = verdictWords;

  protected readonly counts = computed(() =>
    verdictOrder.map((verdict: Verdict) => ({ verdict, count: this.store.covered().filter((c) => c.verdict === verdict).length })),
  );
  protected readonly groups = computed(() => {
    const system = this.store.job()?.system;
    const devices = [{ id: undefined as string | undefined, name: 'Bank' }, ...(system?.chargers ?? []), ...(system?.companions ?? [])];
    const rank = (c: Covered): number => verdictRank(c.verdict);
    return devices
      .map(({ id, name }) => ({
        name,
        rows: this.store
          .covered()
          .filter((c) => c.requirement.charger === id && !(c.requirement.seenBy.length === 1 && c.requirement.seenBy[0] === 'rehearsal'))
          .sort((a, b) => rank(a) - rank(b)),
      }))
      .filter((g) => g.rows.length > 0);
  });
  protected readonly keyOf = (c: Covered): string => requirementKey(c);
  protected readonly testName = (code: Parameters<typeof testNamed>[0]): string => testNamed(code).name;
  protected expired(c: Covered) {
    return c.pieces.filter((p) => p.expired).slice(0, 2);
  }
  protected day(at: string): string {
    return at.slice(0, 10);
  }
  protected allowed(c: Covered): string {
    const { requirement } = c;
    return allowedWords({ requirement, unit: requirement.unit, digits: requirement.digits, band: requirement.band }, (t) => this.units.temperature(t));
  }
}
