import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Job } from '@calm-keel/core/job';
import type { Explanation, LogFact, ProofRow } from '@calm-keel/core/proof';
import type { HistoryRow, TestRecord } from '@calm-keel/core/fieldtest';
import { JobStore, today } from '../data/job-store';
import { Library } from '../data/library';
import { LiveRecord } from '../data/live-record';
import { LogWork } from '../data/log-work';
import { TestWork } from '../data/test-work';
import { Units } from '../data/units';
import { WhoIsThere } from '../data/who-is-there';
import { draw, openStore, plain, sampleJob, soloJob } from '../testing';
import { AlonePanel } from './alone-panel';
import { GlancePanel } from './glance-panel';
import { HistoryPanel } from './history-file';
import { LogAbout } from './log-about';
import { TestAside } from './test-aside';
import { TestEntry } from './test-entry';
import { TestFields } from './test-fields';
import { TestLive } from './test-live';
import { TestTimer } from './test-timer';
import { TestsPanel } from './tests-panel';
import { ToldList } from './told-list';
import { VerdictInspector } from './verdict-inspector';
import { VerdictTable } from './verdict-table';

/** One charger, and two instruments to read it with. */
function twoMeters(): Job {
  const job = soloJob();
  const [meter] = job.system.instruments;
  return { ...job, system: { ...job.system, instruments: [meter!, { ...meter!, id: 'second', name: 'Second meter' }] } };
}

describe('what a log shows by itself', () => {
  const facts: readonly LogFact[] = [
    { code: 'highestVolts', seen: { value: 56.2, at: 7200 } },
    { code: 'stayedHigh', lowV: 56, highV: 56.2, withinV: 0.05, seconds: 3600, days: 1, from: 3600, to: 7200 },
    { code: 'counted', inAh: 40, outAh: 30, reversed: false, unknownSeconds: 0 },
  ];
  async function shown() {
    const store = await openStore({ ...sampleJob(), sheet: { ...sampleJob().sheet, id: 'none' } }, [provideRouter([])]);
    const sheet = { ...sampleJob().sheet, id: 'lfp', battery: 'Bench LFP' };
    spyOn(TestBed.inject(Library), 'sheets').and.returnValue([sheet]);
    const drawn = draw(AlonePanel, { facts, offset: 60, days: false });
    const stretches: unknown[] = [];
    drawn.fixture.componentInstance.show.subscribe((s) => stretches.push(s));
    return { ...drawn, store, stretches };
  }

  it('leads to the stretch of each number by the log’s own clock, and to none where there is none', async () => {
    const { all, host, stretches } = await shown();
    const [highest, stayed] = host.querySelectorAll<HTMLButtonElement>('.w button');
    expect(host.querySelectorAll('.w button')).toHaveSize(2);
    expect(plain(all('tbody td b')[0]!)).toContain('56.2');
    // 7200 s are 02:00 UTC, an hour later by its clock.
    expect([highest!.textContent.trim(), plain(stayed!.textContent).trim()]).toEqual(['03:00', '02:00–03:00']);
    highest!.click();
    stayed!.click();
    expect(stretches).toEqual([
      { from: 6300, to: 8100 },
      { from: 3600, to: 7200 },
    ]);
  });

  it('is judged once a sheet and whole numbers are said; strings may stay open', async () => {
    const { fixture, text, fill, button, press, store } = await shown();
    expect(button('Judge by this sheet').disabled).toBeTrue();
    fill('Battery', 'lfp');
    // 56.2 V are two of 25.6 V that stand at 28.1 V.
    expect(text()).toContain('fits 2 of these in series');
    expect(button('Judge by this sheet').disabled).toBeFalse();
    fill('In series', '');
    expect(button('Judge by this sheet').disabled).toBeTrue();
    fill('In series', '2');
    fill('Strings in parallel', '1.5');
    expect(button('Judge by this sheet').disabled).toBeTrue();
    fill('Strings in parallel', '');
    press('Judge by this sheet');
    expect(store.job()!.sheet.battery).toBe('Bench LFP');
    expect(store.job()!.system.bank.unitsInSeries).toBe(2);
    fixture.componentRef.setInput('facts', [{ code: 'highestVolts', seen: { value: 90, at: 0 } }]);
    fixture.detectChanges();
    expect(text()).not.toContain('fits 4');
  });
});

