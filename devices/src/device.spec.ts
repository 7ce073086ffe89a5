import { readFileSync } from 'node:fs';
import { countFrom, deviceGrid, toRegister, toWord, valuesFromRegisters, type DeviceValues, type Role } from '@calm-keel/core/card';
import { seeded } from '../../core/src/testing/fixtures.js';
import { Refusal, type Device } from './device';
import { faultKinds, isFault } from './faults';
import { sitesOf, type Site } from './site';

const demo = (name: string): string => readFileSync(new URL(`../../demo/${name}.job.json`, import.meta.url), 'utf8');
const site = (name: string): Site => sitesOf([demo(name)])[0]!;
const device = (s: Site, name: string): Device => s.devices.find((d) => d.name === name)!;

const read = (d: Device): DeviceValues => valuesFromRegisters(d.card, (r) => d.read(r));
/** Writes a setting as the wire does; the code of the refusal, or null. */
function write(d: Device, role: Role, value: number | string): number | null {
  const at = toRegister(d.card, role, value);
  if (!at.ok) throw new Error(at.problems[0]?.text);
  try {
    d.write(at.value.register, toWord(at.value.raw));
    return null;
  } catch (error) {
    if (error instanceof Refusal) return error.modbusErrorCode;
    throw error;
  }
}
const commit = (d: Device): void => {
  const at = d.card.telemetry?.commit;
  if (at) d.write(at.register, at.value);
};

describe('a simulated device', () => {
  it('holds what the job found, every setting of every card read back as it was written', () => {
    const random = seeded(3);
    for (const name of ['teasel', 'skarrow', 'tumbler'])
      for (const d of site(name).devices)
        for (const p of d.card.parameters) {
          if (p.unit === 'choice') {
            for (const option of p.options) {
              const fresh = device(site(name), d.name);
              expect(write(fresh, p.role, option.value))
                .withContext(`${d.name} ${p.role}`)
                .toBeNull();
              expect(read(fresh)[p.role]).toBe(option.value);
              if (p.options.length > 2) break;
            }
            continue;
          }
          const grid = deviceGrid(p, name === 'tumbler' ? 48 : 24);
          const value = grid[Math.floor(random() * grid.length)]!;
          const refused = write(d, p.role, value);
          // A rule between two values may stand in the way; then nothing has changed.
          if (refused === null) expect(read(d)[p.role]).withContext(`${d.name} ${p.role}`).toBe(value);
          else expect(refused).toBe(3);
        }
  });

  it('answers numbers of two words by the register of each, and takes none of them by itself', () => {
    const text = JSON.parse(demo('teasel')) as { cards: { id: string; telemetry?: { live: object[]; values: object[] } }[] };
    for (const { telemetry } of text.cards)
      if (telemetry) {
        const widened = (at: object): object => ({ ...at, register: 1000 + 2 * (at as { register: number }).register, form: 'int32', order: 'lowFirst' });
        telemetry.live = telemetry.live.map((l) => ((l as { what: string }).what === 'volts' ? widened(l) : l));
        telemetry.values = telemetry.values.map((v) => ((v as { role: string }).role === 'absorbVoltage' ? widened(v) : v));
      }
    const [wide, plain] = [sitesOf([JSON.stringify(text)])[0]!, site('teasel')];
    for (const one of [wide, plain]) one.plant.advance(120);
    const [d, plainly] = [device(wide, 'teasel-fore'), device(plain, 'teasel-fore')];
    const volts = (of: Device): number | null =>
      countFrom(
        of.card.telemetry!.live.find((l) => l.what === 'volts')!,
        (r) => of.read(r),
      );
    expect(volts(d)).toBe(volts(plainly));
    expect(volts(d)).toBeGreaterThan(0);
    expect(read(d).absorbVoltage).toBe(read(plainly).absorbVoltage);
    const at = d.card.telemetry!.values.find((v) => v.role === 'absorbVoltage')!;
    for (const register of [at.register, at.register + 1])
      expect(() => d.write(register, 142))
        .withContext(String(register))
        .toThrowMatching((e: Refusal) => e.modbusErrorCode === 2);
    expect(read(d).absorbVoltage).toBe(read(plainly).absorbVoltage);
  });

  it('answers unknown registers, values out of range and broken rules with their codes', () => {
    const d = device(site('teasel'), 'teasel-dcdc');
    expect(() => d.read(9999)).toThrowMatching((e: Refusal) => e.modbusErrorCode === 2);
    expect(() => d.write(9999, 1)).toThrowMatching((e: Refusal) => e.modbusErrorCode === 2);
    expect(write(d, 'absorbVoltage', 60)).toBe(3);
    // Equalise stays 0.2 V above absorb.
    expect(write(d, 'equaliseVoltage', 28.2)).toBe(3);
    expect(write(d, 'equaliseVoltage', 28.4)).toBeNull();
    expect(write(d, 'lowTempCutoff', -5)).toBe(null);
    expect(read(d).lowTempCutoff).toBe(-5);
    const at = d.card.telemetry!.commit!;
    expect(() => d.write(at.register, at.value + 1)).toThrowMatching((e: Refusal) => e.modbusErrorCode === 3);
  });

  it('a preset overwrites others, as the card says', () => {
    const d = device(site('skarrow'), 'skarrow-leader');
    write(d, 'batteryType', 'A');
    const after = read(d);
    const preset = d.card.presets.find((p) => p.name === 'A')!;
    for (const [role, value] of Object.entries(preset.sets)) {
      const p = d.card.parameters.find((x) => x.role === role);
      const factor = p && p.unit !== 'choice' && p.per12V ? 2 : 1;
      expect(after[role as Role])
        .withContext(role)
        .toBeCloseTo(Number(value) * factor, 6);
    }
  });

  it('forgets at a restart what was not stored apart, and keeps all of it when it was', () => {
    const d = device(site('skarrow'), 'skarrow-turbine');
    write(d, 'powerCurve', 'low head');
    write(d, 'absorbVoltage', 14.2);
    expect(d.unsaved()).toBeTrue();
    d.cut();
    expect(read(d).powerCurve).toBe('none');
    write(d, 'powerCurve', 'low head');
    write(d, 'absorbVoltage', 14.2);
    commit(d);
    expect(d.unsaved()).toBeFalse();
    d.cut();
    expect([read(d).powerCurve, read(d).absorbVoltage]).toEqual(['low head', 14.2]);
  });

  it('stops and raises its alarm when its values make no sense together', () => {
    const s = site('teasel');
    const d = device(s, 'teasel-fore');
    s.plant.advance(60);
    expect(s.plant.reading('fore')?.amps).toBeGreaterThan(1);
    expect(write(d, 'floatVoltage', 30)).toBeNull();
    s.plant.advance(60);
    expect(s.plant.reading('fore')?.confused).toBeTrue();
    expect(s.plant.reading('fore')?.amps).toBeCloseTo(0, 3);
    write(d, 'floatVoltage', 27.1);
    s.plant.advance(60);
    expect(s.plant.reading('fore')?.confused).toBeFalse();
    expect(s.plant.reading('fore')?.amps).toBeGreaterThan(1);
  });

  it('every fault can be pressed and let go, and the device is then as before', () => {
    for (const fault of Object.keys(faultKinds).filter(isFault)) {
      const s = site('teasel');
      const d = device(s, 'teasel-aft');
      const before = read(d);
      d.press(fault, true);
      s.plant.advance(5);
      d.press(fault, false);
      s.plant.advance(5);
      const { equaliseEnabled: _a, ...rest } = read(d);
      const { equaliseEnabled: _b, ...was } = before;
      expect(rest).withContext(fault).toEqual(was);
      expect(d.faults.size).withContext(fault).toBe(0);
    }
    expect(isFault('constructor')).toBeFalse();
  });
});

