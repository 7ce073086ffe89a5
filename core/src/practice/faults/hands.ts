import { family } from '../../card';
import { chargersWithCards } from '../../settings';
import type { Breaks } from '../../system';
import { prepare, type Prepared } from '../prepared';
import { withCharger, type FaultKind, type Hand, type Showing, type Setup, type Spot } from './fault';

/** How much warmer a sensor reads on a pad over a heater than the cells are, °C. */
const padC = 7;
/** What a display reads too much, part of nominal volts. */
const displayPart = 0.016;
/** Length that a joint gone bad stands for, m of the charger’s own cable. */
const jointMetres = 14;
/** What snow lets through. */
const snowLight = 0.12;
/** A load that somebody left on, part of the most that was planned. */
const leftOnPart = 0.8;
/** More than this part of them above the least is no usual day. */
const plainPart = 0.72;
/** How far the highest cell is ahead, V. */
const cellAheadV = 0.22;
/** Temperatures, volts and amps that differ by less show nothing: the instruments themselves may. */
const apartC = 2;
const apartA = 1.5;

const sources = ({ plan }: Prepared, suits: (c: ReturnType<typeof chargersWithCards>[number]) => boolean): readonly Spot[] =>
  chargersWithCards(plan.input)
    .filter(suits)
    .map(({ charger }) => ({ device: charger.id, role: null }));

/** Chargers that charge by day without anybody’s doing. */
const solar = (at: Prepared): readonly Spot[] => sources(at, ({ charger, card }) => family(card.kind) === 'solar' && charger.array !== undefined);
const sensed = (at: Prepared): readonly Spot[] => sources(at, ({ charger, card }) => charger.sensor.fitted === true && card.sensor.reads === 'wired');

function byHand(
  remedy: Hand | 'nothing',
  touches: FaultKind['touches'],
  spots: FaultKind['spots'],
  plant: FaultKind['plant'],
  proofs: (device: string, at: Prepared) => readonly Showing[],
): FaultKind {
  return { remedy, touches, spots, plant, proofs: ({ device }, at) => proofs(device ?? '', at) };
}
const sensorOf = (setup: Setup, id: string | null) => setup.truth.system.chargers.find((c) => c.id === id)?.sensor;
const moved = (setup: Setup, { device }: Spot, place: 'pad' | 'chargerCase', offsetC: number): Setup => {
  const sensor = sensorOf(setup, device);
  return sensor ? withCharger(setup, device, { sensor: { ...sensor, place, offsetC } }) : setup;
};
const monitors = ({ plan }: Prepared): readonly Spot[] =>
  plan.input.system.companions.flatMap((c) => (plan.input.cards.find((card) => card.id === c.card)?.kind === 'monitor' ? [{ device: c.id, role: null }] : []));
const withRelay = (setup: Setup, id: string | null, breaks: Breaks): Setup => ({
  ...setup,
  truth: {
    ...setup.truth,
    system: {
      ...setup.truth.system,
      companions: setup.truth.system.companions.map((c) => (c.id === id && c.relay ? { ...c, relay: { ...c.relay, breaks } } : c)),
    },
  },
});
const place = (): readonly Spot[] => [{ device: null, role: null }];

