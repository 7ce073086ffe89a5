import { find, rookMoss, said, teasel, withCharger, withFigure, withSystem } from '../testing/fixtures';

const aftSensor = teasel().system.chargers[1]!.sensor;
const text = (job: ReturnType<typeof teasel>, code: string): string => (find(job, code)?.text ?? '').replace(/\u00a0/g, ' ');

describe('the sentences', () => {
  it('say why a source has no working cold protection', () => {
    expect(text(withCharger(teasel(), 'aft', { sensor: { ...aftSensor, fitted: false } }), 'coldProtection')).toContain(
      'it has no battery sensor, and charges nothing while its cutoff is set',
    );
    expect(text(withCharger(teasel(), 'aft', { sensor: { ...aftSensor, place: 'air' } }), 'coldProtection')).toContain(
      'its sensor is in the air, which is not the battery',
    );
    const ignoring = { ...teasel(), cards: teasel().cards.map((c) => ({ ...c, sensor: { ...c.sensor, withoutSensor: 'ignoresCutoff' as const } })) };
    expect(text(withCharger(ignoring, 'aft', { sensor: { ...aftSensor, fitted: false } }), 'coldProtection')).toContain(
      'it has no battery sensor, and ignores its cutoff without one',
    );
    const without = { ...teasel(), cards: teasel().cards.map((c) => ({ ...c, parameters: c.parameters.filter((p) => p.role !== 'lowTempCutoff') })) };
    expect(text(without, 'coldProtection')).toContain('it has no low-temperature cutoff');
    const warm = withSystem(without, { site: { ...without.system.site, bankLowC: 3 } });
    expect(find(warm, 'coldProtection')).toBeUndefined();
  });

  it('name every charger that wants a missing figure, once', () => {
    expect(text(withFigure(teasel(), 'rechargeVoltage', null), 'figureMissing')).toBe('The sheet gives no figure for recharge of Solar fore and Solar aft.');
  });

  it('tell an overcharge from an undercharge', () => {
    const override = (value: number) => ({
      ...teasel(),
      overrides: [{ charger: 'aft', role: 'floatVoltage' as const, value, reason: '', by: 'owner', date: '2026-06-09' }],
    });
    expect([find(override(27.6), 'floatOutsideBand')?.severity, find(override(26.4), 'floatOutsideBand')?.severity]).toEqual(['stop', 'attention']);
    expect(text(override(26.4), 'floatOutsideBand')).toContain('0.30 V below the sheet’s 26.70–27.10 V');
  });

  it('tell an unfollowed lead bank from one without a sensor and one switched off', () => {
    expect(text(withCharger(rookMoss(), 'mast', { sensor: { ...aftSensor, place: 'chargerCase' } }), 'compensationMissingLead')).toContain(
      'no sensor on the battery',
    );
    const none = { ...rookMoss(), cards: rookMoss().cards.map((c) => ({ ...c, parameters: c.parameters.filter((p) => p.role !== 'compensationSlope') })) };
    expect(text(none, 'compensationMissingLead')).toContain('has no temperature compensation');
    const off = { ...rookMoss(), overrides: [{ charger: 'mast', role: 'compensationSlope' as const, value: 0, reason: '', by: 'owner', date: '2026-06-09' }] };
    expect(text(off, 'compensationMissingLead')).toMatch(/has its compensation set to 0\. This lead bank goes from −18 °C to 30 °C\./);
  });

  it('add up what flows below each stair: a source that starts warmer does not count in the cold ones', () => {
    // Aft alone starts above the first stair: 45 A from fore against 23 A, and 90 A against 92 A above.
    const job = { ...teasel(), overrides: [{ charger: 'aft', role: 'lowTempCutoff' as const, value: 12, reason: '', by: 'owner', date: '2026-06-09' }] };
    expect(text(job, 'deratingExceeded')).toContain('The chargers can deliver 45 A');
    const both = {
      ...job,
      overrides: ['fore', 'aft'].map((charger) => ({ charger, role: 'lowTempCutoff' as const, value: 12, reason: '', by: 'owner', date: '2026-06-09' })),
    };
    expect(find(both, 'deratingExceeded')).toBeUndefined();
  });

  it('call a timer that ends absorb a note, and a charger with nothing but the current a stop', () => {
    expect(find(teasel(), 'taperBelowLoads')?.severity).toBe('note');
    const byTaper = { ...teasel(), cards: teasel().cards.map((c) => ({ ...c, absorb: { ...c.absorb, end: 'taper' as const } })) };
    expect(find(byTaper, 'taperBelowLoads')?.severity).toBe('stop');
  });

  it('compute the compensated voltage at the coldest by hand: 15.3 − 0.024 × (−18 − 25)', () => {
    expect(text(rookMoss(), 'compensatedVoltage')).toContain('would equalise at 16.33 V');
  });

  it('weigh the highest cell against the cell’s own trip: 28.1 / 8 + 0.2 > 3.68', () => {
    const job = withSystem(teasel(), { bank: { ...teasel().system.bank, cellSpreadV: 0.2 } });
    expect(text(job, 'cellSpread')).toContain('the highest cell reaches 3.71 V');
    expect(find(teasel(), 'cellSpread')).toBeUndefined();
  });

  it('never let markup, broken numbers or an empty name through, on either demo job', () => {
    for (const job of [teasel(), rookMoss()])
      for (const f of said(job)) {
        expect(`${f.text} ${f.hurts}`).not.toMatch(/undefined|null|NaN|Infinity|\[object/);
        for (const remedy of f.remedies) expect(remedy.changes.length).toBeGreaterThan(0);
      }
  });
});
