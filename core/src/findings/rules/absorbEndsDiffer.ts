import { isSource } from '../../card';
import { jobRule } from '../rule';
import { listed, chargersWithCards } from '../words';

const words = {
  time: 'by time',
  taper: 'by current',
  whicheverFirst: 'by time or current',
  both: 'by time and current',
  adaptive: 'by how long bulk took',
  stateOfCharge: 'by state of charge',
  none: 'never',
} as const;

/** Chargers of one bank that end absorb by different rules. */
export const absorbEndsDiffer = jobRule('absorbEndsDiffer', (plan) => {
  const list = chargersWithCards(plan).filter(({ card }) => isSource(card.kind));
  const kinds = [...new Set(list.map(({ card }) => `${card.absorb.end}/${card.absorb.timerCounts}`))];
  if (kinds.length < 2) return null;
  const told = kinds.map((kind) => {
    const [end, counts] = kind.split('/');
    const names = list.filter(({ card }) => `${card.absorb.end}/${card.absorb.timerCounts}` === kind).map(({ charger }) => charger.name);
    return `${listed(names)} ${words[end as keyof typeof words]}${counts === 'wallClock' ? ' on the wall clock' : ''}`;
  });
  return {
    severity: 'note',
    role: 'absorbTime',
    text: `The chargers end absorb by different rules: ${told.join('; ')}.`,
    hurts: 'One may leave absorb while another still holds it. Judge a full charge by the last of them.',
  };
});
