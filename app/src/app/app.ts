import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Updates } from './data/updates';
import { AnnouncerPlace } from './ui/announcer';
import { FocusKeeper } from './ui/focus-keeper';
import { Glossary } from './ui/glossary';
import { SvgDefs } from './ui/svg-defs';
import { isTyping } from './ui/typing';

/** The root: shared drawing definitions, word of a newer version, then the page. */
@Component({
  selector: 'ck-root',
  imports: [RouterOutlet, SvgDefs, AnnouncerPlace],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'keys($event)' },
  template: `
    <ck-svg-defs />
    @if (updates.told()) {
      <p class="update" role="status">
        <span>
          @if (updates.lost()) {
            That station could not be fetched: the server has a newer version of this program, or the connection is gone. You are still where you were, and what
            you entered is saved. Reload to go there; without a connection, go on here.
          } @else if (updates.broken()) {
            Some files of this version are gone. Your jobs are not touched by that.
          } @else {
            A newer version is here. Nothing is loaded under your hands: finish the step you are at, then load it.
          }
        </span>
        <button type="button" class="ghost" (click)="updates.load()">{{ updates.lost() ? 'Reload, and go there' : 'Load it now' }}</button>
        <button type="button" class="ghost" (click)="updates.later()">{{ updates.lost() ? 'Stay here' : 'Later' }}</button>
      </p>
    }
    <router-outlet />
    <ck-announcer />
  `,
  styles: `
    .update {
      position: fixed;
      left: 12px;
      bottom: 12px;
      z-index: 20;
      max-width: min(560px, calc(100vw - 24px));
      display: flex;
      flex-wrap: wrap;
      gap: 8px 12px;
      align-items: center;
      padding: 10px 12px;
      background: var(--ck-surface);
      border: 1.5px solid var(--ck-ink);
      font-size: 0.875rem;
    }
    span {
      flex: 1 1 240px;
    }
    @media print {
      .update {
        display: none;
      }
    }
  `,
})
export class App {
  protected readonly updates = inject(Updates);
  private readonly glossary = inject(Glossary);

  constructor() {
    inject(FocusKeeper);
  }

  /** A question mark, where nothing is being typed, opens what the words mean. */
  protected keys(event: KeyboardEvent): void {
    if (event.key !== '?' || event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || isTyping(event.target)) return;
    event.preventDefault();
    void this.glossary.open();
  }
}
