import { puttingRight } from '../rule';
import { per12, lowestAbsorb } from '../../settings';
import type { FindingRule, Finding } from '../finding';
import { amps, volts, companionsOf } from '../words';

/** A monitor whose full voltage the chargers never reach, or whose full current the bank never falls to. */
export const monitorNeverFull: FindingRule = {
  code: 'monitorNeverFull',
  short: 'Never shows full',
  check: ({ plan }) =>
    companionsOf(plan, 'monitor').flatMap(({ companion }): Finding[] => {
      const voltage = plan.setting(companion.id, 'fullDetectVoltage');
      const current = plan.setting(companion.id, 'fullDetectCurrent');
      const absorb = lowestAbsorb({ input: plan.input, other: plan.setting });
      const seen = voltage?.presentTrue ?? voltage?.trueValue;
      const needs = per12(plan, 0.1);
      const hurts = 'It never shows 100 %, and its count drifts from day to day.';
      const low = current?.presentTrue ?? current?.trueValue;
      return [
        ...(absorb !== null && seen != null && seen > absorb - needs + 1e-9
          ? [
              {
                code: 'monitorNeverFull',
                severity: 'attention' as const,
                charger: companion.id,
                role: 'fullDetectVoltage' as const,
                text: `${companion.name} calls the bank full from ${volts(seen, 1)}, and the lowest absorb is ${volts(absorb)}; it wants ${volts(needs, 1)} between them.`,
                hurts,
                remedies: puttingRight(voltage),
              },
            ]
          : []),
        ...(low != null && current?.band?.min !== undefined && low < current.band.min - 1e-9
          ? [
              {
                code: 'monitorNeverFull',
                severity: 'attention' as const,
                charger: companion.id,
                role: 'fullDetectCurrent' as const,
                text: `${companion.name} waits for ${amps(low, 1)} into the bank, and the chargers end absorb at ${amps(current.band.min, 1)}.`,
                hurts,
                remedies: puttingRight(current),
              },
            ]
          : []),
      ];
    }),
};
