import { advance, copyMachine } from '../charger';
import {
  cellModels,
  engineRoomC,
  lagged,
  lumpAfter,
  machineRiseC,
  machineSeconds,
  makeBank,
  makeSources,
  makeTrack,
  solveBus,
  type BankModel,
  type BusLoad,
  type BusSources,
  type CellKind,
  type Lump,
} from '../physics';
import type { ChargerProgram } from '../charger';
import type { Plan } from '../settings';
import { isLithium } from '../sheet';
import { wireOhms, rangeVolts } from '../system';
import type { Air } from './air';
import { bmsOf, loadRelayOf, monitorOf, thermostatsOf } from './companions';
import type { RunEvent } from './record';
import type { RunInput } from './runInput';
import type { Schedule } from './schedule';
import type { Sky } from './site';
import type { AllValues } from './values';
import { displayErrorOf, makeUnits, ratedAmps, readyAmps, sensorSource, type Meets, type Unit } from './unit';

/** Resistance of what is not entered, Ω: a BMS with its links, other links. */
const bmsOhms = 0.0025;
const linksOhms = 0.001;
/** A DC-DC charger's own draw while it stands by, A. */
const standingA = 0.04;
/** Time constant of a bank's temperature, s; coupling of a lump of some tens of kilograms to still air. Not a maker's figure. */
export const bankSeconds = 4 * 3600;
/** A turbine cannot let go of its current at once: it falls with this time constant, s. */
const turbineSeconds = 5;
/** A source counts as there above this current and as gone below the other, A. */
const sourceOnA = 0.15;
const sourceOffA = 0.03;
/** BMS: delays until it opens, s, and how long it stays open after a current trip. */
const voltageTripS = 2;
const currentTripS = 5;
const currentBackS = 30;
/** A load relay acts after so many seconds. */
const loadHoldS = 10;

/** Place of each number of the plant that a step changes, so that a step can be taken back. */
const PLANT = {
  batteryC: 0,
  volts: 1,
  feedV: 2,
  loadLow: 3,
  loadOff: 4,
  tripHigh: 5,
  tripLow: 6,
  tripAmps: 7,
  bmsOpen: 8,
  bmsFor: 9,
  fullFor: 10,
  counted: 11,
} as const;
const plantSize = 16;
/** Per charger behind them: sensor °C, machine °C. */
const perUnit = 2;

const kindOf = (plan: Plan): CellKind => (plan.input.sheet.chemistry === 'lfp' ? 'lfp' : plan.input.sheet.chemistry === 'nmc' ? 'nmc' : 'lead');

/** The outside of a plant: light, air, what is switched when. */
export interface Surroundings {
  readonly sky: Sky;
  readonly air: Air;
  readonly schedule: Schedule;
  /** Seconds since 1970 at the beginning. */
  readonly startS: number;
  /** Capacity of the bank, Ah. */
  readonly capacityAh: number;
}

/** The present moment of a plant. */
interface PlantMoment {
  /** s from the start. */
  now: number;
  /** °C */
  air: number;
  /** Net current into the bank, A, and volts at its terminals. */
  net: number;
  terminal: number;
}

/**
 * Bank, chargers, loads, BMS, monitor, relays: everything that a step changes. Mutable, for the hot loop. A step that nobody wants is taken
 * back with `takeBack`; whoever keeps one moves `live.now` on by its length and empties `pending`.
 */
export interface Plant {
  readonly units: readonly Unit[];
  readonly bank: BankModel;
  readonly sources: BusSources;
  readonly load: BusLoad;
  readonly live: PlantMoment;
  /** Place of the turbine among the units; −1 without one. */
  readonly turbine: number;
  /** Events of the step just taken. */
  readonly pending: RunEvent[];
  step(h: number): void;
  /** Tells of something at the present moment. */
  event(kind: RunEvent['kind'], more?: Partial<RunEvent>): void;
  /** Remembers the present moment, and goes back to it. */
  keep(): void;
  takeBack(): void;
  /** Whether nothing happened since the moment kept: no event, no change of stage, no source come or gone, and little move of the voltage. */
  quiet(): boolean;
  /** Battery, and what a charger’s sensor and machine are at, °C. */
  batteryC(): number;
  sensorC(unit: number): number;
  machineC(unit: number): number;
  /** Volts at the bus. */
  busV(): number;
  /** Charge as the monitor counts it, 0 to 1. */
  counted(): number;
  loadsOff(): boolean;
  /** Puts the bank at another temperature at once, °C. */
  setBatteryC(celsius: number): void;
  /** Values of monitor and load relay were changed. */
  rekeyed(values: AllValues): void;
}

