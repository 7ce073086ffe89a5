import { isSource, parameterFor } from '../card';
import { chargerAmpacity, continuousFuseFactor, type Charger, type ColdStair } from '../system';
import { cardOf, type Schools, type SettingsInput } from './input';

/** What a charger without a current limit counts with in every sum, A: its machine’s rating, else its own. Null when it has a limit. */
export function unlimitedA(input: SettingsInput, charger: Charger): number | null {
  const card = cardOf(input, charger);
  if (!card || !isSource(card.kind) || parameterFor(card, 'chargeCurrentLimit')) return null;
  return charger.machine?.ratedA ?? card.ratings.outputA;
}

/** The least of what a charger itself may give: its rating, its fuse, its cable. */
export function ownLimit(input: SettingsInput, charger: Charger): { readonly name: string; readonly amps: number } {
  const cable = chargerAmpacity(charger);
  return [
    { name: 'its rating', amps: cardOf(input, charger)?.ratings.outputA ?? 0 },
    ...(charger.fuseA === undefined ? [] : [{ name: `its fuse, ${charger.fuseA} A × ${continuousFuseFactor}`, amps: charger.fuseA * continuousFuseFactor }]),
    ...(cable === null ? [] : [{ name: 'its cable', amps: cable }]),
  ].reduce((a, b) => (b.amps < a.amps ? b : a));
}

/** A charger’s part of a total, and how it came about. */
export interface Share {
  readonly amps: number;
  /** Before its own rating, fuse and cable cut it. */
  readonly uncut: number;
  readonly words: string;
}

/**
 * Shares a total among the chargers that can be limited, after sources that cannot: by rating; in the order of the roster, each as much as it can;
 * or by agreed shares first and the rest by rating.
 *
 * @param totalA A for all sources together
 */
export function shareCurrent(input: SettingsInput, totalA: number): ReadonlyMap<string, Share> {
  const limited = input.system.chargers.filter((c) => cardOf(input, c) !== undefined && unlimitedA(input, c) === null);
  const unlimited = input.system.chargers.reduce((amps, c) => amps + (unlimitedA(input, c) ?? 0), 0);
  const rating = (c: Charger): number => cardOf(input, c)?.ratings.outputA ?? 0;
  const shares = new Map<string, Share>();
  let left = Math.max(0, totalA - unlimited);
  const give = (c: Charger, uncut: number, words: string): void => {
    const amps = Math.min(uncut, ownLimit(input, c).amps);
    shares.set(c.id, { amps, uncut, words });
  };
  if (input.schools.allocation === 'priority') {
    limited.forEach((c, i) => {
      give(c, left, i === 0 ? 'First in the roster: all that is left' : `Number ${i + 1} in the roster: what those before it leave`);
      left -= shares.get(c.id)?.amps ?? 0;
    });
    return shares;
  }
  const agreed = input.schools.allocation === 'fixed' ? limited.filter((c) => c.shareA !== undefined) : [];
  for (const c of agreed) {
    give(c, Math.min(left, c.shareA ?? 0), 'Agreed share');
    left -= shares.get(c.id)?.amps ?? 0;
  }
  const rest = limited.filter((c) => !agreed.includes(c));
  const sum = rest.reduce((total, c) => total + rating(c), 0);
  for (const c of rest) give(c, sum === 0 ? 0 : (left * rating(c)) / sum, `Share by rating, ${rating(c)} of ${sum} A`);
  return shares;
}

/** What one source may give and from which cell temperature on. */
interface ColdSource {
  readonly charger: string;
  readonly amps: number;
  /** The stair’s lower edge at which it may start, °C at the cell. */
  readonly fromC: number;
}

/** How the sources of a bank meet the derating table. */
export interface ColdPlan {
  readonly sources: readonly ColdSource[];
  readonly shares: ReadonlyMap<string, Share>;
  /** A shared among all, before sources without a limit are taken off. */
  readonly totalA: number;
  /** The limits were lowered to the coldest stair. */
  readonly lowered: boolean;
  /** No stair is passed by the sources that may run on it. */
  readonly bears: boolean;
}

const slack = 1e-9;

/** Whether sources that start at their stairs stay under every stair. */
const bearsAll = (sources: readonly ColdSource[], stairs: readonly ColdStair[]): boolean =>
  stairs.every((stair) => sources.reduce((sum, s) => sum + (s.fromC < stair.toC - slack ? s.amps : 0), 0) <= stair.amps + slack);

/**
 * Where each source starts in the cold and with how much, by school. `raiseCutoff`: all start on the first stair that bears them together.
 * `stagger`: in the order of the roster each starts on the first stair from which it fits beside those placed before. `lowerLimits`: limits are
 * shared from the coldest stair, and a source without a limit starts on the first stair that bears it beside them.
 *
 * @param ceilingA A by the bank’s ceiling
 */
export function coldPlan(
  input: SettingsInput,
  ceilingA: number,
  stairs: readonly ColdStair[],
  school: Schools['coldCurrent'] = input.schools.coldCurrent,
): ColdPlan {
  const coldest = stairs[0];
  const lowered = school === 'lowerLimits' && coldest !== undefined && coldest.amps < ceilingA;
  const unlimited = input.system.chargers.reduce((amps, c) => amps + (unlimitedA(input, c) ?? 0), 0);
  const totalA = lowered ? coldest.amps + unlimited : ceilingA;
  const shares = shareCurrent(input, totalA);
  const amps = (c: Charger): number => unlimitedA(input, c) ?? shares.get(c.id)?.amps ?? 0;
  const sum = input.system.chargers.reduce((total, c) => total + amps(c), 0);
  const least = coldest?.fromC ?? -Infinity;
  const firstBearing = (needed: number): number => (stairs.find((stair) => stair.amps >= needed - slack) ?? stairs.at(-1))?.fromC ?? least;
  const sources: ColdSource[] = [];
  for (const c of input.system.chargers) {
    let fromC = least;
    if (school === 'raiseCutoff') fromC = firstBearing(sum);
    if (lowered && unlimitedA(input, c) !== null) fromC = firstBearing(sum);
    if (school === 'stagger') {
      const fits = (at: ColdStair): boolean => bearsAll([...sources, { charger: c.id, amps: amps(c), fromC: at.fromC }], stairs);
      fromC = (stairs.find(fits) ?? stairs.at(-1))?.fromC ?? least;
    }
    sources.push({ charger: c.id, amps: amps(c), fromC });
  }
  return { sources, shares, totalA, lowered, bears: bearsAll(sources, stairs) };
}
