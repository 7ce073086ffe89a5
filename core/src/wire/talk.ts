import { fieldsOfJson } from '../quantity';

/** What a device said at one moment: its fields by name, as it wrote them. */
export interface Said {
  readonly fields: Readonly<Record<string, string>>;
}

/** Makes samples of the text of a device that only talks. */
export interface TalkReader {
  /** The next text as it came; a sample for each that is whole. */
  push(text: string): readonly Said[];
  /** Nothing came for a while: what was begun is whole. */
  rest(): readonly Said[];
  /** Lines that could not be read. */
  readonly noise: number;
}

/** Longer lines than this are noise. */
const longestLine = 2000;
/** More fields than any device tells. */
const mostFields = 300;
const strange = /[\u0000-\u0008\u000b-\u001f\u007f\ufffd]/;
const nameAndValue = /^\s*([\p{L}_][\p{L}\p{N}_ .#%/()[\]°²-]{0,59}?)\s*(?:[:=\t,;]\s*|\s+(?=[-+−\d.]))(.{0,80}?)\s*$/u;

/** Letters of a line whose bytes were taken one for one: as UTF-8 where they are that, else as they stand. */
function letters(line: string): string {
  if (!/[\u0080-\u00ff]/.test(line) || /[^\u0000-\u00ff]/.test(line)) return line;
  try {
    return decodeURIComponent(line.replace(/[%\u0080-\u00ff]/g, (c) => `%${c.charCodeAt(0).toString(16)}`));
  } catch {
    return line;
  }
}

/**
 * Reads lines of names and values (`volts = 26.4`, `V: 26.4`, `V 26.4`), or one JSON object a line, told apart line by line. Lines of names and values make
 * one sample until a name comes again or an empty line or a rest ends it. The first is let go: it may have begun before anybody listened. A line that is
 * damaged is counted and left out, never guessed at.
 */
export function makeTalkReader(): TalkReader {
  let rest = '';
  let noise = 0;
  let whole = false;
  let first = true;
  let fields = new Map<string, string>();

  function closed(): readonly Said[] {
    const done = fields;
    const begunInTime = whole;
    fields = new Map();
    whole = true;
    return begunInTime && done.size > 0 ? [{ fields: Object.fromEntries(done) }] : [];
  }

  function line(text: string): readonly Said[] {
    const maybeCut = first;
    first = false;
    if (text.trim() === '') return closed();
    if (text.trimStart().startsWith('{')) {
      const said = strange.test(text) ? null : fieldsOfJson(text);
      if (said) return [...closed(), { fields: Object.fromEntries(said) }];
      if (!maybeCut) noise++;
      return [];
    }
    const pair = strange.test(text) || text.length > longestLine ? null : nameAndValue.exec(text);
    if (!pair) {
      // The first line may be the end of one.
      if (!maybeCut) noise++;
      return [];
    }
    const [, name = '', value = ''] = pair;
    const out = fields.has(name) ? closed() : [];
    if (fields.size < mostFields) fields.set(name, value);
    return out;
  }

  return {
    push(text) {
      const lines = (rest + text).split(/\r\n|\n|\r(?!$)/);
      rest = lines.pop() ?? '';
      if (rest.length > longestLine) {
        rest = '';
        noise++;
      }
      return lines.flatMap((text) => line(letters(text)));
    },
    rest() {
      // Half a line is left for its other half; what was complete before it is a sample.
      return rest === '' ? closed() : [];
    },
    get noise() {
      return noise;
    },
  };
}
