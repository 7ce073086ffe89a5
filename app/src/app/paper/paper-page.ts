import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  linkedSignal,
  type OnDestroy,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { batterySaid, isOwnPaper, paperAt, withBattery, withDerating, withPaper, withTaken, type Job } from '@calm-keel/core/job';
import { capital } from '@calm-keel/core/quantity';
import {
  basisSchema,
  cellsPerBlock,
  countsPer,
  figureInfo,
  figureKeys,
  rankWords,
  ranks,
  readFigure,
  printWithBasis,
  type BankShape,
  type FigureKey,
  type Rank,
} from '@calm-keel/core/sheet';
import { paperEnglish } from '@calm-keel/core/words';
import { figureOfEntry, type PaperContext } from '@calm-keel/core/paper';
import { JobStore } from '../data/job-store';
import { PaperReader } from '../data/paper-reading';
import { heldText, holdText } from '../data/small-store';
import { ViewSize } from '../data/view-size';
import { ChoiceField } from '../ui/choice-field';
import { Glyph } from '../ui/glyph';
import { itemsOf, asChanged, type Changed, type Item } from './paper-items';
import { PaperSheets, type Mark } from './paper-sheets';

/** A maker’s paper read where it lies: the page beside the slip, one key a figure. Nothing counts before it is taken. */
@Component({
  selector: 'ck-paper-page',
  imports: [RouterLink, Glyph, ChoiceField, PaperSheets],
  providers: [PaperReader],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './paper-page.html',
  styleUrl: './paper-page.scss',
  host: { '(document:keydown)': 'keys($event)' },
})
export class PaperPage implements OnDestroy {
  protected readonly store = inject(JobStore);
  protected readonly reader = inject(PaperReader);
  protected readonly size = inject(ViewSize);
  private readonly slip = viewChild<ElementRef<HTMLElement>>('slip');
  /** The document, by its id in the job. */
  readonly doc = input.required<string>();
  /** A figure to show at once. */
  readonly figure = input<string>();
  protected readonly words = paperEnglish;

  protected readonly attachment = computed(() => this.store.job()?.attachments.find((a) => a.id === this.doc()) ?? null);
  protected readonly paper = computed(() => {
    const job = this.store.job();
    return job ? paperAt(job, this.doc()) : {};
  });
  protected readonly own = computed(() => {
    const job = this.store.job();
    return job !== null && isOwnPaper(job, this.doc());
  });
  protected readonly rank = computed<Rank>(() => (this.own() ? this.store.job()?.sheet.rank : undefined) ?? this.paper().rank ?? 'notSaid');
  protected readonly rankOptions = ['notSaid' as const, ...ranks.filter((r) => r !== 'notSaid')].map((value) => ({ value, words: capital(rankWords[value]) }));

