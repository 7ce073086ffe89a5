import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import type { Type } from '@angular/core';
import { provideRouter } from '@angular/router';
import { cardSchema } from '@calm-keel/core/card';
import { jobSchema, type Job } from '@calm-keel/core/job';
import { usualSensor } from '@calm-keel/core/system';
import type { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { DetailFields } from '../system/detail-fields';
import { details, entered, valueAt, withValue } from '../system/detail-list';
import { FindingsList } from '../ui/findings-list';
import { openStore, sampleCard, sampleCharger, sampleJob, until, voltParameter } from '../testing';
import { ProgramPage } from '../program/program-page';
import { DifferenceTable } from './difference-table';
import { RelayView } from './relay-view';
import { SchoolsPanel } from './schools-panel';
import { SettingInspector } from './setting-inspector';
import { SettingsTable } from './settings-table';
import { TemperatureView } from './temperature-view';

const charger = sampleCard({
  id: 'plain',
  kind: 'solarMppt',
  ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 100, chemistries: ['lfp', 'agm'] },
  parameters: [
    voltParameter('absorbVoltage'),
    { ...voltParameter('floatVoltage'), factory: 27.6 },
    { role: 'compensationSlope', label: 'Slope', menu: [], unit: 'mV/°C/cell', min: -8, max: 0, step: 1, special: [{ value: 0, means: 'off' }] },
    { role: 'lowTempCutoff', label: 'Cold', menu: [], unit: '°C', min: -20, max: 20, step: 1 },
    { role: 'displaySleep', label: 'Sleep', menu: [], unit: 'min', min: 1, max: 60, step: 1 },
  ],
  sensor: { reads: 'wired', usedFor: ['compensation', 'cutoff'], withoutSensor: 'ignoresCutoff' },
});
const thermostat = cardSchema.parse({
  ...sampleCard({
    id: 'stat',
    kind: 'thermostat',
    ratings: { outputA: 0, systemVolts: [24], contact: { volts: 30, amps: 10 }, chemistries: ['lfp'] },
    parameters: [
      { role: 'thermostatSetpoint', label: 'Set', menu: [], unit: '°F', min: -20, max: 120, step: 1 },
      { role: 'thermostatDifferential', label: 'Diff', menu: [], unit: '°F difference', min: 1, max: 20, step: 1 },
      {
        role: 'outputMode',
        label: 'Out',
        menu: [],
        unit: 'choice',
        options: [
          { value: 'heating', means: 'other' },
          { value: 'cooling', means: 'other' },
        ],
      },
    ],
  }),
});

function job(change: Partial<Job['system']> = {}): Job {
  const sample = sampleJob();
  const figure = { state: 'stated', unit: '°C', basis: 'unit', rank: 'makerForThisCharger' } as const;
  return jobSchema.parse({
    ...sample,
    cards: [charger, thermostat],
    sheet: { ...sample.sheet, figures: { ...sample.sheet.figures, chargeTemperature: { ...figure, min: 0, max: 45 } } },
    system: {
      ...sample.system,
      site: { ...sample.system.site, bankLowC: -5, recordLowC: -10 },
      chargers: [
        sampleCharger({
          id: 'roof',
          name: 'Roof',
          displayReadings: [{ meterV: 26, displayV: 26 }],
          present: { floatVoltage: 27.4 },
          lastVisit: { date: '2025-10-01', values: { floatVoltage: 26.9 } },
        }),
      ],
      companions: [{ id: 'stat', name: 'Thermostat', card: 'stat', present: {}, switches: ['roof'] }],
      ...change,
    },
  });
}

let store: JobStore;
async function open(document = job()): Promise<void> {
  store = await openStore(document, [provideRouter([])]);
  TestBed.inject(Selection).charger.set('roof');
}

function show<T>(type: Type<T>, inputs: Record<string, unknown> = {}): { fixture: ComponentFixture<T>; host: HTMLElement; see: () => Promise<string> } {
  const fixture = TestBed.createComponent(type);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  const host = fixture.nativeElement as HTMLElement;
  return {
    fixture,
    host,
    see: async () => {
      fixture.detectChanges();
      await fixture.whenStable();
      return (host.textContent ?? '').replace(/\u00a0/g, ' ').replace(/\s+/g, ' ');
    },
  };
}
const press = (host: HTMLElement, words: string): void => {
  const button = [...host.querySelectorAll('button')].find((b) => (b.textContent ?? '').trim().startsWith(words));
  if (!button) fail(`no button “${words}”`);
  button?.click();
};
function input(host: HTMLElement, label: string): HTMLInputElement | null {
  const name = [...host.querySelectorAll('label')].find((l) => (l.textContent ?? '').trim().startsWith(label));
  return host.querySelector<HTMLInputElement>(`#${name?.htmlFor ?? 'none'}`);
}
function type(host: HTMLElement, label: string, text: string): void {
  const field = input(host, label);
  if (!field) {
    fail(`no field “${label}”`);
    return;
  }
  field.value = text;
  field.dispatchEvent(new Event(field instanceof HTMLSelectElement ? 'change' : 'input'));
}

