import {
  deviceDecimals,
  deviceRange,
  deviceUnitLabel,
  fromDevice,
  hasTrait,
  isKnown,
  isVoltage,
  knownRange,
  rangeText,
  roleInfo,
  shownIn,
  specialAt,
  toDevice,
  unitInfo,
  type Constraint,
  type NumberParameter,
  type Role,
} from '../card';
import { clamp, contains, expandedUncertainty, formatQuantity, inset, roundToStep, tidy, type Band, type BudgetLine, type Direction } from '../quantity';
import { displayErrorAt, displayErrorAtTrue, indistinguishable, predictionBudget, uncomparedBudget } from '../system';
import type { RoleContext, Wanted } from './context';
import { provingMeter } from './input';
import type { Setting, Step } from './setting';

/** Whether the error of the display is in what a setting shows: it is a voltage of its own, regulated on what the charger measures. */
const showsError = ({ role, unit }: NumberParameter): boolean => hasTrait(role, 'regulated') && isVoltage(unit);

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
  if (!showsError(parameter) || context.charger.displayReadings.length === 0) return plain;
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

/**
 * The device values among which the choice must fall: a few steps around the aim and around where the aim would be inside the band, and both ends.
 * The choice is always nearest to one of these, so the rest of the range need not be looked at.
 */
function nearbyValues(context: RoleContext, parameter: NumberParameter, wanted: Wanted & { kind: 'number' }, correction: number): readonly number[] {
  const { min, max } = deviceRange(parameter, context.device.systemVolts);
  const last = Math.floor((max - min) / parameter.step + 1e-9);
  const room = wanted.band && inset(wanted.band, wanted.inset);
  // Where an end may mean something else, what stands beside it too.
  const ends = parameter.special.length > 0 && last > 1 ? [0, 1, last - 1, last] : [0, last];
  const indices: number[] = [...new Set(ends)];
  const around = (aim: number): void => {
    const at = Math.round((toDevice(parameter, aim + correction, context.device) - min) / parameter.step);
    for (let i = Math.max(0, at - 4); i <= Math.min(last, at + 4); i++) if (!indices.includes(i)) indices.push(i);
  };
  around(wanted.exact);
  if (wanted.band) around(clamp(wanted.band, wanted.exact));
  if (room) around(clamp(room, wanted.exact));
  return indices.sort((a, b) => a - b).map((i) => tidy(min + i * parameter.step));
}

/** The first rule of the card that a value would break against what has been worked out so far; null when it breaks none. */
function brokenBy({ card, done }: RoleContext, parameter: NumberParameter, value: number): Constraint | null {
  return (
    card.constraints.find((c) => {
      const otherRole = c.parameter === parameter.role ? c.other : c.other === parameter.role ? c.parameter : null;
      const other = otherRole && done.get(otherRole);
      if (!other || typeof other.value !== 'number' || other.off || other.counts !== parameter.unit) return false;
      const [own, against] = c.parameter === parameter.role ? [value, other.value] : [other.value, value];
      return c.relation === 'atLeast' ? own < against + c.gap - 1e-9 : own > against - c.gap + 1e-9;
    }) ?? null
  );
}

/** Values that break no rule: those nearby, and those next to the value that the broken rule allows. */
function acceptedValues(
  context: RoleContext,
  parameter: NumberParameter,
  nearby: readonly { device: number; real: number }[],
  rule: Constraint,
): { device: number; real: number }[] {
  const { min, max } = deviceRange(parameter, context.device.systemVolts);
  const otherRole = rule.parameter === parameter.role ? rule.other : rule.parameter;
  const other = context.done.get(otherRole)?.value;
  const sign = (rule.relation === 'atLeast') === (rule.parameter === parameter.role) ? 1 : -1;
  const edge = typeof other === 'number' ? other + sign * rule.gap : min;
  const onGrid = roundToStep(edge, parameter.step, sign > 0 ? 'up' : 'down', min);
  const next = [onGrid, tidy(onGrid + sign * parameter.step)].filter((v) => v >= min - 1e-9 && v <= max + 1e-9 && !specialAt(parameter, v));
  return [...nearby, ...next.map((device) => ({ device, real: trueFromDisplay(context, parameter, device) }))].filter(
    (v) => brokenBy(context, parameter, v.device) === null,
  );
}

/** What a deviation may come to unremarked where no band judges it, in the core's unit. */
function toleranceOf(context: RoleContext, role: Role, exact: number): number | null {
  switch (roleInfo[role].unit) {
    case 'V':
      return context.input.tolerance.voltsPerCell * context.facts.cells;
    case 'A':
    case 's':
    case 'd':
    case 'Ah':
      return 0.15 * Math.abs(exact);
    case '°C':
    case '°C difference':
      return 3;
    case 'V/°C per cell':
      return 0.0005;
    default:
      return null;
  }
}

