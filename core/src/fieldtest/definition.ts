import type { Band, Sentence } from '../quantity';
import type { ProofRow } from '../proof';
import type { RequirementCode } from '../requirements';
import type { Plan } from '../settings';
import type { Charger, Instrument } from '../system';
import type { Card } from '../card';
import type { TestCode, TestRecord } from './record';

/** One thing that is read. */
export interface ReadingField {
  readonly id: string;
  readonly name: string;
  readonly unit: 'V' | 'A' | '°C' | 's' | 'min' | '%' | '';
  /** Words to choose from instead of a number. */
  readonly choices?: readonly string[];
  readonly optional?: boolean;
  /** What is expected there, worked out beforehand. */
  readonly expected?: Band;
}

/** One step: something is switched off, done, waited for, read once, read again and again, or put back. */
export interface TestStep {
  readonly id: string;
  readonly kind: 'isolate' | 'do' | 'wait' | 'read' | 'series' | 'putBack';
  readonly title: string;
  readonly says: readonly Sentence[];
  readonly caution?: string;
  /** How long to wait, s. */
  readonly seconds?: number;
  readonly fields?: readonly ReadingField[];
}

/** What is expected, with how it was worked out. */
export interface Expected {
  readonly name: Sentence;
  readonly band: Band;
  readonly unit: string;
  readonly digits: number;
  readonly why: Sentence;
}

/** A test made ready for one device. */
interface Prepared {
  /** Why it must not be done here, in a sentence; null where it may. */
  readonly refused: Sentence | null;
  readonly expected: readonly Expected[];
  readonly steps: readonly TestStep[];
}

/** A device a test can be done on. */
export interface Subject {
  readonly device: Charger;
  readonly card: Card;
}

/** What is carried to a visit. */
export type VisitTool = 'multimeter' | 'clampMeter' | 'thermometer' | 'coldBath' | 'coldPack' | 'watch' | 'load' | 'supply' | 'settingsSheet';

/** What a test takes. */
export interface TestNeeds {
  /** What the source of its device gives: nothing is needed, some current, or its most. */
  readonly source: 'none' | 'some' | 'most';
  /** How the bank has to stand: anyhow, nearly empty, still taking all it is given, at absorb, or full. */
  readonly bank: 'any' | 'low' | 'taking' | 'absorb' | 'full';
  readonly bring: readonly VisitTool[];
  /** About so long at the device, min: as an unhurried person works, without waiting for sun or bank. */
  readonly minutes: number;
  /** The battery itself has to be warmer than this, °C. */
  readonly warmC?: number;
}

/** A guided test. */
export interface FieldTest {
  readonly code: TestCode;
  readonly name: string;
  readonly purpose: string;
  readonly tools: readonly string[];
  /** What it can prove. */
  readonly proves: readonly RequirementCode[];
  readonly needs: (plan: Plan, subject: Subject) => TestNeeds;
  /** The devices whose requirements it speaks to; its own where it says nothing. */
  readonly speaksFor?: (plan: Plan, subject: Subject) => readonly string[];
  readonly fits: (plan: Plan, subject: Subject) => boolean;
  readonly prepare: (plan: Plan, subject: Subject) => Prepared;
  /** Verdicts of what has been read so far; nothing read gives no rows. */
  readonly judge: (plan: Plan, subject: Subject, record: TestRecord, instrument: Instrument) => readonly ProofRow[];
}
