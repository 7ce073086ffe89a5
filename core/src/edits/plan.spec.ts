import { deviceRange, parameterFor, type Role } from '../card';
import { plan, wholeTeasel } from '../testing/fixtures';
import { cardNamed, skarrow, tumbler } from '../testing/findingCases';
import { devicesOf } from '../settings';
import type { DeviceValues } from '../card';
import { targetsOf, valuesOn } from '../settings';
import { editPlan } from './index';

const launch = plan(wholeTeasel());
const rolesOf = (found: ReturnType<typeof editPlan>): Role[] => (found?.steps ?? []).map((s) => s.role);
const keyAll = (start: DeviceValues, found: NonNullable<ReturnType<typeof editPlan>>): Record<string, number | string> =>
  found.steps.reduce<Record<string, number | string>>((now, s) => ({ ...now, [s.role]: s.to }), { ...start });

describe('the edit plan of a real card', () => {
  it('from the factory: the battery type first, equalise off before its voltage, absorb before equalise', () => {
    const found = editPlan(launch, 'dcdc', {
      from: { batteryType: 'wet', absorbVoltage: 28.8, floatVoltage: 27, equaliseVoltage: 30, equaliseEnabled: 'by hand' },
    });
    const roles = rolesOf(found);
    expect(roles[0]).toBe('batteryType');
    expect(roles.indexOf('equaliseEnabled')).toBeLessThan(roles.indexOf('equaliseVoltage'));
    expect(roles.indexOf('absorbVoltage')).toBeLessThan(roles.indexOf('equaliseVoltage'));
    expect(found?.blocked).toBeUndefined();
  });

  for (const [name, job] of [
    ['launch', wholeTeasel()],
    ['hut', skarrow()],
    ['stage', tumbler()],
  ] as const)
    for (const device of devicesOf(job))
      it(`${name}, ${device.name}: every state on the way is one the device accepts, and all targets are reached`, () => {
        const p = plan(job);
        const found = editPlan(p, device.id)!;
        expect(found.blocked).toBeUndefined();
        const card = job.cards.find((c) => c.id === device.card)!;
        let now: Record<string, number | string> = { ...valuesOn(p, device.id) };
        for (const step of found.steps) {
          now = { ...now, [step.role]: step.to };
          const parameter = parameterFor(card, step.role)!;
          if (parameter.unit === 'choice' || typeof step.to !== 'number') continue;
          const { min, max } = deviceRange(parameter, p.facts.systemVolts!);
          const special = parameter.special.some((s) => s.value === step.to);
          expect(special || (step.to >= min - 1e-9 && step.to <= max + 1e-9)).toBeTrue();
          for (const c of card.constraints) {
            const [a, b] = [now[c.parameter], now[c.other]];
            if ((c.parameter !== step.role && c.other !== step.role) || typeof a !== 'number' || typeof b !== 'number') continue;
            expect(c.relation === 'atLeast' ? a >= b + c.gap - 1e-9 : a <= b - c.gap + 1e-9)
              .withContext(`${step.label} ${String(step.to)}: ${c.parameter} ${a}, ${c.other} ${b}`)
              .toBeTrue();
          }
        }
        for (const [role, value] of Object.entries(targetsOf(p, device.id))) expect(now[role]).withContext(role).toBe(value);
      });

  it('puts a device back as it was found', () => {
    const found = wholeTeasel().system.chargers.find((c) => c.id === 'aft')!.present;
    const back = editPlan(launch, 'aft', { from: targetsOf(launch, 'aft'), to: found })!;
    const end = keyAll(targetsOf(launch, 'aft'), back);
    for (const [role, value] of Object.entries(found)) expect(end[role]).withContext(role).toBe(value);
    expect(rolesOf(back)).toContain('floatVoltage');
    expect(rolesOf(back)).not.toContain('equaliseEnabled');
  });

  it('follows a preset through: what it overwrites is keyed after it, and it is refused live when it passes the sheet’s most', () => {
    const hut = plan(skarrow());
    const before: DeviceValues = { batteryType: 'B', absorbVoltage: 28.8, floatVoltage: 27.2, compensationSlope: -4 };
    const found = editPlan(hut, 'leader', { from: before })!;
    expect(found.steps[0]?.role).toBe('batteryType');
    expect(rolesOf(found)).toContain('compensationSlope');
    expect(found.steps[0]?.notes.join(' ')).toContain('overwrites');
    const live = editPlan(launch, 'dcdc', { from: { batteryType: 'wet' }, live: true })!;
    expect(live.blocked?.why).toContain('above the sheet’s most');
    expect(live.blocked?.ways[0]).toContain('array breaker');
  });

  it('says at the step that a value stands beside a wrap, and where it is hidden', () => {
    const alternator = editPlan(launch, 'alternator')!;
    expect(alternator.steps.find((s) => s.role === 'absorbTime')?.notes.join(' ')).toContain('it jumps to 720');
    const fore = editPlan(launch, 'fore')!;
    expect(fore.steps.find((s) => s.role === 'rechargeVoltage')?.notes.join(' ')).toContain('expert level');
  });

  it('names the rule and the way out when the values wanted do not go together', () => {
    const job = wholeTeasel();
    const p = plan({ ...job, overrides: [{ charger: 'dcdc', role: 'equaliseVoltage', value: 28.1, reason: 'asked', by: 'owner', date: '2026-06-09' }] });
    const found = editPlan(p, 'dcdc')!;
    expect(found.blocked?.why).toContain('do not go together');
    expect(found.blocked?.why).toContain('0.2');
    expect(found.blocked?.ways.join(' ')).toContain('28.3');
  });

  it('keys nothing that a follower inherits', () => {
    const hut = plan(skarrow());
    expect(rolesOf(editPlan(hut, 'follower'))).not.toContain('absorbVoltage');
    expect(rolesOf(editPlan(hut, 'follower'))).toContain('chargeCurrentLimit');
  });

  it('knows nothing of a device without a card', () => {
    expect(editPlan(launch, 'nobody')).toBeNull();
    expect(editPlan(plan({ ...wholeTeasel(), cards: [cardNamed('varrow-s45')] }), 'dcdc')).toBeNull();
  });
});
