import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Explanation } from '@calm-keel/core/proof';
import { formatClock } from '@calm-keel/core/quantity';
import { Glyph } from '../ui/glyph';

/** What happened in a log, in the order of time: changes of stage, and what is odd. */
@Component({
  selector: 'ck-told-list',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech">
      <span role="heading" aria-level="2">What happened</span><small>{{ odd() }} odd of {{ told().length }}</small>
    </div>
    <ol>
      @for (t of told(); track $index; let i = $index) {
        <li [class.odd]="t.kind === 'odd'" [class.sel]="i === chosen()">
          <button type="button" [attr.aria-pressed]="i === chosen()" (click)="tell.emit(i)">
            <span class="n">{{ clock(t.at) }}</span>&ngsp;
            @if (t.kind === 'odd') {
              <ck-glyph name="attention" [size]="14" /><span class="visually-hidden">odd: </span>
            }
            <b>{{ t.title }}</b>&ngsp;<small>{{ nameOf()(t) }}</small>
          </button>
        </li>
      }
    </ol>
  `,
  styles: `
    :host {
      display: block;
    }
    ol {
      list-style: none;
      margin: 0;
      padding: 0;
      columns: 2;
      column-gap: 24px;
      font-size: 0.875rem;
    }
    li {
      break-inside: avoid;
      border-bottom: 1px solid var(--ck-rule);
    }
    button {
      width: 100%;
      text-align: left;
      padding: 4px 2px;
      min-height: 30px;
    }
    .n {
      display: inline-block;
      width: 50px;
    }
    b {
      font-weight: 560;
    }
    .odd b {
      font-weight: 620;
    }
    small {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
      margin-left: 6px;
    }
    ck-glyph {
      margin-right: 5px;
    }
    .sel {
      background: var(--ck-copper-wash);
    }
    @media (max-width: 767px) {
      ol {
        columns: 1;
      }
      button {
        min-height: 44px;
      }
    }
  `,
})
export class ToldList {
  readonly told = input.required<readonly Explanation[]>();
  /** The one that is explained; −1 for none. */
  readonly chosen = input.required<number>();
  /** Minutes ahead of UTC of the log's clock. */
  readonly offset = input.required<number | null>();
  readonly nameOf = input.required<(told: Explanation) => string>();
  readonly tell = output<number>();
  protected readonly odd = computed(() => this.told().filter((t) => t.kind === 'odd').length);
  protected clock(seconds: number): string {
    return formatClock(seconds, this.offset());
  }
}
