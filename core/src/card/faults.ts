import { registersOf } from './count';
import { roleInfo, type Role } from './role';
import type { RegisterForm } from './telemetry';
import { deviceUnitsFor, unitInfo, type DeviceUnit } from './unit';

/** As much of a card as its inner consistency needs. */
interface CardShape {
  readonly kind: string;
  readonly parameters: readonly (
    | { readonly role: Role; readonly unit: 'choice'; readonly options: readonly { readonly value: string }[]; readonly factory?: string | undefined }
    | {
        readonly role: Role;
        readonly unit: DeviceUnit;
        readonly min: number;
        readonly max: number;
        readonly step: number;
        readonly special: readonly { readonly value: number }[];
        readonly factory?: number | undefined;
      }
  )[];
  readonly constraints: readonly { readonly parameter: Role; readonly relation: 'atLeast' | 'atMost'; readonly other: Role; readonly gap: number }[];
  readonly presets: readonly { readonly name: string; readonly sets: Readonly<Partial<Record<Role, number | string>>> }[];
  readonly ratings: { readonly arrayVoltsMax?: number | undefined };
  readonly notKnown?: readonly string[] | undefined;
  readonly telemetry?:
    | {
        readonly identity: { readonly register: number };
        readonly values: readonly { readonly role: Role; readonly register: number; readonly form?: RegisterForm | undefined }[];
      }
    | undefined;
}

/** What is wrong inside a card, and where. */
export interface CardFault {
  readonly place: readonly (string | number)[];
  readonly message: string;
}

/**
 * Contradictions inside a card: constraints that name a setting it has not or that no values can meet, presets and factory values outside a
 * range, a unit that does not measure what the setting is, an array limit that is missing. Constraints are differences between two values, so
 * they can all be met exactly when tightening every range by every constraint comes to rest within as many rounds as there are parameters and
 * leaves none empty (Bellman and Ford).
 */
export function cardFaults(card: CardShape): readonly CardFault[] {
  const faults: CardFault[] = [];
  const numbers = new Map(card.parameters.flatMap((p) => ('min' in p ? [[p.role, p] as const] : [])));
  const choices = new Map(card.parameters.flatMap((p) => ('options' in p ? [[p.role, p] as const] : [])));

  card.constraints.forEach((c, i) => {
    for (const role of [c.parameter, c.other])
      if (!numbers.has(role)) faults.push({ place: ['constraints', i], message: `names ${role}, which this card has no number for` });
  });

  const range = new Map([...numbers].map(([role, p]) => [role, { min: p.min, max: p.max }]));
  let moving: { readonly place: number; readonly role: Role } | null = null;
  for (let round = 0; round <= numbers.size + 1; round++) {
    moving = null;
    card.constraints.forEach((c, i) => {
      const own = range.get(c.parameter);
      const other = range.get(c.other);
      if (!own || !other) return;
      const [upper, lower] = c.relation === 'atLeast' ? [own, other] : [other, own];
      const before = [upper.min, lower.max] as const;
      upper.min = Math.max(upper.min, lower.min + c.gap);
      lower.max = Math.min(lower.max, upper.max - c.gap);
      if (upper.min - before[0] + before[1] - lower.max > 1e-9) moving = { place: i, role: c.parameter };
    });
  }
  const empty = [...range].find(([, r]) => r.min > r.max + 1e-9)?.[0];
  // Bounds that still move after that many rounds chase each other in a circle and would do so for ever.
  const stuck = moving as { readonly place: number; readonly role: Role } | null;
  if (!faults.some((f) => f.place[0] === 'constraints') && (empty !== undefined || stuck)) {
    const place = stuck?.place ?? card.constraints.findIndex((c) => c.parameter === empty || c.other === empty);
    faults.push({
      place: ['constraints', Math.max(0, place)],
      message: `cannot be met together with the others: nothing is left for ${empty ?? stuck?.role ?? ''}`,
    });
  }

  const outside = (role: Role, value: number | string): string | null => {
    const number = numbers.get(role);
    const choice = choices.get(role);
    if (number)
      return typeof value !== 'number'
        ? `${role} needs a number`
        : !number.special.some((s) => s.value === value) && (value < number.min - 1e-9 || value > number.max + 1e-9)
          ? `${role} ${value} lies outside ${number.min} to ${number.max}`
          : null;
    if (choice) return choice.options.some((o) => o.value === value) ? null : `${role} has no option “${String(value)}”`;
    return `sets ${role}, which this card has not`;
  };
  card.presets.forEach((preset, i) => {
    for (const [role, value] of Object.entries(preset.sets) as [Role, number | string][]) {
      const why = outside(role, value);
      if (why) faults.push({ place: ['presets', i, 'sets', role], message: why });
    }
  });
  card.parameters.forEach((p, i) => {
    const wanted = roleInfo[p.role].unit;
    // A bare number is taken in the core's unit: cards made by hand before there was a choice have it.
    if ('min' in p && wanted !== 'choice' && p.unit !== 'ratio' && unitInfo[p.unit].core !== wanted)
      faults.push({
        place: ['parameters', i, 'unit'],
        message: `counts in ${p.unit}, and ${roleInfo[p.role].name} needs one of ${deviceUnitsFor(wanted).join(', ')}`,
      });
    const why = p.factory === undefined ? null : outside(p.role, p.factory);
    if (why) faults.push({ place: ['parameters', i, 'factory'], message: why });
  });
  const registers = new Map<number, string>(card.telemetry ? [[card.telemetry.identity.register, 'its identity']] : []);
  card.telemetry?.values.forEach((v, i) => {
    if (!numbers.has(v.role) && !choices.has(v.role))
      faults.push({ place: ['telemetry', 'values', i, 'role'], message: `names ${v.role}, which this card has not` });
    for (const register of registersOf(v)) {
      const taken = registers.get(register);
      if (taken !== undefined) faults.push({ place: ['telemetry', 'values', i, 'register'], message: `register ${register} already holds ${taken}` });
      registers.set(register, v.role);
    }
  });
  if (card.kind.startsWith('solar') && card.ratings.arrayVoltsMax === undefined && card.notKnown?.includes('input') !== true)
    faults.push({ place: ['ratings', 'arrayVoltsMax'], message: 'a solar charger needs the most volts its array input allows' });
  return faults;
}
