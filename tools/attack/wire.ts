import { readFileSync } from 'node:fs';
import { createServer as netServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import type { Card } from '@calm-keel/core/card';
import { readJob } from '@calm-keel/core/job';
import { randomFrom } from '../../core/src/physics';
import { commitSettings, crc16, makeSerialBus, writeSetting, type Master, type OpenLine } from '@calm-keel/core/wire';
import { waits } from '../../wire/src/bus';
import { makeTcpBus } from '../../wire/src/tcp';
import { counting, type Row } from './table';

/** The card of the launch’s aft charger, which has registers. */
export function aftCard(): Card {
  const read = readJob(readFileSync(fileURLToPath(new URL('../../demo/teasel.job.json', import.meta.url)), 'utf8'));
  const place = read.ok ? read.value.system.chargers.find((c) => c.id === 'aft') : undefined;
  const card = read.ok ? read.value.cards.find((c) => c.id === place?.card) : undefined;
  if (!card?.telemetry) throw new Error('no card with registers');
  return card;
}

/** How long an answer is waited for here, ms: silence is one of the faults. */
const patienceMs = 60;

/**
 * A device that takes what it is told and answers as it should, or not at all, or late, or with anything else, as it is drawn; always as it
 * should where 0 is drawn.
 *
 * @param answersMs how long it takes over a good answer
 */
export function device(
  card: Card,
  random: () => number,
  answersMs = 0,
): { server: Server; memory: Map<number, number>; writes: (value: number) => number; forget: () => void } {
  const memory = new Map<number, number>();
  const writes = new Map<number, number>();
  const { identity } = card.telemetry ?? { identity: { register: 0, value: 0 } };
  const answer = (socket: Socket, data: Buffer): void => {
    const code = data[7] ?? 0;
    const register = data.length >= 10 ? data.readUInt16BE(8) : 0;
    let frame: Buffer;
    if (code === 6 && data.length >= 12) {
      writes.set(data.readUInt16BE(10), (writes.get(data.readUInt16BE(10)) ?? 0) + 1);
      if (random() < 0.9) memory.set(register, data.readUInt16BE(10));
      frame = Buffer.from(data.subarray(0, 12));
    } else {
      const many = data.length >= 12 ? Math.min(125, data.readUInt16BE(10)) : 1;
      const values = Array.from({ length: many }, (_, i) => (register + i === identity.register ? identity.value : (memory.get(register + i) ?? 0)));
      frame = Buffer.alloc(9 + 2 * many);
      frame.set([data[0] ?? 0, data[1] ?? 0, 0, 0, 0, 3 + 2 * many, 1, code, 2 * many]);
      values.forEach((value, i) => frame.writeUInt16BE(value, 9 + 2 * i));
    }
    const r = random();
    if (r < 0.6 && answersMs === 0) socket.write(frame);
    else if (r < 0.6) setTimeout(() => socket.destroyed || socket.write(frame), answersMs);
    else if (r < 0.66) socket.destroy();
    else if (r < 0.72) socket.write(Buffer.from(Array.from({ length: Math.floor(random() * 40) }, () => Math.floor(random() * 256))));
    else if (r < 0.78) socket.write(frame.subarray(0, Math.floor(random() * frame.length)));
    else if (r < 0.88) socket.write(Buffer.from(frame.map((b, i) => (i === Math.floor(random() * frame.length) ? Math.floor(random() * 256) : b))));
    else if (r < 0.91) socket.write(Buffer.from([data[0] ?? 0, data[1] ?? 0, 0, 0, 0, 3, 1, code | 0x80, 1 + Math.floor(random() * 11)]));
    else if (r < 0.95) setTimeout(() => socket.destroyed || socket.write(frame), patienceMs * 1.5);
    // Else it says nothing.
  };
  const server = netServer((socket) => {
    socket.on('error', () => undefined);
    socket.on('data', (data) => {
      answer(socket, data);
    });
  });
  return {
    server,
    memory,
    writes: (value) => writes.get(value) ?? 0,
    forget: () => {
      writes.clear();
    },
  };
}

/** A device on a serial line, by its number 1, with the same faults and those that only a line has: a neighbour that answers, and a port that is gone. */
export function deviceOnLine(
  card: Card,
  random: () => number,
): { open: OpenLine; memory: Map<number, number>; writes: (value: number) => number; forget: () => void } {
  const memory = new Map<number, number>();
  const writes = new Map<number, number>();
  const { identity } = card.telemetry ?? { identity: { register: 0, value: 0 } };
  const sealed = (body: readonly number[]): Uint8Array => {
    const sum = crc16(Uint8Array.from(body));
    return Uint8Array.of(...body, sum & 0xff, sum >> 8);
  };
  const byte = (): number => Math.floor(random() * 256);
  const open: OpenLine = (events) => {
    let there = true;
    const come = (bytes: Uint8Array, ms = 0): void => {
      setTimeout(() => {
        if (there) events.bytes(bytes);
      }, ms);
    };
    return Promise.resolve({
      close: () => {
        there = false;
        return Promise.resolve();
      },
      send: (frame) => {
        const code = frame[1] ?? 0;
        const register = (frame[2] ?? 0) * 256 + (frame[3] ?? 0);
        const word = (frame[4] ?? 0) * 256 + (frame[5] ?? 0);
        let body: number[];
        if (code === 6) {
          writes.set(word, (writes.get(word) ?? 0) + 1);
          if (random() < 0.9) memory.set(register, word);
          body = [...frame.subarray(0, 6)];
        } else {
          const values = Array.from({ length: word }, (_, i) => (register + i === identity.register ? identity.value : (memory.get(register + i) ?? 0)));
          body = [frame[0] ?? 0, code, 2 * word, ...values.flatMap((v) => [v >> 8, v & 0xff])];
        }
        const answer = sealed(body);
        const r = random();
        if (r < 0.55) come(random() < 0.2 ? Uint8Array.from([...frame, ...answer]) : answer);
        else if (r < 0.6) come(Uint8Array.from([...Array.from({ length: 1 + Math.floor(random() * 5) }, byte), ...answer]));
        else if (r < 0.64) {
          there = false;
          events.lost('the port is gone');
        } else if (r < 0.69) come(Uint8Array.from({ length: Math.floor(random() * 40) }, byte));
        else if (r < 0.74) come(answer.subarray(0, Math.floor(random() * answer.length)));
        else if (r < 0.83) come(answer.map((b, i) => (i === Math.floor(random() * answer.length) ? byte() : b)));
        else if (r < 0.86) come(sealed([frame[0] ?? 0, code | 0x80, 1 + Math.floor(random() * 11)]));
        else if (r < 0.89) come(sealed([2, ...body.slice(1)]));
        // So late that the next question is asked, unless the line is waited for.
        else if (r < 0.96) come(answer, patienceMs * (1 + random()));
        // Else it says nothing.
        return Promise.resolve();
      },
    });
  };
  return {
    open,
    memory,
    writes: (value) => writes.get(value) ?? 0,
    forget: () => {
      writes.clear();
    },
  };
}

/** A device under attack, whatever wire leads to it. */
interface Attacked {
  readonly master: Master;
  readonly memory: ReadonlyMap<number, number>;
  readonly writes: (value: number) => number;
  readonly forget: () => void;
  readonly close: () => void;
}

async function overNetwork(card: Card, random: () => number): Promise<Attacked> {
  const { server, ...of } = device(card, random);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const bus = makeTcpBus('127.0.0.1', (server.address() as AddressInfo).port, patienceMs);
  return {
    ...of,
    master: bus.unit(1),
    close: () => {
      bus.close();
      server.close();
    },
  };
}

function overLine(card: Card, random: () => number): Promise<Attacked> {
  const { open, ...of } = deviceOnLine(card, random);
  const bus = makeSerialBus(open, waits, patienceMs);
  return Promise.resolve({ ...of, master: bus.unit(1), close: () => bus.close() });
}

/** Faulty answers of a device: a value that is said to read back stands, a save is never called seen, and nothing is sent twice. */
export async function attackWire(rounds: number, seed: number, wire: 'network' | 'line' = 'network'): Promise<Row> {
  const card = aftCard();
  const parameter = card.telemetry?.values.find((v) => v.role === 'floatVoltage');
  const count = counting(wire === 'network' ? 'device, faulty answers' : 'device on a serial line, faulty answers');
  const one = async (lane: number, times: number): Promise<void> => {
    const random = randomFrom(seed * 1000 + lane);
    const { master, memory, writes, forget, close } = await (wire === 'network' ? overNetwork : overLine)(card, random);
    let saved = false;
    for (let n = 0; n < times; n++) {
      forget();
      // Each is another one than those before it: what comes late, on a busy machine after its own turn, is not taken for a second one.
      const save: boolean = random() < 0.15 && !saved;
      saved = save;
      const value = (240 + ((n * 17) % 61)) / 10;
      const counts = save ? (card.telemetry?.commit?.value ?? -1) : Math.round(value / (parameter?.scale ?? 1));
      const outcome = save ? await commitSettings(master, card) : await writeSetting(master, card, 'floatVoltage', value);
      const stands = memory.get(parameter?.register ?? -1) === counts;
      if (writes(counts) > 1) count.fault('repeated write', `lane ${lane}, ${n}`);
      else if (outcome.kind === 'readBack' && (save || !stands)) count.fault('unverified “done”', `lane ${lane}, ${n}`);
      else count.came(outcome.kind);
    }
    close();
  };
  // So many devices at once, each with a part of them: most of the time is spent waiting for answers that never come.
  const lanes = 40;
  await Promise.all(Array.from({ length: lanes }, (_, lane) => one(lane, Math.ceil(rounds / lanes))));
  return count.row();
}
