import { isLithium } from '../sheet';
import { assumableSchema, type Assumable, type SettingsInput } from './input';

/** Of those, the ones of the battery itself; the others are of the system. */
export const assumedOfBattery: readonly Assumable[] = ['chemistry', 'nominalVolts', 'cellsInSeries'];

/** All of a new job. */
export const allAssumed = Object.fromEntries(assumableSchema.options.map((key) => [key, true as const])) as Readonly<Record<Assumable, true>>;

/** What stands in the place of one that nobody has said. */
export function assumedValue({ sheet, system }: Pick<SettingsInput, 'sheet' | 'system'>, key: Assumable): number | string | boolean {
  switch (key) {
    case 'chemistry':
      return sheet.chemistry;
    case 'nominalVolts':
    case 'cellsInSeries':
      return sheet.unit[key];
    case 'unitsInSeries':
    case 'stringsInParallel':
    case 'hasBms':
      return system.bank[key];
    case 'minA':
    case 'maxA':
      return system.loads[key];
    default:
      return system.site[key];
  }
}

/** What nobody has said yet, in the order in which it is asked. Lead has no BMS to speak of. */
export const notSaid = (input: Pick<SettingsInput, 'sheet' | 'assumed'>): readonly Assumable[] =>
  assumableSchema.options.filter((key) => input.assumed?.[key] === true && (key !== 'hasBms' || isLithium(input.sheet.chemistry)));

/** With what somebody has said now: it is assumed no longer. */
export function withSaid<T extends Pick<SettingsInput, 'assumed'>>(input: T, keys: readonly string[]): T {
  const { assumed, ...rest } = input;
  if (!assumed || !keys.some((key) => key in assumed)) return input;
  const left = Object.entries(assumed).filter(([key]) => !keys.includes(key));
  return (left.length === 0 ? rest : { ...rest, assumed: Object.fromEntries(left) }) as T;
}
