/** What came of an attack of one kind, counted. Names of `faults` are what must stay at 0. */
export interface Row {
  readonly kind: string;
  readonly tried: number;
  /** What came of them: refused, read as they say, and so on. */
  readonly came: Readonly<Record<string, number>>;
  /** What must not be: silent change, silent loss, hang, crash, unverified “done”, repeated write. */
  readonly faults: Readonly<Record<string, number>>;
  /** The first of the faults, to be tried again. */
  readonly examples: readonly string[];
}

/** Counts one kind. */
export function counting(kind: string) {
  const came: Record<string, number> = {};
  const faults: Record<string, number> = {};
  const examples: string[] = [];
  let tried = 0;
  return {
    came: (what: string): void => {
      tried++;
      came[what] = (came[what] ?? 0) + 1;
    },
    fault: (what: string, example: string): void => {
      tried++;
      faults[what] = (faults[what] ?? 0) + 1;
      if (examples.length < 5) examples.push(`${what}: ${example}`);
    },
    row: (): Row => ({ kind, tried, came, faults, examples }),
  };
}

const listed = (counts: Readonly<Record<string, number>>): string =>
  Object.entries(counts)
    .sort(([, a], [, b]) => b - a)
    .map(([what, n]) => `${what} ${n}`)
    .join(', ');

/** Faults of all rows together. */
export const faultsOf = (rows: readonly Row[]): number => rows.reduce((sum, row) => sum + Object.values(row.faults).reduce((a, b) => a + b, 0), 0);

/** The rows as a table for documents. */
export const tableOf = (rows: readonly Row[]): string =>
  [
    '| attack | tried | what came of it | faults |',
    '| ------ | ----- | --------------- | ------ |',
    ...rows.map((row) => `| ${row.kind} | ${row.tried} | ${listed(row.came)} | ${listed(row.faults) || '0'} |`),
  ].join('\n');

/** How much of what was typed killed tabs lost, in words. @param lossMs of each kill, ms between the first key not stored and the kill; 0 where nothing was lost; at least one */
export function lossOf(lossMs: readonly number[]): string {
  const loss = [...lossMs].sort((a, b) => a - b);
  const at = (share: number): number => Math.round(loss[Math.min(loss.length - 1, Math.floor(share * loss.length))] ?? 0);
  const none = loss.filter((ms) => ms === 0).length;
  return `Typing before a kill that was not stored yet: median ${at(0.5)} ms, nine of ten at most ${at(0.9)} ms, most ${at(1)} ms; ${none} of ${loss.length} kills lost nothing.`;
}
