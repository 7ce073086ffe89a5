import { readFileSync } from 'node:fs';
import { afterPresses, cardSchema, parameterFor, type Card, type DeviceValues } from '../card';
import { advance, afterPowerCut, newMachine, plainReading, programOf, type ChargerProgram, type MachineState, type Reading } from './index';

const mustProgram = (made: ReturnType<typeof programOf>): ChargerProgram => {
  if (!made.ok) throw new Error(made.problems.map((p) => p.text).join(' '));
  return made.value;
};
const card = (id: string): Card => cardSchema.parse(JSON.parse(readFileSync(new URL(`../../../library/cards/${id}.json`, import.meta.url), 'utf8')));
const at24 = { systemVolts: 24, cellsInSeries: 8, ratingA: 45 };
const s45: DeviceValues = {
  absorbVoltage: 28.1,
  absorbTime: 40,
  taperCurrent: 4,
  floatVoltage: 26.9,
  rechargeVoltage: 26.3,
  compensationSlope: 0,
  lowTempCutoff: 2,
  lowTempResume: 4,
  chargeCurrentLimit: 31,
  equaliseEnabled: 'off',
};
const program = (id: string, values: DeviceValues, at = at24): ChargerProgram => mustProgram(programOf(card(id), values, at, 25, id));

/** A charger on a bench: every line sets some of what it senses and lets time pass in steps of a second. */
function bench(p: ChargerProgram, leader?: MachineState) {
  const state = newMachine();
  const reading: Reading = { ...plainReading(26), celsius: 15 };
  const trail: string[] = [];
  let changes = 0;
  const pass = (seconds: number, change: Partial<Reading> = {}, dt = 1): MachineState => {
    Object.assign(reading, change);
    for (let t = 0; t < seconds; t += dt) {
      advance(p, state, reading, dt, leader);
      if (state.changes !== changes) {
        changes = state.changes;
        trail.push(`${state.stage} ${state.cause}`);
      }
    }
    return state;
  };
  return { pass, state, trail, reading };
}

