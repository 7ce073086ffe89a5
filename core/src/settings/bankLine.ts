import { formatNumber } from '../quantity';
import { capacityText, chemistryWords } from '../sheet';
import type { Plan } from './derive';

/** "25.6 V LFP, 8 cells, 460 Ah": the bank in a line, as much of it as somebody has said. */
export function bankLine({ input, facts }: Pick<Plan, 'input' | 'facts'>): string {
  const { assumed } = input;
  const known = assumed?.nominalVolts !== true && assumed?.unitsInSeries !== true;
  return [
    `${known ? `${formatNumber(facts.nominalVolts, 1)} V ` : ''}${assumed?.chemistry ? 'chemistry not known' : chemistryWords[input.sheet.chemistry]}`,
    !known ? 'volts not known' : assumed?.cellsInSeries ? 'cells not known' : `${facts.cells} cells`,
    capacityText(facts.ratedAh),
  ].join(', ');
}
