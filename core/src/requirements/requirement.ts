import type { Band } from '../quantity';

/** `specified`: is the bank treated as the maker asks. `programmed`: does the charger do what it was told. */
export type Question = 'specified' | 'programmed';

/** What a log can show. */
export type LogCode =
  'absorbLevel' | 'absorbCompleted' | 'floatLevel' | 'neverAboveMaximum' | 'noChargeBelowMinimum' | 'absorbAsProgrammed' | 'floatAsProgrammed';
/** What a rehearsal shows besides. */
export type RehearsalCode = 'currentForTemperature' | 'rechargeLevel' | 'noDisconnect' | 'loadsStayOn' | 'monitorFull';

/** Something that must hold, with the numbers that judge it. Rehearsal and proof share it. */
export interface Requirement<Code extends LogCode | RehearsalCode = LogCode> {
  readonly code: Code;
  /** Missing when it is about the whole bank. */
  readonly charger?: string;
  readonly question: Question;
  /** What is asked, in words. */
  readonly name: string;
  readonly why: string;
  readonly band: Band;
  readonly unit: 'V' | 's' | '°C' | 'A' | '';
  readonly digits: number;
  /** Shorter than this does not count, s. */
  readonly dwellSeconds: number;
  /** Current at or below this counts as none, A. */
  readonly zeroA: number;
  /** For absorbCompleted: net bank current that also ends it, A. */
  readonly taperA?: number;
  /** Bands of voltage move with battery temperature: V/°C for the bank, and where the shift is zero. */
  readonly compensation?: { readonly slope: number; readonly referenceC: number };
}
