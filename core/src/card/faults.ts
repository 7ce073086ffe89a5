import type { Role } from './role';

/** As much of a card as its inner consistency needs. */
interface CardShape {
  readonly kind: string;
  readonly parameters: readonly (
    | { readonly role: Role; readonly unit: 'choice'; readonly options: readonly { readonly value: string }[]; readonly factory?: string | undefined }
    | {
        readonly role: Role;
        readonly unit: string;
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
}

/** What is wrong inside a card, and where. */
export interface CardFault {
  readonly place: readonly (string | number)[];
  readonly message: string;
}

/**
 * Contradictions inside a card: constraints that name a setting it has not or that no values can meet, presets and factory values outside a
 * range, an array limit that is missing. Constraints are differences between two values, so they can all be met unless tightening every range
 * by every constraint, as often as there are parameters, empties one (Bellman and Ford's bound propagation).
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
  for (let round = 0; round <= numbers.size; round++)
    card.constraints.forEach((c, i) => {
      const own = range.get(c.parameter);
      const other = range.get(c.other);
      if (!own || !other) return;
      if (c.relation === 'atLeast') {
        own.min = Math.max(own.min, other.min + c.gap);
        other.max = Math.min(other.max, own.max - c.gap);
      } else {
        own.max = Math.min(own.max, other.max - c.gap);
        other.min = Math.max(other.min, own.min + c.gap);
      }
      const empty = own.min > own.max + 1e-9 ? c.parameter : other.min > other.max + 1e-9 ? c.other : null;
      if (empty && !faults.some((f) => f.place[0] === 'constraints'))
        faults.push({ place: ['constraints', i], message: `cannot be met together with the others: nothing is left for ${empty}` });
    });

  const outside = (role: Role, value: number | string): string | null => {
    const number = numbers.get(role);
    const choice = choices.get(role);
    if (number)
      return typeof value !== 'number'
        ? `${role} wants a number`
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
    const why = p.factory === undefined ? null : outside(p.role, p.factory);
    if (why) faults.push({ place: ['parameters', i, 'factory'], message: why });
  });
  if (card.kind.startsWith('solar') && card.ratings.arrayVoltsMax === undefined)
    faults.push({ place: ['ratings', 'arrayVoltsMax'], message: 'a solar charger needs the most its array input bears' });
  return faults;
}
