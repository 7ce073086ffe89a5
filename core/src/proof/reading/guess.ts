import { bad, good, type Problem, type Result } from '../../quantity';
import {
  ampWords,
  bankWords,
  chargeWords,
  engineWords,
  inputWords,
  lightWords,
  loadWords,
  machineWords,
  ofAmps,
  ofStage,
  outWords,
  probeWords,
  says,
  stageNamed,
  voltWords,
  warmthWords,
  words,
} from './heads';
import { jsonKeys, jsonRows } from './jsonLines';
import { ownProbe } from '../../system';
import { fingerprintOf, mappingProblems, type ColumnUnit, type MappedColumn, type Mapping, type Meaning } from './mapping';
import { newcomersIn, type Named } from './newcomers';
import { lookOver, type Table } from './table';
import { looksLikeTime, makeClock } from './time';

/** What is known of the job when a file is looked at. */
export interface LogContext {
  readonly chargers: readonly Named[];
  /** Volts of the bank, to see that a column could be one; null while nobody has said. */
  readonly nominalVolts: number | null;
  readonly fileName?: string;
}

/** Splits text into rows of fields; the CSV package of the caller. */
export type SplitRows = (text: string, separator: string) => readonly (readonly string[])[];

/** A mapping as far as it can be guessed. */
export interface Guess {
  readonly mapping: Mapping;
  /** Recognises files of the same make. */
  readonly fingerprint: string;
  /** What a person should look at; none where everything is plain. */
  readonly doubts: readonly string[];
  /** The first rows below the header. */
  readonly rows: readonly (readonly string[])[];
  /** Chargers that the file speaks of and a job without chargers does not have; the mapping gives them their columns. */
  readonly newcomers: readonly Named[];
  /** Volts of the bank in those rows, at the median, V; null where none can be read. */
  readonly typicalVolts: number | null;
}

/** So much of a table is looked at before it is read, bytes. */
export const sniffBytes = 65_536;

/**
 * Looks at the beginning of a file before it is read as a log.
 *
 * @param head the first 64 kB or so, as text
 * @param whole whether that is the whole file
 * @returns what is wrong with it, or null
 */
