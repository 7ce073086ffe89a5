import { parameterFor } from '../card';
import { contains, outsideBy } from '../quantity';
import { plan, rookMoss, seeded, teasel, withCharger, withFigure, withSystem } from '../testing/fixtures';
import { chooseOnGrid, provingUncertainty, stepFigure, trueOf, type Setting, type Step } from './index';

const value = (p: ReturnType<typeof plan>, charger: string, role: Parameters<typeof p.setting>[1]): Setting['value'] | undefined =>
  p.setting(charger, role)?.value;

describe('settings of the launch, worked out by hand', () => {
  const p = plan(teasel());

  it('key the forward charger 0.2 V high, because its display reads 0.21 V high', () => {
    expect(value(p, 'fore', 'absorbVoltage')).toBe(28.3);
    expect(p.setting('fore', 'absorbVoltage')?.trueValue).toBeCloseTo(28.09, 6);
    expect(value(p, 'aft', 'absorbVoltage')).toBe(28.1);
    expect([value(p, 'fore', 'floatVoltage'), value(p, 'aft', 'floatVoltage')]).toEqual([27.1, 26.9]);
  });

  it('keep recharge under its "at most" by the proving uncertainty', () => {
    expect([value(p, 'fore', 'rechargeVoltage'), value(p, 'aft', 'rechargeVoltage')]).toEqual([26.5, 26.3]);
    expect((p.setting('aft', 'rechargeVoltage')?.trueValue ?? 99) + provingUncertainty(p.input, 26.4)).toBeLessThanOrEqual(26.4);
  });

  it('share taper and current by rating', () => {
    // (0.04 C × 460 Ah + 2 A of least load) / 2 chargers = 10.2 A, down to the step of 0.5 A.
    expect([value(p, 'fore', 'taperCurrent'), value(p, 'aft', 'taperCurrent')]).toEqual([10, 10]);
    expect(p.setting('fore', 'taperCurrent')?.exact).toBeCloseTo(10.2, 9);
    // 184 A are enough for both ratings.
    expect([value(p, 'fore', 'chargeCurrentLimit'), value(p, 'aft', 'chargeCurrentLimit')]).toEqual([45, 45]);
  });

  it('raise each cutoff by what its sensor costs, and resume above it', () => {
    expect([value(p, 'fore', 'lowTempCutoff'), value(p, 'aft', 'lowTempCutoff')]).toEqual([2, 4]);
    expect([value(p, 'fore', 'lowTempResume'), value(p, 'aft', 'lowTempResume')]).toEqual([4, 6]);
  });

  it('switch compensation and equalise off and store equalise at absorb for the shortest time', () => {
    expect(value(p, 'fore', 'compensationSlope')).toBe(0);
    expect(p.setting('fore', 'compensationSlope')?.off).toBeTrue();
    expect(value(p, 'fore', 'equaliseEnabled')).toBe('off');
    expect(value(p, 'fore', 'equaliseVoltage')).toBe(28.3);
    expect(value(p, 'fore', 'equaliseTime')).toBe(10);
    expect(value(p, 'fore', 'systemVoltage')).toBe('24');
    expect(value(p, 'fore', 'absorbTime')).toBe(40);
  });

  it('show the whole sum, from the cited figure to the terminals', () => {
    const steps = p.setting('fore', 'absorbVoltage')?.derivation ?? [];
    expect(steps.map((s) => s.kind)).toEqual(['start', 'result', 'change', 'subtotal', 'change', 'set', 'after']);
    expect(steps[0]?.source).toContain('rev D');
    expect(steps.find((s) => s.kind === 'subtotal')?.value).toBeCloseTo(28.31, 9);
    expect(steps.at(-1)?.uncertainty).toBeGreaterThan(0.05);
    for (const s of p.settings) expect(s.derivation.length).withContext(`${s.charger} ${s.role}`).toBeGreaterThan(0);
  });
});

