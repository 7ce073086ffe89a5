import type { Cell, Line } from './lines';
import { headOf, meaningOf, plainName, unitsOf, type NameMeaning } from './meaning';
import type { HeadKind } from './terms';
import type { Word } from './page';

/** A column of a table: what its head says, and where it lies. */
interface Column {
  readonly kind: HeadKind | 'battery';
  readonly text: string;
  readonly x0: number;
  readonly x1: number;
}

/** A row that gives one figure. */
export interface Row {
  readonly page: number;
  readonly name: string;
  readonly meaning: NameMeaning | null;
  readonly value: string;
  readonly words: readonly Word[];
  readonly quote: string;
  /** Footnotes that stand at it. */
  readonly notes: readonly string[];
  /** Which battery of a table with several. */
  readonly battery?: string;
}

/** What was read of a column of a page: its rows, the lines that are prose, and the batteries a table tells apart. */
export interface Rows {
  readonly rows: readonly Row[];
  readonly prose: readonly Line[];
  readonly batteries: readonly string[];
}

const hasLetters = (text: string): boolean => /\p{L}{2}/u.test(text);
/** "0–10 °C", "below 0 °C": the name of a row in a table of current against temperature. */
export const temperatureRange =
  /^(?:(?:below|under|<|≤|up to|to)\s*([-−+]?\d+)\s*(?:°\s*c)?|([-−+]?\d+)\s*(?:°\s*c)?\s*(?:–|-|to|bis|\.\.\.|…)\s*([-−+]?\d+)\s*°?\s*c?)\s*$/i;

const hasDigit = (text: string): boolean => /\d/.test(text);
const empty = (text: string): boolean => /^[–—\-/.]*$/.test(text);
const overlap = (a: { x0: number; x1: number }, b: { x0: number; x1: number }): number => Math.min(a.x1, b.x1) - Math.max(a.x0, b.x0);
const apart = (a: { x0: number; x1: number }, b: { x0: number; x1: number }): number => Math.abs((a.x0 + a.x1) / 2 - (b.x0 + b.x1) / 2);

/** The column a cell stands under: the one it overlaps most, else the nearest. */
function under(cell: Cell, columns: readonly Column[]): Column | undefined {
  return [...columns].sort((a, b) => Math.max(0, overlap(cell, b)) - Math.max(0, overlap(cell, a)) || apart(cell, a) - apart(cell, b))[0];
}

/** A unit of volts or amps said in a head: "Cycle use (V)", "V/cell". */
const unitIn = (head: string): string =>
  /[([]\s*([^)\]]+?)\s*[)\]]\s*$/.exec(head)?.[1] ?? (/^m?[va]\s*\/\s*(?:cell|battery|block)$/i.test(head.trim()) ? head.trim() : '');

/** What heads a line of cells is, when it is one. */
function columnsIn(line: Line, context: { readonly chemistry: Parameters<typeof meaningOf>[1] }): readonly Column[] | null {
  if (line.cells.some((c) => hasDigit(c.text) && /^[-−+±≤≥<>]?\s*\d+([.,]\d+)?\s*(v|a|c|°|h|min|%)/i.test(c.text))) return null;
  const kinds = line.cells.map((c) => headOf(c.text));
  const known = kinds.filter((k) => k !== null).length;
  const units = line.cells.filter((c) => unitIn(c.text) !== '').length;
  const figures = line.cells.filter((c) => meaningOf(c.text, context.chemistry)?.kind === 'figure').length;
  const columns = (kind: (i: number) => Column['kind'] | null): readonly Column[] =>
    line.cells.flatMap((c, i): readonly Column[] => {
      const which = kind(i);
      return which === null ? [] : [{ kind: which, text: c.text, x0: c.x0, x1: c.x1 }];
    });
  if (known >= 2 && figures < 2) return columns((i) => kinds[i] ?? (i === 0 ? 'name' : 'condition'));
  if (kinds.includes('value') || kinds.includes('typ') || (line.turned && known >= 1)) return columns((i) => kinds[i] ?? (i === 0 ? 'name' : 'condition'));
  // A figure in each head: the rows are batteries.
  if (figures >= 2 && line.cells.length >= 3) return columns((i) => (i === 0 ? 'model' : 'value'));
  if (line.cells.length === 1 && units === 1 && unitIn(line.cells[0]?.text ?? '') === line.cells[0]?.text.trim()) return columns(() => 'value');
  return null;
}

