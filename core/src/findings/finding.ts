import type { Role } from '../card';
import type { Assumable, Override, Plan, Schools } from '../settings';
import type { Basis, Rank } from '../sheet';
import type { Bank, Breaks, Charger, Companion, Sensor } from '../system';

/** `stop`: do not program. `attention`: look before you go on. `note`: good to know. Never verdicts. */
export type Severity = 'stop' | 'attention' | 'note';

/** A change a remedy can make to the job; the job folder knows how to apply it. */
export type Change =
  | {
      readonly kind: 'setSchool';
      readonly school: keyof Schools;
      readonly to: string | number;
      /** Who chose it, why and when; saved with the job. */
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
  /** Says whose the figures are of which nobody has said it, and those read from the document from now on. */
  | { readonly kind: 'rankFigures'; readonly rank: Rank }
  | { readonly kind: 'pinSheet'; readonly sheet: string }
  | { readonly kind: 'setCells'; readonly cells: number }
  | { readonly kind: 'passcodeChanged'; readonly charger: string }
  /** Somebody has looked: what was assumed is as it is. Instruments by their id. */
  | { readonly kind: 'confirmAssumed'; readonly what: readonly Assumable[]; readonly meters?: readonly string[] }
  | { readonly kind: 'override'; readonly override: Override };

/** A number in the core’s unit, an id, a code, what a label or a paper says. Never a sentence. */
type Scalar = string | number | boolean | null | undefined;
type Row = Readonly<Record<string, Scalar | readonly Scalar[]>>;

/** One thing a finding knows. */
export type Fact = Scalar | Row | readonly (Scalar | Row)[];

/** What a finding knows, by name. */
export type Facts = Readonly<Record<string, Fact>>;

/** A value as its device shows it: in the device’s own unit and decimals. */
export type DeviceReading = Readonly<{ value: number | string; unit: string; digits: number }>;

/** What remedies do, each with what its button needs to say. */
export interface RemedyFacts {
  readonly asAssumed: object;
  readonly clearOverride: object;
  readonly clearLimit: { readonly device: string };
  readonly recordReading: DeviceReading;
  readonly recordOff: object;
  readonly recordSensorFitted: object;
  readonly recordSensorOnCase: object;
  readonly recordSensorUnplugged: object;
  readonly rankFigures: { readonly rank: Rank };
  readonly recordWired: object;
  readonly recordBalanced: object;
  readonly recordFullCharge: object;
  readonly recordPasscode: object;
  readonly recordReadBack: object;
  readonly recordRelayMoved: { readonly to: Breaks };
  readonly reviewed: object;
  readonly setBasis: { readonly basis: Basis };
  readonly setCells: { readonly cells: number };
  readonly pinSheet: { readonly revision: string };
  readonly countBestAvailable: object;
  readonly restInstead: object;
  readonly holdSheetFloat: object;
  readonly anyProtection: object;
  readonly addMargin: object;
  readonly raiseCutoffs: { readonly pastC: number };
  readonly stagger: { readonly sources: readonly { readonly device: string; readonly fromC: number }[] };
  readonly lowerLimits: { readonly togetherA: number; readonly late: readonly { readonly device: string; readonly fromC: number }[] };
  readonly absorbEvery: { readonly everyDays: number | null };
  readonly storeBank: object;
  readonly timeEndsAbsorb: object;
}
export type RemedyCode = keyof RemedyFacts;

/** Something the tool can do about a finding with one press: what it does, what its button says of it, and the changes that do it. */
export type Remedy = {
  readonly [C in RemedyCode]: object extends RemedyFacts[C]
    ? { readonly does: C; readonly facts?: undefined; readonly changes: readonly Change[] }
    : { readonly does: C; readonly facts: RemedyFacts[C]; readonly changes: readonly Change[] };
}[RemedyCode];

/** What a rule found: facts, and what can be done about them. The catalogue adds the code; the words folder says it. */
export interface Draft<F extends Facts = Facts> {
  readonly severity: Severity;
  /** The device it is about, by its id. */
  readonly charger?: string;
  readonly role?: Role;
  /** The figure of the sheet it points at. */
  readonly figure?: string;
  readonly facts: F;
  readonly remedies?: readonly Remedy[];
}

/** One thing that is wrong, or worth knowing. */
export interface Finding extends Draft {
  readonly code: string;
  readonly remedies: readonly Remedy[];
}

/** What a finding is about: the same while only what it knows changes. */
export const aboutOf = ({
  code,
  charger,
  role,
  figure,
}: {
  code: string;
  charger?: string | undefined;
  role?: Role | undefined;
  figure?: string | undefined;
}): string => `${code}/${charger ?? ''}/${role ?? ''}/${figure ?? ''}`;

/** What a rule looks at. */
export interface FindingContext {
  readonly plan: Plan;
  /** Today, year-month-day. */
  readonly today: string;
}

/** Where a finding is dealt with. */
export interface FindingPlace {
  /** On the sheet or on the system; on the settings where it is not said. */
  readonly belongsTo?: 'sheet' | 'system';
}

/** One rule, one file. Its code is its name in the catalogue. */
export interface FindingRule<F extends Facts = Facts> extends FindingPlace {
  readonly check: (context: FindingContext) => readonly Draft<F>[];
}
