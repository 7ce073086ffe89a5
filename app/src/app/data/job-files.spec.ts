import { TestBed } from '@angular/core/testing';
import { readBundle, type Job } from '@calm-keel/core/job';
import type { Log, LogReport } from '@calm-keel/core/proof';
import { sampleJob, setUp, tearDown } from '../testing';
import type { Database } from './database';
import { JobBook } from './job-book';
import { JobFiles, type Brought } from './job-files';

const time = Float64Array.from({ length: 120 }, (_, i) => 1_780_000_000 + i * 10);
const log: Log = { time, offsetMinutes: 0, bankVolts: Float32Array.from(time, (_, i) => 26 + (i % 7) / 10), chargers: {} };
const report: LogReport = { rows: 120, skipped: 0, firstSkipped: [], intervalSeconds: 10, gaps: [], notes: [] };
const pdf = Uint8Array.from('%PDF-1.7 sheet', (c) => c.charCodeAt(0));
const entry = { id: 'day', name: 'Clear day', instrument: 'meter', from: 0, to: 1190, rows: 120 };
const paper = { id: 'paper', name: 'Sheet D', type: 'application/pdf' as const, bytes: pdf.length };
const always = () => true;

describe('files of jobs', () => {
  let db: Database;
  let book: JobBook;
  let files: JobFiles;
  beforeEach(() => {
    db = setUp();
    book = TestBed.inject(JobBook);
    files = TestBed.inject(JobFiles);
  });
  afterEach(async () => {
    await tearDown(db);
  });

  const whole: Job = { ...sampleJob(), logs: [entry], attachments: [paper] };
  const addWhole = () => book.add(whole, 'New', [{ id: 'day', log, report }], [{ id: 'paper', bytes: pdf }]);
  const asFile = (blob: Blob, name = 'book.backup.zip'): File => new File([blob], name);
  const opened = (brought: Brought) => {
    if (!brought.ok || !('backup' in brought)) throw new Error(JSON.stringify(brought));
    return brought.backup;
  };
  const empty = async (): Promise<void> => {
    for (const table of db.tables) if (table.name !== 'meta') await table.clear();
  };

  it('back a whole book up and restore it on an empty device, in its order, logs and documents with it', async () => {
    await addWhole();
    await book.add({ ...sampleJob(), id: 'older', name: 'Older' }, 'New');
    await book.edit('sample', 'Note', (job) => ({ ...job, note: 'last touched' }), '');
    const made = await files.backUp(always);
    expect([made?.lacks, made?.count]).toEqual([[], await book.count()]);
    await empty();
    const backup = opened(await files.bring(asFile(made!.blob)));
    expect(backup.lines.map((l) => [l.id, l.state])).toEqual([
      ['older', 'new'],
      ['sample', 'new'],
    ]);
    expect(await files.restore(backup, {}, always)).toEqual(['2 jobs were restored.']);
    const rows = await book.all();
    expect([...rows].sort((a, b) => b.rev - a.rev).map((r) => r.id)).toEqual(['sample', 'older']);
    expect((await book.get('sample'))?.doc.note).toBe('last touched');
    expect([(await book.getLog('sample', 'day'))?.log.bankVolts.length, (await book.getFile('sample', 'paper'))?.bytes]).toEqual([120, pdf]);
  });

  it('carry what cannot be read as it is, say what is missing by name, and such a backup is not whole', async () => {
    await addWhole();
    await db.logs.clear();
    await db.files.clear();
    await db.jobs.put({ id: 'bad', doc: 3 } as never);
    await db.jobs.put({ ...(await book.get('sample'))!, id: 'worse', doc: { ...sampleJob(), name: 'Worse', system: 'gone' } as never });
    await db.cards.put({ id: 'own-card', format: 'nothing' } as never);
    const made = await files.backUp(always);
    expect(made?.lacks.map((text) => text.replace(/\(.*\)/, '(why)'))).toEqual([
      '“bad” cannot be read on this device (why) It is in the backup as it is.',
      '“own-card” cannot be read on this device (why) It is in the backup as it is.',
      '“Worse” cannot be read on this device (why) It is in the backup as it is.',
      '“Sample”: the samples of “Clear day”, the contents of “Sheet D” are not on this device.',
    ]);
    await empty();
    const notes = await files.restore(opened(await files.bring(asFile(made!.blob))), {}, always);
    expect(notes[0]).toBe('One job was restored.');
    expect(notes.filter((n) => n.includes('are not in this file')).length).toBe(2);
    expect(notes.filter((n) => n.includes('It is put away below, as it is.')).length).toBe(3);
    const aside = await db.aside.toArray();
    expect(aside.map((a) => [a.table, a.key, a.name])).toEqual([
      ['jobs', 'bad', 'bad'],
      ['cards', 'own-card', 'own-card'],
      ['jobs', 'worse', 'Worse'],
    ]);
    expect(aside[0]?.raw).toEqual({ id: 'bad', doc: 3 });
  });

  it('stop packing when asked, and then nothing is made', async () => {
    await addWhole();
    expect(await files.backUp(() => false)).toBeNull();
  });

  it('take an altered bundle or backup by none of its parts, and name the member', async () => {
    await addWhole();
    const bytes = new Uint8Array(await (await files.handOut((await book.get('sample'))!.doc)).arrayBuffer());
    const name = Array.from('logs/day.csv', (c) => c.charCodeAt(0));
    const at = bytes.findIndex((_, i) => name.every((c, k) => bytes[i + k] === c)) + name.length + 12;
    bytes[at] = (bytes[at] ?? 0) ^ 0x10;
    const before = await db.jobs.count();
    const refused = await files.bring(asFile(new Blob([bytes]), 'altered.keel.zip'));
    expect(refused.ok ? [] : refused.problems.map((p) => [p.code, p.place])).toEqual([['bundle-altered', 'logs/day.csv']]);
    expect(await db.jobs.count()).toBe(before);
  });

  it('hold aside what a file says and this program does not know, and say so', async () => {
    const text = JSON.stringify({ ...sampleJob(), id: 'slip', createdAt: '2026-06-01T08:00:00.000Z', coverrage: 3 });
    const brought = await files.bring(asFile(new Blob([text]), 'slip.job.json'));
    expect(brought.ok && 'notes' in brought && brought.notes).toEqual([jasmine.stringContaining('“coverrage” is not a name this program knows')]);
    expect((await book.get('slip'))?.doc.aside).toEqual([{ place: 'coverrage', json: '3' }]);
    // Handed on it goes along.
    const bundle = readBundle(new Uint8Array(await (await files.handOut((await book.get('slip'))!.doc)).arrayBuffer()));
    expect(bundle.ok && bundle.value.job.aside).toEqual([{ place: 'coverrage', json: '3' }]);
  });

  it('put what a merge brings from a device that got another id into its columns', async () => {
    const id = await addWhole();
    const came = {
      job: whole,
      logs: [{ id: 'day', log: { ...log, chargers: { bow: { amps: new Float32Array(120) }, aft: {} } }, report }],
      files: [],
      notes: [],
      copy: null,
    };
    await files.instead({ id, from: 'x', mine: whole, came, base: null }, { ...whole, logs: [{ ...entry, id: 'day-b' }] }, 'Merged', {
      logs: { day: 'day-b' },
      devices: { bow: 'bow-b' },
    });
    expect(Object.keys((await book.getLog(id, 'day-b'))?.log.chargers ?? {})).toEqual(['bow-b', 'aft']);
  });
});
