import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import Papa from 'papaparse';
import { readBackup, readBundle, readJob, toCard, toSheet, writeBackup, writeBundle, writeJob, type BackupHead, type Job } from '@calm-keel/core/job';
import { createLogReader, guessMapping, logContextOf, sniffLog } from '@calm-keel/core/proof';
import { strangeIn, type Result } from '@calm-keel/core/quantity';
import { deriveSettings } from '@calm-keel/core/settings';
import { randomFrom } from '../../core/src/physics';
import { mutated, slipped } from './mutate';
import { counting, type Row } from './table';

const at = (path: string): string => readFileSync(fileURLToPath(new URL(`../../${path}`, import.meta.url)), 'utf8');
const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
/** A file that takes longer than this to read or refuse hangs the page, ms. Reading the whole launch takes a hundredth of it. */
const hangMs = 60_000;

function demoJob(name: string): Job {
  const read = readJob(at(`demo/${name}.job.json`));
  if (!read.ok) throw new Error(read.problems[0]?.text);
  return read.value;
}
const csv = at('demo/logs/teasel-clean-day.csv').split('\n').slice(0, 400).join('\n');
const pdf = encode('%PDF-1.7 charging sheet, page 1');

/** The launch with a log and a document, as one file. */
function launch(): { job: Job; bytes: Uint8Array } {
  const from = demoJob('teasel');
  const job: Job = {
    ...from,
    logs: [{ id: 'day', name: 'Day', instrument: from.system.provingInstrument, from: 0, to: 1, rows: 399 }],
    attachments: [{ id: 'sheet-d', name: 'Sheet D.pdf', type: 'application/pdf', bytes: pdf.length }],
  };
  return { job, bytes: writeBundle({ job, logs: { day: csv }, files: { 'sheet-d': pdf } }) };
}

/** Everything that a value says, in one text: what was read and what is held aside. */
const said = (value: unknown): string => JSON.stringify(value);

/** Runs one reading and tells what is wrong with how it went; null when nothing is. */
function guarded<T>(count: ReturnType<typeof counting>, example: string, read: () => T): T | undefined {
  const began = performance.now();
  try {
    const value = read();
    if (performance.now() - began > hangMs) {
      count.fault('hang', example);
      return undefined;
    }
    return value;
  } catch (error) {
    count.fault('crash', `${example}: ${String(error)}`);
    return undefined;
  }
}

/** Bundles and backups with altered bytes: either refused, or every content as it was. */
function archives(rounds: number, seed: number): readonly Row[] {
  const { job, bytes } = launch();
  const whole = readBundle(bytes);
  if (!whole.ok) throw new Error('the bundle');
  const bundles = counting('bundle, bytes altered');
  const random = randomFrom(seed);
  for (let n = 0; n < rounds; n++) {
    const { way, bytes: altered } = mutated(bytes, random);
    const read = guarded(bundles, `${way} ${n}`, () => readBundle(altered));
    if (!read) continue;
    if (!read.ok) bundles.came(read.problems[0]?.text ? 'refused' : 'refused without a word');
    else if (said(read.value) === said(whole.value)) bundles.came('as it was');
    else bundles.fault('silent change', `${way} ${n}`);
  }
  const moss = demoJob('rook-moss');
  const head: BackupHead = {
    format: 'calm-keel/backup',
    version: 1,
    at: '2026-06-10T08:00:00.000Z',
    jobs: [job, moss].map(({ id, name }) => ({ id, name, updatedAt: 1 })),
    sheets: [moss.sheet],
    cards: moss.cards,
    mappings: [],
  };
  const backup = writeBackup(head, { [job.id]: bytes, [moss.id]: writeBundle({ job: moss, logs: {}, files: {} }) });
  const all = readBackup(backup);
  if (!all.ok) throw new Error('the backup');
  const backups = counting('backup, bytes altered');
  for (let n = 0; n < rounds; n++) {
    const { way, bytes: altered } = mutated(backup, random);
    const read = guarded(backups, `${way} ${n}`, () => readBackup(altered));
    if (!read) continue;
    if (!read.ok) {
      backups.came('refused');
      continue;
    }
    const { bundles: got, unread, head: found } = read.value;
    const lost = head.jobs.filter(({ id, name }) => !got[id] && !unread.some((text) => text.includes(name)));
    const changed = head.jobs.filter(({ id }) => got[id] && said(got[id]) !== said(all.value.bundles[id]));
    if (changed.length > 0 || said(found) !== said(all.value.head)) backups.fault('silent change', `${way} ${n}`);
    else if (lost.length > 0) backups.fault('silent loss', `${way} ${n}`);
    else backups.came(unread.length > 0 ? 'a job in it named and left' : 'as it was');
  }
  return [bundles.row(), backups.row()];
}

