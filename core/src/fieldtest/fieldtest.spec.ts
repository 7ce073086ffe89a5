import { makeLivePlant, scenarioNamed, variantValues, type LivePlant } from '../rehearsal';
import type { Job } from '../job';
import type { Plan } from '../settings';
import type { Sensor } from '../system';
import { plan, rookMoss, seeded, teasel, wholeTeasel, withCharger } from '../testing/fixtures';
import { demoJob } from '../testing/rehearsals';
import { fieldTests, fitLagged, subjectOf, testCodes, testNamed, testRecordSchema, testsFor, type TestCode, type TestRecord } from './index';
import { chillLimits } from './tests/chill';
import { speakRow, type SpokenRow } from '../proof';
import { speak } from '../quantity';

const begun = Date.UTC(2026, 5, 9, 9, 0, 0);
const iso = (seconds: number): string => new Date(begun + seconds * 1000).toISOString();

/** A test as it is kept: answers by step, and readings one after the other. */
function recordOf(
  code: TestCode,
  device: string,
  answers: Readonly<Record<string, Readonly<Record<string, number | string>>>>,
  series: readonly Readonly<Record<string, number | string>>[] = [],
  every = 30,
): TestRecord {
  return testRecordSchema.parse({
    id: 'test',
    code,
    device,
    begunAt: iso(0),
    endedAt: null,
    by: 'KM',
    instrument: 'meter',
    grade: 'measured',
    answers: Object.entries(answers).map(([step, values], i) => ({ step, at: iso(i * 60), values })),
    series: series.map((values, i) => ({ step: 'readings', at: iso(i * every), values })),
    note: '',
    photos: [],
  });
}

function judged(p: Plan, record: TestRecord, temperatureErrorC = 0.3): Readonly<Record<string, SpokenRow>> {
  const subject = subjectOf(p, record.device);
  if (!subject) throw new Error('no subject');
  const instrument = { ...p.input.system.instruments[0]!, volts: { percent: 0.1, digits: 1, resolution: 0.01 }, temperatureErrorC };
  return Object.fromEntries(
    testNamed(record.code)
      .judge(p, subject, record, instrument)
      .map((r) => [r.requirement.code, speakRow(r, 'C')]),
  );
}

describe('the list of guided tests', () => {
  it('has seventeen, each by its code once, and each ends with what was taken off being back', () => {
    expect(fieldTests.map((t) => t.code)).toEqual([...testCodes]);
    expect(fieldTests.length).toBe(17);
    for (const job of [wholeTeasel(), rookMoss(), demoJob('skarrow'), demoJob('tumbler')]) {
      const p = plan(job);
      for (const { test, subject } of testsFor(p)) {
        const { steps, expected } = test.prepare(p, subject);
        const what = `${test.code} on ${subject.device.id}`;
        expect(test.proves.length).withContext(what).toBeGreaterThan(0);
        expect(new Set(steps.map((s) => s.id)).size)
          .withContext(what)
          .toBe(steps.length);
        if (test.code !== 'passcode' && test.code !== 'history') expect(steps.at(-1)?.kind).withContext(what).toBe('putBack');
        expect(steps.flatMap((s) => s.says).every((line) => speak(line, 'C').length > 10))
          .withContext(what)
          .toBeTrue();
        for (const e of expected)
          expect(Number.isNaN(e.band.min ?? 0) || Number.isNaN(e.band.max ?? 0))
            .withContext(what)
            .toBeFalse();
        // Nothing read gives no verdict.
        expect(test.judge(p, subject, recordOf(test.code, subject.device.id, {}), p.input.system.instruments[0]!))
          .withContext(what)
          .toEqual([]);
      }
    }
  });

  it('offers a test only where the device has what it tests', () => {
    const codes = (device: string): string[] => testsFor(plan(wholeTeasel())).flatMap((t) => (t.subject.device.id === device ? [t.test.code] : []));
    expect(codes('alternator')).toContain('regulatorTerminals');
    expect(codes('aft')).not.toContain('regulatorTerminals');
    expect(codes('monitor')).toContain('monitorFull');
    expect(codes('monitor')).not.toContain('absorbHold');
    expect(testsFor(plan(demoJob('skarrow'))).some((t) => t.test.code === 'turbine' && t.subject.device.id === 'turbine')).toBeTrue();
  });
});

