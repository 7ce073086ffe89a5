import { ChangeDetectionStrategy, Component, computed, inject, input, signal, viewChild, type ElementRef } from '@angular/core';
import { Router, RouterLink, type Params } from '@angular/router';
import { cardKindWords, sameDevice, type Card } from '@calm-keel/core/card';
import { parseJson, toCard, toSheet } from '@calm-keel/core/job';
import { strangeWords, type Problem } from '@calm-keel/core/quantity';
import { capacityText, chemistryWords, editionOf, figureKeys, paperOf, type Sheet } from '@calm-keel/core/sheet';
import { freeId } from '../data/free-id';
import { download } from '../data/job-files';
import { storageProblem } from '../data/database';
import { Library } from '../data/library';
import { SurveyStore } from '../data/survey-store';
import { ViewSize } from '../data/view-size';
import { Glyph } from '../ui/glyph';
import { PageBar } from '../ui/page-bar';
import { CardPage } from './card-page';
import { revisionWords } from './card-words';
import { MergePanel } from './merge-panel';

interface Chosen {
  readonly kind: 'card' | 'sheet';
  readonly id: string;
}

/** Larger files are no card and no sheet, bytes. */
const mostBytes = 2_000_000;

/** The library of this device: shipped cards and sheets, and one's own. A job takes copies, so nothing done here alters a job. */
@Component({
  selector: 'ck-library-page',
  imports: [RouterLink, PageBar, Glyph, CardPage, MergePanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './library-page.html',
  styleUrl: './library-page.scss',
})
export class LibraryPage {
  protected readonly library = inject(Library);
  private readonly work = inject(SurveyStore);
  private readonly router = inject(Router);
  /** The card, or the sheet, that is shown: the address says which. */
  readonly show = input<string>();
  readonly paper = input<string>();
  protected readonly paperOf = paperOf;
  protected readonly capacity = capacityText;
  private readonly size = inject(ViewSize);
  private readonly picker = viewChild.required<ElementRef<HTMLInputElement>>('picker');
  protected readonly chosen = computed<Chosen>(() => {
    const paper = this.paper();
    return paper === undefined ? { kind: 'card', id: this.show() ?? 'varrow-s45' } : { kind: 'sheet', id: paper };
  });
  protected readonly problems = signal<readonly Problem[]>([]);
  protected readonly said = signal('');
  /** An own item just taken away, to be put back. */
  protected readonly gone = signal<{ readonly kind: 'card'; readonly item: Card } | { readonly kind: 'sheet'; readonly item: Sheet } | null>(null);

  protected readonly cards = computed(() =>
    this.library.cards().map((card) => ({
      id: card.id,
      name: `${card.maker} ${card.model}`,
      about: [cardKindWords[card.kind], revisionWords(card)].filter(Boolean).join(', '),
      own: this.library.ownCards().some((c) => c.id === card.id),
    })),
  );
  protected readonly sheets = computed(() =>
    this.library.sheets().map((sheet) => ({
      id: sheet.id,
      name: `${sheet.maker} ${sheet.battery}`,
      about: `${editionOf(sheet)}, ${chemistryWords[sheet.chemistry]}, ${figureKeys.filter((key) => sheet.figures[key]).length} figures`,
      own: this.library.ownSheets().some((s) => s.id === sheet.id),
    })),
  );
  protected readonly card = computed(() => {
    const { kind, id } = this.chosen();
    if (kind === 'sheet') return null;
    // While some are still on their way, no other stands in the place of the one that was asked for.
    return this.library.cards().find((c) => c.id === id) ?? (this.library.reading() ? null : (this.library.cards()[0] ?? null));
  });
  protected readonly sheet = computed(() => {
    const { kind, id } = this.chosen();
    return kind === 'sheet' ? (this.library.sheets().find((s) => s.id === id) ?? null) : null;
  });
  protected readonly own = computed(() => {
    const { kind, id } = this.chosen();
    return kind === 'card' ? this.library.ownCards().some((c) => c.id === id) : this.library.ownSheets().some((s) => s.id === id);
  });
  /** Surveys that were begun and not finished. */
  protected readonly surveys = computed(() =>
    this.library.surveys().map(({ doc }) => ({
      id: doc.id,
      name: `${doc.card.maker} ${doc.card.model}`.trim(),
      about: `${doc.items.length} ${doc.items.length === 1 ? 'setting' : 'settings'}, begun ${doc.startedOn}`,
    })),
  );

  protected async survey(card: Card): Promise<void> {
    await this.router.navigate(['/survey', await this.work.begin(card)]);
  }

  /** What an address of an item says. */
  protected addressOf(kind: Chosen['kind'], id: string): Params {
    return kind === 'card' ? { show: id } : { paper: id };
  }

  private async choose(kind: Chosen['kind'], id: string): Promise<void> {
    await this.router.navigate(['/library'], { queryParams: this.addressOf(kind, id) });
  }

  /** Below each other, the chosen item is brought into view. */
  protected look(): void {
    this.said.set('');
    if (this.size.width() <= 900) setTimeout(() => document.querySelector('.sheet')?.scrollIntoView());
  }

  private async keep(work: Promise<unknown>, words: string): Promise<void> {
    this.problems.set([]);
    try {
      await work;
      this.said.set(words);
    } catch (error) {
      this.problems.set([{ code: 'storage', text: storageProblem(error) }]);
    }
  }

  /** A copy of one's own, to change. */
  protected async duplicate(): Promise<void> {
    const card = this.card();
    const sheet = this.sheet();
    if (card) {
      const id = freeId(
        `${card.id}-own`,
        this.library.cards().map((c) => c.id),
        'card',
      );
      await this.keep(this.library.putCard({ ...card, id, model: `${card.model}, own`.slice(0, 60) }), 'A copy of your own. Change it below.');
      await this.choose('card', id);
    } else if (sheet) {
      const id = freeId(
        `${sheet.id}-own`,
        this.library.sheets().map((s) => s.id),
        'sheet',
      );
      await this.keep(
        this.library.putSheet({ ...sheet, id, revision: `${sheet.revision}, own`.slice(0, 40) }),
        'A copy of your own. Take it into a job on Spec to change its figures.',
      );
      await this.choose('sheet', id);
    }
  }

  protected save(card: Card): void {
    void this.keep(this.library.putCard(card), 'Saved on this device. Jobs keep the card they took.');
  }

  protected async remove(): Promise<void> {
    const card = this.card();
    const sheet = this.sheet();
    if (card) {
      await this.keep(this.library.removeCard(card.id), 'Taken out of the library. Jobs keep the card they took.');
      this.gone.set({ kind: 'card', item: card });
    } else if (sheet) {
      await this.keep(this.library.removeSheet(sheet.id), 'Taken out of the library. Jobs keep the sheet they took.');
      this.gone.set({ kind: 'sheet', item: sheet });
    }
  }

  protected async putBack(): Promise<void> {
    const gone = this.gone();
    if (!gone) return;
    await this.keep(gone.kind === 'card' ? this.library.putCard(gone.item) : this.library.putSheet(gone.item), 'Put back.');
    await this.choose(gone.kind, gone.item.id);
    this.gone.set(null);
  }

  protected saveFile(): void {
    const item = this.card() ?? this.sheet();
    if (item) download(new Blob([`${JSON.stringify(item, null, 2)}\n`], { type: 'application/json' }), `${item.id}.${this.chosen().kind}.json`);
  }

  protected pick(): void {
    this.picker().nativeElement.click();
  }

  /** Brings in a card or a sheet. One whose id is taken by an own item comes in beside it, as a copy. */
  protected async bring(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    this.said.set('');
    if (file.size > mostBytes) {
      this.problems.set([{ code: 'file-too-large', text: `“${file.name}” is larger than 2 MB, so it is neither a card nor a sheet.` }]);
      return;
    }
    const parsed = parseJson(await file.text(), 'file');
    if (!parsed.ok) {
      this.problems.set(parsed.problems);
      return;
    }
    const format = (parsed.value as { format?: unknown } | null)?.format;
    if (format === 'calm-keel/card') {
      const card = toCard(parsed.value);
      if (!card.ok) {
        this.refuse(file.name, card.problems);
        return;
      }
      const mine = this.library.ownCards().find((c) => sameDevice(c, card.value));
      if (mine && JSON.stringify(mine) !== JSON.stringify(card.value)) this.meeting.set({ mine, theirs: card.value, name: file.name });
      else await this.bringCard(card.value, file.name);
    } else if (format === 'calm-keel/sheet') {
      const sheet = toSheet(parsed.value);
      if (!sheet.ok) {
        this.refuse(file.name, sheet.problems);
        return;
      }
      const id = freeId(
        sheet.value.id,
        this.library.sheets().map((s) => s.id),
        'sheet',
      );
      await this.keep(this.library.putSheet({ ...sheet.value, id }), inLibrary(file.name, sheet.value));
      await this.choose('sheet', id);
    } else this.problems.set([{ code: 'not-library', text: `“${file.name}” is neither a card nor a sheet. A job file is brought in on the Jobs page.` }]);
  }

  /** Another person's card of a charger that is here already, waiting for what is to become of it. */
  protected readonly meeting = signal<{ readonly mine: Card; readonly theirs: Card; readonly name: string } | null>(null);

  private async bringCard(card: Card, name: string): Promise<void> {
    const id = freeId(
      card.id,
      this.library.cards().map((c) => c.id),
      'card',
    );
    await this.keep(this.library.putCard({ ...card, id }), inLibrary(name, card));
    await this.choose('card', id);
  }

  protected async besideMine(): Promise<void> {
    const meeting = this.meeting();
    this.meeting.set(null);
    if (meeting) await this.bringCard(meeting.theirs, meeting.name);
  }

  protected async takeMerged(card: Card): Promise<void> {
    const meeting = this.meeting();
    await this.keep(this.library.putCard(card), 'Merged. Jobs keep the card they took.');
    if (this.problems().length > 0) return;
    this.meeting.set(null);
    if (meeting) await this.choose('card', card.id);
  }

  private refuse(name: string, problems: readonly Problem[]): void {
    this.problems.set([{ code: 'invalid', text: `“${name}” does not hold together. Nothing was changed. What is wrong:` }, ...problems]);
  }
}

const inLibrary = (name: string, { aside = [] }: Pick<Card | Sheet, 'aside'>): string => [`“${name}” is in the library.`, ...aside.map(strangeWords)].join(' ');
