import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output, signal } from '@angular/core';
import type { StageSpan } from '@calm-keel/core/proof';
import { formatClock, formatDuration } from '@calm-keel/core/quantity';
import { axis } from '../ui/scales';
import { stageLook } from '../ui/stages';

/** One charger's stages over the time in view: texture, letter and word. */
@Component({
  selector: 'ck-stage-ribbon',
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
    }
    g {
      cursor: pointer;
      outline: none;
    }
    g:focus-visible rect:first-of-type {
      stroke: var(--ck-ink);
      stroke-width: 3;
    }
  `,
  template: `
    <svg
      [attr.width]="width()"
      [attr.height]="height()"
      role="group"
      [attr.aria-label]="'Stages of ' + name()"
      (focusin)="reach($event)"
      (click)="press($event)"
      (keydown.arrowright)="step($event, 1)"
      (keydown.arrowleft)="step($event, -1)"
      (keydown.enter)="press($event)"
      (keydown.space)="press($event); $event.preventDefault()"
    >
      <path [attr.d]="'M' + left() + ' ' + height() / 2 + 'H' + (width() - right())" stroke="var(--ck-ink-3)" />
      @for (s of segments(); track s.from) {
        <g [attr.tabindex]="s.span === stop() ? 0 : -1" role="button" [attr.aria-label]="s.label" [attr.aria-pressed]="s.chosen">
          <title>{{ s.label }}</title>
          @if (s.texture) {
            <rect
              [attr.x]="s.x"
              y="1"
              [attr.width]="s.w"
              [attr.height]="height() - 2"
              [attr.fill]="'url(#tx-' + s.texture + ')'"
              [attr.stroke]="s.chosen ? 'var(--ck-copper)' : 'var(--ck-ink-2)'"
              [attr.stroke-width]="s.chosen ? 2.5 : 0.8"
            />
            @if (s.w >= 24) {
              <rect [attr.x]="s.x + 5" [attr.y]="height() / 2 - 7" width="14" height="14" [attr.fill]="'var(--ck-' + s.texture + '-wash)'" />
              <text
                [attr.x]="s.x + 12"
                [attr.y]="height() / 2 + 4.3"
                font-size="12"
                font-weight="700"
                text-anchor="middle"
                [attr.fill]="'var(--ck-' + s.texture + ')'"
              >
                {{ s.letter }}
              </text>
            }
          } @else {
            <rect [attr.x]="s.x" y="1" [attr.width]="s.w" [attr.height]="height() - 2" fill="transparent" />
          }
        </g>
      }
    </svg>
  `,
})
export class StageRibbon {
  readonly name = input.required<string>();
  readonly spans = input.required<readonly StageSpan[]>();
  readonly from = input.required<number>();
  readonly to = input.required<number>();
  readonly offsetMinutes = input.required<number | null>();
  readonly width = input.required<number>();
  readonly height = input(20);
  readonly left = input(0);
  readonly right = input(0);
  readonly selected = input<StageSpan | null>(null);
  readonly chosen = output<StageSpan>();

  /** The segment that the arrow keys have come to. */
  protected readonly reached = signal<StageSpan | null>(null);
  /** The one segment that Tab comes to: the last that was reached, else the chosen one, else the first. */
  protected readonly stop = computed(() => {
    const spans = this.segments().map((s) => s.span);
    return [this.reached(), this.selected()].find((s) => s && spans.includes(s)) ?? spans[0];
  });
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;

  // A log of a month has hundreds of segments: what is done to one is heard by all of them together.
  private at(event: Event): number {
    const segment = event.target instanceof Element ? event.target.closest<SVGElement>('g[role=button]') : null;
    return segment ? [...this.host.querySelectorAll('g[role=button]')].indexOf(segment) : -1;
  }
  protected reach(event: Event): void {
    this.reached.set(this.segments()[this.at(event)]?.span ?? null);
  }
  protected press(event: Event): void {
    const segment = this.segments()[this.at(event)];
    if (segment) this.chosen.emit(segment.span);
  }
  /** Goes to a segment beside, where there is one. */
  protected step(event: Event, by: number): void {
    event.preventDefault();
    this.host.querySelectorAll<SVGElement>('g[role=button]')[this.at(event) + by]?.focus();
  }

  protected readonly segments = computed(() => {
    const from = this.from();
    const to = this.to();
    const x = axis([from, to], [this.left(), this.width() - this.right()]).clamp(true);
    return this.spans()
      .filter((s) => s.to > from && s.from < to)
      .map((span) => {
        const { letter, texture, words } = stageLook[span.stage];
        const clock = (t: number): string => formatClock(t, this.offsetMinutes());
        return {
          span,
          letter,
          texture,
          from: span.from,
          x: x(span.from),
          w: Math.max(1, x(span.to) - x(span.from)),
          chosen: this.selected() === span,
          label: `${this.name()}: ${words} from ${clock(span.from)} to ${clock(span.to)}${span.atVoltageSeconds > 0 ? `, ${formatDuration(span.atVoltageSeconds)} of it at voltage` : ''}`,
        };
      });
  });
}
