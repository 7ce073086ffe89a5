import type { Due } from '../../job';
import { cautionsOf, lastWord } from '../../runsheet';
import type { Plan } from '../../settings';
import type { Section } from '../paper';
import { cell } from './words';

/** Cautions of this system, and when to come back. */
export function care(plan: Plan, due: readonly Due[]): Section {
  return {
    id: 'care',
    title: 'Cautions, and when to come back',
    blocks: [
      { kind: 'list', items: cautionsOf(plan).map((c) => cell(c.title, 'caution', c.says)), empty: '' },
      { kind: 'text', text: lastWord },
      {
        kind: 'table',
        columns: [
          { head: 'By', share: 2, figures: true },
          { head: 'What', share: 4 },
          { head: 'Why', share: 7 },
        ],
        rows: due.map((d) => [cell(d.on), cell(d.title), cell(d.why)]),
        empty: 'Nothing is due.',
      },
    ],
  };
}