describe('a value that is tried', () => {
  beforeEach(async () => {
    await open();
    TestBed.inject(Selection).role.set('floatVoltage');
  });

  it('moves plan and findings and is not kept; coming back to what stands lets go', () => {
    store.try({ charger: 'roof', role: 'floatVoltage', value: 27.6 });
    expect(store.plan()?.setting('roof', 'floatVoltage')?.value).toBe(27.6);
    expect(store.settled()?.setting('roof', 'floatVoltage')?.value).toBe(26.9);
    expect(store.findings().some((f) => f.code === 'floatOutsideBand')).toBeTrue();
    expect(store.job()?.overrides).toEqual([]);
    store.try({ charger: 'roof', role: 'floatVoltage', value: 26.9 });
    expect(store.trial()).toBeNull();
  });

  it('is kept only with a reason, which stays with it, and a second person is noted', async () => {
    const { host, see } = show(SettingInspector);
    await see();
    host.querySelector<HTMLButtonElement>('[aria-label="One device step up"]')?.click();
    expect(await see()).toContain('Trying 27.0 V instead of 26.9 V');
    press(host, 'Keep as override');
    expect(store.job()?.overrides).toEqual([]);
    type(host, 'Reason for keeping it', ' owner asks ');
    await see();
    press(host, 'Keep as override');
    expect(store.job()?.overrides[0]).toEqual(jasmine.objectContaining({ value: 27, reason: 'owner asks', by: 'technician' }));
    expect(store.trial()).toBeNull();
    expect(await see()).toContain('No second person has looked at it yet');
    type(host, 'Seen by a second person', 'skipper');
    expect(await see()).toContain('Seen by the skipper.');
    press(host, 'Go back to the derived value');
    expect(store.job()?.overrides).toEqual([]);
  });
});

describe('a stop', () => {
  it('is answered for with a reason, and counts again when its numbers change', async () => {
    await open(job({ chargers: job().system.chargers.map((c) => ({ ...c, sensor: { ...c.sensor, fitted: false } })), companions: [] }));
    const stop = store.openStops().find((f) => f.code === 'coldProtection');
    expect(stop).toBeDefined();
    const { host, see } = show(FindingsList, { charger: 'roof' });
    await see();
    press(host, 'Accept it with a reason');
    await see();
    press(host, 'Accept with this reason');
    expect(store.job()?.accepted).toEqual([]);
    type(host, 'Reason, which goes', 'stored indoors');
    await see();
    press(host, 'Accept with this reason');
    expect(store.openStops().some((f) => f.code === 'coldProtection')).toBeFalse();
    expect(await see()).toContain('Accepted by the technician');
    store.edit('Colder', (j) => ({ ...j, system: { ...j.system, site: { ...j.system.site, bankLowC: -8 } } }));
    expect(store.openStops().some((f) => f.code === 'coldProtection')).toBeTrue();
  });
});

