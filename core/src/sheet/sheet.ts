import * as z from 'zod';
import { figureSchema, rankWords, type Figure, type FigureUnit } from './figure';
import { between, identifier, isoDate, shortText } from './text';

/** Battery chemistries the tool knows. */
export const chemistrySchema = z.enum(['lfp', 'flooded']);
export type Chemistry = z.infer<typeof chemistrySchema>;

/** A chemistry in words. */
export const chemistryWords: Readonly<Record<Chemistry, string>> = { lfp: 'LFP', flooded: 'vented lead-acid' };

/** Whether the chemistry is a lithium one: no overcharge reserve, plating in the cold, no use for equalising. */
export const isLithium = (chemistry: Chemistry): boolean => chemistry === 'lfp';

interface FigureInfo {
  readonly name: string;
  /** Units the maker may print it in; the first is offered first. */
  readonly units: readonly FigureUnit[];
  /** Chemistries whose sheets carry it. */
  readonly chemistries: readonly Chemistry[];
}

const all: readonly Chemistry[] = ['lfp', 'flooded'];

/** Every figure a sheet can carry, in the order a sheet is read. */
export const figureInfo = {
  absorbVoltage: { name: 'Absorb voltage', units: ['V'], chemistries: all },
  absorbTime: { name: 'Absorb time', units: ['s'], chemistries: all },
  taperCurrent: { name: 'Taper current', units: ['C', 'A'], chemistries: all },
  floatVoltage: { name: 'Float voltage', units: ['V'], chemistries: all },
  rechargeVoltage: { name: 'Recharge voltage', units: ['V'], chemistries: all },
  equaliseVoltage: { name: 'Equalise voltage', units: ['V'], chemistries: all },
  equaliseTime: { name: 'Equalise time', units: ['s'], chemistries: ['flooded'] },
  equaliseInterval: { name: 'Equalise interval', units: ['d'], chemistries: ['flooded'] },
  compensationSlope: { name: 'Compensation slope', units: ['V/°C'], chemistries: all },
  compensationReference: { name: 'Reference temperature', units: ['°C'], chemistries: ['flooded'] },
  chargeTemperature: { name: 'Charging range', units: ['°C'], chemistries: all },
  chargeCurrentMax: { name: 'Most current', units: ['A', 'C'], chemistries: all },
  chargeCurrentRecommended: { name: 'Recommended', units: ['C', 'A'], chemistries: all },
  disconnectVoltage: { name: 'Load disconnect', units: ['V'], chemistries: all },
  reconnectVoltage: { name: 'Load reconnect', units: ['V'], chemistries: all },
  bmsOverVoltage: { name: 'BMS trip, high', units: ['V'], chemistries: ['lfp'] },
  bmsCellOverVoltage: { name: 'BMS trip, one cell', units: ['V'], chemistries: ['lfp'] },
  bmsUnderVoltage: { name: 'BMS trip, low', units: ['V'], chemistries: ['lfp'] },
  bmsOverCurrent: { name: 'BMS trip, current', units: ['A'], chemistries: ['lfp'] },
} as const satisfies Record<string, FigureInfo>;

export type FigureKey = keyof typeof figureInfo;
export const figureKeys = Object.keys(figureInfo) as FigureKey[];

/** The stairs of "current allowed against battery temperature": each row holds up to its temperature. */
export const deratingRowSchema = z.object({
  toC: between(-60, 90),
  limit: between(0, 10_000),
  unit: z.enum(['C', 'A']),
});

const figuresShape = Object.fromEntries(figureKeys.map((key) => [key, figureSchema.optional()])) as {
  [K in FigureKey]: z.ZodOptional<typeof figureSchema>;
};

/** The maker's charging figures: one document in one revision. Figures stay as printed; scaling is done where they are used. */
export const sheetSchema = z
  .object({
    format: z.literal('calm-keel/sheet'),
    version: z.literal(1),
    id: identifier,
    maker: shortText(80),
    battery: shortText(80),
    chemistry: chemistrySchema,
    document: shortText(160),
    revision: shortText(40),
    date: isoDate,
    unit: z.object({
      nominalVolts: between(0.5, 1000),
      capacityAh: between(0.1, 100_000),
      cellsInSeries: z.int().min(1).max(400),
    }),
    figures: z.object(figuresShape),
    derating: z.array(deratingRowSchema).max(20),
  })
  .superRefine((sheet, ctx) => {
    for (const key of figureKeys) {
      const figure = sheet.figures[key];
      const allowed: readonly string[] = figureInfo[key].units;
      if (figure && !allowed.includes(figure.unit))
        ctx.addIssue({ code: 'custom', path: ['figures', key, 'unit'], message: `must be one of ${allowed.join(', ')}` });
    }
    if (sheet.derating.some((row, i) => i > 0 && row.toC <= (sheet.derating[i - 1]?.toC ?? row.toC)))
      ctx.addIssue({ code: 'custom', path: ['derating'], message: 'rows must rise in temperature' });
  });
export type Sheet = z.infer<typeof sheetSchema>;

/** The figure if the sheet states a value for it. */
export function statedFigure(sheet: Sheet, key: FigureKey): Figure | undefined {
  const figure = sheet.figures[key];
  return figure?.state === 'stated' ? figure : undefined;
}

/** "LB-25 charging sheet, rev D, 2026-02, page 3": what a derivation cites. */
export function cite(sheet: Sheet, figure?: Figure): string {
  const page = figure?.page ? `, ${figure.page}` : '';
  const rank = figure && figure.rank !== 'makerForThisCharger' ? ` (${rankWords[figure.rank]})` : '';
  return `${sheet.document}, rev ${sheet.revision}, ${sheet.date}${page}${rank}`;
}
