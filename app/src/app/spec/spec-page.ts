import { afterNextRender, ChangeDetectionStrategy, Component, computed, ElementRef, inject, linkedSignal, signal, untracked } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { withSheetTaken } from '@calm-keel/core/job';
import { formatNumber, formatQuantity, type Problem } from '@calm-keel/core/quantity';
import { neededFigures } from '@calm-keel/core/report';
import {
  chemistryWords,
  editionOf,
  figureOnBank,
  hasFigures,
  printWithBasis,
  ranks,
  readFigure,
  sameBattery,
  sheetDifferences,
  type Figure,
  type FigureEntry,
  type FigureKey,
  type Sheet,
} from '@calm-keel/core/sheet';
import { Documents } from '../data/documents';
import { freeId } from '../data/free-id';
import { JobStore } from '../data/job-store';
import { Library } from '../data/library';
import { Selection } from '../data/selection';
import { ViewSize } from '../data/view-size';
import { ChoiceField } from '../ui/choice-field';
import { FindingsList } from '../ui/findings-list';
import { NextStation } from '../ui/next-station';
import { Glyph } from '../ui/glyph';
import { NumberField } from '../ui/number-field';
import { showInspector } from '../ui/show-inspector';
import { DocumentsPanel } from './documents-panel';
import { entryContext, withEntry } from '../data/edit-figure';
import { FigureInspector } from './figure-inspector';
import { currentRange, figureRows, voltRange, type FigureRow } from './figure-rows';
import { LetterPanel } from '../ui/letter-panel';
import { PastePanel } from './paste-panel';
import { Revisions } from './revisions-panel';
import { SheetForm } from './sheet-form';

