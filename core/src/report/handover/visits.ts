import { editionOf } from '../../sheet';
import { type Job, countWords, differenceWords, differencesBetween } from '../../job';
import type { Block, Section } from '../paper';
import { cell } from './words';

/** The visits with what was noted, the newest first, and what differs since the one before; nothing for a job that has none. */
export function visits(job: Job): readonly Section[] {
  if (job.visits.length === 0) return [];
  const [last, before] = job.visits
    .map((v) => v.date)
    .sort()
    .reverse();
  const changed = last !== undefined && before !== undefined ? differencesBetween(job, before, last) : [];
  const blocks: Block[] = [
    {
      kind: 'list',
      items: [...job.visits]
        .reverse()
        .map((v) =>
          cell(
            [v.date, v.by, v.purpose, v.equalised ? 'equalised, attended' : '', v.balanced ? 'cells balanced' : ''].filter(Boolean).join(', '),
            undefined,
            [v.note, v.closed ? `Closed with ${countWords(v.closed.verdicts)}, on the sheet, ${editionOf(v.closed.sheet)}.` : 'Not closed yet.']
              .filter(Boolean)
              .join(' '),
          ),
        ),
      empty: '',
    },
  ];
  if (before !== undefined)
    blocks.push(
      { kind: 'heading', text: `Since the visit of ${before}` },
      {
        kind: 'list',
        items: changed.map((d) =>
          cell(`${d.subject}: ${d.what} ${d.from} became ${d.to}, ${differenceWords[d.how]}`, d.how === 'elsewhere' ? 'caution' : undefined),
        ),
        empty: 'Nothing on record differs.',
      },
    );
  return [{ id: 'visits', title: 'Visits', blocks }];
}