describe('fitting a lagging sensor', () => {
  it('finds slope and lag of made readings', () => {
    const random = seeded(3);
    for (const [slope, lag] of [
      [-0.024, 60],
      [-0.036, 180],
      [0.02, 0],
    ] as const) {
      let felt = 20;
      const points = Array.from({ length: 40 }, (_, i) => {
        const t = i * 30;
        const celsius = t < 600 ? 20 - t / 50 : 8 + (t - 600) / 60;
        for (let s = 0; s < 30; s++) felt += lag === 0 ? celsius - felt : (celsius - felt) / lag;
        return { t, celsius, volts: 14.4 + slope * (felt - 25) + (random() - 0.5) * 0.01 };
      });
      const fit = fitLagged(points);
      expect(fit?.slope).withContext(String(slope)).toBeCloseTo(slope, 2);
      expect(Math.abs((fit?.lagS ?? 0) - lag))
        .withContext(`lag ${lag}`)
        .toBeLessThanOrEqual(60);
    }
    expect(fitLagged([{ t: 0, celsius: 1, volts: 1 }])).toBeNull();
    // Seven readings typed in within seconds, of a voltage that does not move: every long lag would fit them, and show no spread at all.
    const at = [0, 1.6, 4.7, 6.4, 7.9, 11.6, 15.3];
    const typed = [20, 17, 14, 11, 9, 12, 16].map((celsius, i) => ({ t: at[i]!, celsius, volts: i === 1 || i === 4 ? 28.11 : 28.1 }));
    expect([fitLagged(typed)?.lagS, fitLagged(typed)?.spanC]).toEqual([0, 11]);
    // As long as it takes them to be told: 19 s allow no lag of 10 s, 20 s do.
    const slow = (seconds: number) =>
      fitLagged(typed.map((p, i) => ({ ...p, t: (i * seconds) / 6, volts: 28 + 0.01 * [20, 18, 15, 12, 10, 11, 14][i]! })))?.lagS;
    expect(slow(19)).toBe(0);
  });
});

/** The job with the aft charger’s sensor taken out of its pad’s slowness. */
const quickSensor = (job: Job, change: Partial<Sensor>): Job => {
  const aft = job.system.chargers.find((c) => c.id === 'aft');
  return aft ? withCharger(job, 'aft', { sensor: { ...aft.sensor, lagSeconds: 30, ...change } }) : job;
};

/** The simulated launch with its aft charger alone, holding float with a load on, and one slope keyed on it. */
function holding(slope: number): { plant: LivePlant; plan: Plan } {
  const p = plan(wholeTeasel());
  const set = variantValues(p, 'asSet');
  const made = makeLivePlant(
    p,
    { ...scenarioNamed(p, 'clear-day')!, fromHour: 10, charge: 0.97 },
    { ...set, aft: { ...set['aft'], compensationSlope: slope } },
  );
  if (!made.ok) throw new Error(made.problems[0]?.text);
  const plant = made.value;
  for (const other of ['fore', 'dcdc', 'alternator']) plant.isolate(other, true);
  plant.advance(2 * 3600);
  plant.conditions.loadA = 8;
  for (let i = 0; i < 120 && (plant.reading('aft')?.amps ?? 0) < 5; i++) plant.advance(60);
  plant.advance(3600);
  if (!['absorb', 'float'].includes(plant.reading('aft')?.stage ?? '')) throw new Error(`in ${plant.reading('aft')?.stage}`);
  return { plant, plan: p };
}

/** The sensor is taken slowly from 22 °C down to 12 °C, and both are read every minute; at its most current the voltage cannot follow, and that is marked. */
function chilled(plant: LivePlant): readonly Readonly<Record<string, number | string>>[] {
  const readings: Record<string, number | string>[] = [];
  for (let i = 0; i < 60; i++) {
    const celsius = 22 - i / 6;
    plant.holdSensor('aft', celsius);
    plant.advance(60);
    const amps = plant.reading('aft')?.amps ?? 0;
    readings.push({
      celsius: Math.round(celsius * 10) / 10,
      volts: Math.round(plant.bank().volts * 100) / 100,
      regulating: amps > 1 && amps < 18 ? 'yes' : 'no',
    });
  }
  plant.holdSensor('aft', null);
  return readings;
}

