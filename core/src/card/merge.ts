import {
  cardSchema,
  endFields,
  rangeEnds,
  foundOut,
  isKnown,
  isUnknown,
  type Card,
  type CardUnknown,
  type RangeEnd,
  type NumberParameter,
  type Parameter,
} from './card';
import { cardParts, laidOver } from './parts';
import { roleInfo, type Role } from './role';

/** One thing that two cards of one device say differently. */
export type CardDifference =
  | {
      readonly kind: 'number';
      readonly role: Role;
      readonly what: RangeEnd;
      readonly mine: number;
      readonly theirs: number;
      readonly unit: NumberParameter['unit'];
    }
  | { readonly kind: 'setting'; readonly role: Role; readonly mine: Parameter; readonly theirs: Parameter }
  | { readonly kind: 'habit'; readonly what: CardUnknown };

/** Two cards of one device made into one. */
export interface MergedCards {
  readonly card: Card;
  /** What the other knew and mine did not: settings, and what nobody had found out. */
  readonly learnt: { readonly settings: readonly Role[]; readonly habits: readonly CardUnknown[] };
  /** What both know, and say differently: mine counts unless it is among those to take. */
  readonly asked: readonly CardDifference[];
}

/** A name for a difference, to say which one is meant. */
export const differenceKey = (difference: CardDifference): string =>
  difference.kind === 'number' ? `${difference.role} ${difference.what}` : difference.kind === 'setting' ? difference.role : difference.what;

/** Whether nothing of a setting was tried. */
const isBlank = (p: Parameter): boolean => p.unit !== 'choice' && rangeEnds.every((what) => !isKnown(p, what));

/** Whether a setting is only there because such a device usually has it: nobody has met it, so it has our own name. */
const isSupposed = (card: Card, p: Parameter): boolean => isUnknown(card, 'settings') && isBlank(p) && p.label === roleInfo[p.role].name;

/** Two numbers of one setting in one unit: each end and the step by itself. */
function mergeNumbers(
  mine: NumberParameter,
  theirs: NumberParameter,
  take: ReadonlySet<string>,
): { readonly parameter: NumberParameter; readonly learnt: boolean; readonly asked: readonly CardDifference[] } {
  const asked: CardDifference[] = [];
  let learnt = false;
  const chosen = { least: mine.min, most: mine.max, step: mine.step };
  const known = new Set<RangeEnd>();
  for (const what of rangeEnds) {
    const [a, b] = [mine[endFields[what]], theirs[endFields[what]]];
    const [own, other] = [isKnown(mine, what), isKnown(theirs, what)];
    if (own || other) known.add(what);
    if (!own && other) {
      chosen[what] = b;
      learnt = true;
    } else if (own && other && Math.abs(a - b) > 1e-9) {
      const difference: CardDifference = { kind: 'number', role: mine.role, what, mine: a, theirs: b, unit: mine.unit };
      asked.push(difference);
      if (take.has(differenceKey(difference))) chosen[what] = b;
    }
  }
  const crossed = chosen.least >= chosen.most;
  const missing = rangeEnds.filter((what) => !known.has(what) || crossed);
  const { notKnown: _before, ...rest } = mine;
  return {
    parameter: {
      ...rest,
      ...(crossed ? {} : { min: chosen.least, max: chosen.most, step: chosen.step }),
      // Our own name stands where nobody has read the display’s.
      label: mine.label === roleInfo[mine.role].name ? theirs.label : mine.label,
      wraps: mine.wraps || (theirs.wraps && !isKnown(mine, 'range')),
      menu: mine.menu.length > 0 ? mine.menu : theirs.menu,
      keys: mine.keys.length > 0 ? mine.keys : theirs.keys,
      ...(mine.factory === undefined && theirs.factory !== undefined && theirs.factory >= chosen.least && theirs.factory <= chosen.most
        ? { factory: theirs.factory }
        : {}),
      ...(missing.length > 0 ? { notKnown: missing } : {}),
      // Who says it: the other, where something of it is theirs.
      ...((learnt || asked.some((d) => take.has(differenceKey(d)))) && theirs.said ? { said: theirs.said } : {}),
    },
    learnt,
    asked,
  };
}

/**
 * Makes one card of two people’s cards of one device, item by item: what one knows and the other does not is taken, what both know and say differently is asked.
 *
 * @param take differences, by `differenceKey`, in which theirs is right
 */
