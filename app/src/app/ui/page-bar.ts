import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { ScaleSwitch } from './scale-switch';
import { WordsButton } from './words-button';

/** The bar of a page outside a job: the name, which leads to the jobs, what the page puts beside it, and at its end its words and the scale. */
@Component({
  selector: 'ck-page-bar',
  imports: [RouterLink, ScaleSwitch, WordsButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      @if (atHome()) {
        <span class="brand"
          ><svg width="34" height="28" aria-hidden="true"><use href="#mark" /></svg><b>Calm Keel</b></span
        >
      } @else {
        <a class="brand" routerLink="/" aria-label="Calm Keel, back to jobs"
          ><svg width="34" height="28" aria-hidden="true"><use href="#mark" /></svg><b>Calm Keel</b></a
        >
      }
      <ng-content />
      <span class="grow"></span>
      <span class="words">{{ words() }}</span>
      <ck-words-button />
      <ck-scale-switch />
      <ng-content select="[end]" />
    </header>
  `,
  styles: `
    :host {
      display: block;
      flex: none;
    }
    header {
      min-height: var(--ck-bar-h);
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 14px;
      padding: 0 16px 0 19px;
    }
    .brand {
      display: flex;
      align-items: center;
      gap: 10px;
      b {
        font-size: 1.0625rem;
        letter-spacing: -0.01em;
      }
    }
    .grow {
      flex: 1;
    }
    .words {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
    }
    @media (max-width: 767px) {
      .words {
        display: none;
      }
    }
  `,
})
export class PageBar {
  /** The jobs themselves: the name leads nowhere. */
  readonly atHome = input(false);
  readonly words = input('');
}