export function sniffLog(head: string, whole: boolean): Problem | null {
  if (head.trim() === '') return { code: 'log-empty', text: 'The file is empty. Export the log again, and look at its size before you bring it in.' };
  const strange = head.match(/[\u0000-\u0008\u000e-\u001f\ufffd]/g)?.length ?? 0;
  if (strange > head.length / 1000 + 2)
    return {
      code: 'log-binary',
      text: 'This is not a text file. A log is a table of values as text; a spreadsheet or a picture has to be exported as CSV first.',
    };
  if (!whole && !/[\r\n]/.test(head))
    return { code: 'log-no-lines', text: 'The first 64 kB hold no line break, so this is not a table. Export the log as CSV, one sample a line.' };
  if (/^\s*\{\s*"format"/.test(head) || /^\s*\[/.test(head) || (/^\s*\{/.test(head) && !/^\s*\{[^\n]*\}\s*(\n|\r|$)/.test(head)))
    return {
      code: 'log-json',
      text: 'This looks like a JSON file, not like a log. A job file is brought in on the Jobs page; a log is CSV, or JSON with one object a line.',
    };
  return null;
}

/** The charger a text speaks of, by id or by a word of its name that no other charger shares. */
function chargerIn(text: string, { chargers }: LogContext): string | null {
  const plain = ` ${words(text).replace(/[^a-z0-9]+/g, ' ')} `;
  const byId = chargers.filter((c) => plain.includes(` ${c.id.replace(/[^a-z0-9]+/g, ' ')} `));
  if (byId.length > 0) return byId.sort((a, b) => b.id.length - a.id.length)[0]?.id ?? null;
  const whole = chargers.find((c) => plain.includes(` ${words(c.name).replace(/[^a-z0-9]+/g, ' ')} `));
  if (whole) return whole.id;
  const parts = (name: string): string[] =>
    words(name)
      .split(/[^a-z0-9]+/)
      .filter((w) => w.length > 2);
  const own = chargers.filter((c) => parts(c.name).some((w) => plain.includes(` ${w} `) && !chargers.some((o) => o !== c && parts(o.name).includes(w))));
  return own.length === 1 ? (own[0]?.id ?? null) : null;
}

/** The middle one of the numbers among them; NaN where there is none. */
function median(values: readonly number[]): number {
  const sorted = values.filter(Number.isFinite).sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? NaN;
}

/** Sets of rows a separator makes of the head: how many columns, and how steadily. */
function shapeOf(rows: readonly (readonly string[])[]): { width: number; steady: number } {
  const counts = new Map<number, number>();
  for (const row of rows) counts.set(row.length, (counts.get(row.length) ?? 0) + 1);
  const [width = 1, steady = 0] = [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0] ?? [];
  return { width, steady: steady / Math.max(1, rows.length) };
}

/**
 * Guesses what a file holds: how it is set apart, which line names the columns, what each means, its units and how its dates are written.
 * Everything that was not plain is named as a doubt.
 *
 * @param head the first 64 kB or so, as text
 */
export function guessMapping(head: string, split: SplitRows, context: LogContext): Result<Guess> {
  const text = head.replace(/^\ufeff/, '');
  if (/^\s*\{/.test(text)) return guessJson(text, context);
  const lines = text.split(/\r\n|\r|\n/).slice(0, 240);
  // The last line of a cut-off head is half a line.
  if (lines.length > 2) lines.pop();
  const sample = lines.join('\n');
  const options = ([',', ';', '\t', '|'] as const).map((separator) => {
    const rows = split(sample, separator);
    return { separator, rows, ...shapeOf(rows.filter((r) => r.length > 1 || (r[0] ?? '').trim() !== '')) };
  });
  const best = options.filter((o) => o.width > 1).sort((a, b) => b.steady * Math.min(b.width, 30) - a.steady * Math.min(a.width, 30))[0];
  if (!best)
    return bad(
      'log-separator',
      'No columns were found: the lines hold neither commas, semicolons, tabs nor bars. Export the log as a table with one sample a line.',
    );
  const { rows, width, separator } = best;
  const wide = (r: readonly string[] | undefined): boolean => r?.length === width || (r?.length === width + 1 && r[width] === '');
  const valueLike = (f: string): boolean => f.trim() === '' || /^[\d\s.,:+\-−/TZ%VA°CF]+$/i.test(f.trim());
  // The names stand in the line just above the first values; what stands higher is a title. Without values, in the first line that could hold names.
  const namesLike = (r: readonly string[]): boolean => wide(r) && !r.every(valueLike) && r.filter((f) => f.trim() !== '').length > 1;
  const firstValues = rows.findIndex((r) => wide(r) && r.some(looksLikeTime));
  const at = firstValues < 0 ? rows.findIndex(namesLike) : rows.slice(0, firstValues).findLastIndex(namesLike);
  const body = rows.slice(at + 1).filter(wide);
  const headers = at < 0 ? Array.from({ length: width }, (_, i) => `column ${i + 1}`) : (rows[at] ?? []).slice(0, width).map((h) => h.trim());
  return finish({ kind: 'table', separator, headerLine: at + 1 }, headers, body, context);
}

function guessJson(text: string, context: LogContext): Result<Guess> {
  const lines = text.split(/\r\n|\r|\n/).slice(0, 120);
  const headers = jsonKeys(lines);
  if (headers.length < 2) return bad('log-json-lines', 'Each line has to be one JSON object with a time and values; the first lines are not.');
  return finish({ kind: 'jsonLines', separator: ',', headerLine: 0 }, headers, jsonRows(lines, headers), context);
}

/**
 * What the fields of a device that only talks mean, as far as that can be guessed from some of its samples.
 *
 * @returns a problem where it has said nothing yet
 */
export function guessFields(samples: readonly Readonly<Record<string, string>>[], context: LogContext): Result<Guess> {
  const headers = [...new Set(samples.flatMap((s) => Object.keys(s)))].slice(0, 300);
  if (headers.length === 0) return bad('fields-none', 'It has said nothing yet.');
  const rows = samples.map((s) => headers.map((h) => s[h] ?? ''));
  const guess = finish({ kind: 'jsonLines', separator: ';', headerLine: 0 }, headers, rows, context);
  if (!guess.ok) return guess;
  const { mapping, doubts } = guess.value;
  const missing = mappingProblems(mapping);
  // Its samples carry the moment they come: what it says of the time itself is not needed.
  const columns = mapping.columns.map((c) =>
    ['time', 'date', 'clock', 'chargerName'].includes(c.meaning) ? { header: c.header, meaning: 'ignore' as const } : c,
  );
  return good({ ...guess.value, mapping: { ...mapping, columns }, doubts: doubts.filter((d) => !missing.includes(d)) });
}

/** The one charger of a job that has just one. */
const onlyCharger = ({ chargers }: LogContext): string | undefined => (chargers.length === 1 ? chargers[0]?.id : undefined);

/** What each column means, by its name, its unit and its values. No meaning is given twice. */
function columnsOf(table: Table, context: LogContext, doubts: string[]): MappedColumn[] {
  const { headers, all, numbers, heads, timeAt, dateAt, clockAt, nameAt } = table;
  const only = onlyCharger(context);
  const fromName = context.fileName === undefined ? null : chargerIn(context.fileName.replace(/\.\w+$/, ''), context);
  // In a file of one charger every voltage and current is that charger's own.
  const alone = nameAt < 0 ? fromName : null;

  const taken = new Set<string>();
  const take = (meaning: Meaning, charger?: string): boolean => {
    const key = `${meaning} ${charger ?? ''}`;
    if (taken.has(key)) return false;
    taken.add(key);
    return true;
  };

  return headers.map((header, i): MappedColumn => {
    const ignored: MappedColumn = { header, meaning: 'ignore' };
    const h = heads[i] ?? { name: '', unit: null };
    if (i === timeAt) return { header, meaning: 'time' };
    if (i === dateAt) return { header, meaning: 'date' };
    if (i === clockAt) return { header, meaning: 'clock' };
    if (i === nameAt) return { header, meaning: 'chargerName' };
    const charger = chargerIn(header, context) ?? undefined;
    const values = (numbers[i] ?? []).filter(Number.isFinite);
    const middle = median(values);
    const numeric = values.length > 0 || (all[i] ?? []).every((f) => f === '');
    const isInput = says(h.name, ...inputWords);
    const isBank = says(h.name, ...bankWords);
    const own = charger ?? (isBank && nameAt < 0 ? undefined : (alone ?? undefined));

    const isStage = ofStage(h);
    if (isStage) {
      const id = charger ?? alone ?? only;
      if ((id !== undefined || nameAt >= 0) && take('stage', nameAt >= 0 ? '' : id))
        return { header, meaning: 'stage', ...(nameAt < 0 && id !== undefined ? { charger: id } : {}) };
      return ignored;
    }
    if (!numeric && h.unit === null) return ignored;
    if (h.unit === 'W/m2' || h.unit === 'kW/m2' || (h.unit === null && says(h.name, ...lightWords)))
      return take('irradiance') ? { header, meaning: 'irradiance', unit: h.unit ?? 'W/m2' } : ignored;
    if (h.unit === 'turns' || (h.unit === null && says(h.name, ...engineWords))) return take('engine') ? { header, meaning: 'engine', unit: 'turns' } : ignored;
    if (h.unit === 'W' || h.unit === 'kW') {
      const id = charger ?? alone ?? only;
      if (!isInput || (nameAt < 0 && id === undefined) || !take('inputWatts', nameAt < 0 ? id : '')) return ignored;
      return { header, meaning: 'inputWatts', unit: h.unit, ...(nameAt < 0 && id !== undefined ? { charger: id } : {}) };
    }
    // “Charge” alone may be amps as well: only values written in percent tell.
    if (says(h.name, ...chargeWords) || (/^charge$/.test(h.name) && (all[i] ?? []).some((f) => f.endsWith('%')))) {
      const part = values.length > 0 && Math.max(...values) <= 1.01;
      return take('stateOfCharge') ? { header, meaning: 'stateOfCharge', unit: part ? 'part' : 'percent' } : ignored;
    }
    const isVolts = h.unit === 'V' || h.unit === 'mV' || (h.unit === null && says(h.name, ...voltWords));
    const isAmps = ofAmps(h);
    const isWarmth = h.unit === 'degC' || h.unit === 'degF' || (h.unit === null && says(h.name, ...warmthWords));
    if (isVolts) {
      const unit: ColumnUnit = h.unit === 'mV' || (h.unit === null && middle > 400) ? 'mV' : 'V';
      if (isInput) {
        const id = charger ?? alone ?? only;
        if (nameAt >= 0) return take('arrayVolts') ? { header, meaning: 'arrayVolts', unit } : ignored;
        return id !== undefined && take('arrayVolts', id) ? { header, meaning: 'arrayVolts', charger: id, unit } : ignored;
      }
      if (nameAt >= 0) return take('volts') ? { header, meaning: 'volts', unit } : ignored;
      if (says(h.name, /\b(load|cell|output|target|set ?point)\b/)) return ignored;
      if (own !== undefined) return take('volts', own) ? { header, meaning: 'volts', charger: own, unit } : ignored;
      return (isBank || says(h.name, ...voltWords) || h.name === '') && take('bankVolts') ? { header, meaning: 'bankVolts', unit } : ignored;
    }
    if (isAmps) {
      if (isInput) return ignored;
      const unit: ColumnUnit = h.unit === 'mA' ? 'mA' : 'A';
      if (says(h.name, ...loadWords)) return charger === undefined && take('loadAmps') ? { header, meaning: 'loadAmps', unit } : ignored;
      const negated = says(h.name, ...outWords);
      if (nameAt >= 0) return take('amps') ? { header, meaning: 'amps', unit } : ignored;
      const id = own ?? (isBank ? undefined : says(h.name, /\bcharg/, /\boutput/, /\bout\b/) ? only : undefined);
      if (id !== undefined) return take('amps', id) ? { header, meaning: 'amps', charger: id, unit } : ignored;
      if (!isBank && !says(h.name, ...ampWords) && h.name !== '') return ignored;
      return take('bankAmps') ? { header, meaning: 'bankAmps', unit, ...(negated ? { negated } : {}) } : ignored;
    }
    if (isWarmth) {
      if (says(h.name, ...machineWords)) {
        const id = charger ?? alone ?? only;
        const unit: ColumnUnit = h.unit === 'degF' ? 'degF' : 'degC';
        if (nameAt >= 0) return take('machineC') ? { header, meaning: 'machineC', unit } : ignored;
        return id !== undefined && take('machineC', id) ? { header, meaning: 'machineC', charger: id, unit } : ignored;
      }
      if (says(h.name, /\b(case|heatsink|heat sink|internal|controller|charger|air|ambient|outside|board)\b/)) return ignored;
      const fahrenheit = h.unit === 'degF' || (h.unit === null && middle > 45);
      if (h.unit === null && fahrenheit) doubts.push(`“${header}” names no unit; its values look like °F.`);
      // A charger’s own file tells what its own sensor reads; one that names nobody leaves it open.
      const sensor = charger ?? (says(h.name, probeWords) ? ownProbe : (alone ?? undefined));
      return take('batteryC') ? { header, meaning: 'batteryC', unit: fahrenheit ? 'degF' : 'degC', ...(sensor === undefined ? {} : { sensor }) } : ignored;
    }
    return ignored;
  });
}

/** Doubts about currents that nobody is named for: without them a charger cannot be judged alone. */
function orphanedCurrents(columns: readonly MappedColumn[], { heads, numbers }: Table, doubts: string[]): void {
  for (const [i, c] of columns.entries()) {
    const h = heads[i];
    const current = h !== undefined && ofAmps(h);
    if (c.meaning === 'ignore' && current && !says(h.name, ...inputWords, /\bload\b/) && (numbers[i] ?? []).some(Number.isFinite))
      doubts.push(`“${c.header}” is a current, and no charger of this job is named so. Say whose it is, or leave it out.`);
  }
}

/** Between these volts lies a bank of any class, from an empty one of 12 V to a full one of 48 V. */
const anyBankVolts = [9, 68] as const;

/** One unnamed voltage beside one charger's own is the bank's. */
function unnamedBankVolts(columns: MappedColumn[], { headers, numbers }: Table, context: LogContext, doubts: string[]): void {
  if (!columns.some((c) => c.meaning === 'bankVolts' || c.meaning === 'volts')) {
    const { nominalVolts } = context;
    const [low, high] = nominalVolts === null ? anyBankVolts : [nominalVolts * 0.75, nominalVolts * 1.4];
    const near = columns.findIndex((c, i) => {
      const middle = median(numbers[i] ?? []);
      return c.meaning === 'ignore' && middle > low && middle < high;
    });
    if (near >= 0) {
      columns[near] = { header: headers[near] ?? '', meaning: 'bankVolts', unit: 'V' };
      const why = nominalVolts === null ? 'could be those of a bank' : `lie near ${nominalVolts} V`;
      doubts.push(`“${headers[near] ?? ''}” is taken for the bank voltage because its values ${why}.`);
    }
  }
}

/** Who is meant by the names in the rows, and which stage by each word. */
function namesAndStages(mapping: Mapping, { all, nameAt }: Table, context: LogContext, doubts: string[]): void {
  const only = onlyCharger(context);
  if (nameAt >= 0)
    for (const name of new Set(all[nameAt])) {
      const charger = chargerIn(name, context) ?? only;
      if (name !== '' && charger !== undefined) mapping.chargers[name] = charger;
      else if (name !== '') doubts.push(`Rows about “${name}” belong to no charger of this job yet.`);
    }
  for (const [i, c] of mapping.columns.entries())
    if (c.meaning === 'stage')
      for (const word of new Set(all[i])) {
        if (word === '') continue;
        const stage = stageNamed(word);
        if (stage) mapping.stages[word] = stage;
        else doubts.push(`“${word}” in “${c.header}” is no stage that is known here; it counts as not given.`);
      }
}

function finish(
  shape: Pick<Mapping, 'kind' | 'separator' | 'headerLine'>,
  headers: readonly string[],
  rows: readonly (readonly string[])[],
  job: LogContext,
): Result<Guess> {
  const table = lookOver(headers, rows, shape.separator);
  const newcomers = job.chargers.length === 0 ? newcomersIn(table, job.fileName) : [];
  const context = newcomers.length === 0 ? job : { ...job, chargers: newcomers };
  const doubts: string[] = [];
  const columns = columnsOf(table, context, doubts);
  orphanedCurrents(columns, table, doubts);
  unnamedBankVolts(columns, table, context, doubts);

  const { all, numbers, decimal, timeAt, dateAt, clockAt } = table;
  const times = timeAt >= 0 ? (all[timeAt] ?? []) : dateAt >= 0 && clockAt >= 0 ? rows.map((r) => `${r[dateAt] ?? ''} ${r[clockAt] ?? ''}`) : [];
  const dateOrder = orderOf(times, doubts);
  const clock = makeClock({ dateOrder, zone: null });
  const stamps = times.map((t) => clock.read(t)?.seconds ?? NaN).filter(Number.isFinite);
  const falling = stamps.filter((s, i) => i > 0 && s < (stamps[i - 1] ?? s)).length;
  const mapping: Mapping = {
    format: 'calm-keel/mapping',
    version: 1,
    ...shape,
    decimal,
    columns,
    dateOrder,
    zone: null,
    newestFirst: stamps.length > 2 && falling > (stamps.length - 1) * 0.7,
    chargers: {},
    stages: {},
  };
  namesAndStages(mapping, table, context, doubts);
  const bank = columns.findIndex((c) => c.meaning === 'bankVolts' || c.meaning === 'volts');
  const typical = median(numbers[bank] ?? []) * (columns[bank]?.unit === 'mV' ? 0.001 : 1);
  const strange = strangeVolts(typical, context.nominalVolts);
  if (strange !== null) doubts.push(`“${headers[bank] ?? ''}” lies near ${typical.toFixed(1)} V${strange}`);
  doubts.push(...mappingProblems(mapping));
  const typicalVolts = Number.isFinite(typical) ? typical : null;
  return good({ mapping, fingerprint: fingerprintOf(mapping), doubts, rows: rows.slice(0, 8), newcomers, typicalVolts });
}

/** What is strange about the volts of a bank; null where nothing is, or nobody has said what they should be. */
function strangeVolts(typical: number, nominalVolts: number | null): string | null {
  if (nominalVolts === null) return typical > 1000 ? ', and no bank has so much. It may be in mV.' : null;
  const ratio = typical / nominalVolts;
  if (!(ratio < 0.7 || ratio > 1.5)) return null;
  return `, and this bank has ${nominalVolts} V. ${ratio > 300 ? 'It may be in mV.' : 'It may be of another bank, or per battery.'}`;
}

/** How dates are written: by those that only fit one order; a doubt where none decides. */
export function orderOf(times: readonly string[], doubts: string[]): Mapping['dateOrder'] {
  const parts = times.flatMap((t) => {
    const m = /^(\d{1,2})[-./](\d{1,2})[-./](\d{2,4})/.exec(t.trim());
    return m ? [{ a: Number(m[1]), b: Number(m[2]), dots: t.includes('.') && !t.includes('/') }] : [];
  });
  if (parts.length === 0) return 'yearFirst';
  if (parts.some((p) => p.a > 12)) return 'dayFirst';
  if (parts.some((p) => p.b > 12)) return 'monthFirst';
  // Within one file the day moves and the month rarely does.
  const moves = (pick: (p: (typeof parts)[number]) => number): number => new Set(parts.map(pick)).size;
  if (moves((p) => p.a) !== moves((p) => p.b)) return moves((p) => p.a) > moves((p) => p.b) ? 'dayFirst' : 'monthFirst';
  if (parts[0]?.dots) return 'dayFirst';
  doubts.push(`Dates such as “${times[0] ?? ''}” can be read two ways; the day is taken to come first.`);
  return 'dayFirst';
}

/** A mapping used again on a file of the same make; columns of chargers that this job does not have are left out. */
export function fitted(mapping: Mapping, { chargers }: Pick<LogContext, 'chargers'>): Mapping {
  const known = new Set(chargers.map((c) => c.id));
  return {
    ...mapping,
    columns: mapping.columns.map(({ sensor, ...c }) => {
      if (c.charger !== undefined && !known.has(c.charger)) return { header: c.header, meaning: 'ignore' as const };
      return sensor !== undefined && (sensor === ownProbe || known.has(sensor)) ? { ...c, sensor } : c;
    }),
    chargers: Object.fromEntries(Object.entries(mapping.chargers).filter(([, id]) => known.has(id))),
  };
}
