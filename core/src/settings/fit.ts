import { deviceDecimals, deviceGrid, deviceRange, deviceUnitLabel, fromDevice, roleInfo, toDevice, type NumberParameter } from '../card';
import { clamp, contains, expandedUncertainty, formatQuantity, inset, tidy, type Band, type BudgetLine, type Direction } from '../quantity';
import { displayErrorAt, displayErrorAtTrue, indistinguishable, predictionBudget } from '../system';
import type { RoleContext, Wanted } from './context';
import { provingMeter } from './input';
import type { Setting, Step } from './setting';

/** Roles whose figure is regulated on the charger's own voltage measurement, so that its display error applies. */
const regulated = new Set(['absorbVoltage', 'floatVoltage', 'rechargeVoltage', 'equaliseVoltage', 'loadDisconnect', 'loadReconnect']);

/** Display error that is worth correcting at a true voltage, V: 0 when meter and display agree as far as one can tell. */
export function correctionAt(context: Pick<RoleContext, 'input' | 'charger' | 'card'>, trueV: number): number {
  const { input, charger, card } = context;
  if (charger.displayReadings.length === 0) return 0;
  const error = displayErrorAtTrue(charger.displayReadings, trueV);
  return Math.abs(error) < indistinguishable(provingMeter(input), card.display.stepV, trueV, input.coverage) ? 0 : error;
}

/** From a displayed value to the true quantity at the battery: display error off, unit and convention undone. */
export function trueFromDisplay(context: Pick<RoleContext, 'input' | 'charger' | 'card' | 'device'>, parameter: NumberParameter, value: number): number {
  const plain = fromDevice(parameter, value, context.device);
  if (!regulated.has(parameter.role) || parameter.unit === 'V below float' || context.charger.displayReadings.length === 0) return plain;
  const guess = plain - displayErrorAt(context.charger.displayReadings, plain);
  return correctionAt(context, guess) === 0 ? plain : guess;
}

/**
 * Chooses the device value for a wanted quantity, in this order: 1. inside the band by the inset where the band has room;
 * 2. the safe side; 3. nearest to the aim. When nothing the device can hold lies in the band, the value closest to the band wins.
 *
 * @param candidates device values with the true quantity each makes
 */
export function chooseOnGrid(
  candidates: readonly { device: number; real: number }[],
  aim: number,
  band: Band | null,
  by: number,
  prefer: Direction,
): { device: number; real: number } | null {
  if (candidates.length === 0) return null;
  const eps = 1e-9;
  const pick = (list: typeof candidates, target: number, way: Direction): { device: number; real: number } | null => {
    const distance = (c: { real: number }): number => Math.abs(c.real - target);
    const safe = way === 'nearest' ? list : list.filter((c) => (way === 'down' ? c.real <= target + eps : c.real >= target - eps));
    const from = safe.length > 0 ? safe : list;
    return from.reduce<{ device: number; real: number } | null>(
      (best, c) => (best === null || distance(c) < distance(best) - eps || (Math.abs(distance(c) - distance(best)) <= eps && c.real < best.real) ? c : best),
      null,
    );
  };
  if (band === null) return pick(candidates, aim, prefer);
  const room = inset(band, by);
  const tiers = [room, band].map((tier) => (tier === null ? [] : candidates.filter((c) => contains(tier, c.real))));
  const tier = tiers.find((list) => list.length > 0);
  if (tier) return pick(tier, aim, prefer);
  const edge = clamp(band, aim);
  return pick(candidates, edge, band.max !== undefined && prefer !== 'up' && edge === band.max ? 'down' : 'nearest');
}

const roundingWords: Readonly<Record<Direction, string>> = { down: 'rounded down', up: 'rounded up', nearest: 'to the nearest' };

