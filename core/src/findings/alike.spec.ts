import type { Job } from '../job';
import { openPoints } from '../report';
import { quiet } from '../testing/findingCases';
import { plan, said, withCharger } from '../testing/fixtures';
import { alike, findFindings } from './index';

const today = '2026-06-09';
const noFuses = (): Job =>
  ['fore', 'aft'].reduce<Job>((job, id) => {
    const { fuseA: _gone, ...charger } = job.system.chargers.find((c) => c.id === id)!;
    return { ...job, system: { ...job.system, chargers: job.system.chargers.map((c) => (c.id === id ? charger : c)) } };
  }, quiet());
const found = (job: Job) => findFindings(plan(job), today);
const groupsOf = (job: Job, code: string) => alike(found(job)).filter(([first]) => first.code === code);

describe('the same said of several devices', () => {
  it('is told once, with all of them', () => {
    expect(groupsOf(noFuses(), 'fuseMissing').map((g) => g.map((f) => f.charger))).toEqual([['fore', 'aft']]);
  });

  it('is told apart where a number, the gravity or the answer to it differs', () => {
    const float = (fore: number, aft: number): Job =>
      withCharger(withCharger(quiet(), 'fore', { present: { floatVoltage: fore } }), 'aft', { present: { floatVoltage: aft } });
    expect(groupsOf(float(27.6, 27.7), 'presentOutsideBand').length).toBe(2);
    const apart = alike(found(noFuses()), (f) => (f.charger === 'aft' ? 'accepted' : '')).filter(([first]) => first.code === 'fuseMissing');
    expect(apart.map((g) => g.length)).toEqual([1, 1]);
  });

  it('loses nothing and keeps the order of the catalogue', () => {
    const findings = found(noFuses());
    const groups = alike(findings);
    expect(groups.reduce((sum, g) => sum + g.length, 0)).toBe(findings.length);
    expect(groups.map(([first]) => findings.indexOf(first))).toEqual([...groups.map(([first]) => findings.indexOf(first))].sort((a, b) => a - b));
  });

  it('is one line on the list of what is open', () => {
    const job = noFuses();
    const lines = openPoints(job, found(job), []).map((p) => p.text.replace(/\u00a0/g, ' '));
    const said_ = said(job).filter((f) => f.code === 'fuseMissing');
    expect(lines.filter((line) => line.includes('no fuse')).length).toBe(1);
    expect(lines).toContain(`${said_[0]!.text.replace(/\u00a0/g, ' ')} The same on Solar aft.`);
  });
});
