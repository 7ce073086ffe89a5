import { displayText, meansOf, parameterFor, type Card, type DeviceValues, type Role } from '../card';
import { cutFacePower, faceRules, faceView, makeMove, newFace, passFaceTime, type FaceRules, type FaceState } from '../face';
import { randomFrom } from '../physics';
import { makeLivePlant, rehearse, type LivePlant, type Run } from '../rehearsal';
import { cardOf, deriveSettings, devicesOf, factoryValues, trueOf, type Plan } from '../settings';
import { inputOf, type PracticeLibrary } from './places';
import { planWith, prepare, type Prepared } from './prepared';
import { mended, setUp, type Exercise } from './exercise';
import { faultKinds, type Hand, type Setup } from './faults';
import type { Action, Done, Sight } from './done';

/** How long things take, s. */
const takes = { measure: 30, look: 60, hand: 600, cut: 60, ice: 900, log: 60 } as const;
/** The longest that is waited for the next change, s. */
const longestWait = 3 * 3600;
/** Parts of the gain a meter may be wrong by, and a thermometer by, °C. */
const gainPart = 0.003;
const thermometerC = 0.3;
/** Most of the cable’s drop lies on the plus side, where fuse and breaker are. */
const plusPart = 0.75;

/** Something dangerous that was done. */
export interface Danger {
  readonly code: 'cutUnderSun' | 'secondMeaning' | 'factoryReset';
  readonly device: string;
  readonly at: number;
}

/** A moment of the bench’s own record. */
export interface BenchSample {
  readonly at: number;
  readonly volts: number;
  readonly amps: number;
}

/** A device on the bench with its front. */
export interface BenchDevice {
  readonly id: string;
  readonly name: string;
  readonly card: Card;
  readonly rules: FaceRules;
  readonly charges: boolean;
}

/** A practice bench in use. */
export interface Bench {
  readonly exercise: Exercise;
  readonly at: Prepared;
  /** The installation as it was when somebody arrived. */
  readonly arrived: Setup;
  readonly devices: readonly BenchDevice[];
  face(device: string): FaceState;
  /** Does something; whatever it showed is added to what was done. */
  act(action: Action): void;
  done(): readonly Done[];
  hazards(): readonly Danger[];
  hands(): readonly { readonly hand: Hand; readonly device: string | null }[];
  hints(): number;
  /** Values stored that were wrong. */
  slips(): readonly { readonly device: string; readonly role: Role; readonly value: number | string }[];
  /** s since the beginning, and minutes since midnight. */
  seconds(): number;
  minuteOfDay(): number;
  samples(): readonly BenchSample[];
  /** What the settings should be by what is known: the sheet on the wall, and displays compared with the meter. */
  wall(): Plan;
  /** What they should be by what is true. */
  truePlan(): Plan;
  reading(device: string): ReturnType<LivePlant['reading']>;
  bank(): ReturnType<LivePlant['bank']>;
  monitorAmps(): number;
  conditions(): Readonly<LivePlant['conditions']>;
  isolated(device: string): boolean;
  /** The day before, as a logger wrote it. */
  yesterday(): Run | null;
}

/**
 * Opens an exercise. Everything on it follows from the exercise and the list of what is done: doing the same again comes to the same.
 *
 * @throws Error when the library lacks what the place is made of
 */
