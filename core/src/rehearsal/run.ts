import { afterPowerCut, advance, atTarget, copyMachine, newMachine, stages } from '../charger';
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
  pairOhms,
  solveBus,
  type BusLoad,
  type CellKind,
  type Lump,
} from '../physics';
import { good, makeBand, type Problem, type Result } from '../quantity';
import { factoryValues, type Plan } from '../settings';
import { isLithium, statedFigure } from '../sheet';
import { allowedAmps } from '../system';
import { makeAir } from './air';
import { bmsOf, loadRelayOf, monitorOf, thermostatsOf } from './companions';
import { programFor, programsOf } from './programs';
import { mostEvents, type Run, type RunEvent, type RunTotals } from './record';
import { makeRecorder } from './recorder';
import type { RunInput } from './runInput';
import { makeSchedule } from './schedule';
import { makeSky } from './site';
import { displayErrorOf, makeUnits, ratedAmps, readyAmps, sensorSource, type Meets } from './unit';

export interface RunOptions {
  /** Finest step, s: events are placed to it. */
  readonly stepS?: number;
  /** Longest step while nothing happens, s; the same as the finest for even steps. */
  readonly longestS?: number;
  /** Spacing of the recorded samples, s. */
  readonly everyS?: number;
  /** Asked about once a simulated hour; true ends the run. */
  readonly stop?: () => boolean;
  /** Told as often how much is done, 0 to 1. */
  readonly progress?: (part: number) => void;
}

/** Resistance of what is not entered, Ω: a BMS with its links, other links. */
const bmsOhms = 0.0025;
const linksOhms = 0.001;
/** A DC-DC charger's own draw while it stands by, A. */
const standingA = 0.04;
/** Time constant of a bank's temperature, s; coupling of a lump of some tens of kilograms to still air. Not a maker's figure. */
const bankSeconds = 4 * 3600;
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
/** Above what is allowed for so long before it is said, s. */
const overHoldS = 60;
/** Full is this charge. */
const fullCharge = 0.99;

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
  over: 12,
} as const;
const plantSize = 16;
/** Per charger behind them: sensor °C, machine °C. */
const perUnit = 2;

const kindOf = (plan: Plan): CellKind => (plan.input.sheet.chemistry === 'lfp' ? 'lfp' : plan.input.sheet.chemistry === 'nmc' ? 'nmc' : 'lead');

/**
 * Rehearses a stretch of time: bank, chargers, loads and weather, step by step. The same input gives the same run, bit for bit, in one engine.
 * In a quiet stretch steps grow to `longestS`; a longer step in which anything happened is taken back and done again in fine ones.
 *
 * @returns a problem in a sentence where the input makes no sense
 */
