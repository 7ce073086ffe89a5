import { deriveSettings } from '../settings';
import { rookMoss, wholeTeasel } from '../testing/fixtures';
import { judgeReading, readingOf, runSheet, type Diagnosis, type SheetStep } from './index';

const job = wholeTeasel();
const plan = deriveSettings(job);
const { steps } = runSheet(plan, null);
const step = (id: string): SheetStep => {
  const found = steps.find((s) => s.id === id);
  if (!found) throw new Error(id);
  return found;
};
const judged = (id: string, seen: number | string) => judgeReading(plan, step(id), seen);

describe('a reading that is not the one wanted', () => {
  const cases: readonly [string, string, number | string, Diagnosis, boolean][] = [
    ['as it should be', 'aft/edit/floatVoltage', 26.9, 'same', false],
    ['another step inside the band', 'aft/edit/floatVoltage', 26.8, 'acceptable', true],
    ['what stood before', 'aft/edit/floatVoltage', 27.6, 'notSaved', false],
    ['half: a 12 V figure', 'aft/edit/floatVoltage', 13.4, 'unit', false],
    ['twice', 'aft/edit/floatVoltage', 53.8, 'unit', false],
    ['a slipped decimal point', 'aft/edit/floatVoltage', 2.7, 'unit', false],
    ['the absorb level of the same menu', 'aft/edit/floatVoltage', 28.1, 'wrongMenu', false],
    ['a few steps past it', 'aft/edit/floatVoltage', 27.3, 'slip', false],
    ['far away', 'aft/edit/floatVoltage', 31.7, 'other', false],
    ['the far end of a value that wraps', 'alternator/edit/absorbTime', 720, 'wrapped', false],
    ['one step', 'alternator/edit/absorbTime', 30, 'slip', false],
    ['hours for minutes', 'fore/edit/absorbTime', 2400, 'unit', false],
    ['°F for °C', 'aft/edit/lowTempCutoff', 39, 'unit', false],
    ['the sign the wrong way round', 'aft/edit/lowTempCutoff', -4, 'sign', false],
    ['another word', 'fore/edit/batteryType', 'sealed', 'other', false],
    ['the word that stood before', 'fore/edit/batteryType', 'vented', 'notSaved', false],
    ['off the steps, in no band', 'fore/edit/equaliseTime', 12, 'rounded', true],
  ];
  for (const [name, id, seen, diagnosis, mayKeep] of cases)
    it(`${name} is told as “${diagnosis}”`, () => {
      const result = judged(id, seen);
      expect([result.diagnosis, result.mayKeep]).toEqual([diagnosis, mayKeep]);
      expect(result.says.length).toBeGreaterThan(5);
      expect(result.next).toMatch(/\.$/);
    });

  it('is told with what it makes at the battery, and by how much it misses its band', () => {
    expect(judged('aft/edit/floatVoltage', 27.6).says).toContain('0.50\u00a0V above its band');
    expect(judged('aft/edit/floatVoltage', 26.8).says).toContain('in its band');
    // The forward display reads 0.21 V high.
    expect(judged('fore/edit/rechargeVoltage', 26.8).says).toContain('26.59\u00a0V at the battery');
  });

  it('held at a limit that another value sets is told as clipped', () => {
    // D30 keeps equalise 0.2 V above absorb, which stands at 28.8 V there: held at 29.0 V.
    const held = {
      ...job,
      system: { ...job.system, chargers: job.system.chargers.map((c) => (c.id === 'dcdc' ? { ...c, present: { ...c.present, absorbVoltage: 28.8 } } : c)) },
    };
    const p = deriveSettings(held);
    const s = runSheet(p, null).steps.find((x) => x.id === 'dcdc/edit/equaliseVoltage')!;
    const result = judgeReading(p, s, 29);
    expect(result.diagnosis).toBe('clipped');
    expect(result.says).toContain('High');
  });

  it('of a slope with its sign or basis wrong is told by its name', () => {
    const mast = deriveSettings(rookMoss());
    const slope = runSheet(mast, null).steps.find((s) => s.kind === 'edit' && s.value?.role === 'compensationSlope');
    if (typeof slope?.value?.to !== 'number') throw new Error('the mast keys a slope');
    expect(judgeReading(mast, slope, slope.value.to / 6).says).toContain('per cell');
  });
});

describe('what is typed as a reading', () => {
  const card = job.cards.find((c) => c.id === 'varrow-s45')!;
  const read = (role: Parameters<typeof readingOf>[1], text: string) => readingOf(card, role, text);
  it('takes a comma, a unit, an hour for minutes, a minus of any kind, a word in any case', () => {
    expect(read('floatVoltage', '27,1 V')).toEqual({ ok: true, value: 27.1 });
    expect(read('absorbTime', '2 h')).toEqual({ ok: true, value: 120 });
    expect(read('lowTempCutoff', '−4')).toEqual({ ok: true, value: -4 });
    expect(read('lowTempCutoff', '39 °F').ok).toBeTrue();
    expect(read('batteryType', 'Own Figures')).toEqual({ ok: true, value: 'own figures' });
  });
  it('says what is wrong with anything else', () => {
    for (const [role, text] of [
      ['floatVoltage', ''],
      ['floatVoltage', 'twenty'],
      ['floatVoltage', '27 A'],
      ['batteryType', 'other'],
    ] as const) {
      const result = read(role, text);
      expect(result.ok).withContext(text).toBeFalse();
      if (!result.ok) expect(result.text.length).toBeGreaterThan(5);
    }
  });
});
