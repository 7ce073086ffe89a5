import type { Requirement } from '../../requirements';
import { absorbCompleted } from './absorbCompleted';
import type { Judge } from './context';
import { absorbLevel, floatLevel } from './level';
import { neverAboveMaximum } from './neverAboveMaximum';
import { noChargeBelowMinimum } from './noChargeBelowMinimum';

export type { Evidence, ProofRow } from './context';
export { heldMaximum } from './neverAboveMaximum';

/** Which judge settles which requirement. A new requirement is one file and one line here. */
export const judges: Readonly<Record<Requirement['code'], Judge>> = {
  absorbLevel,
  absorbAsProgrammed: absorbLevel,
  floatLevel,
  floatAsProgrammed: floatLevel,
  absorbCompleted,
  neverAboveMaximum,
  noChargeBelowMinimum,
};
