import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { PracticeBook } from '../data/practice-book';
import { Glyph } from '../ui/glyph';
import { ScaleSwitch } from '../ui/scale-switch';

/** The frame of every view of the bench: its bar, and stripes on both edges, so that nobody takes it for a job. */
@Component({
  selector: 'ck-practice-frame',
  imports: [RouterLink, Glyph, ScaleSwitch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header class="bar">
      <a class="brand" routerLink="/" aria-label="Calm Keel, back to jobs"
        ><svg width="34" height="28" aria-hidden="true"><use href="#mark" /></svg><b>Calm Keel</b></a
      >
      <a class="do" routerLink="/practice">Practice bench</a>
      <span class="grow"></span>
      <span class="saved">Nothing here is a real device, and nothing goes into a job.</span>
      <ck-scale-switch />
      @if (view() !== 'book') {
        <a class="ghost" routerLink="/practice/book">Book of practice</a>
      }
    </header>
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
    .bar {
      min-height: var(--ck-bar-h);
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 14px;
      padding: 0 19px;
    }
    .brand {
      display: flex;
      align-items: center;
      gap: 11px;
    }
    .brand b {
      font-size: 1.0625rem;
      letter-spacing: -0.015em;
    }
    .grow {
      flex: 1;
    }
    .saved {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
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
    @media (max-width: 900px) {
      .saved {
        display: none;
      }
    }
  `,
})
export class PracticeFrame {
  readonly view = input<'bench' | 'book' | 'page'>('page');
  protected readonly book = inject(PracticeBook);
}
