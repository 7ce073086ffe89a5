import { TestBed } from '@angular/core/testing';
import type { Job } from '@calm-keel/core/job';
import { formatMoment } from '@calm-keel/core/quantity';
import { rehearse, scenarioNamed, variantValues, withNudges, type Rehearsal, type Scenario } from '@calm-keel/core/rehearsal';
import { deriveSettings, type Plan } from '@calm-keel/core/settings';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { firstRehearsal } from '../data/rehearse-work';
import type { Database } from '../data/database';
import { sampleCard, sampleJob, setUp, tearDown, until, voltParameter } from '../testing';
import { DaySentence } from './day-sentence';
import { layoutDay, spanAt, valueAt, type DayLayout } from './day-layout';
import { DayPlot } from './day-plot';
import { viewOf, type RunView } from '../workers/run-view';
import { svgText } from '../ui/svg-text';
import { TryPanel } from './try-panel';

const card = sampleCard({
  id: 'plain',
  kind: 'solarMppt',
  ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 150, chemistries: ['lfp'] },
  parameters: [
    ...['absorbVoltage', 'floatVoltage', 'rechargeVoltage'].map((role) => voltParameter(role)),
    { role: 'absorbTime', label: 'time', menu: [], unit: 'min', min: 0, max: 300, step: 10 },
  ],
});
const engine = sampleCard({
  id: 'engine',
  kind: 'alternator',
  ratings: { outputA: 60, systemVolts: [24], chemistries: ['lfp'] },
  parameters: ['bulkVoltage', 'absorbVoltage', 'floatVoltage'].map((role) => voltParameter(role)),
});

function sunny(): Job {
  const job = sampleJob();
  const charger = (id: string, name: string, of: string) => ({
    id,
    name,
    card: of,
    sensor: { fitted: false, place: 'air' as const, errorC: 1, offsetC: 0, lagSeconds: 0, warmLeadC: 0 },
    displayReadings: [],
    present: { absorbVoltage: 28.8, floatVoltage: 27.6, absorbTime: 60 },
    passcodeChanged: true,
  });
  const panel = { name: '', watts: 310, vocV: 40, vmpV: 33, iscA: 10, impA: 9.4, vocPercentPerC: -0.3, bypassDiodes: 3 };
  return {
    ...job,
    cards: [card, engine],
    system: {
      ...job.system,
      site: { ...job.system.site, latitude: 50 },
      loads: { minA: 1, maxA: 5 },
      chargers: [
        { ...charger('sun', 'Roof', 'plain'), array: { panel, inSeries: 2, inParallel: 2, tilt: 20, azimuth: 180, shaded: 0, shadeLight: 0.1 } },
        charger('engine', 'Engine', 'engine'),
      ],
    },
  };
}

const plan = deriveSettings(sunny());
function shown(which: 'asSet' | 'asFound', change: Partial<Scenario> = {}, on: Plan = plan): RunView {
  const scenario = { ...scenarioNamed(on, 'clear-day')!, charge: 0.8, ...change };
  const run = rehearse({ plan: on, scenario, values: variantValues(on, which) });
  if (!run.ok) throw new Error(run.problems[0]?.text);
  return viewOf(on, run.value);
}
const celsius = { label: '°C', toShown: (c: number) => c };
const lay = (a: RunView, b: RunView | null, width = 740, phone = false): DayLayout => layoutDay(plan, a, b, width, phone, 'sun', celsius);

