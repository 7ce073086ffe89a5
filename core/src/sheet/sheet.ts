import * as z from 'zod';
import { asideSchema, formatQuantity, mostAside } from '../quantity';
import { figureSchema, rankSchema, rankWords, type Figure, type FigureUnit } from './figure';
import { between, identifier, isoDate, shortText } from './text';

/** Battery chemistries the tool knows. */
export const chemistrySchema = z.enum(['lfp', 'nmc', 'flooded', 'agm', 'gel']);
export type Chemistry = z.infer<typeof chemistrySchema>;

/** A chemistry in words. */
export const chemistryWords: Readonly<Record<Chemistry, string>> = {
  lfp: 'LFP',
  nmc: 'NMC',
  flooded: 'vented lead-acid',
  agm: 'AGM lead-acid',
  gel: 'gel lead-acid',
};

/** Whether the chemistry is a lithium one: no overcharge reserve, plating in the cold, no use for equalising. */
export const isLithium = (chemistry: Chemistry): boolean => chemistry === 'lfp' || chemistry === 'nmc';

const all = chemistrySchema.options;
const lithium: readonly Chemistry[] = all.filter(isLithium);
const lead: readonly Chemistry[] = all.filter((c) => !isLithium(c));

/** The parts of a sheet, in the order in which one is read. */
export const figureGroups = { voltage: 'Voltages', current: 'Currents and times', temperature: 'Temperatures', advice: 'Limits and storage' } as const;

interface FigureInfo {
  readonly name: string;
  readonly group: keyof typeof figureGroups;
  /** Units the maker may print it in; the first is offered first. */
  readonly units: readonly FigureUnit[];
  /** Chemistries whose sheets carry it. */
  readonly chemistries: readonly Chemistry[];
  /** Whether a lone number is the most, the least, or what to aim at. */
  readonly lone: 'target' | 'max' | 'min';
}

const volts = { group: 'voltage', units: ['V'], chemistries: all, lone: 'target' } as const;
const trip = { group: 'voltage', units: ['V'], chemistries: lithium, lone: 'max' } as const;

/** Every figure a sheet can carry, in the order a sheet is read. */
export const figureInfo = {
  absorbVoltage: { name: 'Absorb voltage', ...volts },
  floatVoltage: { name: 'Float voltage', ...volts },
  rechargeVoltage: { name: 'Recharge voltage', ...volts, lone: 'max' },
  equaliseVoltage: { name: 'Equalise voltage', ...volts },
  reconnectVoltage: { name: 'Load reconnect', ...volts },
  disconnectVoltage: { name: 'Load disconnect', ...volts },
  bmsOverVoltage: { name: 'BMS trip, high', ...trip },
  bmsCellOverVoltage: { name: 'BMS trip, one cell', ...trip },
  bmsRelease: { name: 'Release after trip', ...trip, lone: 'target' },
  bmsUnderVoltage: { name: 'BMS trip, low', ...trip, lone: 'min' },
  absorbTime: { name: 'Absorb time', group: 'current', units: ['s', 's/Ah'], chemistries: all, lone: 'target' },
  taperCurrent: { name: 'Taper current', group: 'current', units: ['C', 'A'], chemistries: all, lone: 'max' },
  maxChargeTime: { name: 'Longest charge', group: 'current', units: ['s'], chemistries: all, lone: 'max' },
  equaliseTime: { name: 'Equalise time', group: 'current', units: ['s'], chemistries: lead, lone: 'target' },
  equaliseInterval: { name: 'Equalise every', group: 'current', units: ['d'], chemistries: lead, lone: 'target' },
  chargeCurrentMax: { name: 'Most current', group: 'current', units: ['A', 'C'], chemistries: all, lone: 'max' },
  chargeCurrentRecommended: { name: 'Recommended', group: 'current', units: ['C', 'A'], chemistries: all, lone: 'max' },
  bmsOverCurrent: { name: 'BMS trip, current', group: 'current', units: ['A'], chemistries: lithium, lone: 'max' },
  chargeTemperature: { name: 'Charging range', group: 'temperature', units: ['°C'], chemistries: all, lone: 'min' },
  bmsLowTemperature: { name: 'BMS cold stop', group: 'temperature', units: ['°C'], chemistries: lithium, lone: 'min' },
  coolingRate: { name: 'Fastest cooling', group: 'temperature', units: ['°C/h'], chemistries: all, lone: 'max' },
  compensationSlope: { name: 'Compensation slope', group: 'temperature', units: ['V/°C'], chemistries: all, lone: 'target' },
  compensationReference: { name: 'Reference temperature', group: 'temperature', units: ['°C'], chemistries: lead, lone: 'target' },
  compensationRange: { name: 'Compensation range', group: 'temperature', units: ['°C'], chemistries: lead, lone: 'min' },
  storageVoltage: { name: 'Storage voltage', ...volts, group: 'advice' },
  storageCharge: { name: 'Storage charge', group: 'advice', units: ['%'], chemistries: all, lone: 'target' },
  unattendedAbsorb: { name: 'Unattended: absorb every', group: 'advice', units: ['d'], chemistries: all, lone: 'target' },
  seriesMax: { name: 'Most in series', group: 'advice', units: ['count'], chemistries: all, lone: 'max' },
  parallelMax: { name: 'Most in parallel', group: 'advice', units: ['count'], chemistries: all, lone: 'max' },
} as const satisfies Record<string, FigureInfo>;

