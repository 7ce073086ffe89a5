import { keyStroke, strokeOf, strokesOf, type Card, type Parameter, type Role, type Stroke } from '../card';

/** Something that a display shows on its way through the menus: a menu with more in it, a setting, or both. */
export interface Entry {
  readonly name: string;
  /** The setting that stands here. */
  readonly role: Role | null;
  /** The stroke that opens it for editing; null where the keys change it at once. */
  readonly opens: Stroke | null;
  readonly inside: Level | null;
  /** A place that the card counts past and says nothing of. */
  readonly unnamed?: true;
  /** Lent by the face where the card names no key that leads back. */
  readonly back?: true;
}

/** One list of entries, and how somebody gets into it and through it. */
export interface Level {
  /** The strokes that lead into it; none where it shows as soon as its menu does. */
  readonly into: readonly Stroke[];
  readonly next: Stroke | null;
  readonly previous: Stroke | null;
  readonly entries: readonly Entry[];
}

/** Two things that the card reaches by the same strokes: one of its ways is wrong. */
export interface Clash {
  readonly first: string;
  readonly second: string;
}

/** The menus of a device, made from the ways on its card. */
export interface Menu {
  readonly root: Level;
  readonly clashes: readonly Clash[];
  /** The keys of its front; lent by the face where the card names none. */
  readonly keys: readonly string[];
  /** Keys that turn. */
  readonly turns: readonly string[];
  readonly lent: boolean;
  /** How long the key that saves is held, s, where its card says that a hold saves and not how long: the time is lent by the face. */
  readonly lentHold: number | null;
  readonly worked: Worked;
}

/** The strokes that change values, keep them, save, and lead back; null where the card names none. */
export interface Worked {
  readonly raise: Stroke;
  readonly lower: Stroke;
  readonly keep: Stroke | null;
  readonly back: Stroke | null;
  /** Where it is another than the one that keeps a value. */
  readonly save: Stroke | null;
}

/** One name on the way to a setting: the strokes that bring it up from the name before. */
interface Leg {
  readonly strokes: readonly Stroke[];
  readonly turns: string | null;
  readonly shows: string;
}
interface Way {
  readonly legs: readonly Leg[];
  readonly opens: Stroke | null;
}
interface Node {
  readonly name: string;
  readonly leg: Leg;
  role: Role | null;
  opens: Stroke | null;
  readonly inside: Node[];
}

const press = (key: string): Stroke => ({ key, act: 'press' });
const same = (a: Stroke | undefined, b: Stroke | undefined): boolean => a?.key === b?.key && a?.act === b?.act && a?.seconds === b?.seconds;

/** The keys that a face lends to a card that names none. */
const lentKeys = ['Up', 'Down', 'Enter', 'Back'] as const;

/** The way to a setting as its card prints it; null where it prints none. */
function printedWay(p: Parameter): Way | null {
  if (p.keys.length === 0) return null;
  const legs: Leg[] = [];
  let strokes: Stroke[] = [];
  let turns: string | null = null;
  for (const text of p.keys) {
    const { kind, text: shows } = keyStroke(text);
    if (kind === 'shows') {
      legs.push({ strokes, turns, shows });
      strokes = [];
      turns = null;
      continue;
    }
    const read = strokesOf(text);
    strokes.push(...read.strokes);
    turns = read.turnsTo ?? turns;
  }
  if (legs.at(-1)?.shows === p.label) return { legs, opens: strokes[0] ?? null };
  // No name is printed at the end: the last stroke opens it where it is the one that opened a menu before.
  const last = strokes.at(-1);
  const opens = last && strokes.length > 1 && strokes.slice(0, -1).some((s) => same(s, last)) ? last : null;
  return { legs: [...legs, { strokes: opens ? strokes.slice(0, -1) : strokes, turns, shows: p.label }], opens };
}

/** The way through the menus in the order of the card, for settings of which it prints none. */
const plainWay = (p: Parameter, open: Stroke, next: Stroke): Way => ({
  legs: [...p.menu, p.label].map((shows) => ({ strokes: [open], turns: next.key, shows })),
  opens: open,
});

/** Puts the ways together into menus. */
function growTree(ways: readonly (readonly [Parameter, Way])[]): readonly Node[] {
  const roots: Node[] = [];
  for (const [p, { legs, opens }] of ways) {
    let nodes = roots;
    legs.forEach((leg, i) => {
      const last = i === legs.length - 1;
      let node = nodes.find((n) => n.name === leg.shows && (last ? n.role === null && n.inside.length === 0 : n.role === null));
      if (!node) {
        node = { name: leg.shows, leg, role: null, opens: null, inside: [] };
        nodes.push(node);
      }
      if (last) {
        node.role = p.role;
        node.opens = opens;
      }
      nodes = node.inside;
    });
  }
  return roots;
}

const commonPrefix = (lists: readonly (readonly Stroke[])[]): readonly Stroke[] => {
  const [first = []] = lists;
  const differs = first.findIndex((s, i) => lists.some((list) => !same(list[i], s)));
  return differs < 0 ? first : first.slice(0, differs);
};

