import { toJob, type Job } from '@calm-keel/core/job';
import type { DamagedRow, Database, HistoryRow, JobRow } from './database';
import type { JobBook } from './job-book';
import { asCopyRow, asFileRow, asLogRow, asVerdictRow, damagedRow, stepDocument, tableWords } from './rows';

/** Something in the book that does not hold together, and how it can be mended. */
export interface BookFault {
  readonly kind: 'unreadable' | 'damaged' | 'contentMissing' | 'historyGap' | 'orphan';
  readonly jobId: string;
  /** The row that is damaged. */
  readonly row?: DamagedRow;
  readonly text: string;
  /** What mending does; missing where nothing can be done here. */
  readonly mend?: string;
}

interface Contents {
  readonly jobs: readonly JobRow[];
  /** History without its documents. */
  readonly steps: readonly Pick<HistoryRow, 'jobId' | 'seq' | 'label'>[];
  readonly logs: readonly (readonly [string, string])[];
  readonly files: readonly (readonly [string, string])[];
  /** Rows of any table that cannot be read. */
  readonly damaged?: readonly DamagedRow[];
}

const name = (row: JobRow): string => (typeof (row.doc as Partial<Job> | undefined)?.name === 'string' && row.doc.name ? row.doc.name : row.id);

/** Looks through everything this device keeps. */
export function faultsOf({ jobs, steps, logs, files, damaged = [] }: Contents): readonly BookFault[] {
  const ids = new Set<unknown>([...jobs.map((row) => row.id), ...damaged.filter((row) => row.table === 'jobs').map((row) => row.key)]);
  const has = (list: Contents['logs'], jobId: string, id: string): boolean => list.some((key) => key[0] === jobId && key[1] === id);
  const ofJobs = jobs.flatMap((row): BookFault[] => {
    const job = toJob(row.doc);
    const own = steps.filter((s) => s.jobId === row.id);
    if (!job.ok)
      return [
        {
          kind: 'unreadable',
          jobId: row.id,
          text: `“${name(row)}” cannot be read: ${job.problems.at(-1)?.text ?? ''}`,
          ...(own.some((s) => s.seq < row.seq) ? { mend: 'Go back to the last step that can be read' } : {}),
        },
      ];
    const missing = [
      ...job.value.logs.filter((l) => !has(logs, row.id, l.id)).map((l) => l.name),
      ...job.value.attachments.filter((a) => !has(files, row.id, a.id)).map((a) => a.name),
    ];
    return [
      ...(missing.length > 0
        ? [
            {
              kind: 'contentMissing' as const,
              jobId: row.id,
              text: `“${name(row)}” names ${missing.map((m) => `“${m}”`).join(', ')}, and the contents are not on this device.`,
              mend: 'Take the names out; bring the files in again later',
            },
          ]
        : []),
      ...(own.some((s) => s.seq === row.seq)
        ? []
        : [
            {
              kind: 'historyGap' as const,
              jobId: row.id,
              text: `The last step of “${name(row)}” is not in its history, so it cannot be undone.`,
              mend: 'Begin its history here',
            },
          ]),
    ];
  });
  const stray = new Set([...steps.map((s) => s.jobId), ...logs.map((k) => k[0]), ...files.map((k) => k[0])].filter((id) => !ids.has(id)));
  return [
    ...ofJobs,
    ...damaged.map((row): BookFault => ({
      kind: 'damaged',
      jobId: String(Array.isArray(row.key) ? row.key[0] : row.key),
      row,
      text: `${tableWords[row.table]} “${row.name}” is damaged: ${row.why}`,
      mend: 'Put it away as it is',
    })),
    ...[...stray].map((jobId): BookFault => ({
      kind: 'orphan',
      jobId,
      text: `Something of a job “${jobId}” that is no longer here takes up room.`,
      mend: 'Clear it away',
    })),
  ];
}

/** Reads what the check looks at. Documents of the history stay where they are. */
export async function contentsOf(db: Database, book: JobBook): Promise<Contents> {
  const [{ rows, damaged }, logs, files, own] = await Promise.all([
    book.rows(),
    db.logs.toCollection().primaryKeys(),
    db.files.toCollection().primaryKeys(),
    book.own(),
  ]);
  const found: DamagedRow[] = [...damaged, ...own.damaged];
  const look = async (table: 'logs' | 'verdicts' | 'files' | 'copies', sound: (row: unknown) => unknown): Promise<void> => {
    await db.table(table).each((row: unknown, { primaryKey: key }) => {
      if (!sound(row)) found.push(damagedRow(table, key, row));
    });
  };
  await look('logs', asLogRow);
  await look('files', asFileRow);
  await look('verdicts', asVerdictRow);
  await look('copies', asCopyRow);
  const steps: { jobId: string; seq: number; label: string }[] = [];
  await db.history.each((step, { primaryKey: key }) => {
    steps.push({ jobId: step.jobId, seq: step.seq, label: step.label });
    if (!stepDocument(step)) found.push({ ...damagedRow('history', key, step, 'undo cannot go back to it.'), name: step.jobId });
  });
  return { jobs: rows, steps, logs, files, damaged: found };
}

/** Mends one fault. Nothing that can be read is thrown away. */
export async function mend(db: Database, book: JobBook, fault: BookFault): Promise<void> {
  await db.transaction('rw', db.tables, async () => {
    const row = await db.jobs.get(fault.jobId);
    switch (fault.kind) {
      case 'damaged':
        if (fault.row) await book.putAside(fault.row);
        return;
      case 'unreadable':
        await book.repair(fault.jobId);
        return;
      case 'orphan':
        if (row) return;
        await db.history.where('jobId').equals(fault.jobId).delete();
        for (const table of [db.logs, db.files, db.verdicts, db.copies]) await table.where('jobId').equals(fault.jobId).delete();
        return;
      case 'historyGap':
        if (row) await db.history.put({ jobId: row.id, seq: row.seq, label: 'As found', doc: row.doc, mergeKey: '', at: Date.now() });
        return;
      case 'contentMissing': {
        if (!row) return;
        const logs = new Set((await db.logs.where('jobId').equals(row.id).primaryKeys()).map((k) => k[1]));
        const files = new Set((await db.files.where('jobId').equals(row.id).primaryKeys()).map((k) => k[1]));
        const kept = (j: Job): Job => ({ ...j, logs: j.logs.filter((l) => logs.has(l.id)), attachments: j.attachments.filter((a) => files.has(a.id)) });
        await book.edit(row.id, 'Take out what is not on this device', kept, '');
        return;
      }
    }
  });
}