/**
 * Puts a plant together at rest.
 *
 * @param programs what each charger does, by id
 */
export function makePlant(input: RunInput, programs: ReadonlyMap<string, ChargerProgram>, { sky, air, schedule, startS, capacityAh }: Surroundings): Plant {
  const { plan, scenario, values, unknowns = {}, replay } = input;
  const { sheet, system } = plan.input;
  const volts12 = rangeVolts(plan.facts) / 12;
  // The bank.
  const kind = kindOf(plan);
  const model = cellModels[kind];
  const strings = scenario.stringSpread > 0 ? Math.min(12, system.bank.stringsInParallel) : 1;
  const stringAh = capacityAh / strings;
  // The main cable is shared; in each string it counts as many times as there are strings.
  const mainOhms = wireOhms(system.bank.wire, 30) ?? 0;
  const packOhms = ((system.bank.hasBms ? bmsOhms : linksOhms) * system.bank.unitsInSeries * strings) / system.bank.stringsInParallel;
  const bank = makeBank({
    kind,
    cells: plan.facts.cells,
    strings,
    stringAh,
    stringOhms: packOhms + mainOhms * strings,
    stringSpread: scenario.stringSpread,
    resistanceFactor: unknowns.resistance ?? 1,
    // The spread is what the fullest cell stands above the mean at the end of absorb; past full the resting curve of lithium rises about 28 V per unit of charge.
    cellAhead: isLithium(sheet.chemistry) ? (system.bank.cellSpreadV ?? 0) / 28 : 0,
    charge: scenario.charge,
  });
  const wattHours = capacityAh * plan.facts.nominalVolts;
  const lump: Lump = { heatCapacity: wattHours * model.kgPerWh * model.heat, seconds: bankSeconds };
  const bms = system.bank.hasBms ? bmsOf(plan) : null;
  const replayC = replay?.batteryC ? makeTrack(replay.time, replay.batteryC).at : null;
  const units = makeUnits(input, programs);
  // Leaders before their followers.
  const order = units.map((_, i) => i).sort((a, b) => Number((units[a]?.leader ?? -1) >= 0) - Number((units[b]?.leader ?? -1) >= 0));
  const sources = makeSources(units.length);
  units.forEach((u, i) => {
    sources.ohms[i] = u.ohms;
  });
  const turbine = units.findIndex((u) => u.card.kind === 'turbine');
  const load: BusLoad = { amps: 0, fadesBelow: plan.facts.nominalVolts * 0.8, shuntVolts: Infinity, shuntWatts: 0, drawn: 0, shunted: 0 };
  const standing = standingA * units.filter((u) => u.card.kind === 'dcdc').length;
  let relay = loadRelayOf(plan, values);
  let monitor = monitorOf(plan, values);
  const thermostats = thermostatsOf(plan, values);

  // What a step changes beside bank and machines.
  const plant = new Float64Array(plantSize + perUnit * units.length + thermostats.length * 3);
  const plantKept = new Float64Array(plant.length);
  const T0 = plantSize + perUnit * units.length;
  const get = (k: number): number => plant[k] ?? 0;
  const sensorOf = (i: number): number => plantSize + perUnit * i;
  plant[PLANT.batteryC] = replayC ? replayC(0) : air.bankStartC;
  plant[PLANT.feedV] = 1;
  plant[PLANT.counted] = scenario.charge;
  const startAir = air.at(0);
  units.forEach((u, i) => {
    plant[sensorOf(i)] = sensorSource(u.charger, get(PLANT.batteryC), startAir) + u.sensorOffsetC;
    plant[sensorOf(i) + 1] = engineRoomC - 15;
  });
  thermostats.forEach((t, k) => {
    plant[T0 + 3 * k] = get(PLANT.batteryC) + t.offsetC;
    plant[T0 + 3 * k + 1] = t.closedAt(get(T0 + 3 * k), true) ? 1 : 0;
  });
  bank.prepare(1, get(PLANT.batteryC));
  plant[PLANT.volts] = solveBus(bank, sources, { ...load, amps: scenario.load.baseA }, plan.facts.nominalVolts);

  // What the sources meet in a step; one object, filled anew each time.
  const now: Meets = { sky, scenario, t: 0, airC: startAir, engine: false, mains: false };
  // One step's results, until it counts.
  let marks = 0;
  let marksKept = 0;
  const live: PlantMoment = { now: 0, air: startAir, net: 0, terminal: get(PLANT.volts) };
  const liveKept = { net: 0, terminal: 0 };
  const pending: RunEvent[] = [];
  // The air moves slowly: it is worked out once a minute.
  let airMinute = -1;
  let airNow = startAir;
  const event = (kind: RunEvent['kind'], more: Partial<RunEvent> = {}): void => {
    marks++;
    pending.push({ at: startS + live.now, kind, bankV: live.terminal, bankA: live.net, batteryC: get(PLANT.batteryC), charge: bank.charge(), ...more });
  };

  function step(h: number): void {
    const mid = live.now + h / 2;
    const minute = Math.floor(mid / 60);
    if (minute !== airMinute) {
      airMinute = minute;
      airNow = air.at(60 * minute + 30);
    }
    live.air = airNow;
    const engine = schedule.engine(mid);
    now.t = mid;
    now.airC = live.air;
    now.engine = engine;
    now.mains = schedule.mains(mid);
    const before = get(PLANT.volts);
    const cells = get(PLANT.batteryC);
    const relayOpen = get(PLANT.loadOff) !== 0;
    load.amps = (relayOpen ? 0 : schedule.loads(mid)) + standing;
    bank.prepare(h, cells);

    // The BMS opens by plan.
    const byPlan = schedule.opensAt <= live.now && live.now < schedule.opensAt + (scenario.bmsOpens?.minutes ?? 0) * 60;
    if (byPlan && get(PLANT.bmsOpen) === 0) open('scenario', 0);
    else if (!byPlan && get(PLANT.bmsOpen) === 6) close();

    for (const k of order) {
      const u = units[k];
      if (!u) continue;
      const own = sources.amps[k] ?? 0;
      const local = before + (u.card.remoteSense ? 0 : own * u.ohms);
      const r = u.reading;
      const error = displayErrorOf(u, local);
      u.ready = readyAmps(u, now, local);
      u.there = u.ready > (u.there ? sourceOffA : sourceOnA);
      r.volts = local + error;
      r.amps = own;
      r.bankAmps = live.net;
      r.celsius = !u.unplugged ? get(sensorOf(k)) : NaN;
      r.source = u.there;
      r.engineLine = u.replay ? u.there : engine;
      r.machineC = u.card.kind === 'alternator' ? get(sensorOf(k) + 1) : NaN;
      r.charge = monitor ? get(PLANT.counted) : NaN;
      r.battery = get(PLANT.bmsOpen) === 0;
      r.blocked = false;
      for (let t = 0; t < thermostats.length; t++) if (get(T0 + 3 * t + 1) === 0 && thermostats[t]?.switches.includes(u.charger.id)) r.blocked = true;
      if (u.card.kind === 'dcdc') {
        const feed = u.charger.feed;
        const drop = ((feed?.dropV ?? 0.3) * own) / Math.max(1, u.program.limitA);
        // Played back, its input is taken as on wherever the log shows that it had power.
        r.inputVolts = u.replay ? (u.there ? u.program.inputStartV + 0.1 : 0) : get(PLANT.feedV) * (feed?.volts ?? 12) - drop;
      }
      const p = u.program;
      advance(p, u.state, r, h, u.leader >= 0 ? units[u.leader]?.state : undefined);
      const target = u.state.targetV;
      if (target === target) {
        sources.target[k] = target - error;
        sources.most[k] = Math.min(u.state.maxA, u.ready);
        sources.least[k] = 0;
      } else {
        sources.target[k] = 0;
        sources.most[k] = 0;
        sources.least[k] = 0;
      }
      if (u.card.kind === 'turbine' && !u.state.braked && u.state.stage !== 'off') {
        // Water goes on pushing: the current only dies away.
        const letGo = own * Math.exp(-h / turbineSeconds);
        sources.least[k] = letGo;
        sources.fadesAbove[k] = letGo > 0 ? (u.ready * local) / letGo : Infinity;
        sources.most[k] = Math.max(sources.most[k] ?? 0, sources.least[k] ?? 0);
        load.shuntVolts = p.diversionV - error;
        load.shuntWatts = u.charger.machine?.diversionW ?? 0;
      } else if (k === turbine) load.shuntWatts = 0;
    }

    let volts = solveBus(bank, sources, load, before);
    let sum = 0;
    for (let k = 0; k < units.length; k++) sum += sources.amps[k] ?? 0;
    let into = sum - load.drawn - load.shunted;
    // A BMS that blocks charge in the cold lets current out and none in.
    const cold = bms !== null && bms.coldC !== null && cells < bms.coldC + (get(PLANT.bmsOpen) === 5 ? 2 : 0);
    if (get(PLANT.bmsOpen) === 5 && !cold) close();
    if (cold && get(PLANT.bmsOpen) === 0 && into > 0) open('cold', 5);
    if (get(PLANT.bmsOpen) !== 0) {
      setAll(true);
      if (get(PLANT.bmsOpen) === 5) {
        // Loads may still be fed: where the chargers cannot, the bank does.
        volts = solveBus(bank, sources, load, before);
        const rest = bank.stringVolts(0);
        if (volts < rest) {
          setAll(false);
          volts = solveBus(bank, sources, load, before);
        }
      } else volts = solveBus(bank, sources, load, before);
      sum = 0;
      for (let k = 0; k < units.length; k++) sum += sources.amps[k] ?? 0;
      into = bank.isOpen(0) ? 0 : sum - load.drawn - load.shunted;
    }
    bank.take(volts, into);
    live.net = into;
    live.terminal = bank.isOpen(0) ? volts : volts - into * mainOhms;
    plant[PLANT.volts] = volts;

    // Temperatures and sensors.
    plant[PLANT.batteryC] = replayC ? replayC(live.now + h) : lumpAfter(lump, cells, live.air, bank.heatW(), h);
    const warm = get(PLANT.batteryC);
    for (let k = 0; k < units.length; k++) {
      const u = units[k];
      if (!u) continue;
      const s = sensorOf(k);
      plant[s] = lagged(get(s), u.sensorHeldC ?? sensorSource(u.charger, warm, live.air) + u.sensorOffsetC, h, u.charger.sensor.lagSeconds);
      if (u.card.kind === 'alternator') {
        const part = (sources.amps[k] ?? 0) / Math.max(1, ratedAmps(u));
        plant[s + 1] = lagged(get(s + 1), engine ? engineRoomC + machineRiseC * part * part : live.air + 5, h, machineSeconds);
      }
    }
    plant[PLANT.feedV] = lagged(get(PLANT.feedV), engine ? 14.3 / 12 : 12.7 / 12, h, engine ? 30 : 1200);
    for (let t = 0; t < thermostats.length; t++) {
      const thermostat = thermostats[t];
      if (!thermostat) continue;
      const at = T0 + 3 * t;
      plant[at] = lagged(get(at), warm + thermostat.offsetC, h, thermostat.lagSeconds);
      const closed = get(at + 1) !== 0;
      const wanted = thermostat.closedAt(get(at), closed);
      plant[at + 2] = wanted === closed ? 0 : get(at + 2) + h;
      if (wanted !== closed && get(at + 2) >= thermostat.delayS) {
        plant[at + 1] = wanted ? 1 : 0;
        plant[at + 2] = 0;
        event(wanted ? 'relayClosed' : 'relayOpen', { device: thermostat.id, sensorC: get(at) });
      }
    }
    watchBms(h, volts);
    watchLoads(h);
    watchMonitor(h);
  }

  function setAll(openNow: boolean): void {
    for (let j = 0; j < bank.strings; j++) bank.setOpen(j, openNow);
  }
  /** Codes of `bmsOpen`: 1 high, 2 one cell, 3 low, 4 current, 5 cold (charge only), 6 by plan. */
  function open(trip: NonNullable<RunEvent['trip']>, code: number): void {
    plant[PLANT.bmsOpen] = trip === 'scenario' ? 6 : code;
    plant[PLANT.bmsFor] = 0;
    event('bmsOpen', { trip });
  }
  function close(): void {
    plant[PLANT.bmsOpen] = 0;
    setAll(false);
    event('bmsClosed');
  }
  function watchBms(h: number, volts: number): void {
    if (!bms) return;
    const state = get(PLANT.bmsOpen);
    let highCell = -Infinity;
    let pack = -Infinity;
    let least = Infinity;
    let amps = 0;
    for (let j = 0; j < bank.strings; j++) {
      highCell = Math.max(highCell, bank.highCell(j));
      pack = Math.max(pack, bank.stringVolts(j));
      least = Math.min(least, bank.stringVolts(j));
      amps = Math.max(amps, Math.abs(bank.stringAmps(j)) * strings);
    }
    if (state === 0) {
      const high = pack >= bms.highV || highCell >= bms.cellV;
      plant[PLANT.tripHigh] = high ? get(PLANT.tripHigh) + h : 0;
      plant[PLANT.tripLow] = least <= bms.lowV ? get(PLANT.tripLow) + h : 0;
      plant[PLANT.tripAmps] = amps > bms.amps ? get(PLANT.tripAmps) + h : 0;
      if (get(PLANT.tripHigh) >= voltageTripS) open(pack >= bms.highV ? 'high' : 'cell', pack >= bms.highV ? 1 : 2);
      else if (get(PLANT.tripLow) >= voltageTripS) open('low', 3);
      else if (get(PLANT.tripAmps) >= currentTripS) open('current', 4);
    } else {
      plant[PLANT.bmsFor] = get(PLANT.bmsFor) + h;
      plant[PLANT.tripHigh] = 0;
      plant[PLANT.tripLow] = 0;
      plant[PLANT.tripAmps] = 0;
      const calm = get(PLANT.bmsFor) >= currentBackS;
      if ((state === 1 || state === 2) && calm && pack <= bms.releaseV) close();
      else if (state === 3 && calm && volts > least + 0.2 * volts12) close();
      else if (state === 4 && calm) close();
    }
  }
  function watchLoads(h: number): void {
    if (!relay) return;
    const off = get(PLANT.loadOff) !== 0;
    const wants = off ? live.terminal >= relay.reconnectV : live.terminal <= relay.disconnectV;
    plant[PLANT.loadLow] = wants ? get(PLANT.loadLow) + h : 0;
    if (get(PLANT.loadLow) < loadHoldS) return;
    plant[PLANT.loadOff] = off ? 0 : 1;
    plant[PLANT.loadLow] = 0;
    event(off ? 'loadOn' : 'loadOff', { device: relay.id });
  }
  function watchMonitor(h: number): void {
    if (!monitor) return;
    const gained = (live.net > 0 ? live.net * monitor.efficiency : live.net) * (h / 3600);
    plant[PLANT.counted] = Math.min(1, get(PLANT.counted) + gained / monitor.capacityAh);
    const full = live.terminal >= monitor.fullV && live.net >= 0 && live.net <= monitor.fullA;
    plant[PLANT.fullFor] = full ? get(PLANT.fullFor) + h : 0;
    const held = get(PLANT.fullFor);
    if (held >= monitor.fullS && held - h < monitor.fullS) {
      plant[PLANT.counted] = 1;
      event('monitorFull', { device: monitor.id });
    }
  }

  const moveV = 0.02 * volts12;
  const ampsKept = new Float64Array(units.length);
  const thereKept = new Uint8Array(units.length);
  function keep(): void {
    bank.save();
    // Small arrays: a loop copies them faster than a call.
    for (let k = 0; k < plant.length; k++) plantKept[k] = plant[k] ?? 0;
    for (let k = 0; k < units.length; k++) {
      const u = units[k];
      ampsKept[k] = sources.amps[k] ?? 0;
      if (!u) continue;
      copyMachine(u.state, u.backup);
      thereKept[k] = u.there ? 1 : 0;
    }
    marksKept = marks;
    liveKept.net = live.net;
    liveKept.terminal = live.terminal;
  }
  function takeBack(): void {
    bank.restore();
    for (let k = 0; k < plant.length; k++) plant[k] = plantKept[k] ?? 0;
    for (let k = 0; k < units.length; k++) {
      const u = units[k];
      sources.amps[k] = ampsKept[k] ?? 0;
      if (!u) continue;
      copyMachine(u.backup, u.state);
      u.there = thereKept[k] !== 0;
    }
    live.net = liveKept.net;
    live.terminal = liveKept.terminal;
    marks = marksKept;
    pending.length = 0;
  }
  function quiet(): boolean {
    if (marks !== marksKept || Math.abs(get(PLANT.volts) - (plantKept[PLANT.volts] ?? 0)) > moveV) return false;
    for (let k = 0; k < units.length; k++) {
      const u = units[k];
      if (u && (u.state.changes !== u.changesSeen || u.there !== (thereKept[k] !== 0))) return false;
    }
    return true;
  }
  return {
    units,
    bank,
    sources,
    load,
    live,
    turbine,
    pending,
    step,
    event,
    keep,
    takeBack,
    quiet,
    batteryC: () => get(PLANT.batteryC),
    sensorC: (unit) => get(sensorOf(unit)),
    machineC: (unit) => get(sensorOf(unit) + 1),
    busV: () => get(PLANT.volts),
    counted: () => get(PLANT.counted),
    loadsOff: () => get(PLANT.loadOff) !== 0,
    setBatteryC(celsius) {
      plant[PLANT.batteryC] = celsius;
    },
    rekeyed(on) {
      relay = loadRelayOf(plan, on);
      monitor = monitorOf(plan, on);
    },
  };
}
