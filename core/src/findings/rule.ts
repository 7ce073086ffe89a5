import type { Card, Role } from '../card';
import type { Plan, Setting } from '../settings';
import type { Charger, Companion } from '../system';
import type { DeviceReading, Draft, Facts, FindingPlace, FindingRule, Remedy } from './finding';
import { chargersWithCards, companionsOf } from './places';

/** A rule that looks at one charger at a time. */
export const chargerRule = <F extends Facts>(
  look: (at: { charger: Charger; card: Card }, plan: Plan) => Draft<F> | null,
  place: FindingPlace = {},
): FindingRule<F> => ({
  ...place,
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap((at) => {
      const draft = look(at, plan);
      return draft ? [{ charger: at.charger.id, ...draft }] : [];
    }),
});

/** A rule that looks at one companion of a kind at a time. */
export const companionRule = <F extends Facts>(
  kind: 'monitor' | 'thermostat',
  look: (companion: Companion, plan: Plan) => Draft<F> | readonly Draft<F>[] | null,
  place: FindingPlace = {},
): FindingRule<F> => ({
  ...place,
  check: ({ plan }) =>
    companionsOf(plan, kind).flatMap(({ companion }) => [look(companion, plan) ?? []].flat().map((draft) => ({ charger: companion.id, ...draft }))),
});

/** A rule that looks at one setting at a time, of chargers and companions alike. */
export const settingRule = <F extends Facts>(look: (setting: Setting, plan: Plan) => Draft<F> | null, place: FindingPlace = {}): FindingRule<F> => ({
  ...place,
  check: ({ plan }) =>
    plan.settings.flatMap((setting) => {
      const draft = look(setting, plan);
      return draft ? [{ charger: setting.charger, role: setting.role, ...draft }] : [];
    }),
});

/** A rule that looks at the whole job. */
export const jobRule = <F extends Facts>(look: (plan: Plan) => Draft<F> | null, place: FindingPlace = {}): FindingRule<F> => ({
  ...place,
  check: ({ plan }) => {
    const draft = look(plan);
    return draft ? [draft] : [];
  },
});

/** A value of a setting as its device shows it. */
export const readingOf = ({ unit, digits }: Setting, value: number | string): DeviceReading => ({ value, unit, digits });

/** Takes a person’s figure away. */
export const clearing = (charger: string, role: Role): Remedy => ({ does: 'clearOverride', changes: [{ kind: 'clearOverride', charger, role }] });

/** Records what a device shows now. */
export const recording = (setting: Setting, value: number | string): Remedy => ({
  does: 'recordReading',
  facts: readingOf(setting, value),
  changes: [{ kind: 'recordPresent', charger: setting.charger, role: setting.role, value }],
});

/** Records that a sensor is on the battery case now, and reads what the cell has. */
export const fittingSensor = (charger: string): Remedy => ({
  does: 'recordSensorFitted',
  changes: [{ kind: 'setSensor', charger, sensor: { fitted: true, place: 'batteryCase', offsetC: 0 } }],
});

/**
 * What puts a setting right: a person’s figure goes back to the derived one; what was found on the device is recorded as changed to what is
 * worked out. Nothing when no value is worked out.
 */
export function puttingRight(setting: Setting | undefined): readonly Remedy[] {
  if (!setting) return [];
  if (setting.override ?? setting.left) return [clearing(setting.charger, setting.role)];
  return setting.value === null ? [] : [recording(setting, setting.value)];
}
