import ModbusRTU from 'modbus-serial';
import type { Frame, Master } from '@calm-keel/core/wire';
import type { Bus } from './bus';

/** A connection, and a single frame, may take this long, ms. */
const connectMs = 3000;

/**
 * A device on the network, or a gateway with several behind it: one connection, one question at a time. Connects when first needed; after a frame that failed
 * the connection is thrown away, so that a late answer can never be taken for that of the next.
 *
 * @param timeoutMs how long an answer is waited for
 */
export function makeTcpBus(host: string, port: number, timeoutMs = 2500): Bus {
  let client: ModbusRTU | null = null;
  let last: Promise<unknown> = Promise.resolve();

  async function connected(): Promise<ModbusRTU> {
    if (client?.isOpen) return client;
    const next = new ModbusRTU();
    // A socket that fails between two frames must not bring the server down.
    next.on('error', () => undefined);
    await within(next.connectTCP(host, { port }), connectMs, () => next.destroy(() => undefined));
    next.setTimeout(timeoutMs);
    client = next;
    return next;
  }

  function drop(): void {
    const gone = client;
    client = null;
    try {
      gone?.destroy(() => undefined);
    } catch {
      // It is gone either way.
    }
  }

  /** One frame after the other; a failure of one says nothing about the next. */
  function inTurn<T>(unit: number, work: (on: ModbusRTU) => Promise<T>): Promise<Frame<T>> {
    const run = last.then(async (): Promise<Frame<T>> => {
      try {
        const on = await connected();
        on.setID(unit);
        // The library’s own timeout does not hold where a frame was cut short.
        return { ok: true, value: await within(work(on), 2 * timeoutMs, drop) };
      } catch (error) {
        const code = (error as { modbusCode?: unknown }).modbusCode;
        if (typeof code === 'number') return { ok: false, failure: { kind: 'refused', code } };
        drop();
        return { ok: false, failure: { kind: 'silent', text: error instanceof Error ? error.message : 'no answer' } };
      }
    });
    last = run;
    return run;
  }

  const ask = (unit: number, register: number, count: number, table: 'holding' | 'input'): Promise<Frame<readonly number[]>> =>
    inTurn(unit, async (on) => {
      const { data } = await (table === 'input' ? on.readInputRegisters(register, count) : on.readHoldingRegisters(register, count));
      if (data.length !== count || data.some((n) => !Number.isInteger(n) || n < 0 || n > 65_535)) throw new Error('an answer of another length');
      return data;
    });

  return {
    unit: (unit): Master => ({
      async read(register, count, table = 'holding') {
        const first = await ask(unit, register, count, table);
        return first.ok || first.failure.kind === 'refused' ? first : ask(unit, register, count, table);
      },
      write: (register, value) =>
        inTurn(unit, async (on) => {
          const echo = await on.writeRegister(register, value);
          if (echo.address !== register || echo.value !== value) throw new Error('an answer to something else');
          return null;
        }),
      close: drop,
    }),
    close: drop,
  };
}

/** A promise that gives up. */
function within<T>(promise: Promise<T>, ms: number, giveUp: () => void): Promise<T> {
  return new Promise<T>((resolve, reject) => {
    const timer = setTimeout(() => {
      giveUp();
      reject(new Error('no answer in time'));
    }, ms);
    promise.then(
      (value) => {
        clearTimeout(timer);
        resolve(value);
      },
      (error: unknown) => {
        clearTimeout(timer);
        reject(error instanceof Error ? error : new Error(String((error as { message?: unknown } | null)?.message ?? error)));
      },
    );
  });
}
