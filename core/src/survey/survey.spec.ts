import { cardQuirks, cardSchema, isUnknown, parameterFor, quickCard, type NumberParameter, type Role } from '../card';
import { seeded } from '../testing/fixtures';
import { manuals, surveyedFrom } from '../testing/manuals';
import { surveyEnglish } from '../words';
import {
  answersOf,
  asksOf,
  cardOfSurvey,
  foundOnDevice,
  freeItem,
  habitsFor,
  meaningsOf,
  movedBy,
  mostItems,
  onItem,
  readShown,
  searchRoles,
  startSurvey,
  withItem,
  withItemMoved,
  withoutItem,
  type Survey,
  type SurveyItem,
} from './index';

const texts = surveyEnglish;
const quick = (plate: Partial<Parameters<typeof quickCard>[0]> = {}) =>
  quickCard({ id: 'mine', maker: 'Ostmark', model: 'Q40', kind: 'solarMppt', outputA: 40, systemVolts: [12, 24], inputVoltsMax: 100, ...plate });
const empty = (plate: Partial<Parameters<typeof quickCard>[0]> = {}): Survey => startSurvey(quick(plate), '2026-06-09');
const item = (own: Partial<SurveyItem> = {}): SurveyItem => ({
  id: 'i1',
  label: 'bU',
  menu: [],
  shown: '14.4',
  options: [],
  looked: true,
  unit: 'V',
  role: 'absorbVoltage',
  ...own,
});
const having = (...items: Partial<SurveyItem>[]): Survey => ({ ...empty(), items: items.map((own, i) => item({ id: `i${i + 1}`, ...own })) });
const number = (survey: Survey, role: Role): NumberParameter => {
  const p = parameterFor(cardOfSurvey(survey, texts), role);
  if (!p || p.unit === 'choice') throw new Error(`no number for ${role}`);
  return p;
};

describe('what a display shows', () => {
  it('is a number with or without a unit, with point or comma, or a word', () => {
    const number = (value: number, decimals: number, unit?: string) => ({ kind: 'number', value, decimals, ...(unit ? { unit } : {}) });
    for (const [text, read] of [
      ['14.4', number(14.4, 1)],
      ['14,40 V', number(14.4, 2, 'V')],
      ['−3 mV/°C', number(-3, 0, 'mV/°C')],
      ['-4.0 mV/°C/cell', number(-4, 1, 'mV/°C/cell')],
      ['2.45 V/cell', number(2.45, 2, 'V/cell')],
      ['2 h', number(2, 0, 'h')],
      ['120 min', number(120, 0, 'min')],
      ['41°F', number(41, 0, '°F')],
      ['80 %', number(80, 0, '%')],
      ['30 days', number(30, 0, 'd')],
    ] as const)
      expect(readShown(text))
        .withContext(text)
        .toEqual(read as never);
    for (const word of ['USE', 'b1', '14.4 furlongs', '--', '1.2.3']) expect(readShown(word)).withContext(word).toEqual({ kind: 'word' });
    expect(readShown('  ')).toEqual({ kind: 'nothing' });
  });
});

