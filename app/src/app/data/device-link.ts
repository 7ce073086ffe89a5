import { computed, inject, Injectable, signal, DestroyRef } from '@angular/core';
import { Observable, type Subscription } from 'rxjs';
import * as z from 'zod';
import { deviceValuesSchema, type Card, type DeviceValues, type Live, type Role } from '@calm-keel/core/card';
import { parseJson } from '@calm-keel/core/job';
import type { Table, Talker, Words } from '@calm-keel/core/wire';
import { changed } from './changed';
import { uniqueId } from './free-id';
import { heldUnder, holdText } from './small-store';

/** What a device told last, and when that came in on this page. */
export interface LiveState {
  readonly at: number;
  readonly live: Partial<Record<Live, number | null>>;
  /** Of a device that only talks: its fields as it wrote them. */
  readonly fields?: Readonly<Record<string, string>>;
  /** What is odd about what it says, and how much of it was let go. */
  readonly odd?: string;
  readonly letGo?: z.infer<typeof letGoSchema>;
  readonly problem: string | null;
}

/** A device on the server’s list: one with registers is read and written, one that talks is listened to. */
export interface Listed {
  readonly name: string;
  readonly kind: 'registers' | 'talks';
}

const letGoSchema = z.object({ noise: z.number(), doubled: z.number(), late: z.number(), stored: z.number() });

/** What came of a write; only `readBack` says that the value stands. `acknowledged`: a save that nobody has seen. */
const outcomeSchema = z.object({
  kind: z.enum(['readBack', 'acknowledged', 'differs', 'refused', 'wrongDevice', 'unknown']),
  value: z.union([z.number(), z.string()]).nullish(),
  says: z.string(),
});
export type Outcome = z.infer<typeof outcomeSchema>;

/** A write of which nobody knows what came: its step, and when it was sent, ms since 1970. */
export interface Doubt {
  readonly step: string;
  readonly at: number;
}
const doubtSchema = z.object({ step: z.string().max(120), at: z.number() });
const doubtPrefix = 'calm-keel.sent.';

/** One step to write: a setting to a value, or the save. */
export type WireStep = { readonly step: string; readonly role: Role; readonly value: number | string } | { readonly step: string; readonly commit: true };

const listSchema = z.object({
  devices: z.array(z.object({ name: z.string(), kind: z.enum(['registers', 'talks']).default('registers') })),
  simulation: z.boolean(),
});
const eventSchema = z.object({
  device: z.string(),
  live: z.record(z.string(), z.number().nullable()).optional(),
  problem: z.string().optional(),
  fields: z.record(z.string(), z.string()).optional(),
  odd: z.string().optional(),
  letGo: letGoSchema.optional(),
});

/** A sentence from the server, or why there is none. */
export class LinkProblem extends Error {
  constructor(
    text: string,
    readonly code?: string,
  ) {
    super(text);
  }
}

/** How old a live value may be before it is called old, ms. */
export const staleMs = 5000;

/**
 * The link to devices through the server of this page. Without one, or without devices on its list, everything is done by hand and nothing is
 * missing. Values come in as a stream; writing takes a lease, and sends only what was confirmed.
 */
@Injectable({ providedIn: 'root' })
export class DeviceLink {
  /** The server’s list; null until it has been asked. */
  readonly devices = signal<readonly Listed[] | null>(null);
  readonly names = computed<readonly string[] | null>(() => this.devices()?.map((d) => d.name) ?? null);
  readonly simulation = signal(false);
  readonly live = signal<ReadonlyMap<string, LiveState>>(new Map());
  /** Moves once a second while values stream, so that their age can be told. */
  readonly now = signal(Date.now());
  readonly there = computed(() => (this.names()?.length ?? 0) > 0);

  /**
   * Devices to which something was sent and of which nobody knows whether it was taken. Kept beside the page until the device has been read: a reload, or a
   * server that was started anew in between, does not make it known.
   */
  readonly doubts = signal<ReadonlyMap<string, Doubt>>(storedDoubts());

