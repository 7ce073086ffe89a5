import { DestroyRef, Directive, ElementRef, inject, input, signal } from '@angular/core';

/** What is wider than the page moves in itself; only where it does, it can be reached by Tab and has a name, so that the arrow keys move it. */
@Directive({
  selector: '[ckMoves]',
  host: {
    class: 'moves',
    '[attr.tabindex]': 'wider() ? 0 : null',
    '[attr.role]': "wider() ? 'region' : null",
    '[attr.aria-label]': 'wider() ? ckMoves() : null',
  },
})
export class Moves {
  /** What it is, for the ear: “Permitted current”. */
  readonly ckMoves = input.required<string>();
  protected readonly wider = signal(false);

  constructor() {
    const element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const watch = new ResizeObserver(() => {
      this.wider.set(element.scrollWidth > element.clientWidth + 1);
    });
    watch.observe(element);
    // What is in it grows without it.
    const inner = new MutationObserver(() => {
      for (const child of element.children) watch.observe(child);
    });
    inner.observe(element, { childList: true });
    for (const child of element.children) watch.observe(child);
    inject(DestroyRef).onDestroy(() => {
      watch.disconnect();
      inner.disconnect();
    });
  }
}
