import { find, plan, rookMoss, wholeTeasel, withCharger, withSystem } from '../testing/fixtures';
import { tumbler } from '../testing/findingCases';
import { findFindings, type Finding } from '../findings';
import { accept, acceptedBefore, acceptedBy, openStops, readJob, writeJob, type Job } from './index';

const today = '2026-06-09';
const by = { reason: 'the bank is heated', by: 'owner', date: today };
const stop = (job: Job, code: string): Finding => find(job, code)!.finding;
const accepts = (job: Job, code: string): boolean => acceptedBy(job, stop(job, code)) !== undefined;
/** The job as a file of an older program holds it: the sentence alone. */
const olderWith = (job: Job, code: string, text: string): Job => ({ ...job, accepted: [{ code, text, ...by }] });

describe('an acceptance', () => {
  const accepted = accept(wholeTeasel(), stop(wholeTeasel(), 'cutoffBelowSheet'), by);

  it('holds what the finding knew and said, of which device and setting, who accepted it and why, through a file', () => {
    const [entry] = accepted.accepted;
    expect(entry).toEqual({
      code: 'cutoffBelowSheet',
      charger: 'aft',
      role: 'lowTempCutoff',
      facts: { found: true, cutoffC: 0, leastC: 3.75, sheetC: 0 },
      text: 'Solar aft: low-temperature cutoff was found at 0\u00a0°C. It must be at least 3.8\u00a0°C (sheet 0\u00a0°C + sensor margin 3.8\u00a0°C).',
      ...by,
    });
    const read = readJob(writeJob(accepted));
    expect(read.ok && read.value.accepted).toEqual(accepted.accepted);
    expect(read.ok && accepts(read.value, 'cutoffBelowSheet')).toBeTrue();
  });

  it('takes this stop off the open ones, and no other', () => {
    const open = (job: Job): string[] => openStops(findFindings(plan(job), today), job).map((f) => `${f.code} ${f.charger ?? ''}`);
    expect(open(wholeTeasel()).filter((stop) => !open(accepted).includes(stop))).toEqual(['cutoffBelowSheet aft']);
  });

  it('counts through another name of the device, and not for its sister', () => {
    expect(accepts(withCharger(accepted, 'aft', { name: 'Roof' }), 'cutoffBelowSheet')).toBeTrue();
    const finding = stop(wholeTeasel(), 'cutoffBelowSheet');
    expect(acceptedBy(accepted, { ...finding, charger: 'fore' })).toBeUndefined();
    expect(acceptedBy(accepted, { ...finding, role: 'lowTempResume' })).toBeUndefined();
    expect(acceptedBy(accepted, { ...finding, code: 'coldProtection' })).toBeUndefined();
  });

  it('counts while no number moves by more than five thousandths, and not after', () => {
    const finding = stop(wholeTeasel(), 'cutoffBelowSheet');
    const moved = (by: number): Finding => ({ ...finding, facts: { ...finding.facts, leastC: 3.75 + by } });
    expect(acceptedBy(accepted, moved(0.0049))).toBeDefined();
    expect(acceptedBy(accepted, moved(-0.0049))).toBeDefined();
    expect(acceptedBy(accepted, moved(0.0051))).toBeUndefined();
    expect(acceptedBy(accepted, { ...finding, facts: { ...finding.facts, found: false } })).toBeUndefined();
    expect(acceptedBy(accepted, { ...finding, facts: { ...finding.facts, more: 1 } })).toBeUndefined();
    expect(acceptedBy(accepted, { ...finding, facts: { ...finding.facts, more: undefined } })).toBeDefined();
  });

  it('compares what stands in lists', () => {
    const job = accept(wholeTeasel(), stop(wholeTeasel(), 'deratingExceeded'), by);
    const finding = stop(job, 'deratingExceeded');
    expect(accepts(job, 'deratingExceeded')).toBeTrue();
    const allowed = finding.facts['allowed'] as readonly { belowC: number; amps: number }[];
    expect(acceptedBy(job, { ...finding, facts: { ...finding.facts, allowed: allowed.slice(1) } })).toBeUndefined();
    expect(acceptedBy(job, { ...finding, facts: { ...finding.facts, allowed: allowed.map((a) => ({ ...a, amps: a.amps + 1 })) } })).toBeUndefined();
  });

  it('whose numbers moved is named as the one before, and gives way when the finding is accepted again', () => {
    const colder = withSystem(accepted, { bank: accepted.system.bank });
    const moved = withCharger(colder, 'aft', { present: { ...colder.system.chargers.find((c) => c.id === 'aft')!.present, lowTempCutoff: 1 } });
    const finding = stop(moved, 'cutoffBelowSheet');
    expect(acceptedBy(moved, finding)).toBeUndefined();
    expect(acceptedBefore(moved, finding)?.reason).toBe('the bank is heated');
    expect(acceptedBefore(accepted, stop(accepted, 'cutoffBelowSheet'))).toBeUndefined();
    expect(acceptedBefore(moved, { ...finding, charger: 'fore' })).toBeUndefined();
    const again = accept(moved, finding, { ...by, reason: 'still heated' });
    expect(again.accepted.map((a) => a.reason)).toEqual(['still heated']);
    expect(accept(again, stop(again, 'coldProtection'), by).accepted.length).toBe(2);
  });
});

