import { deriveSettings } from '@calm-keel/core/settings';
import { figureOnBank, statedFigure } from '@calm-keel/core/sheet';
import type { LogView } from '../workers/log.worker';
import { sampleJob } from '../testing';
import { logFigure } from './figure';

const plan = deriveSettings(sampleJob());
const absorb = statedFigure(plan.input.sheet, 'absorbVoltage');
const most = absorb && figureOnBank(absorb, plan.facts.shape).band.max;
const marks = { gaps: [], odd: [], chosenAt: null, days: false };
const scale = { label: '°C', toShown: (c: number) => c };

/** The picture of three samples of a bank. */
function shown(volts: readonly number[], offsetMinutes: number | null) {
  const time = [1_781_400_000, 1_781_400_010.4, 1_781_400_020];
  const view = { volts: { time, value: [...volts] }, chargers: [], proof: { rows: [], told: [], stages: [], notes: [] }, alone: [] } as unknown as LogView;
  return logFigure(plan, view, offsetMinutes, null, null, 400, scale, marks).data as readonly { name: string; x: readonly number[]; y: readonly number[] }[];
}

describe('the picture of a log', () => {
  it('has its times on the log’s own clock, in thousandths of a second', () => {
    expect(shown([26, 26, 26], 120)[0]?.x).toEqual([1_781_407_200_000, 1_781_407_210_400, 1_781_407_220_000]);
    expect(shown([26, 26, 26], null)[0]?.x[0]).toBe(1_781_400_000_000);
  });

  it('draws over again what lies above the maximum, and nothing where nothing does', () => {
    if (most === undefined) return void fail('the sample sheet has no absorb band');
    const names = (volts: readonly number[]) => shown(volts, 0).map((t) => t.name);
    expect(names([26, most, most + 0.005])).not.toContain('Above the maximum');
    const above = shown([26, most + 0.006, NaN], 0).find((t) => t.name === 'Above the maximum');
    expect(above?.y.map((v) => Number.isNaN(v))).toEqual([true, false, true]);
  });
});
