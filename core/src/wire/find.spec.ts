import { seeded } from '../testing/fixtures';
import { rounds } from '../testing/rounds';
import { candidatesFor, readRange, shownNumber, stillFitting, type Frame, type Master, type Words } from './index';

const words = (...pairs: readonly (readonly [number, number])[]): Words => new Map(pairs);

describe('registers found by reading', () => {
  it('what a display shows can be rounded or cut off, and never finer than it is held', () => {
    const at = (raw: number, shown: string): string =>
      candidatesFor(words([7, raw < 0 ? raw + 65_536 : raw]), shown)
        .map((c) => String(c.scale))
        .join(' ');
    expect(at(284, '28.4')).toBe('0.1');
    expect(at(2835, '28.4')).toBe('0.01');
    expect(at(2849, '28.4')).toBe('0.01');
    expect(at(2834, '28.4')).toBe('');
    expect(at(2850, '28.4')).toBe('');
    expect(at(28_400, '28.4')).toBe('0.001');
    expect(at(28, '28')).toBe('1');
    // A count of ten behind a display of ones has to be exact.
    expect(at(3, '30')).toBe('10');
    expect(at(3, '31')).toBe('');
    expect(at(-5, '−0.5')).toBe('0.1');
    expect(at(-59, '-0.5')).toBe('0.01');
    expect(at(-60, '-0.5')).toBe('');
    expect(at(284, '28,4')).toBe('0.1');
    expect(at(0, '0')).toBe('');
    expect(at(-32_768, '-32768')).toBe('');
    expect([shownNumber('28.4 V'), shownNumber(''), shownNumber('−3,5')]).toEqual([null, null, -3.5]);
  });

  it('a second reading after a change leaves the one that moved with it', () => {
    const first = words([10, 284], [11, 284], [12, 2840], [13, 27], [14, 284]);
    const open = candidatesFor(first, '28.4');
    expect(open.map((c) => c.register)).toEqual([10, 11, 12, 14]);
    const second = words([10, 284], [11, 280], [12, 2850], [13, 28]);
    expect(stillFitting(open, second, '28.0')).toEqual([{ register: 11, scale: 0.1, raw: 280 }]);
    // A value that reads the same again tells nothing, and takes nothing away but what no longer fits.
    expect(stillFitting(open, words([10, 284], [11, 284], [12, 2841], [14, 283]), '28.4').map((c) => c.register)).toEqual([10, 11, 12]);
    expect(stillFitting(open, second, 'none')).toEqual([]);
  });

  it('a number that needs two words, or no sign, is found with its form; what a plainer way makes of the words is not found twice', () => {
    const forms = (shown: string, ...held: readonly number[]) =>
      candidatesFor(words(...held.map((w, i) => [20 + i, w] as const)), shown).map((c) => [c.register, c.form ?? 'int16', c.order ?? 'highFirst', c.scale]);
    // 48.2 V in thousandths does not go into a word with a sign.
    expect(forms('48.2', 48_200)).toEqual([[20, 'uint16', 'highFirst', 0.001]]);
    // 70,000 W: 1 × 65,536 + 4,464.
    expect(forms('70000', 1, 4464)).toEqual([[20, 'int32', 'highFirst', 1]]);
    expect(forms('70000', 4464, 1)).toEqual([[20, 'int32', 'lowFirst', 1]]);
    expect(forms('-70000', 0xfffe, 0xee90)).toEqual([[20, 'int32', 'highFirst', 1]]);
    expect(forms('3000000000', 0xb2d0, 0x5e00)).toEqual([[20, 'uint32', 'highFirst', 1]]);
    // A small number with a word of nought before it is one word.
    expect(forms('28.4', 0, 284)).toEqual([[21, 'int16', 'highFirst', 0.1]]);
    expect(forms('-5', 0xffff, 0xffce)).toEqual([[21, 'int16', 'highFirst', 0.1]]);
    // 28.4 as a float of 32 bits: 41 E3 33 33.
    expect(forms('28.4', 0x41e3, 0x3333)).toEqual([[20, 'float32', 'highFirst', 1]]);
    expect(forms('28.4', 0x3333, 0x41e3)).toEqual([[20, 'float32', 'lowFirst', 1]]);
    expect(forms('28.5', 0x41e3, 0x3333)).toEqual([]);
  });

  it('two words are followed together after a change', () => {
    const open = candidatesFor(words([20, 1], [21, 4464]), '70000');
    expect(stillFitting(open, words([20, 1], [21, 4474]), '70010')).toEqual([{ register: 20, form: 'int32', scale: 1, raw: 70_010 }]);
    expect(stillFitting(open, words([20, 1], [21, 4464]), '70010')).toEqual([]);
    expect(stillFitting(open, words([20, 1]), '70000'))
      .withContext('half of it is no number')
      .toEqual([]);
  });

  it('the register that holds a value is always among those that fit, whatever its scaling', () => {
    const random = seeded(8);
    for (let k = 0; k < rounds(3000); k++) {
      const scale = [0.1, 0.01, 1, 0.001, 10][Math.floor(random() * 5)] ?? 1;
      const raw = 1 + Math.floor(random() * 30_000);
      const decimals = Math.min(3, Math.max(0, -Math.round(Math.log10(scale))));
      const shown = (raw * scale).toFixed(random() < 0.5 ? decimals : Math.max(0, decimals - 1));
      if (Number(shown) === 0) continue;
      if (!candidatesFor(words([1, raw]), shown).some((c) => c.scale === scale)) fail(`${raw} × ${scale} shown as ${shown}`);
    }
  });
});