describe('every requirement at a glance', () => {
  it('is counted by verdict, shown bank first, worst first, with the test that would settle it', async () => {
    const store = await openStore(soloJob());
    const { host, all, fixture, text } = draw(GlancePanel);
    const begun: unknown[] = [];
    fixture.componentInstance.begin.subscribe((t) => begun.push(t));
    const total = store.covered().length;
    const counts = [...host.querySelectorAll('.count b')].map((b) => Number(b.textContent));
    expect(counts.reduce((a, b) => a + b, 0)).toBe(total);
    // Nothing was brought in: nothing is proved or fails.
    expect(text('.count')).toContain('0 fails');
    expect(text('.count')).toContain('0 proved');
    expect(all('section h2')).toEqual(['Bank', 'Solo']);
    const covered = store.covered().find((c) => c.test !== null)!;
    const offered = [...host.querySelectorAll('li')].find((li) => li.querySelector('b')?.textContent === covered.requirement.name)!;
    offered.querySelector<HTMLButtonElement>('button.do')!.click();
    expect(begun).toEqual([covered.test]);
  });
});

describe('a charger’s own history from a file', () => {
  const days: readonly HistoryRow[] = [
    { date: '2026-05-01', highest: 28.1 },
    { date: '2026-05-02', highest: 28.4, absorb: 40, celsius: 20 },
    { date: '2999-01-01', highest: 29.9 },
  ];
  async function shown(read: unknown) {
    const store = await openStore(soloJob(), [{ provide: LogWork, useValue: { api: { history: () => Promise.resolve(read) } } }]);
    TestBed.inject(WhoIsThere).initials.set('KM');
    const work = TestBed.inject(TestWork);
    const id = work.begin('history', 'solo')!;
    const record = (): TestRecord => store.job()!.tests.find((t) => t.id === id)!;
    const drawn = draw(HistoryPanel, { record: record(), step: 'days' });
    const open = async (): Promise<void> => {
      await (drawn.fixture.componentInstance as unknown as { open: (file: File) => Promise<void> }).open(new File([''], 'history.csv'));
      drawn.fixture.detectChanges();
    };
    return { ...drawn, record, open };
  }

  it('adds the days up to today that were not there, from the day that is said', async () => {
    const { open, text, button, press, enter, record, fixture } = await shown({ ok: true, value: { days, leftOut: ['Line 9: no date.'] } });
    await open();
    expect(text('section')).toContain('3 days, 2026-05-01 to 2999-01-01.');
    expect(plain(text('section'))).toContain('Highest 29.90 V.');
    expect(text('summary')).toBe('1 line left out');
    // A day to come is a wrong clock.
    expect(button('Add').textContent.trim()).toBe('Add 2 days');
    enter('input[type=date]', '2026-05-02');
    expect(button('Add').textContent.trim()).toBe('Add 1 day');
    enter('input[type=date]', today());
    expect(button('No day is left').disabled).toBeTrue();
    enter('input[type=date]', '');
    press('Add 2 days');
    expect(record().series.map((a) => a.values)).toEqual([{ highest: 28.1 }, { highest: 28.4, absorb: 40, celsius: 20 }]);
    // Brought in again, none of them is new.
    fixture.componentRef.setInput('record', record());
    await open();
    expect(button('No day is left').disabled).toBeTrue();
  });

  it('says what is wrong with a file, and takes nothing of it', async () => {
    const { open, text, record } = await shown({ ok: false, problems: [{ text: 'No column is a date.' }] });
    await open();
    expect(text('[role=alert]')).toBe('No column is a date. Nothing was taken.');
    expect(record().series).toEqual([]);
  });
});

describe('what is known of a log', () => {
  async function shown(temperature: boolean) {
    const entry = { id: 'log1', name: 'day.csv', instrument: soloJob().system.provingInstrument };
    const store = await openStore({
      ...twoMeters(),
      logs: [{ ...entry, from: 0, to: 86_400, rows: 3 }],
    });
    const log = { ...(temperature ? { batteryC: new Float32Array(3) } : {}) };
    const row = { log, report: { notes: ['One column was not read.'], skipped: 1204, rows: 9000, firstSkipped: [{ line: 7, why: 'has no time' }] } };
    const drawn = draw(LogAbout, { entry: store.job()!.logs[0], row, notes: ['Current is taken as the bank’s.'] });
    return { ...drawn, store };
  }

  it('changes its instrument, says what could not be read, and takes it out', async () => {
    const { store, fill, text, all, press, fixture } = await shown(false);
    let gone = 0;
    fixture.componentInstance.removed.subscribe(() => gone++);
    fill('Written by', 'second');
    expect(store.job()!.logs[0]!.instrument).toBe('second');
    expect(text()).not.toContain('Temperature read by');
    expect(text('summary')).toBe('1,204 lines could not be read; 9,000 were');
    expect(text('details li')).toBe('Line 7 has no time.');
    expect(all('p.quiet')).toEqual(['Current is taken as the bank’s.', 'One column was not read.']);
    press('Take this log out');
    expect(store.job()!.logs).toEqual([]);
    expect(gone).toBe(1);
  });

  it('claims no sensor for its temperature before somebody says which', async () => {
    const { host, fill, store } = await shown(true);
    const select = [...host.querySelectorAll('select')].find((s) => [...s.options].some((o) => o.text === 'a sensor nobody knows'))!;
    expect(select.selectedOptions[0]!.text).toBe('a sensor nobody knows');
    const sensor = [...select.options].find((o) => o.value !== select.value)!;
    fill('Temperature read by', sensor.value);
    expect(store.job()!.logs[0]!.batterySensor).toBe(sensor.value);
  });
});

