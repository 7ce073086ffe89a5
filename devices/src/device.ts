import {
  afterPowerCut,
  factoryValues,
  fromRegister,
  meansOf,
  noReading,
  deviceRange,
  parameterFor,
  specialAt,
  fromWord,
  isVoltage,
  stageCode,
  tidy,
  toRegister,
  toWord,
  type Card,
  type Charger,
  type DeviceValues,
  type Live,
  type LivePlant,
  type Plan,
  type Role,
  type Telemetry,
} from '@calm-keel/core';
import type { Fault } from './faults';

/** What a device throws at its master, by the codes of the protocol: 2 no such register, 3 a value it does not take, 4 it has failed. */
export class Refusal extends Error {
  constructor(readonly modbusErrorCode: 2 | 3 | 4) {
    super(`exception ${modbusErrorCode}`);
  }
}

/** One simulated device: its registers, what it holds in volatile and in stored memory, and what is wrong with it. */
export interface Device {
  readonly name: string;
  readonly charger: Charger;
  readonly card: Card;
  readonly faults: Set<Fault>;
  values(): DeviceValues;
  /** Whether something was written that is not stored. */
  unsaved(): boolean;
  read(register: number): number;
  write(register: number, value: number): void;
  /** Takes its power away and gives it back. */
  cut(): void;
  press(fault: Fault, on: boolean): void;
}

/** The device reads this much too high under the fault of that name, V; holds volts this much under; its clock runs ahead so much, min. */
const errorVolts = 0.3;
const clipVolts = 0.3;
const clockMinutes = 7 * 60;

/**
 * Makes a device that answers for a charger or companion of a running plant.
 *
 * @param found what stands on it, stored
 */
