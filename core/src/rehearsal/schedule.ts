import { makeTrack } from '../physics';
import type { Replay } from './replay';
import type { Scenario } from './scenario';

/** The evening, when more is switched on, hours. */
const evening = { from: 18, to: 23 } as const;
/** A fridge's round, s. */
const roundS = 3600;

/** What is switched when. Times are seconds from the start of a run. */
export interface Schedule {
  /** Loads, A. */
  loads(t: number): number;
  engine(t: number): boolean;
  mains(t: number): boolean;
  /** The next time at which any of it changes. */
  next(t: number): number;
  /** When the power is cut and when the BMS opens; Infinity for never. */
  readonly cutAt: number;
  readonly opensAt: number;
}

/** The schedule of a scenario; a played-back log brings its own loads. */
export function makeSchedule(scenario: Scenario, replay: Replay | undefined): Schedule {
  const { load, engine, mains, powerCut, bmsOpens } = scenario;
  const base = scenario.fromHour * 3600;
  const recorded = replay ? makeTrack(replay.time, replay.loadA).at : null;
  const hourAt = (t: number): number => ((base + t) / 3600) % 24;
  const within = (window: Scenario['mains'], t: number): boolean => window !== null && (hourAt(t) - window.fromHour + 24) % 24 < window.hours;
  const planned = (hour: number): number => ((hour - scenario.fromHour + 24) % 24) * 3600;
  // Hours of the day at which something changes.
  const hours = [
    ...(load.eveningA > 0 ? [evening.from, evening.to] : []),
    ...[engine, mains].flatMap((w) => (w ? [w.fromHour % 24, (w.fromHour + w.hours) % 24] : [])),
    ...[powerCut, bmsOpens].flatMap((e) => (e ? [e.hour % 24] : [])),
  ];
  return {
    loads(t) {
      if (recorded) return recorded(t);
      const hour = hourAt(t);
      return load.baseA + ((base + t) % roundS < load.duty * roundS ? load.fridgeA : 0) + (hour >= evening.from && hour < evening.to ? load.eveningA : 0);
    },
    engine: (t) => within(engine, t),
    mains: (t) => within(mains, t),
    next(t) {
      if (recorded) return Infinity;
      const at = base + t;
      const day = Math.floor(at / 86_400) * 86_400;
      let next = Infinity;
      for (const hour of hours) {
        const today = day + hour * 3600;
        const then = today > at + 1e-6 ? today : today + 86_400;
        if (then < next) next = then;
      }
      if (load.fridgeA > 0) {
        const into = at % roundS;
        next = Math.min(next, at - into + (into < load.duty * roundS - 1e-6 ? load.duty * roundS : roundS));
      }
      return next - base;
    },
    cutAt: powerCut ? planned(powerCut.hour) : Infinity,
    opensAt: bmsOpens ? planned(bmsOpens.hour) : Infinity,
  };
}
