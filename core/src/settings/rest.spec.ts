import { find, plan, rookMoss, teasel, withFigure } from '../testing/fixtures';
import type { Job } from '../job';
import type { Chemistry } from '../sheet';

const noFloat = { state: 'notPermitted', min: undefined, target: undefined, max: undefined } as const;
const floatOf = (job: Job, charger: string) => plan(job).setting(charger, 'floatVoltage')!;
const asChemistry = (job: Job, chemistry: Chemistry): Job => ({ ...job, sheet: { ...job.sheet, chemistry } });

describe('a sheet that permits no float', () => {
  it('of lead is answered with a rest below the resting volts of a full bank, never with the factory’s float', () => {
    // 6 cells: rest 12.66 V; no recharge on the sheet, so 0.4 V below; midway 12.46 V.
    const job = withFigure(withFigure(rookMoss(), 'floatVoltage', noFloat), 'rechargeVoltage', null);
    const float = floatOf(job, 'mast');
    expect(float.noValue).toBeUndefined();
    expect(float.exact as number).toBeCloseTo((2.11 * 6 + 2.11 * 6 - 0.4) / 2, 9);
    expect(float.band).toEqual({ max: 2.11 * 6 });
    expect(float.derivation[0]?.words).toBe('The sheet permits no float, so rest. The sheet gives no recharge: 0.4 V per 12 V below rest');
  });

  it('of AGM and gel rests a little higher', () => {
    for (const chemistry of ['agm', 'gel'] as const) {
      const job = asChemistry(withFigure(withFigure(rookMoss(), 'floatVoltage', noFloat), 'rechargeVoltage', null), chemistry);
      expect(floatOf(job, 'mast').exact as number)
        .withContext(chemistry)
        .toBeCloseTo(2.14 * 6 - 0.2, 9);
    }
  });

  it('of lithium rests midway between recharge and rest, and without a recharge all the same', () => {
    const job = withFigure(teasel(), 'floatVoltage', noFloat);
    expect(floatOf(job, 'aft').exact as number).toBeCloseTo((26.4 + 3.33 * 8) / 2, 9);
    expect(floatOf(job, 'aft').derivation[0]?.words).toBe('The sheet permits no float, so rest. Recharge voltage');
    const neither = withFigure(job, 'rechargeVoltage', null);
    expect(floatOf(neither, 'aft').exact as number).toBeCloseTo(3.33 * 8 - 0.4, 9);
  });

  it('is another thing than a sheet that says nothing: lead then lacks a figure', () => {
    expect(floatOf(withFigure(rookMoss(), 'floatVoltage', null), 'mast').noValue).toBe('missingFigure');
    expect(floatOf(withFigure(teasel(), 'floatVoltage', null), 'aft').derivation[0]?.words).toBe('The sheet gives no float, so rest. Recharge voltage');
  });
});

describe('a sheet that says nothing of equalising', () => {
  const silent = (chemistry: Chemistry): Job => asChemistry(withFigure(rookMoss(), 'equaliseVoltage', null), chemistry);
  const reachable = (job: Job): Job => ({
    ...job,
    cards: job.cards.map((c) => ({
      ...c,
      parameters: [
        ...c.parameters.filter((p) => p.role !== 'equaliseEnabled'),
        {
          role: 'equaliseEnabled' as const,
          label: 'Eq',
          menu: [],
          keys: [],
          access: 'basic' as const,
          unit: 'choice' as const,
          options: [
            { value: 'on', means: 'on' as const },
            { value: 'off', means: 'off' as const },
          ],
          factory: 'on',
        },
      ],
    })),
  });

  it('does not permit it, whatever the chemistry: a factory’s “on” is found, and “off” is what is entered', () => {
    for (const chemistry of ['flooded', 'agm', 'gel'] as const) {
      const job = reachable(silent(chemistry));
      expect(find(job, 'equaliseReachable')?.text)
        .withContext(chemistry)
        .toBe('Mast solar leaves the factory with equalise on “on”. The sheet says nothing of equalising, which counts as not permitted.');
      expect(plan(job).setting('mast', 'equaliseEnabled')?.value).withContext(chemistry).toBe('off');
    }
  });

  it('is told from one that forbids it and one that gives a figure', () => {
    const forbids = reachable(withFigure(rookMoss(), 'equaliseVoltage', { state: 'notPermitted', min: undefined, target: undefined, max: undefined }));
    expect(find(forbids, 'equaliseReachable')?.text).toContain('The sheet does not permit equalising.');
    const gives = reachable(withFigure(rookMoss(), 'equaliseVoltage', { target: 2.6, basis: 'cell' }));
    expect(find(gives, 'equaliseReachable')).toBeUndefined();
  });
});
