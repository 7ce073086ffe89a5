import { TestBed } from '@angular/core/testing';
import type { DeviceValues } from '@calm-keel/core/card';
import type { Answer, SheetStep } from '@calm-keel/core/runsheet';
import { deriveSettings, type Plan } from '@calm-keel/core/settings';
import { sampleJob } from '../testing';
import { DeviceLink, LinkProblem, type Outcome, type WireStep } from './device-link';
import { RunWork } from './run-work';
import { WireWork } from './wire-work';

const plan: Plan = deriveSettings(sampleJob());
const device = { ...plan.input.system.chargers[0]!, id: 'solo', link: 'solo' };
const step = (role: string, to: number): SheetStep =>
  ({
    id: `edit/solo/${role}`,
    kind: 'edit',
    device: 'solo',
    title: role,
    says: [],
    notes: [],
    value: { role, to, from: null, readBack: `${to.toFixed(1)} V`, label: role, unit: 'V', digits: 1, stands: '', readOff: true },
  }) as unknown as SheetStep;
const absorb = step('absorbVoltage', 28.4);
const float = step('floatVoltage', 27);
const save: SheetStep = { id: 'commit/solo', kind: 'commit', device: 'solo', title: 'Save', says: [], notes: [] };

describe('reading and writing over the wire', () => {
  let answers: { step: string; given: Partial<Answer>; way: string | undefined }[];
  let troubles: string[];
  let shown: string[];
  let found: DeviceValues[];

  /** A link whose reads come one after the other, and whose writes end as told. */
  function wire(reads: (DeviceValues | Error)[], outcomes: Outcome[] = []): WireWork {
    answers = [];
    troubles = [];
    shown = [];
    found = [];
    const link = {
      read: () => {
        const next = reads.shift() ?? {};
        return next instanceof Error ? Promise.reject(next) : Promise.resolve({ values: next, firmware: '2.1' });
      },
      write: (_name: string, steps: readonly WireStep[], each: (sent: WireStep, outcome: Outcome) => boolean) => {
        for (const [i, sent] of steps.entries()) if (!each(sent, outcomes[i]!)) break;
        return Promise.resolve();
      },
    };
    const work = {
      answer: (s: SheetStep, given: Partial<Answer>, way?: string) => answers.push({ step: s.id, given, way }),
      trouble: (_: SheetStep, text: string) => troubles.push(text),
      show: (id: string) => shown.push(id),
      noteFound: (_: string, values: DeviceValues) => found.push(values),
    };
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({ providers: [WireWork, { provide: DeviceLink, useValue: link }, { provide: RunWork, useValue: work }] });
    return TestBed.inject(WireWork);
  }
  const readBack = (value: number): Outcome => ({ kind: 'readBack', value, says: '' }) as unknown as Outcome;

  it('notes what is on it, and says why it could not', async () => {
    const good = wire([{ absorbVoltage: 28.1 }]);
    expect(await good.readIn(device)).toBeTrue();
    expect(found).toEqual([{ absorbVoltage: 28.1 }]);
    const bad = wire([new LinkProblem('No answer from solo.')]);
    expect(await bad.readIn(device)).toBeFalse();
    expect(bad.problem()).toBe('No answer from solo.');
    expect(bad.busy()).toBeNull();
    expect(found).toEqual([]);
  });

  it('answers in order what was read back, and stops at the first that differs', async () => {
    const work = wire([], [readBack(28.4), { kind: 'differs', value: 26.8, says: 'It reads 26.8 V.' } as unknown as Outcome, readBack(0)]);
    await work.write(plan, 'solo', [absorb, float, save]);
    expect(answers).toEqual([{ step: absorb.id, given: { state: 'done', reading: 28.4 }, way: 'wire' }]);
    expect(shown).toEqual([float.id]);
    expect(troubles[0]).toContain('floatVoltage: It reads 26.8 V.');
    expect(work.problem()).toContain('Writing has stopped here.');
    expect(work.problem()).toContain('look at its display before you write again');
  });

  it('keeps a yes that nobody has seen as just that', async () => {
    const work = wire([], [{ kind: 'acknowledged', says: 'It said yes.' } as unknown as Outcome]);
    await work.write(plan, 'solo', [save]);
    expect(answers[0]?.given.reading).toBe('acknowledged, not seen');
    expect(work.acknowledged()).toBe('It said yes.');
    expect(work.problem()).toBeNull();
  });

  it('sends nothing where no step can go over a wire', async () => {
    const work = wire([], []);
    await work.write(plan, 'solo', [{ ...save, kind: 'caution' }]);
    expect(answers).toEqual([]);
    expect(work.busy()).toBeNull();
  });

  it('takes a lost write for taken only when both reads say so', async () => {
    const taken = wire([{ absorbVoltage: 28.4 }, { absorbVoltage: 28.4 }]);
    await taken.settle('solo', absorb);
    expect(answers.map((a) => a.given.reading)).toEqual([28.4]);
    expect(taken.acknowledged()).toContain('reads 28.4 V');

    for (const [first, second, words] of [
      [28.4, 28.1, 'now this and now that'],
      [28.1, 28.4, 'now this and now that'],
      [28.1, 28.1, 'reads 28.1 instead'],
    ] as const) {
      const not = wire([{ absorbVoltage: first }, { absorbVoltage: second }]);
      await not.settle('solo', absorb);
      expect(answers).toEqual([]);
      expect(not.problem()).toContain(words);
      expect(troubles.length).toBe(1);
    }
  });

  it('says of a lost save that no register tells', async () => {
    const work = wire([{}, {}]);
    await work.settle('solo', save);
    expect(answers).toEqual([]);
    expect(work.acknowledged()).toContain('save again');
  });

  it('answers a step that looks only when every entry of it has a register', async () => {
    const looks = [
      { role: 'absorbVoltage', label: 'Bulk V', want: 28.4 },
      { role: 'floatVoltage', label: 'Float V', want: 27 },
    ];
    const proof = { ...save, kind: 'persist', looks } as unknown as SheetStep;
    const half = wire([{ absorbVoltage: 28.4, rechargeVoltage: 26 }]);
    await half.readStep('solo', proof);
    expect(answers).toEqual([]);
    expect(half.problem()).toContain('No register tells Float V');
    const all = wire([{ absorbVoltage: 28.4, floatVoltage: 27, rechargeVoltage: 26 }]);
    await all.readStep('solo', proof);
    expect(answers).toEqual([{ step: 'commit/solo', given: { state: 'done', values: { absorbVoltage: 28.4, floatVoltage: 27 } }, way: 'wire' }]);
  });

  it('notes the firmware that a device tells', async () => {
    const work = wire([{}]);
    await work.readStep('solo', { ...save, kind: 'identify' });
    expect(answers[0]?.given.reading).toBe('2.1');
  });
});