describe('the meaning of an item', () => {
  const of = (label: string, shown: string, own: Partial<Parameters<typeof meaningsOf>[1]> = {}) =>
    meaningsOf({ label, shown }, { kind: 'solarMppt', systemVolts: [12], taken: [], terms: texts.roleTerms, ...own });

  it('is guessed from its name before the size of what it shows', () => {
    expect(of('Float voltage', '14.4')[0]).toEqual(jasmine.objectContaining({ role: 'floatVoltage', unit: 'V', reasons: ['name'] }));
    expect(of('bU', '14.4').map((g) => g.role)).toContain('absorbVoltage');
    expect(of('Equalize voltage', '15.5 V')[0]?.role).toBe('equaliseVoltage');
  });

  it('reads terms of other devices as what they mean there: none of these is absorb, float or the load', () => {
    expect(of('High voltage disconnect', '15.5')[0]?.role).toBe('highVoltageAlarm');
    expect(of('Boost reconnect', '13.2')[0]?.role).toBe('rechargeVoltage');
    expect(of('Float cancel', '12.6')[0]?.role).toBe('rechargeVoltage');
    expect(of('Absorption duration', '120 min')[0]?.role).toBe('absorbTime');
  });

  it('of a bare label comes from size, unit and what was before it', () => {
    const [first] = of('X1', '13.7', { before: 'absorbVoltage', taken: ['absorbVoltage'] });
    expect(first).toEqual(jasmine.objectContaining({ role: 'floatVoltage', reasons: ['value', 'order'] }));
    expect(of('X2', '120 min').map((g) => g.role)).toContain('absorbTime');
    expect(of('X3', '7.31 km')).toEqual([]);
    expect(of('X4', '')).toEqual([]);
  });

  it('tells volts of a 12 V block and of a cell from volts of the bank by their size', () => {
    expect(of('Absorption', '14.4', { systemVolts: [48] })[0]?.unit).toBe('V/12V');
    expect(of('Absorption', '2.40', { systemVolts: [48] })[0]?.unit).toBe('V/cell');
    expect(of('Absorption', '57.6', { systemVolts: [48] })[0]?.unit).toBe('V');
  });

  it('stands higher for a usual value, for one that comes behind in most menus, and for what most chargers have', () => {
    const score = (label: string, shown: string, before?: Role): number => of(label, shown, { before }).find((g) => g.role === 'floatVoltage')?.score ?? 0;
    expect(score('Float', '13.6') - score('Float', '19.6')).toBeCloseTo(3, 9);
    expect(score('Float', '13.6', 'absorbVoltage') - score('Float', '13.6')).toBeCloseTo(1, 9);
    expect(score('Float', '13.6') - score('Float', '14')).toBeCloseTo(3.6, 9);
    expect(of('Float', '').map((g) => g.score)[0]).toBeCloseTo(9.5, 9);
  });

  it('is not proposed twice, and not on a kind of device that has none', () => {
    expect(of('Float', '13.6', { taken: ['floatVoltage'] }).map((g) => g.role)).not.toContain('floatVoltage');
    expect(of('Brake', '16.0').map((g) => g.role)).not.toContain('brakeVoltage');
    expect(of('Brake', '16.0', { kind: 'turbine' })[0]?.role).toBe('brakeVoltage');
  });

  it('is among the first three for nineteen in twenty lines of the made-up manuals that name it', () => {
    const lines = Object.values(manuals).flatMap(({ plate, lines }) => lines.filter((l) => l.is !== null && !l.options).map((line) => ({ plate, line })));
    const hits = lines.filter(({ plate, line }) =>
      meaningsOf({ label: line.label, shown: line.shows }, { kind: plate.kind, systemVolts: plate.systemVolts, taken: [], terms: texts.roleTerms })
        .slice(0, 3)
        .some((g) => g.role === line.is),
    );
    expect(hits.length / lines.length).toBeGreaterThanOrEqual(0.95);
  });

  it('is found by plain words, and all are there when nothing is typed', () => {
    expect(searchRoles('lvd', texts.roleTerms)[0]).toBe('loadDisconnect');
    expect(searchRoles('tail', texts.roleTerms)[0]).toBe('taperCurrent');
    expect(searchRoles('batt', texts.roleTerms)[0]).toBe('batteryType');
    expect(searchRoles('', texts.roleTerms).length).toBeGreaterThan(50);
    expect(searchRoles('zeppelin', texts.roleTerms)).toEqual([]);
  });
});

