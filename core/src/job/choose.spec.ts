import { quickCard } from '../card';
import { clearYear } from '../physics';
import type { PanelArray } from '../system';
import { deriveSettings } from '../settings';
import { rookMoss, wholeTeasel, withSystem } from '../testing/fixtures';
import { shipped } from '../testing/shipped';
import { ratingsWanted, suitabilityOf } from './choose';
import { withDevice } from './devices';
import { jobSchema, newJob, type Job } from './job';

const panels: PanelArray = {
  panel: { name: 'Fen 410', watts: 410, vocV: 37.5, vmpV: 31.3, iscA: 13.9, impA: 13.1, vocPercentPerC: -0.25, vmpPercentPerC: -0.34, bypassDiodes: 3 },
  inSeries: 3,
  inParallel: 2,
  tilt: 30,
  azimuth: 180,
  shaded: 0,
  shadeLight: 0.1,
};
/** The launch without its chargers, panels on the roof that no charger takes yet. */
const roof = (change: Partial<PanelArray> = {}, site: Partial<Job['system']['site']> = {}): Job => {
  const job = wholeTeasel();
  return withSystem(job, {
    chargers: [],
    companions: [],
    plannedArray: { ...panels, ...change },
    site: { ...job.system.site, recordLowC: -20, recordHighC: 35, latitude: 50, ...site },
  });
};

describe('ratings wanted of a charger that is not bought yet', () => {
  it('take the string as the cold makes it, by the label’s coefficient', () => {
    const { input, systemVolts } = ratingsWanted(roof());
    // 45 °C below 25 °C at 0.25 % a degree.
    expect(input?.coldV).toBeCloseTo(3 * 37.5 * (1 + 0.0025 * 45), 6);
    expect(input!.coldMostV).toBeGreaterThan(input!.coldV * 1.029);
    expect(input?.designA).toBeCloseTo(2 * 13.9 * 1.25, 6);
    // Cells 30 °C above the air of 35 °C.
    expect(input?.hotV).toBeCloseTo(3 * 31.3 * (1 - 0.0034 * 40), 6);
    expect(systemVolts).toBe(24);
  });

  it('pass on all that the panels give in absorb, and say what smaller ones lose', () => {
    const { outputs, absorbV } = ratingsWanted(roof());
    expect(absorbV).toBeGreaterThan(27);
    expect(outputs.map((o) => o.amps)).toEqual([1, 0.8, 0.6].map((part) => Math.ceil((part * 2460) / absorbV!)));
    // Clear skies give a little more than the label’s light for some hours of the year.
    expect(outputs[0]!.lostPercent!).toBeLessThan(0.05);
    const year = clearYear(50, 30, 180, 2460, outputs[2]!.amps * absorbV!);
    expect(outputs[2]?.lostPercent).toBeCloseTo((100 * year.clippedKWh) / year.kWh, 9);
    expect(outputs[2]!.lostPercent!).toBeGreaterThan(outputs[1]!.lostPercent!);
  });

  it('leave to PWM its own current at the bank’s volts, where these reach the bank', () => {
    const { pwm, absorbV } = ratingsWanted(roof());
    expect(pwm?.passesW).toBeCloseTo(2 * 13.1 * absorbV!, 6);
    expect(pwm?.amps).toBeCloseTo(2 * 13.9 * 1.25, 6);
    // One in series works at 27.0 V when hot, below absorb.
    expect(ratingsWanted(roof({ inSeries: 1 })).pwm).toBeNull();
    expect(ratingsWanted(roof({ inSeries: 1 })).input?.leastV).toBeCloseTo(absorbV! + 2, 9);
  });

  it('are not known where nobody said what they hang on', () => {
    const { latitude: _l, ...site } = roof().system.site;
    expect(ratingsWanted(withSystem(roof(), { site })).outputs.map((o) => o.lostPercent)).toEqual([null, null, null]);
    expect(ratingsWanted({ ...roof(), assumed: { recordLowC: true } }).input).toBeNull();
    expect(ratingsWanted({ ...roof(), assumed: { recordHighC: true } }).input).toBeNull();
    const { plannedArray: _p, ...bare } = roof().system;
    expect(ratingsWanted({ ...roof(), system: bare })).toEqual(jasmine.objectContaining({ input: null, outputs: [], pwm: null, systemVolts: 24 }));
    const unsaid = ratingsWanted({ ...newJob('n', 'N', '2026-06-01T08:00:00Z'), system: roof().system });
    expect([unsaid.systemVolts, unsaid.absorbV, unsaid.leftA, unsaid.outputs]).toEqual([null, null, null, []]);
    expect(ratingsWanted({ ...roof(), assumed: { stringsInParallel: true } }).leftA).toBeNull();
  });

  it('leave of the ceiling what the chargers there do not take, and never less than nothing', () => {
    const ceiling = deriveSettings(roof()).ceiling.binding!.amps;
    expect(ratingsWanted(roof()).leftA).toBeCloseTo(ceiling, 9);
    const s45 = shipped.cards.find((c) => c.id === 'varrow-s45')!;
    const one = withDevice(roof(), s45, { id: 'one', name: 'One' });
    expect(ratingsWanted(one).leftA).toBeCloseTo(Math.max(0, ceiling - 45), 9);
    const big = quickCard({ id: 'big', maker: 'A', model: 'B', kind: 'alternator', outputA: 900, systemVolts: [24] });
    expect(ratingsWanted(withDevice(roof(), big, { id: 'big', name: 'Big' })).leftA).toBe(0);
  });
});

