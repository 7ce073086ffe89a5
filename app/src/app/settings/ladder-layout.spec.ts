import { deriveSettings, newJob, type Job, type Plan } from '@calm-keel/core';
import { sampleCard, sampleJob, voltParameter } from '../testing';
import { layoutLadder } from './ladder-layout';

const card = sampleCard({
  id: 'plain',
  kind: 'solarMppt',
  ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 100, chemistries: ['lfp'] },
  parameters: [voltParameter('absorbVoltage'), voltParameter('floatVoltage'), voltParameter('rechargeVoltage')],
});

function planWith(present: Partial<Record<'absorbVoltage' | 'floatVoltage' | 'rechargeVoltage', number>>, chargers = 2): Plan {
  const job: Job = sampleJob();
  const charger = (n: number) => ({
    id: `c${n}`,
    name: `Charger ${n}`,
    card: 'plain',
    sensor: { fitted: false, place: 'air' as const, errorC: 1, offsetC: 0, lagSeconds: 0, warmLeadC: 0 },
    displayReadings: [],
    present,
    passcodeChanged: true,
  });
  return deriveSettings({ ...job, cards: [card], system: { ...job.system, chargers: Array.from({ length: chargers }, (_, i) => charger(i)) } });
}

describe('the setpoint ladder', () => {
  it('stands every rung at its true voltage on one axis that falls steadily', () => {
    const ladder = layoutLadder(planWith({}), 740, 490);
    const points = [...ladder.columns[0]!.rungs.map((r) => ({ volts: r.volts, y: r.y })), ...ladder.ticks, ...ladder.trips].sort((a, b) => b.volts - a.volts);
    for (let i = 1; i < points.length; i++) if (points[i]!.volts < points[i - 1]!.volts) expect(points[i]!.y).toBeGreaterThan(points[i - 1]!.y);
    const absorb = ladder.bands.find((b) => b.kind === 'absorb')!;
    const rung = ladder.columns[0]!.rungs.find((r) => r.role === 'absorbVoltage')!;
    expect(rung.y).toBeGreaterThan(absorb.top);
    expect(rung.y).toBeLessThan(absorb.bottom);
  });

  it('never lets two labels of a column touch, however close the rungs, wide or narrow', () => {
    for (const chargers of [1, 2, 4])
      for (const floatVolts of [24, 26.4, 27.6, 27.9, 28.1, 28.6, 30]) {
        const ladder = layoutLadder(planWith({ floatVoltage: floatVolts, absorbVoltage: floatVolts + 0.7 }, chargers), 740, 490);
        for (const column of ladder.columns) {
          const boxes = column.rungs.map((r) => (r.asFound ? { top: r.y - 13, bottom: r.y + 13 } : { top: r.labelY - 19, bottom: r.labelY + 19 }));
          // Left and right halves of a column are separate: bars span both, so only plain labels are compared here.
          const labels = boxes.filter((_, i) => !column.rungs[i]!.asFound);
          for (let i = 1; i < labels.length; i++)
            expect(labels[i]!.top)
              .withContext(`${chargers} chargers, float ${floatVolts}`)
              .toBeGreaterThanOrEqual(labels[i - 1]!.bottom - 0.5);
        }
      }
  });

  it('extends its scale for a value far outside instead of clipping it', () => {
    const ladder = layoutLadder(planWith({ absorbVoltage: 31.5 }), 740, 490);
    const bar = ladder.columns[0]!.rungs.find((r) => r.asFound)!;
    expect(bar.volts).toBe(31.5);
    expect(bar.y).toBeGreaterThan(ladder.top);
    expect(bar.towardsY).toBe(ladder.columns[0]!.rungs.find((r) => r.role === 'absorbVoltage' && !r.asFound)!.y);
  });

  it('has room for no charger at all, and draws one alone for the phone', () => {
    const job = newJob('x', 'X', '2026-01-01T00:00:00Z');
    expect(layoutLadder(deriveSettings(job), 358, 480).columns).toEqual([]);
    expect(layoutLadder(planWith({}), 358, 480, 'c1').columns.map((c) => c.charger)).toEqual(['c1']);
  });
});
