import { formatBand, formatNumber, formatQuantity, formatSigned, makeBand, mapBand, tidy } from '../quantity';
import { basisWords, type Figure, type FigureUnit } from './figure';

/** How a unit is written behind a number, and how many core units one of it is. */
export const shownUnit: Readonly<Record<FigureUnit, { readonly text: string; readonly scale: number }>> = {
  V: { text: 'V', scale: 1 },
  A: { text: 'A', scale: 1 },
  C: { text: 'C', scale: 1 },
  s: { text: 'min', scale: 60 },
  's/Ah': { text: 'min/100 Ah', scale: 0.6 },
  d: { text: 'days', scale: 1 },
  '°C': { text: '°C', scale: 1 },
  '°C/h': { text: '°C/h', scale: 1 },
  'V/°C': { text: 'mV/°C', scale: 0.001 },
  '%': { text: '%', scale: 1 },
  count: { text: 'batteries', scale: 1 },
};

const leastDigits = (figure: Figure): number => {
  if (figure.unit === 'V') return figure.basis === 'cell' ? 2 : 1;
  return figure.unit === 'C' ? 2 : 0;
};

/** Decimals that write every number of the figure as printed, in shown units: at least the usual, at most 4. */
function digitsOf(figure: Figure): number {
  const { scale } = shownUnit[figure.unit];
  const needs = (value: number | undefined): number => {
    if (value === undefined) return 0;
    const shown = tidy(value / scale);
    for (let digits = 0; digits < 4; digits++) if (Math.abs(shown - Number(shown.toFixed(digits))) < 1e-7) return digits;
    return 4;
  };
  return Math.max(leastDigits(figure), needs(figure.min), needs(figure.target), needs(figure.max));
}

/** Which figures are counted per something that must be said: volts and slopes always, amps too. */
export const countsPer = (unit: FigureUnit): boolean => unit === 'V' || unit === 'V/°C' || unit === 'A' || unit === 's/Ah';

/**
 * A figure as a document prints it, on its own basis: "28.1 V (28.0–28.4)", "at most 0.04 C", "not permitted".
 *
 * @example printFigure(absorb) // '28.1 V (28.0–28.4)'
 */
export function printFigure(figure: Figure): string {
  if (figure.state === 'notPermitted') return 'not permitted';
  if (figure.state === 'notNeeded') return 'not needed';
  const { text, scale } = shownUnit[figure.unit];
  const digits = digitsOf(figure);
  const band = mapBand(makeBand(figure.min, figure.max), (end) => end / scale);
  if (figure.target === undefined) return formatBand(band, figure.unit === 'count' && figure.max === 1 ? 'battery' : text, digits);
  const shown = figure.target / scale;
  const target = figure.unit === 'V/°C' && shown > 0 ? `${formatSigned(shown, digits)}\u00a0${text}` : formatQuantity(shown, text, digits);
  if (band.min === undefined && band.max === undefined) return target;
  if (band.min !== undefined && band.max !== undefined) return `${target} (${formatNumber(band.min, digits)}–${formatNumber(band.max, digits)})`;
  return `${target}, ${formatBand(band, text, digits)}`;
}

/** The same with what it is counted for: what stands in the field when the figure is typed anew. */
export const printWithBasis = (figure: Figure): string =>
  figure.state === 'stated' && countsPer(figure.unit) ? `${printFigure(figure)} ${basisWords[figure.basis]}` : printFigure(figure);
