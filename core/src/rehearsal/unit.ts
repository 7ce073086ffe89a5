import type { Card } from '../card';
import { newMachine, plainReading, stages, type ChargerProgram, type MachineState, type Reading } from '../charger';
import { ampsAtVolts, makeTrack, panelC } from '../physics';
import { cardOf } from '../settings';
import { displayErrorAtTrue, wireOhms, type Charger } from '../system';
import type { ChargerTotals, RunSpan } from './record';
import type { RunInput } from './runInput';
import type { Scenario } from './scenario';
import { arrayModel, arrayWatts, type ArrayModel, type Sky } from './site';
import { followsWith } from './values';

/** Resistance of a charger's cable that is not entered, and droop of one that regulates at sense leads, Ω. */
const plainCableOhms = 0.002;
const senseOhms = 0.0003;
/** Efficiency of conversion. */
const mpptPart = 0.97;
const dcdcPart = 0.92;
/** Even steps at which a display's error is looked up, between 0.7 and 1.4 of the bank's nominal volts. */
const displayGrid = 64;
const gridFrom = 0.7;
const gridSpan = 0.7;

/** Everything of one charger in a run. */
export interface Unit {
  readonly charger: Charger;
  readonly card: Card;
  program: ChargerProgram;
  readonly leader: number;
  readonly state: MachineState;
  readonly backup: MachineState;
  readonly reading: Reading;
  readonly ohms: number;
  readonly array: ArrayModel | null;
  readonly arrayAt: number;
  readonly displayAt: Float64Array;
  readonly nominalVolts: number;
  readonly sensorOffsetC: number;
  /** Where somebody holds its sensor, °C: in ice water, in the hand; null on its place. */
  sensorHeldC: number | null;
  /** Power it has at a time, W, in place of its own source. */
  replay: ((t: number) => number) | null;
  /** No sensor tells it anything. */
  unplugged: boolean;
  there: boolean;
  ready: number;
  changesSeen: number;
  /** Place of the present stage in the list of stages. */
  code: number;
  spans: RunSpan[];
  readonly totals: ChargerTotals;
  diverting: boolean;
  hot: boolean;
}

/** Gets every charger of a run ready, in the order of the job. */
export function makeUnits(input: RunInput, programs: ReadonlyMap<string, ChargerProgram>): readonly Unit[] {
  const { plan, scenario, values, unknowns = {}, replay } = input;
  const { chargers } = plan.input.system;
  const nominalVolts = plan.facts.nominalVolts;
  let arrays = 0;
  return chargers.flatMap((charger): Unit[] => {
    const arrayAt = charger.array ? arrays++ : -1;
    const card = cardOf(plan.input, charger);
    const program = programs.get(charger.id);
    if (!card || !program) return [];
    const extra = unknowns.displayV?.[charger.id] ?? 0;
    const known = (volts: number): number => (charger.displayReadings.length > 0 ? displayErrorAtTrue(charger.displayReadings, volts) : 0);
    const cable = wireOhms(charger.wire) ?? plainCableOhms;
    const leader = followsWith(plan, charger.id, values[charger.id] ?? {});
    const watts = replay?.watts[charger.id];
    return [
      {
        charger,
        card,
        program,
        leader: leader === null ? -1 : chargers.findIndex((c) => c.id === leader),
        state: newMachine(),
        backup: newMachine(),
        reading: plainReading(0),
        ohms: card.remoteSense ? senseOhms : Math.max(senseOhms, cable * (unknowns.cable ?? 1)),
        array: charger.array ? arrayModel(charger.array, scenario.snow) : null,
        arrayAt,
        displayAt: Float64Array.from({ length: displayGrid + 1 }, (_, k) => known(nominalVolts * (gridFrom + (gridSpan * k) / displayGrid)) + extra),
        nominalVolts,
        sensorOffsetC: charger.sensor.offsetC + (unknowns.sensorC?.[charger.id] ?? 0),
        sensorHeldC: null,
        // A source that the log says nothing of gives nothing.
        replay: replay ? (watts ? makeTrack(replay.time, watts).at : () => 0) : null,
        unplugged: !charger.sensor.fitted || card.sensor.reads === 'none' || scenario.unplugged.includes(charger.id),
        there: false,
        ready: 0,
        changesSeen: 0,
        code: 0,
        spans: [],
        totals: {
          ah: 0,
          seconds: stages.map(() => 0),
          atVoltage: 0,
          absorbVs: 0,
          absorbS: 0,
          floatVs: 0,
          floatS: 0,
          coldest: Infinity,
          coldestAt: NaN,
          coldReady: 0,
          coldAh: 0,
          peakA: 0,
        },
        diverting: false,
        hot: false,
      },
    ];
  });
}

