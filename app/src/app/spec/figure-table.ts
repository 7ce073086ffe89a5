import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { neededFigures } from '@calm-keel/core/report';
import { formatNumber, formatQuantity } from '@calm-keel/core/quantity';
import {
  editionOf,
  figureOnBank,
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
import { entryContext, withEntry } from '../data/edit-figure';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { ViewSize } from '../data/view-size';
import { Glyph } from '../ui/glyph';
import { showInspector } from '../ui/show-inspector';
import { currentRange, figureRows, voltRange, type FigureRow } from './figure-rows';
import { FigureScale } from './figure-scale';

/** The maker’s figures as printed, each with its trail to this bank, its source, and what is to be said of it. */
@Component({
  selector: 'ck-figure-table',
  imports: [FigureScale, Glyph, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './figure-table.html',
  styleUrls: ['./figure-table.scss', './figure-say.scss'],
})
export class FigureTable {
  protected readonly store = inject(JobStore);
  private readonly selection = inject(Selection);
  private readonly size = inject(ViewSize);
  readonly sheet = input.required<Sheet>();
  /** The differences from the other revision are wanted. */
  readonly differs = output();
  /** Those that can be said; “not said” is none of them. */
  protected readonly ranks = ranks.filter((rank) => rank !== 'notSaid');
  protected readonly edition = editionOf;
  /** The figure whose field has the focus, and what stands in it. */
  protected readonly editing = signal<FigureKey | null>(null);
  protected readonly draft = signal('');
  /** What was typed and could not be read, kept as typed until it is mended. */
  protected readonly refused = signal<Readonly<Partial<Record<FigureKey, { readonly text: string; readonly why: string }>>>>({});

  private readonly other = computed<Sheet | null>(() => this.store.job()?.otherSheets[0] ?? null);
  protected readonly differences = computed(() => {
    const sheet = this.sheet();
    const other = this.other();
    return other && sameBattery(sheet, other) ? sheetDifferences(sheet, other) : [];
  });
  protected readonly rows = computed<readonly FigureRow[]>(() => {
    const job = this.store.job();
    const plan = this.store.plan();
    return job && plan ? figureRows(job, plan, neededFigures(plan), this.differences(), this.other()) : [];
  });
  readonly key = computed<FigureKey>(() => (this.rows().some((r) => r.key === this.selection.figure()) ? this.selection.figure() : 'absorbVoltage'));
  protected readonly otherRevision = computed(() => this.other()?.revision ?? '');

  protected readonly voltTicks = computed(() => {
    const sheet = this.sheet();
    const [low, high] = voltRange(sheet);
    return [0, 0.5, 1].map((part) => ({ x: 8 + 112 * part, text: formatNumber(low + part * (high - low), 1) }));
  });
  protected readonly currentTicks = computed(() => {
    const sheet = this.sheet();
    const plan = this.store.plan();
    const high = plan ? currentRange(plan, sheet) : 1;
    return [0, 1].map((part) => ({ x: 8 + 112 * part, text: String(Number((part * high).toFixed(2))) }));
  });

  /** What the text in the field is understood as. */
  protected readonly reading = computed<{ good: boolean; words: string; notes: readonly string[] } | null>(() => {
    const key = this.editing();
    const plan = this.store.plan();
    const sheet = this.sheet();
    if (!key || !plan) return null;
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

  /** Goes to the field of a figure. */
  focus(key: FigureKey): void {
    document.getElementById(`figure-${key}`)?.focus();
  }
}
