import { Injectable } from '@angular/core';
import { listenSerial, makeSerialBus, type Clock, type LineEvents, type OpenLine, type SerialLine, type Talker, type Waits } from '@calm-keel/core/wire';

/** What this page uses of a serial port that the browser itself opens (Web Serial). */
export interface BrowserPort {
  open(options: { baudRate: number; dataBits: number; parity: 'none' | 'even' | 'odd'; stopBits: number }): Promise<void>;
  close(): Promise<void>;
  readonly readable: ReadableStream<Uint8Array> | null;
  readonly writable: WritableStream<Uint8Array> | null;
}

/** How the line is set, as the device's manual says. */
export interface LineSettings {
  readonly baud: number;
  readonly parity: 'none' | 'even' | 'odd';
  readonly stopBits: 1 | 2;
}

/** An answer is waited for so long, ms. */
const timeoutMs = 1500;

const waits: Waits = {
  now: () => performance.now(),
  pause: (ms) =>
    new Promise((resolve) => {
      setTimeout(resolve, ms);
    }),
};

const clock: Clock = {
  now: () => Date.now(),
  after(ms, then) {
    const timer = setTimeout(then, ms);
    return () => {
      clearTimeout(timer);
    };
  },
};

/** Serial ports of this machine, opened by the browser: no server is needed. Only some browsers have them, and only reading is done here. */
@Injectable({ providedIn: 'root' })
export class BrowserSerial {
  private get serial(): { requestPort(): Promise<BrowserPort> } | null {
    return (navigator as { serial?: { requestPort(): Promise<BrowserPort> } }).serial ?? null;
  }

  get there(): boolean {
    return this.serial !== null;
  }

  /** Asks the person which port; null where none was chosen. */
  async choose(): Promise<BrowserPort | null> {
    try {
      return (await this.serial?.requestPort()) ?? null;
    } catch {
      // Nothing was chosen: the list was closed.
      return null;
    }
  }

  /** A line over a port. The port is closed with `close`. */
  readonly bus = (port: BrowserPort, how: LineSettings, patience = timeoutMs) => makeSerialBus(openerOf(port, how), waits, patience);

  /** Listens to a device that sends lines by itself. The port is given back with `close`. */
  readonly listen = (port: BrowserPort, how: LineSettings): Talker => listenSerial(openerOf(port, how), clock);
}

/** How a port that cannot be opened is told. */
const openingWords = (error: unknown): string =>
  error instanceof DOMException && (error.name === 'InvalidStateError' || error.name === 'NetworkError')
    ? 'the port is in use by another program or tab: close that one first'
    : 'the port cannot be opened: look whether its adapter is plugged in';

const openerOf =
  (port: BrowserPort, { baud, parity, stopBits }: LineSettings): OpenLine =>
  async (events: LineEvents): Promise<SerialLine> => {
    try {
      await port.open({ baudRate: baud, dataBits: 8, parity, stopBits });
    } catch (error) {
      throw new Error(openingWords(error));
    }
    const reader = port.readable?.getReader();
    const writer = port.writable?.getWriter();
    if (!reader || !writer) {
      await port.close();
      throw new Error('the port can only be read or only be written');
    }
    let asked = false;
    void (async () => {
      try {
        for (;;) {
          const { done, value } = await reader.read();
          if (done) break;
          events.bytes(value);
        }
      } catch {
        if (!asked) events.lost('the port is gone: its adapter was unplugged');
      }
    })();
    return {
      send: (bytes) => writer.write(bytes),
      close: async () => {
        asked = true;
        await reader.cancel().catch(() => undefined);
        reader.releaseLock();
        writer.releaseLock();
        await port.close().catch(() => undefined);
      },
    };
  };