describe('the chill test on the simulated charger', () => {
  it('passes with the right slope', () => {
    const { plant, plan: p } = holding(0);
    const rows = judged(p, recordOf('chill', 'aft', {}, chilled(plant), 60));
    expect(rows['compensation']?.verdict)
      .withContext(rows['compensation']?.why ?? '')
      .toBe('pass');
    expect(rows['slopeAsProgrammed']?.verdict).toBe('pass');
  });

  it('fails with the wrong one, and calls it what it is', () => {
    const { plant, plan: p } = holding(-24);
    const rows = judged(p, recordOf('chill', 'aft', {}, chilled(plant), 60));
    expect(rows['compensation']?.verdict)
      .withContext(rows['compensation']?.why ?? '')
      .toBe('fail');
    // 24 mV/°C for each 12 V block: four of these cells stand in one.
    expect(rows['compensation']?.measured).toBeCloseTo(-6, 0);
    expect(rows['compensation']?.why).toContain('compensation was left on');
  });

  it('decides nothing from readings without current to spare, or over too little temperature', () => {
    const p = plan(teasel());
    const flat = Array.from({ length: 20 }, (_, i) => ({ celsius: 20 - i * 0.1, volts: 28.1 }));
    expect(judged(p, recordOf('chill', 'aft', {}, flat))).toEqual({});
    const bulk = Array.from({ length: 20 }, (_, i) => ({ celsius: 20 - i, volts: 27 + i / 50, regulating: 'no' }));
    expect(judged(p, recordOf('chill', 'aft', {}, bulk))).toEqual({});
  });

  it('stays above the cutoff where one sensor serves both, and is refused where the bank would be pushed too high', () => {
    const p = plan(teasel());
    const { coldestC, refused } = chillLimits(p, subjectOf(p, 'aft')!);
    expect(coldestC).toBeGreaterThanOrEqual(4 + p.input.system.chargers.find((c) => c.id === 'aft')!.sensor.errorC + 1);
    expect(refused).toBeNull();
    const lead = rookMoss();
    const tight = plan({ ...lead, system: { ...lead.system, loads: { ...lead.system.loads, maxVolts: 14.75 } } });
    expect(speak(chillLimits(tight, subjectOf(tight, 'mast')!).refused!, 'C')).toContain('less than 5\u00a0°C');
    const over = plan({ ...lead, system: { ...lead.system, loads: { ...lead.system.loads, maxVolts: 14 } } });
    expect(chillLimits(over, subjectOf(over, 'mast')!).refused).not.toBeNull();
  });
});

