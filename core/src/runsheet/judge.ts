import {
  deviceGrid,
  deviceRange,
  displayText,
  isKnown,
  parameterFor,
  roleInfo,
  unitInfo,
  type Card,
  type NumberParameter,
  type Role,
  type Slip,
} from '../card';
import { contains, fahrenheitToCelsius, celsiusToFahrenheit, formatQuantity, parseQuantity, tidy } from '../quantity';
import { cardOf, devicesOf, targetsOf, trueOf, type Plan } from '../settings';
import type { SheetStep, ValueToSet } from './step';
import { rangeVolts } from '../system';

/** What a reading that is not the one wanted most likely means. */
export type Diagnosis = 'same' | 'acceptable' | 'notSaved' | 'wrapped' | 'clipped' | 'unit' | 'sign' | 'slip' | 'wrongMenu' | 'rounded' | 'other';

/** A reading judged: what it is, what it means, and how to go on. */
export interface Judgement {
  readonly diagnosis: Diagnosis;
  readonly reading: number | string;
  /** What it is and what it would do. */
  readonly says: string;
  /** What to do now. */
  readonly next: string;
  /** Whether the value may be kept as it is: it lies in its band, or has none and is the nearest the device takes. */
  readonly mayKeep: boolean;
}

/**
 * Reads what somebody typed as the display’s own value: “27,1 V”, “2 h” in minutes, a word of the list.
 *
 * @returns a sentence where it cannot be read
 */
export function readingOf(card: Card, role: Role, text: string): { ok: true; value: number | string } | { ok: false; text: string } {
  const p = parameterFor(card, role);
  if (!p) return { ok: false, text: 'This card has no such setting.' };
  const typed = text.trim();
  if (typed === '') return { ok: false, text: 'Enter what the display shows.' };
  if (p.unit === 'choice') {
    const option = p.options.find((o) => o.value.toLowerCase() === typed.toLowerCase());
    return option
      ? { ok: true, value: option.value }
      : { ok: false, text: `It offers ${p.options.map((o) => `“${o.value}”`).join(', ')}. Choose what it shows.` };
  }
  const read = parseQuantity(typed.replace(/^−/, '-'), unitInfo[p.unit].typed);
  return read.ok ? { ok: true, value: tidy(read.value) } : { ok: false, text: read.problems[0]?.text ?? 'This cannot be read as a number.' };
}

/** Mistakes of unit, basis or decimal point: what a number was multiplied with on its way into the display. */
const slips: Readonly<Record<Slip, readonly { readonly by: number; readonly words: string }[]>> = {
  decimal: [
    { by: 10, words: 'ten times the value: the decimal point has slipped' },
    { by: 0.1, words: 'a tenth of the value: the decimal point has slipped' },
  ],
  system: [
    { by: 2, words: 'twice the value: a 12 V figure and a 24 V figure have been mixed up' },
    { by: 0.5, words: 'half the value: a 12 V figure in a 24 V menu, or the other way round' },
    { by: 4, words: 'four times the value: a 12 V figure and a 48 V figure have been mixed up' },
    { by: 0.25, words: 'a quarter of the value: a 12 V figure in a 48 V menu' },
  ],
  cells: [
    { by: 6, words: 'six times the value: per cell and per 12 V have been mixed up' },
    { by: 1 / 6, words: 'a sixth of the value: per cell and per 12 V have been mixed up' },
  ],
  sixty: [
    { by: 60, words: 'sixty times the value: minutes and hours, or seconds and minutes' },
    { by: 1 / 60, words: 'a sixtieth of the value: minutes and hours, or seconds and minutes' },
  ],
  milli: [
    { by: 1000, words: 'a thousand times the value: milli has been lost' },
    { by: 0.001, words: 'a thousandth of the value: milli is too many' },
  ],
};

/**
 * Judges what is read instead of the value wanted. What it most likely means comes from the numbers alone: the old value, an end of the range,
 * the jump past an end, a factor, a neighbour in the menu.
 *
 * @param seen as the display shows it
 */
