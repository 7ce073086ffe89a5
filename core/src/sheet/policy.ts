import * as z from 'zod';
import type { Figure, Rank } from './figure';
import { figureKeys, type FigureKey, type Sheet } from './sheet';

/** Whose figures count. `makerOnly`: no figure without the maker's paper. `bestAvailable`: the best that can be had, each marked. */
export const referencePolicySchema = z.enum(['makerOnly', 'bestAvailable']);
export type ReferencePolicy = z.infer<typeof referencePolicySchema>;

/** Whether a figure of this rank stands on the maker's own paper: the sheet, a sheet of theirs for another charger, or a letter. */
export const isMakers = (rank: Rank): boolean => rank === 'makerForThisCharger' || rank === 'makerForOtherCharger' || rank === 'makerReply';

/** The sheet with its rank said: of what is read from it now, and of its figures of which nobody had said it; not of those from another paper. */
export const rankedAs = (sheet: Sheet, rank: Rank): Sheet => ({
  ...sheet,
  rank,
  figures: Object.fromEntries(
    figureKeys.flatMap((key) => {
      const figure = sheet.figures[key];
      return figure ? [[key, figure.rank === 'notSaid' && figure.from === undefined ? { ...figure, rank } : figure]] : [];
    }),
  ),
});

/** A figure the policy does not let count. */
export interface Withheld {
  readonly key: FigureKey;
  readonly figure: Figure;
}

/** The sheet as the policy lets it count, and the figures it takes out. */
export function usableSheet(sheet: Sheet, policy: ReferencePolicy): { readonly sheet: Sheet; readonly withheld: readonly Withheld[] } {
  const withheld = figureKeys.flatMap((key) => {
    const figure = sheet.figures[key];
    return policy === 'makerOnly' && figure !== undefined && !isMakers(figure.rank) ? [{ key, figure }] : [];
  });
  if (withheld.length === 0) return { sheet, withheld };
  const figures = Object.fromEntries(Object.entries(sheet.figures).filter(([key]) => !withheld.some((w) => w.key === key)));
  return { sheet: { ...sheet, figures }, withheld };
}
