import { toJob, type Job } from '@calm-keel/core';
import type { Database, HistoryRow, JobRow } from './database';
import type { JobBook } from './job-book';

/** Something in the book that does not hold together, and how it can be mended. */
export interface BookFault {
  readonly kind: 'unreadable' | 'contentMissing' | 'historyGap' | 'orphan';
  readonly jobId: string;
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
}

const name = (row: JobRow): string => (typeof (row.doc as Partial<Job> | undefined)?.name === 'string' && row.doc.name ? row.doc.name : row.id);

/** Looks through everything this device keeps. */
export function faultsOf({ jobs, steps, logs, files }: Contents): readonly BookFault[] {
  const ids = new Set(jobs.map((row) => row.id));
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
    ...[...stray].map((jobId): BookFault => ({
      kind: 'orphan',
      jobId,
      text: `Something of a job “${jobId}” that is no longer here takes up room.`,
      mend: 'Clear it away',
    })),
  ];
}

/** Reads what the check looks at. Documents of the history stay where they are. */
export async function contentsOf(db: Database): Promise<Contents> {
  const [jobs, logs, files] = await Promise.all([db.jobs.toArray(), db.logs.toCollection().primaryKeys(), db.files.toCollection().primaryKeys()]);
  const steps: { jobId: string; seq: number; label: string }[] = [];
  await db.history.each(({ jobId, seq, label }) => steps.push({ jobId, seq, label }));
  return { jobs, steps, logs, files };
}

/** Mends one fault. Nothing that can be read is thrown away. */
export async function mend(db: Database, book: JobBook, fault: BookFault): Promise<void> {
  await db.transaction('rw', [db.jobs, db.history, db.logs, db.files, db.verdicts, db.copies], async () => {
    const row = await db.jobs.get(fault.jobId);
    switch (fault.kind) {
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
      case 'unreadable': {
        if (!row) return;
        const steps = await db.history.where('jobId').equals(row.id).sortBy('seq');
        for (const old of steps.reverse()) {
          const job = toJob(old.doc);
          if (!job.ok) continue;
          await db.jobs.put({ ...row, doc: job.value, seq: old.seq, updatedAt: Date.now() });
          return;
        }
      }
    }
  });
}
