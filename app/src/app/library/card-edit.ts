/** A change that somebody makes to a card: what it is called, and what the card would be. The card may not hold together yet. */
export interface CardEdit {
  readonly label: string;
  readonly card: unknown;
}
