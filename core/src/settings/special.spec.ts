import { holdValue, parameterFor, type Card, type NumberParameter, type Role } from '../card';
import { editPlan } from '../edits';
import { findFindings } from '../findings';
import { cardNamed, skarrow, stage } from '../testing/findingCases';
import { only, ran } from '../testing/rehearsals';
import { plan, rookMoss, seeded, teasel, wholeTeasel, withCharger, withFigure } from '../testing/fixtures';
import type { Job } from '../job';
import type { Charger } from '../system';
import { nearestHeld, nextHeld } from './index';

/** The launch with its aft charger of another card. */
const aftIs = (card: Card, job: Job = teasel()): Job => withCharger({ ...job, cards: [...job.cards, card] }, 'aft', { card: card.id, present: {} });
const h80 = cardNamed('hadrin-h80');
const withNumber = (card: Card, role: Role, change: Partial<NumberParameter>): Card => ({
  ...card,
  id: `${card.id}-x`,
  parameters: card.parameters.map((p) => (p.role === role && p.unit !== 'choice' ? { ...p, ...change } : p)),
});

describe('a number that means something else on the device', () => {
  it('is never the nearest to a wanted one: two minutes of absorb are not “0.0 h”, which is all day', () => {
    const p = plan(aftIs(h80, withFigure(teasel(), 'absorbTime', { target: 120, min: undefined, max: undefined })));
    const setting = p.setting('aft', 'absorbTime')!;
    expect([setting.value, setting.unit, setting.off]).toEqual([0.1, 'h', false]);
    expect(setting.trueValue).toBeCloseTo(360, 9);
  });

  it('is passed over where a value is dragged, stepped, or tried on a card', () => {
    const p = plan(aftIs(h80, withFigure(teasel(), 'absorbTime', { target: 360, min: undefined, max: undefined })));
    expect(nearestHeld(p, 'aft', 'absorbTime', 30)?.device).toBe(0.1);
    expect(nextHeld(p, 'aft', 'absorbTime', -1)).toBeNull();
    expect(nextHeld(p, 'aft', 'absorbTime', 1)?.device).toBe(0.2);
    const at = { systemVolts: 24, cellsInSeries: 8, ratingA: 80 };
    expect(holdValue(h80, 'absorbTime', 120, at).value).toBe(0.1);
    expect(holdValue(h80, 'absorbTime', 120, at).makes).toBeCloseTo(360, 9);
    // It is had by asking for it.
    expect(holdValue(h80, 'absorbTime', 0, at).steps.join(' ')).toContain('means all day');
  });

  it('is passed over where a rule of the card would press the value onto it', () => {
    const pressed: Card = {
      ...withNumber(h80, 'taperCurrent', { min: 0, max: 60, step: 1, special: [{ value: 11, means: 'automatic' }] }),
      constraints: [],
    };
    const p = plan(aftIs(pressed));
    const taper = p.setting('aft', 'taperCurrent')!;
    expect(taper.exact).toBeGreaterThan(11);
    expect(taper.exact).toBeLessThan(14);
    const lower = plan(
      aftIs({
        ...pressed,
        parameters: pressed.parameters.map((q) =>
          q.role === 'taperCurrent' ? { ...q, special: [{ value: taper.value as number, means: 'automatic' as const }] } : q,
        ),
      }),
    );
    expect(lower.setting('aft', 'taperCurrent')?.value).toBe((taper.value as number) - 1);
  });

  it('is the device’s own off where a rule wants off: an interval of 0, not of 250 days', () => {
    for (const p of [plan(aftIs(h80)), plan(withFigure(skarrow(), 'equaliseVoltage', null))]) {
      const id = p.setting('aft', 'equaliseInterval') ? 'aft' : 'leader';
      const interval = p.setting(id, 'equaliseInterval')!;
      expect([interval.value, interval.off, interval.exact]).toEqual([0, true, 0]);
      expect(editPlan(p, id)?.steps.some((s) => s.role === 'equaliseInterval')).toBeFalse();
    }
    // Without an off of its own the longest it takes is what is left, and it is not measured against a wish that nobody has.
    const without = plan(aftIs(withNumber(h80, 'equaliseInterval', { special: [], min: 10 }))).setting('aft', 'equaliseInterval')!;
    expect([without.value, without.off, without.exact, without.deviation]).toEqual([250, false, 250, 0]);
  });

  it('is what no relief of the belt is keyed as', () => {
    const hot = plan({ ...wholeTeasel(), schools: { ...wholeTeasel().schools, alternator: 'shortHot' } }).setting('alternator', 'beltRelief')!;
    expect([hot.value, hot.off]).toEqual([0, true]);
    const cool = plan(wholeTeasel()).setting('alternator', 'beltRelief')!;
    expect([cool.value, cool.off]).toEqual([10, false]);
  });

  it('is no step of a slope: one so flat that off would be nearest takes the first real step', () => {
    const flat = plan(withFigure(rookMoss(), 'compensationSlope', { target: -0.0001 })).setting('mast', 'compensationSlope')!;
    expect([flat.value, flat.off]).toEqual([2, false]);
  });

  it('stands in no setting that is not off, whatever the sheet asks, on any shipped card that has one', () => {
    const random = seeded(41);
    for (const name of ['hadrin-h80', 'murrel-ar-2', 'ostrel-w12', 'quern-r9', 'varrow-p15', 'varrow-s45', 'varrow-s45-b']) {
      const card = cardNamed(name);
      for (let i = 0; i < 12; i++) {
        const p = plan(
          aftIs(
            card,
            withFigure(withFigure(teasel(), 'absorbTime', { target: random() * 900, min: undefined, max: undefined }), 'taperCurrent', {
              target: undefined,
              max: random() * 0.02,
            }),
          ),
        );
        for (const s of p.settings) {
          const parameter = s.charger === 'aft' ? parameterFor(card, s.role) : undefined;
          if (!parameter || parameter.unit === 'choice' || typeof s.value !== 'number' || s.off) continue;
          expect(parameter.special.map((x) => x.value))
            .withContext(`${name} ${s.role} ${i}`)
            .not.toContain(s.value);
        }
      }
    }
  });
});

