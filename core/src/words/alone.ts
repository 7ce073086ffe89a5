import type { LogFact } from '../proof';
import type { Say } from './say';

/** What a log shows by itself, in one language. */
export interface AloneWords {
  /** What was seen, and its numbers. */
  readonly fact: (fact: LogFact, say: Say) => { readonly title: string; readonly value: string; readonly more?: string };
}
