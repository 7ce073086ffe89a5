import { type Card, type DeviceSetting, type Parameter, type Role } from '../card';
import { clamp, contains, expandedUncertainty, formatQuantity, inset, makeBand, readingBudget, type Band, type Direction } from '../quantity';
import { basisWords, cite, figureOnBank, isLithium, rankWords, scaleVolts, statedFigure, type Figure, type FigureKey } from '../sheet';
import type { BankFacts, Ceiling, Charger, ColdStair } from '../system';
import type { ColdPlan } from './cold';
import { provingMeter, type SettingsInput } from './input';
import type { NoValue, Setting, Step } from './setting';

/** What every role rule sees. */
export interface RoleContext {
  readonly input: SettingsInput;
  readonly facts: BankFacts;
  readonly ceiling: Ceiling;
  readonly stairs: readonly ColdStair[];
  readonly charger: Charger;
  readonly card: Card;
  readonly parameter: Parameter;
  readonly device: DeviceSetting;
  /** Where each source starts in the cold, and with how much. */
  readonly cold: ColdPlan;
  /** Settings of the same device derived so far. */
  readonly done: ReadonlyMap<Role, Setting>;
  /** A setting of another device derived so far: leaders before followers, chargers before companions. */
  readonly other: (device: string, role: Role) => Setting | undefined;
}

/** What a role rule answers: what is wanted at the bank, before the device has its say. */
export type Wanted =
  | {
      readonly kind: 'number';
      /** In the core's unit at the bank. */
      readonly exact: number;
      readonly band: Band | null;
      /** How far inside the band to stay where there is room, same unit. */
      readonly inset: number;
      readonly prefer: Direction;
      /** A person's or a school's own choice: the band judges it but does not move it. */
      readonly asGiven?: true;
      readonly steps: readonly Step[];
    }
  | { readonly kind: 'off'; readonly steps: readonly Step[] }
  /** The least or the most that the device takes, whatever that is: nothing is wanted beyond it. */
  | { readonly kind: 'end'; readonly end: 'least' | 'most'; readonly steps: readonly Step[] }
  | { readonly kind: 'choice'; readonly means: string; readonly steps: readonly Step[] }
  | { readonly kind: 'none'; readonly why: NoValue; readonly steps: readonly Step[] };

/** A rule for one role. Adding a role is one such file and one line in the list. */
export interface RoleRule {
  readonly role: Role;
  readonly want: (context: RoleContext) => Wanted;
}

/** Expanded uncertainty with which a voltage will be proved: the meter on a steady plateau, V. */
export function provingUncertainty(input: SettingsInput, volts: number): number {
  const meter = provingMeter(input);
  return expandedUncertainty(readingBudget(meter.name, volts, meter.volts), input.coverage);
}

/** A sentence for a figure the sheet lacks, or that counts by a capacity nobody has entered. */
export const missing = (context: RoleContext, what: string, figure?: Figure): Wanted => ({
  kind: 'none',
  why: 'missingFigure',
  steps: [
    {
      kind: 'note',
      words: figure
        ? `The sheet prints the ${what} by capacity, and the battery’s capacity is not known. Enter it on Spec.`
        : `The sheet gives no ${what}. Ask the maker, or enter it on Spec.`,
      source: cite(context.input.sheet),
    },
  ],
});

/** A setting that stays as it is, and why. */
export const left = (words: string): Wanted => ({ kind: 'none', why: 'left', steps: [{ kind: 'note', words }] });

/** A setting that plays no part while another is as it is. */
export const notUsed = (words: string): Wanted => ({ kind: 'none', why: 'notUsed', steps: [{ kind: 'note', words }] });

/** V per 12 V of system voltage, as rules of thumb are told, at this bank. */
export const per12 = ({ facts }: Pick<RoleContext, 'facts'>, volts: number): number => (volts * (facts.systemVolts ?? facts.nominalVolts)) / 12;

/** A voltage figure scaled to the bank, with the lines that show it. */
export function voltsFromSheet(
  context: RoleContext,
  key: FigureKey,
  pick: 'target' | 'least' | 'most' = 'target',
): { figure: Figure; volts: number; band: Band; steps: Step[] } | null {
  const { input, facts } = context;
  const figure = statedFigure(input.sheet, key);
  if (!figure) return null;
  const onBank = figureOnBank(figure, facts.shape);
  const wholeBand = onBank.band;
  const printed =
    pick === 'least'
      ? (figure.min ?? figure.target ?? figure.max)
      : pick === 'most'
        ? (figure.max ?? figure.target ?? figure.min)
        : (figure.target ?? middle(figure) ?? figure.max ?? figure.min);
  if (printed === undefined) return null;
  const volts = scaleVolts(printed, figure.basis, 'bank', facts.shape);
  const name = printed === figure.target ? 'target' : printed === figure.max ? 'most' : printed === figure.min ? 'least' : 'middle of the band';
  const factor = volts / printed;
  const steps: Step[] = [
    {
      kind: 'start',
      words: `Sheet ${name}, ${basisWords[figure.basis]}`,
      value: printed,
      unit: 'V',
      digits: figure.basis === 'cell' ? 2 : 1,
      source: cite(input.sheet, figure),
    },
    {
      kind: 'result',
      words: figure.basis === 'cell' ? `× ${Math.round(factor)} cells in series` : `× ${Number(factor.toFixed(3))} in series`,
      value: volts,
      unit: 'V',
      digits: 2,
    },
  ];
  if (wholeBand.min !== undefined || wholeBand.max !== undefined) return { figure, volts, band: wholeBand, steps };
  const half = input.tolerance.voltsPerCell * facts.cells;
  steps.push({
    kind: 'note',
    words: `The sheet prints one number; ± ${formatQuantity(half, 'V', 2)} is this job’s tolerance (${rankWords[input.tolerance.rank]}).`,
  });
  return { figure, volts, band: makeBand(volts - half, volts + half), steps };
}

const middle = (figure: Figure): number | undefined => (figure.min !== undefined && figure.max !== undefined ? (figure.min + figure.max) / 2 : undefined);

/**
 * Moves a wanted voltage inside its band by the uncertainty with which it will later be proved, where the band has room:
 * a value on a limit can never be proved.
 */
export function provableVolts(context: RoleContext, volts: number, band: Band): { volts: number; inset: number; steps: Step[] } {
  const by = provingUncertainty(context.input, volts);
  const room = inset(band, by);
  if (room === null) {
    return {
      volts: clamp(band, volts),
      inset: 0,
      steps: [{ kind: 'note', words: `The band is narrower than ± ${formatQuantity(by, 'V', 2)}, the best this meter can prove.` }],
    };
  }
  if (contains(room, volts)) return { volts, inset: by, steps: [] };
  const moved = clamp(room, volts);
  return {
    volts: moved,
    inset: by,
    steps: [
      {
        kind: 'result',
        words: `Moved ${formatQuantity(by, 'V', 2)} inside the limit, so that it can be proved`,
        value: moved,
        unit: 'V',
        digits: 2,
        source: 'Guard band of the proving meter',
      },
    ],
  };
}

/** Rounding of a voltage setpoint: lithium never above the aim, lead to the nearest step inside the band. */
export const voltagePreference = (context: RoleContext): Direction => (isLithium(context.input.sheet.chemistry) ? 'down' : 'nearest');
