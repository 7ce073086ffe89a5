import { figureKeys, isLithium, type FigureKey } from '../../sheet';
import type { Draft, FindingRule } from '../finding';

type Suspicious = Readonly<{
  key: FigureKey;
  what: 'seconds' | 'rateHigh' | 'ampsLow' | 'fahrenheit' | 'capacity';
  /** In the figure’s own unit; °C, s, C, A or Ah. */
  value: number;
  likelier: number | null;
}>;

/** Absorb of less than this is a slip for minutes, s. */
const leastAbsorbS = 300;
/** Most that a bank is ever charged with, C. */
const mostC = { lithium: 2, lead: 0.5 };
/** Less than this part of the capacity is no charge current, C. */
const leastC = 0.02;
/** A least charging temperature from here on is in °F, °C. */
const hotLeastC = 25;
/** Batteries of more than this in one case are not made, Ah at 12 V. */
const mostAh12 = 1500;

/** Times, currents, temperatures and capacities that no battery has: most often another unit. */
export const figureSuspicious: FindingRule<Suspicious> = {
  belongsTo: 'sheet',
  check: ({ plan }) => {
    const { sheet } = plan.input;
    const { capacityAh, nominalVolts } = sheet.unit;
    const most = isLithium(sheet.chemistry) ? mostC.lithium : mostC.lead;
    const found = figureKeys.flatMap((key): Suspicious[] => {
      const figure = sheet.figures[key];
      const value = figure?.state === 'stated' ? (figure.target ?? figure.max ?? figure.min) : undefined;
      if (!figure || value === undefined) return [];
      if (figure.unit === 's' && key === 'absorbTime' && value < leastAbsorbS) return [{ key, what: 'seconds', value, likelier: value * 60 }];
      if (figure.unit === 'C' && key.startsWith('chargeCurrent') && value > most) return [{ key, what: 'rateHigh', value, likelier: value / 10 }];
      if (figure.unit === 'A' && figure.basis !== 'cell' && capacityAh !== undefined && key.startsWith('chargeCurrent') && value < leastC * capacityAh - 1e-9)
        return [{ key, what: 'ampsLow', value, likelier: value <= most ? value * capacityAh : null }];
      if (key === 'chargeTemperature' && figure.unit === '°C' && figure.min !== undefined && figure.min > hotLeastC)
        return [{ key, what: 'fahrenheit', value: figure.min, likelier: ((figure.min - 32) * 5) / 9 }];
      return [];
    });
    const capacity: readonly Suspicious[] =
      capacityAh !== undefined && capacityAh * nominalVolts > mostAh12 * 12
        ? [{ key: 'chargeCurrentMax', what: 'capacity', value: capacityAh, likelier: capacityAh / nominalVolts }]
        : [];
    // Every other current would be doubted for the capacity’s sake.
    return (capacity.length > 0 ? capacity : found).map((facts): Draft<Suspicious> => ({
      severity: 'attention',
      ...(facts.what === 'capacity' ? {} : { figure: facts.key }),
      facts,
    }));
  },
};
