import type { Role } from '@calm-keel/core/card';
import { newJob, type Job } from '@calm-keel/core/job';
import { deriveSettings, type Override, type Plan } from '@calm-keel/core/settings';
import { sampleCard, sampleJob, voltParameter } from '../testing';
import { layoutLadder, type Ladder, type Rung } from './ladder-layout';
import { placeLabels, type Block } from './ladder-labels';

const voltRoles = ['absorbVoltage', 'floatVoltage', 'rechargeVoltage', 'equaliseVoltage', 'loadDisconnect', 'loadReconnect'] as const;
const card = sampleCard({
  id: 'plain',
  kind: 'solarMppt',
  ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 100, chemistries: ['lfp'] },
  parameters: voltRoles.map((role) => ({ ...voltParameter(role), step: 0.05 })),
});

function planWith(present: Partial<Record<Role, number>>, chargers = 2, overrides: readonly Override[] = []): Plan {
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
  return deriveSettings({
    ...job,
    cards: [card],
    overrides: [...overrides],
    system: { ...job.system, chargers: Array.from({ length: chargers }, (_, i) => charger(i)) },
  });
}
const lay = (plan: Plan, width = 740, more: { only?: string; celsius?: number } = {}): Ladder => layoutLadder(plan, { width, height: 470, ...more });

/** The room a rung's label takes, as it is drawn. */
function box(r: Rung): { top: number; bottom: number } {
  switch (r.style) {
    case 'bar':
      return { top: r.labelY - 13, bottom: r.labelY + 44 };
    case 'line':
      return { top: r.labelY - (r.beside ? 8 : 14), bottom: r.labelY + (r.beside ? 8 : 14) + (r.second ? 14 : 0) };
    default:
      return { top: r.labelY - 18, bottom: r.labelY + 19 + (r.second ? 14 : 0) };
  }
}

function touching(ladder: Ladder): string[] {
  return ladder.columns.flatMap((column) => {
    const boxes = column.rungs.map((r) => ({ ...box(r), of: `${column.name} ${r.words} ${r.volts}` })).sort((a, b) => a.top - b.top);
    return boxes.flatMap((b, i) => {
      const before = boxes[i - 1];
      return before && b.top < before.bottom - 1.5 ? [`${before.of} | ${b.of}`] : [];
    });
  });
}

const override = (charger: string, role: Role, value: number): Override => ({ charger, role, value, reason: 'x', by: 'x', date: '2026-06-09' });

