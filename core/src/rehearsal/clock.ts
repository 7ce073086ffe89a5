import { formatMoment } from '../quantity';
import type { Run } from './record';

/** A moment of a run on its own clock: "14:39", with the day where the run is longer than one: "16 Jun 03:41". */
export const clockOf = (run: Pick<Run, 'from' | 'to'>, at: number): string => formatMoment(at, run.to - run.from > 86_400);
