import type { Card } from '../card';
import type { Charger } from '../system';
import type { SheetStep } from './step';

/** A device in its place, with its card. */
export interface Place {
  readonly charger: Charger;
  readonly card: Card;
  /** A monitor or thermostat has no source to stop, no passcode and no display error of its own here. */
  readonly source: boolean;
}

/** A step with nothing in it yet. */
export const bare = (id: string, kind: SheetStep['kind'], device: string | null, title: string): SheetStep => ({
  id,
  kind,
  device,
  title,
  says: [],
  notes: [],
});

/** With a full stop at the end, where there is none. */
export const sentence = (text: string): string => (/[.!?]$/.test(text) ? text : `${text}.`);
