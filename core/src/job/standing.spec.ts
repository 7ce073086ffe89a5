import type { LogEntry } from './job';
import { beginTest, answerTest, addReading, dropReading, endTest, undoTestAnswer } from './testing';
import { changedAt, coverage, standingOfAll } from './evidence';
import { proofBasis, type KeptVerdicts } from './standing';
import { handover } from '../report';
import { plan, teasel, wholeTeasel, withCharger } from '../testing/fixtures';
import type { Job } from './job';

const entry = (id: string, to = 10, from = Math.max(0, to - 3600)): LogEntry => ({ id, name: id, instrument: 'monitor', from, to, rows: 2 });
const job: Job = { ...teasel(), logs: [entry('a'), entry('b', 20)] };
const kept = (logId: string, verdicts: KeptVerdicts['verdicts'], of = job): KeptVerdicts => ({
  logId,
  basis: proofBasis(of, logId),
  verdicts,
  rows: Object.fromEntries(Object.entries(verdicts).map(([key, verdict]) => [key, { verdict, why: `${logId} says ${verdict}` }])),
});
const of = (j: Job, keptRows: readonly KeptVerdicts[], code: string, charger?: string) =>
  coverage(j, plan(j), keptRows).find((c) => c.requirement.code === code && c.requirement.charger === charger);