describe('the stage machine', () => {
  it('goes bulk, absorb, float and back to bulk, each for its reason', () => {
    const b = bench(program('varrow-s45', s45));
    b.pass(60, { volts: 26.4 });
    expect(b.state.targetV).toBe(28.1);
    expect(b.state.maxA).toBe(31);
    b.pass(5, { volts: 28.1, amps: 20 });
    b.pass(2399, { volts: 28.1, amps: 10 });
    b.pass(600, { volts: 26.9, amps: 1 });
    expect(b.state.targetV).toBe(26.9);
    b.pass(60, { volts: 26.2 });
    expect(b.trail).toEqual(['bulk sourceOn', 'absorb touched', 'float time', 'bulk recharge']);
  });

  it('begins absorb on a touch where the card says so: one second at a cloud’s edge', () => {
    const b = bench(program('varrow-s45', s45));
    b.pass(600, { volts: 27 });
    b.pass(1, { volts: 28.1, amps: 31 });
    b.pass(600, { volts: 27 });
    expect(b.state.stage).toBe('absorb');
    expect(b.state.counted).toBeLessThan(2);
  });

  it('waits for a hold where the card asks one, and forgets it with every dip', () => {
    const b = bench(program('tessick-d30', { ...s45, inputStartVoltage: 13.2, inputStopVoltage: 12.4, rechargeVoltage: 0.6, remoteControl: 'not used' }));
    b.pass(20, { volts: 27, inputVolts: 14.2 });
    b.pass(50, { volts: 28.1 });
    b.pass(5, { volts: 28 });
    b.pass(58, { volts: 28.1 });
    expect(b.state.stage).toBe('bulk');
    b.pass(3);
    expect(b.trail).toEqual(['bulk sourceOn', 'absorb held']);
  });

  it('counts absorb only at voltage, or by the clock, as the card says', () => {
    const volts = bench(program('varrow-s45', s45));
    volts.pass(20, { volts: 28.1, amps: 20 });
    volts.pass(2390, { volts: 27.5 });
    expect(volts.state.stage).toBe('absorb');
    expect(volts.state.counted).toBeLessThan(30);
    const clock = bench(program('murrel-ar-2', { ...s45, bulkVoltage: 28.1, highVoltageAlarm: 28.8, softStartTime: 0 }));
    clock.pass(20, { volts: 28.1, amps: 20 });
    clock.pass(2400, { volts: 27.5 });
    expect(clock.trail.at(-1)).toBe('float time');
  });

  it('ends absorb by a fallen current that lasts, not by one that only dips', () => {
    const b = bench(program('varrow-s45', s45));
    b.pass(20, { volts: 28.1, amps: 20 });
    b.pass(20, { amps: 3 });
    b.pass(5, { amps: 20 });
    b.pass(25, { amps: 3 });
    expect(b.state.stage).toBe('absorb');
    b.pass(10);
    expect(b.trail.at(-1)).toBe('float taper');
  });

  it('does not take a cloud for a fallen current: below its voltage nothing counts', () => {
    const b = bench(program('varrow-s45', s45));
    b.pass(20, { volts: 28.1, amps: 20 });
    b.pass(600, { volts: 27.4, amps: 1 });
    expect(b.state.stage).toBe('absorb');
  });

  it('absorbs as long as the bulk before it took, where the card adapts', () => {
    const adaptive: Card = { ...card('varrow-s45'), absorb: { ...card('varrow-s45').absorb, end: 'adaptive' } };
    for (const bulk of [600, 1500]) {
      const b = bench(mustProgram(programOf(adaptive, s45, at24, 25, 'x')));
      b.pass(bulk + 10, { volts: 27 });
      b.pass(5, { volts: 28.1, amps: 10 });
      b.pass(bulk - 60);
      expect(b.state.stage).withContext(String(bulk)).toBe('absorb');
      b.pass(120);
      expect(b.state.stage).withContext(String(bulk)).toBe('float');
    }
  });

  it('wants both, or stops by the monitor, where the card says so', () => {
    const both: Card = { ...card('varrow-s45'), absorb: { ...card('varrow-s45').absorb, end: 'both' } };
    const b = bench(mustProgram(programOf(both, s45, at24, 25, 'x')));
    b.pass(3000, { volts: 28.1, amps: 10 });
    expect(b.state.stage).toBe('absorb');
    b.pass(60, { amps: 3 });
    expect(b.trail.at(-1)).toBe('float timeAndTaper');
    const r9 = bench(
      program('quern-r9', { absorbVoltage: 28.1, floatVoltage: 26.9, absorbTime: 2, taperCurrent: 0, maxChargeTime: 12 }, { ...at24, ratingA: 70 }),
    );
    r9.pass(60, { volts: 28.1, charge: 0.8, amps: 30 });
    r9.pass(10, { charge: 0.995 });
    expect(r9.trail.at(-1)).toBe('float charge');
  });

  it('holds in the cold with a hysteresis, begins a new cycle when warm, and says which sensor it was', () => {
    const b = bench(program('varrow-s45', s45));
    b.pass(30, { celsius: 5 });
    b.pass(30, { celsius: 2 });
    expect(b.state.targetV).toBeNaN();
    expect(b.state.maxA).toBe(0);
    b.pass(30, { celsius: 3.5 });
    expect(b.state.stage).toBe('cold');
    b.pass(30, { celsius: 4 });
    expect(b.trail).toEqual(['bulk sourceOn', 'cold cold', 'bulk warm']);
  });

  it('without a sensor: one card stops, its later menu goes on charging and says nothing', () => {
    const stops = bench(program('varrow-s45', s45));
    stops.pass(60, { celsius: NaN });
    expect(stops.trail).toEqual(['fault noSensor']);
    expect(stops.state.maxA).toBe(0);
    stops.pass(5, { celsius: 10 });
    expect(stops.state.stage).toBe('bulk');
    const ignores = bench(program('varrow-s45-b', s45));
    ignores.pass(60, { celsius: NaN });
    expect(ignores.state.stage).toBe('bulk');
    expect(ignores.state.maxA).toBe(31);
  });

  it('shifts setpoints by the slope, clamped, and not without a sensor', () => {
    const h80 = program(
      'hadrin-h80',
      { absorbVoltage: 28.8, floatVoltage: 27, compensationSlope: -4, compensationMinTemp: 0, compensationMaxTemp: 40, absorbTime: 2 },
      { ...at24, cellsInSeries: 12, ratingA: 80 },
    );
    const b = bench(h80);
    const target = (celsius: number): number => b.pass(20, { volts: 26, celsius }).targetV;
    expect(target(15)).toBeCloseTo(28.8 + 0.48, 9);
    expect(target(-20)).toBeCloseTo(28.8 + 1.2, 9);
    expect(target(NaN)).toBe(28.8);
  });

  it('goes on where it was after a night, unless its card begins anew every day', () => {
    const night = (id: string, values: DeviceValues, at = at24): string[] => {
      const b = bench(program(id, values, at));
      b.pass(20, { volts: 28.2, amps: 20 });
      b.pass(9000, { amps: 2 });
      expect(b.state.stage).withContext(id).toBe('float');
      b.pass(60, { source: false, volts: 26.6, amps: 0 });
      b.pass(20, { source: true });
      return b.trail;
    };
    expect(night('varrow-s45', s45).slice(-2)).toEqual(['off sourceOff', 'float sourceOn']);
    expect(
      night('hadrin-h80', { absorbVoltage: 28.1, floatVoltage: 26.9, absorbTime: 2, taperCurrent: 4, rechargeVoltage: 25 }, { ...at24, ratingA: 80 }).slice(-2),
    ).toEqual(['off sourceOff', 'bulk sourceOn']);
  });

  it('begins anew by an offset below float, where that is how the card counts', () => {
    const b = bench(
      program('tessick-d30', { ...s45, rechargeVoltage: 0.6, inputStartVoltage: 13.2, inputStopVoltage: 12.4, remoteControl: 'not used', absorbTime: 10 }),
    );
    b.pass(20, { inputVolts: 14, volts: 28.1, amps: 20 });
    b.pass(800);
    expect(b.state.stage).toBe('float');
    b.pass(60, { volts: 26.35 });
    expect(b.state.stage).toBe('float');
    b.pass(60, { volts: 26.25 });
    expect(b.trail.at(-1)).toBe('bulk recharge');
  });

  it('starts and stops by its input, or by the engine line alone', () => {
    const values: DeviceValues = { ...s45, rechargeVoltage: 0.6, inputStartVoltage: 13.2, inputStopVoltage: 12.4 };
    const byVolts = bench(program('tessick-d30', { ...values, remoteControl: 'not used' }));
    byVolts.pass(60, { inputVolts: 13 });
    expect(byVolts.state.stage).toBe('off');
    byVolts.pass(20, { inputVolts: 13.3 });
    byVolts.pass(20, { inputVolts: 12.6 });
    expect(byVolts.state.stage).toBe('bulk');
    byVolts.pass(2, { inputVolts: 12.3 });
    expect(byVolts.state.stage).toBe('off');
    const byLine = bench(program('tessick-d30', { ...values, remoteControl: 'used' }));
    byLine.pass(60, { inputVolts: 14.2, engineLine: false });
    expect(byLine.state.stage).toBe('off');
    byLine.pass(20, { inputVolts: 11, engineLine: true });
    expect(byLine.state.stage).toBe('bulk');
  });

  it('an alternator ramps in, gives way to heat, stops at its alarm and starts again after it', () => {
    const b = bench(
      program(
        'murrel-ar-2',
        { ...s45, bulkVoltage: 28.4, highVoltageAlarm: 28.8, softStartTime: 60, machineTempLimit: 105, fieldLimit: 80, beltRelief: 0 },
        { ...at24, ratingA: 100 },
      ),
    );
    b.pass(31, { volts: 26.5, machineC: 40 });
    expect(b.state.maxA).toBeCloseTo(100 * 0.8 * 0.5, -1);
    b.pass(60);
    expect(b.state.maxA).toBeCloseTo(80, 6);
    b.pass(120, { machineC: 105 });
    expect(b.state.maxA).toBeLessThan(60);
    b.pass(120, { machineC: 115 });
    expect(b.state.maxA).toBeCloseTo(16, 0);
    b.pass(1, { volts: 28.9, machineC: 80 });
    expect(b.state.stage).toBe('fault');
    b.pass(30, { volts: 27 });
    expect(b.state.stage).toBe('fault');
    b.pass(40);
    expect(b.trail.at(-1)).toBe('bulk alarmOver');
  });

  it('absorb regulates lower than bulk where the card has both', () => {
    const b = bench(program('murrel-ar-2', { ...s45, bulkVoltage: 28.6, absorbVoltage: 28.1, highVoltageAlarm: 29, softStartTime: 0 }));
    b.pass(30, { volts: 28.3 });
    expect(b.state.stage).toBe('bulk');
    expect(b.state.targetV).toBe(28.6);
    b.pass(5, { volts: 28.6 });
    expect(b.state.stage).toBe('absorb');
    expect(b.state.targetV).toBe(28.1);
  });

  it('one step below ten minutes wraps to twelve hours, and absorb then lasts that long', () => {
    const parameter = parameterFor(card('murrel-ar-2'), 'absorbTime');
    if (parameter?.unit !== 'min') throw new Error('a time');
    expect(afterPresses(parameter, 20, -1, 24)).toBe(10);
    expect(afterPresses(parameter, 10, -1, 24)).toBe(720);
    expect(afterPresses(parameter, 720, 1, 24)).toBe(10);
    const b = bench(
      program('murrel-ar-2', { ...s45, bulkVoltage: 28.1, highVoltageAlarm: 28.8, softStartTime: 0, absorbTime: afterPresses(parameter, 10, -1, 24) }),
    );
    b.pass(10, { volts: 28.1, amps: 5 });
    b.pass(11.9 * 3600, {}, 10);
    expect(b.state.stage).toBe('absorb');
    b.pass(600, {}, 10);
    expect(b.trail.at(-1)).toBe('float time');
    const noWrap = parameterFor(card('varrow-s45'), 'absorbTime');
    if (noWrap?.unit !== 'min') throw new Error('a time');
    expect(afterPresses(noWrap, 5, -3, 24)).toBe(5);
  });

  it('a follower does what its leader does, with its own sensor and only while it has its own source', () => {
    const p = program('hadrin-h80', { absorbVoltage: 28.1, floatVoltage: 26.9, absorbTime: 2 }, { ...at24, ratingA: 80 });
    const leader = newMachine();
    leader.stage = 'float';
    const b = bench(p, leader);
    b.pass(20, { volts: 26 });
    expect(b.trail).toEqual(['float leader']);
    expect(b.state.targetV).toBe(26.9);
    leader.stage = 'absorb';
    b.pass(2);
    expect(b.state.stage).toBe('absorb');
    b.pass(2, { source: false });
    expect(b.state.stage).toBe('off');
  });

  it('a lost battery stops what does not survive it, and nothing else', () => {
    const gone = (id: string, values: DeviceValues): string => {
      const b = bench(program(id, values, { ...at24, systemVolts: id === 'varrow-p15' ? 12 : 24, cellsInSeries: 6 }));
      b.pass(30, { volts: 12.5 });
      b.pass(5, { battery: false });
      return b.state.stage;
    };
    expect(gone('varrow-p15', { absorbVoltage: 14.4, floatVoltage: 13.6, absorbTime: 60 })).toBe('fault');
    expect(gone('varrow-s45', s45)).toBe('bulk');
  });

  it('a turbine brakes when its volts run away, and stays braked', () => {
    const b = bench(
      program('ostrel-w12', {
        absorbVoltage: 14.4,
        floatVoltage: 13.6,
        diversionVoltage: 14.8,
        brakeVoltage: 15.5,
        absorbTime: 60,
        powerCurve: 'low head',
        outputMode: 'auto',
      }),
    );
    b.pass(30, { volts: 28 });
    expect(b.state.targetV).toBeCloseTo(28.8, 9);
    b.pass(1, { volts: 31.2 });
    expect(b.state.stage).toBe('absorb');
    b.pass(3);
    expect(b.trail.at(-1)).toBe('fault brake');
    b.pass(600, { volts: 25, source: false });
    b.pass(60, { source: true });
    expect(b.state.stage).toBe('fault');
    const off = bench(program('ostrel-w12', { absorbVoltage: 14.4, floatVoltage: 13.6, powerCurve: 'none', outputMode: 'auto', absorbTime: 60 }));
    off.pass(60);
    expect(off.state.stage).toBe('off');
  });

  it('equalises when it is due or asked for, and never when it is off', () => {
    const values: DeviceValues = {
      absorbVoltage: 14.4,
      floatVoltage: 13.6,
      absorbTime: 10,
      rechargeVoltage: 12.5,
      equaliseVoltage: 15,
      equaliseTime: 1,
      equaliseInterval: 30,
    };
    const at = { systemVolts: 12, cellsInSeries: 6, ratingA: 15 };
    const day = (enabled: string, days: number): string[] => {
      const b = bench(program('varrow-p15', { ...values, equaliseEnabled: enabled }, at));
      b.state.sinceEqualise = days * 86_400;
      b.pass(20, { volts: 13, amps: 5 });
      b.pass(610, { volts: 14.4 });
      b.pass(3700, { volts: 15 });
      return b.trail;
    };
    expect(day('on', 31)).toEqual(['bulk sourceOn', 'absorb touched', 'equalise equaliseDue', 'float equaliseDone']);
    expect(day('on', 20)).not.toContain('equalise equaliseDue');
    expect(day('off', 31)).not.toContain('equalise equaliseDue');
    const asked = bench(program('varrow-p15', { ...values, equaliseEnabled: 'on' }, at));
    asked.pass(20, { volts: 13 });
    asked.state.equaliseAsked = true;
    asked.pass(2);
    expect(asked.trail.at(-1)).toBe('equalise equaliseAsked');
  });

  it('a relay holds it off and lets it go', () => {
    const b = bench(program('varrow-s45', s45));
    b.pass(20);
    b.pass(2, { blocked: true });
    b.pass(2, { blocked: false });
    expect(b.trail).toEqual(['bulk sourceOn', 'cold blocked', 'bulk unblocked']);
  });

  it('comes to the same in steps of one second or of ten', () => {
    const run = (dt: number): string[] => {
      const b = bench(program('varrow-s45', s45));
      b.pass(600, { volts: 27 }, dt);
      b.pass(3000, { volts: 28.1, amps: 10 }, dt);
      b.pass(600, { volts: 26.9 }, dt);
      b.pass(600, { volts: 26 }, dt);
      return b.trail;
    };
    expect(run(10)).toEqual(run(1));
  });
});

