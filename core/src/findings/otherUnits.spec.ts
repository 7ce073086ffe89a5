import type { Card, NumberParameter, Role } from '../card';
import { editPlan } from '../edits';
import { applyChanges, type Job } from '../job';
import { find, plan, wholeTeasel, withCharger } from '../testing/fixtures';
import { quiet } from '../testing/findingCases';

type Counted = NumberParameter['unit'];

/** The launch with one number of one card counted in another unit, its range in that unit too. */
function countedIn(job: Job, card: string, role: Role, unit: Counted, range: Partial<NumberParameter>): Job {
  const change = (c: Card): Card => ({
    ...c,
    presets: [],
    parameters: c.parameters.map((p) => (p.role === role && p.unit !== 'choice' ? { ...p, unit, per12V: false, factory: undefined, ...range } : p)),
  });
  return { ...job, cards: job.cards.map((c) => (c.id === card ? change(c) : c)) };
}

/** A DC-DC charger whose battery type sets absorb to this much on its own display. */
const typeSets = (unit: Counted, absorb: number, range: Partial<NumberParameter>): Job => {
  const job = countedIn(wholeTeasel(), 'tessick-d30', 'absorbVoltage', unit, range);
  return {
    ...job,
    cards: job.cards.map((c) => (c.id === 'tessick-d30' ? { ...c, presets: [{ name: 'free', sets: { absorbVoltage: absorb } }] } : c)),
  };
};

/** This stands on the aft charger, and that on its sister of the same card. */
const standing = (job: Job, role: Role, aft: number, fore: number): Job =>
  withCharger(withCharger(job, 'aft', { present: { [role]: aft, equaliseEnabled: 'off' } }), 'fore', { present: { [role]: fore, equaliseEnabled: 'off' } });

describe('a value on a display is taken for what it is at the battery, whatever the display counts in', () => {
  const units: readonly (readonly [Counted, number, number, Partial<NumberParameter>])[] = [
    ['V', 29.6, 28, { min: 24.8, max: 30.4, step: 0.1 }],
    ['V/12V', 14.8, 14, { min: 12.4, max: 15.2, step: 0.1 }],
    ['V/cell', 3.7, 3.5, { min: 3.1, max: 3.8, step: 0.0125 }],
  ];
  for (const [unit, high, allowed, range] of units) {
    it(`${unit}: a type that sets absorb above the sheet’s most is refused while a source is live`, () => {
      const choose = (absorb: number) =>
        editPlan(plan(typeSets(unit, absorb, range)), 'dcdc', { found: { batteryType: 'wet' }, to: { batteryType: 'free' }, live: true })!;
      expect(choose(high).blocked?.why).toBe('Choosing “free” sets absorb to 29.6\u00a0V, above the sheet’s most of 28.4\u00a0V, while a source is live.');
      expect(choose(allowed).blocked).toBeUndefined();
    });

    it(`${unit}: an equalise voltage that stands above the sheet’s most is seen, and in volts at the battery`, () => {
      const stands = (value: number): Job =>
        standing(countedIn(quiet(), 'varrow-s45', 'equaliseVoltage', unit, { ...range, max: range.max! * 1.1 }), 'equaliseVoltage', value, allowed);
      expect(find(stands(high), 'equaliseStored')?.text).toContain('Solar aft still stores 29.6\u00a0V for equalise');
      expect(find(stands(allowed), 'equaliseStored')).toBeUndefined();
    });
  }

  const cold: readonly (readonly [Counted, number, number, string])[] = [
    ['°C', -15, 12, '−15'],
    ['°F', 5, 54, '−15'],
  ];
  for (const [unit, low, enough, said] of cold)
    it(`${unit}: a cutoff found too low is a stop, and the one that is right is recorded in the display’s own unit`, () => {
      const found = (value: number): Job =>
        standing(countedIn(quiet(), 'varrow-s45', 'lowTempCutoff', unit, { min: -40, max: 90, step: 1, special: [] }), 'lowTempCutoff', value, enough);
      const finding = find(found(low), 'cutoffBelowSheet');
      expect([finding?.severity, finding?.charger]).toEqual(['stop', 'aft']);
      expect(finding?.text).toContain(`was found at ${said}\u00a0°C`);
      const remedy = finding!.remedies[0]!;
      expect(remedy.label).toMatch(new RegExp(`^Record that it now reads \\d+\\u00a0${unit}$`));
      expect(find(applyChanges(found(low), remedy.changes), 'cutoffBelowSheet')).toBeUndefined();
      expect(find(found(enough), 'cutoffBelowSheet')).toBeUndefined();
    });

  it('a whole charger that counts volts per cell comes to the same as its sister in volts, to its steps', () => {
    const volts = plan(quiet());
    const cells = plan(
      (['absorbVoltage', 'floatVoltage', 'rechargeVoltage', 'equaliseVoltage'] as const).reduce(
        (job, role) => countedIn(job, 'varrow-s45', role, 'V/cell', { min: 2.7, max: 4.2, step: 0.01 }),
        quiet(),
      ),
    );
    for (const role of ['absorbVoltage', 'floatVoltage', 'rechargeVoltage'] as const) {
      const [own, sister] = [cells.setting('aft', role)!, volts.setting('aft', role)!];
      expect([own.exact, own.unit, own.within]).withContext(role).toEqual([sister.exact, 'V per cell', 'inside']);
      expect(own.value)
        .withContext(role)
        .toBeCloseTo(Number(own.trueValue) / 8, 6);
      expect(Math.abs(Number(own.trueValue) - Number(sister.trueValue)))
        .withContext(role)
        .toBeLessThan(0.01 * 8 + 0.1);
      expect(own.derivation.at(-1)?.unit).withContext(role).toBe('V');
    }
    expect(editPlan(cells, 'aft')?.blocked).toBeUndefined();
    expect(editPlan(cells, 'aft')?.steps.find((s) => s.role === 'floatVoltage')?.readBack).toMatch(/^3\.\d\d\u00a0V per cell$/);
  });
});
