import { jobSchema } from '@calm-keel/core/job';
import type { Explanation } from '@calm-keel/core/proof';
import { deriveSettings } from '@calm-keel/core/settings';
import { figureOnBank, statedFigure } from '@calm-keel/core/sheet';
import { draw, sampleCharger, sampleJob } from '../testing';
import { logFigure } from './figure';
import { lanesOf, type Marks } from './lanes';
import { LogPicture } from './log-picture';

const plan = deriveSettings(sampleJob());
const absorb = statedFigure(plan.input.sheet, 'absorbVoltage');
const most = (absorb && figureOnBank(absorb, plan.facts.shape).band.max) ?? NaN;
const start = 1_781_400_000;
const time = [start, start + 10.4, start + 20];
const none: Marks = { gaps: [], odd: [], chosenAt: null, evidence: null };
const reader = { offset: 0, width: 688, toShown: (c: number) => c };

/** The lanes of three samples of a bank, a quarter of a minute long or as long as is said. */
function lanes(volts: readonly number[], marks: Partial<Marks> = {}, seconds = 20, of: typeof reader | { offset: number | null } = reader) {
  const drawn = { volts: { time, value: [...volts] }, chargers: [] };
  return lanesOf(plan, { whole: drawn, stretch: drawn, window: { from: start, to: start + seconds } }, { ...reader, ...of }, { ...none, ...marks });
}
const plotted = (volts: readonly number[], offset: number | null) =>
  logFigure(lanes(volts, {}, 20, { offset }), offset, true, 400, '°C').data as readonly { name: string; x: readonly number[]; y: readonly number[] }[];

describe('the lanes of a log', () => {
  it('say what lies above the maximum, and nothing where nothing does', () => {
    expect(lanes([26, most, most + 0.005]).above).toBeNull();
    expect(lanes([26, most + 0.006, NaN]).above?.value.map((v) => Number.isNaN(v))).toEqual([true, false, true]);
  });

  it('have their figures at the edges of the maker’s bands, none over another', () => {
    const shown = lanes([26, 26, 26]).volts;
    expect(shown.figures.map((f) => f.value)).toContain(most);
    const [low, high] = shown.range;
    shown.figures.slice(1).forEach((f, i) => {
      expect((f.value - (shown.figures[i]?.value ?? NaN)) / (high - low)).toBeGreaterThanOrEqual(0.08);
    });
  });

  it('reach as far as the whole log, whatever stretch is in view', () => {
    const whole = { volts: { time, value: [20, 26, 40] }, chargers: [], battery: { time, value: [-20, 0, 45] } };
    const stretch = { volts: { time: [start], value: [26] }, chargers: [], battery: { time: [start], value: [0] } };
    const shown = lanesOf(plan, { whole, stretch, window: { from: start, to: start + 10 } }, reader, none);
    expect(shown.volts.range[0]).toBeLessThan(20);
    expect(shown.volts.range[1]).toBeGreaterThan(40);
    expect(shown.battery.range).toEqual([-23, 47]);
    expect(shown.trace.value).toEqual([26]);
  });

  it('show the bank’s current where no charger has its own, and tell several chargers apart', () => {
    const trace = { time, value: [0, 5, 10] };
    // One of the job’s own chargers, beside one that is not among them.
    const job = sampleJob();
    const withSolo = deriveSettings(jobSchema.parse({ ...job, system: { ...job.system, chargers: [sampleCharger({ id: 'solo', name: 'Solo' })] } }));
    const shown = (chargers: { id: string; amps: typeof trace }[]) => {
      const drawn = { volts: { time, value: [26, 26, 26] }, bankAmps: trace, chargers };
      return lanesOf(withSolo, { whole: drawn, stretch: drawn, window: { from: start, to: start + 20 } }, reader, none);
    };
    expect(shown([]).flows.map((f) => f.name)).toEqual(['Into the bank']);
    expect(shown([]).key).toBe('');
    const two = shown([
      { id: 'solo', amps: trace },
      { id: 'gone', amps: trace },
    ]);
    expect(two.key).toBe('solid Solo, dashed gone');
    expect(two.amps.range[1]).toBeCloseTo(14.5, 9);
    expect(shown([{ id: 'solo', amps: trace }]).amps.range[1]).toBeCloseTo(11, 9);
  });

  it('tell midnight by its day, and only where there are several', () => {
    // 1,781,400,000 is 14 June 2026, 01:20 in UTC.
    expect(lanes([26, 26, 26], {}, 3 * 86_400).times.map((t) => t.words)).toContain('15 Jun');
    expect(
      lanes([26, 26, 26], {}, 3 * 86_400, { offset: 120 })
        .times.map((t) => ({ ...t, clock: (t.value + 7200) % 86_400 }))
        .filter((t) => t.words.includes('Jun'))
        .every((t) => t.clock === 0),
    ).toBeTrue();
    const day = lanes([26, 26, 26], {}, 86_400).times.map((t) => t.words);
    expect(day).toContain('00:00');
    expect(day.some((w) => w.includes('Jun'))).toBeFalse();
  });
});

