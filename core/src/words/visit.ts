import type { Drive } from '../card';
import type { LaterReason, VisitConditions, VisitPart, VisitQuestion, VisitTool } from '../fieldtest';
import type { Say } from './say';

/** What the plan of a visit says in one language. */
export interface VisitWords {
  readonly parts: Readonly<Record<VisitPart, string>>;
  /** The name of a question, as a label. */
  readonly questions: Readonly<Record<VisitQuestion | 'hours', string>>;
  readonly sun: Readonly<Record<NonNullable<VisitConditions['sun']>, string>>;
  readonly bank: Readonly<Record<NonNullable<VisitConditions['bank']>, string>>;
  /** Whether a source is there today. */
  readonly there: Readonly<Record<Exclude<Drive, 'sun'>, { readonly yes: string; readonly no: string }>>;
  readonly tools: Readonly<Record<VisitTool, string>>;
  readonly reason: (reason: LaterReason, say: Say) => string;
  /** What to say, and how many tests hang on it. */
  readonly ask: (question: VisitQuestion, tests: number) => string;
}
