import { afterPowerCut, atTarget, copyMachine, newMachine, stages } from '../charger';
import { isUnknown, unknownsOf, unknownWords } from '../card';
import { good, makeBand, type Problem, type Result } from '../quantity';
import { chargersWithCards, factoryValues, type Plan } from '../settings';
import { statedFigure } from '../sheet';
import { allowedAmps } from '../system';
import { makeAir } from './air';
import { bankSeconds, makePlant } from './plant';
import { programFor, programsOf } from './programs';
import { mostEvents, type Run, type RunEvent, type RunTotals } from './record';
import { makeRecorder } from './recorder';
import type { RunInput } from './runInput';
import { makeSchedule } from './schedule';
import { makeSky } from './site';

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

/** Above what is allowed for so long before it is said, s. */
const overHoldS = 60;
/** Full is this charge. */
const fullCharge = 0.99;

/** Of devices whose habits nobody knows: with what they are rehearsed instead. */
const blindNotes = (plan: Plan): readonly string[] =>
  chargersWithCards(plan.input).flatMap(({ charger, card }) =>
    isUnknown(card, 'absorb')
      ? [
          `Of ${charger.name} it is not known ${unknownsOf(card)
            .filter((what) => what.startsWith('absorb'))
            .map((what) => unknownWords[what])
            .join(', and ')}: it is rehearsed as the usual charger, which begins at the touch and ends by time at voltage.`,
        ]
      : [],
  );

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
  const capacityAh = (plan.facts.capacityAh ?? NaN) * (unknowns.capacity ?? 1);
  const checked = programsOf(input, fine, capacityAh);
  if (!checked.ok) return checked;

  const notes: string[] = [...(replay?.notes ?? []), ...blindNotes(plan)];
  const latitude = system.site.latitude ?? 45;
  const arrays = system.chargers.flatMap((c) => (c.array ? [c.array] : []));
  if (arrays.length > 0 && system.site.latitude === undefined && !replay) notes.push('No latitude is entered on System: 45° north is taken.');
  const spanS = replay ? Math.floor(replay.time.at(-1) ?? 0) : scenario.days * 86_400;
  if (!(spanS >= fine))
    return { ok: false, problems: [{ code: 'replay-short', text: 'This log is shorter than one step. Choose a longer one.', place: 'replay' }] };
  const everyS = Math.max(fine, options.everyS ?? sampleEvery(spanS));
  const startS = replay?.startS ?? Date.UTC(2026, scenario.month - 1, 15) / 1000 + scenario.fromHour * 3600;
  const sky = makeSky(scenario, arrays, latitude, spanS);

  const range = statedFigure(sheet, 'chargeTemperature');
  const charging = makeBand(range?.min, range?.max);
  const leastC = charging.min ?? -Infinity;
  const air = makeAir(scenario, system.site, bankSeconds);
  const schedule = makeSchedule(scenario, replay);
  const plant = makePlant(input, checked.value, { sky, air, schedule, startS, capacityAh });
  const { units, bank, sources, load, live, pending, turbine } = plant;

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
  /** Net current into the bank at the end of the step before, A. */
  let netBefore = 0;

  // How long the current has been above what is allowed, s.
  let overFor = 0;
  /** Counts a step that stands. */
  function account(h: number): void {
    const celsius = plant.batteryC();
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
    if (plant.loadsOff()) totals.loadOffSeconds += h;
    if (!(totals.fullAt === totals.fullAt) && bank.charge() >= fullCharge) {
      totals.fullAt = startS + live.now;
      totals.ahToFull = totals.inAh;
    }
    const allowed = allowedAmps(charging, plan.stairs, plan.ceiling, celsius);
    const over = live.net - allowed;
    if (live.net > 0.5 && over > 0.01 * Math.max(1, allowed)) {
      overFor += h;
      totals.overSeconds += h;
      if (overFor >= overHoldS) {
        if (over > totals.overA) {
          totals.overA = over;
          totals.overAt = startS + live.now;
          totals.overTook = live.net;
          totals.overAllowed = allowed;
          totals.overC = celsius;
        }
        if (overFor - h < overHoldS) plant.event('overAllowed', { figure: allowed });
      }
    } else overFor = 0;
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
          // What flowed until then: the change itself has moved it already.
          bankA: netBefore,
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
      if (dumping && !u.diverting) plant.event('diverting', { device: u.charger.id, figure: load.shunted * plant.busV() });
      u.diverting = dumping;
      if (s.heat < 0.9 && !u.hot) plant.event('heatCut', { device: u.charger.id, amps: own, figure: plant.machineC(k) });
      if (s.heat < 0.9 || s.heat > 0.97) u.hot = s.heat < 0.9;
    }
    netBefore = live.net;
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
    recorder.take(live, bank.charge(), plant.batteryC(), sources.amps);
  };

  // The step that is tried: a quarter after one that was taken back, twice as long after one that stood.
  let size = longest;
  let steps = 0;
  let asked = 0;
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
    plant.keep();
    plant.step(h);
    steps++;
    if (!plant.quiet()) {
      plant.takeBack();
      return false;
    }
    live.now += h;
    settle(h);
    return true;
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
    plant.step(h);
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
        if (options.stop?.()) return { code: 'stopped', text: 'The rehearsal was stopped. Nothing of it was saved.' };
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
