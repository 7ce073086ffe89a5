import { cardSchema, type Card, type NumberParameter } from '../card';
import type { Job } from '../job';
import { plan, rookMoss, teasel, withCharger } from '../testing/fixtures';
import type { Setting } from './index';

type Change = Partial<Omit<NumberParameter, 'role'>>;

/** The job with one parameter of its card offered in another form. */
function offering(job: Job, role: NumberParameter['role'], change: Change): Job {
  const cards = job.cards.map((card): Card =>
    // In another form the card's factory value and presets would mean something else.
    cardSchema.parse({
      ...card,
      presets: [],
      constraints: card.constraints.filter((c) => c.parameter !== role && c.other !== role),
      parameters: card.parameters.map((p) => (p.role === role ? { ...p, ...change, factory: undefined } : p)),
    }),
  );
  return { ...job, cards };
}
const of = (job: Job, charger: string, role: NumberParameter['role']): Setting | undefined => plan(job).setting(charger, role);

describe('the forms in which chargers want a value', () => {
  it('volts of a 12 V block: 28.1 V of a 24 V bank are entered as 14.0, which stays inside the band', () => {
    const s = of(offering(teasel(), 'absorbVoltage', { unit: 'V/12V', min: 12, max: 16, step: 0.05, per12V: false }), 'aft', 'absorbVoltage');
    expect([s?.value, s?.unit, s?.within]).toEqual([14.05, 'V per 12 V', 'inside']);
    expect(s?.trueValue).toBeCloseTo(28.1, 9);
  });

  it('an offset below float: 26.37 V become 0.6 below 26.9, rounded so that recharge stays under its limit', () => {
    const s = of(offering(teasel(), 'rechargeVoltage', { unit: 'V below float', min: 0.1, max: 3, step: 0.1, per12V: false }), 'aft', 'rechargeVoltage');
    expect(s?.value).toBe(0.6);
    expect(s?.trueValue).toBeCloseTo(26.3, 9);
  });

  it('°F inside: a cutoff of 1.25 °C is keyed 35 °F, never 34', () => {
    const s = of(offering(teasel(), 'lowTempCutoff', { unit: '°F', min: 0, max: 80, step: 1 }), 'fore', 'lowTempCutoff');
    expect(s?.value).toBe(35);
    expect(s?.trueValue).toBeGreaterThanOrEqual(1.25);
  });

  it('percent of rating: 45 A of 45 are 100 %, and a smaller fuse brings it down', () => {
    const job = offering(teasel(), 'chargeCurrentLimit', { unit: '% of rating', min: 10, max: 100, step: 5 });
    expect(of(job, 'aft', 'chargeCurrentLimit')?.value).toBe(100);
    // 50 A × 0.8 = 40 A of 45 = 88.9 %, down to 85.
    expect(of(withCharger(job, 'aft', { fuseA: 50 }), 'aft', 'chargeCurrentLimit')?.value).toBe(85);
    expect(of(withCharger(job, 'aft', { cableA: 20 }), 'aft', 'chargeCurrentLimit')?.value).toBe(40);
  });

  it('hours: a lead absorb time is rounded up to the step, a lithium one to the nearest', () => {
    expect(of(offering(rookMoss(), 'absorbTime', { unit: 'h', min: 1, max: 8, step: 2 }), 'mast', 'absorbTime')?.value).toBe(3);
    expect(of(offering(rookMoss(), 'absorbTime', { unit: 'h', min: 0, max: 8, step: 2 }), 'mast', 'absorbTime')?.value).toBe(4);
    expect(of(offering(teasel(), 'absorbTime', { unit: 'min', min: 0, max: 120, step: 30 }), 'aft', 'absorbTime')?.value).toBe(30);
  });

  it('a slope per cell with the maker’s own sign', () => {
    const s = of(
      offering(rookMoss(), 'compensationSlope', { unit: 'mV/°C/cell', slopeSign: 'negative', min: -8, max: 0, step: 0.5, special: [] }),
      'mast',
      'compensationSlope',
    );
    expect(s?.value).toBe(-4);
  });

  // Bank of 6 cells, −18…30 °C, zero at 25 °C. −20 charges (24 − 20) × (30 − 25) = 20 mV too high when hot; −25 would (25 − 24) × (25 + 18) = 43 mV when cold.
  it('a slope for the bank that steps past −24 by 5 takes the step whose worse extreme is smaller, −20', () => {
    const s = of(
      offering(rookMoss(), 'compensationSlope', { unit: 'mV/°C', slopeSign: 'negative', min: -60, max: 0, step: 5, special: [] }),
      'mast',
      'compensationSlope',
    );
    expect(s?.value).toBe(-20);
  });
});

