import { countOf, fromRegisters, registersOf, wordsFrom, wordsIn, type Card, type DeviceValues, type Live, type Telemetry } from '@calm-keel/core/card';
import { stageCode } from '@calm-keel/core/charger';
import { afterCut, asFromFactory, isUnsaved, optionMeaning, storeAll, writeValue, type Memory, type MemoryRules } from '@calm-keel/core/face';
import type { LivePlant } from '@calm-keel/core/rehearsal';
import { factoryValues, type Plan } from '@calm-keel/core/settings';
import { rangeVolts, type Charger } from '@calm-keel/core/system';
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
  const systemVolts = rangeVolts(plan.facts);
  let memory: Memory = { inUse: found, stored: found };
  const rules = (): MemoryRules => ({
    card,
    factory,
    systemVolts,
    ...(faults.has('clips') ? { holdsUnder: clipVolts } : {}),
    ...(faults.has('rounds') ? { coarser: 5 } : {}),
  });
  const act = (): void => plant.setValues(charger.id, memory.inUse);
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

  return {
    name: charger.link ?? charger.id,
    charger,
    card,
    faults,
    values: () => memory.inUse,
    unsaved: () => isUnsaved(memory),
    read(register) {
      if (register === telemetry.identity.register) return faults.has('wrongDevice') ? telemetry.identity.value + 1 : telemetry.identity.value;
      if (register === telemetry.firmware) return Math.round(100 * (Number.parseFloat(card.describes.firmware) || 0));
      const at = telemetry.live.find((l) => registersOf(l).includes(register));
      if (at) {
        const value = live(at.what);
        return wordsFrom(at, Number.isFinite(value) ? value / at.scale : null)[register - at.register] ?? 0;
      }
      const setting = telemetry.values.find((v) => registersOf(v).includes(register));
      if (setting) {
        const value = memory.inUse[setting.role];
        const raw = value === undefined ? null : countOf(card, setting.role, value);
        return wordsFrom(setting, raw?.ok ? raw.value : null)[register - setting.register] ?? 0;
      }
      if (register === telemetry.commit?.register) return 0;
      throw new Refusal(2);
    },
    write(register, value) {
      if (faults.has('exception')) throw new Refusal(4);
      if (register === telemetry.commit?.register) {
        if (value !== telemetry.commit.value) throw new Refusal(3);
        if (!faults.has('commitIgnored')) memory = storeAll(memory);
        return;
      }
      const setting = telemetry.values.find((v) => v.register === register);
      // Of two words it takes none by itself.
      if (!setting || wordsIn(setting) === 2) throw new Refusal(2);
      const asked = fromRegisters(card, setting.role, () => value);
      if (asked === null) throw new Refusal(3);
      const written = writeValue(rules(), memory, setting.role, asked);
      if (!written.ok) throw new Refusal(3);
      memory = telemetry.commit === undefined ? storeAll(written.memory) : written.memory;
      act();
    },
    cut() {
      memory = faults.has('losesAtCut') ? asFromFactory(rules()) : afterCut(rules(), memory);
      act();
      plant.restart(charger.id);
    },
    press(fault, on) {
      if (fault === 'equalise') {
        // A long press on the wrong key: it switches equalise on and begins at once, with what is stored.
        const switchedOn = optionMeaning(card, 'equaliseEnabled', 'on');
        if (switchedOn !== undefined) {
          memory = { ...memory, inUse: { ...memory.inUse, equaliseEnabled: switchedOn } };
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