describe('what does not fit together', () => {
  const codes = (own: Partial<SurveyItem>, ...others: Partial<SurveyItem>[]): string[] => asksOf(having(own, ...others), 'i1').map((a) => a.code);
  const yes = (own: Partial<SurveyItem>): SurveyItem => {
    const survey = having(own);
    return onItem(survey, 'i1', asksOf(survey, 'i1')[0]!.yes!).items[0]!;
  };

  it('is asked, with a way to mend it; what is just right is not', () => {
    for (const [own, code, right] of [
      [{ least: 13, most: 12 }, 'ranRound', { least: 13, most: 15 }],
      [{ shown: '', least: 15, most: 15 }, 'endsCrossed', { shown: '', least: 15, most: 15.1 }],
      [{ most: 14.3, runsRound: true, least: 12 }, 'outsideEnds', { most: 14.4, runsRound: true, least: 12 }],
      [{ least: 14.5, runsRound: true, most: 16 }, 'outsideEnds', { least: 14.4, runsRound: true, most: 16 }],
      [{ least: 13, most: 15, step: 0.3 }, 'stepUneven', { least: 13, most: 15, step: 0.4 }],
      [{ least: 13, most: 15, step: 2.5 }, 'stepTooWide', { least: 13, most: 15, step: 2 }],
      [{ shown: '144' }, 'pointMissing', { shown: '44' }],
      [{ role: 'absorbTime' as const }, 'unitOther', { role: 'absorbTime' as const, unit: 'h' as const }],
      [
        { unit: 'choice' as const, shown: 'GEL', options: ['GEL '], role: 'batteryType' as const },
        'oneOption',
        { unit: 'choice' as const, shown: 'GEL', options: ['AGM'], role: 'batteryType' as const },
      ],
    ] as const) {
      expect(codes(own as Partial<SurveyItem>))
        .withContext(code)
        .toEqual([code]);
      expect(codes(right as Partial<SurveyItem>))
        .withContext(`${code}, right`)
        .toEqual([]);
    }
  });

  it('asks about a label or a meaning that is there twice, and names the other', () => {
    expect(asksOf(having({}, { role: 'floatVoltage' }), 'i1')).toEqual([{ code: 'labelTwice', label: 'bU', place: 2 }]);
    expect(codes({}, { role: 'floatVoltage', menu: ['Load'] })).toEqual([]);
    expect(asksOf(having({}, { label: 'FL' }), 'i1')).toEqual([{ code: 'roleTwice', role: 'absorbVoltage', place: 2 }]);
    expect(codes({ role: null }, { label: 'FL', role: null })).toEqual([]);
  });

  it('takes a yes over: runs round, swapped ends, a point', () => {
    expect(yes({ most: 13 })).toEqual(jasmine.objectContaining({ runsRound: true, least: 13, most: undefined }));
    expect(yes({ least: 15.5 })).toEqual(jasmine.objectContaining({ runsRound: true, most: 15.5, least: undefined }));
    expect(yes({ shown: '', least: 16, most: 13 })).toEqual(jasmine.objectContaining({ least: 13, most: 16 }));
    expect(yes({ shown: '144' }).shown).toBe('14.4');
  });

  it('says each in two sentences, and nothing is refused', () => {
    const asks = [having({ least: 16, most: 13, shown: '' }), having({ most: 13 }), having({ shown: '144' }), having({}, {})].flatMap((s) => asksOf(s, 'i1'));
    for (const ask of asks) {
      const said = texts.asks(ask);
      expect(said.says).toMatch(/^[A-Z0-9].*\.$/);
      expect(said.question).toMatch(/[.?]$/);
    }
    const says = (own: Partial<SurveyItem>): string => texts.asks(asksOf(having(own), 'i1')[0]!).says;
    expect(says({ most: 13 })).toBe('It shows 14.4, and then 13.');
    expect(says({ least: 15 })).toBe('It shows 14.4, and then 15.');
    expect(says({ least: 13, most: 15, step: 2.5 })).toBe('One press of 2.5 is more than the whole range of 2.');
    expect(says({ least: 13, most: 15, step: 0.3 })).toBe('Steps of 0.3 do not lead from 13 to 15.');
    expect(says({ most: 14.3, runsRound: true, least: 12 })).toBe('It shows 14.4, above its end at 14.3.');
    expect(says({ least: 14.5, runsRound: true, most: 16 })).toBe('It shows 14.4, below its end at 14.5.');
    expect(says({ shown: '', least: 16, most: 13 })).toBe('16 is not below 13.');
  });
});

