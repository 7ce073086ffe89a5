import type { Finding } from '../findings';
import type { Acceptance } from './job';

/** Who answered for a finding, if it still says the same, numbers included. */
export const acceptedBy = (accepted: readonly Acceptance[], finding: Pick<Finding, 'code' | 'text'>): Acceptance | undefined =>
  accepted.find((a) => a.code === finding.code && a.text === finding.text);

/** Stops that stand: not resolved, and answered for by nobody. While there are any, keying-in is not begun. */
export const openStops = (findings: readonly Finding[], accepted: readonly Acceptance[]): readonly Finding[] =>
  findings.filter((f) => f.severity === 'stop' && !acceptedBy(accepted, f));
