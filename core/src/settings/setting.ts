import type { DeviceUnit, Role } from '../card';
import type { Band, BudgetLine, Sentence } from '../quantity';
import type { Override } from './input';

/** One line of a worked sum. */
export interface Step {
  /**
   * `start` a figure, `change` what is added to it, `result` an operation shown by what comes out of it, `subtotal` under a rule, `set` the value to key,
   * `after` what it makes, `note` words only.
   */
  readonly kind: 'start' | 'change' | 'result' | 'subtotal' | 'set' | 'after' | 'note';
  readonly words: Sentence;
  /** The figure on the right, in `unit`; missing on notes. */
  readonly value?: number;
  readonly unit?: string;
  readonly digits?: number;
  /** As the device counts and shows it, whatever scale its reader has chosen. */
  readonly onDevice?: true;
  /** ± of the figure, same unit. */
  readonly uncertainty?: number;
  /** Document, revision and page, or the rule it follows. */
  readonly source?: string;
}

/** Why a setting has no value to key: `left` as it stands, because…; `notUsed` while another setting is as it is. */
export type NoValue = 'missingFigure' | 'outOfReach' | 'notSupported' | 'left' | 'notUsed';

/** One role's value for one charger or companion: exact, then as the device can hold it. */
export interface Setting {
  /** Id of the charger or companion. */
  readonly charger: string;
  readonly role: Role;
  /** What the charger's own menu calls it. */
  readonly label: string;
  readonly menu: readonly string[];
  /** What is wanted at the bank, in the core's unit, before the device's step. A word for choices. */
  readonly exact: number | string | null;
  /** What to key in, in `unit`. */
  readonly value: number | string | null;
  readonly unit: string;
  /** The unit in which the device counts it. */
  readonly counts: DeviceUnit | 'choice';
  readonly digits: number;
  /** What the keyed value makes at the battery, in the core's unit. */
  readonly trueValue: number | null;
  /** Expanded uncertainty of trueValue where one is known. */
  readonly uncertainty: number | null;
  readonly budget: readonly BudgetLine[];
  /** Allowed range of the true value, from the sheet. */
  readonly band: Band | null;
  readonly within: 'inside' | 'outside' | 'noBand';
  /** What the true value differs from the exact one by after rounding, core unit; null for words and where there is nothing to key. */
  readonly deviation: number | null;
  /** The deviation that goes unremarked, core unit; null where a band judges instead. */
  readonly tolerance: number | null;
  /** The leader this figure comes from: shown, not keyed. */
  readonly inherited?: string;
  /** While its data line is up another says this figure; keyed all the same, it counts when the line is lost. `battery`, or the id of a device. */
  readonly dictated?: string;
  /** Set when there is nothing to key, and why. */
  readonly noValue?: NoValue;
  /** The figure is the charger's special value for "off". */
  readonly off: boolean;
  /** As found on the display, if noted. */
  readonly present?: number | string;
  readonly presentTrue?: number;
  readonly override?: Override;
  /** Somebody chose to leave what stands on the device: it is judged as it was found. */
  readonly left?: Override;
  readonly derivation: readonly Step[];
}
