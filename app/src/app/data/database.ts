import { Dexie, type EntityTable, type Table } from 'dexie';
import type { Card, Job, KeptVerdicts, Log, LogReport, Mapping, Sheet } from '@calm-keel/core';

/** A job as it is stored: the document, and where its history stands. */
export interface JobRow {
  readonly id: string;
  /** As last written; may be of an older version until it is opened. */
  readonly doc: Job;
  /** Which entry of the history the document is. */
  readonly seq: number;
  /** Milliseconds since 1970. */
  readonly updatedAt: number;
  /** Set while the job can still be brought back. */
  readonly deletedAt?: number;
  /** Set while it is put away: kept, found by search, and not in the way. */
  readonly archivedAt?: number;
}

/** One step of a job's history: the document after it. */
export interface HistoryRow {
  readonly jobId: string;
  readonly seq: number;
  readonly label: string;
  readonly doc: Job;
  /** Steps with the same key within two seconds become one. */
  readonly mergeKey: string;
  readonly at: number;
}

/** The samples of a log, beside the job and never inside it. */
export interface LogRow {
  readonly jobId: string;
  readonly id: string;
  readonly log: Log;
  readonly report: LogReport;
}

/** What a log came to when it was last judged: kept so that job list and keel line can tell without reading samples. */
export interface VerdictRow extends KeptVerdicts {
  readonly jobId: string;
}

/** The bytes of a document kept with a job. */
export interface FileRow {
  readonly jobId: string;
  readonly id: string;
  readonly bytes: Uint8Array;
}

/** How files of one make are read, by what recognises them. */
export interface MappingRow {
  readonly fingerprint: string;
  readonly mapping: Mapping;
  readonly at: number;
}

/** A copy of a job that was handed out or brought in: what two copies are merged by. */
export interface CopyRow {
  readonly id: string;
  readonly jobId: string;
  readonly doc: Job;
  readonly at: number;
}

/** What this device knows of itself: when it was backed up last. */
export interface MetaRow {
  readonly key: string;
  readonly value: number;
}

/** Everything this device keeps. */
export class Database extends Dexie {
  declare readonly jobs: EntityTable<JobRow, 'id'>;
  declare readonly history: Table<HistoryRow, [string, number]>;
  declare readonly logs: Table<LogRow, [string, string]>;
  declare readonly verdicts: Table<VerdictRow, [string, string]>;
  declare readonly files: Table<FileRow, [string, string]>;
  /** This device's own sheets and cards, beside the shipped ones. */
  declare readonly sheets: EntityTable<Sheet, 'id'>;
  declare readonly cards: EntityTable<Card, 'id'>;
  declare readonly mappings: EntityTable<MappingRow, 'fingerprint'>;
  declare readonly copies: EntityTable<CopyRow, 'id'>;
  declare readonly meta: EntityTable<MetaRow, 'key'>;

  constructor(name = 'calm-keel') {
    super(name);
    this.version(1).stores({ jobs: 'id, updatedAt', history: '[jobId+seq], jobId', logs: '[jobId+id], jobId' });
    this.version(2).stores({ verdicts: '[jobId+logId], jobId' });
    this.version(3).stores({ files: '[jobId+id], jobId', sheets: 'id', cards: 'id' });
    this.version(4).stores({ mappings: 'fingerprint' });
    this.version(5).stores({ copies: 'id, jobId', meta: 'key' });
  }
}

/** A storage failure as a sentence. A full disk arrives directly or wrapped in an aborted transaction. */
export function storageProblem(error: unknown): string {
  const named = error as { name?: string; inner?: { name?: string }; message?: string };
  if (named.name === 'QuotaExceededError' || named.inner?.name === 'QuotaExceededError')
    return 'This device has no room left. Your last changes are still on this page: free some space, or save the job to a file, then try again.';
  if (named.name === 'VersionError' || named.name === 'DatabaseClosedError') return 'This page is older than the data on this device. Reload it.';
  return `This device could not save (${named.message ?? named.name ?? 'unknown reason'}). Your last changes are still on this page.`;
}
