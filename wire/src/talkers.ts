import mqtt, { type MqttClient } from 'mqtt';
import { fieldsOfJson } from '@calm-keel/core/quantity';
import { makeTalkReader, type OpenLine } from '@calm-keel/core/wire';
import type { TalkingEntry } from './list';
import { openSerial } from './serial';

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

/** After a failure the port or the broker is tried again after so long, ms. */
const againMs = 3000;
/** Lines that pause for so long have ended a sample, ms. */
const restMs = 400;
/** Where every value has a topic of its own, those of one sample lie at most so far apart, ms. */
const togetherMs = 10_000;

/** Opens a talker of the list. */
export function openTalker(entry: TalkingEntry, now: () => number = Date.now): Talker {
  return entry.over === 'talker' ? listenSerial(openSerial(entry), now) : listenBroker(entry, now);
}

/** Listens to lines on a serial port. */
export function listenSerial(open: OpenLine, now: () => number = Date.now): Talker {
  let reader = makeTalkReader();
  let noise = 0;
  let heard: Heard | null = null;
  let problem: string | null = 'It has said nothing yet.';
  let closed = false;
  let close: (() => Promise<void>) | null = null;
  let rest: ReturnType<typeof setTimeout> | undefined;
  let again: ReturnType<typeof setTimeout> | undefined;
  const decoder = new TextDecoder('latin1');
  const take = (samples: ReturnType<typeof reader.rest>): void => {
    for (const { fields } of samples) {
      heard = { at: now(), fields, number: (heard?.number ?? 0) + 1 };
      problem = null;
    }
  };
  function fail(why: string): void {
    problem = `${why.charAt(0).toUpperCase()}${why.slice(1)}.`;
    clearTimeout(again);
    if (!closed) again = setTimeout(begin, againMs);
  }
  function begin(): void {
    noise += reader.noise;
    reader = makeTalkReader();
    open({
      bytes(bytes) {
        take(reader.push(decoder.decode(bytes)));
        clearTimeout(rest);
        rest = setTimeout(() => {
          take(reader.rest());
          if (heard === null && reader.noise > 3) problem = 'What comes cannot be read: another speed, or another kind of device.';
        }, restMs);
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
      clearTimeout(rest);
      clearTimeout(again);
      void close?.();
    },
  };
}

/** What a message calls its own time, where it has one. */
const ownTime = /^(time|timestamp|ts|epoch)$/i;

function listenBroker({ url, topic, user, password }: Extract<TalkingEntry, { over: 'broker' }>, now: () => number): Talker {
  const said = makeMessageReader(topic, now);
  let trouble: string | null = 'The broker has not answered yet.';
  const client: MqttClient = mqtt.connect(url, {
    reconnectPeriod: againMs,
    connectTimeout: 5000,
    ...(user === undefined ? {} : { username: user }),
    ...(password === undefined ? {} : { password }),
  });
  client.on('connect', () => {
    client.subscribe(topic, (error, granted) => {
      trouble = error || granted?.some((g) => g.qos > 2) ? `The broker refuses the topic “${topic}”.` : null;
    });
  });
  client.on('close', () => {
    trouble ??= 'The broker is gone. It is tried again.';
  });
  client.on('error', (error: Error & { code?: string | number }) => {
    trouble =
      error.code === 'ECONNREFUSED'
        ? `Nothing answers at ${url}. Look whether the broker runs.`
        : error.code === 4 || error.code === 5
          ? 'The broker does not take this user and password.'
          : `The broker cannot be reached: ${error.message}.`;
  });
  client.on('message', (of, payload, packet) => {
    said.take(of, payload.toString('utf8'), { stored: packet.retain, repeated: packet.dup });
  });
  return {
    now: () => ({ ...said.now(), problem: trouble ?? said.now().problem }),
    close: () => void client.end(true),
  };
}

/** Makes samples of the messages of a topic. Exported for specs. */
export function makeMessageReader(pattern: string, now: () => number) {
  let heard: Heard | null = null;
  let problem: string | null = 'Nothing was said under this topic yet.';
  const counts = { noise: 0, doubled: 0, late: 0, stored: 0 };
  const lastOwn = new Map<string, string>();
  /** Values with a topic of their own, with when they came. */
  const values = new Map<string, { at: number; value: string }>();
  // What stands before the first wild card is the same in every name.
  const stem = pattern.replace(/[#+].*$/, '');

  function take(topic: string, payload: string, { stored, repeated }: { readonly stored: boolean; readonly repeated: boolean }): void {
    // Nobody knows how old a message is that a broker had in store.
    if (stored) {
      counts.stored++;
      if (heard === null) problem = 'The broker has an old message in store, and nobody knows how old. A new one is waited for.';
      return;
    }
    const name = topic.startsWith(stem) ? topic.slice(stem.length) : topic;
    const fields = fieldsOfJson(payload);
    if (fields) {
      const own = [...fields].find(([key]) => ownTime.test(key))?.[1];
      const before = lastOwn.get(topic);
      if (repeated && own === undefined && heard && sameFields(heard.fields, fields)) return void counts.doubled++;
      if (own !== undefined && before !== undefined) {
        if (own === before) return void counts.doubled++;
        if (timeOf(own) < timeOf(before)) return void counts.late++;
      }
      if (own !== undefined) lastOwn.set(topic, own);
      heard = { at: now(), fields: Object.fromEntries(fields), number: (heard?.number ?? 0) + 1 };
      problem = null;
      return;
    }
    const value = payload.trim();
    if (name === '' || value === '' || value.length > 80 || /[\u0000-\u001f\ufffd{[]/.test(value)) return void counts.noise++;
    const at = now();
    values.set(name, { at, value });
    const together = [...values].filter(([, v]) => at - v.at <= togetherMs);
    heard = { at, fields: Object.fromEntries(together.map(([key, v]) => [key, v.value])), number: (heard?.number ?? 0) + 1 };
    problem = null;
  }
  return { take, now: (): TalkState => ({ heard, problem, let: { ...counts } }) };
}

const sameFields = (a: Readonly<Record<string, string>>, b: ReadonlyMap<string, string>): boolean =>
  Object.keys(a).length === b.size && [...b].every(([key, value]) => a[key] === value);

/** A message's own time as a number to compare; texts of one make compare as they are written. */
const timeOf = (text: string): number => (Number.isFinite(Number(text)) ? Number(text) : Date.parse(text) || 0);