/** Texts of one kind with a slip: either refused, or everything they say is read or held aside. */
function documents(kind: string, texts: readonly string[], read: (document: unknown) => Result<object>, rounds: number, seed: number): Row {
  const count = counting(`${kind}, a slip of the hand`);
  const random = randomFrom(seed);
  for (let n = 0; n < rounds; n++) {
    const text = slipped(texts[Math.floor(random() * texts.length)] ?? '', random);
    let given: unknown;
    try {
      given = JSON.parse(text);
    } catch {
      count.came('no JSON any more');
      continue;
    }
    const result = guarded(count, `${n}`, () => read(given));
    if (!result) continue;
    if (!result.ok) {
      count.came('refused');
      continue;
    }
    const { aside = [], ...rest } = result.value as { aside?: readonly { place: string }[] };
    const lost = strangeIn(given, rest).filter((s) => !aside.some((a) => a.place === s.place));
    if (lost.length > 0) count.fault('silent loss', `${n}: ${lost[0]?.place ?? ''}`);
    else count.came(aside.length > 0 ? 'named and held aside' : 'read as it says');
  }
  return count.row();
}

/** Logs with altered bytes: no crash, no hang; every line is read or counted among those that were not. */
function logs(rounds: number, seed: number): Row {
  const count = counting('log, bytes altered');
  const random = randomFrom(seed);
  const context = logContextOf(deriveSettings(demoJob('teasel')));
  const split = (text: string, separator: string): string[][] => Papa.parse<string[]>(text, { delimiter: separator }).data;
  for (let n = 0; n < rounds; n++) {
    const { way, bytes } = mutated(encode(csv), random);
    const text = new TextDecoder().decode(bytes);
    const read = guarded(count, `${way} ${n}`, () => {
      const strange = sniffLog(text, true);
      if (strange) return null;
      const guess = guessMapping(text, split, context);
      if (!guess.ok) return null;
      const reader = createLogReader(guess.value.mapping);
      const rows = split(text, guess.value.mapping.separator);
      return reader.take(rows) ? null : { rows: rows.length, result: reader.finish() };
    });
    if (read === undefined) continue;
    if (!read?.result.ok) {
      count.came('refused');
      continue;
    }
    const { log, report } = read.result.value;
    const columns = [log.bankVolts, log.bankAmps, log.batteryC, ...Object.values(log.chargers).flatMap((c) => [c.amps, c.volts])];
    if (columns.some((c) => c !== undefined && c.length !== log.time.length)) count.fault('silent change', `${way} ${n}: columns of other lengths`);
    else if (report.rows + report.skipped < read.rows - 60)
      count.fault('silent loss', `${way} ${n}: ${report.rows} read, ${report.skipped} left out, of ${read.rows}`);
    else count.came(report.skipped > 0 ? 'lines left out and counted' : 'read');
  }
  return count.row();
}

/** Attacks every kind of file, `rounds` times in all. */
export function attackFiles(rounds: number, seed: number): readonly Row[] {
  const each = Math.ceil(rounds / 6);
  const jobs = ['teasel', 'rook-moss', 'skarrow', 'tumbler'].map(demoJob);
  const words = (list: readonly object[]): string[] => list.map((item) => JSON.stringify(item, null, 1));
  const readDocument = (document: unknown): Result<object> => readJob(JSON.stringify(document));
  return [
    ...archives(each, seed),
    documents('job', jobs.map(writeJob), readDocument, each, seed + 1),
    documents('card', words(jobs.flatMap((job) => job.cards)), toCard, each, seed + 2),
    documents('sheet', words(jobs.map((job) => job.sheet)), toSheet, each, seed + 3),
    logs(each, seed + 4),
  ];
}