export function judgeReading(plan: Plan, step: SheetStep, seen: number | string): Judgement {
  const { value } = step;
  const device = devicesOf(plan.input).find((d) => d.id === step.device);
  const card = device && cardOf(plan.input, device);
  const p = value && card ? parameterFor(card, value.role) : undefined;
  if (!value || !device || !card || !p) return { diagnosis: 'other', reading: seen, says: 'This step sets no value.', next: 'Go on.', mayKeep: false };
  const at = (diagnosis: Diagnosis, says: string, next: string, mayKeep = false): Judgement => ({ diagnosis, reading: seen, says, next, mayKeep });
  const again = `Set ${displayText(p, value.to)} again, and read it back.`;
  if (seen === value.to) return at('same', `It reads ${displayText(p, seen)}, as it should.`, 'Go on.');

  if (p.unit === 'choice' || typeof seen === 'string' || typeof value.to === 'string') {
    if (seen === value.from)
      return at('notSaved', `It still shows ${displayText(p, seen)}, the value before: the edit was not saved.`, `${keepWords(card)} ${again}`);
    return at('other', `It shows ${displayText(p, seen)} instead of ${displayText(p, value.to)}.`, again);
  }

  const systemVolts = rangeVolts(plan.facts);
  const range = deviceRange(p, systemVolts);
  const blind = !isKnown(p, 'step');
  const made = whatItMakes(plan, device.id, value.role, seen);
  const setting = plan.setting(device.id, value.role);
  const real = trueOf(plan, device.id, value.role, seen);
  const inBand = setting?.band != null && real !== null && contains(setting.band, real);
  const close = (a: number, b: number): boolean => Math.abs(a - b) <= p.step / 2 + 1e-9;
  const shown = displayText(p, seen);

  // Of a display whose steps nobody knows, what it takes next to the value is what it takes.
  if (
    blind &&
    (inBand || setting?.band == null) &&
    real !== null &&
    setting?.exact != null &&
    Math.abs(real - Number(setting.exact)) <= coarse(p.role, plan) + 1e-9
  )
    return at('rounded', `${shown} is the nearest it takes.${made}`, 'Record it and go on.', true);

  if (p.wraps && (close(seen, range.max) || close(seen, range.min)) && !close(value.to, seen))
    return at(
      'wrapped',
      `${shown} is the far end: one press too many and it jumped from one end to the other.${made}`,
      `Come back from the other side and stop in time. ${again}`,
    );
  if (typeof value.from === 'number' && seen === value.from)
    return at('notSaved', `It still shows ${shown}, the value before: the edit was not saved.${made}`, `${keepWords(card)} ${again}`);
  if (value.to !== 0 && seen === -value.to) return at('sign', `${shown} has the sign the wrong way round.${made}`, again);
  const bound = boundOf(plan, device.id, card, value.role, seen);
  if (bound && !inBand) return at('clipped', `${bound}${made}`, `Set the other value first, then this one. ${again}`);
  if ((close(seen, range.max) && value.to > range.max) || (close(seen, range.min) && value.to < range.min))
    return at(
      'clipped',
      `${shown} is where this display ends; it was held there.${made}`,
      'The card’s range is another one than this device has: look at its menu revision, then at Settings.',
    );
  const scale = unitSlip(p, seen, value);
  if (scale) return at('unit', `${shown} is ${scale}.${made}`, `Look at the unit beside the value. ${again}`);
  if (inBand)
    return at(
      Math.abs(seen - value.to) < p.step - 1e-9 ? 'rounded' : 'acceptable',
      made ? `${shown}.${made}` : `${shown} is in its band.`,
      `Record it and go on, or ${again.charAt(0).toLowerCase()}${again.slice(1)}`,
      true,
    );
  const neighbour = neighbourOf(plan, device.id, card, value.role, seen);
  if (neighbour)
    return at(
      'wrongMenu',
      `${shown} is what ${neighbour} shows: this may be another entry of the menu.`,
      `Leave without saving, go back to ${value.label}. ${again}`,
    );
  const steps = Math.round(Math.abs(seen - value.to) / p.step);
  if (Math.abs(seen - value.to) < p.step - 1e-9)
    return at(
      'rounded',
      `${shown} lies off the steps of ${p.step} that the card gives: this device rounds.${made}`,
      setting?.band ? again : `Record it and go on. The card may be of another menu revision.`,
      setting?.band == null,
    );
  if (steps <= 10 && deviceGrid(p, systemVolts).some((v) => close(v, seen)))
    return at(
      'slip',
      `${shown} is ${steps === 1 ? 'one step' : `${steps} steps`} ${seen > value.to ? 'above' : 'below'}: held too long, or released too early.${made}`,
      again,
    );
  return at('other', `${shown} instead of ${displayText(p, value.to)}.${made}`, again);
}

