import type { Role } from '../card';

/** A word of the trade, or of this program, and what it means. */
export interface GlossaryTerm {
  readonly word: string;
  readonly says: string;
}

/** The words used on screens and papers, explained in one language. */
export interface GlossaryWords {
  /** What each setting does, whatever a device’s own menu calls it. */
  readonly roles: Readonly<Record<Role, string>>;
  /** Other words, in the order of the work. */
  readonly groups: readonly { readonly title: string; readonly terms: readonly GlossaryTerm[] }[];
}
