import type { Role } from '../card';
import type { Stage } from '../charger';
import type { FaceNote } from '../face';
import type { Choice, Claim, Danger, Done, FaultCode, Hand, Hint, Judged, LeftWrong, PlaceCode, Sight } from '../practice';

/** How the bench writes numbers, names and settings. */
export interface BenchSay {
  readonly name: (device: string) => string;
  /** The label of a setting on its device. */
  readonly label: (device: string, role: Role) => string;
  readonly shown: (device: string, role: Role, value: number | string) => string;
  readonly volts: (value: number) => string;
  readonly amps: (value: number) => string;
  readonly celsius: (value: number) => string;
  readonly stage: (stage: Stage) => string;
}

/** What is said of one kind of fault. */
export interface FaultWords {
  /** As somebody would say it is; with the device where it is on one. */
  readonly cause: (on: string) => string;
  /** What the owner notices. */
  readonly complaint: string;
  /** What the owner notices where other sources fill the bank all the same. */
  readonly besideOthers?: string;
  /** What it does to the bank or the people. */
  readonly does: string;
  /** Where and how it shows. */
  readonly shows: string;
  /** What puts it right. */
  readonly cure: string;
}

/** Everything the practice bench says. */
export interface PracticeWords {
  readonly places: Readonly<Record<PlaceCode, { readonly name: string; readonly story: string }>>;
  readonly faults: Readonly<Record<FaultCode, FaultWords>>;
  /** What the owner says of it, in a place with this many sources. */
  readonly complaint: (code: FaultCode, sources: number) => string;
  readonly choice: (choice: Choice, say: BenchSay) => string;
  readonly hands: Readonly<Record<Hand, { readonly does: (on: string) => string; readonly caution?: string }>>;
  readonly sights: Readonly<Record<Sight, string>>;
  readonly probe: (probe: string, say: BenchSay) => string;
  /** A line of what was done. */
  readonly done: (done: Done, say: BenchSay) => string;
  readonly hint: (hint: Hint, say: BenchSay) => string;
  /** What to do to get such a line. */
  readonly toGet: (key: string, say: BenchSay) => string;
  /** What a key did; `label` is what the device calls a setting. */
  readonly note: (note: FaceNote, label: (role: Role) => string) => string;
  readonly danger: (danger: Danger, say: BenchSay) => string;
  readonly left: (left: LeftWrong, say: BenchSay) => string;
  readonly wrong: (claim: Claim, say: BenchSay) => string;
  readonly followed: (claim: Claim, say: BenchSay) => string;
  readonly needless: (hand: Hand, device: string | null, say: BenchSay) => string;
  readonly verdict: (judged: Judged, kind: 'find' | 'program') => string;
}
