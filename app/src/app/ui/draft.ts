import { linkedSignal, type WritableSignal } from '@angular/core';

/** What is being typed of something that is not there yet; held while the same device is in view, whatever else changes on it. */
export const draftFor = <T>(device: () => string): WritableSignal<T | null> =>
  linkedSignal<string, T | null>({ source: device, computation: (now, previous) => (previous?.source === now ? previous.value : null) });
