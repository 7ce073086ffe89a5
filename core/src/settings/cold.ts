import { isSource, parameterFor } from '../card';
import type { Charger, ColdStair } from '../system';
import { cardOf, type SettingsInput } from './input';

/** Rated output of all chargers together, A: what may flow when nothing limits them. */
export const ratedSum = (input: SettingsInput): number =>
  input.system.chargers.reduce((sum, c) => sum + (unlimitedA(input, c) ?? cardOf(input, c)?.ratings.outputA ?? 0), 0);

/** What a charger without a current limit counts with in every sum, A: its machine's rating, else its own. Null when it has a limit. */
export function unlimitedA(input: SettingsInput, charger: Charger): number | null {
  const card = cardOf(input, charger);
  if (!card || !isSource(card.kind) || parameterFor(card, 'chargeCurrentLimit')) return null;
  return charger.machine?.ratedA ?? card.ratings.outputA;
}

/** The current limits the chargers will get by the ceiling alone, summed, A. */
export const ceilingSum = (input: SettingsInput, ceilingA: number): number => Math.min(ratedSum(input), ceilingA);

/** The first stair, coldest first, that bears all sources together; null when the last one does not either. */
export function firstBearingStair(input: SettingsInput, stairs: readonly ColdStair[]): ColdStair | null {
  const greatest = stairs.at(-1)?.amps ?? Infinity;
  const sum = ceilingSum(input, greatest);
  return stairs.find((stair) => stair.amps >= sum - 1e-9) ?? null;
}
