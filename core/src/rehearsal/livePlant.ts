import type { DeviceValues } from '../card';
import { copyMachine, newMachine, type Stage } from '../charger';
import { good, type Result } from '../quantity';
import type { Plan } from '../settings';
import { makeAir } from './air';
import { bankSeconds, makePlant } from './plant';
import { programFor, programsOf } from './programs';
import type { Scenario } from './scenario';
import { makeSchedule } from './schedule';
import { makeSky } from './site';
import { inputVoltsOf } from './unit';
import type { AllValues } from './values';

/** What can be changed around a plant while it runs. */
interface Conditions {
  /** Light that gets through, as a part of the day’s own, 0 to 1. */
  light: number;
  /** Null: as the day has it. */
  engine: boolean | null;
  mains: boolean | null;
  /** Added to the loads, A. */
  loadA: number;
}

/** What a charger tells of the present moment, as it measures it itself. */
interface LiveReading {
  readonly volts: number;
  /** What is really there at its battery terminals, V, and what is lost of it on the way to the bus. */
  readonly terminalVolts: number;
  readonly cableDrop: number;
  readonly amps: number;
  /** NaN without a sensor. */
  readonly celsius: number;
  readonly stage: Stage;
  /** NaN where it has none. */
  readonly inputVolts: number;
  /** Its settings make no sense together: it gives nothing. */
  readonly confused: boolean;
}

/** A plant that goes on for ever, whose devices are keyed, cut and disturbed while it runs. Times are simulated seconds. */
export interface LivePlant {
  readonly conditions: Conditions;
  /** Seconds from the start, and minutes since midnight on the plant’s clock. */
  now(): number;
  minuteOfDay(): number;
  /** Lets time pass in steps of a second. */
  advance(seconds: number): void;
  bank(): {
    readonly volts: number;
    readonly busVolts: number;
    readonly airC: number;
    readonly amps: number;
    readonly celsius: number;
    readonly charge: number;
    readonly counted: number;
  };
  reading(charger: string): LiveReading | null;
  /** Makes air and bank so many degrees warmer than the day has them, at once. */
  shiftTo(celsius: number): void;
  /** New values on a device act at once, as they do on the real one. */
  setValues(device: string, values: DeviceValues): void;
  /** A charger that comes up after its power was cut. */
  restart(charger: string): void;
  /** Its sensor is pulled, or put back. */
  unplug(charger: string, unplugged: boolean): void;
  /** Its sensor is held at a temperature, in ice water or in the hand; null puts it back on its place. */
  holdSensor(charger: string, celsius: number | null): void;
  /** What its display reads too much from now on, V, on top of what is known. */
  displayError(charger: string, volts: number): void;
  pressEqualise(charger: string): void;
  /** Its source is switched off at its isolator, key or brake, or on again. */
  isolate(charger: string, off: boolean): void;
}

/** How long a sky is drawn for, s; after that it stays as it is. */
const skySeconds = 60 * 86_400;
/** A charger that measures wrong by this much more is rewritten; smaller is the same, V. */
const sameVolts = 1e-9;

/**
 * A plant to run in real or faster time.
 *
 * @param values what stands on every device
 * @returns a problem in a sentence where it cannot be put together
 */
export function makeLivePlant(plan: Plan, scenario: Scenario, values: AllValues): Result<LivePlant> {
  const input = { plan, scenario, values };
  const { system } = plan.input;
  const capacityAh = plan.facts.capacityAh ?? NaN;
  const programs = programsOf(input, 1, capacityAh);
  if (!programs.ok) return programs;
  const arrays = system.chargers.flatMap((c) => (c.array ? [c.array] : []));
  const sky = makeSky(scenario, arrays, system.site.latitude ?? 45, skySeconds);
  const air = makeAir(scenario, system.site, bankSeconds);
  const schedule = makeSchedule(scenario, undefined);
  let shiftC = 0;
  const conditions: Conditions = { light: 1, engine: null, mains: null, loadA: 0 };
  const startS = scenario.fromHour * 3600;
  const plant = makePlant(input, programs.value, {
    sky: { light: (array, t) => sky.light(array, t) * conditions.light, nextEdge: (t) => sky.nextEdge(t) },
    air: { at: (t) => air.at(t) + shiftC, bankStartC: air.bankStartC },
    schedule: {
      ...schedule,
      loads: (t) => schedule.loads(t) + conditions.loadA,
      engine: (t) => conditions.engine ?? schedule.engine(t),
      mains: (t) => conditions.mains ?? schedule.mains(t),
    },
    startS,
    capacityAh,
  });
  const on: Record<string, DeviceValues> = { ...values };
  const confused = new Set<string>();
  const errors = new Map<string, number>();
  const unit = (id: string) => plant.units.find((u) => u.charger.id === id);

  return good({
    conditions,
    now: () => plant.live.now,
    minuteOfDay: () => Math.floor(((startS + plant.live.now) % 86_400) / 60),
    advance(seconds) {
      for (let left = seconds; left > 1e-9; left -= 1) {
        const h = Math.min(1, left);
        plant.step(h);
        plant.live.now += h;
        plant.pending.length = 0;
        for (const u of plant.units) u.changesSeen = u.state.changes;
      }
    },
    bank: () => ({
      volts: plant.live.terminal,
      busVolts: plant.busV(),
      airC: plant.live.air,
      amps: plant.live.net,
      celsius: plant.batteryC(),
      charge: plant.bank.charge(),
      counted: plant.counted(),
    }),
    reading(id) {
      const k = plant.units.findIndex((u) => u.charger.id === id);
      const u = plant.units[k];
      if (!u) return null;
      const amps = plant.sources.amps[k] ?? 0;
      const cableDrop = amps * u.ohms;
      return {
        volts: u.reading.volts,
        terminalVolts: plant.busV() + cableDrop,
        cableDrop,
        amps,
        celsius: u.reading.celsius,
        stage: u.state.stage,
        inputVolts: inputVoltsOf(u, amps),
        confused: confused.has(id),
      };
    },
    shiftTo(celsius) {
      plant.setBatteryC(plant.batteryC() + celsius - shiftC);
      shiftC = celsius;
    },
    setValues(id, given) {
      on[id] = given;
      plant.rekeyed(on);
      const u = unit(id);
      if (!u) return;
      const made = programFor(input, u.charger, given);
      if (made.ok) {
        u.program = made.value;
        confused.delete(id);
      } else {
        // What it was told makes no sense together: it stops, as a careful charger does.
        u.program = { ...u.program, limitA: 0 };
        confused.add(id);
      }
    },
    restart(id) {
      const u = unit(id);
      if (!u) return;
      const { changes } = u.state;
      copyMachine(newMachine(), u.state);
      u.state.changes = changes + 1;
      u.state.cause = 'restart';
    },
    unplug(id, unplugged) {
      const u = unit(id);
      if (u) u.unplugged = unplugged || !u.charger.sensor.fitted || u.card.sensor.reads === 'none';
    },
    holdSensor(id, celsius) {
      const u = unit(id);
      if (u) u.sensorHeldC = celsius;
    },
    displayError(id, volts) {
      const u = unit(id);
      const more = volts - (errors.get(id) ?? 0);
      if (!u || Math.abs(more) < sameVolts) return;
      errors.set(id, volts);
      for (let i = 0; i < u.displayAt.length; i++) u.displayAt[i] = (u.displayAt[i] ?? 0) + more;
    },
    isolate(id, off) {
      const u = unit(id);
      if (u) u.replay = off ? () => 0 : null;
    },
    pressEqualise(id) {
      const u = unit(id);
      if (u) u.state.equaliseAsked = true;
    },
  });
}
