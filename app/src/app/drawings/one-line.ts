import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { Plan } from '@calm-keel/core/settings';
import { ViewSize } from '../data/view-size';
import { oneLine, oneLineList } from './one-line-layout';

const tones = {
  ink: 'var(--ck-ink)',
  quiet: 'var(--ck-ink-2)',
  cold: 'var(--ck-cold)',
  stop: 'var(--ck-stop)',
  attention: 'var(--ck-attention)',
  copper: 'var(--ck-copper)',
} as const;
const fills = { none: 'none', surface: 'var(--ck-surface)', hatch: 'url(#tx-shade)', ink: 'var(--ck-ink)' } as const;

/** The one-line drawing: computed from the job, chosen by pressing a part. On a phone a list from source to bank. */
@Component({
  selector: 'ck-one-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (size.phone() && !drawn()) {
      <ul>
        @for (branch of list(); track branch.key) {
          <li>
            <button type="button" [class.sel]="branch.key === (chosen() ?? '')" (click)="choose.emit(branch.key)">
              <b>{{ branch.title }}</b>
              @for (text of branch.lines; track $index) {
                <span>{{ text }}</span>
              }
            </button>
          </li>
        }
      </ul>
    } @else {
      <div class="scroll">
        <svg
          [attr.width]="drawing().width"
          [attr.height]="drawing().height"
          [attr.viewBox]="'0 0 ' + drawing().width + ' ' + drawing().height"
          role="group"
          aria-label="One-line drawing"
        >
          <defs>
            <pattern id="tx-shade" width="5" height="5" patternUnits="userSpaceOnUse">
              <rect width="5" height="5" fill="var(--ck-rest-wash)" />
              <path d="M-1 6 6 -1" stroke="var(--ck-ink-3)" stroke-width="1" />
            </pattern>
          </defs>
          <g aria-hidden="true">
            @for (s of drawing().strokes; track $index) {
              <path
                [attr.d]="s.d"
                [attr.stroke]="tones[s.tone]"
                [attr.stroke-width]="s.width"
                [attr.stroke-dasharray]="s.dash"
                [attr.fill]="fills[s.fill]"
                stroke-linejoin="round"
              />
            }
            @for (w of drawing().words; track $index) {
              <text
                [attr.x]="w.x"
                [attr.y]="w.y"
                [attr.text-anchor]="w.anchor"
                [attr.font-size]="w.size"
                [attr.font-weight]="w.bold ? 620 : 400"
                [attr.fill]="tones[w.tone]"
              >
                {{ w.text }}
              </text>
            }
          </g>
          @for (hit of drawing().hits; track hit.key) {
            <rect
              class="hit"
              role="button"
              tabindex="0"
              [attr.x]="hit.x"
              [attr.y]="hit.y"
              [attr.width]="hit.w"
              [attr.height]="hit.h"
              [attr.aria-label]="hit.label"
              [attr.aria-pressed]="hit.key === (chosen() ?? '')"
              (click)="choose.emit(hit.key)"
              (keydown.enter)="choose.emit(hit.key)"
              (keydown.space)="$event.preventDefault(); choose.emit(hit.key)"
            />
          }
        </svg>
      </div>
    }
  `,
  styles: `
    .scroll {
      overflow-x: auto;
    }
    svg {
      display: block;
    }
    text {
      paint-order: stroke;
      stroke: var(--ck-surface);
      stroke-width: 3px;
      stroke-linejoin: round;
    }
    .hit {
      fill: transparent;
      cursor: pointer;
    }
    .hit:focus-visible {
      outline: none;
      stroke: var(--ck-ink);
      stroke-width: 3px;
    }
    li button {
      display: grid;
      width: 100%;
      text-align: left;
      padding: 8px 10px;
      border-bottom: 1px solid var(--ck-rule);
      min-height: 44px;
      font-size: 0.9375rem;
      line-height: 1.35;
      span {
        color: var(--ck-ink-2);
        font-size: 0.875rem;
      }
      &.sel {
        box-shadow: inset 5px 0 0 var(--ck-copper);
        background: var(--ck-copper-wash);
      }
    }
  `,
})
export class OneLineDrawing {
  protected readonly size = inject(ViewSize);
  /** Always the drawing, on a phone too: where it is printed. */
  readonly drawn = input(false);
  readonly plan = input.required<Plan>();
  /** Id of the charger or companion; null is the bank. */
  readonly chosen = input.required<string | null>();
  readonly room = input.required<number>();
  readonly choose = output<string>();

  protected readonly tones = tones;
  protected readonly fills = fills;
  protected readonly drawing = computed(() => oneLine(this.plan(), this.chosen(), this.room()));
  protected readonly list = computed(() => oneLineList(this.plan()));
}
