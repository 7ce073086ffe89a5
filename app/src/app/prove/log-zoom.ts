import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { formatDay, formatMoment } from '@calm-keel/core/quantity';
import { Tip } from '../ui/tip';
import { moved, type Move, type Stretch } from './log-window';

const keys: Readonly<Record<string, Move>> = { '+': 'closer', '=': 'closer', '-': 'wider', ArrowLeft: 'earlier', ArrowRight: 'later' };

/** The stretch of the log in view, and buttons and keys that do what dragging in the plot does. */
@Component({
  selector: 'ck-log-zoom',
  imports: [Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'group', 'aria-label': 'Stretch of the log in view', '(keydown)': 'key($event)' },
  template: `
    <span class="n" role="status">{{ words() }}</span>
    @for (m of moves; track m.move) {
      <button type="button" class="ghost" [disabled]="!can(m.move)" [attr.aria-keyshortcuts]="m.key" [ckTip]="m.says" (click)="go(m.move)">
        {{ m.words }}
      </button>
    }
    @if (part()) {
      <button type="button" class="ghost" aria-keyshortcuts="0" (click)="changed.emit(null)">Whole log</button>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px 8px;
      margin: 6px 0 2px;
    }
    span {
      margin-right: auto;
      white-space: normal;
      font-size: 0.8438rem;
      color: var(--ck-ink-2);
    }
    .ghost {
      min-height: 32px;
      padding: 2px 10px;
      font-size: 0.8438rem;
    }
    @media (max-width: 767px) {
      span {
        flex-basis: 100%;
      }
      .ghost {
        min-height: 44px;
      }
    }
  `,
})
export class LogZoom {
  readonly whole = input.required<Stretch>();
  readonly window = input.required<Stretch>();
  /** Minutes ahead of UTC of the log's clock. */
  readonly offset = input.required<number | null>();
  /** The stretch that is asked for; null for the whole log. */
  readonly changed = output<Stretch | null>();

  protected readonly moves = [
    { move: 'closer', words: 'Closer', key: '+', says: 'Half of the time in view (+)' },
    { move: 'wider', words: 'Wider', key: '-', says: 'Twice the time in view (−)' },
    { move: 'earlier', words: 'Earlier', key: 'ArrowLeft', says: 'Half a view earlier (arrow left)' },
    { move: 'later', words: 'Later', key: 'ArrowRight', says: 'Half a view later (arrow right)' },
  ] as const;
  protected readonly part = computed(() => this.window().from > this.whole().from || this.window().to < this.whole().to);
  protected readonly words = computed(() => {
    const shift = (this.offset() ?? 0) * 60;
    const [from, to] = [this.window().from + shift, this.window().to + shift];
    const days = formatDay(from) !== formatDay(to);
    return `${formatMoment(from, days)} to ${formatMoment(to, days)}`;
  });

  /** Whether a move would change anything. */
  protected can(move: Move): boolean {
    const next = moved(this.whole(), this.window(), move);
    return next ? next.from !== this.window().from || next.to !== this.window().to : this.part();
  }
  protected go(move: Move): void {
    if (this.can(move)) this.changed.emit(moved(this.whole(), this.window(), move));
  }
  protected key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const move = keys[event.key];
    if (move) this.go(move);
    else if (event.key === '0' && this.part()) this.changed.emit(null);
    else return;
    event.preventDefault();
  }
}
