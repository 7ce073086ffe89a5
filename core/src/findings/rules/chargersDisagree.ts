import type { Role } from '../../card';
import type { Setting } from '../../settings';
import type { Draft, FindingRule } from '../finding';
import { clearing } from '../rule';

const compared: readonly { role: Role; most: (s: readonly Setting[]) => number }[] = [
  { role: 'absorbVoltage', most: (s) => stepOf(s) },
  { role: 'floatVoltage', most: (s) => stepOf(s) },
  { role: 'absorbTime', most: () => 60 },
];

/** One display step, V, with a hair of slack: true values within it are as equal as the devices allow. */
const stepOf = (settings: readonly Setting[]): number => Math.max(...settings.map((s) => 10 ** -s.digits)) + 1e-6;

type Disagreement = Readonly<{ role: Role; high: number; highDevice: string; low: number; lowDevice: string }>;

/** Chargers of one bank that hold different voltages or times. */
export const chargersDisagree: FindingRule<Disagreement> = {
  check: ({ plan }) =>
    compared.flatMap(({ role, most }): Draft<Disagreement>[] => {
      const settings = plan.settings.filter((s) => s.role === role && typeof s.trueValue === 'number');
      if (settings.length < 2) return [];
      // Times that were wanted equal differ only by what the devices' steps allow.
      if (role === 'absorbTime' && new Set(settings.map((s) => s.exact)).size === 1) return [];
      const sorted = [...settings].sort((a, b) => (a.trueValue ?? 0) - (b.trueValue ?? 0));
      const low = sorted[0];
      const high = sorted.at(-1);
      if (!low || !high || (high.trueValue ?? 0) - (low.trueValue ?? 0) <= most(settings)) return [];
      const overridden = [high, low].find((s) => s.override);
      return [
        {
          severity: 'attention',
          charger: high.charger,
          role,
          facts: { role, high: high.trueValue ?? 0, highDevice: high.charger, low: low.trueValue ?? 0, lowDevice: low.charger },
          remedies: overridden ? [clearing(overridden.charger, role)] : [],
        },
      ];
    }),
};
