import { roleInfo } from '../card';
import { formatQuantity } from '../quantity';
import { deriveSettings, type Plan, type Schools, type Setting } from '../settings';
import type { Finding } from './finding';
import { findFindings } from './find';
import { nameOf } from './words';

/** What choosing a school would come to, computed by choosing it. */
export interface Consequence {
  /** "Solar aft: low-temperature cutoff 4 °C → 16 °C". */
  readonly changes: readonly string[];
  /** Stops and attentions that would go, and that would come. */
  readonly gone: readonly Finding[];
  readonly come: readonly Finding[];
}

const shown = (s: Setting | undefined): string =>
  s?.value == null ? 'left' : typeof s.value === 'number' ? (s.off ? 'off' : formatQuantity(s.value, s.unit, s.digits)) : `“${s.value}”`;

/**
 * Chooses a school on a copy and tells what differs: every value to key, and every stop or attention.
 *
 * @param today year-month-day
 */
export function consequenceOf(plan: Plan, school: keyof Schools, to: string, today: string): Consequence {
  const other = deriveSettings({ ...plan.input, schools: { ...plan.input.schools, [school]: to } });
  const changes = other.settings.flatMap((s) => {
    const before = plan.setting(s.charger, s.role);
    if (s.inherited || shown(before) === shown(s)) return [];
    return [`${nameOf(plan, s.charger)}: ${roleInfo[s.role].name} ${shown(before)} → ${shown(s)}`];
  });
  const [now, then] = [plan, other].map((p) => findFindings(p, today).filter((f) => f.severity !== 'note')) as [Finding[], Finding[]];
  const key = (f: Finding): string => `${f.code}/${f.charger ?? ''}/${f.role ?? ''}`;
  return {
    changes,
    gone: now.filter((f) => !then.some((g) => key(g) === key(f))),
    come: then.filter((f) => !now.some((g) => key(g) === key(f))),
  };
}
