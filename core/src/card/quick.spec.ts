import { speak } from '../quantity';
import { findFindings } from '../findings';
import type { Job } from '../job';
import { scenarioNamed, rehearse, variantValues } from '../rehearsal';
import { judgeReading, runSheet } from '../runsheet';
import { find, plan, said, seeded, teasel } from '../testing/fixtures';
import {
  cardQuirks,
  cardSchema,
  foundOut,
  holdValue,
  quickCard,
  quickKinds,
  rangeText,
  unknownsOf,
  unknownWords,
  withEnd,
  withInputAsked,
  withSupposed,
  type Card,
  type CardUnknown,
  type NumberParameter,
  type Plate,
} from './index';

const plate = (change: Partial<Plate> = {}): Plate => ({
  id: 'own',
  maker: 'Ostmark',
  model: 'Q40',
  kind: 'solarMppt',
  outputA: 40,
  systemVolts: [12, 24],
  inputVoltsMax: 100,
  ...change,
});
const today = '2026-06-09';
/** The launch with a charger of which only the plate is known. */
const launch = (change: Partial<Plate> = {}): Job => {
  const job = teasel();
  const { displayReadings: _none, sensor: _unseen, ...fore } = job.system.chargers[0]!;
  return {
    ...job,
    cards: [quickCard(plate(change))],
    system: {
      ...job.system,
      chargers: [
        {
          ...fore,
          card: 'own',
          name: 'Roof',
          present: {},
          displayReadings: [],
          sensor: { place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 },
        },
      ],
    },
  };
};
const roof = launch().system.chargers[0]!.id;

describe('a card from the plate alone', () => {
  it('is a valid card of every kind, with nothing known of its ranges, steps and habits', () => {
    for (const kind of quickKinds) {
      const card = quickCard(plate({ kind }));
      expect(cardSchema.safeParse(card).success).withContext(kind).toBeTrue();
      expect(card.parameters.map((p) => p.role).slice(0, 3))
        .withContext(kind)
        .toEqual(['absorbVoltage', 'absorbTime', 'floatVoltage']);
      for (const p of card.parameters)
        expect(p.unit !== 'choice' && p.notKnown)
          .withContext(`${kind} ${p.role}`)
          .toEqual(['range', 'step']);
    }
    expect(quickCard(plate()).notKnown).toEqual([
      'settings',
      'saving',
      'absorb',
      'recharge',
      'sensor',
      'display',
      'sense',
      'powerCut',
      'batteryLoss',
      'passcode',
    ]);
  });

  it('of a solar charger whose plate does not name its input says so, and is no fault', () => {
    const card = quickCard(plate({ inputVoltsMax: undefined }));
    expect([card.ratings.arrayVoltsMax, card.notKnown?.at(-1)]).toEqual([undefined, 'input']);
    expect(unknownWords[unknownsOf(card).at(-1)!]).toBe('how many volts its input takes');
    expect(quickCard(plate({ kind: 'dcdc', inputVoltsMax: 32 })).ratings.inputVolts).toEqual({ min: 0, max: 32 });
  });

  it('without a system voltage is none', () => {
    expect(() => quickCard(plate({ systemVolts: [] }))).toThrow();
  });

  it('says what is not known, and nothing that nobody said', () => {
    const quirks = cardQuirks(quickCard(plate())).join(' ');
    expect(quirks).toContain('how it starts, counts and ends absorb');
    expect(quirks).toContain('Not known: its ranges and steps; which settings it has; how it saves');
    for (const invented of ['first touch', 'does not survive', 'has no low-temperature cutoff', 'passcode that everybody knows'])
      expect(quirks).not.toContain(invented);
  });
});

