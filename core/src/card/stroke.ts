/** One stroke on the way to a value: a key to press, or what the display then shows. */
export interface KeyStroke {
  readonly kind: 'key' | 'shows';
  readonly text: string;
  /** "hold 3 s", "2 times". */
  readonly how?: string;
}

/** "Down: 2 times", "[Levels]" as a stroke. */
export function keyStroke(text: string): KeyStroke {
  if (text.startsWith('[') && text.endsWith(']')) return { kind: 'shows', text: text.slice(1, -1) };
  const at = text.indexOf(': ');
  return at < 0 ? { kind: 'key', text } : { kind: 'key', text: text.slice(0, at), how: text.slice(at + 2) };
}

/** What a finger does with one key at one time; a knob is turned, too. */
export interface Stroke {
  readonly key: string;
  readonly act: 'press' | 'hold' | 'right' | 'left';
  /** How long it is held, s. */
  readonly seconds?: number | undefined;
}

/** The strokes that one line of a card stands for, and whether a knob is turned until the next name shows. */
export interface Strokes {
  readonly strokes: readonly Stroke[];
  /** The key that is turned until the display shows what comes next. */
  readonly turnsTo: string | null;
}

/**
 * Reads what a card says of a key as strokes of a finger. Words it does not know are a plain press.
 *
 * @example strokesOf('Down: 2 times').strokes.length // 2
 * @example strokesOf('Enter: hold 3 s').strokes // [{ key: 'Enter', act: 'hold', seconds: 3 }]
 */
export function strokesOf(text: string): Strokes {
  const { text: key, how = '' } = keyStroke(text);
  const times = /^(\d+) times?$/.exec(how);
  if (times) return { strokes: Array.from({ length: Math.min(200, Number(times[1])) }, (): Stroke => ({ key, act: 'press' })), turnsTo: null };
  const hold = /^hold (\d+(?:\.\d+)?) s$/.exec(how);
  if (hold) return { strokes: [{ key, act: 'hold', seconds: Number(hold[1]) }], turnsTo: null };
  if (how === 'turn to') return { strokes: [], turnsTo: key };
  if (how === 'turn right' || how === 'turn left') return { strokes: [{ key, act: how === 'turn right' ? 'right' : 'left' }], turnsTo: null };
  return { strokes: [{ key, act: 'press' }], turnsTo: null };
}

/** The one stroke that a line of a card stands for: the first where it is several, a turn to the right where it turns. */
export function strokeOf(text: string): Stroke {
  const { strokes, turnsTo } = strokesOf(text);
  return strokes[0] ?? { key: turnsTo ?? text, act: 'right' };
}

/** Whether a stroke does what a card asks for: the same key and act, held at least as long. */
export const sameStroke = (done: Stroke, asked: Stroke): boolean =>
  done.key === asked.key && done.act === asked.act && (asked.act !== 'hold' || (done.seconds ?? 0) >= (asked.seconds ?? 0) - 1e-9);
