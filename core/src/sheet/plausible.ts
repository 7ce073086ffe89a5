import { contains, type Band } from '../quantity';
import { basisSchema, type Basis, type Figure } from './figure';
import { cellsOf, type BankShape } from './scale';
import type { Chemistry, FigureKey } from './sheet';

/**
 * The wide physical window of a chemistry, per cell: volts, or V/°C for the slope. Figures outside are most often
 * on another basis than the one noted. These are general electrochemistry, not any maker's limits.
 */
const lead: Partial<Record<FigureKey, Band>> = {
  absorbVoltage: { min: 2.3, max: 2.5 },
  floatVoltage: { min: 2.15, max: 2.35 },
  rechargeVoltage: { min: 1.95, max: 2.2 },
  equaliseVoltage: { min: 2.4, max: 2.75 },
  disconnectVoltage: { min: 1.7, max: 2.1 },
  reconnectVoltage: { min: 1.95, max: 2.25 },
  storageVoltage: { min: 2.1, max: 2.35 },
  compensationSlope: { min: -0.007, max: -0.002 },
};
const windows: Readonly<Record<Chemistry, Partial<Record<FigureKey, Band>>>> = {
  lfp: {
    absorbVoltage: { min: 3.4, max: 3.65 },
    floatVoltage: { min: 3.25, max: 3.5 },
    rechargeVoltage: { min: 3.1, max: 3.4 },
    disconnectVoltage: { min: 2.5, max: 3.25 },
    reconnectVoltage: { min: 2.8, max: 3.35 },
    storageVoltage: { min: 3.1, max: 3.4 },
    bmsOverVoltage: { min: 3.55, max: 3.9 },
    bmsCellOverVoltage: { min: 3.55, max: 3.9 },
    bmsRelease: { min: 3.3, max: 3.65 },
    bmsUnderVoltage: { min: 2, max: 3 },
  },
  nmc: {
    absorbVoltage: { min: 3.9, max: 4.2 },
    floatVoltage: { min: 3.8, max: 4.15 },
    rechargeVoltage: { min: 3.6, max: 4.1 },
    disconnectVoltage: { min: 3, max: 3.6 },
    reconnectVoltage: { min: 3.3, max: 3.8 },
    storageVoltage: { min: 3.6, max: 3.95 },
    bmsOverVoltage: { min: 4.15, max: 4.35 },
    bmsCellOverVoltage: { min: 4.15, max: 4.35 },
    bmsRelease: { min: 3.9, max: 4.2 },
    bmsUnderVoltage: { min: 2.5, max: 3.3 },
  },
  flooded: lead,
  agm: lead,
  gel: { ...lead, absorbVoltage: { min: 2.3, max: 2.45 } },
};

const leadRests = { min: 1.85, max: 2.2 };
/** What one cell reads at rest, from flat to just charged, V (general electrochemistry). */
export const restingCellVolts: Readonly<Record<Chemistry, Required<Band>>> = {
  lfp: { min: 2.8, max: 3.45 },
  nmc: { min: 3.2, max: 4.2 },
  flooded: leadRests,
  agm: leadRests,
  gel: leadRests,
};

/** The window of a figure per cell, if its chemistry has one. */
export const plausibleWindow = (chemistry: Chemistry, key: FigureKey): Band | undefined => windows[chemistry][key];

/** What a figure looks like against its chemistry. */
export type Plausibility =
  { readonly plausible: true } | { readonly plausible: false; readonly perCell: number; readonly window: Band; readonly wouldFit: readonly Basis[] };

/**
 * Checks a figure against the window of its chemistry and, when it falls outside, says on which basis it would make sense.
 *
 * @returns plausible when inside, when the figure has no window, or when it states no number
 */
export function plausibility(chemistry: Chemistry, key: FigureKey, figure: Figure, shape: BankShape): Plausibility {
  const window = plausibleWindow(chemistry, key);
  const values = [figure.min, figure.target, figure.max].filter((n) => n !== undefined);
  if (figure.state !== 'stated' || !window || values.length === 0) return { plausible: true };
  const fits = (basis: Basis): boolean => values.every((value) => contains(window, value / cellsOf(basis, shape)));
  if (fits(figure.basis)) return { plausible: true };
  const worst = values.find((value) => !contains(window, value / cellsOf(figure.basis, shape))) ?? 0;
  // A battery that is a block, or a bank of one battery, is named once.
  const cells = (basis: Basis): number => cellsOf(basis, shape);
  const wouldFit = basisSchema.options.filter(
    (basis, i, every) => cells(basis) !== cells(figure.basis) && fits(basis) && every.findIndex((b) => cells(b) === cells(basis)) === i,
  );
  return { plausible: false, perCell: worst / cellsOf(figure.basis, shape), window, wouldFit };
}
