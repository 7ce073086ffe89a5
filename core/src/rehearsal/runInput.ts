import type { Plan } from '../settings';
import type { Replay } from './replay';
import type { Scenario } from './scenario';
import type { AllValues } from './values';

/** What is not known exactly, as a study varies it. All neutral when missing. */
export interface Unknowns {
  /** V a charger reads too high beside what is known of its display; °C its sensor reads too warm. By charger id. */
  readonly displayV?: Readonly<Record<string, number>>;
  readonly sensorC?: Readonly<Record<string, number>>;
  /** Factors on cable resistance, capacity and cell resistance. */
  readonly cable?: number;
  readonly capacity?: number;
  readonly resistance?: number;
}

/** What is rehearsed. */
export interface RunInput {
  readonly plan: Plan;
  readonly scenario: Scenario;
  /** What stands on every device. */
  readonly values: AllValues;
  /** What was stored before anything was keyed in: what a power cut brings back. The values as found when missing. */
  readonly stored?: AllValues;
  readonly unknowns?: Unknowns;
  readonly replay?: Replay;
}
