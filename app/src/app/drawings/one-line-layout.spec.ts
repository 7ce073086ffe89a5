import type { Job } from '@calm-keel/core/job';
import { deriveSettings } from '@calm-keel/core/settings';
import type { Charger } from '@calm-keel/core/system';
import { sampleCard, sampleJob } from '../testing';
import { oneLine, oneLineList, type Word } from './one-line-layout';

/** The sample bank with some chargers that have no card: the drawing must stand all the same. */
function withChargers(count: number, change: Partial<Charger> = {}, bank: Partial<Job['system']['bank']> = {}): Job {
  const job = sampleJob();
  const charger = (i: number): Charger => ({
    id: `c${i}`,
    name: `Charger ${i}`,
    card: 'none',
    sensor: { fitted: true, place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 60, warmLeadC: 1 },
    displayReadings: [],
    present: {},
    fuseA: 40,
    wire: { lengthM: 1, areaMm2: 16 },
    passcodeChanged: true,
    ...change,
  });
  return { ...job, system: { ...job.system, bank: { ...job.system.bank, ...bank }, chargers: Array.from({ length: count }, (_, i) => charger(i)) } };
}
const draw = (job: Job, room = 740) => oneLine(deriveSettings(job), null, room);
/** Space a word takes, by the width of an average letter. */
const box = (w: Word) => {
  const width = w.text.length * w.size * 0.5;
  const left = w.anchor === 'end' ? w.x - width : w.anchor === 'middle' ? w.x - width / 2 : w.x;
  return { left, right: left + width, top: w.y - w.size * 0.8, bottom: w.y + w.size * 0.2 };
};

describe('the one-line drawing', () => {
  it('is the same for the same job, with a part to press for each charger and the bank', () => {
    const job = withChargers(3);
    expect(draw(job)).toEqual(draw(job));
    expect(draw(job).hits.map((h) => h.key)).toEqual(['c0', 'c1', 'c2', '']);
  });

  it('keeps its words apart, with one charger as with eight, with one string as with six', () => {
    for (const count of [0, 1, 2, 4, 8])
      for (const strings of [1, 2, 6]) {
        const { words, width } = draw(
          withChargers(
            count,
            {},
            { stringsInParallel: strings, fuseA: 200, mainSwitchA: 300, shuntA: 500, stringFuseA: 80, wire: { lengthM: 1, areaMm2: 70 } },
          ),
        );
        const boxes = words.filter((w) => w.text !== '').map((w) => ({ w, ...box(w) }));
        for (const [i, a] of boxes.entries()) {
          expect(a.left).withContext(`${count} chargers, ${strings} strings: “${a.w.text}” within the left edge`).toBeGreaterThanOrEqual(0);
          expect(a.right)
            .withContext(`“${a.w.text}” within the right edge`)
            .toBeLessThanOrEqual(width + 4);
          for (const b of boxes.slice(i + 1)) {
            const overlap = a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1;
            expect(overlap).withContext(`${count} chargers, ${strings} strings: “${a.w.text}” over “${b.w.text}”`).toBeFalse();
          }
        }
      }
  });

  it('grows wider than the room when the sources need it, and never narrower', () => {
    expect(draw(withChargers(2)).width).toBe(740);
    expect(draw(withChargers(10)).width).toBeGreaterThan(1400);
  });

  it('says what is not entered instead of drawing it', () => {
    const words = draw(withChargers(1, { fuseA: undefined as never })).words.map((w) => w.text);
    expect(words).toContain('no fuse entered');
    expect(words).toContain('no main fuse entered');
    expect(words).toContain('no card');
  });

  it('has a list that says the same, from every source to the bank', () => {
    const list = oneLineList(deriveSettings(withChargers(2)));
    expect(list.map((b) => b.title)).toEqual(['Charger 0', 'Charger 1', 'Bank']);
    expect(list[0]?.lines.join(' ')).toContain('fuse 40 A, 16 mm², 1 m, drop');
  });

  it('no sensor hides another, wherever any number of them sit', () => {
    const card = sampleCard({
      id: 'probe',
      model: 'S1',
      kind: 'solarMppt',
      ratings: { outputA: 40, systemVolts: [24], arrayVoltsMax: 100, arrayAmpsMax: 30, chemistries: ['lfp'] },
      parameters: [{ role: 'absorbVoltage', label: 'High', menu: [], unit: 'V', min: 20, max: 32, step: 0.1 }],
      sensor: { reads: 'wired', usedFor: ['cutoff'], withoutSensor: 'ignoresCutoff' },
    });
    for (const place of ['batteryCase', 'batteryPost', 'betweenUnits', 'pad', 'air'] as const)
      for (const strings of [1, 3]) {
        const job = withChargers(
          4,
          { card: 'probe', sensor: { fitted: true, place, errorC: 1, offsetC: 0, lagSeconds: 60, warmLeadC: 1 } },
          { stringsInParallel: strings },
        );
        const rings = draw({ ...job, cards: [card] }, 1100).words.filter((w) => /^T\d$/.test(w.text) && w.anchor === 'middle');
        expect(rings.length).withContext(`${place}, ${strings}`).toBe(4);
        for (const [i, a] of rings.entries())
          for (const b of rings.slice(i + 1))
            expect(Math.hypot(a.x - b.x, a.y - b.y))
              .withContext(`${place}, ${strings}: ${a.text} and ${b.text}`)
              .toBeGreaterThan(20);
      }
  });

  it('one charger alone is no wall, and without any the bus is not held up by nothing', () => {
    expect(draw(withChargers(1)).hits[0]!.w).toBeLessThan(240);
    expect(draw(withChargers(0)).height).toBeLessThan(draw(withChargers(1)).height - 100);
  });
});
