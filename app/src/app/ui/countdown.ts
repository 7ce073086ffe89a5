import { computed, DestroyRef, inject, linkedSignal, type Signal } from '@angular/core';

/** How often the time left is looked at, ms. */
const tickMs = 250;

/** Time that runs out, from when a person says that it begins. */
export interface Countdown {
  /** Whole seconds left, 0 when they are over; null while nobody counts. */
  readonly left: Signal<number | null>;
  start(seconds: number): void;
}

/** A countdown of a part of the page, which ends with it. @param of what it counts for: another begins uncounted */
export function countdown(of: () => string): Countdown {
  const left = linkedSignal<string, number | null>({ source: computed(of), computation: () => null });
  let ticking: ReturnType<typeof setInterval> | undefined;
  inject(DestroyRef).onDestroy(() => {
    clearInterval(ticking);
  });
  return {
    left: left.asReadonly(),
    start: (seconds) => {
      clearInterval(ticking);
      const end = Date.now() + seconds * 1000;
      left.set(seconds);
      ticking = setInterval(() => {
        if (left() !== null) left.set(Math.max(0, Math.ceil((end - Date.now()) / 1000)));
        if (!left()) clearInterval(ticking);
      }, tickMs);
    },
  };
}
