import { chargersWithCards, type Rule } from '../context';
import type { Requirement } from '../requirement';

/** What chargers, monitor, BMS and loads have to do together. */
export const together: Rule = (plan) => {
  const { system, tolerance } = plan.input;
  const plain = { question: 'specified', dwellSeconds: 60, zeroA: 0.5 } as const;
  const list: Requirement[] = [];
  const absorbing = chargersWithCards(plan).filter(({ charger }) => plan.setting(charger.id, 'absorbVoltage')?.trueValue != null);
  if (absorbing.length > 1)
    list.push({
      ...plain,
      code: 'chargersAgree',
      name: 'Chargers agree',
      why: 'Of two chargers with different levels the higher one works alone, and the lower one drops to float early.',
      seenBy: ['log', 'test'],
      band: { max: Math.max(0.05, tolerance.voltsPerCell * plan.facts.cells) },
      unit: 'V',
      digits: 2,
    });
  if (system.bank.hasBms)
    list.push({
      ...plain,
      code: 'noDisconnect',
      name: 'The BMS stays closed',
      why: 'A BMS that opens takes the bank off the bus while sources run; loads and chargers may not survive that.',
      seenBy: ['log', 'rehearsal'],
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
      seenBy: ['rehearsal'],
      band: { max: 0 },
      unit: 's',
      digits: 0,
    });
  for (const companion of system.companions) {
    if (plan.setting(companion.id, 'fullDetectVoltage')?.value == null) continue;
    list.push({
      ...plain,
      code: 'monitorFull',
      charger: companion.id,
      name: 'The monitor shows full when it is',
      why: 'A monitor that resets too early, or never, makes every later figure of charge wrong.',
      seenBy: ['log', 'test', 'rehearsal'],
      band: { min: 95 },
      unit: '%',
      digits: 0,
    });
  }
  return list;
};