describe('settings of the mast, worked out by hand', () => {
  const p = plan(rookMoss());

  it('scale per-cell lead figures to twelve volts', () => {
    expect(value(p, 'mast', 'absorbVoltage')).toBe(14.7);
    expect(value(p, 'mast', 'floatVoltage')).toBe(13.4);
    expect(value(p, 'mast', 'absorbTime')).toBe(180);
    expect(value(p, 'mast', 'equaliseVoltage')).toBe(15.3);
    expect(value(p, 'mast', 'equaliseInterval')).toBe(90);
    expect(value(p, 'mast', 'equaliseTime')).toBe(2);
  });

  it('turn −4 mV per cell into this charger’s positive 24 for six cells', () => {
    expect(value(p, 'mast', 'compensationSlope')).toBe(24);
    expect(p.setting('mast', 'compensationSlope')?.trueValue).toBeCloseTo(-0.004, 12);
  });

  it('mark a derived recharge as derived', () => {
    expect(value(p, 'mast', 'rechargeVoltage')).toBe(12.4);
    expect(p.setting('mast', 'rechargeVoltage')?.derivation.some((s) => s.source?.includes('not the maker’s figure'))).toBeTrue();
  });

  it('say when the charger’s range ends before the figure', () => {
    const disconnect = p.setting('mast', 'loadDisconnect');
    expect(disconnect?.value).toBe(11.5);
    expect(disconnect?.within).toBe('outside');
  });
});

