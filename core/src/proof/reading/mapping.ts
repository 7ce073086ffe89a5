import * as z from 'zod';
import { stages, type Stage } from '../../charger';
import { identifier, shortText } from '../../sheet';

/** What a column of a log can mean. `volts`, `amps`, `arrayVolts` and `stage` belong to one charger; `chargerName` says which one a row is about. */
export const meaningSchema = z.enum([
  'ignore',
  'time',
  'date',
  'clock',
  'bankVolts',
  'bankAmps',
  'batteryC',
  'stateOfCharge',
  'loadAmps',
  'irradiance',
  'engine',
  'volts',
  'amps',
  'arrayVolts',
  'inputWatts',
  'machineC',
  'stage',
  'chargerName',
]);
export type Meaning = z.infer<typeof meaningSchema>;

/** Meanings in words, for the mapping view. */
export const meaningWords: Readonly<Record<Meaning, string>> = {
  ignore: 'not read',
  time: 'date and time',
  date: 'date',
  clock: 'time of day',
  bankVolts: 'bank voltage',
  bankAmps: 'current into the bank',
  batteryC: 'battery temperature',
  stateOfCharge: 'state of charge',
  loadAmps: 'current of the loads',
  irradiance: 'light on the array',
  engine: 'engine speed, or 1 while it turns',
  volts: 'charger’s own voltage',
  amps: 'charger’s output current',
  arrayVolts: 'voltage at its input',
  inputWatts: 'power from its source',
  machineC: 'temperature of its alternator',
  stage: 'stage it reports',
  chargerName: 'which charger the row is about',
};

/** Meanings that belong to one charger. */
export const ofCharger: readonly Meaning[] = ['volts', 'amps', 'arrayVolts', 'inputWatts', 'machineC', 'stage'];

/** Units a column can be written in, and how they become the core's: value × factor + offset. */
export const columnUnits = {
  V: { of: 'volts', factor: 1, offset: 0 },
  mV: { of: 'volts', factor: 0.001, offset: 0 },
  A: { of: 'amps', factor: 1, offset: 0 },
  mA: { of: 'amps', factor: 0.001, offset: 0 },
  degC: { of: 'temperature', factor: 1, offset: 0 },
  degF: { of: 'temperature', factor: 5 / 9, offset: -160 / 9 },
  percent: { of: 'charge', factor: 1, offset: 0 },
  part: { of: 'charge', factor: 100, offset: 0 },
  W: { of: 'power', factor: 1, offset: 0 },
  kW: { of: 'power', factor: 1000, offset: 0 },
  'W/m2': { of: 'light', factor: 1, offset: 0 },
  'kW/m2': { of: 'light', factor: 1000, offset: 0 },
  turns: { of: 'turns', factor: 1, offset: 0 },
} as const;
const columnUnitSchema = z.enum(['V', 'mV', 'A', 'mA', 'degC', 'degF', 'percent', 'part', 'W', 'kW', 'W/m2', 'kW/m2', 'turns']);
export type ColumnUnit = z.infer<typeof columnUnitSchema>;

/** The quantity a meaning is of; null for words and times. */
export function quantityOf(meaning: Meaning): (typeof columnUnits)[ColumnUnit]['of'] | null {
  switch (meaning) {
    case 'bankVolts':
    case 'volts':
    case 'arrayVolts':
      return 'volts';
    case 'bankAmps':
    case 'loadAmps':
    case 'amps':
      return 'amps';
    case 'batteryC':
    case 'machineC':
      return 'temperature';
    case 'stateOfCharge':
      return 'charge';
    case 'inputWatts':
      return 'power';
    case 'irradiance':
      return 'light';
    case 'engine':
      return 'turns';
    default:
      return null;
  }
}

/** Units offered for a meaning, the usual one first. */
export const unitsOf = (meaning: Meaning): readonly ColumnUnit[] => columnUnitSchema.options.filter((unit) => columnUnits[unit].of === quantityOf(meaning));

const mappedColumnSchema = z.object({
  /** As the file heads it. */
  header: shortText(200),
  meaning: meaningSchema,
  charger: identifier.optional(),
  unit: columnUnitSchema.optional(),
  /** The file counts the other way round: discharge is positive. */
  negated: z.boolean().optional(),
  /** For a temperature, what wrote it: `probe` for one on the battery itself, or the charger whose sensor it is. */
  sensor: identifier.optional(),
});
export type MappedColumn = z.infer<typeof mappedColumnSchema>;

