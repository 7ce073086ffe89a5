import { figureInfo, readFigure, cellsOf, type EntryContext, type FigureEntry, type FigureKey } from '../sheet';
import { bad, good, type Result } from '../quantity';
import { languages } from './terms';

/** Why somebody should look before a reading is taken. */
export type Doubt = 'weakName' | 'unitAssumed' | 'basisAssumed' | 'implausible' | 'condition' | 'note' | 'tolerance' | 'unequal' | 'rival' | 'unclear';

/** A value as the figure reader knows it, and what was noticed on the way. */
export interface PlainValue {
  readonly text: string;
  readonly doubts: readonly Doubt[];
}

const number = String.raw`[-−+]?\d+(?:[.,]\d+)?`;
/** "at 25 °C", "(20 °C)", "bei 25 °C": the temperature at which a value holds. */
const condition = new RegExp(String.raw`\(?\s*(?:\bat|@|\bbei|à|\ba)\s*(${number})\s*°\s*[ck]\s*\)?|\(\s*(${number})\s*°\s*c\s*\)`, 'g');

/**
 * The words of a value, of whichever language, in those the figure reader knows: units by one name, ranges by a dash, what holds at a usual room temperature
 * without saying so.
 */
export function plainValue(raw: string, key: FigureKey): PlainValue {
  const doubts: Doubt[] = [];
  let text = raw
    .toLowerCase()
    .replace(/[\u00a0\s]+/g, ' ')
    .replace(/−/g, '-')
    .replace(/[º˚]/g, '°')
    .replace(/℃/g, '°c')
    .trim();
  const temperature = (figureInfo[key].units as readonly string[]).some((unit) => unit === '°C' || unit === '°C/h' || unit === 'V/°C');
  if (!temperature)
    text = text.replace(condition, (_all, one?: string, two?: string) => {
      const degrees = Number((one ?? two ?? '25').replace(',', '.'));
      if (degrees < 19 || degrees > 28) doubts.push('condition');
      return ' ';
    });
  // The same in the other scale adds nothing.
  if (/°\s*c/.test(text) && /°\s*f/.test(text)) text = text.replace(/\(?[^()°]*?(?:°\s*f)?[^()°]*°\s*f\s*\)?/, ' ');
  for (const { values } of languages) for (const [pattern, words] of values) text = text.replace(pattern, words);
  const percent = new RegExp(String.raw`^(.*?)(${number})(\s*v?.*?)±\s*(\d+(?:[.,]\d+)?)\s*%`).exec(text);
  if (percent) {
    const [all, before = '', value = '', behind = '', part = ''] = percent;
    const half = (Number(value.replace(',', '.')) * Number(part.replace(',', '.'))) / 100;
    text = text.replace(all, `${before}${value}${behind} ± ${half.toFixed(4)}`);
    doubts.push('tolerance');
  }
  return {
    text: text
      .replace(/[;,.]\s*$/, '')
      .replace(/\s+/g, ' ')
      .trim(),
    doubts,
  };
}

/** A value read, with what makes it less than sure. */
export interface ValueReading {
  readonly entry: FigureEntry;
  readonly doubts: readonly Doubt[];
}

/** Whether two numbers for one cell are the same to the digits that are printed: half of a hundredth of a volt, 2 % of anything else. */
const sameEach = (a: number | undefined, b: number | undefined, volts: boolean): boolean =>
  a === undefined || b === undefined || Math.abs(a - b) <= (volts ? 0.0051 : 0.02 * Math.abs(a));

/** Reads a value for a figure. One told twice on two bases is read once, and looked at when the two differ. */
export function readValue(key: FigureKey, raw: string, context: EntryContext): Result<ValueReading> {
  const plain = plainValue(raw, key);
  const once = (text: string): Result<FigureEntry | null> => readFigure(key, text, context);
  let read = once(plain.text);
  const doubts = [...plain.doubts];
  const twice = /^(.*?)\s*[(/]\s*([^()]*\d[^()]*?)\)?$/.exec(plain.text);
  if (!read.ok && twice) {
    const [, one = '', two = ''] = twice;
    const [first, second] = [once(one), once(two)];
    if (first.ok && first.value) {
      read = first;
      if (second.ok && second.value?.unit === first.value.unit) {
        const per = (entry: FigureEntry, n: number | undefined): number | undefined => (n === undefined ? undefined : n / cellsOf(entry.basis, context.shape));
        const [a, b] = [first.value, second.value];
        if (!(['min', 'target', 'max'] as const).every((end) => sameEach(per(a, a[end]), per(b, b[end]), a.unit === 'V'))) doubts.push('unequal');
      } else doubts.push('note');
    }
  }
  if (!read.ok) return read;
  if (read.value === null) return bad('figure-no-number', 'There is no value behind this name.');
  const entry = read.value;
  if (entry.assumed.some((note) => note.startsWith('No unit is written'))) doubts.push('unitAssumed');
  if (entry.assumed.some((note) => note.startsWith('Not said what it is counted for'))) doubts.push('basisAssumed');
  return good({ entry, doubts });
}