export function rehearse(input: RunInput, options: RunOptions = {}): Result<Run> {
  const { plan, scenario, values, unknowns = {}, replay } = input;
  const { sheet, system } = plan.input;
  const fine = options.stepS ?? 1;
  const longest = Math.max(fine, options.longestS ?? 30);
  const capacityAh = plan.facts.capacityAh * (unknowns.capacity ?? 1);
  const checked = programsOf(input, fine, capacityAh);
  if (!checked.ok) return checked;
  const volts12 = (plan.facts.systemVolts ?? plan.facts.nominalVolts) / 12;

  const notes: string[] = [...(replay?.notes ?? [])];
  const latitude = system.site.latitude ?? 45;
  const arrays = system.chargers.flatMap((c) => (c.array ? [c.array] : []));
  if (arrays.length > 0 && system.site.latitude === undefined && !replay) notes.push('No latitude is entered on System: 45° north is taken.');
  const spanS = replay ? Math.floor(replay.time.at(-1) ?? 0) : scenario.days * 86_400;
  if (!(spanS >= fine))
    return { ok: false, problems: [{ code: 'replay-short', text: 'This log is shorter than one step. Choose a longer one.', place: 'replay' }] };
  const everyS = Math.max(fine, options.everyS ?? sampleEvery(spanS));
  const startS = replay?.startS ?? Date.UTC(2026, scenario.month - 1, 15) / 1000 + scenario.fromHour * 3600;
  const sky = makeSky(scenario, arrays, latitude, spanS);

  // The bank.
  const kind = kindOf(plan);
  const model = cellModels[kind];
  const strings = scenario.stringSpread > 0 ? Math.min(12, system.bank.stringsInParallel) : 1;
  const stringAh = capacityAh / strings;
  // The main cable is shared; in each string it counts as many times as there are strings.
  const mainOhms = system.bank.wire ? pairOhms(system.bank.wire.lengthM, system.bank.wire.areaMm2, 30) : 0;
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
  const range = statedFigure(sheet, 'chargeTemperature');
  const charging = makeBand(range?.min, range?.max);
  const leastC = charging.min ?? -Infinity;
  const air = makeAir(scenario, system.site, bankSeconds);
  const replayC = replay?.batteryC ? makeTrack(replay.time, replay.batteryC).at : null;
  const schedule = makeSchedule(scenario, replay);

  const units = makeUnits(input, checked.value);
  // Leaders before their followers.
  const order = units.map((_, i) => i).sort((a, b) => Number((units[a]?.leader ?? -1) >= 0) - Number((units[b]?.leader ?? -1) >= 0));
  const sources = makeSources(units.length);
  units.forEach((u, i) => {
    sources.ohms[i] = u.ohms;
  });
  const turbine = units.findIndex((u) => u.card.kind === 'turbine');
  const load: BusLoad = { amps: 0, fadesBelow: plan.facts.nominalVolts * 0.8, shuntVolts: Infinity, shuntWatts: 0, drawn: 0, shunted: 0 };
  const standing = standingA * units.filter((u) => u.card.kind === 'dcdc').length;
  const relay = loadRelayOf(plan, values);
  const monitor = monitorOf(plan, values);
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

  const recorder = makeRecorder(units, startS, spanS, everyS);
  const events: RunEvent[] = [];
  let eventsLost = 0;
  const totals: RunTotals = {
    inAh: 0,
    outAh: 0,
    storedBeforeAh: bank.storedAh(),
    storedAfterAh: 0,
    lostAh: 0,
    highest: -Infinity,
    highestAt: NaN,
    lowest: Infinity,
    lowestAt: NaN,
    fullAt: NaN,
    ahToFull: NaN,
    coldest: Infinity,
    hottest: -Infinity,
    overA: 0,
    overAt: NaN,
    overTook: 0,
    overAllowed: 0,
    overC: NaN,
    overSeconds: 0,
    nearTook: 0,
    nearAllowed: 0,
    nearC: NaN,
    bmsOpenings: 0,
    loadOffSeconds: 0,
    dumpedAh: 0,
    loadAh: 0,
    imbalanceAh: 0,
  };

  // What the sources meet in a step; one object, filled anew each time.
  const now: Meets = { sky, scenario, t: 0, airC: startAir, engine: false, mains: false };
  // One step's results, until it counts.
  let marks = 0;
  const live = { now: 0, air: startAir, net: 0, terminal: get(PLANT.volts) };
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
      plant[s] = lagged(get(s), sensorSource(u.charger, warm, live.air) + u.sensorOffsetC, h, u.charger.sensor.lagSeconds);
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

  /** Counts a step that stands. */
  function account(h: number): void {
    const celsius = get(PLANT.batteryC);
    const hours = h / 3600;
    if (live.net > 0) totals.inAh += live.net * hours;
    else totals.outAh -= live.net * hours;
    totals.loadAh += load.drawn * hours;
    totals.dumpedAh += load.shunted * hours;
    if (live.terminal > totals.highest && !bank.isOpen(0)) {
      totals.highest = live.terminal;
      totals.highestAt = startS + live.now;
    }
    if (live.terminal < totals.lowest && !bank.isOpen(0)) {
      totals.lowest = live.terminal;
      totals.lowestAt = startS + live.now;
    }
    totals.coldest = Math.min(totals.coldest, celsius);
    totals.hottest = Math.max(totals.hottest, celsius);
    if (get(PLANT.loadOff) !== 0) totals.loadOffSeconds += h;
    if (!(totals.fullAt === totals.fullAt) && bank.charge() >= fullCharge) {
      totals.fullAt = startS + live.now;
      totals.ahToFull = totals.inAh;
    }
    const allowed = allowedAmps(charging, plan.stairs, plan.ceiling, celsius);
    const over = live.net - allowed;
    if (live.net > 0.5 && over > 0.01 * Math.max(1, allowed)) {
      plant[PLANT.over] = get(PLANT.over) + h;
      totals.overSeconds += h;
      if (get(PLANT.over) >= overHoldS) {
        if (over > totals.overA) {
          totals.overA = over;
          totals.overAt = startS + live.now;
          totals.overTook = live.net;
          totals.overAllowed = allowed;
          totals.overC = celsius;
        }
        if (get(PLANT.over) - h < overHoldS) event('overAllowed', { figure: allowed });
      }
    } else plant[PLANT.over] = 0;
    if (live.net > 0.5 && allowed > 0 && live.net / allowed > totals.nearTook / Math.max(1e-9, totals.nearAllowed || 1)) {
      totals.nearTook = live.net;
      totals.nearAllowed = allowed;
      totals.nearC = celsius;
    }
    for (let k = 0; k < units.length; k++) {
      const u = units[k];
      if (!u) continue;
      const own = sources.amps[k] ?? 0;
      const s = u.state;
      const t = u.totals;
      t.ah += own * hours;
      t.peakA = Math.max(t.peakA, own);
      t.seconds[u.code] = (t.seconds[u.code] ?? 0) + h;
      const regulating = own > 0.02 && own < (sources.most[k] ?? 0) - 1e-6;
      const atVoltage = s.stage === 'absorb' && atTarget(u.program, s.targetV, u.reading.volts);
      if (atVoltage) {
        t.atVoltage += h;
        if (regulating) {
          t.absorbVs += live.terminal * h;
          t.absorbS += h;
        }
      } else if (s.stage === 'float' && regulating && s.inStage > 600) {
        t.floatVs += live.terminal * h;
        t.floatS += h;
      }
      if (own > 0.1) {
        if (celsius < t.coldest) {
          t.coldest = celsius;
          t.coldestAt = startS + live.now;
        }
        if (celsius < leastC && live.net > 0) t.coldAh += own * hours;
      }
      if (celsius < leastC && u.there) t.coldReady += h;
      if (s.changes !== u.changesSeen) {
        const last = u.spans.at(-1);
        if (last) last.to = startS + live.now;
        pending.push({
          at: startS + live.now,
          kind: s.cause === 'restart' ? 'powerCut' : 'stage',
          device: u.charger.id,
          stage: s.stage,
          ...(last ? { before: last.stage, lasted: startS + live.now - last.from, counted: last.counted } : {}),
          cause: s.cause,
          bankV: live.terminal,
          ownV: u.reading.volts,
          amps: u.reading.amps,
          bankA: live.net,
          batteryC: celsius,
          sensorC: u.reading.celsius,
          charge: bank.charge(),
        });
        u.changesSeen = s.changes;
        u.code = stages.indexOf(s.stage);
        u.spans.push({ stage: s.stage, cause: s.cause, from: startS + live.now, to: startS + live.now, counted: 0 });
      } else if (u.spans.length === 0) u.spans.push({ stage: s.stage, cause: s.cause, from: startS, to: startS, counted: 0 });
      const span = u.spans.at(-1);
      if (span && atVoltage) span.counted += h;
      const dumping = k === turbine && load.shunted > 0.2;
      if (dumping && !u.diverting) event('diverting', { device: u.charger.id, figure: load.shunted * get(PLANT.volts) });
      u.diverting = dumping;
      if (s.heat < 0.9 && !u.hot) event('heatCut', { device: u.charger.id, amps: own, figure: get(sensorOf(k) + 1) });
      if (s.heat < 0.9 || s.heat > 0.97) u.hot = s.heat < 0.9;
    }
    if (pending.length === 0) return;
    for (const e of pending) {
      if (e.kind === 'bmsOpen') totals.bmsOpenings++;
      if (events.length < mostEvents) events.push(e);
      else eventsLost++;
    }
    pending.length = 0;
  }

  /** The present moment, as a sample. */
  const record = (): void => {
    recorder.take(live, bank.charge(), get(PLANT.batteryC), sources.amps);
  };

  // The step that is tried: a quarter after one that was taken back, twice as long after one that stood.
  let size = longest;
  let steps = 0;
  let asked = 0;
  const moveV = 0.02 * volts12;
  const ampsKept = new Float64Array(units.length);
  const thereKept = new Uint8Array(units.length);
  /** Whether nothing happened in the step just taken: no event, no change of stage, no source come or gone, and little move of the voltage. */
  const quiet = (marksBefore: number): boolean => {
    if (marks !== marksBefore || Math.abs(get(PLANT.volts) - (plantKept[PLANT.volts] ?? 0)) > moveV) return false;
    for (let k = 0; k < units.length; k++) {
      const u = units[k];
      if (u && (u.state.changes !== u.changesSeen || u.there !== (thereKept[k] !== 0))) return false;
    }
    return true;
  };
  /** Counts a step that stands, and records it when a sample is due. */
  const settle = (h: number): void => {
    account(h);
    recorder.sees(live.terminal);
    if (live.now >= recorder.dueS() - 1e-9) record();
  };
  record();
  // Steps end at a planned cut, so it is made between two of them and never taken back.
  let cut = false;
  const cutPower = (): void => {
    cut = true;
    for (const u of units) {
      const on = afterPowerCut(
        u.card,
        values[u.charger.id] ?? {},
        input.stored?.[u.charger.id] ?? {},
        factoryValues(plan, u.charger.id),
        scenario.powerCut?.saved ?? false,
      );
      const made = programFor(input, u.charger, on);
      if (made.ok) u.program = made.value;
      else notes.push(...made.problems.map((p) => `After the power cut: ${p.text}`));
      const { changes } = u.state;
      copyMachine(newMachine(), u.state);
      u.state.changes = changes + 1;
      u.state.cause = 'restart';
    }
  };
  /** Takes a long step and keeps it if nothing happened in it; else puts everything back as it was. */
  function tryLong(h: number): boolean {
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
    const marksBefore = marks;
    const { net, terminal } = live;
    step(h);
    steps++;
    if (quiet(marksBefore)) {
      live.now += h;
      settle(h);
      return true;
    }
    bank.restore();
    for (let k = 0; k < plant.length; k++) plant[k] = plantKept[k] ?? 0;
    for (let k = 0; k < units.length; k++) {
      const u = units[k];
      sources.amps[k] = ampsKept[k] ?? 0;
      if (!u) continue;
      copyMachine(u.backup, u.state);
      u.there = thereKept[k] !== 0;
    }
    live.net = net;
    live.terminal = terminal;
    marks = marksBefore;
    pending.length = 0;
    return false;
  }
  /** One step onwards, as long as may be. */
  function onwards(): void {
    const toSample = recorder.dueS() - live.now;
    const long = size > fine ? Math.min(size, toSample, schedule.next(live.now) - live.now, sky.nextEdge(live.now) - live.now) : 0;
    if (long > fine * 1.5) {
      size = tryLong(long) ? Math.min(longest, size * 2) : Math.max(fine, long / 4);
      return;
    }
    size = Math.min(longest, size * 2);
    const h = Math.min(fine, toSample);
    step(h);
    steps++;
    live.now += h;
    settle(h);
  }
  // The loop and what comes after it are functions of their own: each is made fast, and stays so, by itself.
  function toEnd(): Problem | null {
    while (live.now < spanS - 1e-9 && recorder.dueS() < Infinity) {
      if (live.now >= schedule.cutAt - 1e-9 && !cut) cutPower();
      if (live.now >= asked) {
        asked += 3600;
        options.progress?.(live.now / spanS);
        if (options.stop?.()) return { code: 'stopped', text: 'The rehearsal was stopped. Nothing of it is kept.' };
        if (!Number.isFinite(live.terminal) || !Number.isFinite(live.net))
          return { code: 'not-finite', text: 'The numbers of this day run away, so there is nothing to show. Look for a value that is far out of the usual.' };
      }
      onwards();
    }
    return null;
  }
  function result(): Run {
    for (const u of units) {
      const last = u.spans.at(-1);
      if (last) last.to = startS + live.now;
    }
    totals.storedAfterAh = bank.storedAh();
    totals.lostAh = bank.lostAh();
    totals.imbalanceAh = totals.inAh - totals.outAh - (totals.storedAfterAh - totals.storedBeforeAh + totals.lostAh);
    return { from: startS, to: startS + spanS, everyS, ...recorder.columns(), events, eventsLost, totals, notes, steps };
  }
  const stopped = toEnd();
  return stopped ? { ok: false, problems: [stopped] } : good(result());
}

/** Spacing of samples that a span is recorded with, s: a day every half minute, a week every three and a half, a year every ten minutes. */
const sampleEvery = (spanS: number): number => Math.min(600, 30 * Math.max(1, Math.ceil(spanS / 86_400)));

/** Spacing of a run that is written as a log, s: fine enough for stages to be told from it. */
export const logEvery = (spanS: number): number => Math.min(600, 10 * Math.max(1, Math.ceil(spanS / 86_400)));