/** What the sources meet in a step. */
export interface Meets {
  readonly sky: Sky;
  readonly scenario: Scenario;
  /** Middle of the step, s from the start, and the air then, °C. */
  t: number;
  airC: number;
  engine: boolean;
  mains: boolean;
}

/** What turns at a charger is rated for, A; the charger's own rating where nothing is entered. */
export const ratedAmps = (u: Unit): number => u.charger.machine?.ratedA ?? u.card.ratings.outputA;

/**
 * What a source could give at its terminals, A.
 *
 * @param volts at its terminals
 */
export function readyAmps(u: Unit, { sky, scenario, t, airC, engine, mains }: Meets, volts: number): number {
  if (u.replay) return Math.max(0, u.replay(t)) / Math.max(1, volts);
  switch (u.card.kind) {
    case 'solarMppt':
    case 'solarPwm': {
      if (!u.array) return 0;
      const light = sky.light(u.arrayAt, t);
      if (light <= 0) return 0;
      if (u.card.kind === 'solarPwm')
        return u.array.parallel * ampsAtVolts(u.array.curve, light * u.array.part, panelC(airC, light * u.array.part), volts / u.array.series);
      return (mpptPart * arrayWatts(u.array, light, airC)) / Math.max(1, volts);
    }
    case 'alternator':
      return engine ? ratedAmps(u) * (scenario.engine?.output ?? 1) : 0;
    case 'dcdc': {
      const feed = u.charger.feed;
      const spare = feed?.spareA === undefined ? Infinity : (feed.spareA * (feed.volts ?? 12) * dcdcPart) / Math.max(1, volts);
      // A start bank gives for a while without its engine too: whether it may is the input threshold's affair.
      return Math.min(u.program.limitA, spare);
    }
    case 'turbine':
      return u.state.braked ? 0 : ((u.charger.machine?.peakW ?? u.card.ratings.outputA * volts) * scenario.flow) / Math.max(1, volts);
    case 'inverterCharger':
      return mains ? u.card.ratings.outputA : 0;
    default:
      return 0;
  }
}

/** How much too high a charger measures at a true voltage, V. */
export function displayErrorOf(u: Unit, volts: number): number {
  const x = (volts / u.nominalVolts - gridFrom) * (displayGrid / gridSpan);
  return u.displayAt[x <= 0 ? 0 : x >= displayGrid ? displayGrid : Math.round(x)] ?? 0;
}

/** Volts at a charger's input: near zero in the dark, at its best point when all is drawn, towards open circuit when it holds back. */
export function inputVoltsOf(u: Unit, own: number): number {
  if (u.card.kind === 'dcdc') return u.reading.inputVolts;
  if (!u.array) return u.ready > 0 ? u.reading.volts : 0;
  if (u.card.kind === 'solarPwm') return own > 0 ? u.reading.volts + 0.4 : u.ready > 0 ? u.array.vmpV * 1.2 : 0;
  const drawn = u.ready > 0 ? own / u.ready : 0;
  return u.ready > 0.05 ? u.array.vmpV * (1.24 - 0.24 * drawn) : 0;
}

/** What a sensor sits on: the battery with the lead it has while the place warms, the air, or the charger’s own case. */
export function sensorSource(charger: Charger, batteryC: number, airC: number): number {
  switch (charger.sensor.place) {
    case 'air':
      return airC;
    case 'chargerCase':
      // A charger’s case stands above the air.
      return airC + 8;
    default:
      return batteryC + Math.min(charger.sensor.warmLeadC, Math.max(0, 0.3 * (airC - batteryC)));
  }
}
