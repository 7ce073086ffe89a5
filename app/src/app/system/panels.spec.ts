import { Component, ChangeDetectionStrategy, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Card } from '@calm-keel/core/card';
import type { Job } from '@calm-keel/core/job';
import type { Charger, Companion } from '@calm-keel/core/system';
import type { JobStore } from '../data/job-store';
import { openStore, sampleCard, sampleJob } from '../testing';
import { ArrayPanel } from './array-panel';
import { CompanionPanel } from './companion-panel';

@Component({ selector: 'ck-none', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
class None {}

const solar: Card = sampleCard({
  id: 'sun',
  model: 'S1',
  kind: 'solarMppt',
  ratings: { outputA: 40, systemVolts: [24], arrayVoltsMax: 100, arrayAmpsMax: 30, chemistries: ['lfp'] },
  parameters: [{ role: 'absorbVoltage', label: 'High', menu: [], unit: 'V', min: 20, max: 32, step: 0.1 }],
});
const monitor: Card = sampleCard({
  id: 'shunt',
  model: 'M9',
  kind: 'monitor',
  ratings: { outputA: 0, systemVolts: [24], chemistries: ['lfp'] },
  parameters: [
    { role: 'capacity', label: 'Ah', menu: [], unit: 'Ah', min: 10, max: 2000, step: 5 },
    {
      role: 'loadMode',
      label: 'Relay',
      menu: [],
      unit: 'choice',
      options: [
        { value: 'loads', means: 'on' },
        { value: 'none', means: 'off' },
      ],
    },
  ],
});
const charger: Charger = {
  id: 'roof',
  name: 'Roof',
  card: 'sun',
  sensor: { fitted: false, place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 60, warmLeadC: 1 },
  displayReadings: [],
  present: {},
  passcodeChanged: true,
};
const companion: Companion = { id: 'mon', name: 'Monitor', card: 'shunt', present: {}, switches: [] };

function job(): Job {
  const base = sampleJob();
  return {
    ...base,
    cards: [solar, monitor],
    system: { ...base.system, site: { ...base.system.site, recordLowC: -15, recordHighC: 35 }, chargers: [charger], companions: [companion] },
  };
}

async function open<T>(panel: Type<T>): Promise<{ fixture: ComponentFixture<T>; host: HTMLElement; store: JobStore }> {
  const store = await openStore(job(), [provideRouter([{ path: '**', component: None }])]);
  const fixture = TestBed.createComponent(panel);
  return { fixture, host: fixture.nativeElement as HTMLElement, store };
}
function field(host: HTMLElement, label: string): HTMLInputElement {
  const found = [...host.querySelectorAll('label')].find((l) => l.textContent.trim().startsWith(label));
  const input = found && (found.htmlFor ? host.querySelector<HTMLInputElement>(`#${CSS.escape(found.htmlFor)}`) : found.querySelector('input'));
  if (!input) throw new Error(`no field “${label}”`);
  return input;
}

describe('the array panel', () => {
  const show = (f: ComponentFixture<ArrayPanel>, store: JobStore): void => {
    f.componentRef.setInput('charger', store.job()!.system.chargers[0]!);
    f.detectChanges();
  };
  const type = (f: ComponentFixture<ArrayPanel>, store: JobStore, host: HTMLElement, label: string, text: string): void => {
    const input = field(host, label);
    input.value = text;
    input.dispatchEvent(new Event('input'));
    show(f, store);
  };

  const press = (f: ComponentFixture<ArrayPanel>, store: JobStore, host: HTMLElement, name: string): void => {
    const button = [...host.querySelectorAll('button')].find((b) => b.textContent.trim() === name);
    expect(button).withContext(name).toBeDefined();
    button?.click();
    show(f, store);
  };
  /** A label of 400 W, one panel, typed field by field. */
  const enterArray = (f: ComponentFixture<ArrayPanel>, store: JobStore, host: HTMLElement, vmp = '31'): void => {
    press(f, store, host, 'Enter the array');
    const texts: readonly (readonly [string, string])[] = [
      ['Power', '400'],
      ['Open circuit', '37'],
      ['Working volts', vmp],
      ['Short circuit', '13.8'],
      ['Working amps', '12.9'],
      ['Bypass diodes', '3'],
      ['In series', '1'],
      ['Strings side by side', '1'],
      ['Tilt', '30'],
      ['Looks to, from north', '180'],
    ];
    for (const [label, text] of texts) type(f, store, host, label, text);
    press(f, store, host, 'Save the array');
  };

  it('says what cannot be checked without an array, and makes up no panel: it is there when everything on its label was typed', async () => {
    const { fixture, host, store } = await open(ArrayPanel);
    show(fixture, store);
    expect(host.textContent).toContain('No array entered');
    press(fixture, store, host, 'Enter the array');
    expect(store.job()?.system.chargers[0]?.array).toBeUndefined();
    expect(host.textContent).toContain('10 figures are still to be typed');
    type(fixture, store, host, 'Power', '400');
    expect(host.textContent).toContain('9 figures are still to be typed');
    press(fixture, store, host, 'Save the array');
    expect(store.job()?.system.chargers[0]?.array).toBeUndefined();
    press(fixture, store, host, 'Discard');
    enterArray(fixture, store, host);
    expect(store.job()?.system.chargers[0]?.array).toEqual({
      panel: { name: '', watts: 400, vocV: 37, vmpV: 31, iscA: 13.8, impA: 12.9, bypassDiodes: 3 },
      inSeries: 1,
      inParallel: 1,
      tilt: 30,
      azimuth: 180,
      shaded: 0,
      shadeLight: 0.1,
    });
    expect(host.querySelectorAll('.checks tr').length).toBe(4);
  });

  it('says at once where a new label cannot be, and holds what was typed', async () => {
    const { fixture, host, store } = await open(ArrayPanel);
    show(fixture, store);
    enterArray(fixture, store, host, '40');
    expect(store.job()?.system.chargers[0]?.array).toBeUndefined();
    expect(host.querySelector('.wrong')?.textContent).toContain('must lie below the open-circuit voltage');
    expect(field(host, 'Working volts').value).toBe('40');
    type(fixture, store, host, 'Working volts', '31');
    press(fixture, store, host, 'Save the array');
    expect(store.job()?.system.chargers[0]?.array?.panel.vmpV).toBe(31);
  });

  it('works out the cold volts by table, then by the coefficient, and turns to a stop past the input', async () => {
    const { fixture, host, store } = await open(ArrayPanel);
    show(fixture, store);
    enterArray(fixture, store, host);
    const row = (): string => (host.querySelector('.checks tr')?.textContent ?? '').replace(/\s+/g, ' ');
    // 37 V × 1.16 = 42.9 V by the table at −15 °C.
    expect(row()).toContain('42.9 V');
    expect(row()).toContain('cold-factor table');
    type(fixture, store, host, 'Open circuit, change', '-0.25');
    // 37 V × (1 + 0.0025 × 40) = 40.7 V.
    expect(row()).toContain('40.7 V');
    type(fixture, store, host, 'In series', '3');
    expect(row()).toContain('122.1 V');
    expect(host.querySelector('.checks .t-stop')).not.toBeNull();
    expect(store.findings().some((f) => f.code === 'arrayTooHigh')).toBeTrue();
  });

  it('compares the layouts of the same panels, the unfit one marked', async () => {
    const { fixture, host, store } = await open(ArrayPanel);
    show(fixture, store);
    enterArray(fixture, store, host);
    type(fixture, store, host, 'In series', '2');
    type(fixture, store, host, 'Strings side by side', '2');
    const names = [...host.querySelectorAll('.compare tr th[scope=row]')].map((th) => th.textContent.trim());
    expect(names).toEqual(['In series', 'Side by side', 'As built, 2s2p', 'A charger for each string']);
    expect(host.querySelector('.compare tr.off')?.textContent).toContain('does not fit');
    expect(host.querySelectorAll('figure path[fill=none]').length).toBeGreaterThanOrEqual(4);
  });

  it('keeps an impossible label as typed, with the reason', async () => {
    const { fixture, host, store } = await open(ArrayPanel);
    show(fixture, store);
    enterArray(fixture, store, host);
    type(fixture, store, host, 'Working volts', '40');
    expect(host.querySelector('.wrong')?.textContent).toContain('must lie below the open-circuit voltage');
    expect(store.job()?.system.chargers[0]?.array?.panel.vmpV).toBe(31);
  });
});

describe('the companion panel', () => {
  const show = (f: ComponentFixture<CompanionPanel>, store: JobStore): void => {
    f.componentRef.setInput('companion', store.job()!.system.companions[0]!);
    f.detectChanges();
  };

  it('notes what it switches and what was found on it', async () => {
    const { fixture, host, store } = await open(CompanionPanel);
    show(fixture, store);
    field(host, 'Roof').click();
    expect(store.job()?.system.companions[0]?.switches).toEqual(['roof']);
    show(fixture, store);
    const ah = field(host, 'Ah');
    ah.value = '460';
    ah.dispatchEvent(new Event('input'));
    show(fixture, store);
    expect(store.job()?.system.companions[0]?.present.capacity).toBe(460);
    const relay = host.querySelector<HTMLSelectElement>('select')!;
    relay.value = 'loads';
    relay.dispatchEvent(new Event('change'));
    show(fixture, store);
    expect(store.job()?.system.companions[0]?.present.loadMode).toBe('loads');
    field(host, 'Roof').click();
    expect(store.job()?.system.companions[0]?.switches).toEqual([]);
  });

  it('goes with its card when it is taken out', async () => {
    const { fixture, host, store } = await open(CompanionPanel);
    show(fixture, store);
    [...host.querySelectorAll<HTMLButtonElement>('button')].find((b) => b.textContent.includes('Remove this companion'))?.click();
    expect(store.job()?.system.companions).toEqual([]);
    expect(store.job()?.cards.map((c) => c.id)).toEqual(['sun']);
  });
});
