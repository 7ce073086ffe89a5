import { readdirSync } from 'node:fs';
import { seeded } from '../testing/fixtures';
import { shipped } from '../testing/shipped';
import {
  cardFaults,
  cardQuirks,
  cardSchema,
  fromDevice,
  holdValue,
  parameterFor,
  roleInfo,
  toDevice,
  type Card,
  type DeviceSetting,
  type DeviceUnit,
  type Role,
} from './index';

const folder = new URL('../../../library/cards/', import.meta.url);
const { cards } = shipped;
const card = (id: string): Card => cards.find((c) => c.id === id)!;
const bank24: DeviceSetting = { systemVolts: 24, cellsInSeries: 8, ratingA: 30, floatVolts: 26.9 };
const lead24: DeviceSetting = { systemVolts: 24, cellsInSeries: 12, ratingA: 80 };
const steps = (...args: Parameters<typeof holdValue>): string =>
  holdValue(...args)
    .steps.join(' ')
    .replace(/\u00a0/g, ' ');

describe('the shipped cards', () => {
  it('are each of its own kind of trouble, and lie in a file of their name', () => {
    expect(cards.map((c) => `${c.id}.json`).sort()).toEqual([...readdirSync(folder)].sort());
    const told = cards.map((c) => cardQuirks(c).join(' '));
    expect(new Set(told).size).toBe(cards.length);
    for (const text of told) expect(text).not.toMatch(/undefined|NaN/);
  });

  /** Each quirk a charger can have, and a shipped card that shows it. */
  const quirks: Record<string, [string, RegExp]> = {
    'expert level hides settings': ['varrow-s45', /only at expert level: taper current, recharge/],
    'long press': ['varrow-s45', /is discarded/],
    'cutoff silently ignored without a sensor': ['varrow-s45-b', /silently ignores the cutoff/],
    'two ways out of a menu': ['varrow-s45-b', /“Enter, held” saves, “Back” discards/],
    'saved at the end of the list': ['varrow-p15', /end of the list/],
    'positive slope': ['varrow-p15', /without its minus/],
    'no cold cutoff': ['varrow-p15', /no low-temperature cutoff/],
    'load timer shown by mode': ['varrow-p15', /shown only with load mode “timer”/],
    'all day': ['varrow-p15', /at 0 means all day/],
    'a key with a second meaning': ['varrow-p15', /switches the load output/],
    'does not survive losing the battery': ['varrow-p15', /does not survive losing the battery/],
    'offset below float': ['tessick-d30', /counted in volts below float/],
    'forced gap': ['tessick-d30', /equalise voltage at least 0.2 above absorb/],
    'absorb after a hold': ['tessick-d30', /Absorb begins after 1\u00a0min/],
    'its own output': ['tessick-d30', /sees only its own output/],
    'moves with the battery type': ['tessick-d30', /Changed by itself when battery type is changed, so set last: High, Keep/],
    'wraps to a huge value': ['murrel-ar-2', /jumps from 10 to 720/],
    'times out and discards': ['murrel-ar-2', /20\u00a0s is discarded/],
    'wall-clock timer': ['murrel-ar-2', /wall clock/],
    'field limit, no current limit': ['murrel-ar-2', /counts with its full rating/],
    'remote sense': ['murrel-ar-2', /sense leads/],
    'calibratable display': ['hadrin-h80', /can be calibrated/],
    'presets overwrite nine': ['hadrin-h80', /overwrites 9 values/],
    'leader and follower': ['hadrin-h80', /from a leader/],
    'daily restart': ['hadrin-h80', /new charge every day/],
    'compensation without off': ['hadrin-h80', /cannot be switched off/],
    'percent of rating': ['hadrin-h80', /in percent of its rating/],
    'installer level': ['hadrin-h80', /installer level: ground-fault/],
    'volts of a 12 V block': ['ostrel-w12', /volts of a 12 V block/],
    'lost unless saved': ['ostrel-w12', /Lost at a restart.*power curve, output mode/],
    'no recharge setting': ['ostrel-w12', /no recharge setting/],
    'default passcode': ['ostrel-w12', /passcode that everybody knows/],
    'levels of access': ['tessick-m1', /expert level: charge efficiency/],
    '°F inside': ['isk-t1', /in °F/],
    'ends by state of charge': ['quern-r9', /ends by state of charge/],
    'auto-saves': ['quern-r9', /saved at once, a slip too/],
  };
  for (const [name, [id, words]] of Object.entries(quirks))
    it(`show the quirk: ${name}`, () => {
      expect(cardQuirks(card(id)).join(' | ')).toMatch(words);
      // And somewhere there is a card that has it not, so that the sentence can stay away.
      expect(cards.some((c) => !words.test(cardQuirks(c).join(' | ')))).toBeTrue();
    });
});

