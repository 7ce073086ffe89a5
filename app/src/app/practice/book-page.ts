import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { standings, type FaultCode } from '@calm-keel/core/practice';
import { formatDuration } from '@calm-keel/core/quantity';
import { practiceEnglish } from '@calm-keel/core/words';
import { download } from '../data/job-files';
import { today } from '../data/job-store';
import { PracticeBook } from '../data/practice-book';
import { FileButton } from '../ui/file-button';
import { Glyph } from '../ui/glyph';
import { PracticeFrame } from './practice-frame';

/** The book of practice: what was tried, what was missed, which kinds come back. */
@Component({
  selector: 'ck-book-page',
  imports: [RouterLink, FileButton, Glyph, PracticeFrame],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './book-page.html',
  styles: `
    .acts {
      align-items: end;
      padding-bottom: 8px;
    }
    .acts label input {
      width: 90px;
    }
    .scroll {
      overflow-x: auto;
    }
    td {
      vertical-align: top;
      line-height: 1.35;
    }
  `,
})
export class BookPage {
  protected readonly book = inject(PracticeBook);
  protected readonly said = signal<{ readonly bad: boolean; readonly words: string } | null>(null);
  protected readonly who = signal<string | null>(null);

  /** Everybody who has a line here. */
  protected readonly people = computed(() => [...new Set((this.book.entries() ?? []).map((e) => e.by))].sort());
  protected readonly entries = computed(() => (this.book.entries() ?? []).filter((e) => this.who() === null || e.by === this.who()));
  protected readonly lines = computed(() =>
    this.entries()
      .map((e) => ({
        id: e.id,
        at: `${e.at.slice(0, 10)} ${new Date(e.at).toTimeString().slice(0, 5)}`,
        by: e.by,
        place: practiceEnglish.places[e.exercise.place].name,
        what: e.exercise.kind === 'program' ? 'Program a device' : [...e.solved, ...e.missed].map(kind).join('; '),
        passed: e.passed,
        came: e.passed ? 'solved' : e.missed.length > 0 ? `missed: ${e.missed.map(kind).join('; ')}` : 'not done',
        wrong: e.wrong.map(kind).join('; '),
        effort: `${e.steps} read, ${e.hints} hints, ${formatDuration(e.seconds)}`,
      }))
      .reverse(),
  );
  protected readonly kinds = computed(() =>
    standings(this.entries())
      .filter((s) => s.met > 0 || s.mistaken > 0)
      .map((s) => ({ code: s.code, name: kind(s.code), met: s.met, solved: s.solved, mistaken: s.mistaken, again: s.last === false })),
  );

  protected save(): void {
    download(this.book.file(), `practice-${today()}.json`);
  }
  protected async bring(file: File): Promise<void> {
    const came = await this.book.bring(file);
    this.said.set(
      'why' in came ? { bad: true, words: came.why } : { bad: false, words: came.came === 1 ? '1 new line came in.' : `${came.came} new lines came in.` },
    );
  }
}

const kind = (code: FaultCode): string => practiceEnglish.faults[code].cause('a device').replace(/ (on|of) a device/, '');