describe('the low-temperature test on the simulated charger', () => {
  /** A cold morning: what the charger reads beside what the cells are, then ice water until it stops. */
  function morning(offsetC: number) {
    const job = quickSensor(wholeTeasel(), { offsetC, warmLeadC: 0 });
    const p = plan(job);
    const values = variantValues(p, 'asSet');
    const cutoff = 2;
    const made = makeLivePlant(
      p,
      { ...scenarioNamed(p, 'clear-day')!, fromHour: 8, charge: 0.5 },
      { ...values, aft: { ...values['aft'], lowTempCutoff: cutoff, lowTempResume: cutoff + 2 } },
    );
    if (!made.ok) throw new Error(made.problems[0]?.text);
    const plant = made.value;
    plant.shiftTo(3 - plant.bank().celsius);
    plant.advance(3600);
    const cell = plant.bank().celsius;
    const shown = plant.reading('aft')!.celsius;
    plant.shiftTo(12);
    plant.advance(7200);
    plant.holdSensor('aft', 15);
    plant.advance(1800);
    let trip = NaN;
    let held = 15;
    for (let i = 0; i < 200 && Number.isNaN(trip); i++) {
      held = Math.max(0, held - 0.25);
      plant.holdSensor('aft', held);
      plant.advance(90);
      if (plant.reading('aft')!.stage === 'cold') trip = held;
    }
    const amps = plant.reading('aft')!.amps;
    let resumed = NaN;
    for (let i = 0; i < 200 && Number.isNaN(resumed); i++) {
      held += 0.25;
      plant.holdSensor('aft', held);
      plant.advance(90);
      if (plant.reading('aft')!.stage !== 'cold') resumed = held;
    }
    const one = (v: number): number => Math.round(v * 10) / 10;
    return {
      plan: p,
      answers: {
        cells: { cell: one(cell), shown: one(shown) },
        trip: { celsius: one(trip), amps: one(amps), stopped: 'yes' },
        resume: { celsius: one(resumed) },
      },
    };
  }

  it('finds trip and resume where they were keyed, and the cells safe, with the sensor on the cell', () => {
    const { plan: p, answers } = morning(0);
    const rows = judged(p, recordOf('lowTemperature', 'aft', answers), 0.2);
    expect(answers.trip.celsius).toBeCloseTo(2, 0);
    expect(answers.resume.celsius).toBeCloseTo(4, 0);
    expect(rows['noChargeBelowMinimum']?.verdict)
      .withContext(rows['noChargeBelowMinimum']?.why ?? '')
      .toBe('pass');
  });

  it('catches the sensor on its pad: it stops, and the cells are colder than that', () => {
    const { plan: p, answers } = morning(4);
    const rows = judged(p, recordOf('lowTemperature', 'aft', answers), 0.2);
    expect(answers.cells.shown - answers.cells.cell).toBeGreaterThan(3);
    expect(rows['noChargeBelowMinimum']?.verdict).toBe('fail');
    expect(rows['noChargeBelowMinimum']?.why).toContain('sits on a pad');
  });

  it('takes the bath that puts the cutoff to the test: plain ice water must not stop what stops at −8 °C', () => {
    const keyed = (lowTempCutoff: number) =>
      plan({ ...teasel(), overrides: [{ charger: 'aft', role: 'lowTempCutoff', value: lowTempCutoff, reason: 'asked', by: 'owner', date: '2026-06-09' }] });
    const bath = (p: Plan) =>
      testNamed('lowTemperature')
        .prepare(p, subjectOf(p, 'aft')!)
        .steps.find((s) => s.id === 'trip')!;
    expect(bath(keyed(4)).title).toBe('Sensor into the ice water');
    expect(bath(keyed(-8)).title).toBe('Sensor into the ice with salt');
    expect(speak(bath(keyed(-8)).says[0]!, 'F')).toContain('goes down to about −4\u00a0°F');
    expect(speak(bath(keyed(-8)).says[0]!, 'C')).toContain('Plain ice water must not stop it.');
    const p = keyed(-8);
    const went = (coldest?: number) =>
      judged(p, recordOf('lowTemperature', 'aft', { trip: { ...(coldest === undefined ? {} : { coldest }), stopped: 'no' } }))['cutoffAsProgrammed'];
    expect([went(0)?.verdict, went()?.verdict, went(-15)?.verdict]).toEqual(['inconclusive', 'inconclusive', 'fail']);
    expect(went(0)?.why).toContain('which may still be above its cutoff');
    // In ice water nobody has to measure: 0 °C is under 4 °C.
    expect(judged(keyed(4), recordOf('lowTemperature', 'aft', { trip: { stopped: 'no' } }))['cutoffAsProgrammed']?.verdict).toBe('fail');
  });

  it('a charger without a sensor is no dead end: it says what is tested instead', () => {
    const bare = plan(withCharger(teasel(), 'aft', { sensor: { ...teasel().system.chargers[1]!.sensor, fitted: false } }));
    expect(testNamed('lowTemperature').prepare(bare, subjectOf(bare, 'aft')!).refused).toContain('a thermostat with its relay, or the BMS');
  });

  it('fails a charger that goes on in the ice, or that still lets current through', () => {
    const p = plan(teasel());
    expect(judged(p, recordOf('lowTemperature', 'aft', { trip: { celsius: 0, stopped: 'no' } }))['noChargeBelowMinimum']?.verdict).toBe('fail');
    expect(judged(p, recordOf('lowTemperature', 'aft', { trip: { celsius: 4, amps: 3, stopped: 'yes' } }))['noChargeBelowMinimum']?.why).toContain(
      'That is charging',
    );
  });

  it('leaves the cells open while nobody compared them with the sensor', () => {
    const p = plan(teasel());
    const row = judged(p, recordOf('lowTemperature', 'aft', { trip: { celsius: 4, amps: 0, stopped: 'yes' } }))['noChargeBelowMinimum'];
    expect(row?.verdict).toBe('inconclusive');
    expect(row?.next).toContain('would settle it');
  });
});

