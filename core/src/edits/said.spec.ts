import type { Card, DeviceValues, Parameter } from '../card';
import { numberParameter, plan, wholeTeasel } from '../testing/fixtures';
import { editPlan, orderMoves, stepsToKey, type EditOptions, type EditPlan } from './index';

const base = wholeTeasel();
const plain = base.cards.find((c) => c.id === 'tessick-d30')!;
const choice = (
  role: Parameter['role'],
  label: string,
  options: readonly (readonly [string, 'on' | 'off' | 'custom' | 'other'])[],
  more: object = {},
): Parameter => ({
  role,
  label,
  menu: ['Kinds'],
  unit: 'choice',
  options: options.map(([value, means]) => ({ value, means })),
  access: 'basic',
  keys: [],
  ...more,
});
const volts = (role: Parameter['role'], label: string, more: object = {}): Parameter =>
  numberParameter({ role, label, menu: ['Volts'], unit: 'V', min: 24, max: 32, step: 0.1, ...more });

/** The launch’s DC-DC charger as a made-up one: these parameters, rules and presets. */
function edits(parameters: readonly Parameter[], options: EditOptions, card: Partial<Card> = {}): EditPlan {
  const made: Card = { ...plain, constraints: [], presets: [], ...card, parameters: [...parameters] };
  // Spaces that hold a number and its unit together are plain ones here.
  const plainly = <T>(value: T): T => JSON.parse(JSON.stringify(value).replace(/[\u00a0\u202f]/g, ' ')) as T;
  return plainly(editPlan(plan({ ...base, cards: base.cards.map((c) => (c.id === made.id ? made : c)) }), 'dcdc', options)!);
}
const keyed = (found: EditPlan): (string | number)[][] => found.steps.map((s) => [s.role, s.to]);
const absorb = volts('absorbVoltage', 'High');
const float = volts('floatVoltage', 'Keep');
const equalise = volts('equaliseVoltage', 'Even');

describe('what is said at a step', () => {
  it('is all of it: what stands, whether that was read off, what it becomes, and as the display shows it', () => {
    expect(edits([absorb, float], { found: { absorbVoltage: 28.8 }, to: { absorbVoltage: 28.1, floatVoltage: 26.9 } }).steps).toEqual([
      {
        kind: 'edit',
        role: 'absorbVoltage',
        label: 'High',
        menu: ['Volts'],
        from: 28.8,
        stands: '28.8 V',
        readOff: true,
        to: 28.1,
        unit: 'V',
        readBack: '28.1 V',
        temporary: false,
        overwrites: [],
        notes: [],
      },
      {
        kind: 'edit',
        role: 'floatVoltage',
        label: 'Keep',
        menu: ['Volts'],
        from: null,
        stands: 'unknown',
        readOff: false,
        to: 26.9,
        unit: 'V',
        readBack: '26.9 V',
        temporary: false,
        overwrites: [],
        notes: [],
      },
    ]);
  });

  it('tells where it hides, what a special value means, and which way to come beside a wrap', () => {
    const notes = (change: object, value: number): readonly string[] =>
      edits([volts('absorbVoltage', 'High', change)], { found: {}, to: { absorbVoltage: value } }).steps[0]?.notes ?? [];
    expect(notes({ access: 'installer' }, 28)).toEqual(['Shown only at installer level.']);
    expect(notes({ shownWhen: 'with kind “free”' }, 28)).toEqual(['Shown only with kind “free”.']);
    for (const [means, words] of [
      ['off', 'off'],
      ['allDay', 'all day'],
      ['automatic', 'automatic'],
    ] as const) {
      expect(notes({ special: [{ value: 30, means }] }, 30)).toEqual([`30.0 V means ${words} here.`]);
      expect(notes({ special: [{ value: 30, means }] }, 29.9)).toEqual([]);
    }
    expect(notes({ wraps: true }, 24)).toEqual(['It is the least: stop there. One step further jumps to 32.0 V.']);
    expect(notes({ wraps: true }, 24.1)).toEqual(['Come straight from where it is; below 24.0 V it jumps to 32.0 V.']);
  });

  it('counts what needs no edit, and what is left', () => {
    const found = edits([absorb, float, equalise], { found: { absorbVoltage: 28.1, floatVoltage: 27 }, to: { absorbVoltage: 28.1, floatVoltage: 26.9 } });
    expect([found.already, found.left, keyed(found)]).toEqual([['absorbVoltage'], ['equaliseVoltage'], [['floatVoltage', 26.9]]]);
    expect([found.device, found.commit, found.proof]).toEqual(['dcdc', plain.commit.how, plain.commit.proof]);
  });

  it('is counted over all devices of a job', () => {
    const p = plan(base);
    const each = ['fore', 'aft', 'dcdc', 'alternator', 'monitor'].map((id) => editPlan(p, id)?.steps.length ?? 0);
    expect(each.every((n) => n > 0)).toBeTrue();
    expect(stepsToKey(p)).toBe(each.reduce((a, b) => a + b, 0));
  });
});

