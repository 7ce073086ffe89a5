import { puttingRight } from '../rule';
import { formatDuration } from '../../quantity';
import type { FindingRule, Finding } from '../finding';
import { amps, volts, companionsOf } from '../words';

/** A monitor that calls the bank full on the way up, or at a passing cloud. */
export const monitorResetsEarly: FindingRule = {
  code: 'monitorResetsEarly',
  short: 'Shows full too early',
  check: ({ plan }) =>
    companionsOf(plan, 'monitor').flatMap(({ companion }): Finding[] => {
      const floats = plan.settings.flatMap((s) => (s.role === 'floatVoltage' && s.trueValue !== null ? [s.trueValue] : []));
      const float = floats.length > 0 ? Math.max(...floats) : null;
      const voltage = plan.setting(companion.id, 'fullDetectVoltage');
      const current = plan.setting(companion.id, 'fullDetectCurrent');
      const time = plan.setting(companion.id, 'fullDetectTime');
      const seen = voltage?.presentTrue ?? voltage?.trueValue;
      const high = current?.presentTrue ?? current?.trueValue;
      const held = time?.presentTrue ?? time?.trueValue;
      const early =
        float !== null && seen != null && seen <= float + 1e-9
          ? { role: 'fullDetectVoltage' as const, setting: voltage, how: `from ${volts(seen, 1)}, at or under float ${volts(float)}` }
          : high != null && current?.band?.max !== undefined && high > current.band.max + 1e-9
            ? {
                role: 'fullDetectCurrent' as const,
                setting: current,
                how: `at ${amps(high, 1)}, and the sheet ends absorb at ${amps(current.band.min ?? 0, 1)}`,
              }
            : held != null && held < 60
              ? { role: 'fullDetectTime' as const, setting: time, how: `after ${formatDuration(held)}, as long as a gap in the clouds` }
              : null;
      if (!early) return [];
      const { setting } = early;
      return [
        {
          code: 'monitorResetsEarly',
          severity: 'attention',
          charger: companion.id,
          role: early.role,
          text: `${companion.name} calls the bank full ${early.how}.`,
          hurts: 'It shows 100 % on a bank that is not, and the error stays until the next true full charge.',
          remedies: puttingRight(setting),
        },
      ];
    }),
};