describe('how a value would be held', () => {
  it('rounds to the step, stops at the range, and warns of a wrap at its end', () => {
    expect(holdValue(card('tessick-d30'), 'chargeCurrentLimit', 21, bank24).value).toBe(20);
    expect(steps(card('tessick-d30'), 'chargeCurrentLimit', 21, bank24)).toContain('Its steps are 2.5 A');
    const short = holdValue(card('murrel-ar-2'), 'absorbTime', 5 * 60, bank24);
    expect([short.value, short.makes]).toEqual([10, 600]);
    expect(short.steps.join(' ')).toContain('jumps to');
    expect(steps(card('murrel-ar-2'), 'absorbTime', 600, bank24)).toContain('is at its lower end');
    expect(holdValue(card('varrow-p15'), 'loadDisconnect', 12.1, { ...bank24, systemVolts: 12, cellsInSeries: 6 }).value).toBe(11.5);
  });

  it('refuses what a constraint forbids, from either side', () => {
    const d30 = card('tessick-d30');
    expect(holdValue(d30, 'equaliseVoltage', 28.1, bank24, { absorbVoltage: 28.1 }).value).toBeNull();
    expect(steps(d30, 'equaliseVoltage', 28.1, bank24, { absorbVoltage: 28.1 })).toContain('at least 0.2 V above absorb');
    expect(holdValue(d30, 'equaliseVoltage', 28.3, bank24, { absorbVoltage: 28.1 }).value).toBe(28.3);
    expect(holdValue(d30, 'absorbVoltage', 28.2, bank24, { equaliseVoltage: 28.3 }).value).toBeNull();
    expect(holdValue(d30, 'floatVoltage', 28.2, bank24, { absorbVoltage: 28.1 }).value).toBeNull();
  });

  it('speaks in the charger’s own terms: offset, 12 V block, slope per 6 cells or for the bank, °F, percent', () => {
    expect(holdValue(card('tessick-d30'), 'rechargeVoltage', 26.3, bank24).value).toBeCloseTo(0.6, 9);
    expect(holdValue(card('ostrel-w12'), 'absorbVoltage', 28.8, lead24).value).toBe(14.4);
    expect(holdValue(card('varrow-p15'), 'compensationSlope', -0.004, { ...lead24, systemVolts: 12, cellsInSeries: 6 }).value).toBe(24);
    expect(holdValue(card('ostrel-w12'), 'compensationSlope', -0.004, lead24).value).toBe(-48);
    expect(holdValue(card('isk-t1'), 'thermostatSetpoint', 4, lead24).value).toBe(39);
    // A difference of 2 °C is 3.6 °F, not 35.6.
    expect(holdValue(card('isk-t1'), 'thermostatDifferential', 2, lead24).value).toBe(4);
    expect(holdValue(card('hadrin-h80'), 'chargeCurrentLimit', 40, lead24).value).toBe(50);
    expect(holdValue(card('hadrin-h80'), 'absorbTime', 0, lead24).steps.join(' ')).toContain('all day');
  });

  it('says so where a card has no such setting, or only a choice', () => {
    expect(steps(card('varrow-p15'), 'lowTempCutoff', 2, lead24)).toContain('has no setting for low-temperature cutoff');
    expect(steps(card('varrow-s45'), 'equaliseEnabled', 0, lead24)).toContain('“on request”, “off”');
  });

  it('what is held lies on the grid and makes what it says, for any card, setting and value', () => {
    const random = seeded(91);
    for (let i = 0; i < 3000; i++) {
      const c = cards[Math.floor(random() * cards.length)]!;
      const p = c.parameters[Math.floor(random() * c.parameters.length)]!;
      if (p.unit === 'choice') continue;
      const at: DeviceSetting = { systemVolts: 24, cellsInSeries: 12, ratingA: Math.max(1, c.ratings.outputA), floatVolts: 27 };
      const factor = p.per12V ? 2 : 1;
      const wanted = fromDevice(p, p.min * factor + (random() * 1.4 - 0.2) * (p.max - p.min) * factor, at);
      const held = holdValue(c, p.role, wanted, at);
      const onGrid = (held.value! - p.min * factor) / p.step;
      const special = p.special.some((s) => s.value === held.value);
      expect(special || Math.abs(onGrid - Math.round(onGrid)) < 1e-6)
        .withContext(`${c.id} ${p.role} ${wanted} → ${held.value}`)
        .toBeTrue();
      if (!special) expect(toDevice(p, held.makes!, at)).toBeCloseTo(held.value!, 6);
      expect(special || (held.value! >= p.min * factor - 1e-9 && held.value! <= p.max * factor + 1e-9)).toBeTrue();
    }
  });
});

