import type { Card } from '../../card';
import type { Band } from '../../quantity';
import { chargersWithCards, movesWithTemperature, ofCharger, ownSetting, toldOn, type Rule } from '../context';
import type { Requirement } from '../requirement';

/** What a charger may be off by: its regulation and half of its step. */
const tolerance = (volts: number, card: Card): number => (volts * card.regulationPercent) / 100 + card.display.stepV / 2;

/** The band around what a keyed voltage makes. */
export const bandOf = (volts: number, card: Card): Band => ({ min: volts - tolerance(volts, card), max: volts + tolerance(volts, card) });

/** Amps a charger may be above its limit: a twentieth of it, or half an amp, for ripple and its own shunt. */
const currentSlack = (amps: number): number => Math.max(0.5, amps * 0.05);
/** Degrees a cutoff may be off by beside what the sensor's own place does. */
const cutoffSlackC = 1;

/** Does each charger do as it was told. */
export const programmed: Rule = (plan) =>
  chargersWithCards(plan).flatMap(({ charger, card }) => {
    const common = { ...ofCharger(charger, card), question: 'programmed' } as const;
    const list: Requirement[] = [];
    for (const [code, role, name] of [
      ['absorbAsProgrammed', 'absorbVoltage', 'Absorb as programmed'],
      ['floatAsProgrammed', 'floatVoltage', 'Float as programmed'],
    ] as const) {
      const setting = ownSetting(plan, charger.id, role);
      const told = setting && !setting.off ? toldOn(setting, (volts) => bandOf(volts, card)) : null;
      if (!told) continue;
      list.push({
        ...common,
        ...movesWithTemperature(plan),
        ...told,
        code,
        name,
        why: 'A charger that does not hold what it was set to has a fault, an unsaved value or a wrong display.',
        seenBy: ['log', 'test'],
      });
    }
    const recharge = ownSetting(plan, charger.id, 'rechargeVoltage');
    const from = recharge && !recharge.off && card.recharge.rule !== 'none' ? toldOn(recharge, (volts) => bandOf(volts, card)) : null;
    if (from)
      list.push({
        ...common,
        ...from,
        code: 'rechargeAsProgrammed',
        name: 'Recharge as programmed',
        why: 'Where the new charge begins elsewhere than was entered, another rule of the charger is at work.',
        seenBy: ['log', 'test'],
      });
    const limit = ownSetting(plan, charger.id, 'chargeCurrentLimit');
    if (limit?.trueValue != null && !limit.off) {
      // While the target has not been keyed, what stands on the device is what it was told.
      const told = Math.max(limit.trueValue, limit.presentTrue ?? 0);
      list.push({
        ...common,
        code: 'currentAsProgrammed',
        name: 'Current as programmed',
        why: 'More current than was entered overloads its cable, or was never saved.',
        seenBy: ['log', 'test'],
        unit: 'A',
        digits: 1,
        band: { max: told + currentSlack(told) },
        toldA: told,
        ...(limit.presentTrue === undefined ? { notRead: true as const } : {}),
      });
    }
    const lead = charger.sensor.offsetC;
    for (const [code, role, name] of [
      ['cutoffAsProgrammed', 'lowTempCutoff', 'Cutoff as programmed'],
      ['resumeAsProgrammed', 'lowTempResume', 'Resume as programmed'],
    ] as const) {
      const setting = ownSetting(plan, charger.id, role);
      const slack = charger.sensor.errorC + cutoffSlackC;
      const within = (celsius: number): Band => ({ min: celsius - slack - Math.max(0, lead), max: celsius + slack });
      const told = setting && !setting.off && charger.sensor.fitted ? toldOn(setting, within) : null;
      if (!told) continue;
      list.push({
        ...common,
        code,
        name,
        why: 'A cutoff that acts elsewhere has a sensor that reads something else than the battery, or no sensor at all.',
        seenBy: ['test'],
        unit: '°C',
        digits: 1,
        ...told,
      });
    }
    return list;
  });
