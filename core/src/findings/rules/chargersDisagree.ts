import { roleInfo, type Role } from '../../card';
import { formatQuantity } from '../../quantity';
import type { Setting } from '../../settings';
import { nameOf } from '../words';
import type { Finding, FindingRule } from '../finding';

const compared: readonly { role: Role; unit: string; scale: number; digits: number; most: (s: readonly Setting[]) => number }[] = [
  { role: 'absorbVoltage', unit: 'V', scale: 1, digits: 2, most: (s) => stepOf(s) },
  { role: 'floatVoltage', unit: 'V', scale: 1, digits: 2, most: (s) => stepOf(s) },
  { role: 'absorbTime', unit: 'min', scale: 1 / 60, digits: 0, most: () => 60 },
];

/** One display step, V, with a hair of slack: true values within it are as equal as the devices allow. */
const stepOf = (settings: readonly Setting[]): number => Math.max(...settings.map((s) => 10 ** -s.digits)) + 1e-6;

/** Chargers of one bank that hold different voltages or times. */
export const chargersDisagree: FindingRule = {
  code: 'chargersDisagree',
  check: ({ plan }) =>
    compared.flatMap(({ role, unit, scale, digits, most }): Finding[] => {
      const settings = plan.settings.filter((s) => s.role === role && typeof s.trueValue === 'number');
      if (settings.length < 2) return [];
      // Times that were wanted equal differ only by what the devices' steps allow.
      if (role === 'absorbTime' && new Set(settings.map((s) => s.exact)).size === 1) return [];
      const sorted = [...settings].sort((a, b) => (a.trueValue ?? 0) - (b.trueValue ?? 0));
      const low = sorted[0];
      const high = sorted.at(-1);
      if (!low || !high || (high.trueValue ?? 0) - (low.trueValue ?? 0) <= most(settings)) return [];
      const show = (s: Setting): string => formatQuantity((s.trueValue ?? 0) * scale, unit, digits);
      const overridden = [high, low].find((s) => s.override);
      return [
        {
          code: 'chargersDisagree',
          severity: 'attention',
          charger: high.charger,
          role,
          text: `${nameOf(plan, high.charger)} has ${roleInfo[role].name} ${show(high)}, ${nameOf(plan, low.charger)} ${show(low)}.`,
          hurts: 'The higher one works alone, and the lower one drops to float early.',
          remedies: overridden ? [{ label: 'Go back to the derived value', changes: [{ kind: 'clearOverride', charger: overridden.charger, role }] }] : [],
        },
      ];
    }),
};
