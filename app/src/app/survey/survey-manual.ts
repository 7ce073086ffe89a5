import { ChangeDetectionStrategy, Component, computed, inject, type OnDestroy, output, signal } from '@angular/core';
import { formatNumber } from '@calm-keel/core/quantity';
import { freeItem, manualPages, readManual, withItem, type ManualFor, type Survey } from '@calm-keel/core/survey';
import { paperEnglish, surveyEnglish } from '@calm-keel/core/words';
import { LogWork } from '../data/log-work';
import { PaperReader } from '../data/paper-reading';
import { SurveyStore } from '../data/survey-store';
import { FileButton } from '../ui/file-button';

/** A larger file is not read: its pages are brought in by themselves. */
const mostBytes = 60_000_000;

/** The table of settings of a manual: out of its file, or pasted. Every line waits for a yes. */
@Component({
  selector: 'ck-survey-manual',
  imports: [FileButton],
  providers: [PaperReader],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="why">A PDF, a photo of the page, a spreadsheet or a text. Only its tables of settings are taken.</p>
    <p class="adds">
      <ck-file-button
        words="Choose the manual’s file"
        label="Manual"
        accept=".pdf,image/png,image/jpeg,image/webp,.csv,.tsv,.txt,.xlsx,.zip"
        (chosen)="open($event)"
      />
    </p>
    @if (reading()) {
      <p class="why" role="status">{{ progress() }} <button type="button" class="link" (click)="stop()">Stop reading</button></p>
    }
    @if (problem(); as text) {
      <p class="wrong" role="alert">{{ text }}</p>
    }
    <label class="lbl" for="manual-table">The table of settings, as copied from the manual: one setting a line</label>
    <textarea #table id="manual-table" class="plain" rows="6" spellcheck="false" [value]="pasted()" (input)="pasted.set(table.value)"></textarea>
    @if (pasted().trim() !== '') {
      <p class="why" role="status">{{ understood() }}</p>
      @if (fresh().length > 0) {
        <p>
          <button type="button" class="ghost" (click)="take()">Add {{ fresh().length === 1 ? 'this one' : 'these ' + fresh().length }}</button>
        </p>
      }
    }
  `,
  styleUrl: './part.scss',
  styles: `
    .ghost {
      min-height: 44px;
    }
    textarea {
      width: 100%;
      tab-size: 12;
    }
  `,
})
export class SurveyManual implements OnDestroy {
  private readonly store = inject(SurveyStore);
  private readonly paper = inject(PaperReader);
  private readonly tables = inject(LogWork);
  /** What was read is in the list now. */
  readonly taken = output();
  private readonly words = surveyEnglish;

  protected readonly reading = signal('');
  protected readonly problem = signal('');
  /** The file and its pages, as the card will name them. */
  private readonly source = signal('');
  protected readonly progress = computed(() => {
    const state = this.paper.state();
    if (state.kind === 'picture')
      return `Page ${state.page} of “${this.reading()}” is a picture. Reading its letters, ${formatNumber(100 * state.share, 0)} %.`;
    const pages = state.kind === 'opening' && state.of > 0 ? `, ${state.done} of ${state.of} pages` : '';
    return `Reading “${this.reading()}”${pages}.`;
  });

  private readonly manualOf = ({ card }: Survey): ManualFor => ({ kind: card.kind, systemVolts: card.ratings.systemVolts, terms: this.words.roleTerms });
  protected readonly pasted = signal('');
  private readonly manual = computed(() => {
    const survey = this.store.survey();
    return survey && readManual(this.pasted(), this.manualOf(survey));
  });
  /** What the list does not have yet, by name. */
  protected readonly fresh = computed(() => {
    const there = new Set((this.store.survey()?.items ?? []).map((i) => i.label.trim().toLowerCase()));
    return (this.manual()?.items ?? []).filter((i) => !there.has(i.label.trim().toLowerCase()));
  });
  protected readonly understood = computed(() => {
    const [all, fresh, out] = [this.manual()?.items ?? [], this.fresh(), this.manual()?.leftOut ?? []];
    const meant = fresh.filter((i) => i.role !== undefined).length;
    return [
      `${fresh.length} new ${fresh.length === 1 ? 'setting' : 'settings'}, ${meant} with a meaning. Each waits for your yes`,
      ...(all.length > fresh.length ? [`${all.length - fresh.length} are in the list already`] : []),
      ...(out.length > 0
        ? [
            `Left out: line ${out
              .map((l) => l.line)
              .slice(0, 8)
              .join(', ')}${out.length > 8 ? ' and others' : ''}`,
          ]
        : []),
      '',
    ]
      .join('. ')
      .trim();
  });

  protected take(): void {
    const fresh = this.fresh();
    const document = this.source();
    this.store.edit('Take a manual’s table', (survey) =>
      fresh.reduce<Survey>((now, item) => withItem(now, { ...item, id: freeItem(now) }), {
        ...survey,
        from: 'document' as const,
        ...(document === '' || survey.document ? {} : { document }),
        // What was begun and left empty goes.
        items: survey.items.filter((i) => i.label.trim() !== '' || i.shown.trim() !== ''),
      }),
    );
    this.pasted.set('');
    this.taken.emit();
  }

  /** Reads a file: what it holds of tables is shown as text, to be looked over before anything of it is taken. */
  protected async open(file: File): Promise<void> {
    const survey = this.store.survey();
    if (!survey || this.reading() !== '') return;
    this.problem.set('');
    if (file.size > mostBytes) {
      this.problem.set(`“${file.name}” has more than ${mostBytes / 1e6} MB. Save the pages of its table by themselves, and choose those.`);
      return;
    }
    this.reading.set(file.name);
    try {
      const texts = await this.textsOf(file);
      if (texts) this.show(file.name, texts, this.manualOf(survey));
    } catch {
      this.problem.set(`“${file.name}” cannot be read. Choose another copy of it, or paste its table.`);
    } finally {
      this.reading.set('');
    }
  }

  private async textsOf(file: File): Promise<readonly string[] | null> {
    if (file.type === 'application/pdf' || file.type.startsWith('image/')) {
      const texts = await this.paper.tables(file);
      const state = this.paper.state();
      if (!texts && state.kind === 'fault') this.problem.set(paperEnglish.faults[state.fault]);
      return texts;
    }
    const read = await this.tables.api.tables(file, file.name);
    if (read.ok) return read.value;
    this.problem.set(read.problems.map((p) => p.text).join(' '));
    return null;
  }

  private show(name: string, texts: readonly string[], at: ManualFor): void {
    const { text, pages } = manualPages(texts, at);
    if (text.trim() === '') {
      this.problem.set(
        texts.every((page) => page.trim() === '')
          ? paperEnglish.faults.noText
          : `No page of “${name}” holds a table of settings with ranges, steps or choices. Copy the lines that have them and paste them below.`,
      );
      return;
    }
    this.pasted.set(text);
    this.source.set(texts.length === 1 ? name.slice(0, 120) : `${name.slice(0, 80)}, p. ${pages.slice(0, 6).join(', ')}`);
  }

  protected stop(): void {
    this.paper.stop();
  }

  ngOnDestroy(): void {
    this.paper.close();
  }
}
