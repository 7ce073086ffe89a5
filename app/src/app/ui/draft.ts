import { linkedSignal, type WritableSignal } from '@angular/core';

/** What is being typed of something that is not there yet; held while the same device is in view, whatever else changes on it. */
export const draftFor = <T>(device: () => string): WritableSignal<T | null> =>
  linkedSignal<string, T | null>({ source: device, computation: (now, previous) => (previous?.source === now ? previous.value : null) });

/** A draft with one of its fields as it is typed now; one that was emptied is not in it. */
export function withTyped<T extends object, K extends keyof T>(draft: T | null, key: K, value: T[K] | undefined): T {
  const { [key]: _before, ...others } = draft ?? ({} as T);
  return (value === undefined ? others : { ...others, [key]: value }) as T;
}
