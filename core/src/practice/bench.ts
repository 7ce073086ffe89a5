import type { Card, DeviceValues, Role } from '../card';
import { cutFacePower, faceRules, faceView, makeMove, newFace, passFaceTime, type FaceRules, type FaceState } from '../face';
import type { LivePlant, Run } from '../rehearsal';
import { cardOf, deriveSettings, devicesOf, factoryValues, type Plan } from '../settings';
import { acceptable } from './acceptable';
import type { Action, Done } from './done';
import { setUp, type Exercise } from './exercise';
import { deviceHands, handCodes, type Hand, type Setup } from './faults';
import { instrumentsOf, rounded, type Measured } from './instruments';
import { inputOf, type PracticeLibrary } from './places';
import { prepare, type Prepared } from './prepared';
import { openSite, type Around } from './site';
import { yesterdayOf } from './yesterday';
import { rangeVolts } from '../system';

/** How long things take, s. */
const takes = { measure: 30, look: 60, hand: 600, cut: 60, ice: 900, log: 60 } as const;
/** The longest that is waited for the next change, and how often it is looked whether there was one, s. */
const longestWait = 3 * 3600;
const lookEvery = 60;
/** How often the bench writes down the bank’s volts, s. */
const sampleEvery = 30;
/** Meter and display are compared when they were read so close together, s. */
const togetherS = 300;
/** A front that names no time-out is left alone for so long, s. */
const patienceS = 60;

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
  /** The installation as it was when somebody arrived, and minutes since midnight then. */
  readonly arrived: Setup;
  readonly arrivedMinute: number;
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
  /** What the monitor shows: A, and the state of charge as a part. */
  monitorAmps(): number;
  monitorCharge(): number;
  isolated(device: string): boolean;
  around(): Around;
  /** The day before, as a logger wrote it. */
  yesterday(): Run | null;
}

/** The devices of a place with their fronts. */
function devicesAt({ plan }: Prepared): readonly BenchDevice[] {
  const systemVolts = rangeVolts(plan.facts);
  return devicesOf(plan.input).flatMap((place): BenchDevice[] => {
    const card = cardOf(plan.input, place);
    if (!card) return [];
    const rules = faceRules({ card, factory: factoryValues(plan, place.id), systemVolts });
    return [{ id: place.id, name: place.name, card, rules, charges: plan.input.system.chargers.some((c) => c.id === place.id) }];
  });
}

/** Works that hands can do at a place with one device chosen, in their order: those on the device itself, and those on the place. */
export function handsAt({ at, devices }: Pick<Bench, 'at' | 'devices'>, device: string): readonly { readonly hand: Hand; readonly device: string | null }[] {
  const here = devices.find((d) => d.id === device);
  const on: readonly Hand[] = [
    ...(here?.charges === true ? deviceHands.charger : []),
    ...(here?.card.kind === 'monitor' ? deviceHands.monitor : []),
    ...(at.plan.input.system.companions.some((c) => c.id === device && c.relay) ? deviceHands.relay : []),
  ];
  const ofDevices: readonly Hand[] = Object.values(deviceHands).flat();
  return handCodes.filter((hand) => on.includes(hand) || !ofDevices.includes(hand)).map((hand) => ({ hand, device: on.includes(hand) ? device : null }));
}

type Compared = Readonly<Record<string, { readonly meterV: number; readonly displayV: number }>>;

/** The settings by the sheet on the wall, corrected for displays that were compared with the meter. */
function wallPlan(at: Prepared, library: PracticeLibrary, { wallSheet }: Setup, compared: Compared): Plan {
  const input = inputOf(at.place, library, wallSheet ?? at.place.sheet);
  const chargers = input.system.chargers.map((c) => {
    const reading = compared[c.id];
    return { ...c, present: at.right[c.id] ?? c.present, ...(reading ? { displayReadings: [reading] } : {}) };
  });
  return deriveSettings({ ...input, system: { ...input.system, chargers } });
}

/** The settings as they should be, by displays as they really read. */
function trueSettings({ plan }: Prepared, { truth }: Setup): Plan {
  const displays = new Map(truth.system.chargers.map((c) => [c.id, c.displayReadings]));
  const { system } = plan.input;
  return deriveSettings({ ...plan.input, system: { ...system, chargers: system.chargers.map((c) => ({ ...c, displayReadings: displays.get(c.id) ?? [] })) } });
}

/** A temperature as a display shows it: nothing without a sensor. */
const shownC = (celsius: number): number => (Number.isFinite(celsius) ? rounded(celsius, 1) : NaN);

/**
 * Opens an exercise. Everything on it follows from the exercise and the list of what is done: doing the same again comes to the same.
 *
 * @throws Error when the library lacks what the place is made of
 */
