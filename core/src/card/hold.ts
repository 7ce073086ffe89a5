import { formatQuantity, roundToStep, tidy } from '../quantity';
import { isKnown, parameterFor, type Card, type NumberParameter } from './card';
import { deviceDecimals, deviceRange, deviceUnitLabel, fromDevice, rangeText, specialAt, specialWords, toDevice } from './convention';
import { roleInfo, type Role } from './role';
import type { DeviceSetting } from './unit';

/** How a charger would hold a wanted value. */
export interface Held {
  /** What stands on its display, in its own unit; null where it refuses or has no such setting. */
  readonly value: number | null;
  /** What that makes at the bank, in the core's unit. */
  readonly makes: number | null;
  /** What happens on the way, one sentence each. */
  readonly steps: readonly string[];
}

const show = (parameter: NumberParameter, value: number): string => formatQuantity(value, deviceUnitLabel(parameter), deviceDecimals(parameter)).trim();

/**
 * Tries a wanted value on a card: its own unit and sign, range, step, special values, wrap-around, and constraints against what else stands on it.
 * Nothing is aimed or corrected here; that is the settings' work.
 *
 * @param wanted at the bank, in the core's unit: V, A, s, °C, V/°C per cell
 * @param others device values of other settings, for the constraints
 * @example holdValue(d30, 'equaliseVoltage', 28.1, bank24, { absorbVoltage: 28.1 }) // refused: at least 28.3 V
 */
export function holdValue(card: Card, role: Role, wanted: number, at: DeviceSetting, others: Readonly<Partial<Record<Role, number>>> = {}): Held {
  const parameter = parameterFor(card, role);
  if (!parameter) return { value: null, makes: null, steps: [`${card.model} has no setting for ${roleInfo[role].name}.`] };
  if (parameter.unit === 'choice')
    return { value: null, makes: null, steps: [`${parameter.label} is a choice: ${parameter.options.map((o) => `“${o.value}”`).join(', ')}.`] };
  const steps: string[] = [];
  const device = tidy(toDevice(parameter, wanted, at));
  if (parameter.unit !== roleInfo[role].unit) steps.push(`In its own terms ${show(parameter, device)}.`);
  const { min, max } = deviceRange(parameter, at.systemVolts);
  const special = specialAt(parameter, device);
  let held = special ? device : roundToStep(Math.min(max, Math.max(min, device)), parameter.step, 'nearest', min);
  if (held > max + 1e-9) held = tidy(held - parameter.step);
  // Never onto a number that means something else: the next one that means itself.
  if (!special && specialAt(parameter, held)) held = tidy(held + (held - parameter.step < min - 1e-9 ? parameter.step : -parameter.step));
  if (special) steps.push(`${show(parameter, device)} means ${specialWords[special.means]} here.`);
  else if (device < min - 1e-9 || device > max + 1e-9) {
    steps.push(`It takes ${rangeText(parameter, at.systemVolts)}: the nearest is ${show(parameter, held)}.`);
    if (device < min && parameter.wraps) steps.push(`One step below ${show(parameter, min)} jumps to ${show(parameter, max)}: stop at the end and look.`);
  } else if (!isKnown(parameter, 'step')) steps.push('Its steps are not known: enter this, or the nearest below that it takes.');
  else if (Math.abs(held - device) > 1e-9) steps.push(`Its steps are ${show(parameter, parameter.step)}: held as ${show(parameter, held)}.`);
  else steps.push(`Held as ${show(parameter, held)}.`);
  if (parameter.wraps && Math.abs(held - min) < 1e-9 && device >= min) steps.push(`It is at its lower end: one step down jumps to ${show(parameter, max)}.`);

  for (const c of card.constraints) {
    const [mine, other] = c.parameter === role ? [true, others[c.other]] : c.other === role ? [false, others[c.parameter]] : [true, undefined];
    if (other === undefined) continue;
    const [own, against] = mine ? [held, other] : [other, held];
    const kept = c.relation === 'atLeast' ? own >= against + c.gap - 1e-9 : own <= against - c.gap + 1e-9;
    if (kept) continue;
    const word = c.relation === 'atLeast' ? 'above' : 'below';
    return {
      value: null,
      makes: null,
      steps: [
        ...steps,
        `Refused: ${roleInfo[c.parameter].name} must stay ${c.gap === 0 ? `at or ${word}` : `at least ${show(parameter, c.gap)} ${word}`} ${roleInfo[c.other].name}.`,
      ],
    };
  }
  return { value: held, makes: special?.means === 'off' ? 0 : fromDevice(parameter, held, at), steps };
}