  /** Which of the paper’s batteries; the job’s own by name, until another is chosen. */
  protected readonly battery = signal<string | null>(null);
  private readonly shape = computed<BankShape | null>(() => {
    const shape = this.store.plan()?.facts.shape;
    const as = this.reader.reading()?.readAs;
    return shape && as ? { ...shape, cellsPerUnit: as.cells, cellsPerBlock: cellsPerBlock(as.chemistry) } : null;
  });
  protected readonly changed = signal<Readonly<Record<string, Changed>>>({});
  /** What somebody said no to; held beside the job, so that a reload asks nothing twice. */
  protected readonly refused = linkedSignal<string, readonly string[]>({ source: () => this.held(), computation: (key) => heldText(key)?.split(' ') ?? [] });
  protected readonly items = computed<readonly Item[]>(() => {
    const job = this.store.job();
    const reading = this.reader.reading();
    const shape = this.shape();
    return job && reading && shape ? itemsOf(job, this.doc(), reading, shape, this.changed(), this.refused()) : [];
  });
  protected readonly at = linkedSignal<readonly Item[], string | null>({
    source: () => this.items(),
    computation: (items, before) => {
      if (before?.value && items.some((i) => i.id === before.value)) return before.value;
      const asked = items.find((i) => i.candidate?.key === this.figure() && i.state === 'taken') ?? items.find((i) => i.candidate?.key === this.figure());
      return (asked ?? items.find((i) => open(i)) ?? items[0])?.id ?? null;
    },
  });
  protected readonly item = computed(() => this.items().find((i) => i.id === this.at()) ?? null);
  protected readonly number = computed(() => this.items().findIndex((i) => i.id === this.at()) + 1);
  protected readonly left = computed(() => this.items().filter(open).length);
  protected readonly sure = computed(() => {
    const keys = new Set<string>();
    // Of two that say otherwise neither is sure.
    return this.items().filter((i) => i.state === 'sure' && i.instead === null && !keys.has(i.name) && keys.add(i.name));
  });
  protected readonly marks = computed<readonly Mark[]>(() =>
    this.items()
      .filter((i) => i.state !== 'not')
      .map((i) => ({ id: i.id, name: `${i.name}, ${i.value}`, page: i.page, boxes: i.boxes, look: i.state === 'not' ? 'look' : i.state })),
  );
  protected readonly rivals = computed(() => {
    const item = this.item();
    return item?.candidate ? this.items().filter((i) => i.id !== item.id && i.candidate?.key === item.candidate?.key) : [];
  });
  protected readonly meanings = computed(() => {
    const candidate = this.item()?.candidate;
    const reading = this.reader.reading();
    const shape = this.shape();
    if (!candidate || !reading || !shape) return [];
    const original = reading.candidates.find((c) => c.id === candidate.id) ?? candidate;
    return figureKeys
      .filter((key) => (figureInfo[key].chemistries as readonly string[]).includes(reading.readAs.chemistry))
      .filter((key) => key === candidate.key || asChanged(original, { key }, reading.readAs.chemistry, shape) !== null)
      .map((value) => ({ value, words: figureInfo[value].name }));
  });
  protected readonly state = this.reader.state;
  protected readonly opening = computed(() => {
    const state = this.state();
    return state.kind === 'opening' ? state : { done: 0, of: 0 };
  });
  protected readonly picturePage = computed(() => {
    const state = this.state();
    return state.kind === 'picture' ? state.page : 1;
  });
  protected readonly pictureShare = computed(() => {
    const state = this.state();
    return state.kind === 'picture' ? Math.round(100 * state.share) : 0;
  });
  protected readonly fault = computed(() => {
    const state = this.state();
    return state.kind === 'fault' ? paperEnglish.faults[state.fault] : '';
  });
  protected readonly opened = computed(() => {
    const state = this.state();
    return state.kind === 'read' ? state.paper : null;
  });
  protected readonly batteryOptions = computed(() => {
    const reading = this.reader.reading();
    return [...(reading?.battery ? [] : [{ value: '', words: 'Choose' }]), ...(reading?.batteries ?? []).map((value) => ({ value, words: value }))];
  });
  /** Lines of settings that are no figure, and those whose value cannot be read. */
  protected readonly foreign = computed(() => this.reader.reading()?.leftOut.filter((line) => line.why !== 'unknown') ?? []);
  /** The pages hold no words: a scan, or a picture. */
  protected readonly blank = computed(() => {
    const state = this.reader.state();
    return state.kind === 'read' && state.paper.pages.every((page) => page.words === 0);
  });
  /** What is being typed instead of a reading. */
  protected readonly typing = signal<string | null>(null);
  protected readonly said = signal('');
  protected readonly wrong = signal<string | null>(null);

  constructor() {
    effect(() => {
      const attachment = this.attachment();
      const ready = this.store.state() === 'ready';
      if (!attachment || !ready) return;
      untracked(() => {
        const context = this.context();
        const job = this.store.job();
        if (context && job && this.asked !== attachment.id) {
          this.asked = attachment.id;
          void this.reader.open(job.id, attachment, () => this.context() ?? context);
        }
      });
    });
    // Another chemistry, other cells, another battery: the same words mean other figures.
    effect(() => {
      const context = this.context();
      if (context && untracked(this.reader.state).kind === 'read') void this.reader.again(context);
    });
  }
  private asked: string | null = null;

  ngOnDestroy(): void {
    this.reader.close();
  }

  private readonly held = computed(() => `calm-keel paper ${this.store.job()?.id ?? ''} ${this.doc()}`);

