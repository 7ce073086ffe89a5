import { DestroyRef, Directive, effect, ElementRef, inject, input, output } from '@angular/core';
import type { Data, Layout, PlotlyHTMLElement, PlotRelayoutEvent } from 'plotly.js';

/** The plot library reads a few tags and entities as markup; names are text. */
export const plainForPlot = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');

/** What is drawn: traces and layout. */
export interface PlotSpec {
  readonly data: readonly Partial<Data>[];
  readonly layout: Partial<Layout>;
}

/** Draws a plot into its element, once there is something to draw; the library is fetched then, and never offers to send data anywhere. */
@Directive({ selector: '[ckPlot]', exportAs: 'ckPlot' })
export class Plot {
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly ckPlot = input.required<PlotSpec | null>();
  /** The time range in view after a zoom; null for the whole. */
  readonly zoomed = output<readonly [string, string] | null>();
  readonly clickedAt = output<string>();
  readonly drawn = output();
  private ready = false;

  constructor() {
    effect(() => {
      const spec = this.ckPlot();
      if (spec) void this.draw(spec);
    });
    inject(DestroyRef).onDestroy(() => {
      if (this.ready)
        void library().then((plotly) => {
          plotly.purge(this.element);
        });
    });
  }

  private async draw(spec: PlotSpec): Promise<void> {
    const plotly = await library();
    if (spec !== this.ckPlot()) return;
    await withoutBase(() =>
      plotly.react(this.element, [...spec.data] as Data[], spec.layout, {
        displayModeBar: false,
        responsive: true,
        showSendToCloud: false,
        plotlyServerURL: '',
        scrollZoom: false,
        doubleClick: 'reset',
        // The page's own buttons say how to see the whole again.
        showTips: false,
      } as never),
    );
    if (!this.ready) {
      this.ready = true;
      const plot = this.element as unknown as PlotlyHTMLElement;
      plot.on('plotly_relayout', (event: PlotRelayoutEvent) => {
        const changed = event as Record<string, unknown>;
        if (typeof changed['xaxis.range[0]'] === 'string' && typeof changed['xaxis.range[1]'] === 'string')
          this.zoomed.emit([changed['xaxis.range[0]'], changed['xaxis.range[1]']]);
        else if (changed['xaxis.autorange']) this.zoomed.emit(null);
      });
      plot.on('plotly_click', (event) => {
        const x = event.points[0]?.x;
        if (typeof x === 'string') this.clickedAt.emit(x);
      });
    }
    this.drawn.emit();
  }
}

/**
 * Where the page has a base, the plot library writes the page's address of that moment into what it clips by. The address changes with every place that is
 * chosen, and the browser would fetch the old one: a fragment alone is the page's own.
 */
function withoutBase<T>(draw: () => T): T {
  const base = document.querySelector('base');
  const href = base?.getAttribute('href') ?? null;
  base?.removeAttribute('href');
  try {
    return draw();
  } finally {
    if (href !== null) base?.setAttribute('href', href);
  }
}

/** The plot library. Its start is a task of its own: the page has a turn before anything is drawn. */
const library = async () => {
  const { default: plotly } = await import('plotly.js-basic-dist-min');
  await new Promise((resolve) => setTimeout(resolve, 0));
  return plotly;
};
