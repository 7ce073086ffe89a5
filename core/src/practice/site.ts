import type { DeviceValues } from '../card';
import { makeLivePlant, type LivePlant } from '../rehearsal';
import { deriveSettings, type SettingsInput } from '../settings';
import type { Action } from './done';
import type { Hand, Setup } from './faults';
import { planWith, type Prepared } from './prepared';

/** Chargers have been up for so long when somebody looks, s. */
const upS = 120;

/** Works of the hands that change one charger. */
const onCharger: readonly Hand[] = ['moveSensor', 'remakeJoint', 'joinString', 'moveNegative'];

/** Sky, loads and engine as somebody has set them. */
export interface Around {
  readonly light: number;
  readonly loadA: number;
  readonly engine: boolean | null;
}

/** The installation behind the fronts as it really is: what is wrong with it, what the hands have mended, and the plant that runs. */
export interface Site {
  readonly plant: () => LivePlant;
  readonly truth: () => SettingsInput;
  readonly unplugged: ReadonlySet<string>;
  /** Whether snow or dirt keeps light from the arrays; whether something draws that nobody planned. */
  readonly covered: () => boolean;
  readonly loadLeftOn: () => boolean;
  /** Whether the thin leads of the monitor’s shunt are swapped. */
  readonly shuntReversed: () => boolean;
  /** Whether a source is switched off at its isolator, by somebody now or by the fault. */
  isolated(device: string): boolean;
  /** Switches a source off or on; true where that closed what stood open by fault. */
  isolate(device: string, off: boolean): boolean;
  /** What somebody has set of sky, loads and engine: light as a part of the day’s own, A more, null as the day has it. */
  readonly around: () => Around;
  surround(change: Extract<Action, { do: 'conditions' }>): void;
  /** What the hands do; the plant comes up anew where it was. */
  work(hand: Hand, device: string | null): void;
}

/**
 * Opens an installation.
 *
 * @param values what the devices work with now
 * @param hour the hour of the day now
 */
export function openSite(arrived: Setup, at: Prepared, values: () => Readonly<Record<string, DeviceValues>>, hour: () => number): Site {
  let { truth, light, loadA, shuntReversed } = arrived;
  let around: Around = { light: 1, loadA: 0, engine: null };
  const unplugged = new Set(arrived.unplugged);
  const leftOpen = new Set(arrived.isolated);
  const opened = new Set<string>();

  function settle({ conditions }: LivePlant): void {
    conditions.light = light * around.light;
    conditions.loadA = loadA + around.loadA;
    conditions.engine = around.engine;
  }
  function build(fromHour: number, charge: number, celsius: number | null): LivePlant {
    const scenario = { ...arrived.scenario, fromHour: Math.max(0, fromHour - upS / 3600), charge };
    // Made with what is right and then set to what stands there: values that make no sense together stop a charger, not the bench.
    const made = makeLivePlant(planWith(deriveSettings(truth), at.right), scenario, at.right);
    if (!made.ok) throw new Error(made.problems.map((p) => p.text).join(' '));
    const live = made.value;
    for (const [id, held] of Object.entries(values())) live.setValues(id, held);
    for (const id of unplugged) live.unplug(id, true);
    for (const id of [...leftOpen, ...opened]) live.isolate(id, true);
    settle(live);
    live.advance(upS);
    if (celsius !== null) live.shiftTo(celsius - live.bank().celsius);
    return live;
  }
  let plant = build(hour(), arrived.scenario.charge, null);

  /** A charger with one thing put back to how it should be. */
  function mendCharger(hand: Hand, device: string): void {
    const plain = at.plan.input.system.chargers.find((c) => c.id === device);
    truth = {
      ...truth,
      system: {
        ...truth.system,
        chargers: truth.system.chargers.map((c) => {
          if (c.id !== device || !plain) return c;
          if (hand === 'moveSensor') return { ...c, sensor: plain.sensor };
          if (hand === 'remakeJoint') return { ...c, ...(plain.wire ? { wire: plain.wire } : {}) };
          if (hand === 'joinString') return { ...c, ...(plain.array ? { array: plain.array } : {}) };
          return { ...c, besideShunt: false };
        }),
      },
    };
  }

  return {
    plant: () => plant,
    truth: () => truth,
    unplugged,
    covered: () => light < 1,
    loadLeftOn: () => loadA > 0,
    shuntReversed: () => shuntReversed,
    isolated: (id) => leftOpen.has(id) || opened.has(id),
    isolate(id, off) {
      if (off) opened.add(id);
      else opened.delete(id);
      const closed = !off && leftOpen.delete(id);
      plant.isolate(id, leftOpen.has(id) || opened.has(id));
      return closed;
    },
    around: () => around,
    surround({ light: sun, loadA: more, engine }) {
      around = { light: sun ?? around.light, loadA: more ?? around.loadA, engine: engine === undefined ? around.engine : engine };
      settle(plant);
    },
    work(hand, device) {
      if (hand === 'clearArray') light = 1;
      else if (hand === 'switchOffLoad') loadA = 0;
      else if (hand === 'swapShuntLeads') shuntReversed = false;
      else if (hand === 'moveRelay') truth = { ...truth, system: { ...truth.system, companions: at.plan.input.system.companions } };
      else if (hand === 'balanceCells' || hand === 'replaceBattery') truth = { ...truth, system: { ...truth.system, bank: at.plan.input.system.bank } };
      else if (device !== null && hand === 'plugSensor') unplugged.delete(device);
      else if (device !== null && hand === 'closeIsolator') leftOpen.delete(device);
      else if (device !== null && onCharger.includes(hand)) mendCharger(hand, device);
      const before = plant.bank();
      plant = build(hour(), before.charge, before.celsius);
    },
  };
}
