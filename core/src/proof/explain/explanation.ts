import type { Stage } from '../../charger';
import type { Sentence } from '../../quantity';
import type { Evidence } from '../judges';

/** Something of a log told in plain words, with its numbers. */
export interface Explanation {
  /** What kind it is: a change of stage, or something odd. */
  readonly kind: 'change' | 'odd';
  readonly code: string;
  /** Missing when it is about the whole bank. */
  readonly charger?: string;
  /** Moment it is about, and where to look, s since 1970. */
  readonly at: number;
  readonly from: number;
  readonly to: number;
  readonly title: string;
  readonly before?: Stage;
  readonly after?: Stage;
  /** Its cause, with the numbers of the log. */
  readonly cause: Sentence;
  readonly means?: string;
  readonly sure?: string;
  /** What to do about it. */
  readonly advice?: string;
  /** Stretches that counted at voltage, for a drawing of the timer. */
  readonly counted?: readonly { readonly from: number; readonly to: number }[];
}

/** Tells one kind of thing of a log. A new one is one file and one line in the list. */
export type Teller = (evidence: Evidence) => readonly Explanation[];
