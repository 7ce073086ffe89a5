import {
  afterPresses,
  deviceRange,
  displayText,
  parameterFor,
  sameStroke,
  strokeOf,
  type Card,
  type Constraint,
  type Parameter,
  type Role,
  type Stroke,
} from '../card';
import { afterCut, asFromFactory, isUnsaved, scaledPreset, storeAll, storeChange, unsavedRoles, writeValue, type Memory, type MemoryRules } from './memory';
import { entryAt, levelAt, menuOf, printsWays, type Entry, type Level, type Menu } from './menu';

type Access = Parameter['access'];

/** What a key has just done, for the line under the display. */
export type FaceNote =
  | { readonly code: 'stored' | 'inUse' | 'thrownAway' | 'end' | 'powerBack' | 'factory' | 'wentHome' | 'nothing' }
  | { readonly code: 'refused'; readonly role: Role; readonly rule: Constraint }
  | { readonly code: 'locked'; readonly access: Exclude<Access, 'basic'> }
  | { readonly code: 'hidden'; readonly when: string }
  /** The other meaning of a key has come about. */
  | { readonly code: 'second'; readonly key: string };

/** A device’s front at one moment: what it holds, where its display is, and what is being edited. */
export interface FaceState {
  readonly memory: Memory;
  /** Numbers of the entries from the outermost list on; empty on the home screen. */
  readonly at: readonly number[];
  /** How many of the strokes into the next list have been made. */
  readonly into: number;
  readonly edit: { readonly role: Role; readonly value: number | string } | null;
  readonly reached: Access;
  /** Since the last key, s. */
  readonly idle: number;
  readonly note: FaceNote | null;
}

/** What a front behaves by. */
export interface FaceRules extends MemoryRules {
  readonly menu: Menu;
}

/** A device that nobody has touched yet. */
export const newFace = (memory: Memory): FaceState => ({ memory, at: [], into: 0, edit: null, reached: 'basic', idle: 0, note: null });

/** A front for a card. */
export const faceRules = (rules: MemoryRules): FaceRules => ({ ...rules, menu: menuOf(rules.card) });

const rank: Readonly<Record<Access, number>> = { basic: 0, expert: 1, installer: 2 };

/** The levels of access that hide a setting and are not open yet. */
export const levelsToReach = ({ card }: Pick<FaceRules, 'card'>, { reached }: Pick<FaceState, 'reached'>): readonly Exclude<Access, 'basic'>[] =>
  (['expert', 'installer'] as const).filter((level) => rank[reached] < rank[level] && card.parameters.some((p) => p.access === level));

/** What keeps a setting from being opened: the level it needs, or the words of its card for what reveals it; null where nothing does. */
export function keptFrom({ card }: Pick<FaceRules, 'card'>, { memory, reached }: Pick<FaceState, 'memory' | 'reached'>, p: Parameter): FaceNote | null {
  if (p.access !== 'basic' && rank[p.access] > rank[reached]) return { code: 'locked', access: p.access };
  const quoted = /“([^”]+)”/.exec(p.shownWhen ?? '')?.[1];
  const by =
    quoted === undefined ? undefined : card.parameters.find((q) => q.unit === 'choice' && q.role !== p.role && q.options.some((o) => o.value === quoted));
  return by && memory.inUse[by.role] !== quoted ? { code: 'hidden', when: p.shownWhen ?? '' } : null;
}

const asPress = (stroke: Stroke): Stroke => (stroke.act === 'hold' ? { key: stroke.key, act: 'press' } : stroke);
/** Whether a stroke does what is asked for: a key that is held is pressed as well. */
const does = (stroke: Stroke, asked: Stroke | null): boolean =>
  asked !== null && (sameStroke(stroke, asked) || (asked.act === 'press' && sameStroke(asPress(stroke), asked)));

/** Lists that show as soon as their menu does are entered with it. */
function shown(menu: Menu, at: readonly number[]): readonly number[] {
  let here = [...at];
  for (let entry = entryAt(menu, here); entry?.inside?.into.length === 0; entry = entryAt(menu, here)) here = [...here, 0];
  return here;
}
/** The place one list further out, past those that show by themselves. */
function outward(menu: Menu, at: readonly number[]): readonly number[] {
  let here = at.slice(0, -1);
  while (here.length > 0 && entryAt(menu, here)?.inside?.into.length === 0) here = here.slice(0, -1);
  return here;
}

/** The lists at a place that a walking key may move through: the innermost, and those outside it that show it by themselves. */
function walkable(menu: Menu, at: readonly number[]): readonly { readonly level: Level; readonly depth: number }[] {
  const list: { level: Level; depth: number }[] = [];
  for (let depth = at.length; depth > 0; depth--) {
    const level = levelAt(menu, at.slice(0, depth));
    if (!level) break;
    list.push({ level, depth });
    if (level.into.length > 0) break;
  }
  return list;
}