describe('choices and overrides', () => {
  it('follow the sheet: a new absorb target moves every charger', () => {
    const p = plan(withFigure(teasel(), 'absorbVoltage', { target: 28.2 }));
    expect([value(p, 'fore', 'absorbVoltage'), value(p, 'aft', 'absorbVoltage')]).toEqual([28.4, 28.2]);
  });

  it('gentle top charge aims at the low end, but inside it by the proving uncertainty', () => {
    const p = plan({ ...teasel(), schools: { ...teasel().schools, topCharge: 'gentle' } });
    const aft = p.setting('aft', 'absorbVoltage');
    expect(aft?.value).toBe(28.1);
    expect(aft?.exact).toBeCloseTo(28 + provingUncertainty(p.input, 28), 9);
  });

  it('float equals absorb, or rests below the resting voltage', () => {
    const same = plan({ ...teasel(), schools: { ...teasel().schools, lithiumFloat: 'floatEqualsAbsorb' } });
    expect(value(same, 'aft', 'floatVoltage')).toBe(28.1);
    expect(same.setting('aft', 'floatVoltage')?.within).toBe('outside');
    const rest = plan({ ...teasel(), schools: { ...teasel().schools, lithiumFloat: 'rest' } });
    const float = rest.setting('aft', 'floatVoltage')?.trueValue ?? 0;
    expect(float).toBeGreaterThan(26.3);
    expect(float).toBeLessThan(3.33 * 8);
  });

  it('cold and current: raise every cutoff to the stair that bears all, or lower the limits to the coldest stair', () => {
    const raised = plan({ ...teasel(), schools: { ...teasel().schools, coldCurrent: 'raiseCutoff' } });
    // Both give 90 A, the stair from 5 °C bears 92 A: 5 + 1.25 and 5 + 3.75, rounded up.
    expect([value(raised, 'fore', 'lowTempCutoff'), value(raised, 'aft', 'lowTempCutoff')]).toEqual([7, 9]);
    const lowered = plan({ ...teasel(), schools: { ...teasel().schools, coldCurrent: 'lowerLimits' } });
    expect([value(lowered, 'fore', 'chargeCurrentLimit'), value(lowered, 'aft', 'chargeCurrentLimit')]).toEqual([11, 11]);
  });

  it('an override keeps the band, the derived value and the person’s reason in the sum', () => {
    const job = teasel();
    const p = plan({ ...job, overrides: [{ charger: 'aft', role: 'absorbVoltage', value: 28.6, reason: 'owner asks', by: 'owner', date: '2026-06-09' }] });
    const s = p.setting('aft', 'absorbVoltage');
    expect([s?.value, s?.within]).toEqual([28.6, 'outside']);
    expect(s?.derivation.some((d) => d.words.includes('owner asks'))).toBeTrue();
    expect(s?.derivation.some((d) => d.words.includes('28.10'))).toBeTrue();
  });

  it('a missing figure gives no value and says which', () => {
    const p = plan(withFigure(teasel(), 'absorbVoltage', null));
    expect(p.setting('aft', 'absorbVoltage')?.noValue).toBe('missingFigure');
    expect(value(p, 'aft', 'absorbVoltage')).toBeNull();
    expect(p.setting('aft', 'equaliseVoltage')?.noValue).toBe('missingFigure');
  });

  it('a display error below what meter and display can tell apart is not corrected', () => {
    const p = plan(withCharger(teasel(), 'fore', { displayReadings: [{ meterV: 26.6, displayV: 26.65 }] }));
    expect(value(p, 'fore', 'absorbVoltage')).toBe(28.1);
  });

  it('a display that nobody has compared is known no better than its card says', () => {
    const p = plan(withCharger(teasel(), 'aft', { displayReadings: [] }));
    const percent = p.input.cards.find((c) => c.id === 'varrow-s45')!.regulationPercent;
    const aft = p.setting('aft', 'absorbVoltage')!;
    // Regulation 0.3 % of 28.1 V, display step 0.1 V, meter 0.1 % and 0.01 V: rectangles, twice their root sum of squares.
    expect(aft.uncertainty).toBeCloseTo((2 * Math.hypot((28.1 * percent) / 100, 0.05, 0.0281, 0.005)) / Math.sqrt(3), 6);
    expect(aft.budget.map((line) => line.name)).toContain(`Regulation ${percent} % by its card, not compared`);
    // The sister, compared with a meter, is known as well as the meter and its display allow.
    const fore = p.setting('fore', 'absorbVoltage')!;
    expect(fore.uncertainty!).toBeLessThan(0.7 * aft.uncertainty!);
    expect(fore.budget.some((line) => line.name.includes('not compared'))).toBeFalse();
  });

  it('a single printed number gets the job’s visible tolerance and no invented band', () => {
    const job = withFigure(teasel(), 'floatVoltage', { min: undefined, max: undefined });
    const s = plan(job).setting('aft', 'floatVoltage');
    expect(s?.band?.max).toBeCloseTo(26.9 + 8 * 0.0125, 9);
    expect(s?.derivation.some((d) => d.words.includes('tolerance (assumed)'))).toBeTrue();
  });

  it('a cold place with a slow sensor on a 1 °C step never rounds the cutoff down', () => {
    const random = seeded(12);
    for (let i = 0; i < 60; i++) {
      const job = teasel();
      const sensor = { ...job.system.chargers[0]!.sensor, errorC: random() * 3, offsetC: random() * 4, lagSeconds: random() * 2000 };
      const s = plan(withCharger(withSystem(job, { site: { ...job.system.site, coolingCPerHour: random() * 12 } }), 'fore', { sensor })).setting(
        'fore',
        'lowTempCutoff',
      );
      expect(s?.trueValue).toBeGreaterThanOrEqual(Number(s?.exact) - 1e-9);
    }
  });
});