describe('the card of a survey', () => {
  it('of nothing said is the card it began with', () => {
    expect(cardOfSurvey(empty(), texts)).toEqual(quick());
  });

  it('has the ends and the step that were tried, and says which were not', () => {
    const p = number(having({ most: 15, least: 13, step: 0.1 }), 'absorbVoltage');
    expect([p.min, p.max, p.step, p.notKnown, p.label]).toEqual([13, 15, 0.1, undefined, 'bU']);
    const upper = number(having({ most: 15 }), 'absorbVoltage');
    expect([upper.max, upper.notKnown]).toEqual([15, ['least', 'step']]);
    expect(upper.min).toBeLessThan(2);
  });

  it('counts steps from what is known to lie on them', () => {
    const p = number(having({ shown: '14.45', step: 0.1, most: undefined }), 'absorbVoltage');
    const steps = (14.45 - p.min) / p.step;
    expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-6);
    expect(p.notKnown).toEqual(['least', 'most']);
  });

  it('takes what contradicts itself as not known', () => {
    expect(number(having({ least: 16, most: 13, shown: '' }), 'absorbVoltage').notKnown).toEqual(['least', 'most', 'step']);
    expect(number(having({ least: 12, most: 14.3, step: 0.1 }), 'absorbVoltage').notKnown).toEqual(['most']);
    expect(number(having({ least: 13, most: 15, step: 5 }), 'absorbVoltage').notKnown).toEqual(['step']);
  });

  it('keeps what nobody knows the meaning of as a setting to leave alone', () => {
    const card = cardOfSurvey(having({ label: 'P07', shown: '50', role: null }, { label: 'P08', shown: '', role: undefined }), texts);
    expect(card.others).toEqual([
      { label: 'P07', menu: [], shows: '50' },
      { label: 'P08', menu: [] },
    ]);
    expect(cardQuirks(card).join(' ')).toContain('Settings that nobody knows the meaning of; leave them alone: P07, P08.');
  });

  it('keeps the usual settings until the whole list was walked, and then has those alone', () => {
    const open = cardOfSurvey(having({}), texts);
    expect([open.parameters.length, isUnknown(open, 'settings')]).toEqual([quick().parameters.length, true]);
    const walked = cardOfSurvey({ ...having({}), walked: true }, texts);
    expect([walked.parameters.map((p) => p.role), isUnknown(walked, 'settings')]).toEqual([['absorbVoltage'], false]);
  });

  it('reads a slope without its minus as one, and lets nought be off', () => {
    const p = number(having({ role: 'compensationSlope', unit: 'mV/°C/cell', shown: '3' }), 'compensationSlope');
    expect([p.slopeSign, p.min, p.max, p.special]).toEqual(['positive', 0, 10, [{ value: 0, means: 'off' }]]);
    // A range that was tried on the side without minus says so too, where nothing was read.
    const tried = number(having({ role: 'compensationSlope', unit: 'mV/°C/cell', shown: '', least: 0, most: 6 }), 'compensationSlope');
    expect([tried.slopeSign, tried.min, tried.max]).toEqual(['positive', 0, 6]);
    expect(number(having({ role: 'compensationSlope', unit: 'mV/°C/cell', shown: '', least: -6, most: 0 }), 'compensationSlope').slopeSign).toBeUndefined();
    expect(number(having({ role: 'compensationSlope', unit: 'mV/°C/cell', shown: '' }), 'compensationSlope').slopeSign).toBeUndefined();
    expect(number(having({ role: 'compensationSlope', unit: 'mV/°C/cell', shown: '-3' }), 'compensationSlope').slopeSign).toBeUndefined();
  });

  it('knows what choices mean, and keeps a choice with one known word aside', () => {
    const card = cardOfSurvey(having({ role: 'batteryType', unit: 'choice', shown: 'USE', options: ['GEL', 'user'] }), texts);
    const p = parameterFor(card, 'batteryType');
    expect(p?.unit === 'choice' && p.options).toEqual([
      { value: 'GEL', means: 'other' },
      { value: 'user', means: 'custom' },
      { value: 'USE', means: 'other' },
    ]);
    const mode = parameterFor(cardOfSurvey(having({ role: 'loadMode', unit: 'choice', shown: 'dusk', options: ['on', 'off'] }), texts), 'loadMode');
    expect(mode?.unit === 'choice' && mode.options.map((o) => o.means)).toEqual(['on', 'off', 'other']);
    expect(cardOfSurvey(having({ role: 'loadMode', unit: 'choice', shown: 'dusk' }), texts).others?.map((o) => o.label)).toEqual(['bU']);
  });

  it('takes an answer that lacks its number as no answer', () => {
    const held = (holdS?: number) => cardOfSurvey({ ...empty(), habits: { absorbStart: 'held' }, ...(holdS === undefined ? {} : { holdS }) }, texts);
    expect(isUnknown(held(), 'absorbStart')).toBeTrue();
    expect([isUnknown(held(30), 'absorbStart'), held(30).absorb.start]).toEqual([false, { kind: 'held', seconds: 30 }]);
    expect(isUnknown(held(30), 'absorbEnd')).toBeTrue();
    const goes = cardOfSurvey({ ...empty(), habits: { timeout: 'goes' }, timeoutS: 20 }, texts);
    expect([goes.commit.timeoutSeconds, isUnknown(goes, 'saveTimeout'), isUnknown(goes, 'saveWay')]).toEqual([20, false, true]);
  });

  it('finds out one thing with each answer, and says how it saves', () => {
    for (const id of habitsFor(quick()))
      for (const answer of answersOf(id)) {
        const survey: Survey = { ...having({}), habits: { [id]: answer }, timeoutS: 9, holdS: 9, forgets: ['i1'] };
        const [before, after] = [cardOfSurvey(having({}), texts), cardOfSurvey(survey, texts)];
        if (id !== 'bench') expect(JSON.stringify(after.notKnown)).withContext(`${id} ${answer}`).not.toBe(JSON.stringify(before.notKnown));
        else expect(after.programming.bench).toBe(answer === 'yes');
      }
    expect(cardOfSurvey({ ...empty(), keep: 'Set', habits: { save: 'long' } }, texts).commit).toEqual(
      jasmine.objectContaining({ kind: 'longPress', how: 'Hold Set until the display answers' }),
    );
  });

  it('asks whose current ends absorb only where a current does, and nothing of a sensor that is not there', () => {
    expect(habitsFor(quick())).not.toContain('absorbCurrent');
    expect(habitsFor(cardOfSurvey({ ...empty(), habits: { absorbEnd: 'first' } }, texts))).toContain('absorbCurrent');
    const none = cardOfSurvey({ ...empty(), habits: { sensorKind: 'none' } }, texts);
    expect([habitsFor(none).includes('sensorLoss'), isUnknown(none, 'sensor')]).toEqual([false, false]);
  });

  it('makes a preset of what a choice moved, and a value that follows of what a number moved', () => {
    const items = [
      { label: 'type', role: 'batteryType' as const, unit: 'choice' as const, shown: 'USE', options: ['USE', 'GEL'] },
      { label: 'bU' },
      { label: 'FL', role: 'floatVoltage' as const, shown: '13.6' },
    ];
    const base = having(...items);
    const preset = cardOfSurvey({ ...base, changes: [{ item: 'i1', to: 'GEL', shows: { i2: '14.1', i3: '13.60' } }] }, texts);
    expect(preset.presets).toEqual([{ name: 'GEL', sets: { absorbVoltage: 14.1 } }]);
    const linked = cardOfSurvey({ ...base, changes: [{ item: 'i2', to: '14.6', shows: { i3: '13.8' } }] }, texts);
    expect(parameterFor(linked, 'floatVoltage')?.movesWith).toBe('absorbVoltage');
    expect(parameterFor(linked, 'absorbVoltage')?.movesWith).toBeUndefined();
    expect(movedBy(base, 'i2', { i3: '13.8', i1: 'USE' }).map((m) => [m.item.id, m.from, m.to])).toEqual([['i3', '13.6', '13.8']]);
  });

  it('gives what was read as values on the device, and nothing that was not', () => {
    const survey = having({ shown: '14,4 V' }, { label: 'FL', role: 'floatVoltage', shown: '' }, { label: 'P7', role: null, shown: '50' });
    expect(foundOnDevice(survey, cardOfSurvey(survey, texts))).toEqual({ absorbVoltage: 14.4 });
  });

  it('is a card that can be worked with, whatever was typed: five hundred surveys at random', () => {
    const next = seeded(7);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
    const roles = searchRoles('', texts.roleTerms);
    for (let round = 0; round < 500; round++) {
      const items = Array.from({ length: Math.floor(next() * 12) }, (_, i) =>
        item({
          id: `i${i + 1}`,
          label: pick(['bU', 'FL', '', 'P07 something', '🙂']),
          shown: pick(['', '14.4', '-3', '1e9', 'USE', '2 h', '99999', '0', '0.001']),
          unit: pick(['V', 'V/12V', 'choice', 'min', '°F', 'A', 'mV/°C/12V', undefined] as const),
          role: pick([...roles, null, undefined]),
          least: pick([undefined, 13, -50, 0, 99_999]),
          most: pick([undefined, 15, 0, -99_999]),
          step: pick([undefined, 0.1, 0.3, 500]),
          options: pick([[], ['on'], ['on', 'off'], ['on', 'on', ' ']]),
          ...(next() < 0.3 ? { runsRound: true } : {}),
        }),
      );
      const survey: Survey = {
        ...empty({ kind: pick(['solarMppt', 'dcdc', 'alternator', 'turbine'] as const), outputA: pick([0.5, 40]), systemVolts: pick([[12], [12, 24, 48]]) }),
        items,
        walked: next() < 0.5,
        forgets: items.slice(0, 2).map((i) => i.id),
        habits: Object.fromEntries(habitsFor(quick()).map((id) => [id, pick([...answersOf(id), 'nonsense'])])),
        changes: items.length > 1 ? [{ item: 'i1', to: pick(['GEL', '15']), shows: { i2: pick(['13', 'on', '99999']) } }] : [],
      };
      const card = cardOfSurvey(survey, texts);
      expect(cardSchema.safeParse(card).success).withContext(`round ${round}`).toBeTrue();
      for (const p of card.parameters) if (p.unit !== 'choice' && !p.notKnown) expect(p.max).toBeGreaterThan(p.min);
    }
  });
});

