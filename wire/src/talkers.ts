import mqtt, { type MqttClient } from 'mqtt';
import { fieldsOfJson } from '@calm-keel/core/quantity';
import { againMs, listenSerial, type Clock, type Heard, type Talker, type TalkState } from '@calm-keel/core/wire';
import type { TalkingEntry } from './list';
import { openSerial } from './serial';

/** Where every value has a topic of its own, those of one sample lie at most so far apart, ms. */
const togetherMs = 10_000;

/** The clock of this process. */
const clock: Clock = {
  now: () => Date.now(),
  after(ms, then) {
    const timer = setTimeout(then, ms);
    return () => {
      clearTimeout(timer);
    };
  },
};

/** Opens a talker of the list. */
export function openTalker(entry: TalkingEntry, now: () => number = clock.now): Talker {
  return entry.over === 'talker' ? listenSerial(openSerial(entry), { ...clock, now }) : listenBroker(entry, now);
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
