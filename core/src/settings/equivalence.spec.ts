import type { Job } from '../job';
import { applyChange } from '../job';
import { cellsOf, figureKeys, figureOnBank, type Basis, type Figure } from '../sheet';
import { bankShape } from '../system';
import { plan, rookMoss, seeded, teasel, withCharger, withSystem } from '../testing/fixtures';
import { settingsInputSchema, type Setting } from './index';

/** What is keyed, and what it makes: the part of a setting that must not depend on how the sheet was printed. */
const keyed = (job: Job) =>
  plan(job).settings.map((s: Setting) => [s.charger, s.role, s.value, s.trueValue === null ? null : Number(s.trueValue.toFixed(6)), s.within]);

/** The same sheet, printed on another basis. */
function printedOn(job: Job, basis: Basis): Job {
  const shape = bankShape(job.sheet, job.system.bank);
  const figures = { ...job.sheet.figures };
  for (const key of figureKeys) {
    const figure = figures[key];
    if (figure?.state !== 'stated' || (figure.unit !== 'V' && figure.unit !== 'V/°C')) continue;
    const factor = cellsOf(basis, shape) / cellsOf(figure.basis, shape);
    const scaled: Figure = { ...figure, basis };
    for (const end of ['min', 'target', 'max'] as const) if (figure[end] !== undefined) scaled[end] = figure[end] * factor;
    figures[key] = scaled;
  }
  return { ...job, sheet: { ...job.sheet, figures } };
}

describe('the same sheet told otherwise', () => {
  for (const [name, job] of [
    ['launch', teasel()],
    ['mast', rookMoss()],
  ] as const)
    for (const basis of ['cell', 'unit', 'bank'] as const)
      it(`gives the ${name} the same settings when its volts are printed per ${basis}`, () => {
        expect(keyed(printedOn(job, basis))).toEqual(keyed(job));
      });

  it('gives the same currents in amps as in C', () => {
    const job = teasel();
    const inAmps = { ...job.sheet.figures.taperCurrent!, max: 18.4, unit: 'A' as const, basis: 'bank' as const };
    expect(keyed({ ...job, sheet: { ...job.sheet, figures: { ...job.sheet.figures, taperCurrent: inAmps } } })).toEqual(keyed(job));
  });

  it('two batteries of 6 V in series are one of 12 V', () => {
    const job = rookMoss();
    const one: Job = {
      ...printedOn(job, 'cell'),
      sheet: { ...printedOn(job, 'cell').sheet, unit: { nominalVolts: 12, capacityAh: 210, cellsInSeries: 6 } },
      system: { ...job.system, bank: { ...job.system.bank, unitsInSeries: 1 } },
    };
    expect(keyed(one)).toEqual(keyed(job));
  });
});

