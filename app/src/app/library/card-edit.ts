import { parseNumber } from '@calm-keel/core/quantity';

/** A change that somebody makes to a card: what it is called, and what the card would be. The card may not hold together yet. */
export interface CardEdit {
  readonly label: string;
  readonly card: unknown;
}

/** A number as it is typed; what is none comes back as it is, for the schema to refuse with its place. */
export function typedNumber(text: string): number | string {
  const read = parseNumber(text);
  return read.ok ? read.value : text;
}
