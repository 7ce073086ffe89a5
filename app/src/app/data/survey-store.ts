import { computed, inject, Injectable, signal } from '@angular/core';
import { liveQuery, type Subscription } from 'dexie';
import type { Card } from '@calm-keel/core/card';
import { surveyedCard, withSurvey } from '@calm-keel/core/job';
import { cardOfSurvey, startSurvey, surveySchema, type Survey } from '@calm-keel/core/survey';
import { surveyEnglish } from '@calm-keel/core/words';
import { storageProblem, type SurveyRow } from './database';
import { DATABASE, JobBook } from './job-book';
import { today } from './job-store';
import { Library } from './library';

const keptSteps = 60;
const mergeWithinMs = 2000;

/** A small named change of a survey. */
type SurveyCommand = (survey: Survey) => Survey;

/**
 * The survey in view. Every answer is stored as it is given, on the newest state whichever tab wrote it, with what undo goes back to: a phone that goes dark
 * loses nothing.
 */
@Injectable({ providedIn: 'root' })
export class SurveyStore {
  private readonly db = inject(DATABASE);
  private readonly book = inject(JobBook);
  private readonly library = inject(Library);
  private readonly row = signal<SurveyRow | null>(null);
  private readonly pending = signal<readonly SurveyCommand[]>([]);
  private subscription: Subscription | null = null;
  private written: Promise<void> = Promise.resolve();
  private opened = '';
  private told: SurveyRow | null = null;

  readonly state = signal<'loading' | 'ready' | 'missing' | 'broken'>('loading');
  /** Why the last answer could not be stored. */
  readonly problem = signal<string | null>(null);
  readonly savedAt = computed(() => this.row()?.at ?? 0);
  readonly undoLabel = computed(() => this.row()?.past.at(-1)?.label ?? null);
  /** With answers that are not written yet. */
  readonly survey = computed<Survey | null>(() => {
    const row = this.row();
    return row && this.pending().reduce<Survey>((survey, command) => command(survey), row.doc);
  });
  /** The card as it would be now. */
  readonly card = computed<Card | null>(() => {
    const survey = this.survey();
    return survey && cardOfSurvey(survey, surveyEnglish);
  });

  /** Begins a survey of a card, or goes on with the one that was begun. On another device of the same card it goes on there. */
  async begin(card: Card, on?: Survey['on']): Promise<string> {
    await this.db.transaction('rw', this.db.surveys, async () => {
      const row = await this.db.surveys.get(card.id);
      if (row && surveySchema.safeParse(row.doc).success) {
        if (on) await this.db.surveys.put({ ...row, doc: { ...row.doc, on }, rev: row.rev + 1 });
      } else await this.db.surveys.put({ id: card.id, doc: startSurvey(card, today(), on ? { on } : {}), rev: 0, past: [], at: Date.now() });
    });
    return card.id;
  }

  /** Shows a survey, and whatever any tab makes of it. */
  open(id: string): void {
    if (this.opened !== id) {
      this.row.set(null);
      this.told = null;
      this.state.set('loading');
    }
    this.opened = id;
    this.subscription?.unsubscribe();
    this.subscription = liveQuery(() => this.db.surveys.get(id)).subscribe({
      next: (row) => {
        const read = row && surveySchema.safeParse(row.doc);
        if (!row || !read) this.state.set('missing');
        else if (!read.success) this.state.set('broken');
        else {
          this.take({ ...row, doc: read.data });
          this.state.set('ready');
        }
      },
      error: (error: unknown) => {
        this.problem.set(storageProblem(error));
      },
    });
  }

  /** What the database holds; while something is being written it may hold that already, and waits until it is off the list. */
  private take(row: SurveyRow): void {
    if (this.pending().length > 0) this.told = row;
    else if (row.rev >= (this.row()?.rev ?? -1)) this.row.set(row);
  }

  close(): void {
    this.subscription?.unsubscribe();
    this.subscription = null;
    this.opened = '';
  }

  /**
   * Changes the survey at once and stores it. Quick repeats with the same key are one step of undo.
   *
   * @param mergeKey empty: a step of its own
   */
  edit(label: string, command: SurveyCommand, mergeKey = ''): void {
    const { opened } = this;
    this.pending.update((list) => [...list, command]);
    this.written = this.written.then(async () => {
      let stored: SurveyRow | null = null;
      try {
        stored = await this.db.transaction('rw', this.db.surveys, async () => {
          const row = await this.db.surveys.get(opened);
          if (!row) throw new Error('this survey is no longer on this device');
          const last = row.past.at(-1);
          const at = Date.now();
          const grows = mergeKey !== '' && last?.mergeKey === mergeKey && at - last.at < mergeWithinMs;
          const past = grows ? [...row.past.slice(0, -1), { ...last, at }] : [...row.past, { label, doc: row.doc, mergeKey, at }].slice(-keptSteps);
          const next: SurveyRow = { ...row, doc: surveySchema.parse(command(row.doc)), rev: row.rev + 1, past, at };
          await this.db.surveys.put(next);
          return next;
        });
        this.problem.set(null);
      } catch (error) {
        this.problem.set(storageProblem(error));
      }
      // Both at once: whoever looks sees the command once.
      if (stored && opened === this.opened) this.row.set(stored);
      this.pending.update((list) => list.filter((c) => c !== command));
      const { told } = this;
      if (this.pending().length > 0 || !told) return;
      this.told = null;
      if (told.id === this.opened) this.take(told);
    });
  }

  /** Goes one step back. */
  undo(): void {
    const { opened } = this;
    this.written = this.written.then(() =>
      this.db
        .transaction('rw', this.db.surveys, async () => {
          const row = await this.db.surveys.get(opened);
          const last = row?.past.at(-1);
          if (row && last) await this.db.surveys.put({ ...row, doc: last.doc, rev: row.rev + 1, past: row.past.slice(0, -1), at: Date.now() });
        })
        .catch((error: unknown) => {
          this.problem.set(storageProblem(error));
        }),
    );
  }

  /** Waits until everything is stored. */
  flush(): Promise<void> {
    return this.written;
  }

  /**
   * Takes the survey’s card into this device’s library and onto its job, with what was read as found. The survey is over then; it is begun anew from the card.
   *
   * @returns the job and device it was made on, or null
   */
  async finish(): Promise<Survey['on'] | null> {
    await this.flush();
    const survey = this.survey();
    if (!survey) return null;
    const { on } = survey;
    try {
      if (on && (await this.book.isThere(on.job)))
        await this.book.edit(on.job, `Take the survey of ${survey.card.model}`, (job) => withSurvey(job, survey, surveyEnglish, today()), '');
      await this.library.putCard(surveyedCard(survey, surveyEnglish, today()));
      await this.db.surveys.delete(survey.id);
      return on ?? null;
    } catch (error) {
      this.problem.set(storageProblem(error));
      throw error;
    }
  }
}
