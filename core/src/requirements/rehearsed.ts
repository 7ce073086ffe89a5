import { cardOf, type Plan } from '../settings';
import { figureOnBank, statedFigure } from '../sheet';
import { requirementsOf } from './generate';
import type { LogCode, RehearsalCode, Requirement } from './requirement';

/** A requirement as a rehearsal judges it. */
export type RehearsedRequirement = Requirement<LogCode | RehearsalCode>;

/**
 * What must hold in a rehearsal: everything the sheet asks that a log can show, and what only a rehearsal sees whole. Whether a charger does as
 * it is told is not among it: here it always does.
 */
export function rehearsalRequirements(plan: Plan): readonly RehearsedRequirement[] {
  const { sheet, system } = plan.input;
  const plain = { question: 'specified', dwellSeconds: 60, zeroA: 0.5 } as const;
  const list: RehearsedRequirement[] = requirementsOf(plan).filter((r) => r.question === 'specified');
  list.push({
    ...plain,
    code: 'currentForTemperature',
    name: 'Current for its temperature',
    why: 'A cold or hot battery bears less; more than that ages or plates it.',
    band: {},
    unit: 'A',
    digits: 0,
  });
  if (system.bank.hasBms)
    list.push({
      ...plain,
      code: 'noDisconnect',
      name: 'The BMS stays closed',
      why: 'A BMS that opens takes the bank off the bus while sources run; loads and chargers may not bear that.',
      band: { max: 0 },
      unit: '',
      digits: 0,
    });
  if (system.loads.maxA > 0)
    list.push({
      ...plain,
      code: 'loadsStayOn',
      name: 'The loads stay on',
      why: 'Where the loads are cut off the day has asked more of the bank than it had.',
      band: { max: 0 },
      unit: 's',
      digits: 0,
    });
  const recharge = statedFigure(sheet, 'rechargeVoltage');
  const most = recharge && figureOnBank(recharge, plan.facts.shape).band.max;
  if (most !== undefined)
    for (const charger of system.chargers) {
      const card = cardOf(plan.input, charger);
      if (!card || card.recharge.rule === 'none') continue;
      list.push({
        ...plain,
        code: 'rechargeLevel',
        charger: charger.id,
        name: 'Recharge level',
        why: 'A new charge that begins too early keeps the bank high all day; cells age.',
        band: { max: most },
        unit: 'V',
        digits: 2,
      });
    }
  for (const companion of system.companions) {
    if (plan.setting(companion.id, 'fullDetectVoltage')?.value == null) continue;
    list.push({
      ...plain,
      code: 'monitorFull',
      charger: companion.id,
      name: 'The monitor shows full when it is',
      why: 'A monitor that resets too early, or never, makes every later figure of charge wrong.',
      band: { min: 95 },
      unit: '',
      digits: 0,
    });
  }
  return list;
}
