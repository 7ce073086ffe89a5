import type { Role } from '../card';
import { deriveSettings, type Plan, type Schools, type Setting } from '../settings';
import { aboutOf, type DeviceReading, type Finding } from './finding';
import { findFindings } from './find';
import { readingOf } from './rule';

/** A value to enter that a choice changes; null where nothing is to be entered, `off` where the device’s own off is. */
export interface ChangedSetting {
  readonly device: string;
  readonly role: Role;
  readonly before: DeviceReading | 'off' | null;
  readonly after: DeviceReading | 'off' | null;
}

/** What choosing a school would come to, computed by choosing it. */
export interface Consequence {
  readonly changes: readonly ChangedSetting[];
  /** Stops and attentions that would go, and that would come. */
  readonly gone: readonly Finding[];
  readonly come: readonly Finding[];
}

const shown = (s: Setting | undefined): DeviceReading | 'off' | null =>
  s?.value == null ? null : typeof s.value === 'number' && s.off ? 'off' : readingOf(s, s.value);

/** Whether a display shows the same, to its decimals. */
const alike = (a: DeviceReading | 'off' | null, b: DeviceReading | 'off' | null): boolean => {
  if (a === null || b === null || a === 'off' || b === 'off') return a === b;
  const written = ({ value, unit, digits }: DeviceReading): string => (typeof value === 'number' ? `${value.toFixed(digits)} ${unit}` : value);
  return written(a) === written(b);
};

/**
 * Chooses a school on a copy and tells what differs: every value to enter, and every stop or attention.
 *
 * @param today year-month-day
 */
export function consequenceOf(plan: Plan, school: keyof Schools, to: string, today: string): Consequence {
  const other = deriveSettings({ ...plan.input, schools: { ...plan.input.schools, [school]: to } });
  const changes = other.settings.flatMap((s) => {
    const [before, after] = [shown(plan.setting(s.charger, s.role)), shown(s)];
    return s.inherited || alike(before, after) ? [] : [{ device: s.charger, role: s.role, before, after }];
  });
  const [now, then] = [plan, other].map((p) => findFindings(p, today).filter((f) => f.severity !== 'note')) as [Finding[], Finding[]];
  return {
    changes,
    gone: now.filter((f) => !then.some((g) => aboutOf(g) === aboutOf(f))),
    come: then.filter((f) => !now.some((g) => aboutOf(g) === aboutOf(f))),
  };
}