describe('a survey of each of the eight made-up chargers', () => {
  for (const [name, manual] of Object.entries(manuals))
    it(`gives ${name} a card that says every habit its manual tells`, () => {
      const quirks = cardQuirks(cardOfSurvey(surveyedFrom(manual), texts))
        .join(' ')
        .replace(/\u00a0/g, ' ');
      for (const quirk of manual.quirks) expect(quirks).toContain(quirk);
      expect(asksOf(surveyedFrom(manual), 'i1')).toEqual([]);
    });
});

describe('the list of a survey', () => {
  it('is changed at one place, and never beyond what a device may have', () => {
    const survey = having({}, { label: 'FL', role: 'floatVoltage' });
    expect(freeItem(survey)).toBe('i3');
    expect(freeItem(withoutItem(survey, 'i1'))).toBe('i3');
    expect(withItem(survey, item({ id: 'i3' }), 'i1').items.map((i) => i.id)).toEqual(['i1', 'i3', 'i2']);
    expect(withItemMoved(survey, 'i1', 1).items.map((i) => i.id)).toEqual(['i2', 'i1']);
    expect(withItemMoved(survey, 'i1', -1)).toBe(survey);
    const full = { ...survey, items: Array.from({ length: mostItems }, (_, i) => item({ id: `i${i + 1}` })) };
    expect(withItem(full, item({ id: 'more' }))).toBe(full);
  });

  it('forgets with an item what was noted of it', () => {
    const survey: Survey = {
      ...having({}, { label: 'FL' }),
      forgets: ['i1', 'i2'],
      changes: [
        { item: 'i1', to: '15', shows: { i2: '13' } },
        { item: 'i2', to: '13', shows: { i1: '14' } },
      ],
    };
    const next = withoutItem(survey, 'i1');
    expect([next.forgets, next.changes]).toEqual([['i2'], [{ item: 'i2', to: '13', shows: {} }]]);
  });

  it('begun again on a card that was surveyed has everything that is known of it', () => {
    const card = cardOfSurvey(surveyedFrom(manuals['fennick']!), texts);
    const again = startSurvey(card, '2026-06-10');
    expect(again.items.map((i) => [i.label, i.role])).toEqual(manuals['fennick']!.lines.map((l) => [l.label, l.is]));
    expect([again.way, again.raise, again.walked]).toEqual(['numbers', '+', true]);
    expect(again.habits).toEqual(manuals['fennick']!.habits);
    expect(cardOfSurvey(again, texts)).toEqual(card);
  });
});
