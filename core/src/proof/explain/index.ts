import type { Evidence, ProofRow } from '../judges';
import { changes } from './changes';
import type { Explanation, Teller } from './explanation';
import { coldSensorWarm, earlyAbsorb, fromVerdicts, idleInSun, loadsHoldTaper, sistersApart, strangeTemperature, timerWaits } from './odd';

export type { Explanation } from './explanation';

/** Everything that is told of a log; what is odd and what changed, in the order of time. */
const tellers: readonly Teller[] = [changes, earlyAbsorb, timerWaits, loadsHoldTaper, coldSensorWarm, idleInSun, sistersApart, strangeTemperature];

/** Explains a log in plain sentences. */
export const explain = (evidence: Evidence, rows: readonly ProofRow[]): readonly Explanation[] =>
  [...tellers, fromVerdicts(rows)].flatMap((teller) => teller(evidence)).sort((a, b) => a.at - b.at);
