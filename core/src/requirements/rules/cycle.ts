import { chargersWithCards, movesWithTemperature, ofCharger, onBank, type Rule } from '../context';
import type { Requirement } from '../requirement';

/** When a new charge begins, and that nobody equalises what must not be. */
export const cycle: Rule = (plan) => {
  const most = onBank(plan, 'rechargeVoltage')?.band.max;
  const noEqualise = plan.input.sheet.figures.equaliseVoltage?.state === 'notPermitted' || plan.input.sheet.figures.equaliseInterval?.state === 'notPermitted';
  const top = onBank(plan, 'absorbVoltage')?.band.max;
  const interval = onBank(plan, 'equaliseInterval');
  const days = interval?.band.max ?? interval?.target;
  const level = onBank(plan, 'equaliseVoltage');
  const least = level?.band.min ?? level?.target;
  const time = onBank(plan, 'equaliseTime');
  const held = time?.band.min ?? time?.target;
  const due: Requirement[] =
    days === undefined || least === undefined
      ? []
      : [
          {
            code: 'equaliseDue',
            question: 'specified',
            name: 'Equalise on schedule',
            why: 'Cells that are not brought level in time drift apart, and the weakest ages first.',
            seenBy: ['log'],
            band: { max: days },
            unit: 'd',
            digits: 0,
            dwellSeconds: 0,
            zeroA: 0.5,
            levelV: least,
            ...(held === undefined ? {} : { heldSeconds: held }),
            ...movesWithTemperature(plan),
          },
        ];
  const ofEach = chargersWithCards(plan).flatMap(({ charger, card }) => {
    const list: Requirement[] = [];
    if (most !== undefined && card.recharge.rule !== 'none')
      list.push({
        ...ofCharger(charger, card),
        question: 'specified',
        code: 'rechargeLevel',
        name: 'Recharge level',
        why: 'A new charge that begins too early holds the bank high all day; cells age.',
        seenBy: ['log', 'test', 'rehearsal'],
        band: { max: most },
      });
    if (noEqualise && top !== undefined)
      list.push({
        ...ofCharger(charger, card),
        question: 'specified',
        code: 'noEqualise',
        name: 'No equalise',
        why: 'Equalising overcharges on purpose; this maker does not permit it.',
        seenBy: ['log'],
        band: { max: top },
        dwellSeconds: 300,
      });
    return list;
  });
  return [...due, ...ofEach];
};
