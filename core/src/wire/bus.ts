import type { Frame, Master } from './master';
import { answerOf, readFrame, writeFrame, type Answer } from './rtu';

/** A serial port that is open. */
export interface SerialLine {
  send(bytes: Uint8Array<ArrayBuffer>): Promise<void>;
  close(): Promise<void>;
}

/** What a port tells of itself. */
export interface LineEvents {
  bytes(bytes: Uint8Array): void;
  /** It is gone, and why in words. */
  lost(why: string): void;
}

/** Opens a port; rejects with a sentence where it cannot. */
export type OpenLine = (events: LineEvents) => Promise<SerialLine>;

/** Time as the caller has it, ms. */
export interface Waits {
  /** From any beginning, never back. */
  now(): number;
  pause(ms: number): Promise<void>;
}

/** A line shared by several devices: one question at a time, whoever asks. */
export interface SerialBus {
  /** The device with a number of its own on this line, 1 to 247. */
  unit(unit: number): Master;
  close(): void;
}

/** A line is taken for silent when nothing came for so long, ms: far more than three and a half characters at 1200 baud. */
const silentMs = 40;

/**
 * A serial line of devices that answer by number. After a question without an answer the port is opened anew, and nothing is asked before as long as an
 * answer may take has passed in silence: frames on a serial line have no number of their own, and a late one would be taken for the answer to the next
 * question.
 *
 * @param timeoutMs how long an answer is waited for
 */
export function makeSerialBus(open: OpenLine, { now, pause }: Waits, timeoutMs = 1500): SerialBus {
  let line: SerialLine | null = null;
  let received: number[] = [];
  let heard = -Infinity;
  let wake: (() => void) | null = null;
  let gone: string | null = null;
  let last: Promise<unknown> = Promise.resolve();
  /** Answers may still come of what was asked before. */
  let stale = false;

  const events: LineEvents = {
    bytes(bytes) {
      for (const byte of bytes) received.push(byte);
      heard = now();
      wake?.();
    },
    lost(why) {
      gone = why;
      line = null;
      wake?.();
    },
  };

  async function ready(): Promise<SerialLine> {
    if (!line) {
      gone = null;
      line = await open(events);
    }
    const quiet = stale ? timeoutMs : silentMs;
    const from = now();
    // A line that never falls silent is somebody else’s: after three times that it is asked all the same, and the sums tell.
    while (stale || now() - heard < silentMs) {
      const at = now();
      if (at - Math.max(from, heard) >= quiet || at - from >= 3 * Math.max(quiet, 10 * silentMs)) break;
      await pause(Math.min(quiet, silentMs));
    }
    // It may have gone while it was listened to.
    if (!line) throw new Error(gone ?? 'the port is gone');
    stale = false;
    received = [];
    return line;
  }

  async function drop(): Promise<void> {
    const open = line;
    line = null;
    stale = true;
    await open?.close().catch(() => undefined);
  }

  /** The answer to one question, or what there is of it when the time is over. */
  async function answer(question: Uint8Array<ArrayBuffer>): Promise<Answer> {
    const on = await ready();
    const until = now() + timeoutMs;
    await on.send(question);
    for (;;) {
      const so = answerOf(question, Uint8Array.from(received));
      if (so.kind !== 'open') return so;
      if (gone !== null) return { kind: 'open', text: gone };
      const left = until - now();
      if (left <= 0) return so;
      await Promise.race([pause(left), new Promise<void>((resolve) => (wake = resolve))]);
    }
  }

  /** One question after the other; a failure of one says nothing about the next. */
  function inTurn<T>(question: Uint8Array<ArrayBuffer>, take: (answer: Answer) => T | null): Promise<Frame<T>> {
    const run = last.then(async (): Promise<Frame<T>> => {
      try {
        const came = await answer(question);
        if (came.kind === 'refused') return { ok: false, failure: { kind: 'refused', code: came.code } };
        const value = take(came);
        if (value !== null) return { ok: true, value };
        await drop();
        return { ok: false, failure: { kind: 'silent', text: came.kind === 'open' ? came.text : 'an answer to something else' } };
      } catch (error) {
        await drop();
        return { ok: false, failure: { kind: 'silent', text: error instanceof Error ? error.message : 'no answer' } };
      }
    });
    last = run;
    return run;
  }

  return {
    unit: (unit) => ({
      async read(register, count, table = 'holding') {
        const question = readFrame(unit, register, count, table);
        const ask = (): Promise<Frame<readonly number[]>> => inTurn(question, (a) => (a.kind === 'values' ? a.values : null));
        const first = await ask();
        return first.ok || first.failure.kind === 'refused' ? first : ask();
      },
      async write(register, value) {
        const wrote = await inTurn(writeFrame(unit, register, value), (a) => (a.kind === 'written' ? true : null));
        return wrote.ok ? { ok: true, value: null } : wrote;
      },
      close: () => void drop(),
    }),
    close: () => void drop(),
  };
}
