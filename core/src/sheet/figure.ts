import * as z from 'zod';
import { between, identifier, shortText } from './text';

/** What a published number is counted for. `block` is a 12 V block of a larger bank, as charger menus and many sheets count. */
export const basisSchema = z.enum(['cell', 'unit', 'bank', 'block']);
export type Basis = z.infer<typeof basisSchema>;

/** A basis in words. */
export const basisWords: Readonly<Record<Basis, string>> = { cell: 'per cell', unit: 'per battery', bank: 'for the bank', block: 'per 12 V block' };

/** Where a figure comes from, best first; last what nobody has said it of. */
export const ranks = ['makerForThisCharger', 'makerForOtherCharger', 'makerReply', 'sameChemistry', 'chargerPreset', 'assumed', 'notSaid'] as const;
export const rankSchema = z.enum(ranks);
export type Rank = z.infer<typeof rankSchema>;

/** A rank in words. */
export const rankWords: Readonly<Record<Rank, string>> = {
  makerForThisCharger: 'maker, for this charger',
  makerForOtherCharger: 'maker, for another charger',
  makerReply: 'maker, in a letter',
  sameChemistry: 'same chemistry, other maker',
  chargerPreset: 'charger preset',
  assumed: 'assumed',
  notSaid: 'not said whose',
};

/**
 * Units a figure is kept in. Times are seconds, `s/Ah` a time that grows with capacity, slopes V/°C, C a multiple of capacity in amps,
 * `°C/h` a rate of temperature, `%` of full charge, `count` a number of batteries.
 */
const figureUnitSchema = z.enum(['V', 'A', 'C', 's', 's/Ah', 'd', '°C', '°C/h', 'V/°C', '%', 'count']);
export type FigureUnit = z.infer<typeof figureUnitSchema>;

/** One number or band of a sheet, as the maker printed it, with its paper trail. */
export const figureSchema = z
  .object({
    state: z.enum(['stated', 'notPermitted', 'notNeeded']),
    min: between(-1e6, 1e7).optional(),
    target: between(-1e6, 1e7).optional(),
    max: between(-1e6, 1e7).optional(),
    unit: figureUnitSchema,
    basis: basisSchema,
    rank: rankSchema,
    page: shortText(60).optional(),
    /** The document it stands in, when that is another than the sheet: a letter, another maker’s paper. */
    from: shortText(160).optional(),
    quote: shortText(400).optional(),
    /** Where it was read in a document kept with the job: its page, and boxes on it as fractions of the page, from the upper left corner. */
    place: z
      .object({
        document: identifier,
        page: z.int().min(1).max(10_000),
        boxes: z.array(z.object({ x: between(0, 1), y: between(0, 1), w: between(0, 1), h: between(0, 1) })).max(40),
      })
      .optional(),
  })
  .superRefine((figure, ctx) => {
    const { state, min, target, max } = figure;
    if (state === 'stated' && min === undefined && target === undefined && max === undefined)
      ctx.addIssue({ code: 'custom', message: 'a stated figure needs a least, a target or a most' });
    const order = [min, target, max].filter((n) => n !== undefined);
    if (order.some((n, i) => i > 0 && n < (order[i - 1] ?? n))) ctx.addIssue({ code: 'custom', message: 'least, target and most must rise in that order' });
  });
export type Figure = z.infer<typeof figureSchema>;
