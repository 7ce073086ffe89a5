import { format, isToday, isValid } from 'date-fns';
import { stepsToKey } from '@calm-keel/core/edits';
import { findFindings } from '@calm-keel/core/findings';
import { coverage, dueOf, openStops, standingOfAll, stopsThatStay, toJob, type Due, type KeptVerdicts } from '@calm-keel/core/job';
import { bankLine, deriveSettings } from '@calm-keel/core/settings';
import { chemistryWords, type Sheet } from '@calm-keel/core/sheet';
import type { JobRow } from '../data/database';
import { today } from '../data/job-store';
import type { GlyphName } from '../ui/glyph';
import { stationsOf, type Station } from '../data/stations';

/** Width of the keel of one job in the list, px. */
export const keelWidth = 400;

/** One row of the list of jobs. */
export type JobLine = {
  readonly id: string;
  readonly name: string;
  readonly place: string;
  readonly opened: string;
  readonly archived: boolean;
} & (
  | { readonly readable: false; readonly why: string }
  | {
      readonly readable: true;
      readonly stations: readonly Station[];
      readonly places: readonly number[];
      readonly next: Station | undefined;
      readonly stops: number;
      readonly state: GlyphName;
      readonly words: string;
      readonly bank: string;
      readonly bankLine: string;
      readonly chargers: readonly string[];
      readonly due: readonly Due[];
      /** What the search looks through, in small letters. */
      readonly text: string;
    }
);

/** What the list tells of a job: how far it has come, what is open, what is due; of one that cannot be read, why. */
export function jobLine(row: JobRow, kept: readonly KeptVerdicts[], library: readonly Sheet[]): JobLine {
  try {
    return lineOf(row, kept, library);
  } catch {
    // A document that fits its schema and still cannot be worked with must not take the list with it.
    return unreadable(row, 'This program cannot work with what is in it.');
  }
}

const openedWords = (row: JobRow): string =>
  isValid(row.updatedAt) ? (isToday(row.updatedAt) ? `${format(row.updatedAt, 'HH:mm')} today` : format(row.updatedAt, 'd MMMM yyyy')) : 'at an unknown time';

const unreadable = (row: JobRow, why: string): JobLine => ({
  id: row.id,
  name: row.doc.name || row.id,
  place: '',
  opened: openedWords(row),
  archived: row.archivedAt !== undefined,
  readable: false,
  why,
});

function lineOf(row: JobRow, kept: readonly KeptVerdicts[], library: readonly Sheet[]): JobLine {
  const opened = openedWords(row);
  const archived = row.archivedAt !== undefined;
  const read = toJob(row.doc);
  if (!read.ok) return unreadable(row, read.problems.at(-1)?.text ?? '');
  const job = read.value;
  const plan = deriveSettings(job);
  const findings = findFindings(plan, today());
  const stations = stationsOf(job, plan, findings, standingOfAll(job, plan, kept), null, stepsToKey(plan), stopsThatStay(job, plan, findings, today()).length);
  const stops = openStops(findings, job).length;
  const attention = findings.filter((f) => f.severity === 'attention').length;
  const begun = stations[0]?.state !== 'notyet';
  const cards = job.cards.map((c) => `${c.maker} ${c.model}`);
  return {
    id: row.id,
    name: job.name,
    place: job.system.site.place,
    opened,
    archived,
    readable: true,
    stations,
    places: stations.map((_, i) => 26 + (i * (keelWidth - 52)) / Math.max(1, stations.length - 1)),
    next: stations.find((s) => s.state === 'stop') ?? stations.find((s) => s.state !== 'done' && s.state !== 'proved') ?? stations[3],
    stops,
    state: stops > 0 ? 'stop' : attention > 0 ? 'attention' : begun ? 'done' : 'notyet',
    words:
      stops + attention > 0
        ? [stops ? `${stops} ${stops === 1 ? 'stop' : 'stops'}` : '', attention ? `${attention} attention` : ''].filter(Boolean).join(', ')
        : begun
          ? 'No open findings'
          : 'Nothing entered yet',
    bank: `${job.system.bank.unitsInSeries * job.system.bank.stringsInParallel} × ${job.sheet.maker} ${job.sheet.battery}`,
    bankLine: bankLine(plan),
    chargers: job.system.chargers.map((c) => c.name),
    due: dueOf(job, coverage(job, plan, kept), today(), library),
    text: [
      job.name,
      job.note,
      job.system.site.place,
      job.sheet.maker,
      job.sheet.battery,
      chemistryWords[job.sheet.chemistry],
      ...cards,
      ...[...job.system.chargers, ...job.system.companions].map((d) => d.name),
      ...job.visits.flatMap((v) => [v.purpose, v.note, v.by]),
    ]
      .join('\n')
      .toLowerCase(),
  };
}