export function openBench(exercise: Exercise, library: PracticeLibrary): Bench {
  const at = prepare(exercise.place, library);
  const arrived = setUp(exercise, at);
  const devices = devicesAt(at);
  const faces = new Map(devices.map((d) => [d.id, newFace({ inUse: arrived.inUse[d.id] ?? {}, stored: arrived.stored[d.id] ?? {} })]));
  const face = (id: string): FaceState => {
    const found = faces.get(id);
    if (!found) throw new Error(`there is no ${id} on this bench`);
    return found;
  };
  const values = (): Readonly<Record<string, DeviceValues>> => Object.fromEntries([...faces].map(([id, f]) => [id, f.memory.inUse]));
  const arrivedMinute = arrived.scenario.fromHour * 60;
  let passed = 0;
  const minuteOfDay = (): number => Math.floor((arrivedMinute + passed / 60) % 1440);
  const site = openSite(arrived, at, values, () => ((arrivedMinute * 60 + passed) % 86_400) / 3600);
  const instruments = instrumentsOf(exercise.seed, site, at, arrived);
  const truePlan = trueSettings(at, arrived);

  const done: Done[] = [];
  const hazards: Danger[] = [];
  const hands: { hand: Hand; device: string | null }[] = [];
  const slips: { device: string; role: Role; value: number | string }[] = [];
  const samples: BenchSample[] = [];
  let hints = 0;
  let compared: Compared = {};
  let wall: { readonly of: Compared; readonly plan: Plan } | null = null;
  let run: Run | null | undefined;

  function sample(): void {
    const { volts, amps } = site.plant().bank();
    samples.push({ at: passed, volts, amps });
  }
  function pass(seconds: number): void {
    for (let left = seconds; left > 1e-9; left -= sampleEvery) {
      const h = Math.min(sampleEvery, left);
      site.plant().advance(h);
      passed += h;
      sample();
    }
    for (const d of devices) faces.set(d.id, passFaceTime(d.rules, face(d.id), seconds));
  }
  function untilChange(): void {
    const stages = (): string => devices.map((d) => site.plant().reading(d.id)?.stage ?? '').join();
    const before = stages();
    for (let waited = 0; waited < longestWait && stages() === before; waited += lookEvery) pass(lookEvery);
  }

  function note(key: string, more: Partial<Omit<Done, 'at' | 'key' | 'minuteOfDay'>> = {}): void {
    const blank = { device: null, role: null, number: null, unit: null, beside: null, text: null, sight: null, stage: null };
    done.push({ ...blank, ...more, at: passed, minuteOfDay: minuteOfDay(), key });
  }
  function measured(m: Measured | null, unit: Done['unit'], more: Partial<Done> = {}): void {
    if (m) note(m.key, { number: m.number, beside: m.beside ?? null, unit, ...more });
  }

  /** A value seen on a display is read: it stands in the list once for each thing it showed. */
  function readValue(d: BenchDevice): void {
    const view = faceView(d.rules, face(d.id));
    if (view.role === null || view.value === null || view.editing) return;
    const key = `value:${d.id}:${view.role}`;
    if (done.findLast((x) => x.key === key || x.key === `cut:${d.id}`)?.text !== view.value) note(key, { device: d.id, role: view.role, text: view.value });
  }

  function setFace(d: BenchDevice, next: FaceState): void {
    const before = face(d.id);
    faces.set(d.id, next);
    if (next.memory.inUse !== before.memory.inUse) site.plant().setValues(d.id, next.memory.inUse);
    if (next.note?.code === 'second') hazards.push({ code: 'secondMeaning', device: d.id, at: passed });
    if (next.note?.code === 'factory') hazards.push({ code: 'factoryReset', device: d.id, at: passed });
  }

  /** A key was pressed: what it shows is read, and a wrong value that it has saved is counted. What a type has moved, nobody has entered. */
  function pressed(d: BenchDevice, next: FaceState): void {
    const before = face(d.id);
    const role = before.edit?.role ?? faceView(d.rules, before).role;
    setFace(d, next);
    const value = role === null ? undefined : next.memory.stored[role];
    if (role !== null && value !== undefined && value !== before.memory.stored[role] && !acceptable(truePlan, at, d.id, role, value))
      slips.push({ device: d.id, role, value });
    readValue(d);
  }

  /** What the home screen shows is written down: of a charger its volts, amps and stage, and the temperature it believes. */
  function noteHome(d: BenchDevice): void {
    const r = site.plant().reading(d.id);
    const bank = site.plant().bank();
    if (!r) {
      if (d.card.kind === 'monitor')
        note('monitor', { device: d.id, number: rounded(instruments.monitorAmps(), 1), unit: 'A', beside: rounded(bank.volts, 2) });
      else note(`display:${d.id}`, { device: d.id, number: shownC(bank.celsius), unit: '°C' });
      return;
    }
    const volts = rounded(r.volts, 2);
    note(`display:${d.id}`, { device: d.id, number: volts, unit: 'V', beside: rounded(r.amps, 1), stage: r.stage });
    if (d.card.sensor.reads !== 'none') note(`sensor:${d.id}`, { device: d.id, number: shownC(r.celsius), unit: '°C' });
    const meter = done.findLast((x) => x.key === `meter:${d.id}`);
    if (meter?.number != null && passed - meter.at <= togetherS) compared = { ...compared, [d.id]: { meterV: meter.number, displayV: volts } };
  }

  function cut(d: BenchDevice): void {
    const r = site.plant().reading(d.id);
    if (r && r.amps > 0.5 && !d.card.survivesBatteryLoss) hazards.push({ code: 'cutUnderSun', device: d.id, at: passed });
    setFace(d, cutFacePower(d.rules, face(d.id)));
    site.plant().restart(d.id);
    pass(takes.cut);
    note(`cut:${d.id}`, { device: d.id });
  }
  function ice(d: BenchDevice): void {
    site.plant().holdSensor(d.id, 0);
    pass(takes.ice);
    const r = site.plant().reading(d.id);
    note(`ice:${d.id}`, { device: d.id, number: shownC(r?.celsius ?? NaN), unit: '°C', stage: r?.stage ?? null });
    site.plant().holdSensor(d.id, null);
  }

  /** What is done at the front of a device. */
  function atDevice(d: BenchDevice, action: Extract<Action, { device: string }>): void {
    switch (action.do) {
      case 'key':
      case 'reach':
        return pressed(d, makeMove(d.rules, face(d.id), action));
      case 'leave':
        return pass(Math.max(1, (d.card.commit.timeoutSeconds ?? patienceS) - face(d.id).idle));
      case 'note':
        return face(d.id).at.length === 0 ? noteHome(d) : undefined;
      case 'strings':
        pass(takes.measure);
        return measured(instruments.strings(d.id), 'A', { device: d.id });
      case 'ice':
        return ice(d);
      case 'cut':
        return cut(d);
      case 'isolate':
        // Somebody who closes what stood open by fault has closed it.
        if (site.isolate(d.id, action.off) && exercise.kind === 'find') hands.push({ hand: 'closeIsolator', device: d.id });
        return pass(takes.measure);
    }
  }
  /** What is done about the place. */
  function atPlace(action: Exclude<Action, { device: string }>): void {
    switch (action.do) {
      case 'pass':
        return pass(action.seconds);
      case 'next':
        return untilChange();
      case 'meter':
        pass(takes.measure);
        return measured(instruments.meter(action.red, action.black), 'V', {
          text: `${action.red} ${action.black}`,
          device: /:([a-z0-9-]+)/.exec(action.red)?.[1] ?? null,
        });
      case 'clamp':
        pass(takes.measure);
        return measured(instruments.clamp(action.at), 'A', { device: devices.some((d) => d.id === action.at) ? action.at : null });
      case 'thermometer':
        pass(takes.measure);
        return measured(instruments.thermometer(action.at), '°C');
      case 'look':
        pass(takes.look);
        return note(`look:${action.at}`, { ...instruments.look(action.at), unit: action.at === 'cells' ? 'V' : null, device: action.at.split(':')[1] ?? null });
      case 'log':
        pass(takes.log);
        return note('log');
      case 'conditions':
        return site.surround(action);
      case 'hand':
        hands.push({ hand: action.hand, device: action.device });
        site.work(action.hand, action.device);
        return pass(takes.hand);
      case 'hint':
        hints++;
    }
  }

  sample();
  return {
    exercise,
    at,
    arrived,
    arrivedMinute,
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
      if (wall?.of !== compared) wall = { of: compared, plan: wallPlan(at, library, arrived, compared) };
      return wall.plan;
    },
    truePlan: () => truePlan,
    reading: (id) => site.plant().reading(id),
    bank: () => site.plant().bank(),
    monitorAmps: instruments.monitorAmps,
    monitorCharge: instruments.monitorCharge,
    isolated: (id) => site.isolated(id),
    around: site.around,
    yesterday: () => (run === undefined ? (run = yesterdayOf(arrived)) : run),
    act(action) {
      if (!('device' in action) || action.do === 'hand') return atPlace(action);
      const d = devices.find((x) => x.id === action.device);
      if (d) atDevice(d, action);
    },
  };
}