describe('a card that contradicts itself', () => {
  const base = card('tessick-d30');
  const messages = (change: Partial<Card>): string =>
    cardFaults({ ...base, ...change })
      .map((f) => f.message)
      .join(' ');
  const rule = (parameter: Role, relation: 'atLeast' | 'atMost', other: Role, gap: number) => ({ parameter, relation, other, gap });

  it('is refused with the place: constraints nothing can meet, presets and factory values out of range', () => {
    expect(messages({ constraints: [rule('equaliseVoltage', 'atLeast', 'absorbVoltage', 5)] })).toContain('nothing is left for');
    expect(messages({ constraints: [rule('absorbVoltage', 'atLeast', 'floatVoltage', 0.5), rule('floatVoltage', 'atLeast', 'absorbVoltage', 0)] })).toContain(
      'cannot be met together',
    );
    expect(messages({ constraints: [rule('bulkVoltage', 'atLeast', 'absorbVoltage', 0)] })).toContain('names bulkVoltage');
    expect(messages({ presets: [{ name: 'wild', sets: { absorbVoltage: 20 } }] })).toContain('lies outside');
    expect(messages({ presets: [{ name: 'wild', sets: { bulkVoltage: 14 } }] })).toContain('which this card has not');
    expect(messages({ presets: [{ name: 'wild', sets: { batteryType: 'nickel' } }] })).toContain('no option');
    expect(cardSchema.safeParse({ ...card('varrow-s45'), ratings: { ...card('varrow-s45').ratings, arrayVoltsMax: undefined } }).success).toBeFalse();
    for (const c of cards) expect(cardFaults(c)).withContext(c.id).toEqual([]);
  });

  it('is refused when a setting counts in what it does not measure, and told in what it could', () => {
    const absorbIn = (unit: DeviceUnit): string =>
      messages({ parameters: base.parameters.map((p) => (p.role === 'absorbVoltage' && p.unit !== 'choice' ? { ...p, unit } : p)) });
    expect(absorbIn('min')).toBe('counts in min, and absorb needs one of V, V/12V, V/cell, V below float');
    expect([absorbIn('V/cell'), absorbIn('ratio')]).toEqual(['', '']);
  });

  it('is found where two rules chase each other in small steps through a wide range', () => {
    const wide = (role: Role) => ({ role, unit: 'V' as const, min: 0, max: 100, step: 0.1, special: [] });
    const parameters = [wide('absorbVoltage'), wide('floatVoltage')];
    const faults = (gap: number) =>
      cardFaults({
        kind: 'dcdc',
        parameters,
        constraints: [rule('floatVoltage', 'atLeast', 'absorbVoltage', 0), rule('floatVoltage', 'atMost', 'absorbVoltage', gap)],
        presets: [],
        ratings: {},
      });
    expect(faults(0.2).length).toBe(1);
    expect(faults(0)).withContext('equal values meet both').toEqual([]);
  });

  it('is found exactly when no values meet its constraints, as trying all of them finds', () => {
    const random = seeded(17);
    const roles: readonly Role[] = ['absorbVoltage', 'floatVoltage', 'equaliseVoltage'];
    for (let i = 0; i < 300; i++) {
      const parameters = roles.map((role) => {
        const min = Math.floor(random() * 4);
        return { role, unit: 'V' as const, min, max: min + Math.floor(random() * 4) + 1, step: 1, special: [] };
      });
      const constraints = Array.from({ length: 1 + Math.floor(random() * 4) }, () => {
        const [a, b] = [Math.floor(random() * 3), 1 + Math.floor(random() * 2)];
        return rule(roles[a]!, random() < 0.5 ? 'atLeast' : 'atMost', roles[(a + b) % 3]!, Math.floor(random() * 5) - 1);
      });
      let possible = false;
      const range = (k: number): number[] => Array.from({ length: parameters[k]!.max - parameters[k]!.min + 1 }, (_, n) => parameters[k]!.min + n);
      for (const x of range(0))
        for (const y of range(1))
          for (const z of range(2)) {
            const v: Partial<Record<Role, number>> = { absorbVoltage: x, floatVoltage: y, equaliseVoltage: z };
            possible ||= constraints.every((c) => (c.relation === 'atLeast' ? v[c.parameter]! >= v[c.other]! + c.gap : v[c.parameter]! <= v[c.other]! - c.gap));
          }
      expect(cardFaults({ kind: 'dcdc', parameters, constraints, presets: [], ratings: {} }).length === 0)
        .withContext(JSON.stringify({ parameters, constraints }))
        .toBe(possible);
    }
  });

  it('names settings in words everywhere', () => {
    for (const c of cards) for (const p of c.parameters) expect(roleInfo[p.role].name.length).toBeGreaterThan(2);
    expect(parameterFor(base, 'machineTempLimit')).toBeUndefined();
  });
});