/** Names of batteries over columns of values: no words of a head, one for each value of the rows below. */
function batteriesIn(line: Line, below: readonly Line[], chemistry: Parameters<typeof meaningOf>[1]): readonly Column[] | null {
  if (line.cells.length < 2 || line.cells.some((c) => meaningOf(c.text, chemistry)?.kind === 'figure' || headOf(c.text) !== null)) return null;
  const rows = below.slice(0, 3).filter((l) => l.cells.length >= 3);
  if (rows.length < 2) return null;
  const fits = rows.every(
    (row) => line.cells.every((head) => row.cells.slice(1).some((c) => overlap(c, head) > 0)) && row.cells.length === line.cells.length + 1,
  );
  return fits && line.cells.every((c) => /[a-z]/i.test(c.text) && c.text.length <= 30)
    ? line.cells.map((c) => ({ kind: 'battery', text: c.text, x0: c.x0, x1: c.x1 }))
    : null;
}

/** The words of a value put together from columns of least, target and most. */
function composed(parts: Partial<Record<'min' | 'typ' | 'max' | 'value', string>>, unit: string): string {
  const bare = (text: string): boolean => !/[a-z°%]/i.test(text);
  const withUnit = (text: string): string => (unit !== '' && bare(text) ? `${text} ${unit}` : text);
  const { min, typ, max, value } = parts;
  const said = value ?? typ;
  if (min !== undefined && max !== undefined)
    return said === undefined
      ? `at least ${withUnit(min)}, at most ${withUnit(max)}`
      : `${withUnit(said)}, at least ${withUnit(min)}, at most ${withUnit(max)}`;
  const ends = [...(min === undefined ? [] : [`at least ${withUnit(min)}`]), ...(max === undefined ? [] : [`at most ${withUnit(max)}`])];
  return [...(said === undefined ? [] : [withUnit(said)]), ...ends].join(', ');
}