describe('what a charger cannot do', () => {
  it('no "off" for compensation: the smallest slope it takes, and it is not called off', () => {
    const s = of(offering(teasel(), 'compensationSlope', { min: -40, max: -6, step: 1, special: [] }), 'aft', 'compensationSlope');
    expect(s?.value).toBe(-6);
    expect(s?.off).toBeFalse();
    expect(s?.derivation.some((d) => d.words.includes('no “off”'))).toBeTrue();
  });

  it('a range that ends below the figure: the nearest it holds, marked outside', () => {
    const s = of(offering(teasel(), 'absorbVoltage', { min: 20, max: 27.5, per12V: false }), 'aft', 'absorbVoltage');
    expect([s?.value, s?.within]).toEqual([27.5, 'outside']);
    expect(s?.derivation.some((d) => d.words.includes('only takes 20.0'))).toBeTrue();
  });

  it('a forced gap above absorb: equalise is stored at the least the charger accepts, still under the sheet’s most', () => {
    const job = teasel();
    const cards = job.cards.map((c) => ({
      ...c,
      constraints: [{ parameter: 'equaliseVoltage' as const, relation: 'atLeast' as const, other: 'absorbVoltage' as const, gap: 0.2 }],
    }));
    const s = of({ ...job, cards }, 'aft', 'equaliseVoltage');
    expect([s?.value, s?.within]).toEqual([28.3, 'inside']);
  });

  it('a coarse step that jumps over the inset band still takes a value inside the band', () => {
    const s = of(offering(teasel(), 'floatVoltage', { min: 20, max: 32, step: 0.25, per12V: false }), 'aft', 'floatVoltage');
    expect([s?.value, s?.within]).toEqual([26.75, 'inside']);
  });

  it('a special value that means "off" is never chosen as a number', () => {
    // A taper of 0 A would mean off; the share here is below the first real step.
    const job = { ...teasel(), system: { ...teasel().system, loads: { minA: 0, maxA: 0 } } };
    const s = of(offering(job, 'taperCurrent', { min: 0, max: 40, step: 20 }), 'aft', 'taperCurrent');
    expect(s?.value).not.toBe(0);
  });

  it('an end that means "off" is passed over for the value beside it, at either end', () => {
    const absorb = (change: Change): unknown => of(offering(teasel(), 'absorbVoltage', { step: 0.1, per12V: false, ...change }), 'aft', 'absorbVoltage')?.value;
    // The sheet’s 28.1 V lies below the whole range, and above it.
    expect(absorb({ min: 28.6, max: 30, special: [{ value: 28.6, means: 'off' }] })).toBe(28.7);
    expect(absorb({ min: 25, max: 27.5, special: [{ value: 27.5, means: 'off' }] })).toBe(27.4);
    expect(absorb({ min: 28.6, max: 30, special: [] })).toBe(28.6);
    // With three steps in all there is a middle one, and it is found too.
    expect(absorb({ min: 28.6, max: 28.8, special: [{ value: 28.6, means: 'off' }] })).toBe(28.7);
  });

  it('a rule of the device between two settings is kept by the value next to it', () => {
    const card = (gap: number): Job => {
      const job = teasel();
      return {
        ...job,
        cards: job.cards.map((c) => ({
          ...c,
          constraints: [{ parameter: 'floatVoltage' as const, relation: 'atMost' as const, other: 'absorbVoltage' as const, gap }],
        })),
      };
    };
    // Float wants 26.9 V; at least 2 V under the 28.1 V of absorb is 26.1 V, far from every value nearby.
    expect([0.5, 2].map((gap) => of(card(gap), 'aft', 'floatVoltage')?.value)).toEqual([26.9, 26.1]);
  });
});

describe('what else moves a value', () => {
  it('a charger that sees the bank’s own current takes the whole taper figure', () => {
    const job = teasel();
    const cards = job.cards.map((c) => ({ ...c, absorb: { ...c.absorb, currentSeen: 'bank' as const } }));
    expect(of({ ...job, cards }, 'aft', 'taperCurrent')?.value).toBe(18);
  });

  it('the school "off only" leaves the stored equalise values alone', () => {
    const job = { ...teasel(), schools: { ...teasel().schools, lithiumEqualise: 'off' as const } };
    expect(of(job, 'aft', 'equaliseEnabled')?.value).toBe('off');
    for (const role of ['equaliseVoltage', 'equaliseTime'] as const)
      expect([of(job, 'aft', role)?.value, of(job, 'aft', role)?.noValue]).toEqual([null, 'notSupported']);
  });

  it('two comparisons of the display correct each voltage by its own error', () => {
    const job = withCharger(teasel(), 'fore', {
      displayReadings: [
        { meterV: 26, displayV: 26.1 },
        { meterV: 29, displayV: 29.4 },
      ],
    });
    // Error 0.31 V at 28.1 V, 0.19 V at 26.9 V.
    expect(of(job, 'fore', 'absorbVoltage')?.value).toBe(28.4);
    expect(of(job, 'fore', 'floatVoltage')?.value).toBe(27);
    expect(of(job, 'fore', 'absorbVoltage')?.within).toBe('inside');
  });

  it('a value found on a display that reads high is compared by what it makes', () => {
    const s = of(withCharger(teasel(), 'fore', { present: { floatVoltage: 27.2 } }), 'fore', 'floatVoltage');
    expect(s?.present).toBe(27.2);
    expect(s?.presentTrue).toBeCloseTo(26.99, 9);
  });

  it('a bank of an unusual voltage gets no system voltage, in words', () => {
    const job = teasel();
    const s = plan({ ...job, sheet: { ...job.sheet, unit: { ...job.sheet.unit, nominalVolts: 30 } } }).setting('aft', 'systemVoltage');
    expect([s?.value, s?.noValue]).toEqual([null, 'notSupported']);
  });

  it('the same input gives the same plan', () => {
    expect(JSON.stringify(plan(teasel()).settings)).toBe(JSON.stringify(plan(teasel()).settings));
  });
});
