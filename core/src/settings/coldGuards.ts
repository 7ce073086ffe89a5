import { isUnknown, parameterFor, type Card } from '../card';
import { statedFigure } from '../sheet';
import { readsBattery, stopsWithoutSensor, type Charger, type Sensor } from '../system';
import type { Plan } from './derive';
import { relayPlan } from './relay';

/** Why a guard does not work, with what its words need. */
export type ColdGuardFault =
  | { readonly why: 'noCutoff' | 'noSensorStops' | 'noSensorIgnores' | 'sensorNotKnown' | 'cutoffNotKnown' }
  | { readonly why: 'sensorElsewhere'; readonly place: Sensor['place'] }
  | { readonly why: 'bmsTooCold'; readonly stopsC: number; readonly leastC: number }
  | { readonly why: 'relayMisplaced' | 'relayTooSmall' | 'relayHeats' | 'relaySensorNotKnown'; readonly device: string };

/** One place where the cold protection of a source may live, and whether it works there. */
export interface ColdGuard {
  readonly kind: 'charger' | 'bms' | 'relay';
  readonly works: boolean;
  /** Set when it does not. */
  readonly fault?: ColdGuardFault;
}

/** What protects a source of charge from charging frozen cells: its own cutoff, the BMS, a thermostat and relay. Each is judged by itself. */
export function coldGuards(plan: Plan, charger: Charger, card: Card): readonly ColdGuard[] {
  const { sheet, system } = plan.input;
  const least = statedFigure(sheet, 'chargeTemperature')?.min;
  const has = parameterFor(card, 'lowTempCutoff') !== undefined && card.sensor.usedFor.includes('cutoff');
  const guard = (kind: ColdGuard['kind'], fault?: ColdGuardFault): ColdGuard => ({ kind, works: fault === undefined, ...(fault ? { fault } : {}) });
  const ownFault = (): ColdGuardFault | undefined => {
    if (!has) return { why: isUnknown(card, 'settings') ? 'cutoffNotKnown' : 'noCutoff' };
    if (readsBattery(charger, card)) return undefined;
    if (charger.sensor.fitted) return { why: 'sensorElsewhere', place: charger.sensor.place };
    if (charger.sensor.fitted === undefined) return { why: 'sensorNotKnown' };
    return { why: stopsWithoutSensor(charger, card) ? 'noSensorStops' : 'noSensorIgnores' };
  };
  const guards = [guard('charger', ownFault())];
  const stop = statedFigure(sheet, 'bmsLowTemperature');
  const stopsC = stop?.min ?? stop?.target ?? stop?.max;
  if (system.bank.hasBms && stopsC !== undefined)
    guards.push(guard('bms', least === undefined || stopsC >= least ? undefined : { why: 'bmsTooCold', stopsC, leastC: least }));
  for (const companion of system.companions) {
    const relay = companion.switches.includes(charger.id) ? relayPlan(plan, companion.id) : null;
    const source = relay?.sources.find((s) => s.charger.id === charger.id);
    if (!relay || !source) continue;
    const device = companion.id;
    guards.push(
      guard(
        'relay',
        source.breaks !== source.right
          ? { why: 'relayMisplaced', device }
          : !source.enough
            ? { why: 'relayTooSmall', device }
            : relay.output !== 'cooling'
              ? { why: 'relayHeats', device }
              : relay.companion.sensor?.fitted === true
                ? undefined
                : { why: 'relaySensorNotKnown', device },
      ),
    );
  }
  return guards;
}

/** Whether the school takes a guard of this kind for a protection. */
export const isAsked = ({ schools }: Plan['input'], { kind }: ColdGuard): boolean =>
  schools.coldProtection === 'anyThatWorks' || schools.coldProtection === 'two' || kind === schools.coldProtection;

/** Whether a source is protected from the cold where the school wants it, or the bank never falls below what the sheet allows. */
export function coldProtected(plan: Plan, charger: Charger, card: Card): boolean {
  const least = statedFigure(plan.input.sheet, 'chargeTemperature')?.min;
  if (least === undefined || plan.input.system.site.bankLowC >= least) return true;
  return coldGuards(plan, charger, card).some((g) => g.works && isAsked(plan.input, g));
}
