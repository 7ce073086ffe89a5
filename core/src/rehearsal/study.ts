import { requirementKey } from '../requirements';
import { sampleRankCorrelation } from 'simple-statistics';
import { randomFrom } from '../physics';
import type { Plan } from '../settings';
import { indistinguishable, type System } from '../system';
import { provingMeter } from '../settings';
import { evaluateRun, type Holding } from './evaluate';
import { rehearse } from './run';
import type { RunInput, Unknowns } from './runInput';
import type { Scenario } from './scenario';

/** One thing a study varies: its name in words, how far, and what it does to a run. */
export interface Uncertain {
  readonly key: string;
  readonly words: string;
  /** Ends of the range it is drawn from, evenly; in `unit`. */
  readonly from: number;
  readonly to: number;
  readonly unit: string;
  readonly apply: (run: { scenario: Scenario; unknowns: Unknowns }, value: number) => { scenario: Scenario; unknowns: Unknowns };
}

const clampTo = (low: number, high: number, value: number): number => Math.min(high, Math.max(low, value));

/** Everything that is not known exactly of a job on a day, each with how far it may be off. */
export function uncertainOf(plan: Plan, scenario: Scenario): readonly Uncertain[] {
  const { system } = plan.input;
  const list: Uncertain[] = [];
  const inScenario = (key: string, words: string, from: number, to: number, unit: string, set: (s: Scenario, v: number) => Scenario): void => {
    if (to > from) list.push({ key, words, from, to, unit, apply: (r, v) => ({ ...r, scenario: set(r.scenario, v) }) });
  };
  const factor = (key: 'cable' | 'capacity' | 'resistance', words: string, from: number, to: number): void => {
    list.push({ key, words, from, to, unit: '', apply: (r, v) => ({ ...r, unknowns: { ...r.unknowns, [key]: v } }) });
  };
  if (!scenario.replay) {
    if (system.chargers.some((c) => c.array))
      inScenario('clearness', 'Clearness of the sky', clampTo(0.05, 1, scenario.clearness - 0.2), clampTo(0.05, 1, scenario.clearness + 0.2), '', (s, v) => ({
        ...s,
        clearness: v,
      }));
    inScenario('dawnC', 'Warmth at dawn', scenario.dawnC - 5, scenario.dawnC + 5, '°C', (s, v) => ({ ...s, dawnC: v }));
    if (scenario.load.baseA + scenario.load.fridgeA + scenario.load.eveningA > 0)
      inScenario('load', 'Load', 0.7, 1.3, '×', (s, v) => ({
        ...s,
        load: { ...s.load, baseA: s.load.baseA * v, fridgeA: s.load.fridgeA * v, eveningA: s.load.eveningA * v },
      }));
    const { engine } = scenario;
    if (engine) {
      inScenario('engineHour', 'Hour the engine runs', clampTo(0, 24, engine.fromHour - 3), clampTo(0, 24, engine.fromHour + 3), 'h', (s, v) => ({
        ...s,
        engine: s.engine && { ...s.engine, fromHour: v },
      }));
      inScenario('engineOutput', 'Alternator output', clampTo(0.1, 1, engine.output - 0.2), clampTo(0.1, 1, engine.output + 0.2), '', (s, v) => ({
        ...s,
        engine: s.engine && { ...s.engine, output: v },
      }));
    }
    if (system.chargers.some((c) => plan.input.cards.find((card) => card.id === c.card)?.kind === 'turbine'))
      inScenario('flow', 'Flow of the stream', clampTo(0, 1.2, scenario.flow - 0.2), clampTo(0, 1.2, scenario.flow + 0.2), '', (s, v) => ({ ...s, flow: v }));
  }
  inScenario('charge', 'Charge at the start', clampTo(0.05, 0.98, scenario.charge - 0.15), clampTo(0.05, 0.98, scenario.charge + 0.15), '', (s, v) => ({
    ...s,
    charge: v,
  }));
  factor('capacity', 'Capacity of the bank', 0.9, 1.05);
  factor('resistance', 'Resistance of the cells', 0.7, 1.5);
  factor('cable', 'Resistance of the cables', 0.8, 1.4);
  list.push(...ofChargers(plan, system));
  return list;
}

