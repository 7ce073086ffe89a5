import { seeded } from '../testing/fixtures';
import { rounds } from '../testing/rounds';
import { answerOf, crc16, readFrame, writeFrame } from './index';

const bytes = (hex: string): Uint8Array<ArrayBuffer> => Uint8Array.from(hex.split(' '), (b) => Number.parseInt(b, 16));
const joined = (...parts: readonly (Uint8Array | readonly number[])[]): Uint8Array => Uint8Array.from(parts.flatMap((p) => [...p]));
function sealed(...body: readonly number[]): Uint8Array {
  const sum = crc16(Uint8Array.from(body));
  return Uint8Array.of(...body, sum % 256, Math.floor(sum / 256));
}

describe('frames on a serial line', () => {
  it('carry the sum of the protocol’s own examples', () => {
    expect(crc16(bytes('02 07'))).toBe(0x1241);
    expect(readFrame(0x11, 0x6b, 3, 'holding')).toEqual(bytes('11 03 00 6b 00 03 76 87'));
    expect(readFrame(0x11, 0x08, 1, 'input')).toEqual(bytes('11 04 00 08 00 01 b2 98'));
    expect(writeFrame(0x11, 0x01, 0x03)).toEqual(bytes('11 06 00 01 00 03 9a 9b'));
  });

  it('are answered by words, a repeated order, or a code', () => {
    expect(answerOf(readFrame(0x11, 0x6b, 3, 'holding'), bytes('11 03 06 ae 41 56 52 43 40 49 ad'))).toEqual({
      kind: 'values',
      values: [0xae41, 0x5652, 0x4340],
    });
    expect(answerOf(writeFrame(0x11, 1, 3), bytes('11 06 00 01 00 03 9a 9b'))).toEqual({ kind: 'written' });
    expect(answerOf(readFrame(7, 1, 1, 'holding'), sealed(7, 0x83, 2))).toEqual({ kind: 'refused', code: 2 });
    expect(answerOf(readFrame(7, 1, 1, 'input'), sealed(7, 4, 2, 1, 44))).toEqual({ kind: 'values', values: [300] });
  });

  it('say what came instead of an answer', () => {
    const question = readFrame(7, 0x0210, 1, 'holding');
    const open = (...parts: readonly (Uint8Array | readonly number[])[]): string => {
      const so = answerOf(question, joined(...parts));
      return so.kind === 'open' ? so.text : so.kind;
    };
    expect(open()).toBe('no answer in time');
    expect(open(question)).toBe('only the echo of the question came back');
    expect(open(sealed(9, 3, 2, 0, 1))).toBe('unit 9 answered instead of unit 7');
    expect(open(sealed(9, 0x83, 2))).toBe('unit 9 answered instead of unit 7');
    expect(open([1, 2, 3, 4])).toBe('4 bytes came that are no answer: noise, another speed, or half a frame');
    expect(open(question, [9, 9])).toContain('2 bytes came');
    expect(open(sealed(7, 3, 2, 0, 1).slice(0, 6))).toContain('6 bytes came');
    // Words for another question: of another table, of another length.
    expect(open(sealed(7, 4, 2, 0, 1))).toContain('7 bytes');
    expect(open(sealed(7, 3, 4, 0, 1, 0, 2))).toContain('9 bytes');
    // An order is not answered by the order for another word.
    expect(answerOf(writeFrame(7, 1, 3), writeFrame(7, 1, 4)).kind).toBe('open');
  });

  it('are found behind noise and the echo of the question, and no damaged byte makes another value of them', () => {
    const random = seeded(3);
    const byte = (): number => Math.floor(random() * 256);
    for (let k = 0; k < rounds(4000); k++) {
      const count = 1 + Math.floor(random() * 5);
      const unit = 1 + Math.floor(random() * 247);
      const question = readFrame(unit, byte() * 256 + byte(), count, random() < 0.5 ? 'holding' : 'input');
      const words = Array.from({ length: count }, () => byte() * 256 + byte());
      const frame = sealed(unit, question[1] ?? 0, 2 * count, ...words.flatMap((w) => [w >> 8, w & 0xff]));
      const before = random() < 0.4 ? question : Uint8Array.from({ length: Math.floor(random() * 4) }, byte);
      expect(answerOf(question, joined(before, frame)))
        .withContext(`${k}`)
        .toEqual({ kind: 'values', values: words });
      const damaged = frame.slice();
      const at = Math.floor(random() * damaged.length);
      damaged[at] = (damaged[at] ?? 0) ^ (1 + Math.floor(random() * 255));
      const so = answerOf(question, damaged);
      if (so.kind !== 'open') fail(`${k}: ${JSON.stringify(so)}`);
      if (answerOf(question, frame.slice(0, frame.length - 1)).kind !== 'open') fail(`${k}: taken before it was whole`);
    }
  });
});
