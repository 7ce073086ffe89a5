import { cardSchema, parameterFor, type Card, type Parameter, type Role } from '../../card';
import type { Job } from '../../job';
import { rookMoss, withCharger, withFigure } from '../../testing/fixtures';
import { deriveSettings } from '../derive';

const volts = (role: Role, label: string): Parameter => ({
  role,
  label,
  menu: ['Aux'],
  unit: 'V',
  min: 8,
  max: 17,
  step: 0.1,
  per12V: false,
  special: [],
  wraps: false,
  keys: [],
  access: 'basic',
});
const aux: readonly Parameter[] = [
  {
    role: 'relayRule',
    label: 'Aux',
    menu: [],
    unit: 'choice',
    options: [
      { value: 'off', means: 'off' },
      { value: 'volts', means: 'on' },
    ],
    keys: [],
    access: 'basic',
  },
  volts('relayOnVoltage', 'Aux on'),
  volts('relayOffVoltage', 'Aux off'),
];
/** The mast with a relay on its charger. */
const mast = (onRelay?: 'nothing' | 'surplus' | 'low', change: (card: Card) => Card = (c) => c): Job => {
  const job = rookMoss();
  const cards = job.cards.map((c) => (c.id === 'varrow-p15' ? cardSchema.parse(change({ ...c, parameters: [...c.parameters, ...aux] })) : c));
  return withCharger({ ...job, cards }, 'mast', onRelay === undefined ? {} : { onRelay });
};
const without =
  (...roles: readonly Role[]) =>
  (card: Card): Card => ({ ...card, parameters: card.parameters.filter((p) => !roles.includes(p.role)) });
const set = (job: Job, role: Role) => deriveSettings(job).setting('mast', role);
const exact = (job: Job, role: Role): unknown => set(job, role)?.exact;

describe('the relay of a charger', () => {
  it('is left, and its voltages not used, until somebody says what is joined to it', () => {
    expect([set(mast(), 'relayRule')?.value, set(mast(), 'relayRule')?.noValue]).toEqual([null, 'left']);
    expect(set(mast(), 'relayOnVoltage')?.noValue).toBe('notUsed');
    expect(set(mast(), 'relayOffVoltage')?.noValue).toBe('notUsed');
  });

  it('is off with nothing joined to it', () => {
    expect(set(mast('nothing'), 'relayRule')?.value).toBe('off');
    expect(set(mast('nothing'), 'relayOnVoltage')?.noValue).toBe('notUsed');
  });

  it('with a load for surplus comes on just below absorb, and goes before the charger would begin anew', () => {
    const job = mast('surplus');
    const [absorb, float, recharge] = (['absorbVoltage', 'floatVoltage', 'rechargeVoltage'] as const).map((role) => set(job, role)?.trueValue);
    expect(set(job, 'relayRule')?.value).toBe('volts');
    expect(exact(job, 'relayOnVoltage')).toBeCloseTo(absorb! - 0.1, 9);
    const has =
      parameterFor(
        job.cards.find((c) => c.id === 'varrow-p15')!,
        'rechargeVoltage',
      ) !== undefined;
    expect(exact(job, 'relayOffVoltage')).toBeCloseTo(has ? (float! + recharge!) / 2 : float! - 0.2, 9);
    expect(exact(job, 'relayOnVoltage') as number).toBeGreaterThan(exact(job, 'relayOffVoltage') as number);
  });

  it('goes by float or by recharge where only one of them is there, and by none where neither is', () => {
    const alone = mast('surplus', without('rechargeVoltage'));
    expect(exact(alone, 'relayOffVoltage')).toBeCloseTo(set(alone, 'floatVoltage')!.trueValue! - 0.2, 9);
    const bare = mast('surplus', without('floatVoltage'));
    expect(exact(bare, 'relayOffVoltage')).toBeCloseTo(set(bare, 'rechargeVoltage')!.trueValue! + 0.2, 9);
    // Float that is switched off holds no load off.
    const card = (c: Card): Card => ({
      ...c,
      parameters: c.parameters.map((p) =>
        p.role === 'floatVoltage' && p.unit !== 'choice' ? { ...p, special: [{ value: p.min, means: 'off' as const }] } : p,
      ),
    });
    const off = {
      ...mast('surplus', card),
      overrides: [{ charger: 'mast', role: 'floatVoltage' as const, value: false as const, reason: 'asked', by: 'owner', date: '2026-06-09' }],
    };
    expect(set(off, 'floatVoltage')?.off).toBeTrue();
    expect(exact(off, 'relayOffVoltage')).toBeCloseTo(set(off, 'rechargeVoltage')!.trueValue! + 0.2, 9);
    const none = mast('surplus', without('rechargeVoltage', 'floatVoltage'));
    expect(set(none, 'relayOffVoltage')?.noValue).toBe('missingFigure');
  });

  it('with a start or an alarm comes before the loads are disconnected, and goes when they come back', () => {
    const job = mast('low');
    expect(exact(job, 'relayOnVoltage')).toBeCloseTo(set(job, 'loadDisconnect')!.trueValue! + 0.3, 9);
    expect(exact(job, 'relayOffVoltage')).toBeCloseTo(set(job, 'loadReconnect')!.trueValue!, 9);
    // A charger without a load output: by the sheet, and not at all where that is silent.
    const bare = mast('low', (c) => ({ ...without('loadDisconnect', 'loadReconnect')(c), constraints: [] }));
    const figures = withFigure(withFigure(bare, 'disconnectVoltage', { target: 11.6, unit: 'V', basis: 'bank' }), 'reconnectVoltage', {
      target: 12.6,
      unit: 'V',
      basis: 'bank',
    });
    expect(exact(figures, 'relayOnVoltage')).toBeCloseTo(11.9, 9);
    expect(exact(figures, 'relayOffVoltage')).toBeCloseTo(12.6, 9);
    const silent = withFigure(withFigure(bare, 'disconnectVoltage', null), 'reconnectVoltage', null);
    expect([set(silent, 'relayOnVoltage')?.noValue, set(silent, 'relayOffVoltage')?.noValue]).toEqual(['missingFigure', 'missingFigure']);
  });
});

describe('hours before dawn', () => {
  const dawn: Parameter = { ...(volts('loadTimer', 'x') as object), role: 'loadDawnTimer', label: 'Dawn', unit: 'h', min: 0, max: 8, step: 1 } as Parameter;
  it('are not used while the loads are on at all hours', () => {
    const job = mast(undefined, (c) => ({ ...c, parameters: [...c.parameters, dawn] }));
    expect(set(job, 'loadDawnTimer')?.noValue).toBe('notUsed');
  });
});
