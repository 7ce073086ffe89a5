import type { LineEvents, OpenLine } from '@calm-keel/core/wire';
import { listenSerial, makeMessageReader } from './index';

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);
const soon = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

describe('listening to a serial port', () => {
  it('tells each sample with its moment, and what is wrong while there is none', async () => {
    let events: LineEvents | null = null;
    let clock = 5000;
    const open: OpenLine = (e) => {
      events = e;
      return Promise.resolve({ send: () => Promise.resolve(), close: () => Promise.resolve() });
    };
    const talker = listenSerial(open, () => clock);
    await soon();
    expect(talker.now()).toEqual({ heard: null, problem: 'It has said nothing yet.', let: { noise: 0, doubled: 0, late: 0, stored: 0 } });
    const come = (text: string): void => events?.bytes(utf8(text));
    come('\r\nV=26.4\r\nI=3\r\nV=26.5\r\n');
    expect(talker.now().heard).toEqual({ at: 5000, fields: { V: '26.4', I: '3' }, number: 1 });
    clock = 6000;
    come('I=4\r\n\r\n');
    expect(talker.now().heard).toEqual({ at: 6000, fields: { V: '26.5', I: '4' }, number: 2 });
    come('#!\r\n');
    expect([talker.now().let.noise, talker.now().problem]).toEqual([1, null]);
    events!.lost('the adapter was unplugged');
    expect(talker.now().problem).toBe('The adapter was unplugged.');
    // What was heard last stays with its age.
    expect(talker.now().heard?.at).toBe(6000);
    talker.close();
  });

  it('says why a port cannot be opened', async () => {
    const talker = listenSerial(() => Promise.reject(new Error('there is no port /dev/x: look whether its adapter is plugged in')));
    await soon();
    expect(talker.now().problem).toBe('There is no port /dev/x: look whether its adapter is plugged in.');
    talker.close();
  });
});

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
