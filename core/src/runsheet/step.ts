import type { KeyStroke, Role } from '../card';
import type { EditBlock } from '../edits';
import type { Sentence } from '../quantity';

/** What a step is. */
type StepKind =
  | 'caution'
  | 'tools'
  | 'balance'
  | 'strings'
  | 'open'
  | 'wake'
  | 'identify'
  | 'compare'
  | 'readOff'
  | 'blocked'
  | 'reach'
  | 'edit'
  | 'commit'
  | 'persist'
  | 'link'
  | 'sensor'
  | 'passcode'
  | 'line'
  | 'close'
  | 'handBack';

/** A value to set on a display. */
export interface ValueToSet {
  readonly role: Role;
  readonly label: string;
  readonly from: number | string | null;
  readonly stands: string;
  /** Whether what stands was read off; else it is the factory’s. */
  readonly readOff: boolean;
  readonly to: number | string;
  readonly unit: string;
  readonly digits: number;
  readonly readBack: string;
  readonly temporary: boolean;
  readonly overwrites: readonly Role[];
}

/** A line to look at on a display. */
export interface Look {
  readonly role: Role;
  readonly label: string;
  readonly unit: string;
  readonly choices: readonly string[];
  /** What it should read; null where it is only noted. */
  readonly want: number | string | null;
  readonly text: string;
}

/** One step of the run sheet. */
export interface SheetStep {
  /** Stays the same while the job changes, so that answers keep their place. */
  readonly id: string;
  readonly kind: StepKind;
  readonly device: string | null;
  readonly title: string;
  /** What to do, one sentence each. */
  readonly says: readonly string[];
  /** What to know while doing it. */
  readonly notes: readonly string[];
  /** A hazard at this very step. */
  readonly caution?: string;
  readonly keys?: readonly KeyStroke[];
  readonly value?: ValueToSet;
  readonly looks?: readonly Look[];
  /** Things to lay out or to put back on. */
  readonly items?: readonly string[];
  /** The device throws the edit away after so long, s. */
  readonly timeoutS?: number;
  readonly blocked?: EditBlock;
  /** What the device should be, by its card. */
  readonly expects?: string;
  /** Its sensor is unplugged here, for good. */
  readonly unplugs?: true;
  /** An isolated source: this step opens it, or closes it again. */
  readonly source?: string;
}

/** Something that stays open from one step to another. */
export interface Hazard {
  readonly id: string;
  readonly words: string;
  /** Places in the list of steps. */
  readonly from: number;
  readonly to: number;
}

/** How each parameter of a card ends: none is left to chance. */
export interface Fate {
  readonly device: string;
  readonly role: Role;
  readonly label: string;
  readonly ends: 'set' | 'stands' | 'inherited' | 'left' | 'notUsed' | 'open';
  readonly text: string;
  readonly because: Sentence;
}

/** The run sheet of a job. */
export interface RunSheet {
  readonly steps: readonly SheetStep[];
  readonly hazards: readonly Hazard[];
  readonly fates: readonly Fate[];
}