describe('the plant that runs on', () => {
  it('gives the same bank as the rehearsal of the same hours', () => {
    const s = site('teasel');
    s.plant.advance(3600);
    const one = s.plant.bank();
    const other = site('teasel');
    for (let i = 0; i < 60; i++) other.plant.advance(60);
    expect(other.plant.bank()).toEqual(one);
    expect(s.plant.minuteOfDay()).toBe(10 * 60);
  });

  it('feels clouds, cold, load and engine, and a source that is switched off', () => {
    const s = site('teasel');
    s.plant.advance(120);
    const { amps, celsius } = s.plant.bank();
    s.plant.conditions.loadA = 30;
    s.plant.advance(30);
    expect(s.plant.bank().amps).toBeLessThan(amps - 20);
    s.plant.conditions.loadA = 0;
    s.plant.conditions.light = 0;
    s.plant.advance(30);
    expect(s.plant.reading('fore')?.amps).toBe(0);
    s.plant.conditions.light = 1;
    s.plant.conditions.engine = true;
    s.plant.advance(120);
    expect(s.plant.reading('alternator')?.amps).toBeGreaterThan(10);
    s.plant.isolate('alternator', true);
    s.plant.advance(30);
    expect(s.plant.reading('alternator')?.amps).toBe(0);
    s.plant.shiftTo(-20);
    expect(s.plant.bank().celsius).toBeCloseTo(celsius - 20, 0);
    // The forward charger stops in the cold once its sensor has followed.
    s.plant.advance(3600);
    expect(s.plant.reading('fore')?.stage).toBe('cold');
  });
});