describe('the other tests', () => {
  const p = plan(wholeTeasel());
  const verdict = (
    code: TestCode,
    device: string,
    answers: Parameters<typeof recordOf>[2],
    asks: string,
    series: Parameters<typeof recordOf>[3] = [],
    every = 300,
  ): string | undefined => judged(p, recordOf(code, device, answers, series, every))[asks]?.verdict;

  it('each pass what is right and fail what is wrong', () => {
    const cases: readonly [string, string | undefined, string | undefined][] = [
      [
        'display',
        verdict('display', 'aft', { rest: { meter: 26.6, display: 26.6 }, charge: { meter: 27.9, display: 27.9 } }, 'displayAgrees'),
        verdict('display', 'aft', { rest: { meter: 26.6, display: 27.1 } }, 'displayAgrees'),
      ],
      [
        'absorb',
        verdict(
          'absorbHold',
          'aft',
          {},
          'absorbLevel',
          Array.from({ length: 6 }, (_, i) => ({ volts: 28.15, amps: 20 - i })),
        ),
        verdict(
          'absorbHold',
          'aft',
          {},
          'absorbLevel',
          Array.from({ length: 6 }, () => ({ volts: 27.85, amps: 20 })),
        ),
      ],
      [
        'float',
        verdict(
          'absorbToFloat',
          'aft',
          {},
          'floatLevel',
          Array.from({ length: 4 }, (_, i) => ({ volts: 26.9, amps: 3 + i })),
        ),
        verdict(
          'absorbToFloat',
          'aft',
          {},
          'floatLevel',
          Array.from({ length: 4 }, () => ({ volts: 27.16, amps: 3 })),
        ),
      ],
      [
        'recharge',
        verdict('recharge', 'aft', { began: { volts: 26.2 } }, 'rechargeLevel'),
        verdict('recharge', 'aft', { began: { volts: 26.7 } }, 'rechargeLevel'),
      ],
      [
        'loads off',
        verdict('loadCutoff', 'monitor', { off: { volts: 24.6 } }, 'loadDisconnect'),
        verdict('loadCutoff', 'monitor', { off: { volts: 23.9 } }, 'loadDisconnect'),
      ],
      [
        'loads on',
        verdict('loadCutoff', 'monitor', { on: { volts: 25.8 } }, 'loadReconnect'),
        verdict('loadCutoff', 'monitor', { on: { volts: 25 } }, 'loadReconnect'),
      ],
      [
        'ceiling',
        verdict('currentCeiling', 'aft', { all: { net: 150 } }, 'currentCeiling'),
        verdict('currentCeiling', 'aft', { all: { net: 220 } }, 'currentCeiling'),
      ],
      [
        'sense lead',
        verdict('regulatorTerminals', 'alternator', { read: { battery: 26.6, sense: 26.58 } }, 'displayAgrees'),
        verdict('regulatorTerminals', 'alternator', { read: { battery: 26.6, sense: 0 } }, 'displayAgrees'),
      ],
      [
        'soft start',
        verdict('alternatorStart', 'alternator', { start: { seconds: 30 } }, 'softStart'),
        verdict('alternatorStart', 'alternator', { start: { seconds: 3 } }, 'softStart'),
      ],
      [
        'machine',
        verdict('alternatorStart', 'alternator', { heat: { celsius: 90 } }, 'machineTemperature'),
        verdict('alternatorStart', 'alternator', { heat: { celsius: 150 } }, 'machineTemperature'),
      ],
      [
        'sisters',
        verdict('sisters', 'aft', { 'of-aft': { volts: 28.1 }, 'of-fore': { volts: 28.12 } }, 'chargersAgree'),
        verdict('sisters', 'aft', { 'of-aft': { volts: 28.1 }, 'of-fore': { volts: 28.4 } }, 'chargersAgree'),
      ],
      [
        'monitor',
        verdict('monitorFull', 'monitor', { full: { shows: 'yes', net: 12 } }, 'monitorFull'),
        verdict('monitorFull', 'monitor', { full: { shows: 'yes', net: 60 } }, 'monitorFull'),
      ],
      [
        'power',
        verdict('powerCycle', 'aft', { read: { kept: 'yes' } }, 'survivesPowerCut'),
        verdict('powerCycle', 'aft', { read: { kept: 'no', lost: 'float' } }, 'survivesPowerCut'),
      ],
      [
        'passcode',
        verdict('passcode', 'aft', { code: { changed: 'yes' } }, 'passcodeChanged'),
        verdict('passcode', 'aft', { code: { changed: 'no' } }, 'passcodeChanged'),
      ],
    ];
    // What a person only said is stated, never proved.
    const said = ['power', 'passcode'];
    for (const [name, right, wrong] of cases)
      expect([right, wrong])
        .withContext(name)
        .toEqual([said.includes(name) ? 'stated' : 'pass', 'fail']);
    const hut = plan(demoJob('skarrow'));
    const divert = (volts: number) => judged(hut, recordOf('turbine', 'turbine', { brake: { stands: 'yes' }, divert: { volts } }))['diversion']?.verdict;
    expect([divert(29), divert(30)]).toEqual(['pass', 'fail']);
  });

  it('a broken sense lead is called so', () => {
    expect(judged(p, recordOf('regulatorTerminals', 'alternator', { read: { battery: 26.6, sense: 0 } }))['displayAgrees']?.why).toContain(
      'the lead is broken',
    );
  });

  it('evidence from a history or from lamps weighs less than a meter, and is stated at best', () => {
    const record = recordOf('recharge', 'aft', { began: { volts: 26.25 } });
    const plus = (grade: TestRecord['grade']): number => judged(p, { ...record, grade })['rechargeLevel']?.uncertainty ?? 0;
    expect(plus('history')).toBeGreaterThan(plus('measured') + 0.05);
    expect(plus('lamps')).toBeGreaterThan(plus('history'));
    expect(judged(p, { ...record, grade: 'lamps' })['rechargeLevel']?.verdict).toBe('inconclusive');
    expect(judged(p, record)['rechargeLevel']?.verdict).toBe('pass');
    const told = judged(p, { ...record, grade: 'history' })['rechargeLevel'];
    expect([told?.verdict, told?.witness]).toEqual(['stated', undefined]);
    expect(told?.why).toContain('nobody measured it');
  });
});

