import type { Doubt, PaperFault, PasteProblem } from '../paper';

/** Everything the reading of papers says in one language. */
export interface PaperWords {
  /** Why a reading should be looked at before it is taken. */
  readonly doubts: Readonly<Record<Doubt, string>>;
  /** Why a pasted line fills nothing. `name`: the figure it was taken for. */
  readonly pasted: (problem: PasteProblem, name: string) => string;
  /** Why a document gives nothing, and what to do. `lost`: its bytes are not on this device. */
  readonly faults: Readonly<Record<PaperFault | 'lost' | 'noText' | 'noFigure' | 'noReader', string>>;
  /** Why a row of a paper gives no figure. */
  readonly leftOut: Readonly<Record<'foreign' | 'unreadable' | 'unknown', string>>;
}
