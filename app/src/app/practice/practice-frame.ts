import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { PracticeBook } from '../data/practice-book';
import { Glyph } from '../ui/glyph';
import { PageBar } from '../ui/page-bar';

/** The frame of every view of the bench: its bar, and stripes on both edges, so that nobody takes it for a job. */
@Component({
  selector: 'ck-practice-frame',
  imports: [RouterLink, Glyph, PageBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ck-page-bar words="Nothing here is a real device, and nothing goes into a job.">
      <a class="do" routerLink="/practice">Practice bench</a>
      @if (view() !== 'book') {
        <a end class="ghost" routerLink="/practice/book">Book of practice</a>
      }
    </ck-page-bar>
    <div class="tape" aria-hidden="true"></div>
    @if (book.problem(); as why) {
      <p class="said bad" role="alert"><ck-glyph name="stop" />{{ why }}</p>
    }
    <main [class]="view()"><ng-content /></main>
    <div class="tape" aria-hidden="true"></div>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      min-height: 100dvh;
    }
    main {
      flex: 1;
      background: var(--ck-surface);
      padding: 0 max(16px, calc(50vw - 560px)) 40px;
    }
    main.bench {
      padding: 0;
      display: flex;
      flex-direction: column;
    }
  `,
})
export class PracticeFrame {
  readonly view = input<'bench' | 'book' | 'page'>('page');
  protected readonly book = inject(PracticeBook);
}
