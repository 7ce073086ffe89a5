import type { Band } from '../quantity';

/** `specified`: is the bank treated as the maker asks. `programmed`: does the charger do what it was told. */
type Question = 'specified' | 'programmed';

/**
 * What can show that a requirement is met: a log over hours, a guided test on the spot, what is on record of the device (read-backs, comparisons),
 * or, before anything is keyed, a rehearsal.
 */
export type EvidenceKind = 'log' | 'test' | 'record' | 'rehearsal';

export type RequirementCode =
  | 'neverAboveMaximum'
  | 'absorbLevel'
  | 'absorbCompleted'
  | 'longestAbsorb'
  | 'floatLevel'
  | 'noFloat'
  | 'noChargeBelowMinimum'
  | 'noChargeAboveMaximum'
  | 'currentForTemperature'
  | 'currentCeiling'
  | 'rechargeLevel'
  | 'noEqualise'
  | 'equaliseDue'
  | 'compensation'
  | 'chargersAgree'
  | 'monitorFull'
  | 'noDisconnect'
  | 'loadsStayOn'
  | 'loadDisconnect'
  | 'loadReconnect'
  | 'machineTemperature'
  | 'softStart'
  | 'diversion'
  | 'displayAgrees'
  | 'survivesPowerCut'
  | 'passcodeChanged'
  | 'absorbAsProgrammed'
  | 'floatAsProgrammed'
  | 'rechargeAsProgrammed'
  | 'currentAsProgrammed'
  | 'slopeAsProgrammed'
  | 'cutoffAsProgrammed'
  | 'resumeAsProgrammed';

/** What identifies a requirement across logs, tests, runs and recalculations: its code, and the device it is about or nothing for the bank. */
export const keyOfRequirement = (code: RequirementCode, device = ''): string => `${code}/${device}`;

/** The same of what is about a requirement: a verdict, an outcome, evidence. */
export const requirementKey = ({ requirement }: { readonly requirement: Pick<Requirement, 'code' | 'charger'> }): string =>
  keyOfRequirement(requirement.code, requirement.charger);

/** Something that must hold, with the numbers that judge it. Rehearsal, logs and tests share it. */
export interface Requirement {
  readonly code: RequirementCode;
  /** Id of a charger or companion; missing when it is about the whole bank. */
  readonly charger?: string;
  readonly question: Question;
  /** What is asked, in words. */
  readonly name: string;
  readonly why: string;
  readonly seenBy: readonly EvidenceKind[];
  readonly band: Band;
  readonly unit: 'V' | 's' | 'd' | '°C' | 'A' | 'mV/°C/cell' | '%' | '';
  readonly digits: number;
  /** Shorter than this does not count, s. */
  readonly dwellSeconds: number;
  /** Current at or below this counts as none, A. */
  readonly zeroA: number;
  /** For absorbCompleted: net bank current that also ends it, A. */
  readonly taperA?: number;
  /** For absorbCompleted, the least level at which its time counts; for equaliseDue, the least that is equalising; for noFloat, the resting volts of a full bank, derived. V at the reference temperature. */
  readonly levelV?: number;
  /** For loadDisconnect and loadReconnect: how long the volts lie beyond it before it acts, s; missing while nobody knows. */
  readonly delaySeconds?: number;
  /** For equaliseDue: how long an equalise lasts at the least, s. */
  readonly heldSeconds?: number;
  /** As programmed: nobody has read what the device is set to, so what it was told is not known. The band is that of the target. */
  readonly notRead?: true;
  /** As programmed: the band of the target, where the device showed something else when it was read. */
  readonly targetBand?: Band;
  /** For currentAsProgrammed: the limit itself, without the slack of the band, A. */
  readonly toldA?: number;
  /** Bands of voltage move with battery temperature: V/°C for the bank, and where the shift is zero. */
  readonly compensation?: { readonly slope: number; readonly referenceC: number };
}
