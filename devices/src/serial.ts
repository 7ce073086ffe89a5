import crc16 from 'modbus-serial/utils/crc16.js';
import { SerialPort } from 'serialport';
import { Refusal, type Device } from './device';

/** Speed of the simulated lines. A pseudo-terminal has none; both ends are set to it all the same. */
export const lineBaud = 19_200;
/** An answer that comes into the next question’s time, ms. */
const lateMs = 900;

/** Bytes that a line hands on, and takes. */
export interface Bytes {
  write(bytes: Uint8Array): void;
  onData(take: (bytes: Uint8Array) => void): void;
}

const sealed = (bytes: readonly number[]): Uint8Array => {
  const sum = crc16(Buffer.from(bytes));
  return Uint8Array.of(...bytes, sum & 0xff, sum >> 8);
};

/**
 * Devices that answer by number on one line (Modbus RTU): reading one table or the other, and writing one word. What is not for any of them, or does not fit
 * its sum, is passed over in silence, as on a real line.
 *
 * @param unit the device with a number, asked anew for every frame
 */
export function answerOnLine(line: Bytes, unit: (number: number) => Device | undefined): void {
  let seen: number[] = [];

  function respond(frame: readonly number[]): void {
    const [number = 0, code = 0] = frame;
    const device = unit(number);
    if (!device || device.faults.has('timeout')) return;
    const register = (frame[2] ?? 0) * 256 + (frame[3] ?? 0);
    const word = (frame[4] ?? 0) * 256 + (frame[5] ?? 0);
    // The order is drowned in noise: the device knows nothing of a write.
    if (code === 6 && device.faults.delete('dropBefore')) return;
    let out: Uint8Array;
    try {
      if (code === 6) {
        device.write(register, word);
        out = sealed(frame.slice(0, 6));
        if (device.faults.delete('dropAfter')) return;
      } else if (code === 3 || code === 4) {
        if (word < 1 || word > 125) throw new Refusal(3);
        const words = Array.from({ length: word }, (_, i) => device.read(register + i));
        out = sealed([number, code, 2 * word, ...words.flatMap((w) => [w >> 8, w & 0xff])]);
      } else out = sealed([number, code | 0x80, 1]);
    } catch (error) {
      out = sealed([number, code | 0x80, error instanceof Refusal ? error.modbusErrorCode : 4]);
    }
    if (device.faults.delete('garbled')) out = out.slice(0, out.length - 1).map((byte, i) => (i % 2 === 1 ? byte ^ 0x5a : byte));
    if (device.faults.delete('late')) setTimeout(() => line.write(out), lateMs);
    else line.write(out);
  }

  line.onData((bytes) => {
    seen.push(...bytes);
    while (seen.length >= 8) {
      const frame = seen.slice(0, 8);
      const sum = crc16(Buffer.from(frame.slice(0, 6)));
      if (frame[6] === (sum & 0xff) && frame[7] === sum >> 8) {
        seen = seen.slice(8);
        respond(frame);
      } else seen = seen.slice(1);
    }
  });
}

/** Opens one end of a line. */
export function openLine(path: string): Promise<Bytes & { close(): Promise<void> }> {
  return new Promise((resolve, reject) => {
    const port = new SerialPort({ path, baudRate: lineBaud, autoOpen: false });
    port.on('error', () => undefined);
    port.open((error) => {
      if (error) {
        reject(error);
        return;
      }
      resolve({
        write: (bytes) => void (port.isOpen && port.write(Buffer.from(bytes))),
        onData: (take) => void port.on('data', (bytes: Buffer) => take(bytes)),
        close: () =>
          new Promise((done) => {
            if (port.isOpen) port.close(() => done());
            else done();
          }),
      });
    });
  });
}
