import type { Role } from '../card';
import type { Override, Plan, Schools } from '../settings';
import type { Basis } from '../sheet';
import type { Bank, Charger, Companion, Sensor } from '../system';

/** `stop`: do not program. `attention`: look before you go on. `note`: good to know. Never verdicts. */
export type Severity = 'stop' | 'attention' | 'note';

/** A change a remedy can make to the job; the job folder knows how to apply it. */
export type Change =
  | {
      readonly kind: 'setSchool';
      readonly school: keyof Schools;
      readonly to: string | number;
      /** Who chose it, why and when; kept with the job. */
      readonly chosen?: { readonly by: string; readonly reason: string; readonly date: string };
    }
  | { readonly kind: 'clearOverride'; readonly charger: string; readonly role: Role }
  | { readonly kind: 'reviewOverride'; readonly charger: string; readonly role: Role; readonly by: string }
  | { readonly kind: 'recordPresent'; readonly charger: string; readonly role: Role; readonly value: number | string }
  | { readonly kind: 'setSensor'; readonly charger: string; readonly sensor: Partial<Sensor> }
  | {
      readonly kind: 'setCharger';
      readonly charger: string;
      readonly values: Partial<Pick<Charger, 'firmware' | 'provedFirmware' | 'resetSinceProof' | 'follows'>>;
    }
  | { readonly kind: 'setCompanion'; readonly companion: string; readonly values: Partial<Pick<Companion, 'fullSeen' | 'relay'>> }
  | { readonly kind: 'setBank'; readonly values: Partial<Pick<Bank, 'chargeEnable' | 'firstCharge'>> }
  | { readonly kind: 'setBasis'; readonly figure: string; readonly basis: Basis }
  | { readonly kind: 'pinSheet'; readonly sheet: string }
  | { readonly kind: 'setCells'; readonly cells: number }
  | { readonly kind: 'passcodeChanged'; readonly charger: string }
  | { readonly kind: 'override'; readonly override: Override };

/** Something the tool can do about a finding with one press. */
interface Remedy {
  /** What the button does: "Set float to 26.9 V". */
  readonly label: string;
  readonly changes: readonly Change[];
}

/** One thing that is wrong, or worth knowing, with the numbers in it. */
export interface Finding {
  readonly code: string;
  readonly severity: Severity;
  readonly charger?: string;
  readonly role?: Role;
  /** The figure of the sheet it points at. */
  readonly figure?: string;
  /** One plain sentence with both numbers. */
  readonly text: string;
  /** One sentence on what it can hurt. */
  readonly hurts: string;
  readonly remedies: readonly Remedy[];
}

/** What a rule looks at. */
export interface FindingContext {
  readonly plan: Plan;
  /** Today, year-month-day. */
  readonly today: string;
}

/** Where a finding is dealt with, and what it is in a word or two. */
export interface FindingPlace {
  /** On the sheet or on the system; on the settings where it is not said. */
  readonly belongsTo?: 'sheet' | 'system';
  /** What the roster says of a device that has it: "No cold protection". */
  readonly short?: string;
}

/** One rule, one file, one code. */
export interface FindingRule extends FindingPlace {
  readonly code: string;
  readonly check: (context: FindingContext) => readonly Finding[];
}