describe('the order', () => {
  const sw = choice('equaliseEnabled', 'Even on', [
    ['no', 'off'],
    ['yes', 'on'],
  ]);

  it('switches off before any number, and on after all of them; what stands so already is not keyed', () => {
    const to = (value: string): DeviceValues => ({ equaliseEnabled: value, absorbVoltage: 28.1 });
    const found = (value: string): DeviceValues => ({ equaliseEnabled: value, absorbVoltage: 28.8 });
    expect(keyed(edits([absorb, sw], { found: found('yes'), to: to('no') }))).toEqual([
      ['equaliseEnabled', 'no'],
      ['absorbVoltage', 28.1],
    ]);
    expect(keyed(edits([sw, absorb], { found: found('no'), to: to('yes') }))).toEqual([
      ['absorbVoltage', 28.1],
      ['equaliseEnabled', 'yes'],
    ]);
    for (const value of ['no', 'yes']) expect(keyed(edits([sw, absorb], { found: found(value), to: to(value) }))).toEqual([['absorbVoltage', 28.1]]);
  });

  it('keys what falls before what rises, whatever the menu’s order', () => {
    const options = (from: number, down: number): EditOptions => ({
      found: { absorbVoltage: from, floatVoltage: 28 },
      to: { absorbVoltage: 28.1, floatVoltage: down },
    });
    expect(keyed(edits([absorb, float], options(27.9, 26.9)))).toEqual([
      ['floatVoltage', 26.9],
      ['absorbVoltage', 28.1],
    ]);
    expect(keyed(edits([absorb, float], options(28.4, 28.2)))).toEqual([
      ['absorbVoltage', 28.1],
      ['floatVoltage', 28.2],
    ]);
  });

  it('follows a type through what moves with it and what its preset sets, on this system’s volts', () => {
    const kind = choice('batteryType', 'Kind', [
      ['wet', 'other'],
      ['free', 'custom'],
    ]);
    const moving = volts('floatVoltage', 'Keep', { per12V: true, min: 12, max: 16, factory: 13.5, movesWith: 'batteryType' });
    const scaled = volts('absorbVoltage', 'High', { per12V: true, min: 12, max: 16 });
    const days = numberParameter({ role: 'equaliseInterval', label: 'Days', unit: 'd', min: 0, max: 250, step: 1 });
    const found = edits(
      [scaled, moving, days, kind],
      {
        found: { batteryType: 'wet', absorbVoltage: 28.1, floatVoltage: 26.9, equaliseInterval: 0 },
        to: { batteryType: 'free', absorbVoltage: 28.1, floatVoltage: 26.9, equaliseInterval: 0 },
      },
      { presets: [{ name: 'free', sets: { absorbVoltage: 14.6, equaliseInterval: 30 } }] },
    );
    // The preset’s 14.6 V for 12 V are 29.2 V here, its days stay days, and what moves with the type goes to the factory’s 27.0 V.
    expect(found.steps.map((s) => [s.kind, s.role, s.from, s.to, s.readOff])).toEqual([
      ['preset', 'batteryType', 'wet', 'free', true],
      ['edit', 'absorbVoltage', 29.2, 28.1, false],
      ['edit', 'floatVoltage', 27, 26.9, false],
      ['edit', 'equaliseInterval', 30, 0, false],
    ]);
    expect(found.steps[0]?.overwrites).toEqual(['absorbVoltage', 'equaliseInterval', 'floatVoltage']);
    expect(found.steps[0]?.notes).toEqual([
      'It overwrites 3 values: absorb, equalise interval, float.',
      'Some of them are above the sheet’s most until they are set: leave the source off.',
    ]);
    // A type that overwrites nothing is a plain edit without a word.
    const bare = edits([kind, absorb], { found: { batteryType: 'wet', absorbVoltage: 28.1 }, to: { batteryType: 'free', absorbVoltage: 28.1 } });
    expect(bare.steps.map((s) => [s.kind, s.role, s.notes])).toEqual([['edit', 'batteryType', []]]);
  });

  it('refuses a preset that passes the sheet’s most while a source is live, and not one that stays at it', () => {
    const kind = choice('batteryType', 'Kind', [
      ['wet', 'other'],
      ['free', 'custom'],
    ]);
    const live = (to: number, role: 'absorbVoltage' | 'rechargeVoltage' = 'absorbVoltage'): EditPlan =>
      edits(
        [kind, absorb, volts('rechargeVoltage', 'Loads off')],
        { found: { batteryType: 'wet', absorbVoltage: 28.1 }, to: { batteryType: 'free' }, live: true },
        { presets: [{ name: 'free', sets: { [role]: to } }] },
      );
    // The sheet allows 28.4 V at most.
    expect(live(28.4).blocked).toBeUndefined();
    expect(live(28.5).blocked).toEqual({
      why: 'Choosing “free” sets absorb to 28.5 V, above the sheet’s most of 28.4 V, while a source is live.',
      ways: ['Open the array breaker, or stop the source, before this step.'],
    });
    // A voltage that charges nothing may stand where it likes.
    expect(live(30, 'rechargeVoltage').blocked).toBeUndefined();
  });
});