/** Spec: the maker's figures as printed, their trail to this bank, their source, and what is missing. */
@Component({
  selector: 'ck-spec-page',
  imports: [
    RouterLink,
    NextStation,
    NumberField,
    ChoiceField,
    FindingsList,
    Glyph,
    FigureInspector,
    SheetForm,
    Revisions,
    PastePanel,
    LetterPanel,
    DocumentsPanel,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './spec-page.html',
  styleUrl: './spec-page.scss',
})
export class SpecPage {
  protected readonly store = inject(JobStore);
  protected readonly selection = inject(Selection);
  protected readonly library = inject(Library);
  private readonly documents = inject(Documents);
  private readonly router = inject(Router);
  private readonly size = inject(ViewSize);
  /** Those that can be said; “not said” is none of them. */
  protected readonly ranks = ranks.filter((rank) => rank !== 'notSaid');
  protected readonly edition = editionOf;
  /** Which panel stands open above the figures. */
  protected readonly panel = signal<'library' | 'paste' | 'revisions' | null>(null);
  /** The figure whose field has the focus, and what stands in it. */
  protected readonly editing = signal<FigureKey | null>(null);
  protected readonly draft = signal('');
  /** What was typed and could not be read, kept as typed until it is mended. */
  protected readonly refused = signal<Readonly<Partial<Record<FigureKey, { readonly text: string; readonly why: string }>>>>({});

  protected readonly sheet = computed(() => this.store.job()?.sheet ?? null);
  protected readonly bears = computed(() => {
    const sheet = this.sheet();
    return sheet ? chemistryWords[sheet.chemistry] : '';
  });
  private readonly other = computed<Sheet | null>(() => this.store.job()?.otherSheets[0] ?? null);
  protected readonly differences = computed(() => {
    const sheet = this.sheet();
    const other = this.other();
    return sheet && other && sameBattery(sheet, other) ? sheetDifferences(sheet, other) : [];
  });
  protected readonly rows = computed<readonly FigureRow[]>(() => {
    const job = this.store.job();
    const plan = this.store.plan();
    return job && plan ? figureRows(job, plan, neededFigures(plan), this.differences(), this.other()) : [];
  });
  /** Battery and document stand first on an empty sheet, and stay there while it is filled: nothing jumps under the hand. */
  protected readonly formFirst = linkedSignal({
    source: () => this.store.job()?.id,
    computation: () => {
      const job = untracked(this.store.job);
      return job !== null && !hasFigures(job.sheet);
    },
  });
  protected readonly key = computed<FigureKey>(() => (this.rows().some((r) => r.key === this.selection.figure()) ? this.selection.figure() : 'absorbVoltage'));
  protected readonly otherRevision = computed(() => this.other()?.revision ?? '');
  protected readonly policies = [
    { value: 'makerOnly', words: 'the maker’s own paper only' },
    { value: 'bestAvailable', words: 'the best available, marked' },
  ];

  protected readonly voltTicks = computed(() => {
    const sheet = this.sheet();
    const [low, high] = sheet ? voltRange(sheet) : [0, 1];
    return [0, 0.5, 1].map((part) => ({ x: 8 + 112 * part, text: formatNumber(low + part * (high - low), 1) }));
  });
  protected readonly currentTicks = computed(() => {
    const sheet = this.sheet();
    const plan = this.store.plan();
    const high = sheet && plan ? currentRange(plan, sheet) : 1;
    return [0, 1].map((part) => ({ x: 8 + 112 * part, text: String(Number((part * high).toFixed(2))) }));
  });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef);
    // An empty sheet is there to be typed: from the first field on, without a search for it.
    afterNextRender(() => {
      if (this.formFirst() && !this.size.phone()) host.nativeElement.querySelector<HTMLElement>('ck-sheet-form input')?.focus();
    });
  }

  /** What the text in the field is understood as. */
  protected readonly reading = computed<{ good: boolean; words: string; notes: readonly string[] } | null>(() => {
    const key = this.editing();
    const plan = this.store.plan();
    const sheet = this.sheet();
    if (!key || !plan || !sheet) return null;
    const before = sheet.figures[key];
    if (before && this.draft() === printWithBasis(before)) return null;
    const read = readFigure(key, this.draft(), entryContext(plan, before));
    if (!read.ok) return { good: false, words: read.problems[0]?.text ?? '', notes: [] };
    if (!read.value) return { good: true, words: before ? 'Taken off the sheet.' : 'Not on the sheet.', notes: [] };
    return { good: true, words: this.readAs(read.value), notes: read.value.assumed };
  });

  private readAs(entry: FigureEntry): string {
    const plan = this.store.plan();
    const figure = { ...entry, rank: 'makerForThisCharger' } as Figure;
    const words = `Read as ${printWithBasis(figure)}`;
    if (!plan || entry.state !== 'stated' || (entry.unit !== 'V' && entry.unit !== 'A' && entry.unit !== 'C' && entry.unit !== 'V/°C')) return `${words}.`;
    const onBank = figureOnBank(figure, plan.facts.shape);
    const value = onBank.target ?? onBank.band.max ?? onBank.band.min ?? 0;
    const shown =
      entry.unit === 'V' ? formatQuantity(value, 'V', 2) : entry.unit === 'V/°C' ? formatQuantity(value * 1000, 'mV/°C', 0) : formatQuantity(value, 'A', 1);
    return `${words}; ${shown} on this bank.`;
  }

  protected valueOf(row: FigureRow): string {
    if (this.editing() === row.key) return this.draft();
    return this.refused()[row.key]?.text ?? row.printed;
  }

  /** Chooses a row. On a phone its inspector is brought into view, unless the field itself was touched. */
  protected choose(row: FigureRow, event: Event): void {
    this.selection.figure.set(row.key);
    if (this.size.phone() && !(event.target as HTMLElement).matches('input, button')) showInspector();
  }

  /** Where new words go on phone and desk alike: the row is chosen, and its field opens with basis and all. */
  protected open(row: FigureRow, field: HTMLInputElement): void {
    this.selection.figure.set(row.key);
    this.draft.set(this.refused()[row.key]?.text ?? (row.figure ? printWithBasis(row.figure) : ''));
    this.editing.set(row.key);
    // At once and not a moment later: whoever types fast would have the first letters chosen and overwritten.
    field.value = this.draft();
    if (!this.size.phone()) field.select();
  }

  /** A first press chooses the whole figure instead of placing the caret in it; the next one places it. */
  protected press(event: Event, field: HTMLInputElement): void {
    if (this.size.phone() || document.activeElement === field) return;
    event.preventDefault();
    field.focus();
  }

  /** Takes what is typed, or keeps it as typed with the reason why it cannot stand. */
  protected commit(row: FigureRow): boolean {
    const plan = this.store.plan();
    if (!plan || this.editing() !== row.key) return true;
    const text = this.draft();
    if (row.figure && text === printWithBasis(row.figure)) {
      this.refuse(row.key, null);
      return true;
    }
    const read = readFigure(row.key, text, entryContext(plan, row.figure));
    if (!read.ok) {
      this.refuse(row.key, { text, why: read.problems[0]?.text ?? 'This cannot be read.' });
      return false;
    }
    if (read.value === null && row.figure === undefined) {
      this.refuse(row.key, null);
      return true;
    }
    const problems = this.store.edit(`Enter ${row.name.toLowerCase()}`, (job) => withEntry(job, row.key, read.value));
    const why = problems[0]?.text.replace(/^sheet › figures › \w+( › \w+)?: /, 'Not like this: ');
    this.refuse(row.key, why === undefined ? null : { text, why });
    return why === undefined;
  }

  private refuse(key: FigureKey, what: { text: string; why: string } | null): void {
    this.refused.update(({ [key]: _before, ...others }) => (what ? { ...others, [key]: what } : others));
  }

  protected leave(row: FigureRow): void {
    this.commit(row);
    if (this.editing() === row.key) this.editing.set(null);
  }

  protected move(event: Event, row: FigureRow, by: number): void {
    event.preventDefault();
    if (!this.commit(row)) return;
    const rows = this.rows();
    const next = rows[rows.findIndex((r) => r.key === row.key) + by];
    if (next) this.focus(next.key);
  }

  protected revert(row: FigureRow): void {
    this.refuse(row.key, null);
    this.draft.set(row.figure ? printWithBasis(row.figure) : '');
  }

  protected focus(key: FigureKey): void {
    document.getElementById(`figure-${key}`)?.focus();
  }

  protected toggle(panel: 'library' | 'paste' | 'revisions'): void {
    this.panel.update((open) => (open === panel ? null : panel));
  }

  protected setPolicy(to: string): void {
    this.store.apply('Change whose figures count', [{ kind: 'setSchool', school: 'reference', to }]);
  }

  /** Takes a sheet of the library as this job's own copy. One of the same battery that was pinned so far stays with the job. */
  protected pin(sheet: Sheet): void {
    this.panel.set(null);
    this.store.edit(`Take the sheet of ${sheet.battery}`, (job) => withSheetTaken(job, sheet));
  }

  /** Keeps a copy of the pinned sheet as a revision of its own, to be changed into the next one. */
  protected nextRevision(): void {
    this.store.edit('Begin a new revision', (job) => {
      const id = freeId(
        `${job.sheet.id}-next`,
        [job.sheet, ...job.otherSheets].map((s) => s.id),
        'sheet',
      );
      return {
        ...job,
        sheet: {
          ...job.sheet,
          id,
          revision: [job.sheet.revision, 'next']
            .filter((part) => part !== '')
            .join(', ')
            .slice(0, 40),
        },
        otherSheets: [...job.otherSheets, job.sheet],
      };
    });
  }

  /** Puts a copy of the pinned sheet into this device's library. */
  protected async keep(): Promise<void> {
    const sheet = this.sheet();
    if (!sheet) return;
    const own =
      sheet.id === 'new-sheet'
        ? {
            ...sheet,
            id: freeId(
              `${sheet.maker} ${sheet.battery} ${sheet.revision}`,
              this.library.sheets().map((s) => s.id),
              'sheet',
            ),
          }
        : sheet;
    await this.library.putSheet(own).then(
      () => {
        this.kept.set('Kept in the library of this device.');
      },
      () => {
        this.kept.set('This device has no room for it. Free some space, then try again.');
      },
    );
  }
  protected readonly kept = signal('');

  protected readonly taking = signal(false);
  protected readonly unread = signal<readonly Problem[]>([]);

  /** Keeps papers with the job and opens the first of them to be read; what cannot be kept is said, and the others are. */
  protected async read(files: FileList | null): Promise<void> {
    this.unread.set([]);
    this.taking.set(true);
    let first: string | null = null;
    for (const file of [...(files ?? [])]) {
      const kept = await this.documents.attach(file);
      if ('code' in kept) this.unread.update((all) => [...all, kept]);
      else first ??= kept.id;
    }
    this.taking.set(false);
    if (first !== null && this.unread().length === 0) await this.router.navigate(['job', this.store.job()?.id, 'paper', first]);
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    if (event.dataTransfer && event.dataTransfer.files.length > 0) void this.read(event.dataTransfer.files);
  }

  protected editRow(index: number, change: Partial<Sheet['derating'][number]>): void {
    this.editDerating('Change current when cold', 'derating', (rows) => rows.map((row, i) => (i === index ? { ...row, ...change } : row)));
  }

  protected addRow(): void {
    this.editDerating('Add a stair', '', (rows) => [...rows, { toC: (rows.at(-1)?.toC ?? 0) + 5, limit: 0.2, unit: 'C' }]);
  }

  protected removeRow(index: number): void {
    this.editDerating('Remove a stair', '', (rows) => rows.filter((_, i) => i !== index));
  }

  protected readonly deratingWrong = signal<string | null>(null);

  private editDerating(label: string, mergeKey: string, change: (rows: Sheet['derating']) => Sheet['derating']): void {
    const problems = this.store.edit(label, (job) => ({ ...job, sheet: { ...job.sheet, derating: change(job.sheet.derating) } }), mergeKey);
    this.deratingWrong.set(problems.length > 0 ? 'Each stair must end warmer than the one before. Change the temperatures so that they rise.' : null);
  }
}
