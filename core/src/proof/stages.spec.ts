import { plan, seeded, teasel } from '../testing/fixtures';
import { madeLog, type Sample } from '../testing/logs';
import { canCharge, inferStages as infer, levelsOf, type StageSpan } from './index';

const levels = levelsOf(plan(teasel()), 'aft')!;
const inferStages = (...of: Parameters<typeof infer>): readonly StageSpan[] => infer(...of).spans;
const regulatedLevel = (...of: Parameters<typeof infer>): number => infer(...of).absorbV;

/** A made-up day: when bulk begins, when absorb does, how long it lasts, where it regulates. */
interface Shape {
  readonly dawn: number;
  readonly absorbAt: number;
  readonly absorbFor: number;
  readonly level: number;
  readonly noise: number;
  readonly quantum: number;
}

function dayOf(shape: Shape, seed: number): (second: number) => Sample {
  const random = seeded(seed);
  const n = (): number => (random() + random() + random() - 1.5) * shape.noise;
  const q = (v: number): number => (shape.quantum > 0 ? Math.round(v / shape.quantum) * shape.quantum : v);
  const end = shape.absorbAt + shape.absorbFor;
  return (s) => {
    if (s < shape.dawn) return { volts: q(26.3 + n()), amps: 0, array: 0 };
    if (s < shape.absorbAt) return { volts: q(26.5 + ((shape.level - 0.3 - 26.5) * (s - shape.dawn)) / (shape.absorbAt - shape.dawn) + n()), amps: 40 };
    if (s < end) return { volts: q(shape.level + n()), amps: 8 + 30 * Math.exp(-(s - shape.absorbAt) / 1500) };
    return { volts: q(Math.max(26.9, shape.level - (s - end) * 0.01) + n()), amps: s < end + 130 ? 0 : 3 };
  };
}

const span = (spans: readonly StageSpan[], stage: StageSpan['stage']): StageSpan | undefined =>
  spans.filter((s) => s.stage === stage).sort((a, b) => b.to - b.from - (a.to - a.from))[0];

describe('stage inference on days of every shape', () => {
  it('finds begin and end of absorb within a few samples, through noise, display steps and sampling from 1 s to 60 s', () => {
    const random = seeded(91);
    for (let i = 0; i < 24; i++) {
      const step = [1, 5, 10, 30, 60][i % 5] ?? 10;
      const shape: Shape = {
        dawn: 1800 + Math.floor(random() * 3600),
        absorbAt: 9000 + Math.floor(random() * 3600),
        absorbFor: 2400 + Math.floor(random() * 2400),
        level: 28.05 + random() * 0.15,
        noise: random() * 0.02,
        quantum: i % 4 === 3 ? 0.1 : 0,
      };
      const { log, report } = madeLog(7 * 3600, step, dayOf(shape, i));
      const spans = inferStages(log, report, 'aft', levels);
      const absorb = span(spans, 'absorb');
      const start = log.time[0] ?? 0;
      const what = `round ${i}: ${JSON.stringify(shape)} every ${step} s`;
      expect(absorb).withContext(what).toBeDefined();
      if (!absorb) continue;
      expect(Math.abs(absorb.from - start - shape.absorbAt))
        .withContext(what)
        .toBeLessThanOrEqual(Math.max(60, 2 * step));
      expect(Math.abs(absorb.to - start - shape.absorbAt - shape.absorbFor))
        .withContext(what)
        .toBeLessThanOrEqual(Math.max(120, 2 * step));
      expect(Math.abs(absorb.atVoltageSeconds - shape.absorbFor))
        .withContext(what)
        .toBeLessThanOrEqual(Math.max(60, 3 * step));
      expect(span(spans, 'float')).withContext(what).toBeDefined();
    }
  });

  it('calls several days several absorbs, with the dark between them', () => {
    const shape: Shape = { dawn: 3600, absorbAt: 10_800, absorbFor: 3000, level: 28.1, noise: 0.01, quantum: 0 };
    const one = dayOf(shape, 3);
    const { log, report } = madeLog(3 * 86_400, 30, (s) => (s % 86_400 < 50_000 ? one(s % 86_400) : { volts: 26.35, amps: 0, array: 0 }));
    const spans = inferStages(log, report, 'aft', levels);
    expect(spans.filter((s) => s.stage === 'absorb').length).toBe(3);
    expect(spans.filter((s) => s.stage === 'off').length).toBeGreaterThanOrEqual(3);
  });

  it('a source that fades in absorb without completing it goes dark, not to float', () => {
    const { log, report } = madeLog(4 * 3600, 10, (s) =>
      s < 7200 ? { volts: 26.6 + s / 6000, amps: 40 } : s < 7800 ? { volts: 28.1, amps: 38 } : { volts: 26.5, amps: 0, array: 5 },
    );
    const spans = inferStages(log, report, 'aft', levels).map((s) => s.stage);
    expect(spans).not.toContain('float');
    expect(spans.at(-1)).toBe('off');
  });
});

