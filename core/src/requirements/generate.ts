import { makeBand } from '../quantity';
import { cardOf, referenceC, type Plan } from '../settings';
import { figureOnBank, statedFigure } from '../sheet';
import type { Requirement } from './requirement';

/** Below this part of its rating a charger's current counts as none. */
const zeroFraction = 0.01;

/** Generates what must hold from the pinned sheet, the bank and the settings. Figures the sheet lacks make no requirement. */
export function requirementsOf(plan: Plan): readonly Requirement[] {
  const { sheet } = plan.input;
  const onBank = (key: 'absorbVoltage' | 'floatVoltage' | 'taperCurrent' | 'equaliseVoltage' | 'absorbTime') => {
    const figure = statedFigure(sheet, key);
    return figure && figureOnBank(figure, plan.facts.shape);
  };
  const perCell = statedFigure(sheet, 'compensationSlope');
  const slope = perCell && figureOnBank(perCell, plan.facts.shape).target;
  const compensation = slope ? { compensation: { slope, referenceC: referenceC(plan) } } : {};
  const list: Requirement[] = [];

  const most = onBank('equaliseVoltage')?.band.max ?? onBank('absorbVoltage')?.band.max;
  if (most !== undefined) {
    list.push({
      code: 'neverAboveMaximum',
      question: 'specified',
      name: 'Never above the maximum',
      why: 'Voltage above the sheet’s maximum ages cells and can open the BMS.',
      band: { max: most },
      unit: 'V',
      digits: 2,
      dwellSeconds: 30,
      zeroA: 0,
      ...compensation,
    });
  }
  const least = statedFigure(sheet, 'chargeTemperature')?.min;
  const time = onBank('absorbTime');
  const seconds = time?.band.min ?? time?.target;
  const taper = onBank('taperCurrent');
  const taperA = taper?.band.max ?? taper?.target;

  for (const charger of plan.input.system.chargers) {
    const card = cardOf(plan.input, charger);
    if (!card) continue;
    const zeroA = Math.max(0.3, card.ratings.outputA * zeroFraction);
    const common = { charger: charger.id, digits: 2, unit: 'V', dwellSeconds: 60, zeroA } as const;
    const absorb = plan.setting(charger.id, 'absorbVoltage');
    const float = plan.setting(charger.id, 'floatVoltage');
    if (absorb?.band)
      list.push({
        ...common,
        ...compensation,
        code: 'absorbLevel',
        question: 'specified',
        name: 'Absorb level',
        why: 'Too low never fills or balances the bank; too high ages it.',
        band: absorb.band,
      });
    if (seconds !== undefined || taperA !== undefined)
      list.push({
        ...common,
        code: 'absorbCompleted',
        question: 'specified',
        name: 'Absorb completed',
        why: 'Only time at voltage or a fallen current shows that the bank was filled; a touch of the setpoint does not.',
        unit: 's',
        digits: 0,
        band: makeBand(seconds, undefined),
        ...(taperA === undefined ? {} : { taperA }),
      });
    if (float?.band)
      list.push({
        ...common,
        ...compensation,
        code: 'floatLevel',
        question: 'specified',
        name: 'Float level',
        why: 'Held above the band all day, cells age; below it, the bank drains.',
        band: float.band,
      });
    if (least !== undefined)
      list.push({
        ...common,
        code: 'noChargeBelowMinimum',
        question: 'specified',
        name: 'No charge when cold',
        why: 'Cells charged too cold are harmed for good.',
        unit: '°C',
        digits: 1,
        band: { min: least },
      });
    const tolerance = (volts: number): number => (volts * card.regulationPercent) / 100 + card.display.stepV / 2;
    for (const [code, setting, name] of [
      ['absorbAsProgrammed', absorb, 'Absorb as programmed'],
      ['floatAsProgrammed', float, 'Float as programmed'],
    ] as const) {
      if (setting?.trueValue == null || setting.off) continue;
      const by = tolerance(setting.trueValue);
      list.push({
        ...common,
        ...compensation,
        code,
        question: 'programmed',
        name,
        why: 'A charger that does not hold what it was told has a fault, an unsaved value or a wrong display.',
        band: { min: setting.trueValue - by, max: setting.trueValue + by },
      });
    }
  }
  return list;
}
