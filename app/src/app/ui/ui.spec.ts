import type { ComponentRef, Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { stepsToKey } from '@calm-keel/core/edits';
import { findFindings, type Finding } from '@calm-keel/core/findings';
import { newJob } from '@calm-keel/core/job';
import { deriveSettings, type Step } from '@calm-keel/core/settings';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { Units } from '../data/units';
import { stationOf, stationsOf } from '../data/stations';
import { sampleJob, setUp, tearDown, until } from '../testing';
import { BandLine } from './band-line';
import { Derivation } from './derivation';
import { FindingsList } from './findings-list';
import { KeelLine } from './keel-line';

function make<T>(component: Type<T>, inputs: Record<string, unknown>): ComponentFixture<T> {
  const fixture = TestBed.createComponent(component);
  const ref: ComponentRef<T> = fixture.componentRef;
  for (const [key, value] of Object.entries(inputs)) ref.setInput(key, value);
  fixture.detectChanges();
  return fixture;
}
const element = (fixture: ComponentFixture<unknown>): HTMLElement => fixture.nativeElement as HTMLElement;
const words = (node: Element | null | undefined): string => (node?.textContent ?? '').replace(/\s+/g, ' ').trim();

describe('a worked sum', () => {
  const steps: Step[] = [
    { kind: 'start', words: 'Sheet', value: 0, unit: '°C', digits: 1, source: 'Sheet, p. 5' },
    { kind: 'change', words: 'Sensor error', value: 0.5, unit: '°C', digits: 1, source: 'Sheet, p. 5' },
    { kind: 'result', words: '× 8 cells in series', value: 28, unit: 'V', digits: 2 },
    { kind: 'change', words: 'Device step', value: -0.01, unit: 'V', digits: 2 },
    { kind: 'note', words: 'Only words.' },
    { kind: 'after', words: 'At the terminals', value: 28.09, unit: 'V', digits: 2, uncertainty: 0.066 },
  ];

  beforeEach(() => {
    setUp();
    TestBed.inject(Units).scale.set('C');
  });

  it('prints one operation a line: signs on what is added, none on what is multiplied, ± at the end, each source once', () => {
    const host = element(make(Derivation, { steps }));
    expect([...host.querySelectorAll('tr')].map((tr) => words(tr))).toEqual([
      'Sheet 0.0°C',
      'Sensor error +0.5°C',
      '× 8 cells in series 28.00V',
      'Device step −0.01V',
      'Only words.',
      'At the terminals 28.09 ± 0.07V',
    ]);
    expect(host.querySelectorAll('p').length).toBe(1);
  });

  it('shows readings and differences of temperature on the person’s scale', () => {
    TestBed.inject(Units).scale.set('F');
    const host = element(make(Derivation, { steps: steps.slice(0, 2) }));
    expect([...host.querySelectorAll('tr')].map((tr) => words(tr))).toEqual(['Sheet 32.0°F', 'Sensor error +0.9°F']);
  });
});

describe('a value on its number line', () => {
  const at = (host: HTMLElement, selector: string): number[] =>
    [...host.querySelectorAll(selector)].map((p) => Number(/M([\d.]+)/.exec(p.getAttribute('d') ?? '')?.[1]));

  it('stands inside its band when it is inside, and past the edge when it is not', () => {
    setUp();
    const inside = element(make(BandLine, { value: 28.1, uncertainty: 0.03, band: { min: 28, max: 28.4 } }));
    const [low, high, value] = [...at(inside, 'path[stroke-width="1.5"]'), ...at(inside, 'path[stroke-width="3"]')];
    expect(low! < value! && value! < high!).toBeTrue();
    const outside = element(make(BandLine, { value: 28.6, band: { min: 28, max: 28.4 } }));
    expect(at(outside, 'path[stroke-width="3"]')[0]).toBeGreaterThan(at(outside, 'path[stroke-width="1.5"]')[1]!);
  });

  it('leaves an open end open, and draws nothing without a band', () => {
    setUp();
    const host = element(make(BandLine, { value: -2, uncertainty: 0.6, band: { min: 0 } }));
    expect(at(host, 'path[stroke-width="1.5"]').length).toBe(1);
    expect(element(make(BandLine, { value: 1, band: {} })).querySelector('svg')).toBeNull();
  });
});

describe('stations and the keel', () => {
  const stations = (job = sampleJob(), standing: Parameters<typeof stationsOf>[3] = null, rehearsed: Parameters<typeof stationsOf>[4] = null) => {
    const plan = deriveSettings(job);
    return stationsOf(job, plan, findFindings(plan, '2026-06-09'), standing, rehearsed, stepsToKey(plan));
  };

  it('say "not yet" of what is empty and never "done" of it', () => {
    const empty = stations(newJob('x', 'X', '2026-01-01T00:00:00Z'));
    expect(empty.map((s) => s.words)).toEqual(['not yet', 'not yet', 'not yet', 'not yet', 'not yet', 'not yet', 'not yet']);
    expect(stations().find((s) => s.path === 'spec')?.words).toBe('done');
  });

  it('say of Prove what the verdicts say, and "proved" only when all of them do', () => {
    const prove = (pass: number, fail: number, inconclusive: number, notTested: number) => {
      const s = stations(sampleJob(), { pass, fail, inconclusive, notTested, stated: 0 }).find((x) => x.path === 'prove');
      return [s?.state, s?.words];
    };
    expect(prove(5, 1, 0, 2)).toEqual(['stop', '1 fails']);
    expect(prove(5, 0, 1, 2)).toEqual(['inconclusive', '5 of 8 proved']);
    expect(prove(5, 0, 0, 2)).toEqual(['notyet', '5 of 7 proved']);
    expect(prove(7, 0, 0, 0)).toEqual(['proved', 'proved']);
  });

  it('say of Rehearse what the day came to, and never "proved"', () => {
    const rehearse = (breaks: number, holds: number) => {
      const s = stations(sampleJob(), null, { breaks, holds }).find((x) => x.path === 'rehearse');
      return [s?.state, s?.words];
    };
    expect(rehearse(0, 6)).toEqual(['done', 'holds']);
    expect(rehearse(1, 6)).toEqual(['attention', '1 breaks']);
    expect(rehearse(3, 0)).toEqual(['attention', '3 break']);
    expect(rehearse(0, 0)).toEqual(['inconclusive', 'cannot tell']);
  });

  it('say of Hand over whether the last visit was closed, and whether anything was done since', () => {
    const visit = { id: 'v', date: '2026-06-09', by: 'KM', purpose: '', note: '', photos: [], closed: null };
    const closed = {
      at: '2026-06-09T12:00:00.000Z',
      sheet: { id: 's', battery: 'B', document: 'D', revision: '1', date: '2026-01' },
      schools: {},
      targets: {},
      present: {},
      verdicts: { pass: 1, fail: 0, inconclusive: 0, notTested: 0, stated: 0 },
      open: [],
    };
    const shot = (at: string) => ({ device: 'a', at, date: at.slice(0, 10), by: '', way: 'display' as const, verified: 'readOff' as const, values: {} });
    const over = (patch: Partial<ReturnType<typeof sampleJob>>) => {
      const s = stations({ ...sampleJob(), ...patch }).at(-1);
      return [s?.state, s?.words];
    };
    expect(over({})).toEqual(['notyet', 'not yet']);
    expect(over({ visits: [visit] })).toEqual(['notyet', 'visit open']);
    expect(over({ visits: [{ ...visit, closed }] })).toEqual(['proved', 'handed over']);
    expect(over({ visits: [{ ...visit, closed }], snapshots: [shot('2026-06-09T11:00:00.000Z')] })).toEqual(['proved', 'handed over']);
    expect(over({ visits: [{ ...visit, closed }], snapshots: [shot('2026-06-10T08:00:00.000Z')] })).toEqual(['notyet', 'work since then']);
  });

  it('send every finding to the station where it is dealt with', () => {
    const at = (code: string) => stationOf({ code } as Finding);
    expect([at('basisSuspicious'), at('coldProtection'), at('presentOutsideBand')]).toEqual(['spec', 'system', 'settings']);
  });

  it('draw a hull that is deep where work is done and a line where it has not begun', () => {
    setUp();
    const host = element(make(KeelLine, { stations: stations(), places: [34, 241, 447, 654, 861, 1068], width: 1280 }));
    const depth = new Map([...(host.querySelector('path')?.getAttribute('d') ?? '').matchAll(/L(\d+) ([\d.]+)/g)].map((m) => [Number(m[1]), Number(m[2]) - 6]));
    const near = (x: number): number => depth.get([...depth.keys()].reduce((a, b) => (Math.abs(b - x) < Math.abs(a - x) ? b : a))) ?? 0;
    expect(near(60)).toBeCloseTo(11, 0);
    expect(near(1000)).toBeCloseTo(1, 0);
  });
});

describe('the list of findings', () => {
  it('opens the first two, tells what each can hurt, and a remedy changes the job', async () => {
    const db = setUp();
    const store = TestBed.inject(JobStore);
    const job = sampleJob();
    const wrong = {
      ...job,
      sheet: { ...job.sheet, figures: { ...job.sheet.figures, absorbVoltage: { ...job.sheet.figures.absorbVoltage!, basis: 'cell' as const } } },
    };
    store.open(await TestBed.inject(JobBook).add(wrong, 'New'));
    await until(() => store.state() === 'ready', 'the job is there');
    const fixture = make(FindingsList, { station: 'spec' });
    const host = element(fixture);
    expect(words(host.querySelector('.fd'))).toContain('Absorb voltage comes to');
    expect(host.querySelectorAll('[aria-expanded=true]').length).toBe(Math.min(2, store.findings().length));
    const remedy = [...host.querySelectorAll<HTMLButtonElement>('.do')].find((b) => words(b) === 'Read it per battery');
    remedy?.click();
    expect(store.job()?.sheet.figures.absorbVoltage?.basis).toBe('unit');
    fixture.detectChanges();
    expect(words(host)).not.toContain('Absorb voltage comes to');
    await until(() => store.save().kind === 'saved', 'it is saved');
    const first = host.querySelector<HTMLButtonElement>('h3 button');
    first?.click();
    fixture.detectChanges();
    if (first) expect(first.getAttribute('aria-expanded')).toBe('false');
    await tearDown(db);
  });
});