describe('beside a guided test', () => {
  it('nothing decides before something is read; note, kind of evidence and instrument go into the record', async () => {
    const store = await openStore(twoMeters());
    TestBed.inject(WhoIsThere).initials.set('KM');
    const id = TestBed.inject(TestWork).begin('absorbHold', 'solo')!;
    const record = (): TestRecord => store.job()!.tests.find((t) => t.id === id)!;
    const expected = [{ name: 'Absorb', band: { min: 28, max: 28.4 }, unit: 'V', digits: 2, why: 'by the sheet' }];
    const { text, enter, host } = draw(TestAside, { record: record(), expected, photoName: 'Absorb' });
    expect(text()).toContain('Nothing has been read yet that decides anything.');
    expect(plain(text('.exp b'))).toBe('28.00–28.40 V');
    enter('textarea', 'Fridge was on.');
    enter('select[aria-label="Kind of evidence"]', host.querySelector<HTMLSelectElement>('select[aria-label="Kind of evidence"]')!.options[1]!.value);
    expect(record().note).toBe('Fridge was on.');
    expect(record().grade).toBe(host.querySelector<HTMLSelectElement>('select[aria-label="Kind of evidence"]')!.options[1]!.value as TestRecord['grade']);
    enter('select[aria-label="Instrument"]', 'second');
    expect(record().instrument).toBe('second');
  });
});

describe('the fields of a step of a test', () => {
  const fields = [
    { id: 'volts', name: 'Bank', unit: 'V', expected: { min: 28, max: 28.4 } },
    { id: 'celsius', name: 'Battery', unit: '°C', optional: true },
    { id: 'alarm', name: 'Alarm', unit: '', choices: ['yes', 'no'] },
  ];
  it('say what is expected, when it is outside, and begin empty for the next reading', async () => {
    const store = await openStore(soloJob(), [TestEntry]);
    TestBed.inject(WhoIsThere).initials.set('KM');
    const id = TestBed.inject(TestWork).begin('absorbHold', 'solo')!;
    const entry = TestBed.inject(TestEntry);
    entry.be(
      store.job()!.tests.find((t) => t.id === id)!,
      { id: 'read', kind: 'read', title: 'Read', says: [], fields } as never,
    );
    const { enter, host, all, press, fixture } = draw(TestFields, { fields });
    let entered = 0;
    fixture.componentInstance.entered.subscribe(() => entered++);
    const hint = (): string => plain(all('.field small').find((s) => s.includes('expected')) ?? '');
    expect(hint()).toBe('expected 28.00–28.40 V');
    enter('#ck-f-volts', '28.6');
    expect(hint()).toBe('outside: expected 28.00–28.40 V');
    expect(host.querySelector('.box')!.classList).toContain('bad');
    enter('#ck-f-volts', '28.2');
    expect(hint()).toBe('as expected 28.00–28.40 V');
    press('no');
    expect(host.querySelector('[aria-pressed=true]')!.textContent.trim()).toBe('no');
    host.querySelector('#ck-f-volts')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    expect(entered).toBe(1);
    expect(host.querySelector('#ck-taken')).toBeNull();
    press('Read earlier');
    expect(host.querySelector('#ck-taken')).not.toBeNull();
    fixture.componentInstance.begin();
    expect(entry.typed()).toEqual({});
    expect(host.querySelector<HTMLInputElement>('#ck-f-volts')!.value).toBe('');
  });
});

