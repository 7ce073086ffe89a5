import { ChangeDetectionStrategy, Component, computed, inject, input, resource } from '@angular/core';
import { displayText, parameterFor, roleInfo } from '@calm-keel/core/card';
import { logOfDay } from '@calm-keel/core/practice';
import { capital, formatNumber, formatTimeOfDay } from '@calm-keel/core/quantity';
import type { Run } from '@calm-keel/core/rehearsal';
import { editionOf } from '@calm-keel/core/sheet';
import { LogWork } from '../data/log-work';
import { Units } from '../data/units';
import { VoltsLine } from '../drawings/volts-line';
import { Glyph } from '../ui/glyph';
import { stageLook } from '../ui/stages';
import { BenchSession } from './bench-session';

/** Shorter stages are not told, s, nor more of them. */
const shortestS = 300;
const mostSpans = 14;

/** What there is to read: the sheet on the wall with the settings worked out from it, and the log of the day before. */
@Component({
  selector: 'ck-bench-papers',
  imports: [Glyph, VoltsLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (paper() === 'sheet') {
      <section class="paper" aria-label="Sheet on the wall">
        <div class="sech">
          <span role="heading" aria-level="2">{{ edition() }}</span><small>settings worked out for {{ name() }}</small>
        </div>
        @if (compared()) {
          <p class="quiet">Corrected for the difference you measured between its display and the meter.</p>
        }
        <table class="rows">
          <caption class="visually-hidden">
            Settings by the sheet
          </caption>
          <thead>
            <tr>
              <th scope="col">On its menu</th>
              <th scope="col">Set</th>
              <th scope="col">Sheet allows</th>
            </tr>
          </thead>
          <tbody>
            @for (s of settings(); track s.role) {
              <tr>
                <td>
                  <b>{{ s.label }}</b>&ngsp;<span>{{ s.role }}</span>
                </td>
                <td class="n">{{ s.value }}</td>
                <td class="n">{{ s.band }}</td>
              </tr>
            }
          </tbody>
        </table>
      </section>
    } @else {
      <section class="paper" aria-label="Yesterday’s log">
        <div class="sech"><span role="heading" aria-level="2">Yesterday’s log</span><small>from midnight to midnight</small></div>
        @if (log(); as l) {
          <ck-volts-line heading="Volts at the bank" [points]="l.points" [span]="[0, 1440]" />
          <ul>
            @for (c of l.chargers; track c.name) {
              <li>
                <b>{{ c.name }}</b>&ngsp;<span>{{ c.stages }}</span>
              </li>
            }
          </ul>
          <div class="sech"><span role="heading" aria-level="3">Judged by the sheet on the wall</span></div>
          <ul>
            @for (f of fails() ?? []; track $index) {
              <li>
                <ck-glyph name="stop" /> <b>{{ f.name }}</b>&ngsp;<span>{{ f.who }}. {{ f.why }}</span>
              </li>
            } @empty {
              <li>{{ fails() === null ? 'Judging it.' : 'Nothing in it fails. What it does not reach is not tested.' }}</li>
            }
          </ul>
        } @else {
          <p class="quiet">The logger was off yesterday.</p>
        }
      </section>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .paper {
      margin-top: 14px;
    }
    li ck-glyph {
      vertical-align: -3px;
    }
    td b,
    li b {
      margin-right: 6px;
    }
    td span {
      color: var(--ck-ink-2);
    }
    li {
      padding: 5px 0;
      border-top: 1px solid var(--ck-rule);
      font-size: 0.875rem;
      line-height: 1.4;
    }
  `,
})
export class BenchPapers {
  readonly paper = input.required<'sheet' | 'log'>();
  readonly device = input.required<string>();
  private readonly session = inject(BenchSession);
  private readonly units = inject(Units);
  private readonly work = inject(LogWork);

  private readonly wall = computed(() => this.session.now().bench?.wall() ?? null);
  protected readonly edition = computed(() => {
    const sheet = this.wall()?.input.sheet;
    return sheet ? `${sheet.maker} ${sheet.battery}, ${editionOf(sheet)}` : '';
  });
  protected readonly name = computed(() => this.session.bench()?.devices.find((d) => d.id === this.device())?.name ?? '');
  protected readonly compared = computed(() => (this.wall()?.input.system.chargers.find((c) => c.id === this.device())?.displayReadings.length ?? 0) > 0);
  protected readonly settings = computed(() => {
    const wall = this.wall();
    const card = this.session.bench()?.devices.find((d) => d.id === this.device())?.card;
    if (!wall || !card) return [];
    return wall.settings
      .filter((s) => s.charger === this.device())
      .map((s) => {
        const p = parameterFor(card, s.role);
        const value = s.inherited !== undefined ? 'from its leader' : s.value === null || !p ? 'leave as it is' : displayText(p, s.value);
        const [min, max] = [s.band?.min ?? null, s.band?.max ?? null];
        const { unit } = roleInfo[s.role];
        const written = (v: number): string =>
          unit === '°C' ? this.units.temperature(v, 1) : unit === 's' ? `${formatNumber(v / 60, 0)} min` : `${formatNumber(v, unit === 'V' ? 2 : 1)} ${unit}`;
        const band =
          min !== null && max !== null
            ? `${written(min)} to ${written(max)}`
            : max !== null
              ? `at most ${written(max)}`
              : min !== null
                ? `at least ${written(min)}`
                : '';
        return { role: roleInfo[s.role].name, label: s.label, value, band };
      });
  });

  /** The day before does not change while somebody is here: it is judged once for each sheet, beside the page. */
  protected readonly proof = resource({
    params: () => (this.paper() === 'log' ? (this.wall() ?? undefined) : undefined),
    loader: async ({ params }) => {
      const run = this.session.bench()?.yesterday();
      const day = run && logOfDay(run);
      return day ? this.work.api.judge(params.input, day.log, day.report, params.input.system.provingInstrument) : null;
    },
  });
  /** What does not hold in it, as Prove says it; null until it is judged. */
  protected readonly fails = computed(() => {
    const bench = this.session.bench();
    const proof = this.proof.hasValue() ? this.proof.value() : null;
    const name = (id: string | undefined): string => bench?.devices.find((d) => d.id === id)?.name ?? 'Bank';
    const failing = proof?.rows.filter((row) => row.verdict === 'fail');
    return failing?.map(({ requirement, why }) => ({ name: requirement.name, who: name(requirement.charger), why })) ?? null;
  });
  protected readonly log = computed(() => {
    const bench = this.session.bench();
    const run = bench?.yesterday();
    return run && bench ? drawn(run, (id) => bench.devices.find((d) => d.id === id)?.name ?? id) : null;
  });
}

/** A day of a logger: its volts by the minute, and each charger’s stages in words. */
function drawn(run: Run, name: (id: string) => string) {
  const start = run.time[0] ?? 0;
  const minute = (at: number): number => (at - start) / 60;
  return {
    points: Array.from(run.bankVolts, (v, i) => [minute(run.time[i] ?? start), v] as const),
    chargers: run.chargers.map((c) => ({
      name: name(c.id),
      stages:
        capital(
          c.spans
            .filter((s) => s.to - s.from >= shortestS && s.stage !== 'off')
            .slice(0, mostSpans)
            .map((s) => `${stageLook[s.stage].words} ${formatTimeOfDay(minute(s.from))}–${formatTimeOfDay(minute(s.to))}`)
            .join(', '),
        ) || 'Nothing all day',
    })),
  };
}
