import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { findFindings } from '@calm-keel/core/findings';
import { planWith, type Judged } from '@calm-keel/core/practice';
import { formatDuration, formatTimeOfDay } from '@calm-keel/core/quantity';
import { english, practiceEnglish, sayFor, speakFinding } from '@calm-keel/core/words';
import { today } from '../data/job-store';
import { Units } from '../data/units';
import { Derivation } from '../ui/derivation';
import { Glyph } from '../ui/glyph';
import { BenchSession } from './bench-session';

/** What came of an exercise, step by step: what it was, where it was to be seen, how it is put right, and what else happened. */
@Component({
  selector: 'ck-bench-result',
  imports: [Glyph, Derivation],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bench-result.html',
  styles: `
    :host {
      display: block;
    }
    .verdict {
      display: flex;
      gap: 8px;
      align-items: baseline;
      font-size: 1.25rem;
      font-weight: var(--ck-w-strong);
      line-height: 1.2;
      margin: 12px 0 4px;
    }
    .press {
      width: 100%;
      min-height: 48px;
      margin: 12px 0 8px;
    }
    .ghost {
      width: 100%;
      min-height: 44px;
    }
    ol.steps {
      counter-reset: step;
    }
    ol.steps > li {
      counter-increment: step;
      padding: 8px 0 8px 26px;
      position: relative;
      border-top: 1px solid var(--ck-rule);
      line-height: 1.4;
    }
    ol.steps > li::before {
      content: counter(step);
      position: absolute;
      left: 0;
      top: 8px;
      font: 620 0.9375rem/1.4 var(--ck-font-num);
      color: var(--ck-ink-2);
    }
    small {
      display: block;
      color: var(--ck-ink-2);
      font-size: 0.875rem;
    }
    li.line {
      padding: 6px 0;
      border-top: 1px solid var(--ck-rule);
      line-height: 1.4;
      display: grid;
      grid-template-columns: 20px 1fr;
      gap: 6px;
    }
    h3 {
      font-size: 1.0625rem;
      font-weight: var(--ck-w-strong);
      line-height: 1.25;
      margin: 4px 0 6px;
    }
  `,
})
export class BenchResult {
  readonly next = output();
  readonly again = output();
  private readonly session = inject(BenchSession);
  private readonly units = inject(Units);
  protected readonly judged = computed((): Judged | null => this.session.judged());

  protected readonly verdict = computed(() => {
    const judged = this.judged();
    const kind = this.session.bench()?.exercise.kind ?? 'find';
    return judged ? practiceEnglish.verdict(judged, kind) : '';
  });
  protected readonly counts = computed(() => {
    const j = this.judged();
    if (!j) return '';
    const of = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;
    return [
      of(j.steps, 'thing measured or read', 'things measured or read'),
      of(j.hints, 'hint', 'hints'),
      of(j.wrong.length, 'wrong answer', 'wrong answers'),
      ...(j.slips.length > 0 ? [of(j.slips.length, 'wrong value saved on the way', 'wrong values saved on the way')] : []),
      `${formatDuration(j.seconds)} on site`,
    ].join(', ');
  });

  protected readonly faults = computed(() => {
    const bench = this.session.bench();
    const say = this.session.say();
    const judged = this.judged();
    if (!bench || !say || !judged) return [];
    const plan = bench.truePlan();
    // The bank as somebody found it, through the eyes of the program itself.
    const found = planWith(plan, bench.arrived.stored);
    const findings = findFindings(found, today()).map((f) => ({ finding: f, spoken: speakFinding(english, f, sayFor(found.input, this.units.scale())) }));
    const arrived = bench.arrivedMinute;
    return judged.faults.map((f) => {
      const words = practiceEnglish.faults[f.code];
      const { device, role } = f.spot;
      const value = device !== null && role !== null ? bench.arrived.stored[device]?.[role] : undefined;
      const setting = device !== null && role !== null ? plan.setting(device, role) : undefined;
      return {
        cause: practiceEnglish.choice({ code: f.code, device }, say),
        found: device !== null && role !== null && value !== undefined ? `${say.label(device, role)} was found at ${say.shown(device, role, value)}.` : '',
        right: device !== null && role !== null && setting?.value != null ? `It should be ${say.shown(device, role, setting.value)}.` : '',
        does: words.does,
        shows: words.shows,
        cure: words.cure,
        ways: f.proofs.map((p) =>
          p.keys.map((key, i) => {
            const seen = p.seen[i];
            return `${practiceEnglish.toGet(key, say)}: ${seen == null ? 'you did not' : `you did at ${formatTimeOfDay((arrived + seen / 60 + 1440) % 1440)}`}`;
          }),
        ),
        named: f.named,
        shown: f.shown === true,
        cured: f.cured,
        derivation: setting?.derivation ?? [],
        findings: findings.filter(({ finding }) => finding.charger === device && finding.role === role && role !== null).map(({ spoken }) => spoken.text),
      };
    });
  });
  protected readonly others = computed(() => {
    const say = this.session.say();
    const j = this.judged();
    if (!say || !j) return [];
    return [
      ...j.hazards.map((h) => ({ mark: 'stop' as const, words: practiceEnglish.danger(h, say) })),
      ...j.wrong.map((w) => ({ mark: 'stop' as const, words: practiceEnglish.wrong(w, say) })),
      ...j.followed.map((w) => ({ mark: 'note' as const, words: practiceEnglish.followed(w, say) })),
      // What is still wrong of a fault is said with it.
      ...j.left
        .filter((l) => !j.faults.some((f) => f.spot.device === l.device && f.spot.role === l.role))
        .map((l) => ({ mark: 'attention' as const, words: practiceEnglish.left(l, say) })),
      ...j.needless.map((n) => ({ mark: 'attention' as const, words: practiceEnglish.needless(n.hand, n.device, say) })),
    ];
  });
}
