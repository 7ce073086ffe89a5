import { contains, type Band } from '../quantity';
import { bankAmps, bankCapacityAh, figureOnBank, statedFigure, type Sheet } from '../sheet';
import { bankFacts } from './facts';
import { bankAmpacity } from './wiring';
import type { System } from './system';

/** A fuse or breaker carries this part of its rating all day, unless its own sheet says otherwise. */
export const continuousFuseFactor = 0.8;

/** One string may take this much more than its equal part where nobody has measured it, %. */
export const usualExcessPercent = 10;

/** How hard the bank is charged, where practitioners differ. */
export type CurrentPolicy = 'lowest' | 'makerMost' | 'third';

/** One limit on the charge current of the bank. */
interface CeilingCandidate {
  readonly name: string;
  /** How it comes about: "2 × 115 A". */
  readonly sum: string;
  readonly amps: number;
  /** Set when it holds only under a condition; such a line never binds. */
  readonly condition?: string;
}

/** The bank's charge current ceiling with every candidate, lowest first. */
export interface Ceiling {
  readonly candidates: readonly CeilingCandidate[];
  /** The lowest unconditional candidate; null when nothing limits the bank. */
  readonly binding: CeilingCandidate | null;
}

/**
 * Charge-current ceiling: the lowest of the maker's maximum and recommendation over all strings, the BMS limit less what unequal strings need,
 * the cable's ampacity and the fuse's continuous rating. The case of one string off is shown, but only binds when it happens.
 *
 * @param policy `makerMost` sets the recommendation aside, `third` adds 0.3 C
 */
export function chargeCeiling(sheet: Sheet, system: System, policy: CurrentPolicy = 'lowest'): Ceiling {
  const { shape } = bankFacts(sheet, system);
  const { bank } = system;
  const strings = bank.stringsInParallel;
  const candidates: CeilingCandidate[] = [];
  const fromFigure = (name: string, key: 'chargeCurrentMax' | 'chargeCurrentRecommended' | 'bmsOverCurrent'): void => {
    const figure = statedFigure(sheet, key);
    const printed = figure?.max ?? figure?.target;
    if (!figure || printed === undefined) return;
    const bankFigure = figureOnBank(figure, shape);
    const amps = bankFigure.band.max ?? bankFigure.target;
    if (amps === undefined) return;
    // Strings do not share alike, and a BMS opens on its own string’s current.
    const uneven = key === 'bmsOverCurrent' && figure.basis !== 'bank' && strings > 1;
    const excess = bank.stringExcessPercent ?? usualExcessPercent;
    const sum = figure.unit === 'C' ? `${printed} C × ${bankCapacityAh(shape)} Ah` : figure.basis === 'bank' ? 'for the bank' : `${strings} × ${printed} A`;
    candidates.push({
      name,
      sum: uneven ? `${sum}, one string ${excess} % above its part` : sum,
      amps: uneven ? amps / (1 + excess / 100) : amps,
      ...(policy === 'makerMost' && key === 'chargeCurrentRecommended' ? { condition: 'set aside by choice' } : {}),
    });
  };
  fromFigure('Recommended', 'chargeCurrentRecommended');
  fromFigure('Most current', 'chargeCurrentMax');
  fromFigure('BMS', 'bmsOverCurrent');
  const capacityAh = bankCapacityAh(shape);
  if (policy === 'third' && capacityAh !== null) candidates.push({ name: 'About a third', sum: `0.3 C × ${capacityAh} Ah, by choice`, amps: 0.3 * capacityAh });
  const cable = bankAmpacity(bank);
  if (cable !== null)
    candidates.push({
      name: 'Main cable',
      sum:
        bank.cableA === undefined && bank.wire?.areaMm2 !== undefined
          ? `${bank.wire.areaMm2} mm² by the table, air at ${bank.wire.airC ?? 30} °C`
          : 'ampacity as entered',
      amps: cable,
    });
  if (bank.fuseA !== undefined)
    candidates.push({ name: 'Main fuse', sum: `${bank.fuseA} A × ${continuousFuseFactor}`, amps: bank.fuseA * continuousFuseFactor });
  if (bank.stringFuseA !== undefined)
    candidates.push({
      name: 'String fuses',
      sum: `${strings} × ${bank.stringFuseA} A × ${continuousFuseFactor}`,
      amps: strings * bank.stringFuseA * continuousFuseFactor,
    });
  const lowest = (list: readonly CeilingCandidate[]): CeilingCandidate | null =>
    list.reduce<CeilingCandidate | null>((best, c) => (best === null || c.amps < best.amps ? c : best), null);
  const binding = lowest(candidates.filter((c) => c.condition === undefined));
  if (binding && strings > 1)
    candidates.push({
      name: 'One string off',
      sum: `${strings - 1} of ${strings} × ${binding.name.toLowerCase()}`,
      amps: (binding.amps * (strings - 1)) / strings,
      condition: 'while one string is open',
    });
  return { candidates: [...candidates].sort((a, b) => a.amps - b.amps), binding };
}

/** One stair of the current allowed against battery temperature. */
export interface ColdStair {
  readonly fromC: number;
  readonly toC: number;
  readonly amps: number;
}

/**
 * The sheet's derating table as stairs for the bank, from the least to the greatest charging temperature, each cut at the ceiling.
 * Empty when the sheet gives no charging temperature.
 */
export function coldStairs(sheet: Sheet, system: System, policy: CurrentPolicy = 'lowest'): readonly ColdStair[] {
  const range = statedFigure(sheet, 'chargeTemperature');
  if (range?.min === undefined || range.max === undefined) return [];
  const { shape } = bankFacts(sheet, system);
  const ceiling = chargeCeiling(sheet, system, policy).binding?.amps ?? Infinity;
  const stairs: ColdStair[] = [];
  let fromC = range.min;
  for (const row of sheet.derating) {
    const toC = Math.min(row.toC, range.max);
    if (toC <= fromC) continue;
    stairs.push({ fromC, toC, amps: Math.min(ceiling, bankAmps(row.limit, row.unit, 'unit', shape) ?? Infinity) });
    fromC = toC;
  }
  if (fromC < range.max) stairs.push({ fromC, toC: range.max, amps: ceiling });
  return stairs;
}

/**
 * What the bank may be charged with at a temperature, A: its stair, nothing outside the charging range, the ceiling where the sheet gives no stairs.
 *
 * @param range charging range of the sheet, °C; open where it is silent
 */
export function allowedAmps(range: Band, stairs: readonly ColdStair[], ceiling: Ceiling, celsius: number): number {
  if (!contains(range, celsius)) return 0;
  return (stairs.find((stair) => celsius < stair.toC) ?? stairs.at(-1))?.amps ?? ceiling.binding?.amps ?? Infinity;
}
