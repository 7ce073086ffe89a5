import { countFrom, fromRegisters, registersOf, toRegister, toWord, valuesFromRegisters, type Card, type DeviceValues, type Live, type Role } from '../card';
import type { Failure, Master, Table } from './master';

/** Codes of the protocol in words. */
const codeWords: Readonly<Record<number, string>> = {
  1: 'it does not know this kind of request',
  2: 'it has no such register: the card is of another menu revision',
  3: 'it does not take this value',
  4: 'it says that it has failed',
  6: 'it is busy',
};

/** Why a question was not answered, in a sentence. */
export const failureWords = (f: Failure): string =>
  f.kind === 'refused' ? `The device said no (code ${f.code}): ${codeWords[f.code] ?? 'no reason known'}.` : `No answer that can be used: ${f.text}.`;

/**
 * What came of a write. Only `readBack` says that the value stands: it was read again, twice, from the device that the card describes. `acknowledged` is a save
 * that the device said yes to, which nobody has seen.
 */
export type Outcome =
  | { readonly kind: 'readBack'; readonly value: number | string; readonly says: string }
  | { readonly kind: 'acknowledged'; readonly says: string }
  | { readonly kind: 'differs'; readonly value: number | string | null; readonly says: string }
  | { readonly kind: 'refused'; readonly says: string }
  | { readonly kind: 'wrongDevice'; readonly says: string }
  | { readonly kind: 'unknown'; readonly says: string };

/** Whether the device at the address is the one that the card describes. */
async function identified(master: Master, card: Card): Promise<Outcome | null> {
  const telemetry = card.telemetry;
  if (!telemetry) return { kind: 'wrongDevice', says: `The card ${card.maker} ${card.model} tells of no registers.` };
  const read = await master.read(telemetry.identity.register, 1);
  if (!read.ok) return { kind: 'unknown', says: `${failureWords(read.failure)} Nothing was written.` };
  return read.value[0] === telemetry.identity.value
    ? null
    : {
        kind: 'wrongDevice',
        says: `Another device answers here: it calls itself ${read.value[0] ?? 'nothing'}, a ${card.maker} ${card.model} is ${telemetry.identity.value}. Nothing was written.`,
      };
}

/** A register read twice; null while the two do not agree or there is no answer. */
async function readTwice(master: Master, register: number): Promise<number | null> {
  const first = await master.read(register, 1);
  const second = await master.read(register, 1);
  return first.ok && second.ok && first.value[0] !== undefined && first.value[0] === second.value[0] ? first.value[0] : null;
}

/**
 * Writes one setting, once, and reads it back. A write that was not answered is never sent again: what stands is read, and told.
 *
 * @param value as the display shows it
 */
export async function writeSetting(master: Master, card: Card, role: Role, value: number | string): Promise<Outcome> {
  const at = toRegister(card, role, value);
  if (!at.ok) return { kind: 'refused', says: at.problems[0]?.text ?? 'It cannot be written.' };
  const other = await identified(master, card);
  if (other) return other;
  const { register, raw } = at.value;
  const wrote = await master.write(register, toWord(raw));
  const refused = !wrote.ok && wrote.failure.kind === 'refused' ? failureWords(wrote.failure) : null;
  const unanswered = !wrote.ok && wrote.failure.kind === 'silent' ? failureWords(wrote.failure) : null;
  // Whatever was answered, what stands is looked at. The identity too: the address may have changed hands in between.
  const still = await identified(master, card);
  const seen = still ? null : await readTwice(master, register);
  if (seen === null)
    return {
      kind: 'unknown',
      says: `${refused ?? unanswered ?? 'The write was answered.'} What is set now could not be read, so nobody knows whether it was set. It is not sent again: read the device first.`,
    };
  const stands = fromRegisters(card, role, (r) => (r === register ? seen : undefined));
  if (seen === toWord(raw))
    return {
      kind: 'readBack',
      value,
      says: unanswered ? `The write was not answered, but it was taken: it reads ${String(value)}.` : `It reads ${String(value)}.`,
    };
  return refused
    ? { kind: 'refused', says: `${refused} It still reads ${String(stands ?? 'nothing known')}.` }
    : {
        kind: 'differs',
        value: stands,
        says: `${unanswered ? `${unanswered} ` : ''}It reads ${String(stands ?? 'nothing known')} instead of ${String(value)}.`,
      };
}