export function openBench(exercise: Exercise, library: PracticeLibrary): Bench {
  const at = prepare(exercise.place, library);
  const arrived = setUp(exercise, at);
  const random = randomFrom(exercise.seed ^ 0x5bd1);
  const gain = 1 + gainPart * (2 * random() - 1);
  const offC = thermometerC * (2 * random() - 1);

  let truth = arrived.truth;
  let light = arrived.light;
  let loadA = arrived.loadA;
  let moreLoadA = 0;
  let cloudier = 1;
  let engine: boolean | null = null;
  const unplugged = new Set(arrived.unplugged);
  const openBefore = new Set(arrived.isolated);
  const openNow = new Set<string>();
  const devices = devicesOf(at.plan.input).flatMap((place): BenchDevice[] => {
    const card = cardOf(at.plan.input, place);
    if (!card) return [];
    const rules = faceRules({ card, factory: factoryValues(at.plan, place.id), systemVolts: at.plan.facts.systemVolts ?? at.plan.facts.nominalVolts });
    return [{ id: place.id, name: place.name, card, rules, charges: at.plan.input.system.chargers.some((c) => c.id === place.id) }];
  });
  const faces = new Map(devices.map((d) => [d.id, newFace({ inUse: arrived.inUse[d.id] ?? {}, stored: arrived.stored[d.id] ?? {} })]));
  const face = (id: string): FaceState => {
    const found = faces.get(id);
    if (!found) throw new Error(`there is no ${id} on this bench`);
    return found;
  };

  const values = (): Readonly<Record<string, DeviceValues>> => Object.fromEntries([...faces].map(([id, f]) => [id, f.memory.inUse]));

  let passed = 0;
  let plant = build(arrived.scenario.fromHour, arrived.scenario.charge, null);
  const done: Done[] = [];
  const hazards: Danger[] = [];
  const hands: { hand: Hand; device: string | null }[] = [];
  const slips: { device: string; role: Role; value: number | string }[] = [];
  const samples: BenchSample[] = [];
  let hints = 0;
  let compared: Readonly<Record<string, { meterV: number; displayV: number }>> = {};
  let run: Run | null | undefined;
  let wallPlan: { readonly of: typeof compared; readonly plan: Plan } | null = null;
  let truePlan: Plan | null = null;

  function build(fromHour: number, charge: number, celsius: number | null): LivePlant {
    // Made with what is right and then set to what stands there: values that make no sense together stop a charger, not the bench.
    const made = makeLivePlant(planWith(deriveSettings(truth), at.right), { ...arrived.scenario, fromHour, charge }, at.right);
    if (!made.ok) throw new Error(made.problems.map((p) => p.text).join(' '));
    const live = made.value;
    for (const [id, held] of Object.entries(values())) live.setValues(id, held);
    for (const id of unplugged) live.unplug(id, true);
    for (const id of [...openBefore, ...openNow]) live.isolate(id, true);
    live.conditions.light = light * cloudier;
    live.conditions.loadA = loadA + moreLoadA;
    live.conditions.engine = engine;
    // The first seconds bring the chargers up.
    live.advance(2);
    if (celsius !== null) live.shiftTo(celsius - live.bank().celsius);
    return live;
  }
  const clock = (): number => arrived.scenario.fromHour * 3600 + passed;
  const minuteOfDay = (): number => Math.floor((clock() % 86_400) / 60);
  /** Wires or panels were changed: the plant comes up anew where it was. */
  function rebuild(): void {
    const before = plant.bank();
    plant = build((clock() % 86_400) / 3600, before.charge, before.celsius);
  }

  function sample(): void {
    const { volts, amps } = plant.bank();
    samples.push({ at: passed, volts, amps });
  }
  function pass(seconds: number): void {
    for (let left = seconds; left > 1e-9; left -= 30) {
      const h = Math.min(30, left);
      plant.advance(h);
      passed += h;
      sample();
    }
    for (const d of devices) faces.set(d.id, passFaceTime(d.rules, face(d.id), seconds));
  }

  function note(key: string, more: Partial<Omit<Done, 'at' | 'key' | 'minuteOfDay'>> = {}): void {
    done.push({
      device: null,
      role: null,
      number: null,
      unit: null,
      beside: null,
      text: null,
      sight: null,
      stage: null,
      ...more,
      at: passed,
      minuteOfDay: minuteOfDay(),
      key,
    });
  }

  /** Volts of a probe against the bank’s minus. */
  function potential(probe: string): number {
    const sign = probe.at(-1);
    const where = probe.slice(0, -1);
    const bank = plant.bank();
    if (where === 'bank') return sign === '+' ? bank.volts : 0;
    if (where === 'bus') return sign === '+' ? bank.busVolts : 0;
    const [side = '', id = ''] = where.split(':');
    const r = plant.reading(id);
    if (!r) return 0;
    const minus = -(1 - plusPart) * r.cableDrop;
    if (side === 'in') return sign === '+' ? minus + (Number.isFinite(r.inputVolts) ? r.inputVolts : 0) : minus;
    return sign === '+' ? bank.busVolts + plusPart * r.cableDrop : minus;
  }
  function meterKey(red: string, black: string): string {
    const [a, b] = [red, black].map((p) => p.slice(0, -1)) as [string, string];
    const across = red.at(-1) !== black.at(-1);
    if (across && a === b) return a.startsWith('at:') ? `meter:${a.slice(3)}` : a.startsWith('in:') ? `input:${a.slice(3)}` : `meter:${a}`;
    const charger = [a, b].find((p) => p.startsWith('at:'));
    if (!across && charger !== undefined && [a, b].some((p) => p === 'bank' || p === 'bus')) return `drop:${charger.slice(3)}`;
    return 'meter:other';
  }

  const monitorAmps = (): number =>
    truth.system.chargers.reduce((sum, c) => (c.besideShunt === true ? sum - (plant.reading(c.id)?.amps ?? 0) : sum), plant.bank().amps);
  const loadAmps = (): number => truth.system.chargers.reduce((sum, c) => sum + (plant.reading(c.id)?.amps ?? 0), 0) - plant.bank().amps;
  const round = (value: number, digits: number): number => Math.round(value * 10 ** digits) / 10 ** digits;

  function look(what: string): { sight: Sight; number: number | null } {
    const [thing = '', id = ''] = what.split(':');
    const charger = truth.system.chargers.find((c) => c.id === id);
    const bank = truth.system.bank;
    const plain = at.plan.input.system.chargers.find((c) => c.id === id);
    const seen = (sight: Sight, number: number | null = null) => ({ sight, number });
    switch (thing) {
      case 'sensor':
        if (charger?.sensor.fitted !== true) return seen('none');
        if (unplugged.has(id)) return seen('unplugged');
        return seen(charger.sensor.place === 'pad' ? 'onPad' : charger.sensor.place === 'chargerCase' ? 'inCase' : 'onBattery');
      case 'joints':
        return seen((charger?.wire?.lengthM ?? 0) > (plain?.wire?.lengthM ?? 0) ? 'burnt' : 'fine');
      case 'isolator':
        return seen(openBefore.has(id) || openNow.has(id) ? 'open' : 'closed');
      case 'negative':
        return seen(charger?.besideShunt === true ? 'besideShunt' : 'throughShunt');
      case 'array':
        return seen(light < 1 ? 'snow' : 'clear');
      case 'sky':
        return seen(arrived.scenario.clearness < 0.7 ? 'cloud' : 'clear');
      case 'loads':
        return seen(loadA > 0 ? 'loadLeftOn' : 'loadsUsual');
      case 'cells':
        return bank.hasBms ? seen('cells', round(bank.cellSpreadV ?? 0, 2)) : seen('none');
      case 'label':
        return seen(arrived.wallSheet === null ? 'sameSheet' : 'otherSheet');
      default:
        return seen('fine');
    }
  }

  /** What a work of the hands changes. */
  function work(hand: Hand, device: string | null): void {
    hands.push({ hand, device });
    switch (hand) {
      case 'clearArray':
        light = 1;
        break;
      case 'plugSensor':
        if (device !== null) unplugged.delete(device);
        break;
      case 'closeIsolator':
        if (device !== null) openBefore.delete(device);
        break;
      case 'switchOffLoad':
        loadA = 0;
        break;
      case 'moveSensor':
      case 'remakeJoint':
      case 'joinString':
      case 'moveNegative': {
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
        break;
      }
      case 'balanceCells':
      case 'replaceBattery':
        truth = mended(truth, at, null);
        break;
      case 'replaceCharger':
        break;
    }
    rebuild();
    pass(takes.hand);
  }

  /** A value seen on a display is read: it stands in the list once for each thing it showed. */
  function readValue(d: BenchDevice): void {
    const state = face(d.id);
    const view = faceView(d.rules, state);
    if (view.role === null || view.value === null || state.edit) return;
    const key = `value:${d.id}:${view.role}`;
    if (done.findLast((x) => x.key === key || x.key === `cut:${d.id}`)?.text === view.value) return;
    note(key, { device: d.id, role: view.role, text: view.value });
  }

  function setFace(d: BenchDevice, next: FaceState): void {
    const before = face(d.id);
    faces.set(d.id, next);
    if (next.memory.inUse !== before.memory.inUse) plant.setValues(d.id, next.memory.inUse);
    if (next.memory.stored !== before.memory.stored)
      for (const [role, value] of Object.entries(next.memory.stored) as [Role, number | string][])
        if (before.memory.stored[role] !== value && !acceptable(bench.truePlan(), at, d.id, role, value)) slips.push({ device: d.id, role, value });
    if (next.note?.code === 'second') hazards.push({ code: 'secondMeaning', device: d.id, at: passed });
    if (next.note?.code === 'factory') hazards.push({ code: 'factoryReset', device: d.id, at: passed });
  }

  function noteHome(d: BenchDevice): void {
    const r = plant.reading(d.id);
    if (r) {
      const volts = round(r.volts, 2);
      note(`display:${d.id}`, { device: d.id, number: volts, unit: 'V', beside: round(r.amps, 1), stage: r.stage });
      if (d.card.sensor.reads !== 'none') note(`sensor:${d.id}`, { device: d.id, number: Number.isFinite(r.celsius) ? round(r.celsius, 1) : NaN, unit: '°C' });
      const meter = done.findLast((x) => x.key === `meter:${d.id}`);
      if (meter?.number != null && passed - meter.at <= 300) compared = { ...compared, [d.id]: { meterV: meter.number, displayV: volts } };
    } else if (d.card.kind === 'monitor') note('monitor', { device: d.id, number: round(monitorAmps(), 1), unit: 'A', beside: round(plant.bank().volts, 2) });
    else note(`display:${d.id}`, { device: d.id, number: round(plant.bank().celsius, 1), unit: '°C' });
  }

  const bench: Bench = {
    exercise,
    at,
    arrived,
    devices,
    face,
    done: () => done,
    hazards: () => hazards,
    hands: () => hands,
    hints: () => hints,
    slips: () => slips,
    seconds: () => passed,
    minuteOfDay,
    samples: () => samples,
    wall() {
      if (wallPlan?.of === compared) return wallPlan.plan;
      const input = inputOf(at.place, library, arrived.wallSheet ?? at.place.sheet);
      const chargers = input.system.chargers.map((c) => {
        const reading = compared[c.id];
        return { ...c, present: at.right[c.id] ?? c.present, ...(reading ? { displayReadings: [reading] } : {}) };
      });
      wallPlan = { of: compared, plan: deriveSettings({ ...input, system: { ...input.system, chargers } }) };
      return wallPlan.plan;
    },
    truePlan() {
      if (truePlan) return truePlan;
      const displays = new Map(arrived.truth.system.chargers.map((c) => [c.id, c.displayReadings]));
      const { system } = at.plan.input;
      truePlan = deriveSettings({
        ...at.plan.input,
        system: { ...system, chargers: system.chargers.map((c) => ({ ...c, displayReadings: displays.get(c.id) ?? [] })) },
      });
      return truePlan;
    },
    reading: (id) => plant.reading(id),
    bank: () => plant.bank(),
    monitorAmps,
    conditions: () => plant.conditions,
    isolated: (id) => openBefore.has(id) || openNow.has(id),
    yesterday() {
      if (run !== undefined) return run;
      // Nothing of today’s doing is in it.
      const made = rehearse({
        plan: planWith(deriveSettings(arrived.truth), arrived.inUse),
        scenario: { ...arrived.scenario, fromHour: 0, unplugged: [...arrived.unplugged] },
        values: arrived.inUse,
      });
      run = made.ok ? made.value : null;
      return run;
    },
    act(action) {
      const d = 'device' in action ? devices.find((x) => x.id === action.device) : undefined;
      switch (action.do) {
        case 'key':
        case 'reach':
          if (d) {
            setFace(d, makeMove(d.rules, face(d.id), action));
            readValue(d);
          }
          return;
        case 'leave':
          if (d) pass(Math.max(1, (d.card.commit.timeoutSeconds ?? 60) - face(d.id).idle));
          return;
        case 'note':
          if (d && face(d.id).at.length === 0) noteHome(d);
          return;
        case 'pass':
          return pass(action.seconds);
        case 'next': {
          const stagesNow = (): string => devices.map((x) => plant.reading(x.id)?.stage ?? '').join();
          const before = stagesNow();
          for (let waited = 0; waited < longestWait && stagesNow() === before; waited += 60) pass(60);
          return;
        }
        case 'meter':
          pass(takes.measure);
          note(meterKey(action.red, action.black), {
            number: round((potential(action.red) - potential(action.black)) * gain, 2),
            unit: 'V',
            text: `${action.red} ${action.black}`,
            device: /:([a-z0-9-]+)/.exec(action.red)?.[1] ?? null,
          });
          return;
        case 'clamp': {
          pass(takes.measure);
          const amps = action.at === 'bank' ? plant.bank().amps : action.at === 'loads' ? loadAmps() : (plant.reading(action.at)?.amps ?? 0);
          note(`clamp:${action.at}`, { number: round(amps, 1), unit: 'A', device: plant.reading(action.at) ? action.at : null });
          return;
        }
        case 'strings': {
          pass(takes.measure);
          const planned = at.plan.input.system.chargers.find((c) => c.id === action.device)?.array?.inParallel ?? 0;
          const live = truth.system.chargers.find((c) => c.id === action.device)?.array?.inParallel ?? 0;
          const r = plant.reading(action.device);
          if (!r || planned === 0) return;
          const each = r.inputVolts > 1 ? (r.amps * r.terminalVolts) / r.inputVolts / Math.max(1, live) : 0;
          // In the dark all are nought, and that shows nothing.
          note(each > 0.3 ? `strings:${action.device}` : `dark:${action.device}`, {
            device: action.device,
            number: live < planned ? 0 : round(each, 1),
            beside: round(each, 1),
            unit: 'A',
          });
          return;
        }
        case 'thermometer':
          pass(takes.measure);
          note(`thermometer:${action.at}`, { number: round((action.at === 'battery' ? plant.bank().celsius : plant.bank().airC) + offC, 1), unit: '°C' });
          return;
        case 'ice':
          if (!d) return;
          plant.holdSensor(d.id, 0);
          pass(takes.ice);
          note(`ice:${d.id}`, {
            device: d.id,
            number: Number.isFinite(plant.reading(d.id)?.celsius ?? NaN) ? round(plant.reading(d.id)?.celsius ?? NaN, 1) : NaN,
            unit: '°C',
            stage: plant.reading(d.id)?.stage ?? null,
          });
          plant.holdSensor(d.id, null);
          return;
        case 'look':
          pass(takes.look);
          note(`look:${action.at}`, { ...look(action.at), unit: action.at === 'cells' ? 'V' : null, device: action.at.split(':')[1] ?? null });
          return;
        case 'log':
          pass(takes.log);
          note('log');
          return;
        case 'cut': {
          if (!d) return;
          const r = plant.reading(d.id);
          if (r && r.amps > 0.5 && !d.card.survivesBatteryLoss) hazards.push({ code: 'cutUnderSun', device: d.id, at: passed });
          setFace(d, cutFacePower(d.rules, face(d.id)));
          plant.restart(d.id);
          pass(takes.cut);
          note(`cut:${d.id}`, { device: d.id });
          return;
        }
        case 'isolate':
          if (action.off) openNow.add(action.device);
          else {
            openNow.delete(action.device);
            // Somebody who closes what stood open has closed it.
            if (openBefore.delete(action.device) && exercise.kind === 'find') hands.push({ hand: 'closeIsolator', device: action.device });
          }
          plant.isolate(action.device, openNow.has(action.device) || openBefore.has(action.device));
          pass(takes.measure);
          return;
        case 'conditions':
          if (action.light !== undefined) cloudier = action.light;
          if (action.loadA !== undefined) moreLoadA = action.loadA;
          if (action.engine !== undefined) engine = action.engine;
          plant.conditions.light = light * cloudier;
          plant.conditions.loadA = loadA + moreLoadA;
          plant.conditions.engine = engine;
          return;
        case 'hand':
          return work(action.hand as Hand, action.device);
        case 'hint':
          hints++;
          return;
      }
    },
  };
  sample();
  return bench;
}