describe('no order', () => {
  const rule = (relation: 'atLeast' | 'atMost', gap: number): Partial<Card> => ({
    constraints: [{ parameter: 'equaliseVoltage', relation, other: 'absorbVoltage', gap }],
  });
  const blockedBy = (card: Partial<Card>, found: DeviceValues, to: DeviceValues, name = 'Even') =>
    edits([volts('equaliseVoltage', name), absorb], { found, to }, card).blocked;

  it('because the values wanted do not go together: the rule with its values, and the gap accepted', () => {
    expect(blockedBy(rule('atLeast', 0.2), { equaliseVoltage: 30, absorbVoltage: 28 }, { equaliseVoltage: 28.2, absorbVoltage: 28.1 })).toEqual({
      why: 'The values wanted do not go together on this charger: Even (28.2 V) must stay 0.2 V above High (28.1 V).',
      ways: ['Accept the gap: set Even to 28.3 V.'],
    });
    expect(blockedBy(rule('atLeast', 0), { equaliseVoltage: 30, absorbVoltage: 28 }, { equaliseVoltage: 28, absorbVoltage: 28.1 })?.why).toContain(
      'Even (28.0 V) must stay at or above High (28.1 V)',
    );
    // At most so much above is a gap the other way round.
    expect(blockedBy(rule('atMost', -1), { equaliseVoltage: 28, absorbVoltage: 28 }, { equaliseVoltage: 30, absorbVoltage: 28 })).toEqual({
      why: 'The values wanted do not go together on this charger: High (28.0 V) may be at most 1.0 V below Even (30.0 V).',
      ways: ['Accept the gap: set High to 29.0 V.'],
    });
  });

  it('because what stands breaks the device’s own rules: the presets are a way, and the factory', () => {
    const both: Partial<Card> = {
      constraints: [
        { parameter: 'equaliseVoltage', relation: 'atLeast', other: 'absorbVoltage', gap: 0 },
        { parameter: 'absorbVoltage', relation: 'atLeast', other: 'equaliseVoltage', gap: 0 },
      ],
      presets: [{ name: 'Lithium', sets: {} }],
    };
    expect(blockedBy(both, { equaliseVoltage: 29, absorbVoltage: 28 }, { equaliseVoltage: 27, absorbVoltage: 27 })).toEqual({
      why: 'What is set on the device breaks its own rules, so no single edit is accepted: High (28.0 V) must stay at or above Even (29.0 V).',
      ways: ['Choose a preset that sets both at once (“Lithium”), and go on from there.', 'Go back to the factory values, and go on from there.'],
    });
    expect(blockedBy({ ...both, presets: [] }, { equaliseVoltage: 28, absorbVoltage: 28 }, { equaliseVoltage: 27, absorbVoltage: 27 })).toEqual({
      why: 'Each value waits for the other, and no single edit is accepted: Even (27.0 V) must stay at or above High (27.0 V); High (27.0 V) must stay at or above Even (27.0 V).',
      ways: ['Go back to the factory values, and go on from there.'],
    });
  });

  it('is asked of a rule that is broken, and that no edit touches', () => {
    const found = edits(
      [equalise, absorb, float],
      { found: { equaliseVoltage: 27, absorbVoltage: 28, floatVoltage: 27 }, to: { floatVoltage: 26.9 } },
      rule('atLeast', 0),
    );
    expect([found.blocked, keyed(found)]).toEqual([undefined, [['floatVoltage', 26.9]]]);
    // Touched, it counts.
    expect(blockedBy(rule('atLeast', 0), { equaliseVoltage: 27, absorbVoltage: 28 }, { absorbVoltage: 28.1 })?.why).toContain('do not go together');
  });

  it('of moves is needed where one waits for another: the furthest step that is accepted, and back from there', () => {
    const dial = (name: string) => ({ name, values: [0, 1, 2, 3, 4, 5, 6] });
    const gaps = [
      { upper: 'b', lower: 'a', gap: 0 },
      { upper: 'a', lower: 'b', gap: -2 },
    ];
    expect(orderMoves([dial('a'), dial('b')], gaps, { a: 0, b: 0 }, { a: 5, b: 5 })).toEqual({
      moves: [
        { name: 'b', from: 0, to: 2, temporary: true },
        { name: 'a', from: 0, to: 2, temporary: true },
        { name: 'b', from: 2, to: 4, temporary: true },
        { name: 'a', from: 2, to: 4, temporary: true },
        { name: 'b', from: 4, to: 5, temporary: false },
        { name: 'a', from: 4, to: 5, temporary: false },
      ],
    });
    // Down the same, the lower one first.
    expect(orderMoves([dial('a'), dial('b')], gaps, { a: 5, b: 5 }, { a: 0, b: 0 })).toEqual({
      moves: [
        { name: 'a', from: 5, to: 3, temporary: true },
        { name: 'b', from: 5, to: 3, temporary: true },
        { name: 'a', from: 3, to: 1, temporary: true },
        { name: 'b', from: 3, to: 1, temporary: true },
        { name: 'a', from: 1, to: 0, temporary: false },
        { name: 'b', from: 1, to: 0, temporary: false },
      ],
    });
    // A third that waits for nobody is not named among those that lock.
    const locked = [
      { upper: 'b', lower: 'a', gap: 0 },
      { upper: 'a', lower: 'b', gap: 0 },
      { upper: 'c', lower: 'a', gap: -6 },
    ];
    expect(orderMoves([dial('a'), dial('b'), dial('c')], locked, { a: 1, b: 1, c: 1 }, { a: 2, b: 2, c: 3 })).toEqual({
      blockedBy: locked.slice(0, 2),
      why: 'locked',
    });
  });
});
