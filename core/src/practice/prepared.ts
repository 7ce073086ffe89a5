import { scenarioNamed, variantValues, type AllValues, type Scenario } from '../rehearsal';
import { deriveSettings, type Plan } from '../settings';
import { inputOf, places, type Place, type PlaceCode, type PracticeLibrary } from './places';

/** A place with everything right: its settings worked out, its devices set so, its day. */
export interface Prepared {
  readonly place: Place;
  readonly library: PracticeLibrary;
  readonly plan: Plan;
  /** What stands on every device when all is as it should be. */
  readonly right: AllValues;
  readonly scenario: Scenario;
}

/** The plan with what stands on the devices entered as found. */
export function planWith(plan: Plan, values: AllValues): Plan {
  const { system } = plan.input;
  const found = <T extends { readonly id: string; readonly present: object }>(d: T): T => ({ ...d, present: values[d.id] ?? d.present });
  return deriveSettings({ ...plan.input, system: { ...system, chargers: system.chargers.map(found), companions: system.companions.map(found) } });
}

/**
 * Gets a place ready.
 *
 * @throws Error when the library lacks what it is made of
 */
export function prepare(code: PlaceCode, library: PracticeLibrary, sheet?: string): Prepared {
  const place = places.find((p) => p.code === code);
  if (!place) throw new Error(`there is no place ${code}`);
  const first = deriveSettings(inputOf(place, library, sheet ?? place.sheet));
  const right = variantValues(first, 'asSet');
  const day = scenarioNamed(first, 'clear-day');
  if (!day) throw new Error(`${code} has no sun`);
  return { place, library, plan: planWith(first, right), right, scenario: { ...day, ...place.day, fromHour: place.hour } };
}