describe('what a power cut leaves', () => {
  const keyed: DeviceValues = { absorbVoltage: 28.1, floatVoltage: 26.9 };
  const stored: DeviceValues = { absorbVoltage: 28.7, floatVoltage: 27.6 };

  it('is what was stored, where nothing was saved; what was keyed, where it was, or where the card saves by itself', () => {
    expect(afterPowerCut(card('varrow-s45'), keyed, stored, {}, false)).toEqual(stored);
    expect(afterPowerCut(card('varrow-s45'), keyed, stored, {}, true)).toEqual(keyed);
    expect(afterPowerCut(card('hadrin-h80'), keyed, stored, {}, false)).toEqual(keyed);
  });

  it('is the factory’s for what a card forgets unless saved apart', () => {
    const on: DeviceValues = { powerCurve: 'low head', outputMode: 'auto', absorbVoltage: 14.4 };
    const factory: DeviceValues = { powerCurve: 'none', outputMode: 'off' };
    expect(afterPowerCut(card('ostrel-w12'), on, on, factory, false)).toEqual({ ...on, ...factory });
    expect(afterPowerCut(card('ostrel-w12'), on, on, factory, true)).toEqual(on);
  });
});

describe('a program', () => {
  const refused = (values: DeviceValues, id = 'varrow-s45'): string => {
    const made = programOf(card(id), values, at24, 25, 'Solar aft');
    return made.ok ? '' : made.problems.map((p) => p.text).join(' ');
  };

  it('refuses what makes no sense, in a sentence with both numbers', () => {
    expect(refused({ ...s45, floatVoltage: 28.9 })).toMatch(/float 28\.90.V is above absorb 28\.10.V/);
    expect(refused({ ...s45, rechargeVoltage: 28.1 })).toContain('for ever');
    expect(refused({ ...s45, absorbVoltage: NaN })).toContain('no number');
    expect(refused({ ...s45, absorbVoltage: 'high' })).toContain('“high”');
    expect(refused({ floatVoltage: 27 })).toContain('nobody knows its absorb voltage');
    expect(refused(s45)).toBe('');
  });

  it('reads each card in its own terms: volts of a 12 V block, hours, percent of rating, fields and specials', () => {
    const w12 = program('ostrel-w12', {
      absorbVoltage: 14.4,
      floatVoltage: 13.6,
      diversionVoltage: 14.8,
      brakeVoltage: 15.5,
      compensationSlope: -60,
      absorbTime: 60,
    });
    expect(w12.absorbV).toBeCloseTo(28.8, 9);
    expect(w12.diversionV).toBeCloseTo(29.6, 9);
    expect(w12.brakeV).toBeCloseTo(31, 9);
    expect(w12.slope).toBeCloseTo(-0.06, 9);
    const h80 = program('hadrin-h80', { absorbVoltage: 28.8, absorbTime: 0, chargeCurrentLimit: 50, taperCurrent: 0 }, { ...at24, ratingA: 80 });
    expect(h80.absorbS).toBe(Infinity);
    expect(h80.limitA).toBe(40);
    expect(h80.taperA).toBe(0);
    expect(h80.floatV).toBeNaN();
    expect(program('murrel-ar-2', { ...s45, bulkVoltage: 28.4, highVoltageAlarm: 29, fieldLimit: 70, beltRelief: 10 }).outputPart).toBeCloseTo(0.63, 9);
  });
});