describe('the rehearsed day, laid out', () => {
  const a = shown('asSet');
  const b = shown('asFound');

  it('stacks its lanes without touching, on any width', () => {
    for (const width of [320, 390, 740, 1400]) {
      const d = lay(a, b, width, width < 500);
      const boxes = [
        [d.volts.top, d.volts.top + d.volts.height],
        ...d.chargers.map((c) => [c.top, c.foot + (c.idle ? 0 : c.id === 'sun' ? 36 : 26)]),
        ...d.lanes.map((l) => [l.top, l.top + l.height]),
        [d.time.top, d.time.top + 24],
      ];
      boxes.slice(1).forEach(([top], i) => {
        expect(top!)
          .withContext(`${width} px, lane ${i + 1}`)
          .toBeGreaterThanOrEqual(boxes[i]![1]! - 0.5);
      });
      expect(d.height).toBeGreaterThan(d.time.top + 24);
      for (const tick of d.time.ticks) expect(tick.at).toBeLessThan(width);
    }
  });

  it('finds a moment by its place and a place by its moment', () => {
    const d = lay(a, null);
    for (const part of [0, 0.25, 0.9, 1]) {
      const t = a.from + (a.to - a.from) * part;
      expect(d.at(d.x(t))).toBeCloseTo(t, 3);
    }
    expect(d.at(-50)).toBe(a.from);
    expect(d.at(9999)).toBe(a.to);
  });

  it('puts the maker’s bands where their volts are, the higher one higher', () => {
    const d = lay(a, null);
    expect(d.volts.bands.map((x) => x.kind)).toEqual(['absorb', 'float', 'recharge']);
    const [absorb, float, recharge] = d.volts.bands;
    expect(absorb!.y + absorb!.height).toBeLessThan(float!.y);
    expect(float!.y + float!.height).toBeLessThan(recharge!.y);
    expect(d.volts.ticks[0]!.words).toBe('28.4');
  });

  it('draws what leaves the band anew, on the variant that leaves it', () => {
    const d = lay(a, b);
    expect(d.volts.over).toBe('');
    expect(d.volts.overGhost).not.toBe('');
    expect(lay(b, null).volts.over).not.toBe('');
    expect(lay(a, null).volts.ghost).toBe('');
  });

  it('covers a charger’s day with its ribbon and says of a source without power that it is off', () => {
    const d = lay(a, b);
    const [sun, idle] = d.chargers;
    expect(sun!.ribbon.map((s) => s.letter)).toEqual(jasmine.arrayContaining(['B', 'A', 'F']));
    expect(sun!.ribbon[0]!.label).toMatch(/^bulk from \d\d:\d\d to \d\d:\d\d$/);
    expect(idle!.idle).toContain('off');
    expect(idle!.ribbon).toEqual([]);
    const running = shown('asSet', { engine: { fromHour: 9, hours: 1, output: 0.5 } });
    expect(layoutDay(plan, running, null, 740, false, 'sun', celsius).chargers[1]!.idle).toBeNull();
  });

  it('marks hours on a day, days on a week, months on a year', () => {
    const words = (days: number) => lay({ ...a, to: a.from + days * 86_400 }, null).time.ticks[0]!.words;
    expect(words(1)).toMatch(/^\d\d:00$/);
    expect(words(7)).toMatch(/^[A-Z][a-z]{2} \d+$/);
    expect(words(365)).toMatch(/^\d+ [A-Z][a-z]{2}$/);
    expect(formatMoment(0, true)).toBe('1 Jan 00:00');
  });

  it('reads a trace and a stage at a moment', () => {
    expect(valueAt({ time: [0, 10, 20], value: [1, 2, 3] }, 15)).toBe(2);
    expect(valueAt({ time: [0, 10, 20], value: [1, 2, 3] }, 99)).toBe(3);
    const spans = [
      { stage: 'bulk', cause: 'start', from: 0, to: 10, counted: 0 },
      { stage: 'float', cause: 'time', from: 10, to: 20, counted: 0 },
    ] as const;
    expect(spanAt(spans, 4)?.stage).toBe('bulk');
    expect(spanAt(spans, 10)?.stage).toBe('float');
    expect(spanAt(spans, 40)?.stage).toBe('float');
  });

  it('tells a run in numbers: every event a sentence, both ends of the voltage on a long run', () => {
    for (const e of a.events) expect(e.text).toMatch(/\.$/);
    const week = shown('asSet', { days: 3 });
    expect(Math.max(...week.volts.value)).toBeCloseTo(week.totals.highest, 2);
    expect(week.volts.time.length).toBeLessThan(6600);
  });
});

