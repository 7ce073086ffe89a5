import crc16 from 'modbus-serial/utils/crc16.js';
import { makeSerialBus, type LineEvents, type OpenLine } from '@calm-keel/core/wire';
import { waits } from './bus';

/** What a made-up device does with a question: the words of its answer and when it comes. */
interface Behaviour {
  /** ms until the answer. */
  after?: number;
  /** Nothing comes. */
  mute?: boolean;
  /** Changes the bytes of the answer. */
  bytes?: (frame: Buffer) => Buffer;
}

/** A line with devices at units 1 to 9; each reads back its register number plus 1000 times its unit, until it is written. */
class MadeLine {
  readonly frames: { unit: number; code: number }[] = [];
  /** Questions asked while another’s answer was on its way. */
  overlaps = 0;
  private underWay = 0;
  readonly memory = new Map<string, number>();
  behave: (unit: number, nth: number) => Behaviour = () => ({});
  opened = 0;
  open = 0;
  refuses: string | null = null;
  private events: LineEvents | null = null;

  readonly opener: OpenLine = (events) => {
    if (this.refuses !== null) return Promise.reject(new Error(this.refuses));
    this.opened++;
    this.open++;
    this.events = events;
    return Promise.resolve({
      send: (bytes) => {
        this.take(Buffer.from(bytes));
        return Promise.resolve();
      },
      close: () => {
        this.open--;
        return Promise.resolve();
      },
    });
  };

  /** Bytes from nowhere: noise, or a neighbour. */
  noise(bytes: Uint8Array): void {
    this.events?.bytes(bytes);
  }
  unplug(): void {
    this.open--;
    this.events?.lost('the adapter was unplugged');
  }

  private take(frame: Buffer): void {
    const unit = frame[0] ?? 0;
    const code = frame[1] ?? 0;
    this.frames.push({ unit, code });
    if (this.underWay > 0) this.overlaps++;
    if (unit > 9) return;
    const how = this.behave(unit, this.frames.length);
    const register = frame.readUInt16BE(2);
    let body: Buffer;
    if (code === 6) {
      this.memory.set(`${unit} ${register}`, frame.readUInt16BE(4));
      body = Buffer.from(frame.subarray(0, 6));
    } else {
      const count = frame.readUInt16BE(4);
      body = Buffer.alloc(3 + 2 * count);
      body.set([unit, code, 2 * count]);
      for (let i = 0; i < count; i++) body.writeUInt16BE(this.memory.get(`${unit} ${register + i}`) ?? 1000 * unit + register + i, 3 + 2 * i);
    }
    const sum = crc16(body);
    const answer = Buffer.concat([body, Buffer.of(sum & 0xff, sum >> 8)]);
    if (how.mute) return;
    const out = how.bytes ? how.bytes(answer) : answer;
    this.underWay++;
    setTimeout(() => {
      this.underWay--;
      this.events?.bytes(out);
    }, how.after ?? 1);
  }
}

const patience = 120;