  private readonly context = computed<PaperContext | null>(
    () => {
      const plan = this.store.plan();
      const job = this.store.job();
      if (!plan || !job) return null;
      const named = this.battery() ?? (job.sheet.battery === 'Battery' ? undefined : job.sheet.battery);
      return {
        chemistry: job.sheet.chemistry,
        shape: plan.facts.shape,
        assumed: { chemistry: job.assumed?.['chemistry'] === true, cells: job.assumed?.['cellsInSeries'] === true },
        ...(named === undefined ? {} : { battery: named }),
      };
    },
    { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) },
  );

  protected go(id: string): void {
    this.at.set(id);
    this.typing.set(null);
    this.wrong.set(null);
    this.said.set('');
  }

  /** To the next that waits for an answer, behind this one first. */
  private onward(from: number): void {
    const items = this.items();
    const next = [...items.slice(from), ...items.slice(0, from)].find(open);
    if (next) this.go(next.id);
    this.slip()?.nativeElement.focus({ preventScroll: true });
  }

  protected take(): void {
    const item = this.item();
    if (!item) return;
    const at = this.number();
    if (item.state !== 'taken') {
      const problems = this.store.edit(`Take ${item.name.toLowerCase()} from the paper`, (job) => this.taken(job, item));
      if (problems.length > 0) {
        this.wrong.set(`This does not fit the sheet: ${problems[0]?.text ?? ''}`);
        return;
      }
      this.unrefuse(item.id);
    }
    this.onward(at);
  }

  private taken(job: Job, item: Item): Job {
    const reading = this.reader.reading();
    if (!reading) return job;
    if (item.kind === 'battery') return withBattery(job, this.doc(), batterySaid(reading.facts, reading.readAs));
    if (item.kind === 'derating') return reading.derating ? withDerating(job, reading.derating) : job;
    return item.candidate ? withTaken(job, this.doc(), item.candidate.key, item.candidate) : job;
  }

  protected takeSure(): void {
    const sure = this.sure();
    this.store.edit(sure.length === 1 ? 'Take 1 from the paper' : `Take ${sure.length} from the paper`, (job) =>
      sure.reduce((next, item) => this.taken(next, item), job),
    );
    this.said.set(`${sure.length} taken. ${this.left() === 0 ? 'Nothing is left to look at.' : `${this.left()} left to look at.`}`);
    const said = this.said();
    this.onward(0);
    this.said.set(said);
  }

  protected refuse(): void {
    const item = this.item();
    if (!item) return;
    const at = this.number();
    const next = [...this.refused().filter((id) => id !== item.id), item.id];
    this.refused.set(next);
    holdText(this.held(), next.join(' '));
    this.onward(at);
  }

  protected unrefuse(id: string): void {
    const next = this.refused().filter((other) => other !== id);
    if (next.length === this.refused().length) return;
    this.refused.set(next);
    holdText(this.held(), next.length === 0 ? null : next.join(' '));
  }

  protected mean(key: string): void {
    const item = this.item();
    if (!item?.candidate) return;
    this.changed.update((all) => ({ ...all, [item.id]: { key: key as FigureKey } }));
    this.slip()?.nativeElement.focus({ preventScroll: true });
  }

  /** The next basis: per cell, per battery, for the bank, per 12 V block. */
  protected basis(): void {
    const candidate = this.item()?.candidate;
    if (!candidate || !countsPer(candidate.entry.unit)) return;
    const bases = basisSchema.options;
    const next = bases[(bases.indexOf(candidate.entry.basis) + 1) % bases.length];
    if (next) this.changed.update((all) => ({ ...all, [candidate.id]: { ...all[candidate.id], basis: next } }));
  }
  protected readonly counts = computed(() => {
    const candidate = this.item()?.candidate;
    return candidate?.entry.state === 'stated' && countsPer(candidate.entry.unit);
  });

  protected type(): void {
    const candidate = this.item()?.candidate;
    if (candidate) this.typing.set(printWithBasis(figureOfEntry(candidate.entry)));
  }

  protected typed(text: string): void {
    const candidate = this.item()?.candidate;
    const reading = this.reader.reading();
    const shape = this.shape();
    if (!candidate || !reading || !shape) return;
    const read = readFigure(candidate.key, text, { chemistry: reading.readAs.chemistry, shape, basis: candidate.entry.basis });
    if (!read.ok || read.value === null) {
      this.wrong.set(read.ok ? 'Type a value, or press “Not this”.' : (read.problems[0]?.text ?? ''));
      return;
    }
    const entry = read.value;
    this.changed.update((all) => ({ ...all, [candidate.id]: { ...all[candidate.id], entry } }));
    this.typing.set(null);
    this.wrong.set(null);
    this.take();
  }

  protected setRank(value: string): void {
    this.store.edit('Say whose figures they are', (job) => withPaper(job, this.doc(), { rank: value as Rank }));
  }

  /** The paper is the sheet that the job names already. */
  protected itself(): void {
    this.store.edit('Say that this is the sheet', (job) =>
      withPaper(job, this.doc(), {
        title: job.sheet.document,
        ...(job.sheet.revision === '' ? {} : { revision: job.sheet.revision }),
        ...(job.sheet.date === '' ? {} : { date: job.sheet.date }),
      }),
    );
  }

  protected choose(battery: string): void {
    this.battery.set(battery);
    this.changed.set({});
  }

  protected keys(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (target.matches('input, textarea, select, summary') || event.ctrlKey || event.metaKey || event.altKey || !this.item()) return;
    const key = event.key.toLowerCase();
    if (key === 'enter' && target.matches('button, a')) return;
    const step = key === 'arrowdown' ? 1 : key === 'arrowup' ? -1 : 0;
    if (step !== 0) {
      const next = this.items()[this.number() - 1 + step];
      if (next) this.go(next.id);
    } else if (key === 'enter') this.take();
    else if (key === 'n') this.refuse();
    else if (key === 'b') this.basis();
    else if (key === 'e') this.type();
    else if (key === 'a' && this.sure().length > 0) this.takeSure();
    else if (key === 'm') document.getElementById('meaning')?.focus();
    else return;
    event.preventDefault();
  }
}

const open = (item: Item): boolean => item.state === 'sure' || item.state === 'look';