/** Whether the one stroke that changes a value raises it: over its top it begins at the bottom again. */
const onlyRaises = ({ worked }: Menu): boolean => sameStroke(worked.raise, worked.lower);

/** The value after one press of the key that raises or lowers it. */
function stepped({ systemVolts, menu }: FaceRules, p: Parameter, value: number | string | undefined, by: 1 | -1): number | string {
  if (p.unit === 'choice') {
    const at = p.options.findIndex((o) => o.value === value) + by;
    const last = p.options.length - 1;
    return p.options[at > last && onlyRaises(menu) ? 0 : Math.min(last, Math.max(0, at))]?.value ?? '';
  }
  const now = typeof value === 'number' ? value : (p.special[0]?.value ?? p.min);
  const next = afterPresses(p, now, by, systemVolts);
  return next === now && onlyRaises(menu) ? deviceRange(p, systemVolts).min : next;
}

/** Takes the edited value into use, and stores it with what it has overwritten where the stroke does so. */
function finish(rules: FaceRules, state: FaceState, role: Role, value: number | string, stores: boolean): FaceState {
  const before = state.memory.inUse;
  const written = writeValue(rules, state.memory, role, value);
  if (!written.ok)
    return written.why === 'rule' ? { ...state, note: { code: 'refused', role, rule: written.rule } } : { ...state, edit: null, note: { code: 'nothing' } };
  const memory = stores ? storeChange(before, written.memory, role) : written.memory;
  return { ...state, edit: null, memory, note: { code: isUnsaved(memory) && !stores ? 'inUse' : 'stored' } };
}
/** Whether a device stores what is left, without a stroke of its own for it. */
const storesByItself = ({ card }: FaceRules): boolean => card.commit.kind === 'auto';

/** A key while a value is open. */
function editKey(rules: FaceRules, state: FaceState, stroke: Stroke, entry: Entry, edit: NonNullable<FaceState['edit']>): FaceState {
  const { card, menu } = rules;
  const { raise, lower, keep, back, save } = menu.worked;
  const p = parameterFor(card, edit.role);
  if (!p) return state;
  const keeps = keep ?? entry.opens;
  const saves = save ?? keeps;
  const done = (stores: boolean): FaceState => finish(rules, state, edit.role, edit.value, stores);
  // A hold is looked for first: the same key, pressed, may only lay the value down.
  if (saves?.act === 'hold' && sameStroke(stroke, saves)) return done(true);
  if (does(stroke, raise)) return { ...state, edit: { ...edit, value: stepped(rules, p, edit.value, 1) } };
  if (does(stroke, lower)) return { ...state, edit: { ...edit, value: stepped(rules, p, edit.value, -1) } };
  if (does(stroke, back)) return storesByItself(rules) ? done(true) : { ...state, edit: null, note: { code: 'thrownAway' } };
  if (keeps?.act !== 'hold' && does(stroke, keeps)) return done(storesByItself(rules) || (card.commit.kind === 'keyPress' && save === null));
  if (does(stroke, entry.opens)) return done(storesByItself(rules));
  return { ...state, note: { code: 'nothing' } };
}

/** A key that changes the value shown, where nothing has to be opened. */
function changeAtOnce(rules: FaceRules, state: FaceState, stroke: Stroke, p: Parameter): FaceState | null {
  const { raise, lower } = rules.menu.worked;
  const by = does(stroke, raise) ? 1 : does(stroke, lower) ? -1 : null;
  if (by === null) return null;
  const kept = keptFrom(rules, state, p);
  if (kept) return { ...state, note: kept };
  return finish(rules, state, p.role, stepped(rules, p, state.memory.inUse[p.role], by), storesByItself(rules));
}

/** One more of the strokes into a list: the last of them shows its first entry. Null where it is none of them. */
function enter(menu: Menu, state: FaceState, { into }: Level, stroke: Stroke): FaceState | null {
  if (!does(stroke, into[state.into] ?? null)) return null;
  const made = state.into + 1;
  return made < into.length ? { ...state, into: made } : { ...state, at: shown(menu, [...state.at, 0]), into: 0, note: null };
}

/** Everything in use is stored. */
const saved = (state: FaceState): FaceState => ({ ...state, memory: storeAll(state.memory), note: { code: 'stored' } });

const home = (state: FaceState, note: FaceNote | null): FaceState => ({ ...state, at: [], into: 0, edit: null, note });