describe('how a job stands by everything there is', () => {
  it('the newest that decides counts: a later proof lifts an earlier failure, a later failure stands', () => {
    expect(of(job, [kept('a', { 'absorbLevel/aft': 'fail' }), kept('b', { 'absorbLevel/aft': 'pass' })], 'absorbLevel', 'aft')?.verdict).toBe('pass');
    const later = of(job, [kept('a', { 'absorbLevel/aft': 'pass' }), kept('b', { 'absorbLevel/aft': 'fail' })], 'absorbLevel', 'aft');
    expect([later?.verdict, later?.by?.id, later?.pieces.length]).toEqual(['fail', 'b', 2]);
    expect(of(job, [kept('a', { 'absorbLevel/aft': 'pass' }), kept('b', { 'absorbLevel/aft': 'inconclusive' })], 'absorbLevel', 'aft')?.verdict).toBe('pass');
  });

  it('without evidence it is not tested, and a guided test is offered', () => {
    const open = of(job, [], 'noChargeBelowMinimum', 'aft');
    expect([open?.verdict, open?.by, open?.test]).toEqual(['notTested', null, { code: 'lowTemperature', device: 'aft' }]);
  });

  it('is not known while a log has not been judged, or was judged on another sheet, system or instrument', () => {
    const a = kept('a', { 'absorbLevel/aft': 'pass' });
    const b = kept('b', { 'absorbLevel/aft': 'pass' });
    const standing = (j: Job, rows: readonly KeptVerdicts[]) => standingOfAll(j, plan(j), rows);
    expect(standing(job, [a])).toBeNull();
    expect(standing({ ...job, logs: [] }, [])).toBeNull();
    expect(standing(job, [a, b])?.pass).toBeGreaterThan(0);
    expect(standing({ ...job, coverage: 3 }, [a, b])).toBeNull();
    expect(standing({ ...job, schools: { ...job.schools, topCharge: 'gentle' } }, [a, b])).toBeNull();
    expect(standing({ ...job, logs: [entry('a'), { ...entry('b', 20), instrument: 'meter' }] }, [a, b])).toBeNull();
    expect(standing({ ...job, name: 'other', note: 'n' }, [a, b])?.pass).toBeGreaterThan(0);
  });

  it('evidence from before the settings changed no longer counts, and says so', () => {
    const at = (day: number): string => new Date(Date.UTC(2026, 0, day)).toISOString();
    const shot = (day: number, floatVoltage: number) => ({
      device: 'aft',
      at: at(day),
      date: at(day).slice(0, 10),
      by: 'KM',
      way: 'display' as const,
      verified: 'readBack' as const,
      values: { floatVoltage },
    });
    const seconds = (day: number): number => Date.UTC(2026, 0, day) / 1000;
    const old: Job = { ...job, logs: [entry('a', seconds(3)), entry('b', seconds(9))], snapshots: [shot(1, 27.6), shot(5, 26.9), shot(7, 26.9)] };
    expect(changedAt(old, 'aft')?.at).toBe(at(5));
    expect(changedAt(old, 'fore')).toBeNull();
    const before = of(old, [kept('a', { 'floatLevel/aft': 'fail' }, old)], 'floatLevel', 'aft');
    expect([before?.verdict, before?.pieces[0]?.expired]).toEqual(['notTested', 'its settings were changed on 2026-01-05']);
    const after = of(old, [kept('a', { 'floatLevel/aft': 'fail' }, old), kept('b', { 'floatLevel/aft': 'pass' }, old)], 'floatLevel', 'aft');
    expect([after?.verdict, after?.by?.id]).toEqual(['pass', 'b']);
    // A log that lasted over the change mixes both, and a notebook counts from its oldest reading.
    const over: Job = { ...old, logs: [entry('b', seconds(9), seconds(4))] };
    expect(of(over, [kept('b', { 'floatLevel/aft': 'pass' }, over)], 'floatLevel', 'aft')?.pieces[0]?.expired).toBe(
      'its settings were changed on 2026-01-05, while it was being taken',
    );
    const noted = (day: number): Job =>
      answerTest(
        answerTest(beginTest(old, { id: 't', code: 'recharge', device: 'aft', at: at(9), by: 'KM', instrument: 'meter' }), 't', {
          step: 'began',
          at: at(day),
          values: { volts: 26.1 },
        }),
        't',
        { step: 'putBack', at: at(9), values: {} },
      );
    expect([4, 6].map((day) => of(noted(day), [], 'rechargeLevel', 'aft')?.verdict)).toEqual(['notTested', 'pass']);
    const reset: Job = { ...old, system: { ...old.system, chargers: old.system.chargers.map((c) => (c.id === 'aft' ? { ...c, resetSinceProof: true } : c)) } };
    expect(of(reset, [kept('b', { 'floatLevel/aft': 'pass' }, reset)], 'floatLevel', 'aft')?.pieces[0]?.expired).toBe('it has been reset since');
  });

  it('a guided test counts like a log, and what is on record by itself', () => {
    let j = beginTest(job, { id: 't', code: 'recharge', device: 'aft', at: '2026-06-09T10:00:00.000Z', by: 'KM', instrument: 'meter' });
    expect(of(j, [], 'rechargeLevel', 'aft')?.verdict).toBe('notTested');
    j = answerTest(j, 't', { step: 'began', at: '2026-06-09T10:10:00.000Z', values: { volts: 26.1 } });
    const covered = of(j, [], 'rechargeLevel', 'aft');
    expect([covered?.verdict, covered?.by?.kind]).toEqual(['pass', 'test']);
    expect(of(undoTestAnswer(j, 't', 'began'), [], 'rechargeLevel', 'aft')?.verdict).toBe('notTested');
    const shots: Job = {
      ...job,
      snapshots: [
        { device: 'aft', at: '2026-06-09T10:00:00.000Z', date: '2026-06-09', by: 'KM', way: 'display', verified: 'powerCycle', values: { floatVoltage: 26.9 } },
      ],
    };
    expect(of(shots, [], 'survivesPowerCut', 'aft')?.by?.kind).toBe('record');
    expect(of(job, [], 'survivesPowerCut', 'aft')?.verdict).toBe('notTested');
  });

  it('what a log shows besides goes with its pass, into the report too', () => {
    const witness = 'The voltage stayed level while its current moved.';
    const rows = { 'absorbLevel/aft': { verdict: 'pass' as const, why: 'It held 28.1 V.', witness } };
    const told: KeptVerdicts = { ...kept('b', { 'absorbLevel/aft': 'pass' }), rows };
    expect(of(job, [told], 'absorbLevel', 'aft')?.by?.witness).toBe(witness);
    const text = JSON.stringify(handover(job, coverage(job, plan(job), [told]), { today: '2026-06-10', sums: false }));
    expect(text).toContain(`It held 28.1 V. ${witness}`);
  });

  it('a comparison is judged by what both showed: agreeing, off by what settings allow for, and off by a fault', () => {
    const off = (displayV: number) => of(withCharger(job, 'aft', { displayReadings: [{ meterV: 27, displayV }] }), [], 'displayAgrees', 'aft');
    // One step of the display, 0.01 V, less the meter's own ±; a hundredth of 27 V, 0.27 V.
    expect([off(27)?.verdict, off(27.3)?.verdict, off(26.4)?.verdict]).toEqual([jasmine.stringMatching(/pass|inconclusive/) as never, 'inconclusive', 'fail']);
    expect(off(27.3)?.by?.next).toContain('would show that the correction holds');
    expect(off(26.4)?.by?.why).toContain('reads 0.60\u00a0V low');
    expect(of(withCharger(job, 'aft', { displayReadings: [] }), [], 'displayAgrees', 'aft')?.verdict).toBe('notTested');
  });

  it('what somebody noted or said is stated, never proved; a companion nobody looked at has nothing noted', () => {
    expect(of(withCharger(job, 'aft', { passcodeChanged: true }), [], 'passcodeChanged', 'aft')?.verdict).toBe('stated');
    expect(of(withCharger(job, 'aft', { passcodeChanged: false }), [], 'passcodeChanged', 'aft')?.verdict).toBe('notTested');
    for (const c of coverage(wholeTeasel(), plan(wholeTeasel()), []).filter(
      (x) => x.requirement.code === 'passcodeChanged' && x.requirement.charger === 'monitor',
    ))
      expect(c.verdict).toBe('notTested');
    const say = (at: string, changed: 'yes' | 'no', j: Job): Job =>
      answerTest(beginTest(j, { id: `t${at}`, code: 'passcode', device: 'aft', at: `2026-06-${at}T10:00:00.000Z`, by: 'KM', instrument: 'meter' }), `t${at}`, {
        step: 'code',
        at: `2026-06-${at}T10:05:00.000Z`,
        values: { changed },
      });
    const base = withCharger(job, 'aft', { passcodeChanged: false });
    const said = of(say('09', 'yes', base), [], 'passcodeChanged', 'aft');
    expect([said?.verdict, said?.by?.why]).toEqual(['stated', jasmine.stringContaining('Stated by KM on 2026-06-09.')]);
    // A newer word takes back an older one.
    expect(of(say('10', 'yes', say('09', 'no', base)), [], 'passcodeChanged', 'aft')?.verdict).toBe('stated');
    expect(of(say('10', 'no', say('09', 'yes', base)), [], 'passcodeChanged', 'aft')?.verdict).toBe('fail');
  });

  it('readings of a series can be added and taken out, and a test ends', () => {
    let j = beginTest(job, { id: 't', code: 'chill', device: 'aft', at: '2026-06-09T10:00:00.000Z', by: 'KM', instrument: 'meter' });
    for (const s of [0, 30, 60])
      j = addReading(j, 't', { step: 'readings', at: new Date(Date.UTC(2026, 5, 9, 10, 0, s)).toISOString(), values: { celsius: 20, volts: 28.1 } });
    j = dropReading(j, 't', new Date(Date.UTC(2026, 5, 9, 10, 0, 30)).toISOString());
    expect(j.tests[0]?.series.length).toBe(2);
    // One from an old notebook comes to its place, and one of the same moment is another reading.
    const early = addReading(j, 't', { step: 'readings', at: '2025-03-01T08:00:00.000Z', values: { volts: 27 } });
    expect(early.tests[0]?.series[0]?.values['volts']).toBe(27);
    const twice = addReading(early, 't', { step: 'readings', at: '2025-03-01T08:00:00.000Z', values: { volts: 27.1 } });
    expect(twice.tests[0]?.series.slice(0, 2).map((a) => a.at)).toEqual(['2025-03-01T08:00:00.000Z', '2025-03-01T08:00:00.001Z']);
    expect(
      dropReading(twice, 't', '2025-03-01T08:00:00.001Z')
        .tests[0]?.series.slice(0, 2)
        .map((a) => a.values['volts']),
    ).not.toContain(27.1);
    expect(endTest(j, 't', '2026-06-09T11:00:00.000Z').tests[0]?.endedAt).toBe('2026-06-09T11:00:00.000Z');
  });
});