/** Faults that sit in wires, sensors, panels, the sky, or on the wall. */
export const handFaults = {
  sensorUnplugged: byHand(
    'plugSensor',
    'sensor',
    sensed,
    (setup, { device }) => ({ ...setup, unplugged: [...setup.unplugged, device ?? ''] }),
    (device) => [{ keys: [`sensor:${device}`], blank: true }, { keys: [`look:sensor:${device}`] }],
  ),
  sensorOnPad: byHand(
    'moveSensor',
    'sensor',
    sensed,
    (setup, spot) => moved(setup, spot, 'pad', padC),
    (device) => [{ keys: [`sensor:${device}`, 'thermometer:battery'], apart: apartC }, { keys: [`look:sensor:${device}`] }],
  ),
  sensorInCase: byHand(
    'moveSensor',
    'sensor',
    sensed,
    (setup, spot) => moved(setup, spot, 'chargerCase', 0),
    (device) => [{ keys: [`sensor:${device}`, 'thermometer:battery'], apart: apartC }, { keys: [`look:sensor:${device}`] }],
  ),
  badJoint: byHand(
    'remakeJoint',
    'wire',
    // Volts lost along the way show only where they are measured apart from those at the bank.
    (at) => sources(at, ({ charger, card }) => family(card.kind) === 'solar' && !card.remoteSense && charger.wire?.lengthM !== undefined),
    (setup, { device }) => {
      const wire = setup.truth.system.chargers.find((c) => c.id === device)?.wire;
      return withCharger(setup, device, { wire: { ...wire, lengthM: (wire?.lengthM ?? 1) + jointMetres } });
    },
    (device) => [{ keys: [`drop:${device}`], atLeast: 0.15 }, { keys: [`look:joints:${device}`] }],
  ),
  snow: byHand(
    'clearArray',
    'source',
    (at) => (solar(at).length > 0 ? place() : []),
    (setup) => ({ ...setup, light: snowLight }),
    () => [{ keys: ['look:array'] }],
  ),
  stringOpen: byHand(
    'joinString',
    'source',
    (at) => solar(at).filter(({ device }) => (at.plan.input.system.chargers.find((c) => c.id === device)?.array?.inParallel ?? 1) > 1),
    (setup, { device }) => {
      const array = setup.truth.system.chargers.find((c) => c.id === device)?.array;
      return array ? withCharger(setup, device, { array: { ...array, inParallel: array.inParallel - 1 } }) : setup;
    },
    (device) => [{ keys: [`strings:${device}`], atMost: 0.2 }],
  ),
  sourceOff: byHand(
    'closeIsolator',
    'source',
    solar,
    (setup, { device }) => ({ ...setup, isolated: [...setup.isolated, device ?? ''] }),
    (device) => [{ keys: [`look:isolator:${device}`] }, { keys: [`clamp:${device}`], atMost: 0.2 }],
  ),
  besideShunt: byHand(
    'moveNegative',
    'wire',
    (at) => (monitors(at).length > 0 ? solar(at) : []),
    (setup, { device }) => withCharger(setup, device, { besideShunt: true }),
    (device) => [{ keys: ['monitor', 'clamp:bank'], apart: apartA }, { keys: [`look:negative:${device}`] }],
  ),
  /** The thin leads of the shunt swapped: what flows in is counted as flowing out. */
  shuntReversed: byHand(
    'swapShuntLeads',
    'wire',
    (at) => monitors(at),
    (setup) => ({ ...setup, shuntReversed: true }),
    (device) => [{ keys: ['monitor', 'clamp:bank'], apart: apartA }, { keys: [`look:shunt:${device}`] }],
  ),
  /** A relay that should part the array from the charger, and parts the battery from it. */
  relayWrongSide: byHand(
    'moveRelay',
    'wire',
    ({ plan }) => plan.input.system.companions.flatMap((c): readonly Spot[] => (c.relay?.breaks === 'arraySide' ? [{ device: c.id, role: null }] : [])),
    (setup, { device }) => withRelay(setup, device, 'batterySide'),
    (device) => [{ keys: [`look:relay:${device}`] }],
  ),
  loadLeftOn: byHand(
    'switchOffLoad',
    'load',
    place,
    (setup) => ({ ...setup, loadA: setup.loadA + leftOnPart * setup.truth.system.loads.maxA }),
    (_, { plan }) => [{ keys: ['clamp:loads'], atLeast: plan.input.system.loads.minA + plainPart * plan.input.system.loads.maxA }, { keys: ['look:loads'] }],
  ),
  cellAhead: byHand(
    'balanceCells',
    'all',
    (at) => (at.plan.input.system.bank.hasBms ? place() : []),
    (setup) => ({ ...setup, truth: { ...setup.truth, system: { ...setup.truth.system, bank: { ...setup.truth.system.bank, cellSpreadV: cellAheadV } } } }),
    () => [{ keys: ['look:cells'], atLeast: 0.1 }],
  ),
  /** A display that reads too high: the charger believes it, and stops too low. */
  displayHigh: {
    touches: 'value',
    remedy: 'value',
    // A follower takes its leader’s figures.
    spots: (at) => sources(at, ({ charger, card }) => family(card.kind) === 'solar' && charger.follows === undefined),
    plant(setup, { device }, at) {
      const meterV = at.plan.facts.nominalVolts;
      return withCharger(setup, device, { displayReadings: [{ meterV, displayV: meterV * (1 + displayPart) }] });
    },
    proofs: ({ device }, at) => [{ keys: [`display:${device ?? ''}`, `meter:${device ?? ''}`], apart: 0.6 * displayPart * at.plan.facts.nominalVolts }],
  },
  /** The sheet on the wall is not the one of these batteries, and every value follows it. */
  olderSheet: {
    touches: 'all',
    remedy: 'value',
    spots: (at) => (at.place.olderSheet === undefined ? [] : place()),
    plant(setup, _, at) {
      const older = at.place.olderSheet;
      if (older === undefined) return setup;
      const { right } = prepare(at.place.code, at.library, older);
      return { ...setup, inUse: right, stored: right, wallSheet: older };
    },
    proofs: () => [{ keys: ['look:label'] }],
  },
  /** Broken cloud: absorb begins and ends again, and nothing is wrong. */
  cloud: byHand(
    'nothing',
    'all',
    (at) => (solar(at).length > 0 ? place() : []),
    (setup) => ({ ...setup, scenario: { ...setup.scenario, clearness: 0.45 } }),
    () => [{ keys: ['look:sky'] }, { keys: ['log'] }],
  ),
} satisfies Readonly<Record<string, FaultKind>>;