/** A key in the menus. */
function walkKey(rules: FaceRules, state: FaceState, stroke: Stroke): FaceState {
  const { card, menu } = rules;
  const entry = entryAt(menu, state.at);
  if (!entry) return home(state, null);
  const p = entry.role === null ? undefined : parameterFor(card, entry.role);
  const { back, save } = menu.worked;
  if (save && sameStroke(stroke, save)) return saved(state);
  if (entry.back === true && does(stroke, entry.opens)) return { ...state, at: outward(menu, state.at), note: null };
  // Where a hold moves on, it opens nothing.
  const movesOn = menu.worked.raise.act === 'hold' && sameStroke(stroke, menu.worked.raise);
  if (p && entry.opens && !movesOn && does(stroke, entry.opens)) {
    const kept = keptFrom(rules, state, p);
    if (kept) return { ...state, note: kept };
    const value = state.memory.inUse[p.role] ?? (p.unit === 'choice' ? (p.options[0]?.value ?? '') : p.min);
    return { ...state, edit: { role: p.role, value }, note: null };
  }
  if (p && !entry.opens) {
    const changed = changeAtOnce(rules, state, stroke, p);
    if (changed) return changed;
  }
  const inside = entry.inside && enter(menu, state, entry.inside, stroke);
  if (inside) return inside;
  for (const { level, depth } of walkable(menu, state.at)) {
    const i = state.at[depth - 1] ?? 0;
    if (does(stroke, level.next)) {
      if (i + 1 < level.entries.length) return { ...state, at: shown(menu, [...state.at.slice(0, depth - 1), i + 1]), into: 0, note: null };
      // Past the last entry: where that is how it saves, it is saved now.
      if (card.commit.kind === 'endOfList') return home(saved(state), { code: 'stored' });
      // A list that is stepped through by the key that opens it comes round to where it began.
      if (level.into.some((s) => does(stroke, s)) || depth < state.at.length || onlyRaises(menu)) return home(state, null);
      return { ...state, note: { code: 'end' } };
    }
    if (i === 0 && depth === 1 && level.into.length === 0 && does(stroke, level.previous)) return home(state, null);
    if (does(stroke, level.previous))
      return i > 0 ? { ...state, at: shown(menu, [...state.at.slice(0, depth - 1), i - 1]), into: 0, note: null } : { ...state, note: { code: 'end' } };
  }
  if (does(stroke, back)) return { ...state, at: outward(menu, state.at), into: 0, note: null };
  return { ...state, note: { code: 'nothing' } };
}

/** A key on the home screen. */
function homeKey({ menu, card }: FaceRules, state: FaceState, stroke: Stroke): FaceState {
  const { root } = menu;
  if (root.entries.length > 0) {
    if (root.into.length === 0 && does(stroke, root.next)) return { ...state, at: shown(menu, [0]), note: null };
    const inside = enter(menu, state, root, stroke);
    if (inside) return inside;
  }
  const key = card.keys.find((k) => k.key === stroke.key);
  if (key?.second?.when === 'home') return { ...state, into: 0, note: { code: 'second', key: key.key } };
  return { ...state, into: 0, note: { code: 'nothing' } };
}

/**
 * One stroke on a front. Nothing else about a device is changed by it.
 *
 * @example pressKey(rules, newFace(memory), { key: 'Enter', act: 'press' })
 */
export function pressKey(rules: FaceRules, before: FaceState, stroke: Stroke): FaceState {
  const state: FaceState = { ...before, idle: 0, note: null };
  const { second } = rules.card.keys.find((k) => k.key === stroke.key) ?? {};
  if (stroke.act === 'hold' && second?.when === 'held' && (stroke.seconds ?? 0) >= (second.seconds ?? 3) - 1e-9)
    return second.does === 'factory'
      ? home({ ...state, memory: asFromFactory(rules) }, { code: 'factory' })
      : { ...state, note: { code: 'second', key: stroke.key } };
  if (state.at.length === 0) return homeKey(rules, state, stroke);
  const entry = entryAt(rules.menu, state.at);
  return state.edit && entry ? editKey(rules, state, stroke, entry, state.edit) : walkKey(rules, state, stroke);
}

/**
 * How a front is worked: by its keys, by one contact and a list that scrolls, by numbered settings, on a page of another device, by a switch
 * with a fixed table, or not at all.
 */
export type FrontWay = 'keys' | 'contact' | 'numbers' | 'page' | 'switch' | 'fixed';

/** How the front of a card is worked; by keys where nobody has said it, and wherever the card prints the strokes to its settings. */
export function frontWay(card: Pick<Card, 'setBy' | 'parameters'>): FrontWay {
  const { setBy } = card;
  if (setBy === 'app' || setBy === 'wire') return 'page';
  if ((setBy === 'contact' || setBy === 'numbers') && !printsWays(card)) return setBy;
  return setBy === 'switch' ? 'switch' : setBy === 'nothing' ? 'fixed' : 'keys';
}

