import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import { settingsSaid } from '@calm-keel/core/card';
import { guessFields, logContextOf, type Guess, type Mapping } from '@calm-keel/core/proof';
import { cardOf, devicesOf } from '@calm-keel/core/settings';
import { rangeVolts } from '@calm-keel/core/system';
import { DeviceLink } from './device-link';
import { JobBook } from './job-book';
import { JobStore } from './job-store';

/** What is held of what each device that only talks has said, for guessing what it means. */
const mostSamples = 12;
/** Under what a mapping of a device’s fields is remembered: by its name, not by its fields, of which some come and go. */
const keyOf = (name: string): string => `talks\u001f${name}`;

/** What the fields of devices that only talk mean: guessed from what they said, set right by a person, remembered by their names. */
@Injectable({ providedIn: 'root' })
export class FieldMaps {
  private readonly link = inject(DeviceLink);
  private readonly store = inject(JobStore);
  private readonly book = inject(JobBook);
  private readonly heard = new Map<string, Readonly<Record<string, string>>[]>();
  private readonly guesses = signal<ReadonlyMap<string, Guess>>(new Map());
  /** What somebody has said; null while it is being looked up. */
  private readonly said = signal<ReadonlyMap<string, Mapping | null>>(new Map());

  constructor() {
    effect(() => {
      const live = this.link.live();
      untracked(() => {
        for (const [name, { fields }] of live) if (fields) this.hear(name, fields);
      });
    });
  }

  /** The mapping that a device is read by; null before it has said anything. */
  of(name: string): Mapping | null {
    const said = this.said().get(name);
    const guess = this.guesses().get(name)?.mapping;
    return said ? withNew(said, guess) : (guess ?? null);
  }

  /** Whether somebody has looked at it. */
  readonly settled = (name: string): boolean => Boolean(this.said().get(name));
  readonly doubts = (name: string): readonly string[] => (this.settled(name) ? [] : (this.guesses().get(name)?.doubts ?? []));

  /** Takes what somebody says, and remembers it. */
  async set(name: string, mapping: Mapping): Promise<void> {
    this.said.update((map) => new Map(map).set(name, mapping));
    await this.book.putMapping(keyOf(name), mapping);
  }

  private hear(name: string, fields: Readonly<Record<string, string>>): void {
    const plan = this.store.plan();
    if (!plan) return;
    if (!this.said().has(name)) {
      this.said.update((map) => new Map(map).set(name, null));
      void this.book.getMapping(keyOf(name)).then((kept) => {
        if (kept) this.said.update((map) => (map.get(name) ? map : new Map(map).set(name, kept)));
      });
    }
    const samples = this.heard.get(name) ?? [];
    if (samples.at(-1) === fields) return;
    const fresh = Object.keys(fields).some((key) => !samples.some((s) => key in s));
    if (samples.length >= mostSamples && !fresh) return;
    this.heard.set(name, [...samples, fields].slice(-mostSamples));
    const own = devicesOf(plan.input).find((d) => d.link === name);
    const isCharger = plan.input.system.chargers.some((c) => c.id === own?.id);
    // What is set on it is no reading, whatever unit it is written in.
    const card = own && cardOf(plan.input, own);
    const set = new Set(card ? settingsSaid(card, fields, rangeVolts(plan.facts)).fits.map((f) => f.written) : []);
    const readings = (this.heard.get(name) ?? []).map((s) => Object.fromEntries(Object.entries(s).filter(([key]) => !set.has(key))));
    const guess = guessFields(readings, logContextOf(plan, isCharger ? own?.name : undefined));
    if (guess.ok) this.guesses.update((map) => new Map(map).set(name, guess.value));
  }
}

/** A mapping with the fields that were not there when somebody looked at it: they are not read before somebody says what they mean. */
function withNew(said: Mapping, guess: Mapping | undefined): Mapping {
  const more = (guess?.columns ?? []).filter((c) => !said.columns.some((s) => s.header === c.header));
  return more.length === 0 ? said : { ...said, columns: [...said.columns, ...more.map((c) => ({ header: c.header, meaning: 'ignore' as const }))] };
}
