import { columnsOf, type Cell, type Line } from './lines';
import type { PaperPage } from './page';

/** A line that can head the columns of a table: three cells and more, none of them a figure. */
const isHead = (line: Line): boolean => line.cells.length >= 3 && line.cells.every((cell) => /\p{L}/u.test(cell.text) && !/\d/.test(cell.text));

/** Place of the column that a cell stands under: the one that it shares most of its width with, else the nearest. */
function columnOf(cell: Cell, heads: readonly Cell[]): number {
  const shared = heads.map((head) => Math.min(cell.x1, head.x1) - Math.max(cell.x0, head.x0));
  return shared.indexOf(Math.max(...shared));
}

/** The cells of a line, each in its column, an empty one where the table has none. */
function underHeads(line: Line, heads: readonly Cell[]): readonly string[] {
  const cells = heads.map(() => '');
  for (const cell of line.cells) {
    const at = columnOf(cell, heads);
    cells[at] = [cells[at] ?? '', cell.text].filter((text) => text !== '').join(' ');
  }
  return cells;
}

/**
 * Pages as text that keeps its tables: one line of the page a line, its cells parted by tabs and standing under the heads of their columns, empty where the
 * table is empty.
 *
 * @example tableTexts(pages)[0] // "Parameter\tRange\tDefault\nFloat voltage\t13.0–15.0 V\t13.6 V"
 */
export function tableTexts(pages: readonly PaperPage[]): readonly string[] {
  return pages.map((page) =>
    columnsOf(page)
      .flatMap((lines) => {
        let heads: readonly Cell[] | null = null;
        return lines
          .filter((line) => line.turned !== true)
          .map((line) => {
            if (isHead(line)) heads = line.cells;
            else if (heads && line.cells.length >= 2) return underHeads(line, heads).join('\t');
            return line.cells.map((cell) => cell.text).join('\t');
          });
      })
      .join('\n'),
  );
}