/** The coarsest step that displays have, in the core's unit at the bank: a tenth of a volt for 12 V, five minutes, an amp, a degree. */
const coarse = (role: Role, plan: Plan): number =>
  (({ V: (0.1 * plan.facts.nominalVolts) / 12, s: 300, A: 1, '°C': 1 }) as Readonly<Record<string, number>>)[roleInfo[role].unit] ?? 0.0005;

/** What a value makes at the battery, and how it lies to its band; empty where it is no voltage. */
export function whatItMakes(plan: Plan, device: string, role: Role, seen: number): string {
  if (roleInfo[role].unit !== 'V') return '';
  const real = trueOf(plan, device, role, seen);
  if (real === null) return '';
  const band = plan.setting(device, role)?.band;
  const where = !band
    ? ''
    : contains(band, real)
      ? ', in its band'
      : band.max !== undefined && real > band.max
        ? `, ${formatQuantity(real - band.max, 'V', 2)} above its band`
        : band.min !== undefined
          ? `, ${formatQuantity(band.min - real, 'V', 2)} below its band`
          : '';
  return ` That makes ${formatQuantity(real, 'V', 2)} at the battery${where}.`;
}

const keepWords = (card: Card): string => (card.commit.kind === 'auto' ? 'Leave the entry in the usual way.' : card.commit.how.replace(/\.?$/, '.'));

/** The rule of the card that holds a value where it was stopped. */
function boundOf(plan: Plan, device: string, card: Card, role: Role, seen: number): string | null {
  const targets = targetsOf(plan, device);
  const present = devicesOf(plan.input).find((d) => d.id === device)?.present ?? {};
  for (const c of card.constraints) {
    const other = c.parameter === role ? c.other : c.other === role ? c.parameter : null;
    if (other === null) continue;
    const parameter = parameterFor(card, other);
    for (const stands of [present[other], targets[other]]) {
      if (typeof stands !== 'number' || !parameter) continue;
      const sign = c.relation === 'atLeast' ? 1 : -1;
      const bound = c.parameter === role ? stands + sign * c.gap : stands - sign * c.gap;
      if (Math.abs(seen - bound) < 1e-6) return `It was held at the limit that ${parameter.label} sets.`;
    }
  }
  return null;
}

/** Which mistake of unit turns the value wanted into the one seen. */
function unitSlip(p: NumberParameter, seen: number, { to }: ValueToSet): string | null {
  if (typeof to !== 'number' || to === 0) return null;
  const within = (a: number): boolean => Math.abs(seen - a) <= Math.min(p.step / 2, 0.02 * Math.abs(a)) + 1e-9;
  const { twin, slips: likely } = unitInfo[p.unit];
  if (twin === '°F' && within(celsiusToFahrenheit(to))) return 'the same temperature in °F';
  if (twin === '°C' && within(fahrenheitToCelsius(to))) return 'the same temperature in °C';
  return likely.flatMap((slip) => slips[slip]).find((s) => within(to * s.by))?.words ?? null;
}

/** Another entry of the same menu that shows this number. */
function neighbourOf(plan: Plan, device: string, card: Card, role: Role, seen: number): string | null {
  const own = parameterFor(card, role);
  const targets = targetsOf(plan, device);
  const present = devicesOf(plan.input).find((d) => d.id === device)?.present ?? {};
  const other = card.parameters.find(
    (q) => q.role !== role && q.menu.join() === own?.menu.join() && q.unit === own.unit && (targets[q.role] === seen || present[q.role] === seen),
  );
  return other?.label ?? null;
}
