/** How much of made-up sheets is read rightly: found and right, found and wrong, missed. */
import { cellsOf, cellsPerBlock, figureKeys, type BankShape, type FigureKey } from '../../core/src/sheet';
import { figureOfEntry, readPaper, type Candidate, type PaperPage } from '../../core/src/paper';
import type { Said, Truth } from './truth';

export interface Score {
  readonly right: readonly FigureKey[];
  /** Told otherwise, and called sure. */
  readonly wrongSure: readonly string[];
  /** Told otherwise, and marked to be looked at. */
  readonly wrongLook: readonly string[];
  readonly missed: readonly FigureKey[];
  /** Figures told that the sheet does not print, and called sure. */
  readonly inventedSure: readonly string[];
  readonly inventedLook: readonly string[];
  /** Right and sure. */
  readonly sure: number;
  /** Right, and marked to be looked at. */
  readonly unsure: readonly string[];
}

const shapeOf = (truth: Truth): BankShape => ({
  cellsPerUnit: truth.cells,
  cellsPerBlock: cellsPerBlock(truth.chemistry),
  unitsInSeries: 1,
  stringsInParallel: 1,
  unitCapacityAh: truth.capacityAh,
});

/** Whether a candidate says what the sheet says, on its basis. */
export function same(truth: Truth, says: NonNullable<Said[FigureKey]>, candidate: Candidate): boolean {
  const read = figureOfEntry(candidate.entry);
  if (read.state !== says.state) return false;
  if (says.state !== 'stated') return true;
  const shape = shapeOf(truth);
  const counts = says.unit === 'V' || says.unit === 'V/°C';
  if (read.unit !== says.unit) return false;
  const per = (n: number | undefined, basis: typeof says.basis): number | undefined => (n === undefined ? undefined : counts ? n / cellsOf(basis, shape) : n);
  return (['min', 'target', 'max'] as const).every((end) => {
    const [a, b] = [per(read[end], read.basis), per(says[end], says.basis)];
    return a === b || (a !== undefined && b !== undefined && Math.abs(a - b) < 1e-6 * Math.max(1, Math.abs(b)) + (says.unit === '°C' ? 0.06 : 0));
  });
}

const print = (c: Candidate): string => `${c.key}: “${c.printed}” as ${JSON.stringify({ ...c.entry, assumed: undefined })} ${c.doubts.join(' ')}`;

/** Reads a sheet of which nothing but its name is known, as in a new job, and compares. */
export function score(truth: Truth, says: Said, pages: readonly PaperPage[], battery?: string): Score {
  const reading = readPaper(pages, {
    chemistry: truth.chemistry,
    shape: { ...shapeOf(truth), cellsPerUnit: cellsPerBlock(truth.chemistry) },
    assumed: { chemistry: false, cells: true },
    ...(battery === undefined ? {} : { battery }),
  });
  const right: FigureKey[] = [];
  const missed: FigureKey[] = [];
  const out = { wrongSure: [] as string[], wrongLook: [] as string[], inventedSure: [] as string[], inventedLook: [] as string[] };
  let sure = 0;
  const unsure: string[] = [];
  for (const key of figureKeys) {
    const said = says[key];
    const told = reading.candidates.filter((c) => c.key === key);
    const good = said ? told.find((c) => same(truth, said, c)) : undefined;
    if (good) {
      right.push(key);
      if (good.doubts.length === 0) sure++;
      else unsure.push(print(good));
    } else if (said && told.length === 0) missed.push(key);
    for (const c of told)
      if (c !== good)
        (said ? (c.doubts.length === 0 ? out.wrongSure : out.wrongLook) : c.doubts.length === 0 ? out.inventedSure : out.inventedLook).push(print(c));
    if (said && !good && told.length > 0) missed.push(key);
  }
  return { right, missed, sure, unsure, ...out };
}
