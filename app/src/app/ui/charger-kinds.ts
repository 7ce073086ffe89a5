import { cardKindWords, quickKinds, type QuickKind } from '@calm-keel/core/card';
import { capital } from '@calm-keel/core/quantity';

/** Kinds of chargers, for a choice. */
export const chargerKinds: readonly { readonly value: QuickKind; readonly words: string }[] = quickKinds.map((value) => ({
  value,
  words: capital(cardKindWords[value]),
}));

/** What was chosen there; undefined for anything else. */
export const asChargerKind = (value: string): QuickKind | undefined => quickKinds.find((kind) => kind === value);