describe('a level that is read again and again', () => {
  const p = plan(teasel());
  type Reading = Readonly<Record<string, number>>;
  /** Absorb readings so many minutes apart. */
  const held = (readings: readonly Reading[], minutes = 5) => {
    const plain = recordOf('absorbHold', 'aft', {});
    const series = readings.map((values, i) => ({ step: 'readings', at: new Date(Date.UTC(2026, 5, 9, 10, i * minutes)).toISOString(), values }));
    return judged(p, { ...plain, series });
  };

  it('is held where its current moves while it stands, and is a touch in one or two readings', () => {
    const fall = [30, 26, 20].map((amps) => ({ volts: 28.1, amps }));
    expect(held(fall)['absorbLevel']?.verdict).toBe('pass');
    expect(held(fall)['absorbLevel']?.witness).toMatch(/between 20.0.A and 30.0.A/);
    expect(held(fall.slice(0, 2))['absorbLevel']?.why).toContain('Two readings are a touch');
    expect(held(fall.slice(0, 1))['absorbLevel']?.verdict).toBe('inconclusive');
    expect(held([30, 30, 29].map((amps) => ({ volts: 28.1, amps })))['absorbLevel']?.verdict).toBe('inconclusive');
    // On its way up the current moves too.
    const rising = [
      { volts: 27.95, amps: 30 },
      { volts: 28.12, amps: 24 },
      { volts: 28.3, amps: 20 },
    ];
    expect(held(rising)['absorbLevel']?.verdict).not.toBe('pass');
    // What is wrong needs no witness.
    expect(held([{ volts: 28.9, amps: 30 }])['absorbLevel']).toBeUndefined();
    expect(held([30, 30, 30].map((amps) => ({ volts: 27.85, amps })))['absorbLevel']?.verdict).toBe('fail');
  });

  it('counts no time between two visits', () => {
    const readings = [30, 24, 18].map((amps) => ({ volts: 28.1, amps }));
    expect(held(readings, 15)['absorbCompleted']?.measured).toBe(1800);
    expect(held(readings, 16)['absorbCompleted']).toBeUndefined();
    expect(
      held(
        Array.from({ length: 10 }, (_, i) => ({ volts: 28.1, amps: 30 - i })),
        5,
      )['absorbCompleted']?.verdict,
    ).toBe('pass');
  });

  it('is ended by a current that fell from reading to reading, not by one small reading', () => {
    const nets = (list: readonly number[]) => held(list.map((net) => ({ volts: 28.1, amps: net + 8, net })))['absorbCompleted'];
    expect(nets([30, 20, 12])?.verdict).toBe('pass');
    expect(nets([30, 20, 12])?.unit).toBe('A');
    expect(nets([12])?.verdict).not.toBe('pass');
    expect(nets([12, 12, 12])?.verdict).not.toBe('pass');
    expect(nets([30, 12])?.verdict).not.toBe('pass');
  });
});

