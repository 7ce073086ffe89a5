/** Something that is wrong with an input: what, where, and how to mend it, in one plain sentence. */
export interface Problem {
  /** Short stable name, for programs. */
  readonly code: string;
  /** One or two plain sentences a technician can act on. */
  readonly text: string;
  /** Where it is: a field path, a file line. */
  readonly place?: string;
}

/** A value, or the reasons there is none. Errors are values; exceptions are for bugs. */
export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problems: readonly Problem[] };

/** Wraps a good value. */
export const good = <T>(value: T): Result<T> => ({ ok: true, value });

/** Wraps one problem. */
export const bad = (code: string, text: string, place?: string): { ok: false; problems: readonly Problem[] } => ({
  ok: false,
  problems: [place === undefined ? { code, text } : { code, text, place }],
});