describe('the views of the settings', () => {
  beforeEach(async () => {
    await open();
  });

  it('the table ends every setting as set or says what became of it', async () => {
    const text = await show(SettingsTable, { plan: store.plan() }).see();
    expect(text).toContain('Roof 4 to set, 1 left, inherited or not used');
    expect(text).toMatch(/display sleepSleep— left|display sleep Sleep — left/);
    expect(text).toContain('27.4 V');
  });

  it('what differs shows factory, last visit, found and target, and that somebody moved it', async () => {
    const { host, see } = show(DifferenceTable, { plan: store.plan() });
    const text = await see();
    expect(text).toContain('1 moved since 2025-10-01');
    const row = [...host.querySelectorAll('tr')].find((r) => r.textContent?.includes('float'));
    expect([...(row?.querySelectorAll('td.n') ?? [])].map((td) => (td.textContent ?? '').replace(/\u00a0/g, ' '))).toEqual([
      '27.6 V',
      '26.9 V',
      '27.4 V',
      '26.9 V',
    ]);
    host.querySelector<HTMLInputElement>('input[type=checkbox]')?.click();
    expect((await see()).length).toBeGreaterThan(text.length);
  });

  it('cold and heat takes the margin apart: 0.5 + 5 × 0.2 + 1 = 2.5 °C', async () => {
    const text = await show(TemperatureView, { plan: store.plan(), charger: 'roof', width: 700 }).see();
    expect(text).toContain('Reads warmer than the cell0.5 °C');
    expect(text).toContain('Lag while the bank cools1.0 °C');
    expect(text).toContain('Margin above the sheet2.5 °C');
    expect(text).toContain('Compensation is off');
    // The sample’s sheet names no current.
    expect(text.replace(/\s/g, ' ')).toContain('not on the sheet30 A');
    expect(text).not.toContain('Infinity');
  });

  it('the relay planner refuses the small contact and takes what is entered; an emptied field is not known again', async () => {
    const { host, see, fixture } = show(RelayView, { plan: store.plan(), companion: 'stat', width: 700 });
    expect(await see()).toContain('too small');
    type(host, 'Contact breaks', '150');
    fixture.componentRef.setInput('plan', store.plan());
    type(host, 'Contact carries', '20');
    fixture.componentRef.setInput('plan', store.plan());
    expect(await see()).not.toContain('too small');
    expect(store.job()?.system.companions[0]?.relay).toEqual({ breaks: 'arraySide', volts: 150, amps: 20 });
    type(host, 'Contact breaks', '');
    expect(store.job()?.system.companions[0]?.relay).toEqual({ breaks: 'arraySide', amps: 20 });
  });

  it('schools: what another would come to, and who chose it', async () => {
    const { host, see, fixture } = show(SchoolsPanel, { plan: store.plan() });
    expect(await see()).toContain('at the careful default');
    press(host, 'Weigh the choices');
    await until(() => {
      fixture.detectChanges();
      return host.querySelectorAll('.q').length > 0;
    }, 'the schools are weighed');
    expect(await see()).not.toContain('Alternator');
    const question = (): HTMLElement => [...host.querySelectorAll<HTMLElement>('.q')].find((q) => q.querySelector('h3')?.textContent === 'Cutoff figure')!;
    const option = (words: string): HTMLElement => [...question().querySelectorAll<HTMLElement>('.option')].find((o) => o.textContent?.includes(words))!;
    expect(option('exactly').textContent.replace(/\u00a0/g, ' ')).toContain('low-temperature cutoff 3 °C → 0 °C');
    expect(option('Margin').textContent).toContain('Chosen, the careful default');
    // What changes nothing is folded, and none of it stands among the others.
    const folded = [...host.querySelectorAll('.light label')].map((l) => l.textContent);
    expect(folded.length).toBeGreaterThan(0);
    for (const h of host.querySelectorAll('.q h3')) expect(folded).not.toContain(h.textContent);
    type(host, 'Chosen by', 'owner');
    type(host, 'Reason, saved', 'short winters');
    option('exactly').click();
    fixture.componentRef.setInput('plan', store.plan());
    expect(await see()).toContain('Chosen by the owner');
    expect(store.job()?.choices.at(-1)).toEqual(jasmine.objectContaining({ school: 'cutoffFigure', to: 'exact', by: 'owner', reason: 'short winters' }));
    // Closed, it still says what was chosen otherwise.
    press(host, 'Close the choices');
    expect(await see()).toContain('Cutoff figure: The sheet’s figure exactly.');
  });

  it('program shows the order, what was never read off, and the gate', async () => {
    const { see, host } = show(ProgramPage);
    const text = await see();
    expect(text).toContain('never read off');
    expect(text).toContain(store.openStops().length > 0 ? 'Do not start' : 'No stop is open');
    expect(host.querySelectorAll('li').length).toBeGreaterThan(1);
  });
});

