import { Dexie, type EntityTable, type Table } from 'dexie';
import { isLostPart, lostPart } from './lost-part';
import type { Card } from '@calm-keel/core/card';
import type { Job, KeptVerdicts } from '@calm-keel/core/job';
import type { Action, Claim, Exercise, Practised } from '@calm-keel/core/practice';
import type { Log, LogReport, Mapping } from '@calm-keel/core/proof';
import type { Sheet } from '@calm-keel/core/sheet';
import type { Survey } from '@calm-keel/core/survey';

/** A job as it is stored: the document, and where its history stands. */
export interface JobRow {
  readonly id: string;
  /** As last written; may be of an older version until it is opened. */
  readonly doc: Job;
  /** Which entry of the history the document is. */
  readonly seq: number;
  /** The count of the database when this was written. What came later has the higher one, whatever the clock says. */
  readonly rev: number;
  /** Milliseconds since 1970, to be shown; nothing is decided by it. */
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

/** A survey of a charger that is not finished, with what undo goes back to, the newest last. */
export interface SurveyRow {
  readonly id: string;
  readonly doc: Survey;
  /** Counts what was written: the higher is the later, whatever the clock says. */
  readonly rev: number;
  readonly past: readonly { readonly label: string; readonly doc: Survey; readonly mergeKey: string; readonly at: number }[];
  /** Milliseconds since 1970, to be shown. */
  readonly at: number;
}

/** A copy of a job that was handed out or brought in: what two copies are merged by. */
export interface CopyRow {
  readonly id: string;
  readonly jobId: string;
  readonly doc: Job;
  readonly at: number;
  /** The count of the database when it was kept; missing in what older versions kept. */
  readonly rev?: number;
}

/** An exercise on the practice bench: what was done on it, in order, from which everything on it follows. */
export interface BenchRow {
  readonly id: string;
  readonly exercise: Exercise;
  readonly actions: readonly Action[];
  readonly claims: readonly Claim[];
  /** It was judged and stands in the book. */
  readonly judged: boolean;
  /** Counts what was written: a tab that finds another count than its own has been overtaken. */
  readonly rev: number;
  /** Milliseconds since 1970. */
  readonly at: number;
}

/** A row that cannot be read as what it should be. */
export interface DamagedRow {
  readonly table: 'jobs' | 'history' | 'logs' | 'verdicts' | 'files' | 'copies' | 'sheets' | 'cards' | 'mappings' | 'surveys';
  readonly key: unknown;
  /** How it may be called in a sentence. */
  readonly name: string;
  /** What is wrong with it, as a sentence. */
  readonly why: string;
  /** As it stands; undefined where the browser itself cannot read it. */
  readonly raw: unknown;
}

/** A row that cannot be read, put out of the way as it was. */
export interface AsideRow extends DamagedRow {
  readonly id?: number;
  readonly at: number;
}

/** What this device knows of itself: its count of changes, and when it was backed up last. */
export interface MetaRow {
  readonly key: string;
  readonly value: number;
}

/** The version of the database that this program writes. */
const newest = 8;

/**
 * The database of this browser, up to a version: one that a newer program has written is refused before anything in it is touched. Asked for a version that is
 * too low, Dexie asks again for whatever there is, and adds to it what it misses.
 */
function onlyUpTo(version: number): IDBFactory {
  const real = indexedDB;
  return {
    // Dexie counts in tenths; the rest of the tenths are its own patches of the same version.
    open: (name, wanted) => real.open(name, wanted ?? version * 10 + 9),
    deleteDatabase: (name) => real.deleteDatabase(name),
    cmp: (a: unknown, b: unknown): number => real.cmp(a, b),
    databases: () => real.databases(),
  };
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
  declare readonly surveys: EntityTable<SurveyRow, 'id'>;
  declare readonly copies: EntityTable<CopyRow, 'id'>;
  declare readonly meta: EntityTable<MetaRow, 'key'>;
  declare readonly aside: EntityTable<AsideRow, 'id'>;
  /** The practice bench: exercises under way, and the book. */
  declare readonly benches: EntityTable<BenchRow, 'id'>;
  declare readonly practised: EntityTable<Practised, 'id'>;

  constructor(name = 'calm-keel') {
    super(name, { indexedDB: onlyUpTo(newest) });
    this.version(1).stores({ jobs: 'id, updatedAt', history: '[jobId+seq], jobId', logs: '[jobId+id], jobId' });
    this.version(2).stores({ verdicts: '[jobId+logId], jobId' });
    this.version(3).stores({ files: '[jobId+id], jobId', sheets: 'id', cards: 'id' });
    this.version(4).stores({ mappings: 'fingerprint' });
    this.version(5).stores({ copies: 'id, jobId', meta: 'key' });
    // Order by a count of the database's own; until then the clock decided, so the old order is the clock's.
    this.version(6)
      .stores({ aside: '++id' })
      .upgrade(async (old) => {
        const keys = (await old.table('jobs').toCollection().primaryKeys()) as string[];
        const touched = await Promise.all(
          keys.map(async (key) => ({ key, at: Number(((await old.table('jobs').get(key)) as Partial<JobRow>).updatedAt) || 0 })),
        );
        touched.sort((a, b) => a.at - b.at);
        for (const [i, { key }] of touched.entries()) await old.table('jobs').update(key, { rev: i + 1 });
        await old.table('meta').put({ key: 'count', value: touched.length });
      });
    this.version(7).stores({ surveys: 'id' });
    this.version(newest).stores({ benches: 'id, at', practised: 'id, at' });
  }
}

/** A failure as a sentence: of the storage, or of a part of the program that is gone. A full disk arrives directly or wrapped in an aborted transaction. */
export function storageProblem(error: unknown): string {
  const named = error as { name?: string; inner?: { name?: string }; message?: string };
  if (isLostPart(error)) return lostPart;
  const names = [named.name, named.inner?.name];
  if (names.includes('QuotaExceededError')) return 'This device has no room left: free some space, or save jobs to files and delete them here, then try again.';
  if (names.includes('VersionError'))
    return 'The jobs on this device were saved by a newer version of this program. Nothing was changed. Reload the page to get that version.';
  if (names.includes('UnknownError') || named.message?.includes('UnknownError'))
    return 'The browser cannot reach its storage on this device: the disk may be full or failing. Free some space, then try again; or save the job to a file.';
  if (names.includes('DatabaseClosedError')) return 'This page is older than the data on this device. Reload it.';
  return `This device could not save (${named.message ?? named.name ?? 'unknown reason'}). Try again; if it stays so, save the job to a file.`;
}
