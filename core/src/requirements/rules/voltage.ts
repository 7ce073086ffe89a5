import { makeBand } from '../../quantity';
import { chargersWithCards, movesWithTemperature, ofCharger, onBank, taperOnBank, type Rule } from '../context';
import type { Requirement } from '../requirement';

/** The highest voltage of the bank. */
export const maximum: Rule = (plan) => {
  const most = onBank(plan, 'equaliseVoltage')?.band.max ?? onBank(plan, 'absorbVoltage')?.band.max;
  if (most === undefined) return [];
  return [
    {
      code: 'neverAboveMaximum',
      question: 'specified',
      name: 'Never above the maximum',
      why: 'Voltage above the sheet’s maximum ages cells and can open the BMS.',
      seenBy: ['log', 'rehearsal'],
      band: { max: most },
      unit: 'V',
      digits: 2,
      dwellSeconds: 30,
      zeroA: 0,
      ...movesWithTemperature(plan),
    },
  ];
};

/** Held above rest for longer than this after absorb, a bank is floated, s. */
const mostHeldS = 1800;

/** Levels and completion of absorb and float. */
export const levels: Rule = (plan) => {
  const time = onBank(plan, 'absorbTime');
  const seconds = time?.band.min ?? time?.target;
  const taperA = taperOnBank(plan);
  return chargersWithCards(plan).flatMap(({ charger, card }) => {
    const common = { ...ofCharger(charger, card), ...movesWithTemperature(plan), question: 'specified' } as const;
    const absorb = plan.setting(charger.id, 'absorbVoltage');
    const float = plan.setting(charger.id, 'floatVoltage');
    const list: Requirement[] = [];
    if (absorb?.band)
      list.push({
        ...common,
        code: 'absorbLevel',
        name: 'Absorb level',
        why: 'Too low never fills or balances the bank; too high ages it.',
        seenBy: ['log', 'test', 'rehearsal'],
        band: absorb.band,
      });
    if (seconds !== undefined || taperA !== undefined)
      list.push({
        ...ofCharger(charger, card),
        question: 'specified',
        code: 'absorbCompleted',
        name: 'Absorb completed',
        why: 'Only time at voltage or a fallen current shows that the bank was filled; a touch of the setpoint does not.',
        seenBy: ['log', 'test', 'rehearsal'],
        unit: 's',
        digits: 0,
        band: makeBand(seconds, undefined),
        ...(taperA === undefined ? {} : { taperA }),
        ...(absorb?.band?.min === undefined ? {} : { levelV: absorb.band.min }),
      });
    if (time?.band.max !== undefined)
      list.push({
        ...ofCharger(charger, card),
        question: 'specified',
        code: 'longestAbsorb',
        name: 'Absorb no longer than permitted',
        why: 'Held at absorb for longer than the maker permits, cells age and lose water.',
        seenBy: ['log'],
        unit: 's',
        digits: 0,
        band: { max: time.band.max },
        ...(absorb?.band?.min === undefined ? {} : { levelV: absorb.band.min }),
      });
    // A limit that nobody published is none to hold a level against: where no float is permitted, what counts is that none is held.
    if (plan.input.sheet.figures.floatVoltage?.state === 'notPermitted') {
      if (float?.band?.max !== undefined)
        list.push({
          ...ofCharger(charger, card),
          question: 'specified',
          code: 'noFloat',
          name: 'No float is held',
          why: 'Cells that are held full age; this maker lets them rest.',
          seenBy: ['log'],
          unit: 's',
          digits: 0,
          band: { max: mostHeldS },
          levelV: float.band.max,
        });
    } else if (float?.band)
      list.push({
        ...common,
        code: 'floatLevel',
        name: 'Float level',
        why: 'Held above the band all day, cells age; below it, the bank drains.',
        seenBy: ['log', 'test', 'rehearsal'],
        band: float.band,
      });
    return list;
  });
};
