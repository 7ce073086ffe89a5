import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, viewChild } from '@angular/core';
import { formatMoment, formatQuantity } from '@calm-keel/core/quantity';
import type { Plan } from '@calm-keel/core/settings';
import { Units } from '../data/units';
import { Axis } from '../ui/axis';
import type { RunView } from '../workers/run-view';
import { stageLook } from '../ui/stages';
import { cutText } from '../ui/cut-text';
import { layoutDay, spanAt, valueAt } from './day-layout';

/** The rehearsed day: volts over the maker's bands, each charger's current on its own ribbon, bank current, charge, temperature, one time axis. */
@Component({
  selector: 'ck-day-plot',
  imports: [Axis],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './day-plot.svg.html',
  styles: `
    :host {
      display: block;
      position: relative;
    }
    svg {
      display: block;
      touch-action: pan-y;
      cursor: crosshair;
    }
    svg:focus-visible {
      outline: 3px solid var(--ck-ink);
      outline-offset: 2px;
    }
    .pick {
      cursor: pointer;
    }
  `,
})
export class DayPlot {
  private readonly units = inject(Units);
  readonly plan = input.required<Plan>();
  readonly a = input.required<RunView>();
  readonly b = input<RunView | null>(null);
  readonly width = input.required<number>();
  readonly phone = input(false);
  readonly charger = input<string | null>(null);
  /** The chosen moment, seconds. */
  readonly cursor = input.required<number>();
  readonly moved = output<number>();
  readonly chosen = output<string>();
  readonly drawing = viewChild.required<ElementRef<SVGSVGElement>>('drawing');

  protected readonly scale = computed(() => ({
    label: this.units.label(),
    toShown: (c: number): number => this.units.number(c),
  }));
  readonly layout = computed(() => layoutDay(this.plan(), this.a(), this.b(), this.width(), this.phone(), this.charger(), this.scale()));
  /** Events that are told on the time bar: rings, at most one every few pixels. */
  protected readonly rings = computed(() => {
    const { x } = this.layout();
    let last = -Infinity;
    return this.a().events.flatMap((e) => {
      const at = x(e.at);
      if (at - last < 9) return [];
      last = at;
      return [{ x: at, t: e.at, text: this.units.speak(e.text) }];
    });
  });
  protected readonly cursorX = computed(() =>
    Math.max(this.layout().left, Math.min(this.layout().width - this.layout().right, this.layout().x(this.cursor()))),
  );
  protected readonly cursorVolts = computed(() => {
    const { volts } = this.layout();
    const v = valueAt(this.a().volts, this.cursor());
    const [top, bottom] = [volts.top, volts.top + volts.height];
    return { v, inside: Number.isFinite(v), top, bottom };
  });
  /** What a screen reader hears of the drawing as a whole. */
  protected readonly summary = computed(() => {
    const a = this.a();
    const t = this.cursor();
    const stages = this.plan()
      .input.system.chargers.map((c) => {
        const own = a.chargers.find((x) => x.id === c.id);
        const span = own && spanAt(own.spans, t);
        return span ? `${c.name} ${stageLook[span.stage].words}` : '';
      })
      .filter((s) => s !== '')
      .join(', ');
    return `At ${formatMoment(t, a.to - a.from > 86_400)} the bank is at ${formatQuantity(valueAt(a.volts, t), 'V', 2)}. ${stages}.`;
  });

  private timeAt(event: PointerEvent): number {
    const box = this.drawing().nativeElement.getBoundingClientRect();
    return this.layout().at(((event.clientX - box.left) * this.layout().width) / box.width);
  }

  /** As much of a name as stands left of the plot; the whole of it stands in the roster. */
  protected short(name: string, room: number): string {
    return cutText(name, Math.floor((room - 10) / 7));
  }

  protected down(event: PointerEvent): void {
    this.drawing().nativeElement.setPointerCapture(event.pointerId);
    this.moved.emit(this.timeAt(event));
  }

  protected drag(event: PointerEvent): void {
    if (event.buttons !== 0) this.moved.emit(this.timeAt(event));
  }

  /** Arrow keys move the moment by a pixel or so, with Shift by ten; Home and End to the ends; page keys from event to event. */
  protected keys(event: KeyboardEvent): void {
    const a = this.a();
    const step = ((a.to - a.from) / Math.max(1, this.width())) * (event.shiftKey ? 10 : 2);
    const t = this.cursor();
    const to =
      event.key === 'ArrowRight'
        ? t + step
        : event.key === 'ArrowLeft'
          ? t - step
          : event.key === 'Home'
            ? a.from
            : event.key === 'End'
              ? a.to
              : event.key === 'PageDown'
                ? (a.events.find((e) => e.at > t + 1)?.at ?? t)
                : event.key === 'PageUp'
                  ? (a.events.filter((e) => e.at < t - 1).at(-1)?.at ?? t)
                  : null;
    if (to === null) return;
    event.preventDefault();
    this.moved.emit(Math.min(a.to, Math.max(a.from, to)));
  }
}
