import { listenSerial, type LineEvents, type OpenLine, type TalkState } from '@calm-keel/core/wire';
import { randomFrom } from '../../core/src/physics';
import { makeMessageReader } from '../../wire/src/talkers';
import { counting, type Row } from './table';

/** What a device said: its own number in every field, so that whatever is heard can be looked up. */
const sample = (n: number): Readonly<Record<string, string>> => ({
  volts: (20 + n / 1000).toFixed(3),
  amps: (n / 10).toFixed(1),
  time: String(1_700_000_000 + n),
});

/**
 * Looks at what is heard: under each name only what was said under it, never older than what was heard before.
 *
 * @param once at most one sample is said between two looks
 */
function listening(count: ReturnType<typeof counting>, said: ReadonlyMap<string, ReadonlyMap<string, number>>, once: boolean) {
  const newest = new Map<string, number>();
  let number = 0;
  return (state: TalkState, example: string): void => {
    const { heard } = state;
    if (!heard || heard.number === number) return void count.came(state.problem === null ? 'nothing new' : 'nothing, and said why');
    if (once && heard.number > number + 1) count.fault('taken twice', example);
    number = heard.number;
    for (const [name, value] of Object.entries(heard.fields)) {
      const n = said.get(name)?.get(value);
      if (n === undefined) return void count.fault('something never said', `${example}: ${name} ${value}`);
      if (n < (newest.get(name) ?? 0)) return void count.fault('old for new', `${example}: ${name} ${value}`);
      newest.set(name, n);
    }
    count.came(Object.keys(heard.fields).length === 3 ? 'whole' : 'a part, the rest left out');
  };
}

/** Remembers what was said, by name. */
function telling() {
  const said = new Map<string, Map<string, number>>();
  return {
    said,
    tell: (n: number): Readonly<Record<string, string>> => {
      const fields = sample(n);
      for (const [name, value] of Object.entries(fields)) said.set(name, (said.get(name) ?? new Map<string, number>()).set(value, n));
      return fields;
    },
  };
}

/** A talker on a serial port: noise in its lines and between them, pieces of any size, rests anywhere, and a port that is lost in the middle of a line. */
export function attackTalker(rounds: number, seed: number): Row {
  const count = counting('talker on a serial port, faulty lines');
  const random = randomFrom(seed);
  const { said, tell } = telling();
  let look = listening(count, said, false);
  const lines: { at: LineEvents | null } = { at: null };
  const open: OpenLine = (events) => {
    lines.at = events;
    return Promise.resolve({ send: () => Promise.resolve(), close: () => Promise.resolve() });
  };
  // The port is opened anew here and not by the clock.
  let talker = listenSerial(open, { now: () => 0, after: () => () => undefined });
  const noise = (): string =>
    String.fromCharCode(...Array.from({ length: 1 + Math.floor(random() * 6) }, () => [0, 1, 7, 14, 27, 31, 127][Math.floor(random() * 7)] ?? 0));
  for (let n = 1; n <= rounds; n++) {
    const json = random() < 0.3;
    const fields = Object.entries(tell(n));
    let text = json ? `${JSON.stringify(Object.fromEntries(fields))}\r\n` : `${fields.map(([name, value]) => `${name}=${value}`).join('\r\n')}\r\n\r\n`;
    if (random() < 0.25) {
      const at = Math.floor(random() * text.length);
      text = text.slice(0, at) + noise() + text.slice(at);
    }
    if (random() < 0.08) text = `${noise()}\r\n${text}`;
    // The port is gone in the middle of a line; what was begun is nobody's.
    const gone = random() < 0.06;
    if (gone) text = text.slice(0, Math.floor(random() * text.length));
    for (let at = 0; at < text.length;) {
      const size = 1 + Math.floor(random() * 20);
      lines.at?.bytes(Uint8Array.from(text.slice(at, at + size), (c) => c.charCodeAt(0)));
      at += size;
    }
    if (gone) {
      lines.at?.lost('the adapter was unplugged');
      talker.close();
      talker = listenSerial(open, { now: () => 0, after: () => () => undefined });
      look = listening(count, said, false);
    }
    look(talker.now(), `round ${n}`);
  }
  talker.close();
  return count.row();
}

/** Messages of a broker: doubled, late, out of its store, cut, no numbers, clocks that jump, other topics. */
export function attackMessages(rounds: number, seed: number): Row {
  const count = counting('messages of a broker, faulty');
  const random = randomFrom(seed);
  const { said, tell } = telling();
  // A bare word under a topic of its own was said as it stands; it is no number to anybody who reads it.
  said.set(
    'now',
    new Map([
      ['null', 0],
      ['NaN', 0],
    ]),
  );
  const reader = makeMessageReader('site/#', () => 0);
  const look = listening(count, said, true);
  const earlier: string[] = [];
  const fresh = { stored: false, repeated: false };
  // What a stored message says is true of some other day.
  const old = JSON.stringify(sample(999_999));
  for (let n = 1; n <= rounds; n++) {
    const r = random();
    const text = JSON.stringify(tell(n));
    const before = earlier[Math.floor(random() * earlier.length)] ?? text;
    if (r < 0.5) reader.take('site/now', text, fresh);
    else if (r < 0.58) for (const repeated of [false, true]) reader.take('site/now', text, { stored: false, repeated });
    else if (r < 0.68) reader.take('site/now', before, { stored: false, repeated: random() < 0.5 });
    else if (r < 0.76) reader.take('site/now', old, { ...fresh, stored: true });
    else if (r < 0.84) reader.take('site/now', text.slice(0, Math.floor(random() * text.length)), fresh);
    else if (r < 0.9)
      reader.take(
        'site/now',
        text.replace(/[0-9]/g, (d) => (random() < 0.3 ? '\u0000' : d)),
        fresh,
      );
    else if (r < 0.95) reader.take('site/now', ['', 'null', '[1,2]', '{', 'NaN', '\ufffd', 'x'.repeat(500)][Math.floor(random() * 7)] ?? '', fresh);
    else reader.take('site/', text, fresh);
    earlier.push(text);
    look(reader.now(), `round ${n}`);
  }
  return count.row();
}