describe('a changed installation', () => {
  it('with twice the strings bears twice the current, and the same volts', () => {
    const job = teasel();
    const { fuseA: _f, cableA: _c, stringFuseA: _s, ...bank } = job.system.bank;
    const once = plan(withSystem(job, { bank }));
    const twice = plan(withSystem(job, { bank: { ...bank, stringsInParallel: 4 } }));
    expect(twice.ceiling.binding?.amps).toBeCloseTo(2 * (once.ceiling.binding?.amps ?? 0), 9);
    for (const role of ['absorbVoltage', 'floatVoltage', 'rechargeVoltage'] as const)
      expect(twice.setting('aft', role)?.value).toBe(once.setting('aft', role)?.value ?? NaN);
    for (const key of ['taperCurrent', 'chargeCurrentMax'] as const) {
      const figure = job.sheet.figures[key]!;
      expect(figureOnBank(figure, twice.facts.shape).band.max).toBeCloseTo(2 * (figureOnBank(figure, once.facts.shape).band.max ?? 0), 9);
    }
  });

  it('with one more equal charger shares taper and ceiling among three', () => {
    const job = teasel();
    const third = { ...job.system.chargers[1]!, id: 'third', name: 'Third' };
    const p = plan(withSystem(job, { chargers: [...job.system.chargers, third], bank: { ...job.system.bank, fuseA: 100 } }));
    // (18.4 + 2) / 3 = 6.8 → 6.5 A; ceiling 100 A × 0.8 = 80 A / 3 = 26.7 → 26 A.
    expect(['fore', 'aft', 'third'].map((id) => [p.setting(id, 'taperCurrent')?.value, p.setting(id, 'chargeCurrentLimit')?.value])).toEqual([
      [6.5, 26],
      [6.5, 26],
      [6.5, 26],
    ]);
  });

  it('shared by rating never exceeds the ceiling, for random ratings, fuses and strings', () => {
    const random = seeded(77);
    for (let i = 0; i < 120; i++) {
      const job = teasel();
      const count = 1 + Math.floor(random() * 4);
      const cards = Array.from({ length: count }, (_, k) => ({
        ...job.cards[0]!,
        id: `card-${k}`,
        ratings: { ...job.cards[0]!.ratings, outputA: 10 + Math.floor(random() * 36) },
      }));
      const chargers = cards.map((card, k) => ({
        ...job.system.chargers[0]!,
        id: `c-${k}`,
        name: `C ${k}`,
        card: card.id,
        fuseA: 20 + Math.floor(random() * 60),
      }));
      const p = plan({ ...job, cards, system: { ...job.system, chargers, bank: { ...job.system.bank, fuseA: 30 + Math.floor(random() * 200) } } });
      const limits = p.settings.filter((s) => s.role === 'chargeCurrentLimit').map((s) => s.trueValue ?? Infinity);
      expect(limits.reduce((a, b) => a + b, 0))
        .withContext(`round ${i}`)
        .toBeLessThanOrEqual((p.ceiling.binding?.amps ?? 0) + 1e-9);
      chargers.forEach((c, k) => expect(limits[k]).toBeLessThanOrEqual(Math.max(1, c.fuseA * 0.8) + 1e-9));
    }
  });

  it('with a display that reads high by more is keyed higher and makes the same', () => {
    for (const error of [0.1, 0.15, 0.2, 0.25]) {
      const p = plan(withCharger(teasel(), 'fore', { displayReadings: [{ meterV: 26.6, displayV: 26.6 + error }] }));
      const s = p.setting('fore', 'absorbVoltage');
      expect(Math.abs((s?.trueValue ?? 0) - 28.1))
        .withContext(`error ${error}`)
        .toBeLessThanOrEqual(0.1 + 1e-9);
      expect(Number(s?.value) - (s?.trueValue ?? 0)).toBeCloseTo(error, 6);
    }
  });

  it('with a poorer meter stays further inside its limits, never nearer', () => {
    const at = (percent: number): number => {
      const job = teasel();
      return Number(
        plan(withSystem(job, { instruments: job.system.instruments.map((i) => ({ ...i, volts: { ...i.volts, percent } })) })).setting('aft', 'rechargeVoltage')
          ?.exact,
      );
    };
    const values = [0.05, 0.1, 0.2, 0.5, 1].map(at);
    expect(values).toEqual([...values].sort((a, b) => b - a));
    expect(values.every((v) => v < 26.4)).toBeTrue();
  });
});

describe('the input of the settings', () => {
  it('of a whole job is valid, and changes keep it so', () => {
    const job = teasel();
    const changes = [
      { kind: 'setSchool', school: 'coldCurrent', to: 'lowerLimits' },
      { kind: 'recordPresent', charger: 'aft', role: 'floatVoltage', value: 26.9 },
      { kind: 'setSensor', charger: 'aft', sensor: { place: 'batteryCase', offsetC: 0 } },
      { kind: 'setBasis', figure: 'absorbVoltage', basis: 'bank' },
      { kind: 'passcodeChanged', charger: 'aft' },
      { kind: 'override', override: { charger: 'aft', role: 'floatVoltage', value: 27, reason: 'x', by: 'owner', date: '2026-06-09' } },
      { kind: 'reviewOverride', charger: 'aft', role: 'floatVoltage', by: 'installer' },
      { kind: 'clearOverride', charger: 'aft', role: 'floatVoltage' },
    ] as const;
    let now: Job = job;
    for (const change of changes) {
      const next = applyChange(now, change);
      expect(next).withContext(change.kind).not.toEqual(now);
      expect(settingsInputSchema.safeParse(next).success).withContext(change.kind).toBeTrue();
      now = next;
    }
    expect(now.overrides).toEqual([]);
    expect(now.system.chargers[1]?.passcodeChanged).toBeTrue();
    expect(job.system.chargers[1]?.passcodeChanged).withContext('the job before is untouched').toBeFalse();
  });
});
