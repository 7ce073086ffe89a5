import type { Word } from './page';

/** A box in pixels, as readers of pictures give it. */
interface Corners {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** What is used of a read picture: blocks of paragraphs of lines of words, each with its box, and how sure a word is, 0 to 100. */
export interface PictureBlock {
  readonly paragraphs: readonly {
    readonly lines: readonly {
      readonly bbox: Corners;
      readonly words: readonly { readonly text: string; readonly confidence: number; readonly bbox: Corners }[];
    }[];
  }[];
}

/** Letters that a reader of pictures takes for others, where only one of them makes sense. */
const mended: readonly (readonly [RegExp, string])[] = [
  [/^[|¦]+|[|¦]+$/g, ''],
  [/(\d)[*º’'”"](?=[CF]\b)/g, '$1°'],
  [/^[*º’'”"°]\s?([CF])\b/, '°$1'],
  [/(?<=\d)[Oo](?=\d|\b)/g, '0'],
  [/(?<=^|\d)[lI](?=\d)/g, '1'],
  [/^[—–~-]+$/, '–'],
  [/^[—–~-]+(?=\d)/, '-'],
  [/^\\[4/]?$|^\\?\/$/, 'V'],
  [/(?<=\d)\s*\\[4/]?$/, 'V'],
  [/°C(?=to\b|bis\b|and\b)/, '°C '],
];

/**
 * The words of a picture. Letters of one line are as high as each other: a dash or a point is no raised mark.
 */
export function wordsOfPicture(blocks: readonly PictureBlock[]): readonly Word[] {
  return blocks
    .flatMap((block) => block.paragraphs)
    .flatMap((paragraph) => paragraph.lines)
    .flatMap((line) => {
      // Ink is about three quarters of a letter’s height as printers count it.
      const size = 1.33 * Math.max(...line.words.map((w) => w.bbox.y1 - w.bbox.y0));
      const middle = (line.bbox.y0 + line.bbox.y1) / 2;
      return line.words.flatMap((word): Word[] => {
        const text = mended.reduce((now, [pattern, by]) => now.replace(pattern, by), word.text.trim());
        if (text === '') return [];
        const { x0, x1 } = word.bbox;
        // Words that the reader ran together are parted again, by their letters.
        const parts = text.split(' ');
        const each = (x1 - x0) / text.length;
        return parts.map((part, i) => ({
          text: part,
          x: x0 + each * parts.slice(0, i).reduce((n, before) => n + before.length + 1, 0),
          y: middle - size / 2,
          w: each * part.length,
          h: size,
          confidence: word.confidence,
        }));
      });
    });
}

/** Pixels as a canvas has them: red, green, blue, opacity, row by row. */
export interface Pixels {
  readonly data: Uint8ClampedArray | Uint8Array;
  readonly width: number;
  readonly height: number;
}

/**
 * Takes the ruled lines of tables out of a picture, in place: what is dark along a row or a column for longer than any letter. Readers of pictures take a framed
 * table for a drawing, and read nothing in it.
 *
 * @param longest of a letter’s strokes, in pixels
 */
export function eraseRules({ data, width, height }: Pixels, longest = Math.max(40, Math.round(width / 26))): void {
  const dark = new Uint8Array(width * height);
  for (let i = 0; i < dark.length; i++) dark[i] = (data[4 * i] ?? 0) + (data[4 * i + 1] ?? 0) + (data[4 * i + 2] ?? 0) < 3 * 150 ? 1 : 0;
  const rule = new Uint8Array(width * height);
  const along = (lines: number, length: number, at: (line: number, i: number) => number): void => {
    for (let line = 0; line < lines; line++)
      for (let i = 0, run = 0; i <= length; i++) {
        if (i < length && dark[at(line, i)] === 1) run++;
        else {
          if (run > longest) for (let k = i - run; k < i; k++) rule[at(line, k)] = 1;
          run = 0;
        }
      }
  };
  along(height, width, (line, i) => line * width + i);
  along(width, height, (line, i) => i * width + line);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (rule[y * width + x] !== 1) continue;
      // The soft edge of a line goes with it.
      for (const [dx, dy] of [
        [0, 0],
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ] as const) {
        const at = (y + dy) * width + x + dx;
        if (x + dx >= 0 && x + dx < width && at >= 0 && at < dark.length) for (let c = 0; c < 3; c++) data[4 * at + c] = 255;
      }
    }
}