export function mergeCards(mine: Card, theirs: Card, take: ReadonlySet<string> = new Set()): MergedCards {
  const asked: CardDifference[] = [];
  const settings: Role[] = [];
  const habits: CardUnknown[] = [];
  const parameters: Parameter[] = mine.parameters.map((own) => {
    const other = theirs.parameters.find((p) => p.role === own.role);
    if (!other) return own;
    if (own.unit !== 'choice' && other.unit === own.unit) {
      const merged = mergeNumbers(own, other, take);
      asked.push(...merged.asked);
      if (merged.learnt) settings.push(own.role);
      return merged.parameter;
    }
    if (own.unit === 'choice' && other.unit === 'choice') {
      const more = other.options.filter((o) => !own.options.some((p) => p.value === o.value));
      if (more.length > 0) settings.push(own.role);
      return { ...own, options: [...own.options, ...more].slice(0, 20) };
    }
    // Nothing of it was tried by one of the two: it is as the other says.
    if (isBlank(other)) return own;
    if (isBlank(own)) {
      settings.push(own.role);
      return other;
    }
    const difference: CardDifference = { kind: 'setting', role: own.role, mine: own, theirs: other };
    asked.push(difference);
    return take.has(differenceKey(difference)) ? other : own;
  });
  for (const other of theirs.parameters)
    if (!parameters.some((p) => p.role === other.role) && (isUnknown(mine, 'settings') || !isSupposed(theirs, other))) {
      parameters.push(other);
      settings.push(other.role);
    }

  let card: Card = { ...mine, parameters: parameters.slice(0, 80) };
  for (const what of Object.keys(cardParts) as CardUnknown[]) {
    const part = cardParts[what];
    if (!part || isUnknown(theirs, what)) continue;
    if (isUnknown(mine, what)) {
      card = { ...laidOver(card, part(theirs)), notKnown: [...foundOut(card.notKnown ?? [], what)] };
      habits.push(what);
    } else if (JSON.stringify(part(mine)) !== JSON.stringify(part(theirs))) {
      asked.push({ kind: 'habit', what });
      if (take.has(what)) card = laidOver(card, part(theirs));
    }
  }
  if (isUnknown(mine, 'settings') && !isUnknown(theirs, 'settings')) {
    // They walked the whole list: what I only supposed and they did not meet is not there.
    const there = (p: Parameter): boolean => theirs.parameters.some((o) => o.role === p.role) || !isSupposed(mine, p);
    card = { ...card, parameters: card.parameters.filter(there), notKnown: [...foundOut(card.notKnown ?? [], 'settings')] };
    habits.push('settings');
  }
  const roles = new Set(card.parameters.map((p) => p.role));
  const rules = [
    ...mine.constraints,
    ...theirs.constraints.filter((c) => !mine.constraints.some((o) => o.parameter === c.parameter && o.other === c.other && o.relation === c.relation)),
  ];
  const others = [...(mine.others ?? []), ...(theirs.others ?? [])].filter(
    (o, i, all) => all.findIndex((p) => p.label === o.label) === i && !card.parameters.some((p) => p.label === o.label),
  );
  const surveyed = [...(mine.surveyed ?? []), ...(theirs.surveyed ?? [])].filter(
    (s, i, all) => all.findIndex((t) => JSON.stringify(t) === JSON.stringify(s)) === i,
  );
  const procedures = mine.procedures || theirs.procedures ? { ...theirs.procedures, ...mine.procedures } : null;
  const lines = [...(mine.lines ?? []), ...(theirs.lines ?? []).filter((l) => !(mine.lines ?? []).some((o) => o.before === l.before && o.says === l.says))];
  const { others: _others, surveyed: _surveyed, procedures: _procedures, lines: _lines, notKnown, ...rest } = card;
  const whole = {
    ...rest,
    constraints: rules.filter((c) => roles.has(c.parameter) && roles.has(c.other)).slice(0, 40),
    presets: [...mine.presets, ...theirs.presets.filter((p) => !mine.presets.some((o) => o.name === p.name))]
      .filter((p) => Object.keys(p.sets).every((r) => roles.has(r as Role)))
      .slice(0, 20),
    ...((card.setBy ?? theirs.setBy) ? { setBy: card.setBy ?? theirs.setBy } : {}),
    ...((card.entry ?? theirs.entry) ? { entry: card.entry ?? theirs.entry } : {}),
    ...((mine.dictated ?? theirs.dictated) ? { dictated: mine.dictated ?? theirs.dictated } : {}),
    ...(procedures ? { procedures } : {}),
    ...(lines.length > 0 ? { lines: lines.slice(0, 20) } : {}),
    ...(others.length > 0 ? { others: others.slice(0, 300) } : {}),
    ...(surveyed.length > 0 ? { surveyed: surveyed.slice(-40) } : {}),
    ...(notKnown && notKnown.length > 0 ? { notKnown } : {}),
  };
  const read = cardSchema.safeParse(whole);
  // A rule or preset of one that the ranges of the other contradict goes; it can be seen again.
  return {
    card: read.success ? read.data : cardSchema.parse({ ...whole, constraints: [], presets: [], parameters: whole.parameters.map(withoutOddFactory) }),
    learnt: { settings, habits },
    asked,
  };
}

/** A parameter whose factory value its range has not, without it. */
function withoutOddFactory(parameter: Parameter): Parameter {
  if (parameter.unit === 'choice' || parameter.factory === undefined || (parameter.factory >= parameter.min && parameter.factory <= parameter.max))
    return parameter;
  const { factory: _odd, ...rest } = parameter;
  return rest;
}

const plain = (text: string): string => text.replace(/\s+/g, ' ').trim().toLowerCase();

/** Whether two cards are of one model, whatever their firmware and menus. */
export const sameModel = (a: Card, b: Card): boolean => a.kind === b.kind && plain(`${a.maker} ${a.model}`) === plain(`${b.maker} ${b.model}`);

/** Whether two cards are of one device: the same id, or the same model at the same menu revision. */
export const sameDevice = (a: Card, b: Card): boolean =>
  a.id === b.id || (sameModel(a, b) && plain(a.describes.menuRevision) === plain(b.describes.menuRevision));

/** Settings that a card has and another has not. */
export const onlyOn = (card: Card, other: Card): readonly Role[] =>
  card.parameters.filter((p) => !other.parameters.some((o) => o.role === p.role)).map((p) => p.role);
