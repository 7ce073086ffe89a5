import { afterNextRender, ChangeDetectionStrategy, Component, computed, ElementRef, inject, linkedSignal, signal, untracked } from '@angular/core';
import { Router } from '@angular/router';
import { type Problem } from '@calm-keel/core/quantity';
import { chemistryWords, hasFigures } from '@calm-keel/core/sheet';
import { Documents } from '../data/documents';
import { JobStore } from '../data/job-store';
import { ViewSize } from '../data/view-size';
import { ChoiceField } from '../ui/choice-field';
import { FindingsList } from '../ui/findings-list';
import { NextStation } from '../ui/next-station';
import { Glyph } from '../ui/glyph';
import { DocumentsPanel } from './documents-panel';
import { DeratingStairs } from './derating-stairs';
import { FigureInspector } from './figure-inspector';
import { FigureTable } from './figure-table';
import { LetterPanel } from '../ui/letter-panel';
import { PastePanel } from './paste-panel';
import { Revisions } from './revisions-panel';
import { SheetForm } from './sheet-form';
import { SheetShelf } from './sheet-shelf';

/** Spec: the maker's figures as printed, their trail to this bank, their source, and what is missing. */
@Component({
  selector: 'ck-spec-page',
  imports: [
    ChoiceField,
    DeratingStairs,
    DocumentsPanel,
    FigureInspector,
    FigureTable,
    FindingsList,
    Glyph,
    LetterPanel,
    NextStation,
    PastePanel,
    Revisions,
    SheetForm,
    SheetShelf,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './spec-page.html',
  styleUrl: './spec-page.scss',
})
export class SpecPage {
  protected readonly store = inject(JobStore);
  private readonly documents = inject(Documents);
  private readonly router = inject(Router);
  private readonly size = inject(ViewSize);
  /** Which panel stands open above the figures. */
  protected readonly panel = signal<'library' | 'paste' | 'revisions' | null>(null);
  protected readonly sheet = computed(() => this.store.job()?.sheet ?? null);
  protected readonly chemistry = computed(() => {
    const sheet = this.sheet();
    return sheet ? chemistryWords[sheet.chemistry] : '';
  });
  /** Battery and document stand first on an empty sheet, and stay there while it is filled: nothing jumps under the hand. */
  protected readonly formFirst = linkedSignal({
    source: () => this.store.job()?.id,
    computation: () => {
      const job = untracked(this.store.job);
      return job !== null && !hasFigures(job.sheet);
    },
  });
  protected readonly policies = [
    { value: 'makerOnly', words: 'the maker’s own paper only' },
    { value: 'bestAvailable', words: 'the best available, marked' },
  ];

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef);
    // An empty sheet is there to be typed: from the first field on, without a search for it.
    afterNextRender(() => {
      if (this.formFirst() && !this.size.phone()) host.nativeElement.querySelector<HTMLElement>('ck-sheet-form input')?.focus();
    });
  }

  protected toggle(panel: 'library' | 'paste' | 'revisions'): void {
    this.panel.update((open) => (open === panel ? null : panel));
  }

  protected setPolicy(to: string): void {
    this.store.apply('Change whose figures count', [{ kind: 'setSchool', school: 'reference', to }]);
  }

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
}