/** The stroke that goes the other way. */
function opposite(next: Stroke | null, { raise, lower }: Worked): Stroke | null {
  if (next === null) return null;
  if (next.act === 'right') return { ...next, act: 'left' };
  return same(next, lower) ? raise : same(next, raise) ? lower : null;
}

const asStroke = (text: string | undefined): Stroke | null => (text === undefined ? null : strokeOf(text));

/** How long a key is held to save where a card says only that it is held, s. */
const lentHoldS = 3;
/** Whether a card says that a hold saves, and neither of which key for how long. */
const lacksHold = ({ commit, entry }: Card): boolean =>
  commit.kind === 'longPress' && commit.stroke === undefined && entry?.keep !== undefined && strokeOf(entry.keep).act !== 'hold';
const lentHoldOf = (card: Card): number | null => (lacksHold(card) ? lentHoldS : null);
/** The stroke that saves, where it is another than the one that keeps a value. */
const saveOf = (card: Card): Stroke | null =>
  lacksHold(card) ? { key: strokeOf(card.entry?.keep ?? '').key, act: 'hold', seconds: lentHoldS } : asStroke(card.commit.stroke);

/** How a front is worked: by the keys that its card names, or by those that are lent. */
function workedBy(card: Card): Worked {
  const { keys, entry } = card;
  return {
    raise: strokeOf(entry?.raise ?? 'Up'),
    lower: strokeOf(entry?.lower ?? 'Down'),
    keep: asStroke(entry?.keep),
    back: asStroke(entry?.back ?? (keys.length === 0 ? 'Back' : undefined)),
    save: saveOf(card),
  };
}

/** Whether its card names a way out of a list: a key, a time-out, or the end of the list. */
const leadsBack = ({ entry, commit }: Card): boolean => entry?.back !== undefined || commit.timeoutSeconds !== undefined || commit.kind === 'endOfList';

/** What the lists of a card have in common: the key that usually walks through them, and what was found to clash. */
interface Growing {
  readonly card: Card;
  readonly worked: Worked;
  readonly walking: Stroke;
  readonly clashes: Clash[];
}

/** One list out of what was found at one place, and the entries that are reached by the same strokes. */
function levelOf(nodes: readonly Node[], growing: Growing, home: boolean): Level {
  const { card, worked, walking, clashes } = growing;
  const turned = nodes.find((n) => n.leg.turns !== null)?.leg.turns ?? null;
  const knob = turned !== null && card.keys.length > 0 && isTurned(card, turned);
  const lists = nodes.map((n) => n.leg.strokes);
  const prefix = commonPrefix(lists);
  // What is walked over is what comes after the way in; one name alone is walked to by all but its first stroke.
  const rest = nodes.length > 1 ? lists.map((l) => l.slice(prefix.length)).find((l) => l.length > 0)?.[0] : undefined;
  let into: readonly Stroke[] = nodes.length > 1 ? prefix : prefix.slice(0, home ? 1 : Math.min(1, prefix.length));
  while (rest && into.length > (home ? 1 : 0) && same(into.at(-1), rest)) into = into.slice(0, -1);
  const walked = nodes.length > 1 ? rest : lists[0]?.[into.length];
  const next: Stroke | null =
    turned !== null ? (knob ? { key: turned, act: 'right' } : press(turned)) : (walked ?? (nodes.length > 1 || into.length === 0 ? null : walking));
  const placed = nodes.map((node, i) => ({ node, at: turned !== null ? i : Math.max(0, node.leg.strokes.length - into.length), order: i }));
  placed.sort((a, b) => a.at - b.at || a.order - b.order);
  const entries: Entry[] = [];
  placed.forEach(({ node, at }, i) => {
    const before = placed[i - 1];
    if (before?.at === at) clashes.push({ first: before.node.name, second: node.name });
    else while (entries.length < at) entries.push({ name: '', role: null, opens: null, inside: null, unnamed: true });
    entries.push({
      name: node.name,
      role: node.role,
      opens: node.opens,
      inside: node.inside.length > 0 ? levelOf(node.inside, growing, false) : null,
    });
  });
  if (into.length > 0 && !leadsBack(card) && !into.some((stroke) => same(stroke, next ?? undefined)))
    entries.push({ name: '', role: null, opens: press(into[0]?.key ?? ''), inside: null, back: true });
  return { into, next, previous: opposite(next, worked), entries };
}

/** Whether a card says of a key that it is turned. */
const isTurned = (card: Card, key: string): boolean =>
  [card.entry?.raise, card.entry?.lower, ...card.parameters.flatMap((p) => p.keys)].some((text) => text?.startsWith(`${key}: turn`) === true);

/** Whether a card says by which strokes any of its settings is reached. */
export const printsWays = ({ parameters }: Pick<Card, 'parameters'>): boolean => parameters.some((p) => p.keys.length > 0);

/** What a face lends to a device of one contact, and to one of numbered settings, whose card names no key. */
const lentContact = 'Contact';
const lentNumbers = { raise: '+', lower: '−', keep: 'Set' } as const;
/** While a contact is held, a list moves on by one each so often, s. */
const contactSeconds = 1;