  /** This page: a second tab is another one. */
  private readonly client = uniqueId();
  private token: string | null = null;
  private told = new Map<string, Card>();
  private stream: Subscription | null = null;
  private streaming = '';
  /** Devices that this page itself listens to, through ports of this machine. */
  private readonly heard = new Map<string, Talker>();
  private readonly clock = setInterval(() => {
    this.hear();
    if (this.stream || this.heard.size > 0) this.now.set(Date.now());
  }, 1000);

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      clearInterval(this.clock);
      this.stop();
      for (const talker of this.heard.values()) talker.close();
    });
    // A page that is closed gives the lease up; one that crashes lets it lapse.
    window.addEventListener('pagehide', () => {
      if (this.token)
        void fetch('/api/link/lease', {
          method: 'DELETE',
          keepalive: true,
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ token: this.token }),
        });
    });
  }

  private async ask(path: string, method = 'GET', body?: unknown): Promise<unknown> {
    let response: Response;
    try {
      response = await fetch(`/api/link${path}`, {
        method,
        ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
      });
    } catch {
      throw new LinkProblem('The server does not answer. Everything can still be done by hand.');
    }
    const answer: unknown = await response.json().catch(() => null);
    if (response.ok) return answer;
    const told = answer as { code?: string; text?: string } | null;
    throw new LinkProblem(told?.text ?? `The server answered ${response.status}.`, told?.code);
  }

  /** Asks which devices there are. */
  async look(): Promise<void> {
    try {
      const read = listSchema.safeParse(await this.ask(''));
      this.list(read.success ? read.data.devices : []);
      this.simulation.set(read.success && read.data.simulation);
    } catch {
      this.list([]);
    }
  }

  /** What is on the server’s list, and what this page listens to itself, which goes before it. */
  private list(served: readonly Listed[]): void {
    const own = [...this.heard.keys()].map((name): Listed => ({ name, kind: 'talks' }));
    this.devices.set([...served.filter((d) => !this.heard.has(d.name)), ...own]);
  }

  /** Whether this page itself listens to a device, through a port of this machine. */
  readonly listensTo = (name: string): boolean => this.devices() !== null && this.heard.has(name);

  /** Listens to a device through a port of this machine, under its name; no server is needed. What it says comes like that of any other that talks. */
  listen(name: string, talker: Talker): void {
    this.heard.get(name)?.close();
    this.heard.set(name, talker);
    this.list(this.devices() ?? []);
    this.hear();
  }

  /** Gives the port back. What was heard last stays, with its age. */
  unlisten(name: string): void {
    this.heard.get(name)?.close();
    this.heard.delete(name);
    this.list((this.devices() ?? []).filter((d) => d.name !== name));
  }

  private hear(): void {
    for (const [name, talker] of this.heard) {
      const { heard, problem, let: letGo } = talker.now();
      const state: LiveState = heard ? { at: heard.at, live: {}, fields: heard.fields, letGo, problem } : { at: 0, live: {}, letGo, problem };
      this.live.update((map) => new Map(map).set(name, state));
    }
  }

  /** Whether a device of the list is only listened to. */
  readonly talks = (name: string): boolean => this.devices()?.some((d) => d.name === name && d.kind === 'talks') ?? false;

  /** Tells the server what stands at each name that can be asked, and streams what all of them tell. */
  async attach(devices: readonly { readonly name: string; readonly card: Card | null }[]): Promise<void> {
    const heard = devices.filter((d) => this.talks(d.name) && !this.heard.has(d.name));
    const known = devices.flatMap(({ name, card }) => (this.names()?.includes(name) && !this.talks(name) && card?.telemetry ? [{ name, card }] : []));
    await this.tell(known);
    const wanted = [...known, ...heard].map((d) => d.name).join(',');
    if (wanted === this.streaming && this.stream) return;
    this.stop();
    if (wanted === '') return;
    this.streaming = wanted;
    // A server that was started anew knows nothing of the cards.
    const again = (): void => {
      this.told.clear();
      void this.tell(known).catch(() => undefined);
    };
    this.stream = events(`/api/link/live?devices=${encodeURIComponent(wanted)}`, again).subscribe((text) => {
      const read = eventSchema.safeParse(JSON.parse(text));
      if (!read.success) return;
      const { device, live, problem, fields, odd, letGo } = read.data;
      this.live.update((map) => {
        const before = map.get(device);
        // What was told last stays, with its age, while nothing new comes.
        const state: LiveState =
          live || fields
            ? {
                at: Date.now(),
                live: live ?? {},
                problem: null,
                ...(fields ? { fields } : {}),
                ...(odd === undefined ? {} : { odd }),
                ...(letGo ? { letGo } : {}),
              }
            : { ...(before ?? { at: 0, live: {} }), problem: problem ?? 'No answer.' };
        return new Map(map).set(device, state);
      });
    });
  }

  private async tell(devices: readonly { readonly name: string; readonly card: Card }[]): Promise<void> {
    for (const { name, card } of devices) {
      if (this.told.get(name) === card) continue;
      await this.ask(`/devices/${encodeURIComponent(name)}/card`, 'PUT', card);
      this.told.set(name, card);
    }
  }

  stop(): void {
    this.stream?.unsubscribe();
    this.stream = null;
    this.streaming = '';
  }

  /** The words of a range of registers, by their register: only reading. With what was read before it fell silent, and why. */
  async range(name: string, of: { readonly from: number; readonly count: number; readonly table: Table }): Promise<{ words: Words; problem: string | null }> {
    const answer = await this.ask(`/devices/${encodeURIComponent(name)}/range`, 'POST', of);
    const read = z.object({ words: z.array(z.tuple([z.number(), z.number()])), problem: z.string().nullable() }).safeParse(answer);
    if (!read.success) throw new LinkProblem('The server’s answer makes no sense. Try a shorter range.');
    return { words: new Map(read.data.words), problem: read.data.problem };
  }

  /** Everything that stands on a device now. */
  async read(name: string): Promise<{ values: DeviceValues; firmware: string | null }> {
    const answer = await this.ask(`/devices/${encodeURIComponent(name)}/values`);
    const read = z.object({ values: deviceValuesSchema, firmware: z.string().nullable() }).safeParse(answer);
    if (!read.success) throw new LinkProblem('The server’s answer makes no sense. Read the display instead.');
    this.doubt(name, null);
    return read.data;
  }

  /**
   * Writes steps that somebody has confirmed, one after the other, and stops at the first that does not read back.
   *
   * @param told what came of each, as it comes; false stops there
   */
  async write(device: string, steps: readonly WireStep[], told: (step: WireStep, outcome: Outcome) => boolean): Promise<void> {
    if (this.doubts().has(device))
      throw new LinkProblem('Nobody knows whether the last write to this device was taken. Read the device before anything is sent to it.');
    const lease = z.object({ token: z.string() }).parse(await this.ask('/lease', 'POST', { client: this.client }));
    this.token = lease.token;
    const { confirmation } = z.object({ confirmation: z.string() }).parse(await this.ask('/confirm', 'POST', { token: lease.token, device, steps }));
    for (const step of steps) {
      this.doubt(device, { step: step.step, at: Date.now() });
      const outcome = await this.sent({ token: lease.token, confirmation, step: step.step });
      if (outcome.kind !== 'unknown') this.doubt(device, null);
      if (!told(step, outcome) || (outcome.kind !== 'readBack' && outcome.kind !== 'acknowledged')) return;
    }
  }

  /** Sends one confirmed step. An answer that is lost on the way, or makes no sense, leaves the device unknown: it may have been taken. */
  private async sent(body: unknown): Promise<Outcome> {
    let answer: unknown;
    try {
      answer = await this.ask('/write', 'POST', body);
    } catch (error) {
      // With a code the server has said itself that nothing was written.
      if (error instanceof LinkProblem && error.code !== undefined && error.code !== 'failed') return { kind: 'refused', says: error.message };
      return { kind: 'unknown', says: lostAnswer };
    }
    const read = outcomeSchema.safeParse(answer);
    return read.success ? read.data : { kind: 'unknown', says: lostAnswer };
  }

  private doubt(device: string, doubt: Doubt | null): void {
    this.doubts.update((map) => changed(map, device, doubt));
    // Without that store it is known for as long as the page is open; the server knows it too.
    holdText(doubtPrefix + device, doubt && JSON.stringify(doubt));
  }

  /** Lets another page write. */
  async release(): Promise<void> {
    const token = this.token;
    this.token = null;
    if (token) await this.ask('/lease', 'DELETE', { token }).catch(() => undefined);
  }
}

const lostAnswer = 'The answer was lost, so nobody knows whether it was set. It is not sent again: read the device first.';

/** What was noted before it was sent. A note that is damaged still says that something was. */
const storedDoubts = (): ReadonlyMap<string, Doubt> =>
  new Map(
    heldUnder(doubtPrefix).map(([device, text]) => {
      const value = parseJson(text, 'note');
      const read = doubtSchema.safeParse(value.ok ? value.value : null);
      return [device, read.success ? read.data : { step: '', at: 0 }];
    }),
  );

/** Server-sent events as a stream of texts; it comes back by itself when the connection does. */
const events = (url: string, reopened: () => void): Observable<string> =>
  new Observable((subscriber) => {
    const source = new EventSource(url);
    let opened = false;
    source.onopen = () => {
      if (opened) reopened();
      opened = true;
    };
    source.onmessage = (event: MessageEvent<string>) => {
      subscriber.next(event.data);
    };
    return () => {
      source.close();
    };
  });
