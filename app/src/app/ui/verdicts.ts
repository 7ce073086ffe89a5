import type { ProofRow, Verdict } from '@calm-keel/core/proof';
import { formatNumber, celsiusDifferenceToFahrenheit, celsiusToFahrenheit } from '@calm-keel/core/quantity';
import type { GlyphName } from './glyph';

/** A verdict's glyph. */
export const verdictGlyphs: Readonly<Record<Verdict, GlyphName>> = {
  pass: 'proved',
  fail: 'stop',
  inconclusive: 'inconclusive',
  notTested: 'notyet',
  stated: 'note',
};
/** The hue of its mark on a number line. */
export const verdictMarks: Readonly<Record<Verdict, string>> = {
  pass: 'var(--ck-proved)',
  fail: 'var(--ck-stop)',
  inconclusive: 'var(--ck-inconclusive)',
  notTested: 'var(--ck-notyet)',
  stated: 'var(--ck-ink-2)',
};

/** A measured value as it is shown: in the person's temperature scale, times in minutes. */
export function measuredWords(row: ProofRow, scale: 'C' | 'F'): { value: string; plus: string; unit: string } | null {
  if (row.measured === null) return null;
  const fahrenheit = row.unit === '°C' && scale === 'F';
  const minutes = row.unit === 's' && row.requirement.code !== 'softStart';
  const shown = (v: number): number => (fahrenheit ? celsiusToFahrenheit(v) : minutes ? v / 60 : v);
  const plus = row.uncertainty === null ? null : fahrenheit ? celsiusDifferenceToFahrenheit(row.uncertainty) : minutes ? row.uncertainty / 60 : row.uncertainty;
  return {
    value: formatNumber(shown(row.measured), row.digits),
    plus: plus === null ? '' : `± ${formatNumber(plus, Math.max(row.digits, row.unit === 'min' ? 1 : 0))}`,
    unit: fahrenheit ? '°F' : minutes ? 'min' : row.unit === 'mV/°C/cell' ? 'mV/°C' : row.unit,
  };
}
