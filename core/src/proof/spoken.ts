import { speak, type BudgetLine, type TemperatureScale } from '../quantity';
import type { ProofRow } from './judges';

/** A verdict whose sentences are text. */
export interface SpokenRow extends Omit<ProofRow, 'why' | 'witness' | 'next' | 'budget'> {
  readonly why: string;
  readonly witness?: string;
  readonly next?: string;
  readonly budget: readonly (Omit<BudgetLine, 'name'> & { readonly name: string })[];
}

/** A verdict as it is read, its temperatures on a scale. */
export function speakRow({ why, witness, next, budget, ...row }: ProofRow, scale: TemperatureScale): SpokenRow {
  return {
    ...row,
    why: speak(why, scale),
    ...(witness === undefined ? {} : { witness: speak(witness, scale) }),
    ...(next === undefined ? {} : { next: speak(next, scale) }),
    budget: budget.map((line) => ({ ...line, name: speak(line.name, scale) })),
  };
}