describe('a cutoff that would act on a sensor that is not there', () => {
  /** The stage, its relay right, the roof's charger without a sensor, with its card as shipped or with an off for the cutoff. */
  const roof = (off: boolean, change: Partial<Charger['sensor']> = {}, card: Partial<Card['sensor']> = {}): Job => {
    const job = stage();
    const special = off ? [{ value: -20, means: 'off' as const }] : [];
    return {
      ...withCharger(job, 'roof', { sensor: { ...job.system.chargers.find((c) => c.id === 'roof')!.sensor, ...change } }),
      cards: job.cards.map((c) =>
        c.id === 'varrow-s45'
          ? {
              ...c,
              sensor: { ...c.sensor, ...card },
              parameters: c.parameters.map((p) => (p.role === 'lowTempCutoff' && p.unit !== 'choice' ? { ...p, special } : p)),
            }
          : c,
      ),
    };
  };
  const cutoff = (job: Job) => plan(job).setting('roof', 'lowTempCutoff')!;
  const said = (job: Job) =>
    findFindings(plan(job), '2026-06-09').filter((f) => f.charger === 'roof' && ['cutoffWithoutSensor', 'coldProtection'].includes(f.code));

  it('is switched off where the bank is guarded elsewhere and the charger has an off for it', () => {
    expect([cutoff(roof(true)).value, cutoff(roof(true)).off]).toEqual([-20, true]);
    expect(plan(roof(true)).setting('roof', 'lowTempResume')?.noValue).toBe('notUsed');
    expect(said(roof(true))).toEqual([]);
  });

  it('is no value at all where the charger has no off, and that it will charge nothing is a stop', () => {
    expect([cutoff(roof(false)).value, cutoff(roof(false)).noValue]).toEqual([null, 'notUsed']);
    expect(said(roof(false)).map((f) => [f.code, f.severity])).toEqual([['cutoffWithoutSensor', 'stop']]);
    const charged = (job: Job): number => ran(only(job, { roof: {} }), 'clear-day').run.chargers[0]!.totals.ah;
    expect(charged(roof(false))).toBe(0);
    expect(charged(roof(false, { fitted: true }))).toBeGreaterThan(1);
  });

  it('is derived as ever with a sensor, without a guard elsewhere, or on a charger that goes on without one', () => {
    expect(cutoff(roof(true, { fitted: true })).value).toBeGreaterThan(-1);
    expect(said(roof(false, { fitted: true }))).toEqual([]);
    expect(cutoff(roof(true, {}, { withoutSensor: 'ignoresCutoff' })).value).toBeGreaterThan(-1);
    expect(said(roof(false, {}, { withoutSensor: 'ignoresCutoff' }))).toEqual([]);
    const alone = roof(true);
    const unguarded = { ...alone, system: { ...alone.system, companions: alone.system.companions.map((c) => ({ ...c, switches: [] })) } };
    expect(cutoff(unguarded).value).toBeGreaterThan(-1);
    expect(said(unguarded).map((f) => [f.code, f.severity])).toEqual([['coldProtection', 'stop']]);
  });
});