describe('the setpoint ladder', () => {
  it('stands every rung at its true voltage on one axis that falls steadily, and back from a height to volts', () => {
    const ladder = lay(planWith({}));
    const points = [...ladder.columns[0]!.rungs.map((r) => ({ volts: r.volts, y: r.y })), ...ladder.ticks, ...ladder.trips].sort((a, b) => b.volts - a.volts);
    for (let i = 1; i < points.length; i++) if (points[i]!.volts < points[i - 1]!.volts) expect(points[i]!.y).toBeGreaterThan(points[i - 1]!.y);
    for (const p of points) expect(ladder.voltsAt(p.y)).toBeCloseTo(p.volts, 1);
    const absorb = ladder.bands.find((b) => b.kind === 'absorb')!;
    const rung = ladder.columns[0]!.rungs.find((r) => r.role === 'absorbVoltage')!;
    expect(rung.y).toBeGreaterThan(absorb.top);
    expect(rung.y).toBeLessThan(absorb.bottom);
  });

  it('never lets two labels of a column touch: 1 to 8 devices, values 0.05 V apart, wide and narrow', () => {
    for (const chargers of [1, 2, 4, 8])
      for (const width of [358, 740, 1100])
        for (const volts of [24, 26.4, 27.6, 28.1, 28.6, 30]) {
          const near = voltRoles.flatMap((role, i) => [override('c0', role, volts + 0.05 * i), override('c1', role, volts - 0.05 * i)]);
          for (const plan of [
            planWith({ floatVoltage: volts, absorbVoltage: volts + 0.7 }, chargers),
            planWith({}, chargers, near),
            planWith({ floatVoltage: volts }, chargers, near),
          ])
            expect(touching(lay(plan, width)))
              .withContext(`${chargers} devices, ${width} px, ${volts} V`)
              .toEqual([]);
        }
  });

  it('keeps the names in the sheet’s column apart, and every label inside the drawing', () => {
    const ladder = lay(planWith({}));
    const names = [...ladder.bands.map((b) => ({ y: b.labelY, half: b.twoLines ? 14 : 8 })), ...ladder.trips.map((t) => ({ y: t.labelY, half: 8 }))].sort(
      (a, b) => a.y - b.y,
    );
    for (let i = 1; i < names.length; i++) expect(names[i]!.y - names[i]!.half).toBeGreaterThanOrEqual(names[i - 1]!.y + names[i - 1]!.half - 0.5);
    for (const r of ladder.columns.flatMap((c) => c.rungs)) {
      expect(box(r).top).toBeGreaterThanOrEqual(ladder.top - 6);
      expect(box(r).bottom).toBeLessThanOrEqual(ladder.height);
    }
  });

  it('extends its scale for a value far outside instead of clipping it, and makes it a bar', () => {
    const ladder = lay(planWith({ absorbVoltage: 31.5 }));
    const bar = ladder.columns[0]!.rungs.find((r) => r.asFound)!;
    expect([bar.volts, bar.style]).toEqual([31.5, 'bar']);
    expect(bar.y).toBeGreaterThan(ladder.top);
    expect(bar.towardsY).toBe(ladder.columns[0]!.rungs.find((r) => r.role === 'absorbVoltage' && !r.asFound)!.y);
  });

  it('draws what is out by little as an empty bar: half a percent of its volts, as displays are off by anyhow', () => {
    const barOf = (absorbVoltage: number) => lay(planWith({ absorbVoltage })).columns[0]!.rungs.find((r) => r.asFound)!;
    const most = barOf(31.5).volts - barOf(31.5).outside;
    expect([barOf(most + 0.1), barOf(most + 0.2)].map((r) => [r.style, r.slight])).toEqual([
      ['bar', true],
      ['bar', false],
    ]);
  });

  it('has room for no charger at all, and draws one alone for the phone', () => {
    const job = newJob('x', 'X', '2026-01-01T00:00:00Z');
    expect(lay(deriveSettings(job), 358).columns).toEqual([]);
    expect(lay(planWith({}), 358, { only: 'c1' }).columns.map((c) => c.charger)).toEqual(['c1']);
  });

  it('grows wider than its place rather than squeezing eight columns, and stays in it with four', () => {
    expect(lay(planWith({}, 8)).width).toBeGreaterThan(740);
    expect(lay(planWith({}, 4)).width).toBe(740);
  });
});

describe('placing labels', () => {
  it('leaves alone what does not touch, shares the way where it does, keeps order and bounds, for random labels', () => {
    let seed = 7;
    const random = (): number => {
      seed = (seed * 1103515245 + 12345) % 2147483648;
      return seed / 2147483648;
    };
    for (let n = 0; n < 300; n++) {
      const blocks: Block[] = Array.from({ length: 1 + Math.floor(random() * 8) }, () => ({
        at: 50 + random() * 400,
        above: 8 + random() * 12,
        below: 8 + random() * 25,
      })).sort((a, b) => a.at - b.at);
      const places = placeLabels(blocks, 20, 480);
      const free =
        blocks.every((b, i) => i === 0 || b.at - b.above >= blocks[i - 1]!.at + blocks[i - 1]!.below) &&
        blocks[0]!.at - blocks[0]!.above >= 20 &&
        blocks.at(-1)!.at + blocks.at(-1)!.below <= 480;
      if (free) expect(places.every((p, i) => Math.abs(p - blocks[i]!.at) < 0.1)).toBeTrue();
      blocks.forEach((b, i) => {
        if (i > 0) expect(places[i]! - b.above).toBeGreaterThanOrEqual(places[i - 1]! + blocks[i - 1]!.below - 0.2);
        expect(places[i]! - b.above).toBeGreaterThanOrEqual(19.8);
      });
      if (blocks.reduce((sum, b) => sum + b.above + b.below, 0) < 440) expect(places.at(-1)! + blocks.at(-1)!.below).toBeLessThanOrEqual(480.2);
    }
  });
});
