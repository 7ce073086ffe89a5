import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { testNamed, testsFor, type TestCode, type TestRecord } from '@calm-keel/core/fieldtest';
import { judgeTest } from '@calm-keel/core/job';
import { verdictOrder, verdictWords } from '@calm-keel/core/proof';
import { devicesOf } from '@calm-keel/core/settings';
import { JobStore } from '../data/job-store';
import { WhoIsThere } from '../data/who-is-there';
import { Units } from '../data/units';
import { Glyph } from '../ui/glyph';
import { verdictGlyphs } from '../ui/verdicts';

/** The guided tests that this system can be put to, what they came to, and which one is next. */
@Component({
  selector: 'ck-tests-panel',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech"><span role="heading" aria-level="2">Every guided test</span></div>
    @if (chosen(); as name) {
      <div class="choices" role="group" aria-label="Tests of which devices">
        <button type="button" [attr.aria-pressed]="!everybody()" (click)="everybody.set(false)">{{ name }} only</button>
        <button type="button" [attr.aria-pressed]="everybody()" (click)="everybody.set(true)">All devices</button>
      </div>
    }
    @for (t of tests(); track t.code) {
      <article>
        <div class="head">
          <h3>{{ t.name }}</h3>
          <p>{{ t.purpose }}</p>
          <p class="tools">{{ t.tools.join(', ') }}</p>
        </div>
        <ul>
          @for (d of t.devices; track d.id) {
            <li>
              <span class="dev">{{ d.name }}</span>
              @if (d.refused) {
                <span class="no">{{ units.speak(d.refused) }}</span>
              } @else {
                @if (d.last; as last) {
                  <button type="button" class="do" (click)="open.emit(last.id)">
                    @if (last.verdict) {
                      <span [class]="'st t-' + glyphs[last.verdict]"><ck-glyph [name]="glyphs[last.verdict]" [size]="15" />{{ words[last.verdict] }}</span>
                    } @else {
                      Go on with it
                    }
                    <small class="n">{{ last.day }}</small>
                  </button>
                }
                <button
                  type="button"
                  class="ghost"
                  [disabled]="there.initials().trim() === ''"
                  [attr.aria-label]="(d.last ? 'Do it again: ' : 'Begin: ') + t.name + ', ' + d.name"
                  (click)="begin.emit({ code: t.code, device: d.id })"
                >
                  {{ d.last ? 'Do it again' : 'Begin' }}
                </button>
              }
            </li>
          }
        </ul>
      </article>
    }
  `,
  styles: `
    .choices {
      padding-top: 10px;
    }
    article {
      display: grid;
      grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
      gap: 6px 24px;
      border-bottom: 1px solid var(--ck-rule);
      padding: 10px 0;
    }
    h3 {
      font-size: 1rem;
      font-weight: var(--ck-w-strong);
    }
    .head p {
      font-size: 0.875rem;
      line-height: 1.35;
      color: var(--ck-ink-2);
    }
    .head .tools {
      font-size: 0.8125rem;
      margin-top: 3px;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 12px;
      align-items: center;
      min-height: 46px;
    }
    .dev {
      font-weight: 600;
      flex: 1 1 100px;
    }
    .no {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
      flex: 2 1 220px;
      line-height: 1.3;
    }
    .ghost {
      min-height: 44px;
    }
    small {
      font-size: 0.7812rem;
      color: var(--ck-ink-2);
      margin-left: 4px;
    }
    @media (max-width: 767px) {
      article {
        grid-template-columns: 1fr;
      }
      .ghost {
        min-height: 48px;
      }
    }
  `,
})
export class TestsPanel {
  protected readonly units = inject(Units);
  private readonly store = inject(JobStore);
  protected readonly there = inject(WhoIsThere);
  /** The chosen device, whose tests are shown by themselves; null for all. */
  readonly device = input<string | null>(null);
  protected readonly everybody = signal(false);
  protected readonly chosen = computed(() => {
    const job = this.store.job();
    return job ? (devicesOf(job).find((d) => d.id === this.device())?.name ?? null) : null;
  });
  readonly begin = output<{ code: TestCode; device: string }>();
  readonly open = output<string>();
  protected readonly glyphs = verdictGlyphs;
  protected readonly words = verdictWords;

  private readonly plan = linkedSignal(() => this.store.settled());
  protected readonly tests = computed(() => {
    const plan = this.plan();
    const job = this.store.job();
    if (!plan || !job) return [];
    const all = testsFor(plan).filter((t) => this.everybody() || this.chosen() === null || t.subject.device.id === this.device());
    const codes = [...new Set(all.map((t) => t.test.code))];
    const worst = (record: TestRecord) => {
      const rows = judgeTest(plan, job, record);
      return verdictOrder.find((v) => rows.some((r) => r.verdict === v)) ?? null;
    };
    return codes.map((code) => {
      const { name, purpose, tools } = testNamed(code);
      return {
        code,
        name,
        purpose,
        tools,
        devices: all
          .filter((t) => t.test.code === code)
          .map(({ test, subject }) => {
            const last = job.tests.findLast((r) => r.code === code && r.device === subject.device.id);
            return {
              id: subject.device.id,
              name: subject.device.name,
              refused: test.prepare(plan, subject).refused,
              last: last ? { id: last.id, verdict: last.endedAt === null ? null : worst(last), day: last.begunAt.slice(0, 10) } : null,
            };
          }),
      };
    });
  });
}
