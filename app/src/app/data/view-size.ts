import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';

/** Width of the page, and whether it is a phone's. */
@Injectable({ providedIn: 'root' })
export class ViewSize {
  readonly width = signal(document.documentElement.clientWidth);
  readonly phone = computed(() => this.width() < 768);

  constructor() {
    const watch = new ResizeObserver(() => {
      this.width.set(document.documentElement.clientWidth);
    });
    watch.observe(document.documentElement);
    inject(DestroyRef).onDestroy(() => {
      watch.disconnect();
    });
  }
}