describe('how each card would do', () => {
  const of = (job: Job, id: string) => suitabilityOf(job, shipped.cards, '2026-06-09').find((s) => s.card.id === id)!;
  const codes = (job: Job, id: string): string[] => of(job, id).findings.map((f) => f.code);

  it('stops an input that the cold string is above, and not one that it is just below', () => {
    const s45 = shipped.cards.find((c) => c.id === 'varrow-s45')!;
    const limit = s45.ratings.arrayVoltsMax!;
    const { coldMostV } = ratingsWanted(roof()).input!;
    const label = (volts: number): Job => roof({ panel: { ...panels.panel, vocV: (panels.panel.vocV * volts) / coldMostV } });
    expect(of(label(limit * 1.1), 'varrow-s45').does).toBe('no');
    expect(codes(label(limit * 1.1), 'varrow-s45')).toContain('arrayTooHigh');
    expect(codes(label(limit * 0.999), 'varrow-s45')).not.toContain('arrayTooHigh');
  });

  it('stops a charger for other volts', () => {
    const r9 = shipped.cards.find((c) => c.id === 'quern-r9')!;
    expect(r9.ratings.systemVolts).not.toContain(12);
    expect(of({ ...rookMoss() }, 'quern-r9').does).toBe('no');
    expect(codes(rookMoss(), 'quern-r9')).toContain('systemVoltageMismatch');
  });

  it('asks to look where another device can protect from the cold, and says no where the limits come past the ceiling, once', () => {
    const cold = roof({}, { bankLowC: -10 });
    expect([of(cold, 'ostrel-w12').does, of(cold, 'ostrel-w12').findings[0]?.severity]).toEqual(['look', 'stop']);
    const ceiling = deriveSettings(roof()).ceiling.binding!.amps;
    const big = (id: string, outputA: number) => quickCard({ id, maker: 'A', model: 'B', kind: 'alternator', outputA, systemVolts: [24] });
    const told = (job: Job, outputA: number) => suitabilityOf(job, [big('big', outputA)], '2026-06-09')[0]!;
    expect([told(roof(), ceiling + 1).does, told(roof(), ceiling + 1).findings.map((f) => f.code)]).toEqual(['no', ['limitsPastCeiling']]);
    expect(told(roof(), ceiling - 1).does).toBe('open');
    // Past it without this one: that is another’s affair.
    const past = withDevice(roof(), big('other', ceiling + 1), { id: 'other', name: 'Other' });
    expect(told(past, 5).findings).toEqual([]);
  });

  it('says nothing of how a device is mounted, which nobody can know before', () => {
    for (const job of [roof(), rookMoss()])
      for (const { findings } of suitabilityOf(job, shipped.cards, '2026-06-09'))
        for (const { code } of findings)
          expect(['displayNotCompared', 'batteryReadingMissing', 'defaultPasscode', 'fuseMissing', 'cableDrop']).not.toContain(code);
  });

  it('calls a card open that does not know its settings, however little is against it', () => {
    const quick = quickCard({ id: 'mine', maker: 'A', model: 'B', kind: 'dcdc', outputA: 10, systemVolts: [24] });
    const one = suitabilityOf(roof(), [quick], '2026-06-09')[0]!;
    expect([one.does, one.findings.map((f) => f.code)]).toEqual(['open', []]);
    expect(of(roof(), 'tessick-m1').does).toBe('yes');
  });

  it('tells nothing that hangs on a place nobody has said, and calls the card open then', () => {
    const long = roof({ inSeries: 5 });
    expect([of(long, 'varrow-s45').does, codes(long, 'varrow-s45')]).toEqual(['no', jasmine.arrayContaining(['arrayTooHigh'])]);
    const unsaid: Job = { ...long, assumed: { recordLowC: true } };
    expect([of(unsaid, 'varrow-s45').does, codes(unsaid, 'varrow-s45')]).toEqual(['open', ['arrayClipped']]);
    // Short enough for the guess: the guess is no answer either way. What takes no panels is as before.
    const short: Job = { ...roof(), assumed: { recordHighC: true } };
    expect([of(roof(), 'varrow-s45').does, of(short, 'varrow-s45').does, of(short, 'tessick-m1').does]).toEqual(['yes', 'open', 'yes']);
    const cold = roof({}, { bankLowC: -10 });
    expect(codes(cold, 'ostrel-w12')).toContain('coldProtection');
    expect(codes({ ...cold, assumed: { bankLowC: true } }, 'ostrel-w12')).not.toContain('coldProtection');
    expect(of({ ...cold, assumed: { bankLowC: true } }, 'ostrel-w12').does).toBe('open');
    expect(ratingsWanted(short).pwm).toBeNull();
  });

  it('is told of no card while nobody has said what the battery is', () => {
    expect(suitabilityOf({ ...roof(), assumed: { unitsInSeries: true } }, shipped.cards, '2026-06-09')).toEqual([]);
    expect(suitabilityOf({ ...roof(), assumed: { maxA: true } }, shipped.cards, '2026-06-09').length).toBe(shipped.cards.length);
  });
});

describe('a device that is added', () => {
  const card = (id: string) => shipped.cards.find((c) => c.id === id)!;

  it('takes the panels over where it takes panels, once', () => {
    const one = withDevice(roof(), card('varrow-s45'), { id: 'one', name: 'One' });
    expect(one.system.chargers[0]?.array).toEqual(panels);
    expect('plannedArray' in one.system).toBeFalse();
    const two = withDevice(one, card('varrow-s45'), { id: 'two', name: 'Two' });
    expect(two.system.chargers[1]?.array).toBeUndefined();
    expect(two.cards.filter((c) => c.id === 'varrow-s45').length).toBe(1);
    expect(jobSchema.safeParse(two).success).toBeTrue();
  });

  it('leaves them where it takes none', () => {
    for (const id of ['tessick-d30', 'murrel-ar-2', 'tessick-m1', 'isk-t1'])
      expect(withDevice(roof(), card(id), { id: 'one', name: 'One' }).system.plannedArray)
        .withContext(id)
        .toEqual(panels);
  });
});
