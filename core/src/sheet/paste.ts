import type { Problem } from '../quantity';
import { readFigure, type EntryContext, type FigureEntry } from './entry';
import { figureInfo, type FigureKey } from './sheet';

/** Names under which documents print a figure; the first that fits wins, so the narrower ones stand first. */
const names: readonly (readonly [RegExp, FigureKey])[] = [
  [/equali[sz].*(interval|every|period)|every.*equali[sz]/, 'equaliseInterval'],
  [/equali[sz].*(time|duration|hours)/, 'equaliseTime'],
  [/equali[sz]/, 'equaliseVoltage'],
  [/(bms|protect|trip).*(cell)|cell.*(over.?volt|trip|protect)/, 'bmsCellOverVoltage'],
  [/(release|recover).*/, 'bmsRelease'],
  [/(bms|protect|trip).*(cold|low.?temp)|(cold|low.?temp).*(bms|protect|trip)/, 'bmsLowTemperature'],
  [/(bms|protect|trip).*(over.?volt|high)|(over.?volt|high.?volt).*(bms|protect|trip)|overvoltage/, 'bmsOverVoltage'],
  [/(bms|protect|trip).*(under.?volt|low)|(under.?volt).*(bms|protect|trip)|undervoltage/, 'bmsUnderVoltage'],
  [/(bms|protect|trip).*curr|over.?curr/, 'bmsOverCurrent'],
  [/reconnect/, 'reconnectVoltage'],
  [/disconnect|discharge (cut.?off|end)|(end|cut.?off).*discharge|low.?volt/, 'disconnectVoltage'],
  [/(temp.*(comp|coef)|(comp|coef).*temp|compensation).*(range|limits|from)/, 'compensationRange'],
  [/reference temp|temp.*reference/, 'compensationReference'],
  [/temp.*(comp|coef)|(comp|coef).*temp|compensation|slope/, 'compensationSlope'],
  [/cool/, 'coolingRate'],
  [/(charg).*temp|temp.*charg/, 'chargeTemperature'],
  [/\b(taper|end|cut.?off|full)\b.*curr/, 'taperCurrent'],
  [/recommend.*curr|curr.*recommend|standard charge curr|normal charge curr/, 'chargeCurrentRecommended'],
  [/max.*curr|curr.*max|most current|charge current|charging current/, 'chargeCurrentMax'],
  [/max.*(charge|charging) time|longest charge/, 'maxChargeTime'],
  [/(absor\w*|topping|constant voltage|cv).*(time|duration)/, 'absorbTime'],
  [/re-?charge|re-?start/, 'rechargeVoltage'],
  [/float|stand-?by|maintenance/, 'floatVoltage'],
  [/unattended|every.*absor|absor.*every/, 'unattendedAbsorb'],
  [/stor(e|age).*(charge|soc|state)/, 'storageCharge'],
  [/stor(e|age)/, 'storageVoltage'],
  [/series/, 'seriesMax'],
  [/parallel/, 'parallelMax'],
  [/absor|charg\w* volt|bulk|cyclic|cycle use/, 'absorbVoltage'],
];

/** The figure a document means by a name, or null. */
export function figureNamed(name: string, chemistry: EntryContext['chemistry']): FigureKey | null {
  const plain = name.toLowerCase().trim();
  const carried = (key: FigureKey): boolean => (figureInfo[key].chemistries as readonly string[]).includes(chemistry);
  const exact = (Object.keys(figureInfo) as FigureKey[]).find((key) => figureInfo[key].name.toLowerCase() === plain);
  const found = exact ?? names.find(([pattern, key]) => carried(key) && pattern.test(plain))?.[1] ?? null;
  return found !== null && carried(found) ? found : null;
}

/** One pasted line and what it was understood as. */
export interface PastedRow {
  /** Counting from 1. */
  readonly line: number;
  readonly name: string;
  readonly text: string;
  readonly key: FigureKey | null;
  readonly entry: FigureEntry | null;
  /** Why the line fills nothing. */
  readonly problem: Problem | null;
}

/** More lines than this are no sheet. */
const mostLines = 400;

/** Name and value of a pasted line: a tab, two spaces, a bar, a semicolon or a colon between them. */
function columns(line: string): readonly [string, string] | null {
  const match = /^(.*?[^\s\d])\s*(?:\t+| {2,}|\||;|:|=)\s*(.+)$/.exec(line.trim()) ?? /^([A-Za-z][^\d\t]*?)[\s,]+([-−+±≤≥<>]?\s*\d.*)$/.exec(line.trim());
  const name = match?.[1]?.replace(/[.·…\s|]+$/, '').trim();
  const value = match?.[2]?.replace(/[|\t]+/g, ' ').trim();
  return name && value ? [name, value] : null;
}

/**
 * Reads a two-column table as copied from a document or a spreadsheet. Nothing is applied: the rows are for a person to look over.
 * A figure named twice keeps its first line, and the second says so.
 */
export function readTable(text: string, context: EntryContext): readonly PastedRow[] {
  const seen = new Map<FigureKey, number>();
  return text
    .split(/\r\n?|\n/)
    .slice(0, mostLines)
    .flatMap((raw, index): PastedRow[] => {
      if (raw.trim() === '') return [];
      const line = index + 1;
      const cells = columns(raw);
      if (!cells)
        return [
          {
            line,
            name: raw.trim().slice(0, 80),
            text: '',
            key: null,
            entry: null,
            problem: { code: 'paste-no-value', text: 'There is no value behind a name.' },
          },
        ];
      const [name, value] = cells;
      const base = { line, name: name.slice(0, 80), text: value.slice(0, 120) };
      const key = figureNamed(name, context.chemistry);
      if (!key)
        return [
          { ...base, key, entry: null, problem: { code: 'paste-unknown', text: 'This name is not a figure of a sheet. Choose one, or leave the line out.' } },
        ];
      const read = readFigure(key, value, context);
      if (!read.ok) return [{ ...base, key, entry: null, problem: read.problems[0] ?? null }];
      const before = seen.get(key);
      if (before !== undefined)
        return [
          {
            ...base,
            key,
            entry: null,
            problem: { code: 'paste-twice', text: `${figureInfo[key].name} already stands on line ${before}. Choose one of them.` },
          },
        ];
      seen.set(key, line);
      return [{ ...base, key, entry: read.value, problem: null }];
    });
}