describe('the regulated level', () => {
  const hold = (level: number) => madeLog(3 * 3600, 10, (s) => (s < 6000 ? { volts: 26.5 + s / 4500, amps: 40 } : { volts: level, amps: 20 }));

  it('is where the charger really regulates, a little off its setting', () => {
    for (const level of [27.95, 28.1, 28.3, 28.45]) {
      const { log, report } = hold(level);
      expect(regulatedLevel(log, report, 'aft', levels))
        .withContext(String(level))
        .toBeCloseTo(level, 1);
    }
  });

  it('is the setting itself when nothing was held for ten minutes', () => {
    const { log, report } = madeLog(3600, 10, (s) => ({ volts: 26.5 + s / 3000, amps: 40 }));
    expect(regulatedLevel(log, report, 'aft', levels)).toBe(levels.absorbV);
  });

  it('is not a slow rise in bulk with the true plateau above it', () => {
    const { log, report } = madeLog(4 * 3600, 10, (s) => (s < 9000 ? { volts: 27.6 + s / 30_000, amps: 40 } : { volts: 28.1, amps: 20 }));
    expect(regulatedLevel(log, report, 'aft', levels)).toBeCloseTo(28.1, 1);
  });
});

describe('whether a source could have charged', () => {
  it('needs the array clearly above the bank; an unknown array proves nothing', () => {
    expect([canCharge(70, 26.5), canCharge(28, 26.5), canCharge(0, 26.5), canCharge(undefined, 26.5)]).toEqual([true, false, false, false]);
  });
});

describe('a voltage that leaves the absorb level for ten minutes, before it gets dark', () => {
  /** The stage five minutes after so long at 28.1 V with this current. */
  const after = (heldS: number, amps = 30): string | undefined => {
    const { log, report } = madeLog(5 * 3600, 10, (s) => {
      const t = s - 7200;
      if (t < 0) return { volts: 26.5 + s / 4800, amps: 40 };
      if (t < heldS) return { volts: 28.1, amps };
      return t < heldS + 600 ? { volts: 26.9, amps: 2 } : { volts: 26.5, amps: 0, array: 0 };
    });
    const at = (log.time[0] ?? 0) + 7200 + heldS + 300;
    return inferStages(log, report, 'aft', levels).find((s) => s.from <= at && at < s.to)?.stage;
  };

  it('is a cloud in absorb while neither its time nor its taper has been reached', () => {
    expect([levels.absorbSeconds, levels.taperA]).toEqual([2400, 10]);
    expect([after(300), after(1200), after(0.88 * 2400), after(600, 12)]).toEqual(['absorb', 'absorb', 'absorb', 'absorb']);
  });

  it('is float when the time has been held, or the taper for a while', () => {
    expect([after(2400), after(0.97 * 2400), after(600, 9)]).toEqual(['float', 'float', 'float']);
  });
});
