import { cardSchema, wordsFrom, type Card } from '../card';
import { shipped } from '../testing/shipped';
import { readLive, readSettings, writeSetting, type Master } from './index';

const plain = shipped.cards.find((c) => c.id === 'varrow-s45')!;
/** A card with numbers of every form. */
const card: Card = cardSchema.parse({
  ...plain,
  telemetry: {
    protocol: 'modbus',
    identity: { register: 1, value: 4501 },
    firmware: 2,
    live: [
      { what: 'volts', register: 30, scale: 1, form: 'float32', table: 'input' },
      { what: 'inputWatts', register: 32, scale: 1, form: 'uint32', order: 'lowFirst', table: 'input' },
      { what: 'amps', register: 34, scale: 0.1, table: 'input' },
    ],
    values: [
      { role: 'absorbVoltage', register: 10, scale: 0.001, form: 'uint16' },
      { role: 'floatVoltage', register: 12, scale: 0.001, form: 'int32' },
    ],
  },
});

/** A device as its words, which writes down what was asked of it. */
function made(words: Map<number, number>) {
  const asked: string[] = [];
  const master: Master = {
    read(register, count, table = 'holding') {
      asked.push(`${table} ${register} ${count}`);
      return Promise.resolve({ ok: true, value: Array.from({ length: count }, (_, i) => words.get(register + i) ?? 0) });
    },
    write(register, value) {
      asked.push(`write ${register}`);
      words.set(register, value);
      return Promise.resolve({ ok: true, value: null });
    },
    close: () => undefined,
  };
  return { master, asked };
}
const held = (): Map<number, number> =>
  new Map([
    [1, 4501],
    [2, 312],
    [10, 57_600],
    ...wordsFrom({ form: 'int32' }, 54_400).map((w, i) => [12 + i, w] as const),
    ...wordsFrom({ form: 'float32' }, 56.37).map((w, i) => [30 + i, w] as const),
    ...wordsFrom({ form: 'uint32', order: 'lowFirst' }, 70_010).map((w, i) => [32 + i, w] as const),
    [34, 65_411],
  ]);

describe('a device spoken to whose numbers are of several forms', () => {
  it('tells of the moment in the display’s units, two words in one question', async () => {
    const { master, asked } = made(held());
    expect(await readLive(master, card)).toEqual({ ok: true, live: { volts: 56.37, inputWatts: 70_010, amps: -12.5 } });
    expect(asked).toEqual(['input 30 5']);
    const none = held();
    for (const register of [30, 31]) none.set(register, 0xffff);
    const read = await readLive(made(none).master, card);
    expect(read.ok && read.live.volts)
      .withContext('no number there')
      .toBeNull();
  });

  it('is read by its settings and its firmware', async () => {
    const { master } = made(held());
    expect(await readSettings(master, card)).toEqual({ ok: true, values: { absorbVoltage: 57.6, floatVoltage: 54.4 }, firmware: '3.12' });
  });

  it('is written one word and read back, without a sign past 32,767', async () => {
    const words = held();
    const { master, asked } = made(words);
    expect(await writeSetting(master, card, 'absorbVoltage', 57.2)).toEqual(jasmine.objectContaining({ kind: 'readBack', value: 57.2 }));
    expect([words.get(10), asked.filter((a) => a.startsWith('write'))]).toEqual([57_200, ['write 10']]);
  });

  it('is never written two words one after the other: nothing is asked, and it says how it is set', async () => {
    const { master, asked } = made(held());
    const outcome = await writeSetting(master, card, 'floatVoltage', 54.2);
    expect(outcome.kind).toBe('refused');
    expect(outcome.says).toContain('is in two registers, which are read and not written. Key it in by hand.');
    expect(asked).toEqual([]);
  });

  it('a card whose second word lies on another setting’s register is no card', () => {
    const over = {
      ...card,
      telemetry: { ...card.telemetry!, values: [...card.telemetry!.values.slice(1), { role: 'absorbVoltage', register: 13, scale: 0.1 }] },
    };
    const read = cardSchema.safeParse(over);
    expect(read.error?.issues[0]?.message).toBe('register 13 already holds floatVoltage');
  });
});
