import type { LineEvents, OpenLine, SerialLine } from './bus';
import { listenSerial, type Clock } from './listen';

const letters = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));
const soon = async (): Promise<void> => {
  for (let i = 0; i < 5; i++) await Promise.resolve();
};

/** A clock that goes where it is told. */
function handClock() {
  let now = 5000;
  let waiting: { at: number; then: () => void }[] = [];
  const clock: Clock = {
    now: () => now,
    after(ms, then) {
      const one = { at: now + ms, then };
      waiting.push(one);
      return () => (waiting = waiting.filter((w) => w !== one));
    },
  };
  const pass = (ms: number): void => {
    now += ms;
    const due = waiting.filter((w) => w.at <= now);
    waiting = waiting.filter((w) => w.at > now);
    for (const { then } of due) then();
  };
  return { clock, pass, waits: () => waiting.length };
}

/** A port that can be spoken into, lost and refused. */
function handPort() {
  const port = { opens: 0, closed: 0, refuses: null as string | null, events: null as LineEvents | null };
  const line: SerialLine = { send: () => Promise.resolve(), close: () => Promise.resolve(void port.closed++) };
  const open: OpenLine = (events) => {
    port.opens++;
    if (port.refuses !== null) return Promise.reject(new Error(port.refuses));
    port.events = events;
    return Promise.resolve(line);
  };
  return { port, open, come: (text: string): void => port.events?.bytes(letters(text)) };
}

describe('listening to a serial port', () => {
  it('tells each sample with its moment, and what is wrong while there is none', async () => {
    const { clock, pass } = handClock();
    const { port, open, come } = handPort();
    const talker = listenSerial(open, clock);
    await soon();
    expect(talker.now()).toEqual({ heard: null, problem: 'It has said nothing yet.', let: { noise: 0, doubled: 0, late: 0, stored: 0 } });
    come('\r\nV=26.4\r\nI=3\r\nV=26.5\r\n');
    expect(talker.now().heard).toEqual({ at: 5000, fields: { V: '26.4', I: '3' }, number: 1 });
    pass(300);
    come('I=4\r\n\r\n');
    expect(talker.now().heard).toEqual({ at: 5300, fields: { V: '26.5', I: '4' }, number: 2 });
    come('#!\r\n');
    expect([talker.now().let.noise, talker.now().problem]).toEqual([1, null]);
    port.events?.lost('the adapter was unplugged');
    expect(talker.now().problem).toBe('The adapter was unplugged.');
    // What was heard last stays with its age.
    expect(talker.now().heard?.at).toBe(5300);
    talker.close();
  });

  it('ends a sample where nothing comes for 400 ms, and not before', async () => {
    const { clock, pass } = handClock();
    const { open, come } = handPort();
    const talker = listenSerial(open, clock);
    await soon();
    come('\r\n\r\nV=26.4\r\n');
    pass(399);
    expect(talker.now().heard).toBeNull();
    pass(1);
    expect(talker.now().heard?.fields).toEqual({ V: '26.4' });
    talker.close();
  });

  it('says that another speed is likely where nothing can be read', async () => {
    const { clock, pass } = handClock();
    const { open, come } = handPort();
    const talker = listenSerial(open, clock);
    await soon();
    come('\r\n?!\r\n?!\r\n?!\r\n');
    pass(400);
    expect(talker.now().problem).toBe('It has said nothing yet.');
    come('?!\r\n');
    pass(400);
    expect(talker.now().problem).toContain('another speed');
    expect(talker.now().let.noise).toBe(4);
    talker.close();
  });

  it('says why a port cannot be opened, and tries again after three seconds', async () => {
    const { clock, pass } = handClock();
    const { port, open, come } = handPort();
    port.refuses = 'the port is in use by another program';
    const talker = listenSerial(open, clock);
    await soon();
    expect(talker.now().problem).toBe('The port is in use by another program.');
    port.refuses = null;
    pass(2999);
    expect(port.opens).toBe(1);
    pass(1);
    await soon();
    expect(port.opens).toBe(2);
    come('\r\nV=1\r\n\r\n');
    expect(talker.now().problem).toBeNull();
    talker.close();
  });

  it('gives the port back and waits for nothing more once it is closed', async () => {
    const { clock, pass, waits } = handClock();
    const { port, open, come } = handPort();
    const talker = listenSerial(open, clock);
    await soon();
    come('V=1\r\n');
    expect(waits()).toBe(1);
    talker.close();
    expect([port.closed, waits()]).toEqual([1, 0]);
    port.events?.lost('gone');
    pass(10_000);
    expect(port.opens).toBe(1);
    // One that is closed while its port is being opened gives that back too.
    const late = listenSerial(open, clock);
    late.close();
    await soon();
    expect(port.closed).toBe(2);
  });
});