export function makeDevice(plan: Plan, plant: LivePlant, charger: Charger, card: Card, telemetry: Telemetry, found: DeviceValues): Device {
  const faults = new Set<Fault>();
  const factory = factoryValues(plan, charger.id);
  const systemVolts = plan.facts.systemVolts ?? plan.facts.nominalVolts;
  let volatile: DeviceValues = found;
  let stored: DeviceValues = found;
  const changed = (): boolean => Object.keys(volatile).some((role) => volatile[role as Role] !== stored[role as Role]);
  const act = (): void => plant.setValues(charger.id, volatile);
  act();

  function live(what: Live): number {
    const own = plant.reading(charger.id);
    const bank = plant.bank();
    switch (what) {
      case 'volts':
        return own?.volts ?? bank.volts + (faults.has('displayError') ? errorVolts : 0);
      case 'amps':
        return own?.amps ?? NaN;
      case 'bankAmps':
        return bank.amps;
      case 'celsius':
        return own?.celsius ?? NaN;
      case 'stage':
        return own ? stageCode[own.stage] : NaN;
      case 'charge':
        return 100 * bank.counted;
      case 'inputVolts':
        return own?.inputVolts ?? NaN;
      case 'inputWatts':
      case 'loadAmps':
      case 'machineC':
        // None of the simulated devices measures these.
        return NaN;
      case 'alarm':
        return own?.confused ? 1 : 0;
      case 'clockMinutes':
        return (plant.minuteOfDay() + (faults.has('clockWrong') ? clockMinutes : 0)) % 1440;
    }
  }

  /** What becomes of a number on its way in. */
  function taken(role: Role, value: number | string): number | string {
    const p = parameterFor(card, role);
    if (!p || p.unit === 'choice' || typeof value !== 'number') return value;
    const special = specialAt(p, value) !== undefined;
    const { min, max } = deviceRange(p, systemVolts);
    if (!special && (value < min - 1e-9 || value > max + 1e-9)) throw new Refusal(3);
    if (special) return value;
    if (faults.has('clips') && isVoltage(p.unit)) return tidy(Math.max(min, value - clipVolts));
    const step = faults.has('rounds') ? 5 * p.step : p.step;
    return tidy(Math.min(max, Math.max(min, min + Math.round((value - min) / step) * step)));
  }

  function keepsRules(next: DeviceValues, touched: Role): boolean {
    return card.constraints.every((c) => {
      if (c.parameter !== touched && c.other !== touched) return true;
      const [a, b] = [next[c.parameter], next[c.other]];
      if (typeof a !== 'number' || typeof b !== 'number') return true;
      return c.relation === 'atLeast' ? a - b >= c.gap - 1e-9 : b - a >= -c.gap - 1e-9;
    });
  }

  /** A type or preset overwrites others, as the card says. */
  function moved(role: Role, value: number | string): DeviceValues {
    const next: Partial<Record<Role, number | string>> = { ...volatile, [role]: value };
    const preset = card.presets.find((x) => x.name === value);
    if (parameterFor(card, role)?.unit !== 'choice') return next;
    for (const p of card.parameters) if (p.movesWith === role && factory[p.role] !== undefined) next[p.role] = factory[p.role] ?? 0;
    for (const [other, v] of Object.entries(preset?.sets ?? {})) {
      const p = parameterFor(card, other as Role);
      next[other as Role] = typeof v === 'number' && p && p.unit !== 'choice' && p.per12V ? tidy((v * systemVolts) / 12) : v;
    }
    return next;
  }

  const store = (): void => {
    stored = volatile;
  };

  return {
    name: charger.link ?? charger.id,
    charger,
    card,
    faults,
    values: () => volatile,
    unsaved: changed,
    read(register) {
      if (register === telemetry.identity.register) return faults.has('wrongDevice') ? telemetry.identity.value + 1 : telemetry.identity.value;
      if (register === telemetry.firmware) return Math.round(100 * (Number.parseFloat(card.describes.firmware) || 0));
      const at = telemetry.live.find((l) => l.register === register);
      if (at) {
        const value = live(at.what);
        return toWord(Number.isFinite(value) ? Math.max(-32_767, Math.min(32_767, Math.round(value / at.scale))) : noReading);
      }
      const setting = telemetry.values.find((v) => v.register === register);
      if (setting) {
        const value = volatile[setting.role];
        const raw = value === undefined ? null : toRegister(card, setting.role, value);
        return toWord(raw?.ok ? raw.value.raw : noReading);
      }
      if (register === telemetry.commit?.register) return 0;
      throw new Refusal(2);
    },
    write(register, value) {
      if (faults.has('exception')) throw new Refusal(4);
      if (register === telemetry.commit?.register) {
        if (value !== telemetry.commit.value) throw new Refusal(3);
        if (!faults.has('commitIgnored')) store();
        return;
      }
      const setting = telemetry.values.find((v) => v.register === register);
      if (!setting) throw new Refusal(2);
      const asked = fromRegister(card, setting.role, fromWord(value));
      if (asked === null) throw new Refusal(3);
      const next = moved(setting.role, taken(setting.role, asked));
      if (!keepsRules(next, setting.role)) throw new Refusal(3);
      volatile = next;
      if (telemetry.commit === undefined) store();
      act();
    },
    cut() {
      // A save that stored everything keeps what is otherwise forgotten.
      volatile = faults.has('losesAtCut') ? factory : afterPowerCut(card, volatile, stored, factory, !changed());
      stored = volatile;
      act();
      plant.restart(charger.id);
    },
    press(fault, on) {
      if (fault === 'equalise') {
        // A long press on the wrong key: it switches equalise on and begins at once, with what is stored.
        const p = parameterFor(card, 'equaliseEnabled');
        const switchedOn = p?.unit === 'choice' ? p.options.find((o) => meansOf(p, o.value) === 'on')?.value : undefined;
        if (switchedOn !== undefined) {
          volatile = { ...volatile, equaliseEnabled: switchedOn };
          act();
        }
        plant.pressEqualise(charger.id);
        return;
      }
      if (on) faults.add(fault);
      else faults.delete(fault);
      if (fault === 'sourceOff') plant.isolate(charger.id, on);
      if (fault === 'sensorMissing') plant.unplug(charger.id, on);
      if (fault === 'displayError') plant.displayError(charger.id, on ? errorVolts : 0);
    },
  };
}
