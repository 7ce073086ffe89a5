import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { parameterFor } from '@calm-keel/core/card';
import {
  assess,
  choicesAt,
  hintsOf,
  judgeExercise,
  openBench,
  practisedOf,
  asShown,
  type Action,
  type Assessed,
  type Bench,
  type Claim,
  type Judged,
} from '@calm-keel/core/practice';
import { formatTimeOfDay } from '@calm-keel/core/quantity';
import { practiceEnglish, sayFor, type BenchSay } from '@calm-keel/core/words';
import { Library } from '../data/library';
import { PracticeBook } from '../data/practice-book';
import { Units } from '../data/units';
import { uniqueId } from '../data/free-id';
import { stageLook } from '../ui/stages';

/** How often time moves on the bench, ms. */
const tickMs = 1000;
/** What is done within this time is written at once, ms. */
const saveAfterMs = 150;

/** Two doings that are one: time that passed twice. */
function added(list: readonly Action[], action: Action): readonly Action[] {
  const last = list.at(-1);
  return action.do === 'pass' && last?.do === 'pass' && last.seconds + action.seconds <= 86_400
    ? [...list.slice(0, -1), { do: 'pass', seconds: last.seconds + action.seconds }]
    : [...list, action];
}

/** One exercise in view: the bench, what was done on it and said of it, written down as it is done. */
@Injectable()
export class BenchSession {
  private readonly book = inject(PracticeBook);
  private readonly library = inject(Library);
  private readonly units = inject(Units);
  /** The bench itself, the same while an exercise is open; null until it is there. */
  readonly bench = signal<Bench | null>(null);
  private id = '';
  private rev = 0;
  private actions: readonly Action[] = [];
  private saving: number | undefined;
  private writing: Promise<void> = Promise.resolve();
  /** Counts what was done: everything shown is worked out anew with it. */
  private readonly version = signal(0);

  readonly state = signal<'loading' | 'ready' | 'missing' | 'noLibrary' | 'overtaken'>('loading');
  /** Everything done so far is written down. */
  readonly saved = signal(true);
  readonly claims = signal<readonly Claim[]>([]);
  readonly judged = signal<Judged | null>(null);
  /** Simulated seconds in a real one. */
  readonly speed = signal<0 | 1 | 60>(1);
  private readonly timer = window.setInterval(() => {
    if (this.speed() > 0 && this.state() === 'ready' && !document.hidden) this.act({ do: 'pass', seconds: this.speed() });
  }, tickMs);

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      clearInterval(this.timer);
      this.write();
    });
  }

  /** The bench as it is now: what is worked out from it is so anew with everything that is done, and with time. */
  readonly now = computed(() => {
    this.version();
    return { bench: this.bench() };
  });
  /** How many lines and hints there are: they seldom come with time. */
  private readonly lines = computed(() => this.now().bench?.done().length ?? 0);
  private readonly taken = computed(() => this.now().bench?.hints() ?? 0);

  /** Opens an exercise and does again what was done on it. */
  async open(id: string): Promise<void> {
    this.id = id;
    this.state.set('loading');
    const row = await this.book.opened(id);
    if (this.id !== id) return;
    if (!row) {
      this.state.set('missing');
      return;
    }
    const shipped = this.library.shipped();
    let bench: Bench;
    try {
      if (!shipped) throw new Error('the library is not there');
      bench = openBench(row.exercise, shipped);
    } catch {
      this.state.set('noLibrary');
      return;
    }
    this.rev = row.rev;
    this.actions = row.actions;
    for (const action of row.actions) bench.act(action);
    this.bench.set(bench);
    this.claims.set(row.claims);
    this.judged.set(row.judged ? judgeExercise(bench, row.claims) : null);
    this.state.set('ready');
  }

  readonly say = computed((): BenchSay | null => {
    const bench = this.bench();
    if (!bench) return null;
    const { name, volts, amps } = sayFor(bench.at.plan.input, this.units.scale());
    return {
      name,
      volts,
      amps: (value) => amps(value, 1),
      celsius: (value) => this.units.temperature(value, 1),
      label: (id, role) => {
        const card = bench.devices.find((d) => d.id === id)?.card;
        return (card && parameterFor(card, role)?.label) ?? role;
      },
      shown: (id, role, value) => asShown(bench.at.plan, id, role, value),
      stage: (stage) => stageLook[stage].words,
    };
  });

  /** What was done, in words, the newest first, with its place in the list. */
  readonly done = computed(() => {
    this.lines();
    const [bench, say] = [this.bench(), this.say()];
    return bench && say
      ? bench
          .done()
          .map((d, i) => ({ i, device: d.device, at: formatTimeOfDay(d.minuteOfDay), words: practiceEnglish.done(d, say) }))
          .reverse()
      : [];
  });
  readonly choices = computed(() => {
    const [bench, say] = [this.bench(), this.say()];
    return bench && say ? choicesAt(bench).map((c) => ({ ...c, words: practiceEnglish.choice(c, say) })) : [];
  });
  readonly hints = computed(() => {
    this.taken();
    const [bench, say] = [this.bench(), this.say()];
    return bench && say ? hintsOf(bench).map((h) => practiceEnglish.hint(h, say)) : [];
  });
  readonly moreHints = computed(() => {
    const exercise = this.bench()?.exercise;
    return exercise?.kind === 'find' && this.hints().length < 2 * exercise.faults.length;
  });
  /** What came of each thing said. */
  readonly said = computed(() => {
    this.lines();
    const [bench, say] = [this.bench(), this.say()];
    return bench && say ? this.claims().map((claim) => ({ words: practiceEnglish.choice(claim, say), came: assess(bench, claim) })) : [];
  });

  act(action: Action): void {
    // What is judged stays as it was judged; time and keys may go on to look around.
    const bench = this.bench();
    if (this.state() !== 'ready' || !bench) return;
    bench.act(action);
    if (!this.judged()) {
      this.actions = added(this.actions, action);
      // Time that passes by itself is written down as well; nobody has to be told each second.
      this.later(action.do !== 'pass');
    }
    this.version.update((v) => v + 1);
  }

  /** Says what it is, and by what it shows; said again it takes the place of what was said before. */
  claim(claim: Claim): Assessed {
    this.claims.update((list) => [...list.filter((c) => c.code !== claim.code || c.device !== claim.device), claim]);
    this.later();
    const bench = this.bench();
    return bench ? assess(bench, claim) : 'wrong';
  }

  /** Ends the exercise: it is judged and goes into the book. */
  async judge(): Promise<void> {
    const bench = this.bench();
    if (!bench || this.judged()) return;
    const judged = judgeExercise(bench, this.claims());
    this.judged.set(judged);
    this.speed.set(0);
    this.write();
    await this.writing;
    if (this.state() === 'ready') await this.book.enter(practisedOf(bench, judged, { id: uniqueId(), by: this.book.by(), at: new Date().toISOString() }));
  }

  private later(told = true): void {
    if (told) this.saved.set(false);
    this.saving ??= window.setTimeout(() => {
      this.write();
    }, saveAfterMs);
  }
  private write(): void {
    clearTimeout(this.saving);
    this.saving = undefined;
    if (this.state() !== 'ready') return;
    const state = { actions: this.actions, claims: this.claims(), judged: this.judged() !== null };
    this.writing = this.writing.then(async () => {
      const rev = await this.book.save(this.id, this.rev, state);
      if (rev === 'overtaken') this.state.set('overtaken');
      else if (rev !== null) {
        this.rev = rev;
        this.saved.set(this.saving === undefined);
      }
    });
  }
}
