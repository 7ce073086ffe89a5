import type { OpenLine } from './bus';
import { makeTalkReader, type Said } from './talk';

/** What a device that only talks said last. */
export interface Heard {
  /** When it came, ms since 1970. */
  readonly at: number;
  readonly fields: Readonly<Record<string, string>>;
  /** Counts up with every sample, so that one is not taken twice. */
  readonly number: number;
}

/** How a talker is. */
export interface TalkState {
  readonly heard: Heard | null;
  /** Why nothing is heard, or what is odd about what is; null where all is well. */
  readonly problem: string | null;
  /** Messages and lines let go: damaged, doubled, late, or old ones that a broker had in store. */
  readonly let: { readonly noise: number; readonly doubled: number; readonly late: number; readonly stored: number };
}

/** A device that is listened to. It is connected to when first asked for, and again and again when it is lost. */
export interface Talker {
  now(): TalkState;
  close(): void;
}

/** The clock of whoever listens. */
export interface Clock {
  /** ms since 1970. */
  now(): number;
  /** Does something after so many ms; what it gives back takes that away. */
  after(ms: number, then: () => void): () => void;
}

/** After a failure a port or a broker is tried again after so long, ms. */
export const againMs = 3000;
/** Lines that pause for so long have ended a sample, ms. */
const restMs = 400;

/** Bytes as letters, one for one: what they mean is found line by line. */
const lettersOf = (bytes: Uint8Array): string => Array.from(bytes, (b) => String.fromCharCode(b)).join('');

/** Listens to lines on a serial port, wherever it is open. */
export function listenSerial(open: OpenLine, clock: Clock): Talker {
  let reader = makeTalkReader();
  let noise = 0;
  let heard: Heard | null = null;
  let problem: string | null = 'It has said nothing yet.';
  let closed = false;
  let close: (() => Promise<void>) | null = null;
  let forgetRest = (): void => undefined;
  let forgetAgain = (): void => undefined;
  const take = (samples: readonly Said[]): void => {
    for (const { fields } of samples) {
      heard = { at: clock.now(), fields, number: (heard?.number ?? 0) + 1 };
      problem = null;
    }
  };
  function fail(why: string): void {
    problem = `${why.charAt(0).toUpperCase()}${why.slice(1)}.`;
    forgetAgain();
    if (!closed) forgetAgain = clock.after(againMs, begin);
  }
  function begin(): void {
    noise += reader.noise;
    reader = makeTalkReader();
    open({
      bytes(bytes) {
        take(reader.push(lettersOf(bytes)));
        forgetRest();
        forgetRest = clock.after(restMs, () => {
          take(reader.rest());
          if (heard === null && reader.noise > 3) problem = 'What comes cannot be read: another speed, or another kind of device.';
        });
      },
      lost: fail,
    }).then(
      (line) => {
        if (closed) void line.close();
        else close = () => line.close();
      },
      (error: unknown) => {
        fail(error instanceof Error ? error.message : 'the port cannot be opened');
      },
    );
  }
  begin();
  return {
    now: () => ({ heard, problem, let: { noise: noise + reader.noise, doubled: 0, late: 0, stored: 0 } }),
    close() {
      closed = true;
      forgetRest();
      forgetAgain();
      void close?.();
    },
  };
}