describe('an acceptance of an older program, which wrote down the sentence alone', () => {
  const older: readonly (readonly [() => Job, string, string])[] = [
    [
      wholeTeasel,
      'coldProtection',
      'DC-DC has no battery sensor fitted, and without one it ignores the cutoff; the bank falls to −4\u00a0°C and may not be charged below 0\u00a0°C.',
    ],
    [wholeTeasel, 'cutoffBelowSheet', 'Solar aft cutoff stands as found at 0\u00a0°C; sheet and sensor margin ask for 3.8\u00a0°C.'],
    [
      wholeTeasel,
      'deratingExceeded',
      'Below 12\u00a0°C the sheet allows 23\u00a0A up to 5\u00a0°C, 92\u00a0A up to 12\u00a0°C, and the sources may give 182\u00a0A.',
    ],
    [wholeTeasel, 'alarmPastTrip', 'Alternator’s high-voltage alarm 29.4\u00a0V is above the BMS trip 29.2\u00a0V.'],
    [wholeTeasel, 'presentOutsideBand', 'Solar aft float stands at 27.6\u00a0V as found, 0.5\u00a0V above the band 26.7–27.1\u00a0V.'],
    [
      tumbler,
      'relayContactTooSmall',
      'Thermostat’s own contact breaks 30\u00a0V and 10\u00a0A; on the array side of Roof it must break 135\u00a0V and 13\u00a0A.',
    ],
  ];

  for (const [job, code, text] of older) {
    it(`still counts for ${code} while its numbers are the same, of the same device`, () => {
      expect(accepts(olderWith(job(), code, text), code)).toBeTrue();
      const other = text.replace(/\d+(?=[^\d.])/, (n) => String(Number(n) + 1));
      expect(other).not.toBe(text);
      expect(accepts(olderWith(job(), code, other), code)).toBeFalse();
    });
  }

  it('does not count for another device, nor under another code', () => {
    const text = 'Solar fore cutoff stands as found at 0\u00a0°C; sheet and sensor margin ask for 3.8\u00a0°C.';
    const job = olderWith(wholeTeasel(), 'cutoffBelowSheet', text);
    expect(accepts(job, 'cutoffBelowSheet')).toBeFalse();
    expect(acceptedBefore(job, stop(job, 'cutoffBelowSheet'))).toBeUndefined();
    expect(accepts(olderWith(rookMoss(), 'somethingElse', text), 'compensatedVoltage')).toBeFalse();
  });

  it('that no longer matches is held, named beside the finding, and gives way to a new one', () => {
    const job = olderWith(wholeTeasel(), 'cutoffBelowSheet', 'Solar aft cutoff stands as found at −1\u00a0°C; sheet and sensor margin ask for 3.8\u00a0°C.');
    const finding = stop(job, 'cutoffBelowSheet');
    expect(acceptedBy(job, finding)).toBeUndefined();
    expect(acceptedBefore(job, finding)?.reason).toBe('the bank is heated');
    const again = accept(job, finding, { ...by, reason: 'seen again' });
    expect(again.accepted.map((a) => [a.reason, a.facts !== undefined])).toEqual([['seen again', true]]);
  });
});