/** One list of everything, in the order of the card. */
const flatList = (card: Card, opens: Stroke, next: Stroke, previous: Stroke | null): Level => ({
  into: [],
  next,
  previous,
  entries: card.parameters.map((p) => ({ name: p.label, role: p.role, opens, inside: null })),
});

/**
 * One contact and a list that scrolls: held, the list or the open value moves on; a touch opens and keeps. Where its card keeps by a hold, a
 * touch moves on, and the hold opens and keeps. There is no way down but round over the top.
 */
function contactMenu(card: Card): Menu {
  const { entry, keys } = card;
  const named = entry?.raise === undefined ? keys[0]?.key : strokeOf(entry.raise).key;
  const key = named ?? lentContact;
  const asked = saveOf(card) ?? asStroke(entry?.keep);
  const keep: Stroke = asked?.act === 'hold' ? { ...asked, key } : press(key);
  const move: Stroke = keep.act === 'hold' ? press(key) : { key, act: 'hold', seconds: contactSeconds };
  const worked: Worked = { raise: move, lower: move, keep, back: null, save: null };
  return { root: flatList(card, keep, move, null), clashes: [], keys: [key], turns: [], lent: named === undefined, lentHold: lentHoldOf(card), worked };
}

/** Numbered settings: the keys that raise and lower go through the numbers, and through the value of one that is open. */
function numberedMenu(card: Card): Menu {
  const { entry } = card;
  const raise = strokeOf(entry?.raise ?? lentNumbers.raise);
  const lower = strokeOf(entry?.lower ?? lentNumbers.lower);
  const keep = strokeOf(entry?.keep ?? lentNumbers.keep);
  const back = asStroke(entry?.back);
  const save = saveOf(card);
  const keys = [...new Set([...card.keys.map((k) => k.key), lower.key, raise.key, keep.key, ...(back ? [back.key] : []), ...(save ? [save.key] : [])])];
  return {
    root: flatList(card, keep.act === 'hold' ? press(keep.key) : keep, raise, lower),
    clashes: [],
    keys,
    turns: [],
    lent: entry?.raise === undefined,
    lentHold: lentHoldOf(card),
    worked: { raise, lower, keep, back, save },
  };
}

/**
 * The menus of a device from the ways that its card prints: what the display shows after which strokes. Settings without a printed way
 * stand in their menus in the order of the card.
 */
export function menuOf(card: Card): Menu {
  const unprinted = printsWays(card) ? undefined : card.setBy;
  if (unprinted === 'contact') return contactMenu(card);
  if (unprinted === 'numbers') return numberedMenu(card);
  const printed = card.parameters.map((p) => [p, printedWay(p)] as const);
  const named = card.keys.map((k) => k.key);
  const worked = workedBy(card);
  const { raise, lower } = worked;
  const opening = printed.flatMap(([, way]) => way?.opens ?? [])[0] ?? press(named.find((key) => key !== raise.key && key !== lower.key) ?? 'Enter');
  const plain: Stroke = lower.act === 'left' ? { ...lower, act: 'right' } : lower;
  // The key that printed ways walk with: the last of several before a name.
  const walking = printed.flatMap(([, way]) => way?.legs.find((leg) => leg.strokes.length > 1)?.strokes.at(-1) ?? [])[0] ?? plain;
  const ways = printed.map(([p, way]) => [p, way ?? plainWay(p, opening, plain)] as const);
  const clashes: Clash[] = [];
  const root = levelOf(growTree(ways), { card, worked, walking, clashes }, true);
  const lent = named.length === 0;
  const used = [...(lent ? lentKeys : named), ...[raise, lower, worked.keep, worked.back, worked.save].flatMap((stroke) => stroke?.key ?? [])];
  const ofWays = ways.flatMap(([, { legs, opens }]) => [
    ...legs.flatMap((l) => [...l.strokes.map((s) => s.key), ...(l.turns === null ? [] : [l.turns])]),
    ...(opens ? [opens.key] : []),
  ]);
  const keys = [...new Set([...used, ...ofWays])];
  return { root, clashes, keys, turns: keys.filter((key) => isTurned(card, key)), lent, lentHold: lentHoldOf(card), worked };
}

/** The level at a place, walked to by numbers from the outermost list. */
export function levelAt(menu: Menu, at: readonly number[]): Level | null {
  let level: Level | null = menu.root;
  for (const i of at.slice(0, -1)) level = level?.entries[i]?.inside ?? null;
  return level;
}

/** The entry at a place; null on the home screen. */
export const entryAt = (menu: Menu, at: readonly number[]): Entry | null => {
  const last = at.at(-1);
  return last === undefined ? null : (levelAt(menu, at)?.entries[last] ?? null);
};

/** Where a setting stands: the numbers of its entries from the outermost list on. */
export function placeOf(menu: Menu, role: Role): readonly number[] | null {
  const search = (level: Level, before: readonly number[]): readonly number[] | null => {
    for (const [i, entry] of level.entries.entries()) {
      if (entry.role === role) return [...before, i];
      const inside = entry.inside ? search(entry.inside, [...before, i]) : null;
      if (inside) return inside;
    }
    return null;
  };
  return search(menu.root, []);
}
