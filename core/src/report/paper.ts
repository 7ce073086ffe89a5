/** How a line of a report is meant: plain, in the second voice, a caution, a stop. */
type Tone = 'plain' | 'quiet' | 'caution' | 'stop';

/** One cell of a table: its text, and whether it is marked as something to look at. */
export interface Cell {
  readonly text: string;
  readonly tone?: Tone;
  /** A second line under it, smaller. */
  readonly below?: string;
}

/** A column: its heading, whether figures stand in it, and its share of the width. */
interface Column {
  readonly head: string;
  readonly figures?: boolean;
  readonly share: number;
}

/** One line of a worked sum, as a report prints it. */
export interface SumLine {
  readonly words: string;
  readonly figure: string;
  /** `set` stands above a double rule. */
  readonly kind: 'line' | 'subtotal' | 'set' | 'note';
}

/** A drawing that a page makes from the job: named here, drawn there. */
type DrawingName = 'oneLine' | 'ladder';

/** A piece of a report. Page and PDF print the same pieces. */
export type Block =
  | { readonly kind: 'text'; readonly text: string; readonly tone?: Tone }
  | { readonly kind: 'heading'; readonly text: string; readonly beside?: string }
  | { readonly kind: 'facts'; readonly rows: readonly { readonly name: string; readonly text: string; readonly tone?: Tone }[] }
  | { readonly kind: 'list'; readonly items: readonly Cell[]; readonly empty: string }
  | { readonly kind: 'table'; readonly columns: readonly Column[]; readonly rows: readonly (readonly Cell[])[]; readonly empty: string }
  | { readonly kind: 'sum'; readonly title: string; readonly lines: readonly SumLine[]; readonly sources: readonly string[] }
  | { readonly kind: 'drawing'; readonly drawing: DrawingName; readonly caption: string }
  | { readonly kind: 'log'; readonly log: string; readonly caption: string };

/** A part of a report. */
export interface Section {
  readonly id: string;
  readonly title: string;
  readonly blocks: readonly Block[];
}

/** A report as a model: what a page shows, a PDF prints and a test reads. */
export interface Paper {
  readonly title: string;
  readonly lines: readonly string[];
  readonly sections: readonly Section[];
  /** What stands at the foot of each page. */
  readonly foot: string;
}

/** A table without the columns in which nothing stands, in no row; any other block as it is. */
export function withoutEmptyColumns(block: Block): Block {
  if (block.kind !== 'table' || block.rows.length === 0) return block;
  const filled = block.columns.map((_, i) => block.rows.some((row) => (row[i]?.text ?? '') !== '' || row[i]?.below !== undefined));
  const keep = <T>(of: readonly T[]): readonly T[] => of.filter((_, i) => filled[i]);
  return { ...block, columns: keep(block.columns), rows: block.rows.map(keep) };
}

/** Everything a paper says, in order: for tests, and for comparing two. */
export function paperText(paper: Paper): string {
  const cell = (c: Cell): string => (c.below ? `${c.text} / ${c.below}` : c.text);
  const block = (b: Block): string => {
    switch (b.kind) {
      case 'text':
        return b.text;
      case 'heading':
        return b.beside ? `${b.text} (${b.beside})` : b.text;
      case 'facts':
        return b.rows.map((r) => `${r.name}: ${r.text}`).join('\n');
      case 'list':
        return b.items.length === 0 ? b.empty : b.items.map((i) => `- ${cell(i)}`).join('\n');
      case 'table':
        return b.rows.length === 0 ? b.empty : b.rows.map((row) => row.map(cell).join(' | ')).join('\n');
      case 'sum':
        return [b.title, ...b.lines.map((l) => `${l.words} ${l.figure}`.trim()), ...b.sources].join('\n');
      case 'drawing':
      case 'log':
        return `[${b.caption}]`;
    }
  };
  return [paper.title, ...paper.lines, ...paper.sections.flatMap((s) => [`# ${s.title}`, ...s.blocks.map(block)])].join('\n');
}
