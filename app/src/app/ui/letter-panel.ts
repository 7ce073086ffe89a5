import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { requestLetter } from '@calm-keel/core/report';
import { figureInfo, readFigure, shownUnit, type FigureKey } from '@calm-keel/core/sheet';
import { download } from '../data/job-files';
import { JobStore } from '../data/job-store';
import { TextField } from './text-field';
import { entryContext, withEntry } from '../data/edit-figure';

/** The letter that asks the maker for what the sheet lacks, and the place where the answer is filed. */
@Component({
  selector: 'ck-letter',
  imports: [TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (letter(); as l) {
      <div class="sech">
        <span role="heading" aria-level="2">Letter to {{ l.to || 'the maker' }}</span>
        <small>{{ l.lines.length === 0 ? 'nothing to ask' : l.lines.length === 1 ? '1 figure' : l.lines.length + ' figures' }}</small>
      </div>
      @if (l.lines.length === 0) {
        <p class="quiet">
          {{
            chargers() === 0 ? 'What has to be asked depends on the chargers: none is entered yet.' : 'The sheet gives every figure that these chargers need.'
          }}
        </p>
      } @else {
        <ol>
          @for (line of l.lines; track line.key) {
            <li>
              <b>{{ nameOf(line.key) }}</b>, {{ unitOf(line.key) }}<small>for {{ line.neededFor }}</small>
            </li>
          }
        </ol>
        <p class="acts">
          <button type="button" class="ghost" (click)="copy(l.body)">{{ copied() ? 'Copied' : 'Copy the letter' }}</button>
          <button type="button" class="ghost" (click)="save(l.subject, l.body)">Save as text</button>
          <a class="do" [href]="mail()">Write it as a mail</a>
          <button type="button" class="do" (click)="filing.set(!filing())" [attr.aria-expanded]="filing()">File the answer</button>
        </p>
        @if (failed()) {
          <textarea class="plain" rows="8" readonly aria-label="The letter, to copy by hand">{{ l.body }}</textarea>
        }
        @if (filing()) {
          <div class="file">
            <ck-text-field label="The answer: letter or mail, and its date" [value]="from()" [max]="160" (changed)="from.set($event)" />
            @for (line of l.lines; track line.key) {
              <ck-text-field [label]="nameOf(line.key)" [value]="answers()[line.key] ?? ''" [max]="120" (changed)="answer(line.key, $event)" />
              @if (problem(line.key); as why) {
                <span class="wrong" role="alert">{{ why }}</span>
              }
            }
            <button type="button" class="ghost" (click)="keep()" [disabled]="!ready()">
              {{ ready() ? 'File it' : from().trim() ? 'Enter a figure first' : 'Say which letter it is' }}
            </button>
          </div>
        }
      }
    }
  `,
  styles: `
    ol {
      font-size: 0.875rem;
      counter-reset: line;
    }
    li {
      counter-increment: line;
      border-bottom: 1px solid var(--ck-rule);
      padding: 5px 0 5px 24px;
      position: relative;
      line-height: 1.3;
    }
    li::before {
      content: counter(line);
      position: absolute;
      left: 2px;
      font-weight: 620;
    }
    small {
      display: block;
      color: var(--ck-ink-2);
    }
    .sech small {
      display: inline;
    }
    .acts {
      padding: 10px 0 4px;
    }
    .file {
      display: grid;
      gap: 8px;
      padding: 6px 0;
    }
  `,
})
export class LetterPanel {
  private readonly store = inject(JobStore);
  protected readonly letter = computed(() => {
    const job = this.store.job();
    return job && requestLetter(job);
  });
  protected readonly chargers = computed(() => this.store.job()?.system.chargers.length ?? 0);
  protected readonly mail = computed(() => {
    const letter = this.letter();
    return letter ? `mailto:?subject=${encodeURIComponent(letter.subject)}&body=${encodeURIComponent(letter.body)}` : '';
  });
  protected readonly copied = signal(false);
  /** The clipboard is closed to this page: the letter is shown, to copy by hand. */
  protected readonly failed = signal(false);
  protected readonly filing = signal(false);
  protected readonly from = signal('');
  protected readonly answers = signal<Partial<Record<FigureKey, string>>>({});

  protected nameOf(key: FigureKey): string {
    return figureInfo[key].name;
  }

  protected unitOf(key: FigureKey): string {
    return figureInfo[key].units.map((unit) => shownUnit[unit].text).join(' or ');
  }

  protected async copy(body: string): Promise<void> {
    try {
      await navigator.clipboard.writeText(body);
      this.copied.set(true);
      setTimeout(() => {
        this.copied.set(false);
      }, 4000);
    } catch {
      this.failed.set(true);
    }
  }

  protected save(subject: string, body: string): void {
    download(new Blob([`${subject}\n\n${body}`], { type: 'text/plain' }), 'request-letter.txt');
  }

  protected answer(key: FigureKey, text: string): void {
    this.answers.update((all) => ({ ...all, [key]: text }));
  }

  private read(key: FigureKey) {
    const plan = this.store.plan();
    return plan ? readFigure(key, this.answers()[key] ?? '', entryContext(plan, undefined)) : null;
  }

  protected problem(key: FigureKey): string | null {
    const read = this.read(key);
    return read && !read.ok ? (read.problems[0]?.text ?? null) : null;
  }

  private readonly filled = computed(() =>
    (this.letter()?.lines ?? []).flatMap(({ key }) => {
      const read = this.read(key);
      return read?.ok && read.value ? [{ key, entry: read.value }] : [];
    }),
  );
  protected readonly ready = computed(() => this.from().trim() !== '' && this.filled().length > 0);

  /** Files the answer: the figures join the sheet with the rank of a maker's letter. */
  protected keep(): void {
    const filled = this.filled();
    const from = this.from().trim();
    this.store.edit('File the maker’s answer', (job) =>
      filled.reduce((next, { key, entry }) => withEntry(next, key, entry, { rank: 'makerReply', from }), job),
    );
    this.answers.set({});
    this.filing.set(false);
  }
}