/** Fits a wanted number to what the charger can hold: display error, unit, range and step, each as a line of the sum. */
export function fitNumber(
  context: RoleContext,
  parameter: NumberParameter,
  wanted: Wanted & { kind: 'number' },
): Omit<Setting, 'present' | 'presentTrue' | 'override'> {
  const { input, card, device } = context;
  const info = roleInfo[parameter.role];
  const digits = deviceDecimals(parameter);
  const label = deviceUnitLabel(parameter);
  const correction = regulated.has(parameter.role) && parameter.unit !== 'V below float' ? correctionAt(context, wanted.exact) : 0;
  const onDisplay = toDevice(parameter, wanted.exact + correction, device);
  const steps: Step[] = [...wanted.steps];
  if (correction !== 0) {
    steps.push({
      kind: 'change',
      words: `Display reads ${formatQuantity(Math.abs(correction), 'V', 2)} ${correction > 0 ? 'high' : 'low'} (${provingMeter(input).volts.percent} % meter)`,
      value: correction,
      unit: 'V',
      digits: 2,
      source: 'Display against meter, at the charger’s terminals',
    });
  }
  const systemVolts = device.systemVolts;
  const offGrid = new Set(parameter.special.filter((s) => s.means === 'off').map((s) => s.value));
  const candidates = deviceGrid(parameter, systemVolts)
    .filter((value) => !offGrid.has(value))
    .map((value) => ({ device: value, real: trueFromDisplay(context, parameter, value) }));
  const chosen = chooseOnGrid(candidates, wanted.exact, wanted.asGiven ? null : wanted.band, wanted.inset, wanted.prefer);
  const base = {
    charger: context.charger.id,
    role: parameter.role,
    label: parameter.label,
    menu: parameter.menu,
    unit: label,
    digits,
    off: false,
    band: wanted.band,
  };
  if (!chosen)
    return {
      ...base,
      exact: wanted.exact,
      value: null,
      trueValue: null,
      uncertainty: null,
      budget: [],
      within: 'noBand',
      noValue: 'outOfReach',
      derivation: steps,
    };
  const converted = correction !== 0 || label !== info.unit;
  if (converted) steps.push({ kind: 'subtotal', words: 'Wanted on the display', value: onDisplay, unit: label, digits: Math.min(3, digits + 1) });
  const moved = tidy(chosen.device - onDisplay);
  const { min, max } = deviceRange(parameter, systemVolts);
  const clipped = onDisplay > max + 1e-9 || onDisplay < min - 1e-9;
  steps.push({
    kind: 'change',
    words: clipped
      ? `The charger only takes ${formatQuantity(min, label, digits)} to ${formatQuantity(max, label, digits)}`
      : `Device step ${formatQuantity(parameter.step, label, digits)}, ${Math.abs(moved) < 1e-6 ? 'already on it' : moved > 0 && wanted.prefer !== 'up' ? 'to the next inside the band' : roundingWords[wanted.prefer]}`,
    value: moved,
    unit: label,
    digits: Math.min(3, digits + 1),
  });
  steps.push({ kind: 'set', words: 'Set', value: chosen.device, unit: label, digits });
  const budget: BudgetLine[] = regulated.has(parameter.role) ? predictionBudget(provingMeter(input), card.display.stepV, chosen.real) : [];
  const uncertainty = budget.length > 0 ? expandedUncertainty(budget, input.coverage) : null;
  if (uncertainty !== null) steps.push({ kind: 'after', words: 'At the terminals', value: chosen.real, unit: 'V', digits: 2, uncertainty });
  else if (label !== info.unit && info.unit !== 's')
    steps.push({
      kind: 'after',
      words: 'At the battery',
      value: chosen.real * (info.unit === 'V/°C per cell' ? 1000 : 1),
      unit: info.unit === 'V/°C per cell' ? 'mV/°C per cell' : info.unit,
      digits: 2,
    });
  return {
    ...base,
    exact: wanted.exact,
    value: chosen.device,
    trueValue: chosen.real,
    uncertainty,
    budget,
    within: wanted.band === null ? 'noBand' : contains(wanted.band, chosen.real) ? 'inside' : 'outside',
    derivation: steps,
  };
}
