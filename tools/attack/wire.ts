import { readFileSync } from 'node:fs';
import { createServer as netServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { readJob, type Card } from '@calm-keel/core';
import { randomFrom } from '../../core/src/physics';
import { commitSettings, writeSetting } from '@calm-keel/core/wire';
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

/** Faulty answers of a device: a value that is said to read back stands, a save is never called seen, and nothing is sent twice. */
export async function attackWire(rounds: number, seed: number): Promise<Row> {
  const card = aftCard();
  const parameter = card.telemetry?.values.find((v) => v.role === 'floatVoltage');
  const count = counting('device, faulty answers');
  const one = async (lane: number, times: number): Promise<void> => {
    const random = randomFrom(seed * 1000 + lane);
    const { server, memory, writes, forget } = device(card, random);
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const master = makeTcpBus('127.0.0.1', (server.address() as AddressInfo).port, patienceMs).unit(1);
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
    master.close();
    server.close();
  };
  // So many devices at once, each with a part of them: most of the time is spent waiting for answers that never come.
  const lanes = 40;
  await Promise.all(Array.from({ length: lanes }, (_, lane) => one(lane, Math.ceil(rounds / lanes))));
  return count.row();
}