describe('a charger of which only the plate is known, on a job', () => {
  it('gets exact values, with the sentence what to do about its steps', () => {
    const absorb = plan(launch()).setting(roof, 'absorbVoltage')!;
    expect([absorb.value, absorb.within]).toEqual([28.1, 'inside']);
    expect(absorb.derivation.map((s) => s.words)).toContain('Its steps are not known: enter this, or the nearest below that it takes, and note it');
    expect(plan(launch()).setting(roof, 'absorbTime')?.trueValue).toBe(2400);
    // Lithium: no compensation, which is off on any device.
    expect(plan(launch()).setting(roof, 'compensationSlope')?.off).toBeTrue();
  });

  it('keeps within its own rating, whatever the ceiling of the bank', () => {
    expect(plan(launch({ outputA: 20 })).setting(roof, 'chargeCurrentLimit')?.trueValue).toBe(20);
  });

  it('is no working cold protection, and what is not known of it is told once, with what it costs', () => {
    expect(find(launch(), 'coldProtection')?.text).toContain('nobody knows yet whether it has a low-temperature cutoff');
    const finding = find(launch(), 'cardNotKnown')!;
    expect([finding.severity, finding.charger]).toEqual(['attention', roof]);
    expect(finding.text).toContain('the card of Q40 does not say its ranges and steps, which settings it has, how it saves');
    const codes = findFindings(plan(launch()), today).map((f) => f.code);
    for (const quiet of ['settingAbsent', 'rangeCannotReach', 'wrapNearValue', 'valueLost', 'defaultPasscode', 'firmwareOtherThanCard'])
      expect(codes).not.toContain(quiet as never);
    for (const { text } of said(launch())) expect(text).not.toMatch(/undefined|NaN|null/);
  });

  it('has a run sheet that asks instead of claiming', () => {
    const sheet = runSheet(plan(launch()), null);
    const of = (id: string) => sheet.steps.find((s) => s.id === `${roof}/${id}`);
    expect(of('edit/absorbVoltage')?.notes).toContain(
      'Its steps are not known. If it does not take this value, set the nearest below that it takes, and enter what it shows.',
    );
    expect(of('sensor')?.title).toBe('See whether it has a temperature sensor');
    expect(of('compare')?.says.join(' ')).toContain('Whether its display can be adjusted is not known');
    expect(of('passcode')).toBeUndefined();
    expect(sheet.steps.find((s) => s.id === `open/${roof}`)?.caution).toContain('Nobody knows whether Roof survives losing the battery');
  });

  it('takes what its display takes beside the value, within the coarsest step of displays, and nothing past the band', () => {
    const job = launch();
    const step = runSheet(plan(job), null).steps.find((s) => s.id === `${roof}/edit/absorbVoltage`)!;
    const judge = (seen: number) => judgeReading(plan(job), step, seen);
    expect([judge(28.1).diagnosis, judge(28).diagnosis, judge(28).mayKeep, judge(28.2).mayKeep]).toEqual(['same', 'rounded', true, true]);
    expect(judge(28).says).toMatch(/^28\.00\sV is the nearest it takes\./);
    // Further than two tenths at 24 V, or out of the band, it is no rounding.
    expect([judge(28.4).diagnosis, judge(27.9).mayKeep, judge(28.5).mayKeep]).toEqual(['acceptable', false, false]);
  });

  it('is rehearsed as the usual device of its kind, and the day says so', () => {
    const p = plan(launch());
    const run = rehearse({ plan: p, scenario: scenarioNamed(p, 'clear-day')!, values: variantValues(p, 'asSet') }, { stepS: 30, longestS: 300 });
    expect(run.ok && run.value.notes.join(' ')).toContain(
      'Of Roof it is not known how it starts, counts and ends absorb: it is rehearsed as the usual charger',
    );
  });

  it('never gets a value outside the sheet, whatever its plate', () => {
    const random = seeded(40);
    for (let i = 0; i < 60; i++) {
      const kind = quickKinds[Math.floor(random() * quickKinds.length)]!;
      const job = launch({ kind, outputA: 5 + Math.floor(random() * 100), systemVolts: [24] });
      for (const s of plan(job).settings) expect(s.within).withContext(`${kind} ${s.role} ${s.value}`).not.toBe('outside');
    }
  });

  const known = (change: (card: Card) => Card): Job => ({ ...launch(), cards: [change(launch().cards[0]!)] });
  const ends = (own: Partial<NumberParameter>): Job =>
    known((card) => ({ ...card, parameters: card.parameters.map((p) => (p.role === 'absorbVoltage' && p.unit !== 'choice' ? { ...p, ...own } : p)) }));

  it('with one end of a range known is out of reach beyond that end alone, and the sentence names no other', () => {
    const short = ends({ max: 27.5, notKnown: ['least', 'step'] });
    expect(plan(short).setting(roof, 'absorbVoltage')?.value).toBe(27.5);
    expect(
      plan(short)
        .setting(roof, 'absorbVoltage')
        ?.derivation.map((s) => speak(s.words, 'C').replace(/\u00a0/g, ' ')),
    ).toContain('The charger only takes at most 27.50 V');
    expect(find(short, 'rangeCannotReach')?.text.replace(/\u00a0/g, ' ')).toBe('Roof takes at most 27.50 V for absorb. The sheet requires 28.10 V.');
    const high = ends({ min: 28.6, notKnown: ['most', 'step'] });
    expect(find(high, 'rangeCannotReach')?.text.replace(/\u00a0/g, ' ')).toBe('Roof takes at least 28.60 V for absorb. The sheet requires 28.10 V.');
    expect(find(ends({ max: 28.1, notKnown: ['least', 'step'] }), 'rangeCannotReach')).toBeUndefined();
    // With the other end known it is none that blocks.
    expect(find(ends({ min: 20, max: 27.5, notKnown: ['range', 'step'] }), 'rangeCannotReach')).toBeUndefined();
    expect(rangeText(card0({ min: 20, max: 30, notKnown: [] }), 24)).toBe('20.00\u00a0V to 30.00\u00a0V');
    expect(rangeText(card0({ notKnown: ['range'] }), 24)).toBe('');
  });
  const card0 = (own: Partial<NumberParameter>): NumberParameter => ends(own).cards[0]!.parameters.find((p) => p.role === 'absorbVoltage') as NumberParameter;

  it('tried out on the card says that its steps are not known, and what it takes at the most', () => {
    const at = { systemVolts: 24, cellsInSeries: 8, ratingA: 40 };
    expect(holdValue(launch().cards[0]!, 'absorbVoltage', 28.1, at).steps).toEqual([
      'Its steps are not known: enter this, or the nearest below that it takes.',
    ]);
    const most = ends({ max: 28, notKnown: ['least', 'step'] }).cards[0]!;
    expect(holdValue(most, 'absorbVoltage', 28.1, at).steps[0]?.replace(/\u00a0/g, ' ')).toBe('It takes at most 28.00 V: the nearest is 28.00 V.');
  });

  it('of which one habit was found out says no more that it is not known', () => {
    const found = (...what: CardUnknown[]): Job => known((card) => ({ ...card, notKnown: [...what.reduce(foundOut, card.notKnown!)] }));
    const notes = (job: Job): string => {
      const p = plan(job);
      const run = rehearse({ plan: p, scenario: scenarioNamed(p, 'clear-day')!, values: variantValues(p, 'asSet') }, { stepS: 30, longestS: 300 });
      return run.ok ? run.value.notes.join(' ') : '';
    };
    expect(notes(found('absorbStart', 'absorbCount', 'absorbCurrent'))).toContain('Of Roof it is not known what ends absorb: it is rehearsed');
    expect(notes(found('absorbStart', 'absorbCount', 'absorbCurrent', 'absorbEnd'))).not.toContain('Of Roof');
    const step = (job: Job, id: string) => runSheet(plan(job), null).steps.find((s) => s.id === `${roof}/${id}`);
    expect(step(found('displayAdjust'), 'compare')?.says.join(' ')).toContain('It cannot be calibrated');
    expect(step(found('sensorKind'), 'sensor')?.says.join(' ')).toContain('What it does with one is not known');
    expect(step(found('sensorKind', 'sensorUse'), 'sensor')?.title).toBe('Unplug its temperature sensor');
  });

  it('is not said to end absorb in another way than its neighbour while nobody knows how it does', () => {
    const two = (change: (card: Card) => Card): Job => {
      const job = launch();
      const other = cardSchema.parse({ ...job.cards[0]!, id: 'other', notKnown: [], absorb: { ...job.cards[0]!.absorb, end: 'taper' } });
      return {
        ...job,
        cards: [change(job.cards[0]!), other],
        system: {
          ...job.system,
          chargers: [...job.system.chargers.filter((c) => c.id === roof), { ...job.system.chargers[0]!, id: 'two', name: 'Two', card: 'other' }],
        },
      };
    };
    expect(
      find(
        two((card) => card),
        'absorbEndsDiffer',
      ),
    ).toBeUndefined();
    expect(
      find(
        two((card) => ({ ...card, notKnown: ['absorbStart'] })),
        'absorbEndsDiffer',
      ),
    ).toBeDefined();
  });
});

