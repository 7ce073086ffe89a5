import { deviceGrid, isVoltage } from '../card';
import { plan, seeded, teasel } from '../testing/fixtures';
import { cardOf, overridesHolding, targetsOf } from './index';

const said = { reason: 'as on its sister', by: 'installer', date: '2026-06-09' };

describe('targets of somebody else', () => {
  it('are overrides only where they differ, with who said so and why', () => {
    const p = plan(teasel());
    const now = targetsOf(p, 'aft');
    expect(overridesHolding(p, 'aft', now, said)).toEqual([]);
    const float = Number(now.floatVoltage) - 0.2;
    const [one, more] = overridesHolding(p, 'aft', { ...now, floatVoltage: float }, said);
    expect([one?.charger, one?.role, one?.reason, one?.by, one?.date, more]).toEqual([
      'aft',
      'floatVoltage',
      'as on its sister',
      'installer',
      '2026-06-09',
      undefined,
    ]);
    expect(overridesHolding(p, 'nobody', now, said)).toEqual([]);
  });

  it('come out as they were shown, of every charger and every unit; a display that reads wrong shows them with its error', () => {
    const random = seeded(2);
    const job = teasel();
    const p = plan(job);
    let tried = 0;
    for (const charger of job.system.chargers) {
      const card = cardOf(p.input, charger);
      for (const parameter of card?.parameters ?? []) {
        const setting = p.setting(charger.id, parameter.role);
        if (!setting || setting.inherited || parameter.unit === 'choice') continue;
        const grid = deviceGrid(parameter, p.facts.systemVolts ?? p.facts.nominalVolts);
        const value = grid[Math.floor(random() * grid.length)];
        if (value === undefined || value === targetsOf(p, charger.id)[parameter.role]) continue;
        const overrides = overridesHolding(p, charger.id, { [parameter.role]: value }, said);
        const next = plan({ ...job, overrides: [...job.overrides.filter((o) => o.charger !== charger.id || o.role !== parameter.role), ...overrides] });
        // The forward charger’s display reads 0.2 V too high: it is set 0.2 V higher for the same volts at the battery.
        const error = charger.id === 'fore' && isVoltage(parameter.unit) ? 0.2 : 0;
        const held = targetsOf(next, charger.id)[parameter.role];
        expect(typeof held === 'number' ? Math.min(Math.abs(held - value - error), held === grid.at(-1) ? 0 : 9) : held)
          .withContext(`${charger.id} ${parameter.role} ${value} ${parameter.unit}`)
          .toBeCloseTo(0, 6);
        tried++;
      }
    }
    expect(tried).toBeGreaterThan(20);
  });
});
