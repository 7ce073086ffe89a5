import { makeMessageReader } from './index';

describe('messages of a broker', () => {
  const fresh = { stored: false, repeated: false };
  it('an object is a sample; doubled, late and stored ones are counted and let go', () => {
    let clock = 1000;
    const reader = makeMessageReader('site/#', () => clock);
    reader.take('site/now', '{"time":100,"bank":{"volts":26.4}}', { ...fresh, stored: true });
    expect(reader.now().heard).toBeNull();
    expect(reader.now().problem).toContain('nobody knows how old');
    reader.take('site/now', '{"time":101,"bank":{"volts":26.5}}', fresh);
    expect(reader.now()).toEqual({
      heard: { at: 1000, fields: { time: '101', 'bank.volts': '26.5' }, number: 1 },
      problem: null,
      let: { noise: 0, doubled: 0, late: 0, stored: 1 },
    });
    clock = 2000;
    reader.take('site/now', '{"time":101,"bank":{"volts":26.5}}', fresh);
    reader.take('site/now', '{"time":99,"bank":{"volts":20}}', fresh);
    reader.take('site/now', '{"time":100,"bank":{"volts":20}}', fresh);
    expect([reader.now().heard?.number, reader.now().let.doubled, reader.now().let.late]).toEqual([1, 1, 2]);
    reader.take('site/now', '{"time":102,"bank":{"volts":26.6}}', fresh);
    expect(reader.now().heard).toEqual({ at: 2000, fields: { time: '102', 'bank.volts': '26.6' }, number: 2 });
    // Written dates are compared as dates.
    reader.take('other', '{"timestamp":"2026-06-14T05:00:10Z","v":1}', fresh);
    reader.take('other', '{"timestamp":"2026-06-14T05:00:09Z","v":2}', fresh);
    expect([reader.now().heard?.fields['v'], reader.now().let.late]).toEqual(['1', 3]);
  });

  it('without a time of its own only what the broker itself calls repeated is doubled', () => {
    const reader = makeMessageReader('t', () => 0);
    reader.take('t', '{"v":1}', fresh);
    reader.take('t', '{"v":1}', fresh);
    reader.take('t', '{"v":1}', { ...fresh, repeated: true });
    reader.take('t', '{"v":2}', { ...fresh, repeated: true });
    expect([reader.now().heard?.number, reader.now().let.doubled]).toEqual([3, 1]);
  });

  it('values with a topic of their own make one sample of those that lie together', () => {
    let clock = 0;
    const reader = makeMessageReader('boat/+/bank/#', () => clock);
    reader.take('boat/1/bank/volts', '26.4', fresh);
    clock = 9000;
    reader.take('boat/1/bank/amps', ' -3.2 ', fresh);
    expect(reader.now().heard).toEqual({ at: 9000, fields: { '1/bank/volts': '26.4', '1/bank/amps': '-3.2' }, number: 2 });
    clock = 10_001;
    reader.take('boat/1/bank/amps', '-3.3', fresh);
    // The volts are too old to belong to it.
    expect(reader.now().heard?.fields).toEqual({ '1/bank/amps': '-3.3' });
    for (const noise of ['', '[1,2]', 'a\u0000b', 'x'.repeat(81)]) reader.take('boat/1/bank/volts', noise, fresh);
    expect([reader.now().let.noise, reader.now().heard?.number]).toEqual([4, 3]);
  });
});