describe('what is noted on a card by hand', () => {
  const card = quickCard(plate());
  const float = card.parameters.find((p): p is NumberParameter => p.role === 'floatVoltage')!;

  it('knows an end from then on, and not any more when it is taken back', () => {
    const most = withEnd(card, float, 'most', 29.2);
    expect([most.max, most.notKnown]).toEqual([29.2, ['least', 'step']]);
    const all = withEnd(card, withEnd(card, most, 'least', 24), 'step', 0.1);
    expect([all.min, all.max, all.step, all.notKnown]).toEqual([24, 29.2, 0.1, undefined]);
    const back = withEnd(card, all, 'most', null);
    // As wide as before anybody looked; what else is known stays.
    expect([back.min, back.max, back.step, back.notKnown]).toEqual([24, float.max, 0.1, ['most']]);
    // Never coarser than it was known to be.
    expect(withEnd(card, { ...all, step: 0.005 }, 'step', null).step).toBe(0.005);
    expect(withEnd(card, all, 'step', null).step).toBe(float.step);
  });

  it('takes a setting up as one of which only its meaning is known', () => {
    const { parameters } = card;
    for (const role of parameters.map((p) => p.role)) {
      const without = { ...card, parameters: parameters.filter((p) => p.role !== role) };
      expect(withSupposed(without, role).parameters.at(-1))
        .withContext(role)
        .toEqual(parameters.find((p) => p.role === role));
    }
    const type = withSupposed(card, 'batteryType').parameters.at(-1);
    expect(type?.unit === 'choice' && type.options.map((o) => o.means)).toEqual(['on', 'off']);
    expect(cardSchema.safeParse(withSupposed(card, 'batteryType')).success).toBeTrue();
  });

  it('asks for the volts of a solar input alone, and once', () => {
    const { arrayVoltsMax: _known, ...ratings } = card.ratings;
    const open = withInputAsked({ ...card, ratings });
    expect(open.notKnown?.filter((what) => what === 'input')).toEqual(['input']);
    expect(withInputAsked(open).notKnown).toEqual(open.notKnown);
    expect(withInputAsked({ ...open, kind: 'dcdc' }).notKnown).not.toContain('input');
    expect(withInputAsked({ ...open, ratings: card.ratings }).notKnown).not.toContain('input');
  });
});
