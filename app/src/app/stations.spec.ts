import { ChangeDetectionStrategy, Component, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Job } from '@calm-keel/core/job';
import type { JobStore } from './data/job-store';
import { Selection } from './data/selection';
import { SpecPage } from './spec/spec-page';
import { SystemPage } from './system/system-page';
import { openStore, sampleCard, sampleJob, until } from './testing';

/** Opens a job and puts one station on the page. */
async function open<T>(page: Type<T>, job: Job = sampleJob()): Promise<{ fixture: ComponentFixture<T>; host: HTMLElement; store: JobStore }> {
  const store = await openStore(job, [provideRouter([{ path: '**', component: Empty }])]);
  const fixture = TestBed.createComponent(page);
  fixture.detectChanges();
  return { fixture, host: fixture.nativeElement as HTMLElement, store };
}

@Component({ selector: 'ck-empty', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
class Empty {}

/** The control under a label. */
function under<T extends HTMLInputElement | HTMLSelectElement>(host: HTMLElement, label: string): T {
  const found = [...host.querySelectorAll('label')].find((l) => l.textContent.trim() === label);
  const control = found && host.querySelector<T>(`#${CSS.escape(found.htmlFor)}`);
  if (!control) throw new Error(`no field “${label}”`);
  return control;
}
function enter(host: HTMLElement, label: string, text: string): void {
  const control = under(host, label);
  control.value = text;
  control.dispatchEvent(new Event(control instanceof HTMLSelectElement ? 'change' : 'input'));
}

describe('Spec', () => {
  const field = (host: HTMLElement, key: string): HTMLInputElement => host.querySelector<HTMLInputElement>(`#figure-${key}`)!;
  const trail = (host: HTMLElement, key: string): string[] =>
    [...(field(host, key).closest('[role=row]')?.querySelectorAll('.t') ?? [])].map((c) => c.textContent.trim());
  /** Types on the paper and leaves the field. */
  function type(fixture: ComponentFixture<unknown>, host: HTMLElement, key: string, text: string): void {
    const input = field(host, key);
    input.dispatchEvent(new Event('focus'));
    fixture.detectChanges();
    input.value = text;
    input.dispatchEvent(new Event('input'));
    fixture.detectChanges();
    input.dispatchEvent(new Event('blur'));
    fixture.detectChanges();
  }

  it('shows each figure as printed with its trail, and holes where the sheet is silent', async () => {
    const { host } = await open(SpecPage);
    expect(field(host, 'absorbVoltage').value).toBe('28.1\u00a0V (28.0–28.4)');
    expect(trail(host, 'absorbVoltage')).toEqual(['3.51\u00a0V', '28.10\u00a0V', '28.10\u00a0V']);
    expect(field(host, 'taperCurrent').value).toBe('');
    expect(field(host, 'taperCurrent').closest('.hole')).not.toBeNull();
    expect(field(host, 'equaliseTime')).withContext('lead figures are not asked of LFP').toBeNull();
  });

  it('reads what is typed on the paper, on the basis it says, and takes an emptied figure off the sheet', async () => {
    const { fixture, host, store } = await open(SpecPage);
    type(fixture, host, 'bmsCellOverVoltage', '3.68 V/cell');
    expect(store.job()?.sheet.figures.bmsCellOverVoltage).toEqual({ state: 'stated', max: 3.68, unit: 'V', basis: 'cell', rank: 'notSaid' });
    expect(trail(host, 'bmsCellOverVoltage')[2]).toBe('29.44\u00a0V');
    type(fixture, host, 'equaliseVoltage', 'not permitted');
    expect(store.job()?.sheet.figures.equaliseVoltage?.state).toBe('notPermitted');
    type(fixture, host, 'bmsCellOverVoltage', '');
    expect(store.job()?.sheet.figures.bmsCellOverVoltage).toBeUndefined();
  });

  it('keeps what cannot be read as typed, with the reason, and changes nothing', async () => {
    const { fixture, host, store } = await open(SpecPage);
    type(fixture, host, 'absorbVoltage', '28.4–28.0 V');
    expect(field(host, 'absorbVoltage').value).toBe('28.4–28.0 V');
    expect(host.querySelector('.say.bad')?.textContent).toContain('greater end first');
    expect(store.job()?.sheet.figures.absorbVoltage?.target).toBe(28.1);
    type(fixture, host, 'absorbVoltage', '28.0–28.4 V, target 28.2');
    expect(host.querySelector('.say.bad')).toBeNull();
    expect(store.job()?.sheet.figures.absorbVoltage?.target).toBe(28.2);
  });

  it('says of a figure that is not the maker’s that it does not count, until the policy lets it', async () => {
    const { fixture, host, store } = await open(SpecPage);
    TestBed.inject(Selection).figure.set('floatVoltage');
    fixture.detectChanges();
    enter(host, 'Rank of the source', 'sameChemistry');
    fixture.detectChanges();
    expect(store.findings().some((f) => f.code === 'lowRank')).toBeTrue();
    expect(host.querySelector('.paper')?.textContent).toContain('does not count');
    enter(host, 'Figures count when they are from', 'bestAvailable');
    fixture.detectChanges();
    expect(host.querySelector('.paper')?.textContent).not.toContain('does not count');
  });

  it('refuses a target outside its own band beside the field, and keeps the old one', async () => {
    const { fixture, host, store } = await open(SpecPage);
    TestBed.inject(Selection).figure.set('absorbVoltage');
    fixture.detectChanges();
    enter(host, 'Target', '29');
    fixture.detectChanges();
    expect(host.querySelector('.wrong')?.textContent).toContain('least, target and most must rise');
    expect(store.job()?.sheet.figures.absorbVoltage?.target).toBe(28.1);
    enter(host, 'Target', '28,3');
    fixture.detectChanges();
    expect(host.querySelector('.wrong')).toBeNull();
    expect(store.job()?.sheet.figures.absorbVoltage?.target).toBe(28.3);
  });

  it('adds, changes and removes stairs of the cold table, and refuses stairs that do not rise', async () => {
    const { fixture, host, store } = await open(SpecPage);
    const press = (words: string): void => {
      [...host.querySelectorAll<HTMLButtonElement>('button')].find((b) => b.textContent.trim() === words)!.click();
      fixture.detectChanges();
    };
    for (const typed of [
      ['5', '0.1'],
      ['10', '0.3'],
    ]) {
      press('Add a stair');
      host.querySelectorAll<HTMLInputElement>('[aria-label="New stair"] input').forEach((field, i) => {
        field.value = typed[i] ?? '';
        field.dispatchEvent(new Event('input'));
      });
      fixture.detectChanges();
      press('Save the stair');
    }
    expect(store.job()?.sheet.derating.map((r) => r.toC)).toEqual([5, 10]);
    enter(host, 'Up to', '12');
    fixture.detectChanges();
    expect(store.job()?.sheet.derating.map((r) => r.toC)).toEqual([5, 10]);
    expect(host.querySelector('.stairs .wrong')?.textContent).toContain('rise');
    host.querySelector<HTMLButtonElement>('[aria-label^="Remove the stair"]')?.click();
    expect(store.job()?.sheet.derating.length).toBe(1);
  });
});

describe('System', () => {
  const card = sampleCard({
    id: 'plain',
    kind: 'solarMppt',
    ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 100, chemistries: ['lfp'] },
    parameters: [{ role: 'lowTempCutoff', label: 'Cold', menu: [], unit: '°C', min: -20, max: 30, step: 1 }],
    sensor: { reads: 'wired', usedFor: ['cutoff'], withoutSensor: 'ignoresCutoff' },
  });
  const withCharger = (): Job => {
    const job = sampleJob();
    const sheet = {
      ...job.sheet,
      figures: { ...job.sheet.figures, chargeTemperature: { state: 'stated', min: 0, max: 45, unit: '°C', basis: 'cell', rank: 'makerForThisCharger' } },
    } as Job['sheet'];
    const sensor = { fitted: true, place: 'batteryCase', errorC: 0.5, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 } as const;
    return {
      ...job,
      sheet,
      cards: [card],
      system: { ...job.system, chargers: [{ id: 'roof', name: 'Roof', card: 'plain', sensor, displayReadings: [], present: {}, passcodeChanged: true }] },
    };
  };
  const choose = (fixture: ComponentFixture<unknown>): void => {
    TestBed.inject(Selection).charger.set('roof');
    fixture.detectChanges();
  };

  it('a sensor moved onto a pad raises the cutoff by what the pad costs', async () => {
    const { fixture, host, store } = await open(SystemPage, withCharger());
    choose(fixture);
    const cutoff = () => store.plan()?.setting('roof', 'lowTempCutoff')?.value;
    expect(cutoff()).toBe(2);
    enter(host, 'Sensor on the battery', 'pad');
    expect(cutoff()).toBe(5);
    expect(store.findings().some((f) => f.code === 'sensorReadsWarm')).toBeTrue();
    fixture.detectChanges();
    enter(host, 'Reads warmer by', '0');
    fixture.detectChanges();
    expect(store.findings().some((f) => f.code === 'sensorReadsWarm')).toBeFalse();
  });

  it('notes what was found, forgets it when the field is emptied, and compares display with meter', async () => {
    const { fixture, host, store } = await open(SystemPage, withCharger());
    choose(fixture);
    enter(host, 'Cold (low-temperature cutoff)', '−3');
    expect(store.job()?.system.chargers[0]?.present.lowTempCutoff).toBe(-3);
    fixture.detectChanges();
    enter(host, 'Cold (low-temperature cutoff)', '');
    expect(store.job()?.system.chargers[0]?.present).toEqual({});
    expect(store.findings().some((f) => f.code === 'displayNotCompared')).toBeTrue();
    const press = (name: string): void => {
      const button = [...host.querySelectorAll<HTMLButtonElement>('button')].find((b) => b.textContent.trim() === name);
      expect(button).withContext(name).toBeDefined();
      button?.click();
      fixture.detectChanges();
    };
    // Nothing is compared before both readings were typed.
    press('Add a comparison');
    press('Save the comparison');
    expect(store.job()?.system.chargers[0]?.displayReadings).toEqual([]);
    enter(host, 'Meter reads', '26.6');
    fixture.detectChanges();
    press('Save the comparison');
    expect(store.findings().some((f) => f.code === 'displayNotCompared')).toBeTrue();
    // What else changes on the charger meanwhile takes nothing of it away.
    store.edit('Rename', (j) => ({ ...j, system: { ...j.system, chargers: j.system.chargers.map((c) => ({ ...c, name: 'Other' })) } }));
    fixture.detectChanges();
    enter(host, 'Display reads', '26.8');
    fixture.detectChanges();
    press('Save the comparison');
    expect(store.job()?.system.chargers[0]?.displayReadings).toEqual([{ meterV: 26.6, displayV: 26.8 }]);
    expect(store.findings().some((f) => f.code === 'displayNotCompared')).toBeFalse();
  });

  it('says beside the field why a place cannot be so, and leaves the job as it was', async () => {
    const { fixture, host, store } = await open(SystemPage, withCharger());
    enter(host, 'Bank, coldest', '50');
    fixture.detectChanges();
    expect(host.querySelector('.wrong')?.textContent).toContain('coldest must be below its hottest');
    expect(store.job()?.system.site.bankLowC).toBe(0);
  });

  it('removes a charger with its card and overrides, and undo brings all of it back', async () => {
    const job = { ...withCharger(), overrides: [{ charger: 'roof', role: 'lowTempCutoff' as const, value: 9, reason: 'x', by: 'owner', date: '2026-06-09' }] };
    const { fixture, host, store } = await open(SystemPage, job);
    choose(fixture);
    [...host.querySelectorAll<HTMLButtonElement>('button')].find((b) => b.textContent.trim() === 'Remove this charger')?.click();
    expect([store.job()?.system.chargers.length, store.job()?.cards.length, store.job()?.overrides.length]).toEqual([0, 0, 0]);
    await until(() => store.save().kind === 'saved', 'it is saved');
    await store.undo();
    await until(() => store.job()?.system.chargers.length === 1, 'the charger is back');
    expect([store.job()?.cards.length, store.job()?.overrides.length]).toEqual([1, 1]);
  });

  it('draws the ceiling with the binding limit named, and says so when nothing binds', async () => {
    const { fixture, host, store } = await open(SystemPage, withCharger());
    expect(host.textContent).toContain('Nothing limits the bank yet');
    enter(host, 'Main fuse', '100');
    fixture.detectChanges();
    expect(store.plan()?.ceiling.binding?.amps).toBe(80);
    expect(host.querySelector('.binds')?.textContent).toContain('binds');
  });
});
