/** Where something lies on a page: fractions of its width and height, from the upper left corner. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

/** A word on a page, in the page’s own units from its upper left corner. */
export interface Word {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
  /** It is printed from bottom to top or top to bottom. */
  readonly turned?: boolean;
  /** How sure a reader of pictures is of it, 0 to 100; missing for text that was printed as text. */
  readonly confidence?: number;
}

/** A reader of pictures that is less sure than this of a word, of 100, should be looked after. */
export const surely = 80;

/** A page with its words, in no particular order. */
export interface PaperPage {
  /** Counting from 1. */
  readonly number: number;
  readonly width: number;
  readonly height: number;
  readonly words: readonly Word[];
}

/** A run of text as PDF readers give it: its transformation into page units, and its length along the line. */
export interface TextItem {
  readonly str: string;
  /** a, b, c, d, e, f of the page’s matrix: the first two along the line, the last two where its baseline begins. */
  readonly transform: readonly number[];
  readonly width: number;
}

/** About how wide a letter is beside others of its font. */
const weight = (letter: string): number => (/[il.,:;'’|!()[\]\s]/.test(letter) ? 0.55 : /[mwMW@%…—]/.test(letter) ? 1.45 : /[A-Z°]/.test(letter) ? 1.15 : 1);
const weigh = (text: string): number => [...text].reduce((sum, letter) => sum + weight(letter), 0);

/** Baseline to top of letters, and the height of a line’s letters, in font sizes. */
const rise = 0.8;

/**
 * The words of a page from runs of text. A run of several words is parted by the usual widths of letters; runs that touch make one word, unless one of them is
 * a raised mark.
 *
 * @param items in page units from the upper left corner
 */
export function wordsOfItems(items: readonly TextItem[]): readonly Word[] {
  const words: Word[] = [];
  for (const { str, transform, width } of items) {
    const [a = 1, b = 0, c = 0, d = 1, e = 0, f = 0] = transform;
    const size = Math.hypot(c, d);
    if (size === 0 || width <= 0) continue;
    const turned = Math.abs(b) > Math.abs(a);
    const total = weigh(str);
    let at = 0;
    for (const piece of str.split(/(\s+)/)) {
      const from = (at / total) * width;
      at += weigh(piece);
      const length = (at / total) * width - from;
      if (piece.trim() === '') continue;
      if (turned) {
        const up = b < 0;
        words.push({ text: piece, x: up ? e - size * rise : e - size * (1 - rise), y: up ? f - from - length : f + from, w: size, h: length, turned });
      } else words.push({ text: piece, x: a < 0 ? e - from - length : e + from, y: f - size * rise, w: length, h: size });
    }
  }
  return joined(words);
}

/** Words that touch on one line are one: a minus from another font, a unit set apart by nothing. */
function joined(words: readonly Word[]): readonly Word[] {
  const done: Word[] = [];
  for (const word of words) {
    const last = done.at(-1);
    const touches =
      last !== undefined &&
      !last.turned &&
      !word.turned &&
      Math.abs(last.h - word.h) < 0.1 * word.h &&
      Math.abs(last.y - word.y) < 0.2 * word.h &&
      Math.abs(word.x - (last.x + last.w)) < 0.06 * word.h;
    if (touches) done.splice(-1, 1, { ...last, text: last.text + word.text, w: word.x + word.w - last.x });
    else done.push(word);
  }
  return done;
}

/** Boxes around words, one for each line they run over, as fractions of their page. */
export function boxesAround(words: readonly Word[], page: Pick<PaperPage, 'width' | 'height'>): readonly Box[] {
  const lines: Word[][] = [];
  for (const word of [...words].sort((a, b) => a.y - b.y || a.x - b.x)) {
    const last = lines.at(-1)?.at(-1);
    if (last && Math.abs(last.y + last.h / 2 - (word.y + word.h / 2)) < 0.6 * Math.max(last.h, word.h)) lines.at(-1)?.push(word);
    else lines.push([word]);
  }
  return lines.map((line) => around(line, page));
}

function around(words: readonly Word[], { width, height }: Pick<PaperPage, 'width' | 'height'>): Box {
  const x = Math.min(...words.map((w) => w.x));
  const y = Math.min(...words.map((w) => w.y));
  const cut = (n: number): number => Math.round(Math.min(1, Math.max(0, n)) * 1e4) / 1e4;
  return {
    x: cut(x / width),
    y: cut(y / height),
    w: cut((Math.max(...words.map((w) => w.x + w.w)) - x) / width),
    h: cut((Math.max(...words.map((w) => w.y + w.h)) - y) / height),
  };
}
