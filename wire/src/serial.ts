import { SerialPort } from 'serialport';
import type { OpenLine } from '@calm-keel/core/wire';
import type { SerialSettings } from './list';

/** What a port that cannot be opened is told as. */
function openingWords(path: string, why: string): string {
  if (/no such file|file not found|ENOENT/i.test(why)) return `there is no port ${path}: look whether its adapter is plugged in`;
  if (/permission|access denied|EACCES/i.test(why)) return `this user may not open ${path}: on Debian, add the user to the group dialout and log in again`;
  if (/lock|busy|in use|EBUSY/i.test(why)) return `${path} is in use by another program: close that one first`;
  return `${path} cannot be opened (${why})`;
}

/** Opens a serial port of this machine. It is locked while it is open, so that no two programs talk on one line. */
export const openSerial =
  ({ path, baud, dataBits, parity, stopBits }: SerialSettings): OpenLine =>
  (events) =>
    new Promise((resolve, reject) => {
      const port = new SerialPort({ path, baudRate: baud, dataBits, parity, stopBits, lock: true, autoOpen: false });
      let asked = false;
      port.on('data', (bytes: Buffer) => {
        events.bytes(bytes);
      });
      port.on('error', (error: Error) => {
        events.lost(`the port failed: ${error.message}`);
      });
      port.on('close', () => {
        if (!asked) events.lost(`${path} is gone: its adapter was unplugged, or the port failed`);
      });
      port.open((error) => {
        if (error) {
          reject(new Error(openingWords(path, error.message)));
          return;
        }
        resolve({
          send: (bytes) =>
            new Promise((done, fail) => {
              port.write(Buffer.from(bytes), (failed) => {
                if (failed) fail(new Error(`nothing can be sent: ${failed.message}`));
                else port.drain(() => done());
              });
            }),
          close: () =>
            new Promise((done) => {
              asked = true;
              if (port.isOpen) port.close(() => done());
              else done();
            }),
        });
      });
    });
