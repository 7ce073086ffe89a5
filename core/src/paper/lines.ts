import type { PaperPage, Word } from './page';

/** Words that stand together: a cell of a table, or a line of prose. */
export interface Cell {
  readonly text: string;
  readonly words: readonly Word[];
  readonly x0: number;
  readonly x1: number;
  /** Raised marks that point to notes. */
  readonly notes: readonly string[];
}

/** What stands on one height of a page or of one of its columns. */
export interface Line {
  readonly page: number;
  readonly cells: readonly Cell[];
  readonly y0: number;
  readonly y1: number;
  /** Height of its letters. */
  readonly size: number;
  /** Heads printed from bottom to top. */
  readonly turned?: boolean;
}

const centre = (w: { readonly y: number; readonly h: number }): number => w.y + w.h / 2;
/** A gap of more letters’ heights than this parts two cells. */
const gapOfCells = 0.9;
const leader = /^(?:[.·…_]{3,}|\.{2,})$/;

/** A row of dots within a word, as between a name and its value. */
const unled = (word: Word): readonly Word[] => {
  const match = /^(.*?[^.…_])?([.…_]{4,})(.*)$/.exec(word.text);
  if (!match) return [word];
  const each = word.w / word.text.length;
  const [, before = '', dots = '', after = ''] = match;
  return [
    ...(before === '' ? [] : [{ ...word, text: before, w: each * before.length }]),
    ...(after === '' ? [] : [{ ...word, text: after, x: word.x + each * (before.length + dots.length), w: each * after.length }]),
  ];
};

function cellOf(words: readonly Word[]): Cell {
  const size = Math.max(...words.map((w) => w.h));
  const raised = (w: Word): boolean => w.h < 0.78 * size && /^(?:\d|[*†‡a-d])\)?$/.test(w.text);
  const text = words.filter((w) => !raised(w));
  const notes = words.filter(raised).map((w) => w.text.replace(')', ''));
  const inline = [
    ...text
      .map((w) => w.text)
      .join(' ')
      .matchAll(/([¹²³⁴])\)?/g),
  ].map(([, mark]) => String('¹²³⁴'.indexOf(mark ?? '') + 1));
  return {
    text: text
      .map((w) => w.text)
      .join(' ')
      .replace(/\s*[¹²³⁴]\)?/g, '')
      .trim(),
    words,
    x0: Math.min(...words.map((w) => w.x)),
    x1: Math.max(...words.map((w) => w.x + w.w)),
    notes: [...notes, ...inline],
  };
}

/** The lines of words of one column, from top to bottom, each parted into cells at wide gaps. */
export function linesOf(words: readonly Word[], page: number): readonly Line[] {
  const lying = words
    .filter((w) => !w.turned)
    .flatMap(unled)
    .sort((a, b) => b.h - a.h || a.y - b.y);
  const rows: Word[][] = [];
  for (const word of lying) {
    const row = rows.find((r) => r.some((w) => Math.abs(centre(w) - centre(word)) < 0.5 * Math.max(w.h, word.h)));
    if (row) row.push(word);
    else rows.push([word]);
  }
  const lines = rows.map((row): Line => {
    const sorted = [...row].sort((a, b) => a.x - b.x);
    const size = Math.max(...sorted.map((w) => w.h));
    const groups: Word[][] = [];
    let broke = true;
    for (const word of sorted) {
      const last = groups.at(-1)?.at(-1);
      if (leader.test(word.text)) {
        broke = true;
        continue;
      }
      if (last && !broke && word.x - (last.x + last.w) < gapOfCells * size) groups.at(-1)?.push(word);
      else groups.push([word]);
      broke = false;
    }
    return { page, cells: groups.map(cellOf), y0: Math.min(...row.map((w) => w.y)), y1: Math.max(...row.map((w) => w.y + w.h)), size };
  });
  const turned = words.filter((w) => w.turned);
  if (turned.length > 0) {
    const heads: Word[][] = [];
    for (const word of [...turned].sort((a, b) => a.x - b.x || b.y - a.y)) {
      const last = heads.at(-1)?.at(-1);
      if (last && Math.abs(last.x - word.x) < 0.6 * word.w) heads.at(-1)?.push(word);
      else heads.push([word]);
    }
    const y1 = Math.max(...turned.map((w) => w.y + w.h));
    const size = Math.max(...turned.map((w) => w.w));
    // They end where the rows of their table begin.
    lines.push({ page, cells: heads.map(cellOf), y0: y1 - size, y1, size, turned: true });
  }
  return lines.filter((line) => line.cells.length > 0).sort((a, b) => a.y0 + a.y1 - (b.y0 + b.y1));
}

const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
const begins = (line: Line): boolean => /^[\p{L}•]/u.test(line.cells[0]?.text ?? '');
const proseLike = (lines: readonly Line[]): boolean => median(lines.map((l) => l.cells[0]?.text.length ?? 0)) >= 28;
const valued = (lines: readonly Line[]): number =>
  lines.filter((l) => l.cells.length >= 2 && begins(l) && l.cells.slice(1).some((c) => /\d/.test(c.text))).length;

/** Whether what lies on both sides of a gap are columns of a page and not of one table. */
function apart(left: readonly Line[], right: readonly Line[]): boolean {
  if (left.length < 3 || right.length < 3) return false;
  if (right.filter(begins).length < 0.6 * right.length) return false;
  const own = (lines: readonly Line[]): boolean => proseLike(lines) || valued(lines) >= 2;
  return own(left) && own(right);
}

/**
 * The columns of a page, left before right, each with its lines. What runs across both stands where it stands.
 */
export function columnsOf(page: PaperPage, words: readonly Word[] = page.words, depth = 0): readonly (readonly Line[])[] {
  const lines = linesOf(words, page.number);
  if (depth > 2 || lines.length < 4) return [lines];
  const lying = lines.filter((l) => !l.turned);
  const size = median(lying.map((l) => l.size));
  const x0 = Math.min(...words.map((w) => w.x));
  const x1 = Math.max(...words.map((w) => w.x + w.w));
  for (let x = x0 + 0.25 * (x1 - x0); x < x0 + 0.78 * (x1 - x0); x += 3) {
    const crosses = (l: Line): boolean => l.cells.some((c) => c.x0 < x + 0.4 * size && c.x1 > x - 0.4 * size);
    // The longest run of lines that leave this place free.
    let run: Line[] = [];
    let best: Line[] = [];
    for (const line of lying) {
      run = crosses(line) ? [] : [...run, line];
      if (run.length > best.length) best = run;
    }
    const [first] = best;
    const last = best.at(-1);
    if (!first || !last || best.length < 4) continue;
    const inside = words.filter((w) => centre(w) >= first.y0 && centre(w) <= last.y1);
    const left = inside.filter((w) => w.x < x);
    const right = inside.filter((w) => w.x >= x);
    if (!apart(linesOf(left, page.number), linesOf(right, page.number))) continue;
    const above = words.filter((w) => centre(w) < first.y0);
    const below = words.filter((w) => centre(w) > last.y1);
    return [above, left, right, below].filter((part) => part.length > 0).flatMap((part) => columnsOf(page, part, depth + 1));
  }
  return [lines];
}