describe('further details of the system', () => {
  it('are read and written at their place, and left out when emptied', () => {
    const part = { name: 'x' };
    expect(withValue(part, { path: ['machine', 'maxC'] }, 120)).toEqual({
      name: 'x',
      // Nothing else of it is taken for said.
      machine: { name: 'Machine', maxC: 120 },
    } as never);
    expect(withValue({ ...part, unattendedMonths: 3 }, { path: ['unattendedMonths'] }, undefined)).toEqual(part as never);
    expect(withValue({ ...part, grounding: 'bonded' }, { path: ['grounding'] }, '')).toEqual(part as never);
    expect(valueAt({ a: { b: 2 } }, ['a', 'b'])).toBe(2);
    expect(valueAt(undefined, ['a'])).toBeUndefined();
  });

  it('are asked only where they bear, and a list of volts that cannot be read says which', async () => {
    await open();
    expect(await show(DetailFields, { place: 'charger', id: 'roof' }).see()).not.toContain('Hottest the machine');
    expect(await show(DetailFields, { place: 'companion', id: 'stat' }).see()).not.toContain('Error of its sensor');
    const stat = show(DetailFields, { place: 'companion', id: 'stat' });
    expect(await stat.see()).toContain('Its sensor');
    type(stat.host, 'Its sensor', 'batteryCase');
    expect(await stat.see()).toContain('Error of its sensor');
    expect(store.job()?.system.companions[0]?.sensor).toEqual({ fitted: true, place: 'batteryCase', errorC: 1, ...usualSensor.batteryCase });
    const { host, see } = show(DetailFields, { place: 'bank' });
    await see();
    type(host, 'Resting volts of each string', '26,5; 26.9');
    expect(store.job()?.system.bank.firstCharge?.stringVolts).toEqual([26.5, 26.9]);
    expect(store.findings().some((f) => f.code === 'stringsApart')).toBeTrue();
    type(host, 'Resting volts of each string', '26.5; about 27');
    expect(await see()).toContain('“about” is not a number');
    expect(store.job()?.system.bank.firstCharge?.stringVolts).toEqual([26.5, 26.9]);
  });

  it('what nobody has said stands pale in its field, and is said by typing it, be it the same', async () => {
    await open({ ...job(), assumed: { unitsInSeries: true, hasBms: true, maxA: true } });
    const bank = show(DetailFields, { place: 'bank', heading: 'first' });
    await bank.see();
    expect([input(bank.host, 'Batteries in series')?.value, input(bank.host, 'Batteries in series')?.placeholder]).toEqual(['', '1 assumed']);
    type(bank.host, 'Batteries in series', '1');
    expect(store.job()?.assumed).toEqual({ hasBms: true, maxA: true });
    type(bank.host, 'BMS in the batteries', '');
    expect(store.job()?.assumed).toEqual({ hasBms: true, maxA: true });
    type(bank.host, 'BMS in the batteries', 'no');
    expect([store.job()?.system.bank.hasBms, store.job()?.assumed]).toEqual([false, { maxA: true }]);
    await store.undo();
    await until(() => store.job()?.system.bank.hasBms === true, 'what was said is taken back');
    expect(store.job()?.assumed).toEqual({ hasBms: true, maxA: true });
  });

  it('the capacity in use is read as ampere-hours, percent or ratio, and what cannot be read stays as typed', async () => {
    await open();
    const { host, see } = show(DetailFields, { place: 'bank' });
    await see();
    const rated = 230;
    type(host, 'Capacity in use, Ah, % or ratio', '184 Ah');
    expect(store.job()?.system.bank.capacityFactor).toBeCloseTo(184 / rated, 6);
    expect(await see()).toContain('184 Ah, 80 % of rated');
    type(host, 'Capacity in use, Ah, % or ratio', '50');
    expect(await see()).toContain('may be percent or Ah');
    expect([store.job()?.system.bank.capacityFactor, input(host, 'Capacity in use, Ah, % or ratio')?.value]).toEqual([0.8, '50']);
  });

  it('a value that could not stand when it was typed stands as soon as it can, and nothing is lost meanwhile', async () => {
    await open();
    const { host, see } = show(DetailFields, { place: 'loads', heading: 'first' });
    await see();
    const { maxA } = store.job()!.system.loads;
    type(host, 'Loads, least', String(maxA + 5));
    expect(await see()).toContain('the least load must not be above the most');
    expect(store.job()?.system.loads.maxA).toBe(maxA);
    type(host, 'Loads, most', String(maxA + 9));
    expect(await see()).not.toContain('must not be above');
    expect(store.job()?.system.loads).toEqual(jasmine.objectContaining({ minA: maxA + 5, maxA: maxA + 9 }));
  });

  it('a conductor of which only one thing is known is that and no more, and a place of a sensor brings what it usually promises there', () => {
    const wired = { wire: { lengthM: 1, areaMm2: 16 } };
    const length = details.bank['more']!.find((d) => d.path.join('.') === 'wire.lengthM')!;
    expect(withValue(wired, length, undefined)).toEqual({ wire: { areaMm2: 16 } } as never);
    expect(withValue({ wire: { lengthM: 1 } }, length, undefined)).toEqual({} as never);
    expect(withValue({}, length, 2)).toEqual({ wire: { lengthM: 2 } } as never);
    const place = details.charger['sensor']![0]!;
    const sensor = { place: 'batteryCase', errorC: 0.5, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 } as const;
    expect(place.together!.read({ sensor })).toBe('');
    expect(withValue<object>({ sensor }, place, 'air')).toEqual({ sensor: { fitted: true, place: 'air', errorC: 0.5, ...usualSensor.air } });
    expect(withValue<object>({ sensor }, place, 'none')).toEqual({ sensor: { ...sensor, fitted: false } });
    expect(withValue<object>({ sensor: { ...sensor, fitted: true } }, place, '')).toEqual({ sensor });
    expect([place.together!.read({ sensor: { ...sensor, fitted: false } }), place.together!.read({ sensor: { ...sensor, fitted: true } })]).toEqual([
      'none',
      'batteryCase',
    ]);
    expect(entered([length], wired)).toBe(1);
    expect(entered([length], {})).toBe(0);
  });
});
