import { DestroyRef, effect, inject, type Signal } from '@angular/core';

/** Keeps the screen on while a signal says so, where the device can; asks again when the page comes back into view. */
export function keepAwake(wanted: Signal<boolean>): void {
  let lock: WakeLockSentinel | null = null;
  const take = async (): Promise<void> => {
    if (!wanted() || document.visibilityState !== 'visible' || (lock && !lock.released) || !('wakeLock' in navigator)) return;
    try {
      lock = await navigator.wakeLock.request('screen');
    } catch {
      // A battery that is nearly flat refuses: the sheet is at the same step when the screen comes back.
    }
  };
  const release = (): void => {
    void lock?.release();
    lock = null;
  };
  const again = (): void => void take();
  document.addEventListener('visibilitychange', again);
  effect(() => {
    if (wanted()) void take();
    else release();
  });
  inject(DestroyRef).onDestroy(() => {
    document.removeEventListener('visibilitychange', again);
    release();
  });
}