describe('recording while a test runs', () => {
  it('takes the newest sample into the fields, without what it has no reading of', async () => {
    const store = await openStore(soloJob(), [TestEntry]);
    TestBed.inject(WhoIsThere).initials.set('KM');
    const id = TestBed.inject(TestWork).begin('absorbHold', 'solo')!;
    const live = TestBed.inject(LiveRecord);
    const entry = TestBed.inject(TestEntry);
    const record = store.job()!.tests.find((t) => t.id === id)!;
    entry.be(record, { id: 'read', kind: 'read', title: 'Read', says: [], fields: [] } as never);
    const idle = draw(TestLive, { record, name: 'Absorb', fields: true });
    expect(idle.text()).toBe('Record from the devices while you test');
    expect(draw(TestLive, { record: { ...record, endedAt: '2026-06-01T10:00:00Z' }, name: 'Absorb', fields: true }).text()).toBe('');
    spyOn(live, 'running').and.returnValue({ id: 'l1', since: 0 } as never);
    spyOn(live, 'recent').and.returnValue([
      { at: 0, volts: 28, amps: 1, celsius: 20 },
      { at: 10, volts: 28.157, amps: NaN, celsius: 25 },
    ] as never);
    const run = draw(TestLive, { record, name: 'Absorb', fields: true });
    run.press('Take these into the fields');
    expect(entry.typed()).toEqual({ volts: '28.16', celsius: '25.0' });
    TestBed.inject(Units).choose('F');
    run.press('Take these into the fields');
    expect(entry.typed()['celsius']).toBe('77.0');
    expect(draw(TestLive, { record, name: 'Absorb', fields: false }).text()).not.toContain('Take these');
  });
});

describe('the timer of a step', () => {
  it('counts down from when it is started, and another step begins uncounted', async () => {
    await openStore(soloJob());
    jasmine
      .clock()
      .install()
      .mockDate(new Date(2026, 5, 1, 10));
    try {
      const { text, press, fixture } = draw(TestTimer, { seconds: 65, step: 'a' });
      expect(text()).toBe('Start the 1:05 timer');
      press('Start');
      expect(text('b')).toBe('1:05');
      jasmine.clock().tick(6000);
      fixture.detectChanges();
      expect(text('b')).toBe('0:59');
      jasmine.clock().tick(60_000);
      fixture.detectChanges();
      expect(text()).toContain('The time is over.');
      fixture.componentRef.setInput('step', 'b');
      fixture.detectChanges();
      expect(text()).toBe('Start the 1:05 timer');
    } finally {
      jasmine.clock().uninstall();
    }
  });
});

describe('the guided tests of a system', () => {
  it('begin only with initials, are asked of one device or of all, and lead back to one that was begun', async () => {
    const solo = soloJob();
    const [one] = solo.system.chargers;
    const store = await openStore({ ...solo, system: { ...solo.system, chargers: [one!, { ...one!, id: 'duo', name: 'Duo' }] } });
    const who = TestBed.inject(WhoIsThere);
    who.initials.set(' ');
    const drawn = draw(TestsPanel, { device: 'duo' });
    const begun: unknown[] = [];
    const opened: string[] = [];
    drawn.fixture.componentInstance.begin.subscribe((b) => begun.push(b));
    drawn.fixture.componentInstance.open.subscribe((o) => opened.push(o));
    const begin = (): HTMLButtonElement[] => [...drawn.host.querySelectorAll<HTMLButtonElement>('button.ghost')];
    expect(begin().every((b) => b.disabled)).toBeTrue();
    expect(new Set(drawn.all('.dev'))).toEqual(new Set(['Duo']));
    drawn.press('All devices');
    expect(new Set(drawn.all('.dev'))).toEqual(new Set(['Solo', 'Duo']));
    who.initials.set('KM');
    drawn.fixture.detectChanges();
    const button = begin().find((b) => b.getAttribute('aria-label')!.endsWith(', Duo'))!;
    button.click();
    const [asked] = begun as { code: 'absorbHold'; device: string }[];
    expect(asked!.device).toBe('duo');
    const id = TestBed.inject(TestWork).begin(asked!.code, 'duo')!;
    expect(store.job()!.tests).toHaveSize(1);
    drawn.fixture.detectChanges();
    drawn.press('Go on with it');
    expect(opened).toEqual([id]);
  });
});