/** Lines of one row that a narrow cell has wrapped: the name runs on where no value stands. */
function unwrapped(lines: readonly Line[]): readonly Line[] {
  const done: Line[] = [];
  for (const line of lines) {
    const last = done.at(-1);
    const [cell] = line.cells;
    const gap = last ? line.y0 - last.y1 : Infinity;
    const head = last?.cells[0];
    const runsOn =
      last !== undefined &&
      cell !== undefined &&
      head !== undefined &&
      line.cells.length === 1 &&
      last.cells.length >= 2 &&
      gap < 0.55 * line.size &&
      Math.abs(cell.x0 - head.x0) < 2 &&
      Math.abs(line.size - last.size) < 0.1 * line.size &&
      !hasDigit(cell.text) &&
      cell.text.length < 40 &&
      /^[\p{Ll}(]/u.test(cell.text);
    if (runsOn) {
      const name: Cell = { ...head, text: `${head.text} ${cell.text}`, words: [...head.words, ...cell.words], x1: Math.max(head.x1, cell.x1) };
      done.splice(-1, 1, { ...last, cells: [name, ...last.cells.slice(1)], y1: line.y1 });
    } else done.push(line);
  }
  return done;
}

const listed = /^[•·▪–*-]?\s*(\p{L}[^:=]{2,70}?)\s*[:=]\s*(\S.*)$/u;

/** The rows of figures in the lines of one column of a page. */
export function rowsOf(all: readonly Line[], chemistry: Parameters<typeof meaningOf>[1]): Rows {
  const lines = unwrapped(all);
  const rows: Row[] = [];
  const prose: Line[] = [];
  const batteries: string[] = [];
  let columns: readonly Column[] | null = null;
  let section = '';
  let last: Line | undefined;

  const mean = (name: string, value: string): NameMeaning | null => {
    const units = unitsOf(value);
    const alone = meaningOf(name, chemistry, units);
    if (alone !== null && !(alone.kind === 'figure' && alone.weak)) return alone;
    return (section === '' ? null : meaningOf(`${section} ${name}`, chemistry, units)) ?? alone;
  };
  const push = (line: Line, name: string, value: string, words: readonly Word[], extra: Partial<Row> = {}): void => {
    const quote = line.cells.map((c) => c.text).join('  ');
    const sided = /[([]\s*([^)\]]*(?:cell|battery|block|zelle|élément|celda)[^)\]]*)[)\]]|\bper cell\b/i.exec(name);
    const counted = sided && !/cell|battery|block/i.test(value) ? `${value} ${/cell|zelle|élément|celda/i.test(sided[0]) ? 'per cell' : ''}` : value;
    rows.push({
      page: line.page,
      name,
      meaning: mean(name, counted),
      value: counted.trim(),
      words,
      quote,
      notes: line.cells.flatMap((c) => c.notes),
      ...extra,
    });
  };

  for (const [i, line] of lines.entries()) {
    const gap = last ? line.y0 - last.y1 : 0;
    if (last && gap > 3 * line.size && !last.turned) columns = null;
    last = line;
    const heads = columnsIn(line, { chemistry }) ?? batteriesIn(line, lines.slice(i + 1), chemistry);
    if (heads) {
      // A head in two rows: what stands over it is part of the same table.
      columns = line.turned ? heads : columns && lines[i - 1]?.turned ? [...columns, ...heads] : heads;
      batteries.push(...heads.filter((c) => c.kind === 'battery').map((c) => c.text));
      const named = line.cells[0]?.text ?? '';
      if (headOf(named) === null && heads[0]?.kind !== 'battery' && hasLetters(named)) section = named;
      continue;
    }
    const [first] = line.cells;
    if (!first) continue;
    if (line.cells.length === 1) {
      const item = listed.exec(first.text);
      if (item?.[1] && item[2] && mean(item[1], item[2]) !== null) {
        const value = item[2];
        const words = wordsAfter(first.words, value);
        push(line, item[1], value, words);
      } else if (!hasDigit(first.text) && first.text.length < 45 && !/[.!?]$/.test(first.text)) {
        section = first.text;
        prose.push(line);
      } else {
        if (first.text.length >= 45) columns = null;
        prose.push(line);
      }
      continue;
    }
    const [model] = columns ?? [];
    if (columns && model?.kind === 'model' && !columns.some((c) => c.kind === 'battery')) {
      const values = columns.filter((c) => c.kind === 'value');
      batteries.push(first.text);
      for (const cell of line.cells.slice(1)) {
        const column = under(cell, values);
        if (!column) continue;
        const unit = unitIn(column.text);
        const value = unit !== '' && !/[a-z]/i.test(cell.text) ? `${cell.text} ${unit}` : cell.text;
        push(line, column.text.replace(/\s*[([].*$/, ''), value, cell.words, { battery: first.text });
      }
      continue;
    }
    if (!hasLetters(first.text) && !temperatureRange.test(first.text)) {
      prose.push(line);
      continue;
    }
    const behind = line.cells.slice(1).filter((c) => !empty(c.text));
    if (columns?.some((c) => c.kind === 'battery')) {
      const named = columns.filter((c) => c.kind === 'battery');
      if (line.cells.length === 2 && behind[0]) for (const c of named) push(line, first.text, behind[0].text, behind[0].words, { battery: c.text });
      else
        for (const cell of behind) {
          const column = under(cell, named);
          if (column) push(line, first.text, cell.text, cell.words, { battery: column.text });
        }
      continue;
    }
    if (columns && columns.length >= 1) {
      const valued = columns.filter((c) => c.kind !== 'name' && c.kind !== 'model');
      const parts: Partial<Record<'min' | 'typ' | 'max' | 'value', string>> = {};
      const words: Word[] = [];
      let unit = '';
      let more = '';
      for (const cell of behind) {
        const column = under(cell, valued);
        if (!column) continue;
        if (column.kind === 'unit') unit = cell.text;
        else if (column.kind === 'condition') more += ` ${cell.text}`;
        else {
          const kind = column.kind === 'battery' || column.kind === 'name' || column.kind === 'model' ? 'value' : column.kind;
          const inHead = unitIn(column.text);
          const text = inHead !== '' && !/[a-z°%]/i.test(cell.text) ? `${cell.text} ${inHead}` : cell.text;
          parts[kind] = parts[kind] === undefined ? text : `${parts[kind]} ${text}`;
          words.push(...cell.words);
        }
      }
      if (words.length > 0) {
        const counted = /\b(per|\/)\s*(cell|battery|block)\b/i.exec(more)?.[0] ?? '';
        push(line, first.text, `${composed(parts, unit)} ${counted}`.trim(), words);
        continue;
      }
    }
    // A table without heads: a name and what stands behind it.
    if (behind.length > 0)
      push(
        line,
        first.text,
        behind.map((c) => c.text).join(' '),
        behind.flatMap((c) => c.words),
      );
    else prose.push(line);
  }
  return { rows, prose, batteries: [...new Set(batteries)] };
}

/** The words of a cell from where a value begins. */
function wordsAfter(words: readonly Word[], value: string): readonly Word[] {
  const tail: Word[] = [];
  for (const word of [...words].reverse()) {
    const next = [word, ...tail];
    if (next.map((w) => w.text).join(' ').length > value.length + 1 && tail.length > 0) break;
    tail.unshift(word);
  }
  return tail;
}

/** A battery’s name without spaces and signs, to compare. */
export const bareName = (name: string): string => plainName(name).replace(/[^a-z0-9]/g, '');