/** How the dates of a file are written. Numbers are seconds or milliseconds since 1970 whatever stands here. */
const dateOrderSchema = z.enum(['yearFirst', 'dayFirst', 'monthFirst']);

/** How a file becomes a log: separators, what each column means, and by which clock its times are meant. */
export const mappingSchema = z.object({
  format: z.literal('calm-keel/mapping'),
  version: z.literal(1),
  kind: z.enum(['table', 'jsonLines']),
  separator: z.enum([',', ';', '\t', '|']),
  decimal: z.enum(['.', ',']),
  /** The line with the names of the columns; 0 where there is none. */
  headerLine: z.int().min(0).max(400),
  columns: z.array(mappedColumnSchema).min(1).max(300),
  dateOrder: dateOrderSchema,
  /** Zone of times that carry none: an IANA name, or null where nobody knows. */
  zone: shortText(60).nullable(),
  /** Last line first. */
  newestFirst: z.boolean(),
  /** Which charger a name in the `chargerName` column stands for. */
  chargers: z.record(z.string().max(120), identifier),
  /** What a word or a code in a `stage` column stands for; what is not named here is unknown. */
  stages: z.record(z.string().max(60), z.enum(stages)),
});
export type Mapping = z.infer<typeof mappingSchema>;

/**
 * A column with another meaning: its unit stays where it still fits, else it is the usual one; what belongs to a charger gets one.
 *
 * @param charger whose it is while nobody has said
 */
export function columnMeaning(column: MappedColumn, meaning: Meaning, charger: string | undefined): MappedColumn {
  const units = unitsOf(meaning);
  const unit = column.unit !== undefined && units.includes(column.unit) ? column.unit : units[0];
  const own = ofCharger.includes(meaning) ? (column.charger ?? charger) : undefined;
  return { header: column.header, meaning, ...(unit === undefined ? {} : { unit }), ...(own === undefined ? {} : { charger: own }) };
}

/** A temperature with what wrote it; nothing while nobody has said. */
export function columnSensor({ sensor: _before, ...column }: MappedColumn, sensor: string): MappedColumn {
  return sensor === '' ? column : { ...column, sensor };
}

/** The stages with another meaning for one of their words; with an empty one nobody knows what it stands for. */
export function stageWord(stages: Mapping['stages'], word: string, stage: Stage | ''): Mapping['stages'] {
  const { [word]: _before, ...rest } = stages;
  return stage === '' ? rest : { ...rest, [word]: stage };
}

/** Units of columns as they are written. */
export const columnUnitWords: Readonly<Record<ColumnUnit, string>> = {
  V: 'V',
  mV: 'mV',
  A: 'A',
  mA: 'mA',
  degC: '°C',
  degF: '°F',
  percent: '%',
  part: '0 to 1',
  W: 'W',
  kW: 'kW',
  'W/m2': 'W/m²',
  'kW/m2': 'kW/m²',
  turns: '',
};

/** What recognises a file of the same make again: its column names and how they are set apart. */
export const fingerprintOf = (mapping: Pick<Mapping, 'kind' | 'separator' | 'columns'>): string =>
  [mapping.kind, mapping.separator, ...mapping.columns.map((c) => c.header.trim().toLowerCase())].join('\u001f');

/**
 * What keeps a mapping from being used, in sentences; none when it can be.
 *
 * @param live its samples come by themselves, with the moment they come: no column is a time, and the volts may be another device’s affair
 */
export function mappingProblems(mapping: Mapping, live = false): readonly string[] {
  const has = (meaning: Meaning): boolean => mapping.columns.some((c) => c.meaning === meaning);
  const problems: string[] = [];
  if (!live && !has('time') && !(has('date') && has('clock'))) problems.push('No column is the time. Choose the one that holds date and time.');
  if (!live && !has('bankVolts') && !has('volts')) problems.push('No column is a battery voltage. Without it nothing can be judged.');
  const seen = new Set<string>();
  for (const c of mapping.columns) {
    if (c.meaning === 'ignore') continue;
    if (ofCharger.includes(c.meaning) && c.charger === undefined && !has('chargerName')) problems.push(`“${c.header}”: say which charger it belongs to.`);
    const key = `${c.meaning} ${c.charger ?? ''}`;
    if (seen.has(key)) problems.push(`“${c.header}” means the same as another column. Choose one of the two.`);
    seen.add(key);
  }
  return problems;
}