describe('the plot of a log', () => {
  it('has its times on the log’s own clock, in thousandths of a second', () => {
    expect(plotted([26, 26, 26], 120)[0]?.x).toEqual([1_781_407_200_000, 1_781_407_210_400, 1_781_407_220_000]);
    expect(plotted([26, 26, 26], null)[0]?.x[0]).toBe(1_781_400_000_000);
  });

  it('draws over again what lies above the maximum', () => {
    expect(plotted([26, most, most], 0).map((t) => t.name)).not.toContain('Above the maximum');
    expect(plotted([26, most + 1, 26], 0).find((t) => t.name === 'Above the maximum')?.y[1]).toBe(most + 1);
  });
});

describe('the picture of a log', () => {
  const picture = (of = lanes([26, most + 1, 26])) => draw(LogPicture, { lanes: of, width: 688, height: 332 });

  it('draws the trace, what lies above the maximum, and each lane’s figures', () => {
    const { host } = picture();
    const paths = [...host.querySelectorAll('g[clip-path="url(#lane-volts)"] path[stroke="var(--ck-ink)"]')].map((p) => p.getAttribute('d') ?? '');
    // From the left margin to the right one: the moments are 0, 10.4 and 20 s of 20.
    expect(paths[0]).toMatch(/^M84,[\d.]+L396,[\d.]+L684,[\d.]+$/);
    expect(host.querySelectorAll('path[stroke="var(--ck-stop)"]').length).toBe(1);
    expect(host.textContent).toContain(most.toFixed(1));
    expect(host.textContent).toContain('Absorb band');
  });

  it('marks what is odd, gaps, evidence and the chosen moment, and only those in view', () => {
    const odd = { at: start + 10, title: 'The bank was off', kind: 'odd' } as Explanation;
    const marked = { gaps: [{ from: start + 5, to: start + 10 }], odd: [odd], chosenAt: start + 15, evidence: { from: start + 2, to: start + 4 } };
    const { host } = picture(lanes([26, 26, 26], marked));
    expect(host.querySelector('title')?.textContent).toBe('The bank was off');
    // 5 to 10 of 20 s on 600 px.
    expect(host.querySelector('rect[fill="var(--ck-rule-strong)"]')?.getAttribute('x')).toBe('234');
    expect(host.querySelector('rect[fill="var(--ck-rule-strong)"]')?.getAttribute('width')).toBe('150');
    expect(host.querySelector('rect[stroke="var(--ck-copper)"]')?.getAttribute('x')).toBe('144');
    expect(host.querySelector('path[stroke="var(--ck-copper)"]')?.getAttribute('d')).toBe('M534 6V306');
    const before = {
      gaps: [{ from: start - 9, to: start - 5 }],
      odd: [{ ...odd, at: start - 1 }],
      chosenAt: start - 1,
      evidence: { from: start - 9, to: start - 1 },
    };
    const beside = picture(lanes([26, 26, 26], before));
    expect(beside.host.querySelector('title, rect[fill="var(--ck-rule-strong)"], [stroke="var(--ck-copper)"]')).toBeNull();
  });

  it('gives the moment that was pressed, and none beside the lanes', () => {
    const { fixture, host } = picture();
    const pressed: number[] = [];
    fixture.componentInstance.pressed.subscribe((at) => pressed.push(at));
    const svg = host.querySelector('svg');
    const edge = svg?.getBoundingClientRect().left ?? 0;
    svg?.dispatchEvent(new MouseEvent('click', { clientX: edge + 84 + 150, bubbles: true }));
    svg?.dispatchEvent(new MouseEvent('click', { clientX: edge + 40, bubbles: true }));
    expect(pressed).toEqual([start + 5]);
  });
});
