import { randomUUID } from 'node:crypto';
import type { Card, Role } from '@calm-keel/core/card';

/** Who may write now. */
export interface Lease {
  readonly token: string;
  readonly client: string;
  readonly since: number;
  readonly until: number;
}

/** A write that somebody has confirmed on the screen: a setting to a value, or the save. */
export type Confirmed = {
  readonly step: string;
  readonly device: string;
  /** The card it was confirmed with: registers told later by another page change nothing. */
  readonly card: Card;
} & ({ readonly role: Role; readonly value: number | string } | { readonly commit: true });

/** A lease lapses when nothing is heard of its holder for so long, and a confirmation after so long, ms. */
export const leaseMs = 20_000;
const confirmedMs = 20 * 60_000;
const mostConfirmations = 200;

/** One writer at a time, and nothing written that was not confirmed. `now` is asked for each time, so that specs can hold the clock. */
export function makeLeases<Outcome>(now: () => number) {
  let lease: Lease | null = null;
  /** Writes under way: the lease does not lapse under one, however slow the device is. */
  let busy = 0;
  const confirmations = new Map<
    string,
    { readonly token: string; readonly until: number; readonly open: Map<string, Confirmed>; readonly done: Map<string, Promise<Outcome>> }
  >();
  const holder = (): Lease | null => (lease && (busy > 0 || lease.until > now()) ? lease : null);
  return {
    holder,
    /** Takes or renews the lease; null while another holds it. */
    take(client: string): Lease | null {
      const held = holder();
      if (held && held.client !== client) return null;
      lease = held ? { ...held, until: now() + leaseMs } : { token: randomUUID(), client, since: now(), until: now() + leaseMs };
      return lease;
    },
    holds(token: string): boolean {
      const held = holder();
      if (held?.token !== token) return false;
      lease = { ...held, until: now() + leaseMs };
      return true;
    },
    release(token: string): boolean {
      if (lease?.token !== token) return false;
      lease = null;
      return true;
    },
    /** Keeps what was confirmed; its id is what a write must name. */
    confirm(token: string, steps: readonly Confirmed[]): string {
      for (const [id, c] of confirmations) if (c.until < now() || confirmations.size >= mostConfirmations) confirmations.delete(id);
      const id = randomUUID();
      confirmations.set(id, { token, until: now() + confirmedMs, open: new Map(steps.map((s) => [s.step, s])), done: new Map() });
      return id;
    },
    /**
     * Does what was confirmed, once. A request that comes again, because its answer was lost on the way, gets what came of the first; null for what was
     * not confirmed.
     */
    once(token: string, confirmation: string, step: string, work: (confirmed: Confirmed) => Promise<Outcome>): Promise<Outcome> | null {
      const found = confirmations.get(confirmation);
      if (found?.token !== token) return null;
      const before = found.done.get(step);
      if (before) return before;
      const confirmed = found.open.get(step);
      if (found.until < now() || !confirmed) return null;
      found.open.delete(step);
      busy++;
      const outcome = work(confirmed).finally(() => {
        busy--;
        if (lease?.token === token) lease = { ...lease, until: now() + leaseMs };
      });
      found.done.set(step, outcome);
      return outcome;
    },
  };
}