/** Stores what was written. Only a power cut proves that it was. */
export async function commitSettings(master: Master, card: Card): Promise<Outcome> {
  const commit = card.telemetry?.commit;
  if (!commit) return { kind: 'acknowledged', says: 'Nothing was sent: by its card this device stores every value as it is written. A power cut will show.' };
  const other = await identified(master, card);
  if (other) return other;
  const wrote = await master.write(commit.register, toWord(commit.value));
  if (wrote.ok) return { kind: 'acknowledged', says: 'The save was acknowledged. A power cut will show whether it was done.' };
  return wrote.failure.kind === 'refused'
    ? { kind: 'refused', says: failureWords(wrote.failure) }
    : { kind: 'unknown', says: `${failureWords(wrote.failure)} Nobody knows whether it saved. A power cut will show.` };
}

/** Registers in runs without gaps, at most so many in one request. */
function runsOf(registers: readonly number[], most = 60): readonly { from: number; count: number }[] {
  const runs: { from: number; count: number }[] = [];
  for (const r of [...new Set(registers)].sort((a, b) => a - b)) {
    const last = runs.at(-1);
    if (last && last.from + last.count === r && last.count < most) last.count++;
    else runs.push({ from: r, count: 1 });
  }
  return runs;
}

/** The words of registers, without their signs; a sentence where there is no answer. */
async function readAll(master: Master, registers: readonly number[], table: Table = 'holding'): Promise<ReadonlyMap<number, number> | string> {
  const found = new Map<number, number>();
  for (const { from, count } of runsOf(registers)) {
    const read = await master.read(from, count, table);
    if (!read.ok) return failureWords(read.failure);
    read.value.forEach((word, i) => found.set(from + i, word));
  }
  return found;
}

/** Everything that stands on a device. */
export async function readSettings(
  master: Master,
  card: Card,
): Promise<{ ok: true; values: DeviceValues; firmware: string | null } | { ok: false; says: string }> {
  const telemetry = card.telemetry;
  const other = await identified(master, card);
  if (other || !telemetry) return { ok: false, says: other?.says ?? '' };
  const registers = telemetry.values.flatMap(registersOf);
  const found = await readAll(master, telemetry.firmware === undefined ? registers : [...registers, telemetry.firmware]);
  if (typeof found === 'string') return { ok: false, says: found };
  const firmware = telemetry.firmware === undefined ? null : countFrom({ register: telemetry.firmware }, (r) => found.get(r));
  return { ok: true, values: valuesFromRegisters(card, (r) => found.get(r)), firmware: firmware === null ? null : String(firmware / 100) };
}

/** What a device tells of this moment; null where it has nothing to tell. */
export async function readLive(master: Master, card: Card): Promise<{ ok: true; live: Partial<Record<Live, number | null>> } | { ok: false; says: string }> {
  const telemetry = card.telemetry;
  if (!telemetry) return { ok: false, says: 'The card tells of no registers.' };
  const live: Partial<Record<Live, number | null>> = {};
  for (const table of ['holding', 'input'] as const) {
    const wanted = telemetry.live.filter((l) => (l.table ?? 'holding') === table);
    if (wanted.length === 0) continue;
    const found = await readAll(master, wanted.flatMap(registersOf), table);
    if (typeof found === 'string') return { ok: false, says: found };
    for (const at of wanted) {
      const raw = countFrom(at, (r) => found.get(r));
      live[at.what] = raw === null ? null : raw * at.scale;
    }
  }
  return { ok: true, live };
}