describe('a serial line shared by devices', () => {
  let line: MadeLine;
  let bus: ReturnType<typeof makeSerialBus>;
  beforeEach(() => {
    line = new MadeLine();
    bus = makeSerialBus(line.opener, waits, patience);
  });
  afterEach(() => {
    bus.close();
  });

  it('each unit answers for itself, from either table, and one question is asked at a time', async () => {
    line.behave = () => ({ after: 15 });
    const asked = await Promise.all([1, 2, 3, 4].map((unit) => bus.unit(unit).read(7, 2, unit === 3 ? 'input' : 'holding')));
    expect(asked.map((a) => a.ok && a.value)).toEqual([1, 2, 3, 4].map((unit) => [1000 * unit + 7, 1000 * unit + 8]));
    expect(line.frames.map((f) => [f.unit, f.code])).toEqual([
      [1, 3],
      [2, 3],
      [3, 4],
      [4, 3],
    ]);
    expect(line.overlaps).toBe(0);
    expect(line.opened).toBe(1);
  });

  it('an answer that comes too late is not taken for the next one, of a neighbour or of itself', async () => {
    // The first question of unit 1 is answered while the second try is waiting for its own.
    line.behave = (unit, nth) => (unit === 1 && nth === 1 ? { after: patience + 60 } : {});
    expect(await bus.unit(1).read(20, 1)).toEqual({ ok: true, value: [1020] });
    line.frames.length = 0;
    line.behave = (unit, nth) => (unit === 1 && nth <= 2 ? { after: patience + 60 } : {});
    expect((await bus.unit(1).read(30, 1)).ok).toBeFalse();
    // Both answers to register 30 are on their way; the next questions have their own.
    expect(await bus.unit(1).read(31, 1)).toEqual({ ok: true, value: [1031] });
    expect(await bus.unit(2).read(32, 1)).toEqual({ ok: true, value: [2032] });
  });

  it('a question without an answer is asked once more, an order never', async () => {
    line.behave = () => ({ mute: true });
    const read = await bus.unit(1).read(1, 1);
    expect(read).toEqual({ ok: false, failure: { kind: 'silent', text: 'no answer in time' } });
    expect(line.frames.length).toBe(2);
    line.frames.length = 0;
    expect((await bus.unit(1).write(5, 77)).ok).toBeFalse();
    expect(line.frames.map((f) => f.code)).toEqual([6]);
    line.behave = () => ({});
    expect(await bus.unit(1).write(5, 78)).toEqual({ ok: true, value: null });
    expect(line.memory.get('1 5')).toBe(78);
  });

  it('a device that says no is asked no more, and the line stays open', async () => {
    line.behave = () => ({
      bytes: (frame) => {
        const body = Buffer.of(frame[0] ?? 0, (frame[1] ?? 0) | 0x80, 2);
        const sum = crc16(body);
        return Buffer.concat([body, Buffer.of(sum & 0xff, sum >> 8)]);
      },
    });
    expect(await bus.unit(1).read(1, 1)).toEqual({ ok: false, failure: { kind: 'refused', code: 2 } });
    expect([line.frames.length, line.opened, line.open]).toEqual([1, 1, 1]);
  });

  it('noise, half frames and other units are named, and what comes after is right again', async () => {
    for (const [bytes, text] of [
      [(f: Buffer) => f.subarray(0, f.length - 2), '5 bytes came that are no answer: noise, another speed, or half a frame'],
      [
        (f: Buffer) => {
          const body = Buffer.from([8, ...f.subarray(1, f.length - 2)]);
          const sum = crc16(body);
          return Buffer.concat([body, Buffer.of(sum & 0xff, sum >> 8)]);
        },
        'unit 8 answered instead of unit 1',
      ],
    ] as const) {
      line.behave = () => ({ bytes });
      expect(await bus.unit(1).read(1, 1)).toEqual({ ok: false, failure: { kind: 'silent', text } });
      line.behave = () => ({ bytes: (frame) => Buffer.concat([Buffer.of(0, 255, 3), frame]) });
      expect(await bus.unit(1).read(1, 1)).toEqual({ ok: true, value: [1001] });
    }
  });

  it('a line on which others talk without end is asked all the same, and the sums tell', async () => {
    await bus.unit(1).read(1, 1);
    const chatter = setInterval(() => line.noise(Uint8Array.of(85, 170)), 10);
    try {
      expect(await bus.unit(2).read(4, 1)).toEqual({ ok: true, value: [2004] });
    } finally {
      clearInterval(chatter);
    }
  });

  it('a port that vanishes or is taken says so, and is opened again when asked', async () => {
    await bus.unit(1).read(1, 1);
    line.behave = () => ({ mute: true });
    const waiting = bus.unit(1).write(3, 9);
    while (line.frames.at(-1)?.code !== 6) await new Promise((resolve) => setTimeout(resolve, 5));
    line.unplug();
    expect(await waiting).toEqual({ ok: false, failure: { kind: 'silent', text: 'the adapter was unplugged' } });
    line.refuses = '/dev/x is in use by another program: close that one first';
    expect(await bus.unit(1).read(1, 1)).toEqual({ ok: false, failure: { kind: 'silent', text: line.refuses } });
    line.refuses = null;
    line.behave = () => ({});
    expect(await bus.unit(1).read(3, 1)).toEqual({ ok: true, value: [9] });
    expect(line.frames.filter((f) => f.code === 6).length).toBe(1);
  });
});