describe('properties of every derived voltage', () => {
  it('lies in the sheet’s band and inside it by the proving uncertainty wherever the device’s step allows, for random sheets and displays', () => {
    const random = seeded(3);
    for (let i = 0; i < 150; i++) {
      const low = 27.6 + random() * 0.6;
      const width = 0.25 + random() * 0.4;
      const error = (random() - 0.5) * 0.5;
      const job = withCharger(withFigure(teasel(), 'absorbVoltage', { min: low, target: low + width * random(), max: low + width }), 'fore', {
        displayReadings: [{ meterV: 26.6, displayV: 26.6 + error }],
      });
      const p = plan(job);
      for (const id of ['fore', 'aft']) {
        const s = p.setting(id, 'absorbVoltage');
        expect(s?.within).withContext(`${low} ${width} ${error}`).toBe('inside');
        const by = provingUncertainty(p.input, low);
        if (width > 2 * by + 0.11) expect(Math.abs(outsideBy({ min: low + by - 0.002, max: low + width - by + 0.002 }, s?.trueValue ?? 0))).toBe(0);
      }
    }
  });

  it('is never above the aim on lithium unless the band’s low end forces it', () => {
    const random = seeded(8);
    for (let i = 0; i < 400; i++) {
      const step = [0.05, 0.1, 0.2][Math.floor(random() * 3)] ?? 0.1;
      const candidates = Array.from({ length: 60 }, (_, k) => ({ device: k, real: 26 + k * step + random() * 0.01 }));
      const aim = 27 + random();
      const band = { min: aim - random() * 0.6, max: aim + random() * 0.6 };
      const by = random() * 0.1;
      const chosen = chooseOnGrid(candidates, aim, band, by, 'down');
      expect(chosen).not.toBeNull();
      if (!chosen || chosen.real <= aim) continue;
      const lower = candidates.filter((c) => c.real <= aim && contains({ min: band.min + by, max: band.max - by }, c.real));
      expect(lower).withContext('a lower candidate inside the inset band was passed over').toEqual([]);
    }
  });

  it('comes back from the device value that was keyed', () => {
    for (const job of [teasel(), rookMoss()]) {
      const p = plan(job);
      for (const s of p.settings) {
        const card = p.input.cards.find((c) => c.id === job.system.chargers.find((x) => x.id === s.charger)?.card);
        if (typeof s.value !== 'number' || !card || parameterFor(card, s.role)?.unit === 'choice') continue;
        expect(trueOf(p, s.charger, s.role, s.value))
          .withContext(`${s.charger} ${s.role}`)
          .toBeCloseTo(s.trueValue ?? NaN, 9);
      }
    }
  });
});

describe('a line of a sum', () => {
  const line = (step: Partial<Step>, scale: 'C' | 'F'): string => {
    const { figure, unit } = stepFigure({ kind: 'start', words: '', value: 5, unit: '°C', digits: 1, ...step }, scale);
    return `${figure} ${unit}`.trim();
  };

  it('shows a temperature on the chosen scale: a reading moves by 32, a change does not', () => {
    expect([line({}, 'C'), line({}, 'F'), line({ kind: 'subtotal' }, 'F')]).toEqual(['5.0 °C', '41.0 °F', '41.0 °F']);
    expect([line({ kind: 'change' }, 'C'), line({ kind: 'change' }, 'F')]).toEqual(['+5.0 °C', '+9.0 °F']);
    expect([line({ unit: '°C difference' }, 'C'), line({ unit: '°C difference' }, 'F')]).toEqual(['5.0 °C', '9.0 °F']);
  });

  it('leaves what the device counts as the device shows it', () => {
    expect(line({ kind: 'set', onDevice: true }, 'F')).toBe('5.0 °C');
    expect(line({ kind: 'set', unit: '°F', onDevice: true }, 'C')).toBe('5.0 °F');
    const set = plan(teasel())
      .setting('aft', 'lowTempCutoff')!
      .derivation.filter((s) => s.onDevice);
    expect(set.map((s) => s.kind)).toEqual(['change', 'set']);
  });

  it('shows what comes out of a multiplication without a sign, a change with it, and words alone without a figure', () => {
    expect([
      line({ kind: 'result', value: 28.1, unit: 'V' }, 'F'),
      line({ kind: 'change', value: 0.21, unit: 'V', digits: 2, uncertainty: 0.05 }, 'C'),
    ]).toEqual(['28.1 V', '+0.21 ± 0.05 V']);
    const { figure } = stepFigure({ kind: 'note', words: 'so it is' }, 'C');
    expect(figure).toBe('');
  });
});
