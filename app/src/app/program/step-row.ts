import type { SheetStep } from '@calm-keel/core/runsheet';
import type { GlyphName } from '../ui/glyph';

/** A step of the run sheet as a list shows it: where it is, and how it was answered. */
export interface StepRow {
  readonly step: SheetStep;
  readonly number: number;
  /** Name of its device; empty for what is not on a device’s own display. */
  readonly device: string;
  readonly now: boolean;
  readonly answered: boolean;
  readonly skipped: boolean;
  /** When it was answered, ISO; empty while it was not. */
  readonly at: string;
  readonly glyph: GlyphName;
  readonly reading: string;
  /** The same as a clock shows it. */
  readonly time: string;
}
