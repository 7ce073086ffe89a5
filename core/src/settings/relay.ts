import { isSource, type Card, type CardKind } from '../card';
import { coldOpenVolts } from '../physics';
import { cutoffMargin, type Breaks, type Charger, type Companion } from '../system';
import type { Plan } from './derive';
import { cardOf, companionInPlace } from './input';

/** What rightly stops a source of a kind: its array side, its enable input, its field, its brake. Never the output of something that turns. */
function rightBreak(kind: CardKind): Breaks {
  switch (kind) {
    case 'alternator':
      return 'field';
    case 'turbine':
      return 'brake';
    case 'dcdc':
    case 'inverterCharger':
      return 'enableInput';
    default:
      return 'arraySide';
  }
}

/** What a relay opens, in words. */
export const breakWords: Readonly<Record<Breaks, string>> = {
  arraySide: 'the array side',
  batterySide: 'the battery side',
  enableInput: 'the enable input',
  field: 'the field',
  brake: 'the brake',
  output: 'the output',
};

/** Continuous short-circuit current counts with a quarter on top when a contact is chosen for it. */
const contactFactor = 1.25;

/** What one switched source asks of the contact, and whether it gets it. */
export interface RelaySource {
  readonly charger: Charger;
  readonly card: Card;
  /** What the relay opens here. */
  readonly breaks: Breaks;
  readonly right: Breaks;
  /** Volts and amps the contact must break; null for a control input, which asks for next to nothing. */
  readonly volts: number | null;
  readonly amps: number | null;
  readonly enough: boolean;
}

/** One row of the truth table. */
interface RelayRow {
  readonly when: string;
  readonly output: 'closed' | 'open';
  readonly relay: 'closed' | 'open';
  readonly chargerAlive: boolean;
  readonly bankCharging: boolean;
  /** Charging goes on although nobody knows that the cells are warm enough. */
  readonly wrong: boolean;
}

/** A thermostat and its relay as planned. */
export interface RelayPlan {
  readonly companion: Companion;
  readonly card: Card;
  readonly output: 'cooling' | 'heating';
  /** Reading at which charging stops and at which it may go on, °C. */
  readonly opensC: number;
  readonly closesC: number;
  /** Coldest cell that is still charged: the opening less the sensor's margin, °C. */
  readonly coldestCellC: number;
  readonly contact: { readonly volts: number | null; readonly amps: number | null; readonly own: boolean };
  readonly sources: readonly RelaySource[];
  readonly rows: readonly RelayRow[];
  /** Energy of the coil in a day of holding closed, Wh; null when its power is not entered. */
  readonly coilWhPerDay: number | null;
}

/**
 * Plans a thermostat with its relay: what the contact must break, whether it does, and what happens at each temperature and when power or
 * sensor is lost.
 *
 * @returns null when the companion is no thermostat with a setpoint
 */
export function relayPlan(plan: Plan, companionId: string): RelayPlan | null {
  const companion = plan.input.system.companions.find((c) => c.id === companionId);
  const card = companion && cardOf(plan.input, companion);
  const setpoint = plan.setting(companionId, 'thermostatSetpoint')?.trueValue;
  const differential = plan.setting(companionId, 'thermostatDifferential')?.trueValue ?? 0;
  if (!companion || card?.kind !== 'thermostat' || setpoint == null) return null;
  const output = plan.setting(companionId, 'outputMode')?.value === 'heating' ? 'heating' : 'cooling';
  const relay = companion.relay;
  const own = relay?.volts === undefined && relay?.amps === undefined;
  const contact = {
    volts: relay?.volts ?? (own ? (card.ratings.contact?.volts ?? null) : null),
    amps: relay?.amps ?? (own ? (card.ratings.contact?.amps ?? null) : null),
    own,
  };
  const sources = plan.input.system.chargers.flatMap((charger): RelaySource[] => {
    const of = cardOf(plan.input, charger);
    if (!of || !isSource(of.kind) || !companion.switches.includes(charger.id)) return [];
    const right = rightBreak(of.kind);
    const breaks = relay?.breaks ?? right;
    const power = breaks === 'arraySide' || breaks === 'batterySide' || breaks === 'output';
    const volts = !power
      ? null
      : breaks === 'arraySide' && charger.array
        ? coldOpenVolts(charger.array.panel, charger.array.inSeries, plan.input.system.site.recordLowC)
        : plan.facts.nominalVolts * 1.25;
    const amps = !power
      ? null
      : breaks === 'arraySide' && charger.array
        ? contactFactor * charger.array.panel.iscA * charger.array.inParallel
        : of.ratings.outputA;
    const enough = (volts === null || (contact.volts ?? 0) >= volts) && (amps === null || (contact.amps ?? 0) >= amps);
    return [{ charger, card: of, breaks, right, volts, amps, enough }];
  });
  const opensC = setpoint - differential;
  const margin = cutoffMargin(companionInPlace(companion).sensor, plan.input.system.site).total;
  const alive = sources.every((s) => s.breaks !== 'batterySide');
  const row = (when: string, outputClosed: boolean, warm: boolean): RelayRow => ({
    when,
    output: outputClosed ? 'closed' : 'open',
    relay: outputClosed ? 'closed' : 'open',
    chargerAlive: outputClosed || alive,
    bankCharging: outputClosed,
    wrong: outputClosed && !warm,
  });
  const cooling = output === 'cooling';
  return {
    companion,
    card,
    output,
    opensC,
    closesC: setpoint,
    coldestCellC: opensC - margin,
    contact,
    sources,
    rows: [
      row('colder than it opens', !cooling, false),
      row('between, on the way down', cooling, true),
      row('between, on the way up', !cooling, !cooling),
      row('warmer than it closes', cooling, true),
      row('sensor lost', false, false),
      row('thermostat without power', false, false),
    ],
    coilWhPerDay: relay?.coilW === undefined ? null : relay.coilW * 24,
  };
}
