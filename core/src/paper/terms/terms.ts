import type { FigureKey } from '../../sheet';

/** A name for a figure. `weak`: the name alone does not say enough to be sure. */
export type Term = readonly [pattern: RegExp, key: FigureKey, strength?: 'weak'];

/** Settings of charge controllers that sound like a figure of a battery and are none. */
export type ForeignTerm = 'highVoltageDisconnect' | 'highVoltageReconnect' | 'floatCancel' | 'absorbExtension' | 'alarm' | 'discharge' | 'other';

/** What the head of a column says of the numbers under it. */
export type HeadKind = 'name' | 'min' | 'typ' | 'max' | 'value' | 'unit' | 'condition' | 'model';

/** How one language’s papers name things. */
export interface PaperTerms {
  readonly language: string;
  /** Settings that are no figure of a sheet; looked at before the figures. */
  readonly foreign: readonly (readonly [RegExp, ForeignTerm])[];
  /** Names in tables and lists; the first that fits holds, so the narrower ones come first. */
  readonly figures: readonly Term[];
  /** Turns of sentences that mean a figure, looked at before its names. */
  readonly prose: readonly Term[];
  readonly heads: Readonly<Partial<Record<HeadKind, RegExp>>>;
  /** Words around a value, in the words the figure reader knows. */
  readonly values: readonly (readonly [RegExp, string])[];
}
