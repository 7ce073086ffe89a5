import { parameterFor, type Card } from '../card';
import { statedFigure } from '../sheet';
import { readsBattery, sensorPlaceWords, stopsWithoutSensor, type Charger } from '../system';
import type { Plan } from './derive';
import { relayPlan } from './relay';

/** One place where the cold protection of a source may live, and whether it works there. */
export interface ColdGuard {
  readonly kind: 'charger' | 'bms' | 'relay';
  readonly works: boolean;
  /** Why it does not: "has no low-temperature cutoff". Empty when it works. */
  readonly why: string;
}

/** What protects a source of charge from charging frozen cells: its own cutoff, the BMS, a thermostat and relay. Each is judged by itself. */
export function coldGuards(plan: Plan, charger: Charger, card: Card): readonly ColdGuard[] {
  const { sheet, system } = plan.input;
  const least = statedFigure(sheet, 'chargeTemperature')?.min;
  const has = parameterFor(card, 'lowTempCutoff') !== undefined && card.sensor.usedFor.includes('cutoff');
  const own: ColdGuard = !has
    ? { kind: 'charger', works: false, why: 'has no low-temperature cutoff' }
    : readsBattery(charger, card)
      ? { kind: 'charger', works: true, why: '' }
      : {
          kind: 'charger',
          works: false,
          why: charger.sensor.fitted
            ? `has its sensor ${sensorPlaceWords[charger.sensor.place]}, which is not the battery`
            : stopsWithoutSensor(charger, card)
              ? 'has no battery sensor fitted, and will not charge at all with the cutoff set'
              : 'has no battery sensor fitted, and without one it ignores the cutoff',
        };
  const guards: ColdGuard[] = [own];
  const stop = statedFigure(sheet, 'bmsLowTemperature');
  const stopC = stop?.min ?? stop?.target ?? stop?.max;
  if (system.bank.hasBms && stopC !== undefined)
    guards.push(
      least === undefined || stopC >= least
        ? { kind: 'bms', works: true, why: '' }
        : { kind: 'bms', works: false, why: `relies on a BMS that stops at ${stopC} °C, under the sheet’s ${least} °C` },
    );
  for (const companion of system.companions) {
    const relay = companion.switches.includes(charger.id) ? relayPlan(plan, companion.id) : null;
    const source = relay?.sources.find((s) => s.charger.id === charger.id);
    if (!relay || !source) continue;
    const why =
      source.breaks !== source.right
        ? `is switched by ${companion.name} at the wrong place`
        : !source.enough
          ? `is switched by ${companion.name}, whose contact is too small for it`
          : relay.output !== 'cooling'
            ? `is switched by ${companion.name}, whose heating output closes when it is cold`
            : '';
    guards.push({ kind: 'relay', works: why === '', why });
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
