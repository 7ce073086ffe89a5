import { addDays, format, parseISO } from 'date-fns';
import { createEvents, type EventAttributes } from 'ics';
import type { Due } from '@calm-keel/core/job';

/** What is due on one job. */
export interface DueOnJob {
  readonly id: string;
  readonly name: string;
  readonly due: readonly Due[];
}

const numbers = (date: string): [number, number, number] => {
  const [year = 1970, month = 1, day = 1] = date.split('-').map(Number);
  return [year, month, day];
};

const dayAfter = (date: string): string => format(addDays(parseISO(date), 1), 'yyyy-MM-dd');

/**
 * Everything that is due as a calendar file, whole days. An entry keeps its name from one export to the next, so a calendar replaces it instead of
 * showing it twice.
 *
 * @param now ISO time of the export
 */
export function calendarOf(jobs: readonly DueOnJob[], now: string): string {
  // The package takes a time stamp, and its types do not know: without one it would be the moment of the call.
  const events = jobs.flatMap(({ id, name, due }) =>
    due.map((d): EventAttributes & { timestamp: number } => ({
      uid: `${id}-${d.code}-${d.title.toLowerCase().replace(/[^a-z0-9]+/g, '-')}@calm-keel.invalid`,
      timestamp: Date.parse(now),
      productId: 'calm-keel',
      title: `${name}: ${d.title}`,
      description: d.why,
      start: numbers(d.on),
      end: numbers(dayAfter(d.on)),
      busyStatus: 'FREE',
      transp: 'TRANSPARENT',
    })),
  );
  const { value, error } = createEvents(events);
  if (value === null) throw error instanceof Error ? error : new Error('the calendar could not be written');
  return value;
}
