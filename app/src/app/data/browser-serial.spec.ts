import { crc16, type Master } from '@calm-keel/core/wire';
import { BrowserSerial, type BrowserPort } from './browser-serial';

/** A port of a browser with one device at number 3 behind it, which holds 1000 and its register in every word. */
class FakePort implements BrowserPort {
  options: unknown = null;
  opens = 0;
  refuses: DOMException | null = null;
  mute = false;
  readable: ReadableStream<Uint8Array> | null = null;
  writable: WritableStream<Uint8Array> | null = null;
  private out: ReadableStreamDefaultController<Uint8Array> | null = null;

  open(options: unknown): Promise<void> {
    if (this.refuses) return Promise.reject(this.refuses);
    this.options = options;
    this.opens++;
    this.readable = new ReadableStream<Uint8Array>({ start: (controller) => void (this.out = controller) });
    this.writable = new WritableStream<Uint8Array>({
      write: (frame) => {
        if (this.mute || frame[0] !== 3) return;
        const register = (frame[2] ?? 0) * 256 + (frame[3] ?? 0);
        const count = frame[5] ?? 0;
        const body = [
          3,
          frame[1] ?? 0,
          2 * count,
          ...Array.from({ length: count }, (_, i) => [(1000 + register + i) >> 8, (1000 + register + i) & 0xff]).flat(),
        ];
        const sum = crc16(Uint8Array.from(body));
        const answer = Uint8Array.of(...body, sum & 0xff, sum >> 8);
        // In two pieces, as ports hand bytes on.
        this.out?.enqueue(answer.slice(0, 3));
        setTimeout(() => this.out?.enqueue(answer.slice(3)), 1);
      },
    });
    return Promise.resolve();
  }
  close(): Promise<void> {
    this.readable = null;
    this.writable = null;
    return Promise.resolve();
  }
  unplug(): void {
    this.out?.error(new DOMException('lost', 'NetworkError'));
  }
}

describe('a serial port that the browser opens', () => {
  const line = { baud: 19_200, parity: 'even', stopBits: 1 } as const;
  const at = (port: FakePort, unit: number): Master => new BrowserSerial().bus(port, line, 120).unit(unit);

  it('is read like one of the server, set as it was said', async () => {
    const port = new FakePort();
    expect(await at(port, 3).read(7, 2)).toEqual({ ok: true, value: [1007, 1008] });
    expect(port.options).toEqual({ baudRate: 19_200, dataBits: 8, parity: 'even', stopBits: 1 });
  });

  it('is opened anew after a question without an answer, and says what is wrong', async () => {
    const port = new FakePort();
    expect(await at(port, 4).read(7, 1)).toEqual({ ok: false, failure: { kind: 'silent', text: 'no answer in time' } });
    expect(port.opens).toBe(2);
    const taken = new FakePort();
    taken.refuses = new DOMException('open', 'InvalidStateError');
    expect(await at(taken, 3).read(7, 1)).toEqual({
      ok: false,
      failure: { kind: 'silent', text: 'the port is in use by another program or tab: close that one first' },
    });
    const gone = new FakePort();
    gone.mute = true;
    const waiting = at(gone, 3).write(1, 1);
    while (gone.opens === 0) await new Promise((resolve) => setTimeout(resolve, 1));
    gone.unplug();
    const came = await waiting;
    expect(!came.ok && came.failure.kind === 'silent' && came.failure.text).toContain('the port is gone');
  });
});
