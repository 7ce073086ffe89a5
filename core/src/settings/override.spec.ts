import { speak } from '../quantity';
import { accept, acceptedBy, jobSchema, type Job } from '../job';
import { findFindings } from '../findings';
import { override, quiet, tumbler } from '../testing/findingCases';
import { find, plan, rookMoss, wholeTeasel, withCharger } from '../testing/fixtures';
import { targetsOf, type Override } from './index';

const set = (value: Override['value'], role: Override['role'], charger: string, job: Job): Job => ({
  ...job,
  overrides: [{ charger, role, value, reason: 'known here', by: 'owner', date: '2026-06-09' }],
});
const setting = (job: Job, charger: string, role: Override['role']) => plan(job).setting(charger, role)!;

describe('an override of a choice', () => {
  it('sets the option as the device shows it, with who chose it and why', () => {
    const mode = rookMoss().cards[0]!.parameters.find((p) => p.role === 'loadMode');
    const other = mode?.unit === 'choice' ? mode.options.find((o) => o.means === 'other')!.value : '';
    const job = set(other, 'loadMode', 'mast', rookMoss());
    expect(jobSchema.safeParse(job).success).toBeTrue();
    const s = setting(job, 'mast', 'loadMode');
    expect([s.value, s.override?.by, s.derivation[0]?.words]).toEqual([other, 'owner', 'Override by the owner: known here']);
    // A mode by the hour makes the hours the owner’s to choose.
    expect(setting(job, 'mast', 'loadTimer').noValue).toBe('left');
    expect(setting(job, 'mast', 'loadTimer').derivation[0]?.words).toContain(`“${other}” was chosen`);
    expect(setting(rookMoss(), 'mast', 'loadTimer').noValue).toBe('notUsed');
  });

  it('that the device does not offer is out of its reach, and says so', () => {
    const s = setting(set('moonlight', 'loadMode', 'mast', rookMoss()), 'mast', 'loadMode');
    expect([s.value, s.noValue]).toEqual([null, 'outOfReach']);
    expect(s.derivation.at(-1)?.words).toBe('This charger offers no “moonlight” here.');
  });

  it('of the hours stands beside a mode by the hour', () => {
    const job = set('dusk', 'loadMode', 'mast', rookMoss());
    const timed: Job = { ...job, overrides: [...job.overrides, { ...job.overrides[0]!, role: 'loadTimer', value: 4 * 3600 }] };
    expect(setting(timed, 'mast', 'loadTimer').trueValue).toBe(4 * 3600);
  });
});

describe('an override to off', () => {
  it('takes the device’s own off, and the findings follow', () => {
    const s = setting(set(false, 'taperCurrent', 'aft', quiet()), 'aft', 'taperCurrent');
    expect([s.off, s.value, s.override?.by]).toEqual([true, 0, 'owner']);
    // Lead without compensation is told, whoever switched it off.
    expect(find(set(false, 'compensationSlope', 'mast', rookMoss()), 'compensationMissingLead')?.text).toContain('has its compensation set to 0');
  });

  it('of a device without one is its smallest value, and says so', () => {
    const s = setting(set(false, 'absorbVoltage', 'aft', quiet()), 'aft', 'absorbVoltage');
    expect(s.off).toBeFalse();
    expect(s.derivation.map((d) => d.words)).toContain('This charger has no “off” here: the smallest value it takes.');
  });
});

describe('a value that somebody chose to leave', () => {
  const float = (present: number): Job => withCharger(set(null, 'floatVoltage', 'aft', quiet()), 'aft', { present: { floatVoltage: present } });

  it('is not keyed, and is judged as it stands on the device', () => {
    const s = setting(float(27.6), 'aft', 'floatVoltage');
    expect([s.value, s.noValue, s.override, s.left?.reason, s.trueValue]).toEqual([null, 'left', undefined, 'known here', 27.6]);
    expect('floatVoltage' in targetsOf(plan(float(27.6)), 'aft')).toBeFalse();
    const found = find(float(27.6), 'presentOutsideBand');
    expect([found?.charger, found?.role, found?.severity]).toEqual(['aft', 'floatVoltage', 'stop']);
    expect(found?.remedies.map((r) => r.label)).toEqual(['Go back to the derived value']);
    expect(find(float(26.9), 'presentOutsideBand')).toBeUndefined();
  });

  it('shows what was derived, and wants a second look like any override', () => {
    const words = setting(float(27), 'aft', 'floatVoltage').derivation.map((d) => speak(d.words, 'C').replace(/\u00a0/g, ' '));
    expect(words).toEqual(['Derived: 26.9 V.', 'Left as it is by the owner: known here']);
    expect(find(float(27), 'overrideNotReviewed')?.role).toBe('floatVoltage');
  });
});

describe('a stop that an override raises', () => {
  it('says the same while it is tried and once it is kept, so that it can be accepted in the same breath', () => {
    const trial: Job = { ...quiet(), overrides: [{ ...override('absorbVoltage', 28.8), reason: 'being tried', by: 'owner' }] };
    const stop = findFindings(plan(trial), '2026-06-09').find((f) => f.code === 'absorbOutsideBand')!;
    const kept = accept({ ...quiet(), overrides: [override('absorbVoltage', 28.8)] }, stop, { by: 'owner', reason: 'asked', date: '2026-06-09' });
    const now = findFindings(plan(kept), '2026-06-09').find((f) => f.code === 'absorbOutsideBand')!;
    expect(acceptedBy(kept, now)?.reason).toBe('asked');
  });
});

describe('what else can be set', () => {
  it('leaves the other jobs as they were', () => {
    for (const job of [wholeTeasel(), tumbler()]) expect(plan(job).settings.filter((s) => s.left)).toEqual([]);
  });
});
