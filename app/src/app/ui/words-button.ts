import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Glossary } from './glossary';
import { Tip } from './tip';

/** Opens what the words mean. */
@Component({
  selector: 'ck-words-button',
  imports: [Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<button type="button" class="ghost" aria-label="What the words mean" aria-keyshortcuts="?" ckTip="What the words mean (?)" (click)="open()">
    ?
  </button>`,
  styles: `
    :host {
      flex: none;
    }
    button {
      width: 32px;
      min-height: 30px;
      padding: 0;
      color: var(--ck-ink);
      font-weight: var(--ck-w-strong);
    }
    @media (max-width: 767px) {
      button {
        width: 36px;
        min-height: 36px;
      }
    }
  `,
})
export class WordsButton {
  private readonly glossary = inject(Glossary);

  protected open(): void {
    void this.glossary.open();
  }
}
