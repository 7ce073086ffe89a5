import type { LogEntry } from './job';
import { proofBasis, proofStanding, type KeptVerdicts } from './standing';
import { teasel } from '../testing/fixtures';

const entry = (id: string): LogEntry => ({ id, name: id, instrument: 'monitor', from: 0, to: 10, rows: 2 });
const job = { ...teasel(), logs: [entry('a'), entry('b')] };
const kept = (logId: string, verdicts: KeptVerdicts['verdicts'], of = job): KeptVerdicts => ({ logId, basis: proofBasis(of, logId), verdicts });

describe('how a job stands by its logs', () => {
  it('a requirement that fails in any log fails; else one proof is enough', () => {
    const standing = proofStanding(job, [
      kept('a', { 'absorb/fore': 'pass', 'absorb/aft': 'pass', 'cold/aft': 'notTested', 'float/aft': 'inconclusive' }),
      kept('b', { 'absorb/fore': 'notTested', 'absorb/aft': 'fail', 'cold/aft': 'notTested', 'float/aft': 'notTested' }),
    ]);
    expect(standing).toEqual({ pass: 1, fail: 1, inconclusive: 1, notTested: 1 });
  });

  it('is not known while a log has not been judged, or was judged on another sheet, system or instrument', () => {
    const a = kept('a', { x: 'pass' });
    const b = kept('b', { x: 'pass' });
    expect(proofStanding(job, [a])).toBeNull();
    expect(proofStanding({ ...job, logs: [] }, [])).toBeNull();
    expect(proofStanding(job, [a, b])?.pass).toBe(1);
    expect(proofStanding({ ...job, coverage: 3 }, [a, b])).toBeNull();
    expect(proofStanding({ ...job, schools: { ...job.schools, topCharge: 'gentle' } }, [a, b])).toBeNull();
    expect(proofStanding({ ...job, logs: [entry('a'), { ...entry('b'), instrument: 'meter' }] }, [a, b])).toBeNull();
  });

  it('does not depend on name or note', () => {
    expect(proofStanding({ ...job, name: 'other', note: 'n' }, [kept('a', { x: 'pass' }), kept('b', { x: 'pass' })])?.pass).toBe(1);
  });
});