describe('reading a range', () => {
  /** A device with these registers, which refuses what it has not; it keeps what it was asked. */
  function made(registers: ReadonlyMap<number, number>, silentAt = Infinity) {
    const asked: [number, number][] = [];
    const master: Master = {
      read: (from, count): Promise<Frame<readonly number[]>> => {
        asked.push([from, count]);
        if (asked.length > silentAt) return Promise.resolve({ ok: false, failure: { kind: 'silent', text: 'no answer in time' } });
        const values = Array.from({ length: count }, (_, i) => registers.get(from + i));
        return Promise.resolve(
          values.every((v) => v !== undefined) ? { ok: true, value: values.map((v) => v ?? 0) } : { ok: false, failure: { kind: 'refused', code: 2 } },
        );
      },
      write: () => Promise.reject(new Error('never')),
      close: () => undefined,
    };
    return { master, asked };
  }
  const noPause = (): Promise<void> => Promise.resolve();

  it('finds every register there is, around those that are missing, and asks for none beyond', async () => {
    const random = seeded(4);
    for (let k = 0; k < 30; k++) {
      const there = new Map(Array.from({ length: 100 }, (_, i) => [200 + i, Math.floor(random() * 65_536)] as const).filter(() => random() < 0.9));
      const { master, asked } = made(there);
      const { words: read, failure } = await readRange(master, { from: 200, count: 100, table: 'holding' }, noPause);
      expect(failure).toBeNull();
      expect([...read].sort((a, b) => a[0] - b[0])).toEqual([...there]);
      expect(asked.every(([from, count]) => from >= 200 && from + count <= 300 && count <= 16)).toBeTrue();
    }
  });

  it('ends where the device falls silent or is stopped, with what was read so far', async () => {
    const there = new Map(Array.from({ length: 64 }, (_, i) => [i, i]));
    const silent = await readRange(made(there, 2).master, { from: 0, count: 64, table: 'input' }, noPause);
    expect([silent.words.size, silent.failure]).toEqual([32, { kind: 'silent', text: 'no answer in time' }]);
    let asks = 0;
    const stopped = await readRange(made(there).master, { from: 0, count: 64, table: 'input' }, noPause, () => ++asks > 3);
    expect([stopped.words.size, stopped.failure]).toEqual([48, null]);
  });
});
