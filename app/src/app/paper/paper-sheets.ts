import { afterRenderEffect, ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output, viewChildren } from '@angular/core';
import type { Box } from '@calm-keel/core/paper';
import { PaperReader } from '../data/paper-reading';
import type { OpenPaper } from '../workers/paper.worker';

/** A place marked on a page. */
export interface Mark {
  readonly id: string;
  readonly name: string;
  readonly page: number;
  readonly boxes: readonly Box[];
  readonly look: 'sure' | 'look' | 'taken';
}

/** Pixels a page is drawn wide: enough to read at twice its size on the page. */
const drawn = 1400;

/** The pages of a document at reading size, their places outlined. A page is drawn when it comes near. */
@Component({
  selector: 'ck-paper-sheets',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (page of paper().pages; track page.number) {
      <div class="page" [style.aspect-ratio]="page.width + ' / ' + page.height" role="group" [attr.aria-label]="'Page ' + page.number">
        <canvas #canvas [attr.data-page]="page.number" aria-hidden="true"></canvas>
        @for (mark of on().get(page.number) ?? []; track mark.id) {
          @for (box of mark.boxes; track $index) {
            <button
              type="button"
              tabindex="-1"
              [class]="mark.look"
              [class.here]="mark.id === here()"
              [style.left.%]="box.x * 100 - 0.4"
              [style.top.%]="box.y * 100 - 0.3"
              [style.width.%]="box.w * 100 + 0.8"
              [style.height.%]="box.h * 100 + 0.6"
              [attr.aria-label]="mark.name + ', page ' + mark.page"
              (click)="chosen.emit(mark.id)"
            ></button>
          }
        }
      </div>
    }
    @if (paper().count > paper().pages.length) {
      <p class="quiet">{{ paper().count }} pages; the first {{ paper().pages.length }} were read.</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .page {
      position: relative;
      width: 100%;
      margin: 0 auto 18px;
      background: var(--ck-print-paper);
      border: 1px solid var(--ck-rule-strong);
    }
    canvas {
      display: block;
      width: 100%;
      height: 100%;
    }
    button {
      position: absolute;
      min-height: 0;
      padding: 0;
      border: 1.6px solid var(--ck-ink);
      border-radius: 1px;
      background: none;
      cursor: pointer;
      &.look {
        border: 1.8px dashed var(--ck-attention);
      }
      &.taken {
        border: 0;
        border-bottom: 2.5px solid var(--ck-done);
      }
      &.here {
        border: 3px solid var(--ck-copper);
        background: color-mix(in srgb, var(--ck-copper) 14%, transparent);
      }
    }
    @media (forced-colors: active) {
      button.here {
        outline: 3px solid Highlight;
      }
    }
  `,
})
export class PaperSheets {
  private readonly reader = inject(PaperReader);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly paper = input.required<OpenPaper>();
  readonly marks = input.required<readonly Mark[]>();
  /** The one in hand. */
  readonly here = input<string | null>(null);
  readonly chosen = output<string>();
  private readonly canvases = viewChildren<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly asked = new Set<number>();

  protected readonly on = computed(() => new Map(this.paper().pages.map(({ number }) => [number, this.marks().filter((mark) => mark.page === number)])));

  constructor() {
    const near = new IntersectionObserver(
      (entries) => {
        for (const { target, isIntersecting } of entries) if (isIntersecting) void this.draw(target as HTMLCanvasElement);
      },
      { rootMargin: '600px' },
    );
    afterRenderEffect({
      read: (onCleanup) => {
        for (const { nativeElement } of this.canvases()) near.observe(nativeElement);
        onCleanup(() => {
          near.disconnect();
        });
      },
    });
    // The one in hand is in view. Only the sheet moves for it: a page that moved too would slide the keys from under a thumb.
    afterRenderEffect(() => {
      const mark = this.marks().find((m) => m.id === this.here());
      if (!mark) return;
      const button = this.host.nativeElement.querySelector<HTMLElement>('button.here');
      const sheet = this.host.nativeElement.parentElement;
      if (!button || !sheet) return;
      const [it, view] = [button.getBoundingClientRect(), sheet.getBoundingClientRect()];
      sheet.scrollBy(it.x + it.width / 2 - view.x - view.width / 2, it.y + it.height / 2 - view.y - view.height / 2);
    });
  }

  private async draw(canvas: HTMLCanvasElement): Promise<void> {
    const page = Number(canvas.dataset['page']);
    if (this.asked.has(page)) return;
    this.asked.add(page);
    const picture = await this.reader.draw(page, drawn);
    if (!picture) return;
    canvas.width = picture.width;
    canvas.height = picture.height;
    canvas.getContext('bitmaprenderer')?.transferFromImageBitmap(picture);
    canvas.dataset['drawn'] = '';
  }
}