/** So many of a device’s steps may a value lie from the one worked out, inside its band. */
const mayDiffer = 2;

/**
 * Whether a value on a device is as it should be: the one worked out, or within two steps of it and inside its band. What is not worked out
 * must be as it was.
 */
export function acceptable(plan: Plan, at: Prepared, device: string, role: Role, value: number | string | undefined): boolean {
  const setting = plan.setting(device, role);
  if (setting?.value == null || setting.inherited !== undefined) return setting?.inherited !== undefined || value === at.right[device]?.[role];
  if (value === setting.value) return true;
  const place = devicesOf(plan.input).find((d) => d.id === device);
  const card = place && cardOf(plan.input, place);
  const p = card && parameterFor(card, role);
  if (p?.unit === 'choice') return meansOf(p, value) !== null && meansOf(p, value) === meansOf(p, setting.value) && meansOf(p, value) !== 'other';
  if (!p || typeof value !== 'number' || typeof setting.value !== 'number') return false;
  return Math.abs(value - setting.value) <= mayDiffer * p.step + 1e-9 && within(plan, device, role, value);
}
function within(plan: Plan, device: string, role: Role, value: number): boolean {
  const setting = plan.setting(device, role);
  const real = trueOf(plan, device, role, value);
  if (!setting?.band || real === null) return true;
  return real >= (setting.band.min ?? -Infinity) - 1e-6 && real <= (setting.band.max ?? Infinity) + 1e-6;
}

/** A value as its device would show it. */
export function asShown(plan: Plan, device: string, role: Role, value: number | string): string {
  const place = devicesOf(plan.input).find((d) => d.id === device);
  const card = place && cardOf(plan.input, place);
  const p = card && parameterFor(card, role);
  return p ? displayText(p, value) : String(value);
}

/** Works of the hands that some fault asks for. */
export const allHands: readonly Hand[] = [
  ...new Set(Object.values(faultKinds).flatMap(({ remedy }) => (remedy === 'value' || remedy === 'nothing' ? [] : [remedy]))),
  'replaceBattery',
  'replaceCharger',
];
