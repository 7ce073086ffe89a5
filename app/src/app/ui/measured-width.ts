import { effect, signal, type ElementRef, type Signal } from '@angular/core';

/** Width of an element in whole pixels, followed as it changes; before it is first measured, as on a usual desktop. */
export function measuredWidth(element: Signal<ElementRef<HTMLElement> | undefined>): Signal<number> {
  const width = signal(740);
  const watch = new ResizeObserver(([entry]) => {
    if (entry) width.set(Math.floor(entry.contentRect.width));
  });
  effect((onCleanup) => {
    const at = element()?.nativeElement;
    if (!at) return;
    watch.observe(at);
    onCleanup(() => {
      watch.disconnect();
    });
  });
  return width.asReadonly();
}