describe('a history page', () => {
  const p = plan(teasel());
  const told = (days: readonly Readonly<Record<string, number>>[], of = p, device = 'aft') => {
    const plain = recordOf('history', device, {});
    return judged(of, { ...plain, series: days.map((values, i) => ({ step: 'readings', at: `2026-05-0${i + 1}T12:00:00.000Z`, values })) });
  };

  it('is stated where its highest volts lie at the setpoint, and fails above the maximum', () => {
    const fine = told([
      { highest: 28.2, absorb: 45 },
      { highest: 28.2, absorb: 60 },
    ]);
    expect([fine['absorbLevel']?.verdict, fine['neverAboveMaximum']?.verdict, fine['absorbCompleted']?.verdict]).toEqual(['stated', 'stated', 'stated']);
    expect(fine['absorbCompleted']?.why).toContain('at least 45');
    const high = told([{ highest: 28.1 }, { highest: 29.2 }]);
    expect([high['absorbLevel']?.verdict, high['neverAboveMaximum']?.verdict]).toEqual(['fail', 'fail']);
    expect(high['absorbLevel']?.why).toContain('On the highest of 2 days');
    // Within its step and what a history rounds nobody can tell.
    expect(told([{ highest: 28.45 }])['neverAboveMaximum']?.verdict).toBe('inconclusive');
    expect(Object.values(fine).every((row) => row.verdict !== 'pass')).toBeTrue();
  });

  it('does not blame a level for days without sun, nor an absorb that a fallen current may have ended', () => {
    const dull = told([{ highest: 26.9, absorb: 0 }]);
    expect([dull['absorbLevel']?.verdict, dull['absorbCompleted']?.verdict]).toEqual(['inconclusive', 'inconclusive']);
  });

  it('refers a compensated level to the battery’s temperature of the day, and is open without it', () => {
    const lead = plan(rookMoss());
    // 14.7 V at 25 °C is 15.06 V at 10 °C.
    const at = (day: Readonly<Record<string, number>>) => told([day], lead, 'mast')['absorbAsProgrammed'];
    expect(at({ highest: 15.06, celsius: 10 })?.measured).toBeCloseTo(14.7, 6);
    expect(at({ highest: 14.7 })?.verdict).toBe('inconclusive');
    expect(
      at({ highest: 14.7 })
        ?.budget.map((l) => l.name)
        .join(),
    ).toContain('temperature of that day is not known');
  });

  it('says nothing of what nobody read', () => {
    expect(told([])).toEqual({});
    expect(told([{ highest: 28.2 }])['absorbCompleted']).toBeUndefined();
  });
});