/** Enters a value on a page: it acts at once, and is saved at once where the device saves by itself. What is out of range or forbidden is refused. */
export function enterOnPage(rules: FaceRules, state: FaceState, role: Role, value: number | string): FaceState {
  const p = parameterFor(rules.card, role);
  const kept = p ? keptFrom(rules, state, p) : null;
  if (!p || kept) return { ...state, note: kept ?? { code: 'nothing' } };
  return finish(rules, { ...state, note: null }, role, value, storesByItself(rules));
}

/** Saves what was entered on a page. */
export const savePage = saved;

/** Turns a switch to a position of its table: all of its values are set and saved. */
export function turnSwitch(rules: FaceRules, state: FaceState, position: string): FaceState {
  const preset = rules.card.presets.find((p) => p.name === position);
  if (!preset) return { ...state, note: { code: 'nothing' } };
  return saved({ ...state, memory: { ...state.memory, inUse: { ...state.memory.inUse, ...scaledPreset(rules, preset.sets) } } });
}

/** How long a front may be left alone before it throws an edit away and goes home, s; null where its card names no such time. */
export const timeOutOf = ({ commit }: Pick<Card, 'commit'>): number | null => commit.timeoutSeconds ?? null;

/** Lets time pass over a front that nobody touches, s. */
export function passFaceTime(rules: FaceRules, state: FaceState, seconds: number): FaceState {
  const limit = timeOutOf(rules.card);
  const idle = state.idle + seconds;
  if (limit === null || idle < limit || state.at.length === 0) return { ...state, idle };
  return { ...home(state, { code: state.edit ? 'thrownAway' : 'wentHome' }), idle };
}

/** Its power is cut and comes back. */
export const cutFacePower = (rules: FaceRules, state: FaceState): FaceState => ({
  ...newFace(afterCut(rules, state.memory)),
  note: { code: 'powerBack' },
});

/** Opens a level of access, in the way that its card tells. */
export const reachLevel = (state: FaceState, access: Access): FaceState => ({ ...state, reached: access, idle: 0, note: null });

/** What a front shows. */
export interface FaceView {
  /** Names passed, outermost first, with the one shown last; empty on the home screen. */
  readonly trail: readonly string[];
  readonly role: Role | null;
  /** The value as the display writes it; null where it shows a name only. */
  readonly value: string | null;
  readonly editing: boolean;
  /** The value shown is used and not stored. */
  readonly unstored: boolean;
  readonly unnamed: boolean;
  readonly back: boolean;
  readonly keptFrom: FaceNote | null;
  /** Until an edit is thrown away, s; null where nothing runs. */
  readonly left: number | null;
}

/** What is to be seen on a front. */
export function faceView(rules: FaceRules, state: FaceState): FaceView {
  const entry = entryAt(rules.menu, state.at);
  const p = entry?.role == null ? undefined : parameterFor(rules.card, entry.role);
  const kept = p ? keptFrom(rules, state, p) : null;
  const value = state.edit?.value ?? (p ? state.memory.inUse[p.role] : undefined);
  const limit = timeOutOf(rules.card);
  return {
    trail: state.at.map((_, i) => entryAt(rules.menu, state.at.slice(0, i + 1))?.name ?? ''),
    role: p?.role ?? null,
    value: p && !kept && value !== undefined ? displayText(p, value).replace(/^“|”$/g, '') : null,
    editing: state.edit !== null,
    unstored: p !== undefined && unsavedRoles(state.memory).includes(p.role),
    unnamed: entry?.unnamed === true,
    back: entry?.back === true,
    keptFrom: kept,
    left: limit !== null && state.at.length > 0 ? Math.max(0, limit - state.idle) : null,
  };
}

/** Strokes that hold a key: what holding it that long would do beside a press. */
export function holdsOf({ card, menu }: FaceRules, key: string): readonly number[] {
  const strokes = [menu.worked.keep, menu.worked.save, ...card.parameters.flatMap((p) => p.keys).map(strokeOf)];
  const asked = strokes.flatMap((s) => (s?.key === key && s.act === 'hold' ? [s.seconds ?? 0] : []));
  const second = card.keys.find((k) => k.key === key)?.second;
  const { raise } = menu.worked;
  if (raise.act === 'hold' && raise.key === key) asked.push(raise.seconds ?? 0);
  return [...new Set([...asked, ...(second?.when === 'held' ? [second.seconds ?? 3] : [])])].sort((a, b) => a - b);
}

/** Whether holding a key lets the value run: it raises or lowers what is open or changes at once. Of one contact no press runs: it is held for something. */
export function runsWhenHeld(rules: FaceRules, state: FaceState, stroke: Stroke): boolean {
  const { raise, lower } = rules.menu.worked;
  if (onlyRaises(rules.menu)) return false;
  const entry = entryAt(rules.menu, state.at);
  const changing = state.edit !== null || (entry?.role != null && entry.opens === null);
  return changing && (does(stroke, raise) || does(stroke, lower));
}