/** Display and sensor errors of each charger. */
function ofChargers(plan: Plan, system: System): readonly Uncertain[] {
  const meter = provingMeter(plan.input);
  return system.chargers.flatMap((charger): Uncertain[] => {
    const card = plan.input.cards.find((c) => c.id === charger.card);
    if (!card) return [];
    // A display that was compared is known as well as meter and display can tell; one that never was, only as well as its own regulation.
    const display =
      charger.displayReadings.length > 0
        ? indistinguishable(meter, card.display.stepV, plan.facts.nominalVolts, plan.input.coverage)
        : (plan.facts.nominalVolts * Math.max(0.5, card.regulationPercent)) / 100;
    const list: Uncertain[] = [
      {
        key: `display/${charger.id}`,
        words: `Display error, ${charger.name}`,
        from: -display,
        to: display,
        unit: 'V',
        apply: (r, v) => ({ ...r, unknowns: { ...r.unknowns, displayV: { ...r.unknowns.displayV, [charger.id]: v } } }),
      },
    ];
    if (charger.sensor.fitted && card.sensor.reads !== 'none' && card.sensor.usedFor.length > 0 && charger.sensor.errorC > 0)
      list.push({
        key: `sensor/${charger.id}`,
        words: `Sensor error, ${charger.name}`,
        from: -charger.sensor.errorC,
        to: charger.sensor.errorC,
        unit: '°C',
        apply: (r, v) => ({ ...r, unknowns: { ...r.unknowns, sensorC: { ...r.unknowns.sensorC, [charger.id]: v } } }),
      });
    return list;
  });
}

/** What one varied run came to. */
export interface StudyRun {
  readonly index: number;
  /** Drawn values, in the order of `uncertainOf`. */
  readonly drawn: readonly number[];
  /** By requirement: its code and charger. */
  readonly holdings: Readonly<Record<string, Holding>>;
}

/**
 * Values for run `index` of `count`: a Latin hypercube, so that every input covers its whole range evenly (McKay, Beckman and Conover 1979).
 * Any worker can draw any run: nothing is passed from one to the next.
 */
export function drawRun(uncertain: readonly Uncertain[], index: number, count: number, seed: number): readonly number[] {
  return uncertain.map((u, column) => {
    const random = randomFrom(seed * 7919 + column * 104_729 + count);
    const places = Array.from({ length: count }, (_, i) => i);
    for (let i = count - 1; i > 0; i--) {
      const k = Math.floor(random() * (i + 1));
      [places[i], places[k]] = [places[k] ?? 0, places[i] ?? 0];
    }
    const within = randomFrom(seed + 31 * column + 1009 * index)();
    return u.from + ((u.to - u.from) * ((places[index] ?? 0) + within)) / count;
  });
}

/** Steps of a study's runs, s: coarser than what is drawn, for it counts outcomes. */
const studySteps = { stepS: 5, longestS: 240, everyS: 240 } as const;

/** Runs `from` up to but not including `to` of a study. */
export function studyRuns(input: Omit<RunInput, 'unknowns'>, count: number, seed: number, from: number, to: number): readonly StudyRun[] {
  const uncertain = uncertainOf(input.plan, input.scenario);
  const runs: StudyRun[] = [];
  for (let index = from; index < Math.min(to, count); index++) {
    const drawn = drawRun(uncertain, index, count, seed);
    const start: { scenario: Scenario; unknowns: Unknowns } = { scenario: { ...input.scenario, seed: (seed * 1000 + index) >>> 0 }, unknowns: {} };
    const varied = uncertain.reduce((r, u, i) => u.apply(r, drawn[i] ?? 0), start);
    const run = rehearse({ ...input, ...varied }, studySteps);
    if (!run.ok) continue;
    runs.push({ index, drawn, holdings: Object.fromEntries(evaluateRun(input.plan, run.value).map((o) => [requirementKey(o), o.holding])) });
  }
  return runs;
}

/** How much one input has to do with a requirement's breaking. */
interface Influence {
  readonly words: string;
  /** Spearman's rank correlation with breaking, −1 to 1: above 0, more of it breaks more. */
  readonly rank: number;
}

/** What a study came to for one requirement. */
export interface StudyResult {
  readonly key: string;
  readonly breaks: number;
  readonly runs: number;
  /** Strongest first; empty where it always or never breaks. */
  readonly influences: readonly Influence[];
}

/**
 * Counts breaks, and ranks what drives them (Spearman; ties count as their mean rank).
 *
 * @param least correlations weaker than what chance gives in so few runs are left out: 2/√n
 */
export function studyResult(plan: Plan, scenario: Scenario, runs: readonly StudyRun[]): readonly StudyResult[] {
  const uncertain = uncertainOf(plan, scenario);
  const ordered = [...runs].sort((a, b) => a.index - b.index);
  const keys = [...new Set(ordered.flatMap((r) => Object.keys(r.holdings)))];
  const chance = 2 / Math.sqrt(Math.max(1, ordered.length));
  return keys.map((key) => {
    const broke = ordered.map((r): number => (r.holdings[key] === 'breaks' ? 1 : 0));
    const breaks = broke.reduce((a, b) => a + b, 0);
    const influences =
      breaks === 0 || breaks === ordered.length
        ? []
        : uncertain
            .map((u, i) => ({
              words: u.words,
              rank: sampleRankCorrelation(
                ordered.map((r) => r.drawn[i] ?? 0),
                broke,
              ),
            }))
            .filter((f) => Number.isFinite(f.rank) && Math.abs(f.rank) >= chance)
            .sort((x, y) => Math.abs(y.rank) - Math.abs(x.rank));
    return { key, breaks, runs: ordered.length, influences };
  });
}
