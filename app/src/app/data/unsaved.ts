import { computed, Injectable, signal } from '@angular/core';
import * as z from 'zod';
import { parseJson, readJob, writeJob, type Job } from '@calm-keel/core/job';
import { uniqueId } from './free-id';
import { heldUnder, holdText } from './small-store';

/** Changes of a job that the device could not store, as this browser holds them beside its database until they are stored or given up. */
export interface Unsaved {
  readonly id: string;
  readonly name: string;
  /** What was done, in the words of undo. */
  readonly label: string;
  /** The count of the stored job they were made on. */
  readonly rev: number;
  /** Milliseconds since 1970, to be shown. */
  readonly at: number;
  readonly doc: Job;
  /** The page they were made on. */
  readonly page: string;
}

const prefix = 'calm-keel.unsaved.';
const keyOf = (u: Pick<Unsaved, 'page' | 'id'>): string => `${prefix}${u.page}.${u.id}`;

/**
 * A place for changes that found no room in the database: the small store of the browser, which has room of its own. It outlives a reload and the page; on a
 * disk that is truly full it may not outlive the browser, and the sentences say so.
 */
@Injectable({ providedIn: 'root' })
export class UnsavedChanges {
  /** This page; a reload is another one. */
  readonly page = uniqueId();
  private readonly stored = signal<readonly Unsaved[]>(readAll());
  /** What is held for any job, the newest first. */
  readonly all = computed(() => [...this.stored()].sort((a, b) => b.at - a.at));

  constructor() {
    window.addEventListener('storage', (event) => {
      if (event.key === null || event.key.startsWith(prefix)) this.look();
    });
  }

  /** Looks again: another page may have put something there, or taken it out. */
  look(): void {
    this.stored.set(readAll());
  }

  /** Holds the changes of a job; false when there is no room for that either, and they are only on this page. */
  hold(changes: Omit<Unsaved, 'page'>): boolean {
    const entry: Unsaved = { ...changes, page: this.page };
    const held = holdText(keyOf(entry), JSON.stringify({ ...entry, doc: writeJob(entry.doc) }));
    // What no longer fits is not held in an older form either.
    if (!held) holdText(keyOf(entry), null);
    this.look();
    return held;
  }

  /** They are stored, or given up. */
  drop({ id, page }: Pick<Unsaved, 'page' | 'id'>): void {
    if (!this.stored().some((u) => u.id === id && u.page === page)) return;
    holdText(keyOf({ id, page }), null);
    this.look();
  }
}

/** What the browser holds. Something that cannot be read is left where it is, and not told of as if it could be put back. */
const readAll = (): readonly Unsaved[] =>
  heldUnder(prefix).flatMap(([name, text]) => {
    const entry = parsed(text);
    return entry && keyOf(entry) === prefix + name ? [entry] : [];
  });

const heldSchema = z.object({
  id: z.string(),
  name: z.string(),
  label: z.string(),
  page: z.string(),
  rev: z.number(),
  at: z.number(),
  doc: z.string(),
});

function parsed(text: string): Unsaved | null {
  const value = parseJson(text, 'note');
  const entry = value.ok ? heldSchema.safeParse(value.value) : null;
  const doc = entry?.success ? readJob(entry.data.doc) : null;
  return entry?.success && doc?.ok ? { ...entry.data, doc: doc.value } : null;
}