describe('the drawing', () => {
  it('is a slider that reads out its moment, and a document of its own', () => {
    setUp();
    const fixture = TestBed.createComponent(DayPlot);
    const a = shown('asSet');
    for (const [name, value] of Object.entries({ plan, a, b: null, width: 740, charger: 'sun', cursor: a.from + 8 * 3600 }))
      fixture.componentRef.setInput(name, value);
    fixture.detectChanges();
    const svg = (fixture.nativeElement as HTMLElement).querySelector('svg')!;
    expect(svg.getAttribute('aria-valuetext')).toMatch(/^At 12:00 the bank is at 2\d\.\d\d.V\. Roof /);
    const moved: number[] = [];
    fixture.componentInstance.moved.subscribe((t) => moved.push(t));
    for (const key of ['Home', 'End', 'PageDown', 'x']) svg.dispatchEvent(new KeyboardEvent('keydown', { key }));
    expect(moved.slice(0, 2)).toEqual([a.from, a.to]);
    expect(a.events.map((e) => e.at)).toContain(moved[2]!);
    expect(moved.length).toBe(3);
    const document = new DOMParser().parseFromString(svgText(svg), 'image/svg+xml');
    expect(document.querySelector('parsererror')).toBeNull();
    expect(document.documentElement.getAttribute('role')).toBeNull();
    fixture.destroy();
  });
});

describe('choosing the day', () => {
  let db: Database;
  let store: JobStore;
  beforeEach(async () => {
    db = setUp();
    const id = await TestBed.inject(JobBook).add(sunny(), 'New', []);
    store = TestBed.inject(JobStore);
    store.open(id);
    await until(() => store.state() === 'ready', 'the job is there');
  });
  afterEach(async () => {
    await tearDown(db);
  });
  const kept = (): Rehearsal | null => store.job()?.rehearsal ?? null;

  it('keeps what is chosen with the job: another day, its month, what it is compared with', () => {
    const fixture = TestBed.createComponent(DaySentence);
    fixture.componentRef.setInput('plan', plan);
    fixture.componentRef.setInput('rehearsal', firstRehearsal(plan));
    fixture.detectChanges();
    const element = fixture.nativeElement as HTMLElement;
    const pick = (label: string, value: string): void => {
      const field = element.querySelector<HTMLSelectElement>(`select[aria-label="${label}"]`)!;
      field.value = value;
      field.dispatchEvent(new Event('change'));
    };
    expect(kept()).toBeNull();
    pick('Kind of day', 'freezing-dawn');
    expect(kept()?.scenario.name).toBe('freezing-dawn');
    fixture.componentRef.setInput('rehearsal', kept());
    fixture.detectChanges();
    pick('Month', '3');
    expect(kept()?.scenario.month).toBe(3);
    pick('Engine from', '9');
    expect(kept()?.scenario.engine).toEqual({ fromHour: 9, hours: 2, output: 0.7 });
    pick('Compare with', 'factory');
    expect(kept()?.against).toBe('factory');
    fixture.destroy();
  });

  it('tries a device step, compares it with what stands, and lets it go', () => {
    const fixture = TestBed.createComponent(TryPanel);
    const set = (rehearsal: Rehearsal): void => {
      fixture.componentRef.setInput('plan', plan);
      fixture.componentRef.setInput('rehearsal', rehearsal);
      fixture.componentRef.setInput('charger', 'sun');
      fixture.detectChanges();
    };
    set(firstRehearsal(plan));
    const element = fixture.nativeElement as HTMLElement;
    element.querySelector<HTMLButtonElement>('button[aria-label="One device step up"]')!.click();
    expect(kept()?.nudges).toEqual([{ charger: 'sun', role: 'absorbVoltage', value: 28.3 }]);
    expect(kept()?.against).toBe('asSet');
    set(kept()!);
    expect(element.textContent).toContain('Instead of 28.2 V');
    expect(withNudges(variantValues(plan, 'asSet'), kept()!.nudges)['sun']?.absorbVoltage).toBe(28.3);
    element.querySelector<HTMLButtonElement>('button[aria-label="One device step down"]')!.click();
    expect(kept()?.nudges).toEqual([]);
    expect(kept()?.against).toBe('asFound');
    fixture.destroy();
  });
});
