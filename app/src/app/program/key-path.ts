import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { KeyStroke } from '@calm-keel/core/card';

/** The way through a menu: key caps to press, and what the display then shows. */
@Component({
  selector: 'ck-key-path',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ol aria-label="Keys to press">
      @for (stroke of strokes(); track $index; let last = $last) {
        <li>
          <span class="one">
            @if (stroke.kind === 'key') {
              <kbd>{{ stroke.text }}</kbd>
            } @else {
              <b class="shows">{{ stroke.text }}</b>
            }
            @if (stroke.kind === 'shows' || stroke.how) {
              <small>{{ stroke.kind === 'shows' ? 'shows' : stroke.how }}</small>
            }
          </span>
          @if (!last) {
            <svg width="9" height="14" viewBox="0 0 9 14" aria-hidden="true">
              <path d="m1.5 1.5 5.5 5.5-5.5 5.5" fill="none" stroke="var(--ck-ink-3)" stroke-width="1.7" />
            </svg>
          }
        </li>
      }
    </ol>
  `,
  styles: `
    ol {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 7px;
      padding: 11px 12px 9px;
      background: var(--ck-sunk);
    }
    li {
      display: flex;
      align-items: start;
      gap: 7px;
      svg {
        margin-top: 13px;
      }
    }
    .one {
      display: grid;
      justify-items: center;
      gap: 2px;
    }
    kbd,
    .shows {
      display: grid;
      place-items: center;
      min-width: 46px;
      min-height: 40px;
      padding: 0 10px;
      font: 620 15px/1.1 var(--ck-font);
      color: var(--ck-ink);
    }
    kbd {
      background: var(--ck-surface);
      border: 1.5px solid var(--ck-ink);
      border-bottom-width: 4px;
      border-radius: var(--ck-radius-key);
    }
    .shows {
      background: var(--ck-ink);
      color: var(--ck-surface);
      font-family: var(--ck-font-num);
      font-weight: 560;
    }
    small {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
    }
  `,
})
export class KeyPath {
  readonly strokes = input.required<readonly KeyStroke[]>();
}
