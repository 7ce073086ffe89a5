import { parameterFor, sameStroke, type Role, type Stroke } from '../card';
import { passFaceTime, pressKey, reachLevel, timeOutOf, type FaceRules, type FaceState } from './face';
import { entryAt, levelAt, placeOf } from './menu';

/** One thing to do at a front: a stroke, a level of access to open, or waiting until it goes home by itself. */
export type FaceMove =
  { readonly do: 'key'; readonly stroke: Stroke } | { readonly do: 'reach'; readonly level: 'expert' | 'installer' } | { readonly do: 'leave' };

/** Does one thing at a front. */
export const makeMove = (rules: FaceRules, state: FaceState, move: FaceMove): FaceState =>
  move.do === 'key'
    ? pressKey(rules, state, move.stroke)
    : move.do === 'reach'
      ? reachLevel(state, move.level)
      : passFaceTime(rules, state, timeOutOf(rules.card) ?? 0);

const most = 20_000;

/** The keys that lead home from where a front is. */
function homeward(rules: FaceRules, from: FaceState): readonly FaceMove[] {
  const { card } = rules;
  const moves: FaceMove[] = [];
  let state = from;
  const make = (move: FaceMove): void => {
    moves.push(move);
    state = makeMove(rules, state, move);
  };
  while (state.at.length > 0 && moves.length < 200) {
    if (timeOutOf(card) !== null) make({ do: 'leave' });
    else if (rules.menu.worked.back) make({ do: 'key', stroke: rules.menu.worked.back });
    else {
      // To the end of the list, where the way back is lent, or where it comes round.
      const entry = entryAt(rules.menu, state.at);
      const level = levelAt(rules.menu, state.at);
      // What is open and cannot be thrown away is kept as it is.
      const keeps = state.edit === null ? null : (rules.menu.worked.keep ?? entry?.opens);
      if (keeps) make({ do: 'key', stroke: keeps });
      else if (entry?.back === true && entry.opens) make({ do: 'key', stroke: entry.opens });
      else if (level?.into.length === 0 && level.previous && state.at.length === 1) make({ do: 'key', stroke: level.previous });
      else if (level?.next) make({ do: 'key', stroke: level.next });
      else break;
    }
  }
  return moves;
}

/**
 * What somebody does to see a setting: from where the front is, home first, then by the card’s own way.
 *
 * @returns null where the front does not come to it
 */
export function movesTo(rules: FaceRules, from: FaceState, role: Role): readonly FaceMove[] | null {
  const place = placeOf(rules.menu, role);
  const p = parameterFor(rules.card, role);
  if (!place || !p) return null;
  if (from.edit === null && from.at.join() === place.join()) return [];
  const moves: FaceMove[] = [...homeward(rules, from)];
  let state = moves.reduce<FaceState>((s, move) => makeMove(rules, s, move), from);
  const make = (move: FaceMove): void => {
    moves.push(move);
    state = makeMove(rules, state, move);
  };
  if (p.access !== 'basic' && state.reached !== p.access && state.reached !== 'installer') make({ do: 'reach', level: p.access });
  for (const depth of place.keys()) {
    const level = levelAt(rules.menu, place.slice(0, depth + 1));
    if (!level) return null;
    // A list that shows with its menu is there already.
    if (state.at.length <= depth) for (const stroke of level.into.length > 0 ? level.into : level.next ? [level.next] : []) make({ do: 'key', stroke });
    while ((state.at[depth] ?? -1) < (place[depth] ?? 0) && level.next && moves.length < most) make({ do: 'key', stroke: level.next });
  }
  return state.at.join() === place.join() ? moves : null;
}

/**
 * What somebody does to set a value and to save it in the way of the card.
 *
 * @returns null where its keys do not come to that value
 */
export function movesToSet(rules: FaceRules, from: FaceState, role: Role, value: number | string): readonly FaceMove[] | null {
  const there = movesTo(rules, from, role);
  const p = parameterFor(rules.card, role);
  if (!there || !p) return null;
  const { raise, lower, keep, save } = rules.menu.worked;
  const moves: FaceMove[] = [...there];
  let state = moves.reduce<FaceState>((s, move) => makeMove(rules, s, move), from);
  const key = (stroke: Stroke): void => {
    moves.push({ do: 'key', stroke });
    state = pressKey(rules, state, stroke);
  };
  const entry = entryAt(rules.menu, state.at);
  if (entry?.opens) {
    key(entry.opens);
    if (!state.edit) return null;
  }
  const shown = (): number | string | undefined => state.edit?.value ?? state.memory.inUse[role];
  const options = p.unit === 'choice' ? p.options.map((o) => o.value as number | string) : null;
  const place = (v: number | string | undefined): number => (options ? options.indexOf(v ?? '') : Number(v));
  const up = place(value) > place(shown());
  const first = shown();
  for (let i = 0; shown() !== value && i < most; i++) {
    const before = shown();
    key(up ? raise : lower);
    // At its end, or refused by a rule with another setting: that one has to be set first. Come round, it does not hold the value.
    if (shown() === before || shown() === first) return null;
  }
  if (shown() !== value) return null;
  const keeps = keep ?? entry?.opens;
  const opened = state.edit !== null;
  if (opened && keeps) key(keeps);
  if (state.edit) return null;
  if (save && !(opened && keeps && sameStroke(keeps, save))) key(save);
  if (rules.card.commit.kind === 'endOfList') {
    const level = levelAt(rules.menu, state.at);
    for (let i = 0; level?.next && state.at.length > 0 && i < most; i++) key(level.next);
  }
  return state.memory.stored[role] === value ? moves : null;
}