describe('what happened in a log', () => {
  it('is listed in its own time, the odd marked for eye and ear', async () => {
    await openStore(soloJob());
    const told = [
      { kind: 'change', at: 7200, title: 'Absorb began' },
      { kind: 'odd', at: 9000, title: 'Nothing charged' },
    ] as unknown as Explanation[];
    const { text, host, fixture, all } = draw(ToldList, { told, chosen: 1, offset: 60, nameOf: (t: Explanation) => (t.kind === 'odd' ? 'Aft' : 'Fore') });
    const pressed: number[] = [];
    fixture.componentInstance.tell.subscribe((i) => pressed.push(i));
    expect(text('small')).toBe('1 odd of 2');
    expect(all('li')).toEqual(['03:00 Absorb began Fore', '03:30 odd: Nothing charged Aft']);
    expect([...host.querySelectorAll('button')].map((b) => b.getAttribute('aria-pressed'))).toEqual(['false', 'true']);
    host.querySelectorAll('button')[0]!.click();
    expect(pressed).toEqual([0]);
  });
});

describe('verdicts of a log', () => {
  const row = (verdict: ProofRow['verdict'], more: object = {}, requirement: object = {}): ProofRow =>
    ({
      requirement: {
        code: 'absorbLevel',
        question: 'specified',
        name: 'Absorb level',
        why: 'Cells fill there.',
        charger: 'solo',
        seenBy: ['log'],
        band: { min: 28, max: 28.4 },
        unit: 'V',
        digits: 2,
        dwellSeconds: 0,
        zeroA: 0,
        ...requirement,
      },
      verdict,
      measured: null,
      uncertainty: null,
      budget: [],
      unit: 'V',
      digits: 2,
      band: { min: 28, max: 28.4 },
      evidence: null,
      why: 'Seen for an hour.',
      ...more,
    }) as unknown as ProofRow;

  it('fold away what was not tested, name the device, draw a line only where there is a number and a band', async () => {
    await openStore(soloJob());
    const rows = [
      row('pass', { measured: 28.15, uncertainty: 0.02, evidence: { from: 0, to: 60 } }),
      row('notTested', {}, { code: 'floatLevel', name: 'Float level' }),
      row('fail', { measured: 29, band: {} }, { code: 'neverAboveMaximum', name: 'Highest volts', charger: undefined }),
      row('inconclusive', {}, { question: 'programmed', code: 'absorbAsProgrammed', name: 'Absorb as set' }),
    ];
    const { all, press, host, fixture } = draw(VerdictTable, { rows, when: () => '10:00–10:01' });
    const shown: ProofRow[] = [];
    const chosen: ProofRow[] = [];
    fixture.componentInstance.show.subscribe((r) => shown.push(r));
    fixture.componentInstance.choose.subscribe((r) => chosen.push(r));
    expect(all('.gh th:first-child').map((t) => t.slice(0, 12))).toEqual(['As specified', 'As programme']);
    expect(all('.what button')).toEqual(['Absorb level Solo', 'Highest volts Bank', 'Absorb as set Solo']);
    expect(host.querySelectorAll('ck-band-line')).toHaveSize(1);
    expect(plain(all('td.n.r')[0]!)).toBe('28.15 ± 0.02 V');
    press('10:00–10:01');
    // Looking at its stretch is not choosing it.
    expect([shown, chosen]).toEqual([[rows[0]!], []]);
    press('Show 1 not tested');
    expect(all('.what button')).toContain('Float level Solo');
    press('Hide 1 not tested');
    press('Absorb level');
    expect(chosen).toEqual([rows[0]!]);
  });

  it('are told in full, with widths in the person’s own scale', async () => {
    await openStore(soloJob());
    const budget = [{ name: 'sensor', halfWidth: 1 }];
    const of = (more: object) => draw(VerdictInspector, { row: row('pass', more), name: 'Solo', when: '10:00' });
    const warm = { unit: '°C', budget, uncertainty: 1.5 };
    expect(plain(of(warm).text('.budget'))).toContain('sensor1.000 °C');
    expect(plain(of(warm).text('.total'))).toContain('± 1.500 °C');
    TestBed.inject(Units).choose('F');
    expect(plain(of(warm).text('.budget'))).toContain('sensor1.800 °F');
    expect(plain(of({ budget, uncertainty: 0.02 }).text('.total'))).toContain('± 0.020 V');
    expect(of({}).text()).not.toContain('How sure');
    expect(of({}).text()).not.toContain('What shows it');
    expect(of({ witness: 'The bank stood there.' }).text('[data-testid=witness]')).toBe('The bank stood there.');
    expect(of({}).host.querySelector('button')).toBeNull();
    const zoomed = of({ evidence: { from: 0, to: 60 } });
    let zooms = 0;
    zoomed.fixture.componentInstance.zoom.subscribe(() => zooms++);
    zoomed.press('Zoom to 10:00');
    expect(zooms).toBe(1);
    expect(TestBed.inject(JobStore).job()!.coverage).toBe(2);
  });
});
