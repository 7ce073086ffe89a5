import { isSource, parameterFor, type Card } from '../card';
import type { Charger } from '../system';
import { chargersWithCards, type SettingsInput } from './input';

/** Everything that charges the bank and has a card, in the order of the roster. */
export const sourcesOf = (input: SettingsInput): ReturnType<typeof chargersWithCards> => chargersWithCards(input).filter(({ card }) => isSource(card.kind));

/** Whether the charger’s own output can end absorb. */
export const endsByOwnCurrent = (card: Card): boolean => card.absorb.currentSeen === 'ownOutput' && parameterFor(card, 'taperCurrent') !== undefined;

/** A taper that comes while the bank still takes a multiple of it. */
export interface Displaced {
  /** The sources that hold their current while this one’s falls. */
  readonly others: readonly Charger[];
  /** What they may give together, A. */
  readonly othersA: number;
  /** The most that still flows into the bank when the charger’s own output has fallen to its taper, A. */
  readonly bankA: number;
}

/** Absorb may end at this multiple of a charger’s own taper, and no later: past it the taper says nothing of the bank. */
const displacedFrom = 2;

/**
 * What a charger’s own taper comes to beside sources that do not taper with it (alternators, turbines, chargers ended by time alone): they take the
 * current over, and its own output falls under any share long before the bank is full. Null where no such source is there, or it is too small to matter.
 *
 * @param taperA the charger’s own taper, A
 * @param mostA the most a source may give, A
 */
export function displacedTaper(input: SettingsInput, taperA: number, mostA: (charger: Charger, card: Card) => number): Displaced | null {
  const others = sourcesOf(input).filter(({ card }) => card.absorb.currentSeen !== 'bank' && !endsByOwnCurrent(card));
  const othersA = others.reduce((sum, { charger, card }) => sum + mostA(charger, card), 0);
  const bankA = taperA + othersA - input.system.loads.minA;
  return others.length > 0 && bankA > displacedFrom * taperA ? { others: others.map((o) => o.charger), othersA, bankA } : null;
}