export type FigureKey = keyof typeof figureInfo;
export const figureKeys = Object.keys(figureInfo) as FigureKey[];

/** The stairs of "current allowed against battery temperature": each row holds up to its temperature. */
const deratingRowSchema = z.object({
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
    /** Names of its file that this program does not know, held as they stood. */
    aside: z.array(asideSchema).max(mostAside).optional(),
    maker: shortText(80),
    battery: shortText(80),
    chemistry: chemistrySchema,
    document: shortText(160),
    /** As the paper names it; empty where it names none or nobody has said it. */
    revision: shortText(40),
    /** Printed on; empty where it is not known. */
    date: isoDate.or(z.literal('')),
    /** Whose figures the document holds: what a figure read from it counts as. Missing while nobody has said it. */
    rank: rankSchema.optional(),
    unit: z.object({
      nominalVolts: between(0.5, 1000),
      /** Rated, Ah; missing while nobody has said it. */
      capacityAh: between(0.1, 100_000).optional(),
      cellsInSeries: z.int().min(1).max(400),
    }),
    figures: z.object(figuresShape),
    derating: z.array(deratingRowSchema).max(20),
    /** When this copy of the document was fetched. */
    fetched: isoDate.optional(),
    /** What else it says on storage, long absences and care. */
    advice: shortText(2000).optional(),
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

/** "rev D, 2026-02": what is known of the edition of a paper. */
export const editionOf = ({ revision, date }: Readonly<Pick<Sheet, 'revision' | 'date'>>): string =>
  [revision === '' ? '' : `rev ${revision}`, date].filter((part) => part !== '').join(', ') || 'revision not known';

/** "LB-25 charging sheet, rev D, 2026-02": a paper with its edition. */
export const paperOf = (sheet: Readonly<Pick<Sheet, 'document' | 'revision' | 'date'>>): string => `${sheet.document || 'Sheet'}, ${editionOf(sheet)}`;

/** "230 Ah", or that nobody has said it. */
export const capacityText = (ah: number | null | undefined): string =>
  ah === null || ah === undefined ? 'capacity not known' : formatQuantity(ah, 'Ah', Number.isInteger(ah) ? 0 : 1);

/** "LB-25 charging sheet, rev D, 2026-02, page 3": what a derivation cites. */
export function cite(sheet: Sheet, figure?: Figure): string {
  const page = figure?.page ? `, ${figure.page}` : '';
  const rank = figure && figure.rank !== 'makerForThisCharger' ? ` (${rankWords[figure.rank]})` : '';
  return `${figure?.from ?? paperOf(sheet)}${page}${rank}`;
}

/** Whether anything has been read off the sheet yet. */
export const hasFigures = ({ figures }: Pick<Sheet, 'figures'>): boolean => figureKeys.some((key) => figures[key] !== undefined);
