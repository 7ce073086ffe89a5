/** A number that can be edited: the device takes it on its own grid only. */
export interface Dial {
  readonly name: string;
  /** Rising; every value the device can hold. */
  readonly values: readonly number[];
}

/** `upper` must stay at least `gap` above `lower`. */
export interface Gap {
  readonly upper: string;
  readonly lower: string;
  readonly gap: number;
}

/** One single edit. */
interface Move {
  readonly name: string;
  readonly from: number;
  readonly to: number;
  /** On the way: the value wanted is set later. */
  readonly temporary: boolean;
}

export type Values = Readonly<Record<string, number>>;

/** An order of edits, or the gaps that stand in the way. */
export type Order = { readonly moves: readonly Move[] } | { readonly blockedBy: readonly Gap[]; readonly why: 'target' | 'start' | 'locked' };

const slack = 1e-9;

/** Gaps that a set of values does not keep. A value that is not known keeps every gap. */
export const broken = (gaps: readonly Gap[], at: Values): readonly Gap[] =>
  gaps.filter(({ upper, lower, gap }) => {
    const [high, low] = [at[upper], at[lower]];
    return high !== undefined && low !== undefined && high - low < gap - slack;
  });

/**
 * The order of single edits from one set of values to another such that the device accepts every state on the way.
 *
 * Exact. The states that keep gaps and ranges are closed under taking the lower, and the higher, of two states value by value (a distributive
 * lattice). So if any path leads from `from` to `to`, one leads down from `from` to the lower of both and up from there to `to`; and
 * going down, the furthest step that is accepted never closes a way that was open, so no search is needed. No state on that path is above both
 * ends, which keeps it safe while a source is live. Direct edits are tried first, in the order given: while any is left that is accepted, taking it
 * never hurts another.
 *
 * @param dials in the order in which they should come when there is a choice
 */
export function orderMoves(dials: readonly Dial[], gaps: readonly Gap[], from: Values, to: Values): Order {
  const badTarget = broken(gaps, to);
  if (badTarget.length > 0) return { blockedBy: badTarget, why: 'target' };
  const badStart = broken(gaps, from);
  const now: Record<string, number> = { ...from };
  const moves: Move[] = [];
  const set = (name: string, value: number): void => {
    moves.push({ name, from: now[name] ?? value, to: value, temporary: Math.abs(value - (to[name] ?? value)) > slack });
    now[name] = value;
  };
  // A state that breaks a gap already, as found, cannot be made worse by an edit that does not touch that gap.
  const accepted = (name: string, value: number): boolean =>
    gaps.every((g) => {
      if (g.upper !== name && g.lower !== name) return true;
      const [high, low] = g.upper === name ? [value, now[g.lower]] : [now[g.upper], value];
      return high === undefined || low === undefined || high - low >= g.gap - slack;
    });
  const open = (): readonly Dial[] => dials.filter((d) => to[d.name] !== undefined && Math.abs((now[d.name] ?? Infinity) - (to[d.name] ?? 0)) > slack);

  for (let next = true; next;) {
    next = false;
    for (const dial of open()) {
      const target = to[dial.name] ?? 0;
      // What falls goes first: nothing stays above where it should be for longer than it must.
      if (!accepted(dial.name, target)) continue;
      set(dial.name, target);
      next = true;
      break;
    }
  }
  if (open().length === 0) return { moves };

  /** Moves every open dial towards its end as far as is accepted, until nothing moves any more. */
  const creep = (end: Values, down: boolean): void => {
    for (let moved = true; moved;) {
      moved = false;
      for (const dial of dials) {
        const here = now[dial.name];
        const there = end[dial.name];
        if (here === undefined || there === undefined || (down ? here <= there + slack : here >= there - slack)) continue;
        const between = dial.values.filter((v) => (down ? v > there && v < here - slack : v < there && v > here + slack));
        const reach = [there, ...(down ? between : [...between].reverse())].find((v) => accepted(dial.name, v));
        if (reach === undefined) continue;
        set(dial.name, reach);
        moved = true;
      }
    }
  };
  const lower: Record<string, number> = {};
  for (const dial of dials) {
    const [a, b] = [now[dial.name], to[dial.name]];
    if (a !== undefined && b !== undefined) lower[dial.name] = Math.min(a, b);
  }
  creep(lower, true);
  creep(to, false);
  const left = new Set(open().map((d) => d.name));
  if (left.size === 0) return { moves };
  const between = gaps.filter((g) => left.has(g.upper) && left.has(g.lower));
  return { blockedBy: badStart.length > 0 ? badStart : between, why: badStart.length > 0 ? 'start' : 'locked' };
}
