import { type Card, cardSchema } from '@calm-keel/core/card';
import { toJob, type Job } from '@calm-keel/core/job';
import { type Log, type LogReport, verdictOrder } from '@calm-keel/core/proof';
import { isRecord, isSentence } from '@calm-keel/core/quantity';
import { type Sheet, sheetSchema } from '@calm-keel/core/sheet';
import type { CopyRow, DamagedRow, FileRow, HistoryRow, JobRow, LogRow, VerdictRow } from './database';

/**
 * Rows as they come out of the database: anything may stand in them, because an older version, another program or a failing disk wrote them. Each is looked at
 * by itself; one that cannot be read is told of, and the others work.
 */

const isNumber = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value);
const isText = (value: unknown, most: number): value is string => typeof value === 'string' && value.length <= most;
const unset = (value: unknown): boolean => value === undefined || isNumber(value);

/** Longest name a job, a device, a log can have. */
const mostName = 80;

/** What is wrong with a row of the job table, or null. The document is only looked at as far as the job list needs; opening looks at all of it. */
function jobRowFault(row: unknown): string | null {
  if (!isRecord(row)) return 'it is no row of a table';
  if (typeof row['id'] !== 'string') return 'it has no name to find it by';
  const doc = row['doc'];
  if (!isRecord(doc)) return 'its document is missing';
  if (!isText(doc['name'], mostName)) return typeof doc['name'] === 'string' ? `its name has ${doc['name'].length} letters` : 'its document has no name';
  if (typeof doc['version'] !== 'number') return 'its document does not say of which version it is';
  if (!isNumber(row['seq']) || !Number.isInteger(row['seq'])) return 'its place in the history is not a number';
  if (!isNumber(row['updatedAt'])) return 'when it was last changed is not a number';
  if (row['rev'] !== undefined && !isNumber(row['rev'])) return 'its count of changes is not a number';
  if (!unset(row['deletedAt']) || !unset(row['archivedAt'])) return 'when it was put away is not a number';
  return null;
}

const shortly = (text: unknown, otherwise: string): string => (typeof text === 'string' && text !== '' ? text.slice(0, mostName) : otherwise);
const nameOf = (row: unknown, key: unknown): string => {
  const doc = isRecord(row) && isRecord(row['doc']) ? row['doc'] : null;
  return shortly(doc?.['name'], shortly(typeof key === 'string' ? key : JSON.stringify(key), 'no name'));
};

/** What a row of each table is, in words. */
export const tableWords: Readonly<Record<DamagedRow['table'], string>> = {
  jobs: 'Job',
  history: 'Step of a history',
  logs: 'Log',
  verdicts: 'Verdicts of a log',
  files: 'Document',
  copies: 'Copy of a job',
  sheets: 'Own sheet',
  cards: 'Own card',
  mappings: 'Way of reading a log',
  surveys: 'Survey of a charger',
};

/** A row that is not what its table is for. */
export const damagedRow = (table: DamagedRow['table'], key: unknown, raw: unknown, why = 'it is not what this program stores there.'): DamagedRow => ({
  table,
  key,
  name: String([key].flat().at(-1)).slice(0, mostName),
  why,
  raw,
});

/** The rows of the job table that can be listed, and those that cannot. */
export function readJobRows(rows: readonly { readonly key: unknown; readonly raw: unknown }[]): {
  readonly rows: readonly JobRow[];
  readonly damaged: readonly DamagedRow[];
} {
  const good: JobRow[] = [];
  const damaged: DamagedRow[] = [];
  for (const { key, raw } of rows) {
    const fault = jobRowFault(raw);
    if (fault === null) good.push({ ...(raw as JobRow), rev: (raw as Partial<JobRow>).rev ?? 0 });
    else damaged.push({ table: 'jobs', key, name: nameOf(raw, key), why: `${fault}.`, raw });
  }
  return { rows: good, damaged };
}

/** One row of the job table, or null. */
export const asJobRow = (raw: unknown): JobRow | null => readJobRows([{ key: '', raw }]).rows[0] ?? null;

/** The document of a step of the history as a job of today; null where it cannot be read. */
export function stepDocument(row: HistoryRow | undefined): Job | null {
  const read = isRecord(row) ? toJob(row.doc) : null;
  return read?.ok ? read.value : null;
}

/** The samples of a log, or null: every column must be as long as its times. */
export function asLogRow(raw: unknown): LogRow | null {
  if (!isRecord(raw) || !isRecord(raw['log']) || !isRecord(raw['report'])) return null;
  const log = raw['log'] as Partial<Log>;
  const report = raw['report'] as Partial<LogReport>;
  const { time } = log;
  if (!(time instanceof Float64Array) || time.length === 0 || !(log.bankVolts instanceof Float32Array)) return null;
  if (log.offsetMinutes !== null && !isNumber(log.offsetMinutes)) return null;
  if (!isRecord(log.chargers) || !Object.values(log.chargers).every(isRecord)) return null;
  const columns = [log.bankVolts, log.bankAmps, log.batteryC, log.stateOfCharge, ...Object.values(log.chargers).flatMap((c) => Object.values(c) as unknown[])];
  const sound = columns.every((c) => c === undefined || ((c instanceof Float32Array || c instanceof Uint8Array) && c.length === time.length));
  const told = isNumber(report.rows) && isNumber(report.skipped) && isNumber(report.intervalSeconds);
  const lists = [report.firstSkipped, report.gaps, report.notes].every(Array.isArray);
  return sound && told && lists ? (raw as unknown as LogRow) : null;
}

/** The bytes of a document, or null. */
export const asFileRow = (raw: unknown): FileRow | null =>
  isRecord(raw) && raw['bytes'] instanceof Uint8Array && raw['bytes'].length > 0 ? (raw as unknown as FileRow) : null;

const isVerdict = (value: unknown): boolean => (verdictOrder as readonly unknown[]).includes(value);

/** What a log came to, or null: then it is judged again. */
export function asVerdictRow(raw: unknown): VerdictRow | null {
  if (!isRecord(raw) || typeof raw['jobId'] !== 'string' || typeof raw['logId'] !== 'string' || typeof raw['basis'] !== 'string') return null;
  const { verdicts, rows } = raw;
  if (!isRecord(verdicts) || !Object.values(verdicts).every(isVerdict)) return null;
  const told =
    rows === undefined ||
    (isRecord(rows) &&
      Object.values(rows).every(
        (r) => isRecord(r) && isVerdict(r['verdict']) && isSentence(r['why']) && [r['witness'], r['next']].every((s) => s === undefined || isSentence(s)),
      ));
  return told ? (raw as unknown as VerdictRow) : null;
}

/** A copy that was handed out or brought in, or null. */
export const asCopyRow = (raw: unknown): CopyRow | null =>
  isRecord(raw) && typeof raw['id'] === 'string' && typeof raw['jobId'] === 'string' && isRecord(raw['doc']) ? (raw as unknown as CopyRow) : null;

/** This device's own cards that can be read. */
export const soundCards = (rows: readonly unknown[]): readonly Card[] => rows.filter((row): row is Card => cardSchema.safeParse(row).success);
/** This device's own sheets that can be read. */
export const soundSheets = (rows: readonly unknown[]): readonly Sheet[] => rows.filter((row): row is Sheet => sheetSchema.safeParse(row).success);