const roundingWords: Readonly<Record<Direction, string>> = { down: 'rounded down', up: 'rounded up', nearest: 'to the nearest' };

/** Fits a wanted number to what the charger can hold: display error, unit, range and step, each as a line of the sum. */
export function fitNumber(context: RoleContext, parameter: NumberParameter, wanted: Wanted & { kind: 'number' }): Setting {
  const { input, card, device } = context;
  const { core } = unitInfo[parameter.unit];
  const digits = deviceDecimals(parameter);
  const label = deviceUnitLabel(parameter);
  const correction = showsError(parameter) ? correctionAt(context, wanted.exact) : 0;
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
  const held = nearbyValues(context, parameter, wanted, correction)
    .filter((value) => !specialAt(parameter, value))
    .map((value) => ({ device: value, real: trueFromDisplay(context, parameter, value) }));
  const choose = (from: typeof held): (typeof held)[number] | null =>
    chooseOnGrid(from, wanted.exact, wanted.asGiven ? null : wanted.band, wanted.inset, wanted.prefer);
  const free = choose(held);
  const rule = free && !wanted.asGiven ? brokenBy(context, parameter, free.device) : null;
  const chosen = rule ? (choose(acceptedValues(context, parameter, held, rule)) ?? free) : free;
  if (rule && chosen !== free)
    steps.push({
      kind: 'note',
      words: `This charger holds ${roleInfo[rule.parameter].name} ${rule.gap === 0 ? '' : `${formatQuantity(rule.gap, label, digits)} `}${rule.relation === 'atLeast' ? 'at or above' : 'at or below'} ${roleInfo[rule.other].name}.`,
    });
  const result = (value: number | null, real: number | null, uncertainty: number | null, budget: readonly BudgetLine[]): Setting => ({
    charger: context.charger.id,
    role: parameter.role,
    label: parameter.label,
    menu: parameter.menu,
    exact: wanted.exact,
    value,
    unit: label,
    counts: parameter.unit,
    digits,
    trueValue: real,
    uncertainty,
    budget,
    band: wanted.band,
    within: wanted.band === null || real === null ? 'noBand' : contains(wanted.band, real) ? 'inside' : 'outside',
    deviation: real === null ? null : tidy(real - wanted.exact),
    tolerance: wanted.band === null && real !== null ? toleranceOf(context, parameter.role, wanted.exact) : null,
    off: false,
    derivation: steps,
  });
  if (!chosen) return { ...result(null, null, null, []), noValue: 'outOfReach' };
  const converted = correction !== 0 || parameter.unit !== core;
  if (converted)
    steps.push({ kind: 'subtotal', words: 'Wanted on the display', value: onDisplay, unit: label, digits: Math.min(3, digits + 1), onDevice: true });
  const moved = tidy(chosen.device - onDisplay);
  const { min, max } = knownRange(parameter, systemVolts);
  const clipped = (max !== null && onDisplay > max + 1e-9) || (min !== null && onDisplay < min - 1e-9);
  const blind = !isKnown(parameter, 'step');
  steps.push({
    kind: 'change',
    words: clipped
      ? `The charger only takes ${rangeText(parameter, systemVolts)}`
      : blind
        ? `Its steps are not known: enter this, or the nearest ${wanted.prefer === 'up' ? 'above' : 'below'} that it takes, and note it`
        : `Device step ${formatQuantity(parameter.step, label, digits)}, ${Math.abs(moved) < 1e-6 ? 'already on it' : moved > 0 && wanted.prefer !== 'up' ? 'to the next inside the band' : roundingWords[wanted.prefer]}`,
    value: moved,
    unit: label,
    digits: Math.min(3, digits + 1),
    onDevice: true,
  });
  steps.push({ kind: 'set', words: 'Set', value: chosen.device, unit: label, digits, onDevice: true });
  const budget: BudgetLine[] = !hasTrait(parameter.role, 'regulated')
    ? []
    : context.charger.displayReadings.length === 0
      ? uncomparedBudget(provingMeter(input), card.regulationPercent, card.display.stepV, chosen.real)
      : predictionBudget(provingMeter(input), card.display.stepV, chosen.real);
  const uncertainty = budget.length > 0 ? expandedUncertainty(budget, input.coverage) : null;
  if (uncertainty !== null) steps.push({ kind: 'after', words: 'At the terminals', value: chosen.real, unit: 'V', digits: 2, uncertainty });
  else if (parameter.unit !== core && core !== 's') {
    const { unit, scale } = shownIn[core];
    steps.push({ kind: 'after', words: 'At the battery', value: chosen.real / scale, unit, digits: 2 });
  }
  return result(chosen.device, chosen.real, uncertainty, budget);
}
