import { deviceUnits, deviceUnitsFor, unitInfo, type DeviceUnit, type NumberUnit } from '../card';
import { parseNumber } from '../quantity';

/** What a display shows: a number, with its unit where it was typed; a word; or nothing. */
export type Shown =
  | { readonly kind: 'number'; readonly value: number; readonly unit?: DeviceUnit; readonly decimals: number }
  | { readonly kind: 'word' }
  | { readonly kind: 'nothing' };

/** How people type the units of displays; the longer ones first. */
const typed: readonly (readonly [RegExp, DeviceUnit])[] = [
  [/^m?v\s*(\/|per)\s*°?c?\s*(\/|per)\s*cell$/i, 'mV/°C/cell'],
  [/^m?v\s*(\/|per)\s*°?c$/i, 'mV/°C'],
  [/^v\s*(\/|per)\s*cell$/i, 'V/cell'],
  [/^v\s*(\/|per)\s*12\s*v$/i, 'V/12V'],
  [/^v(olts?)?$/i, 'V'],
  [/^a(mps?)?$/i, 'A'],
  [/^ah$/i, 'Ah'],
  [/^m(in(utes?)?)?$/i, 'min'],
  [/^s(ec(onds?)?)?$/i, 's'],
  [/^h((ou)?rs?)?$/i, 'h'],
  [/^d(ays?)?$/i, 'd'],
  [/^°?\s?c$/i, '°C'],
  [/^°?\s?f$/i, '°F'],
  [/^(%|percent)$/i, '%'],
];

/** What else a unit behind a number may mean on a display. */
const mayMean: Readonly<Partial<Record<DeviceUnit, readonly DeviceUnit[]>>> = {
  V: ['V/12V', 'V/cell', 'V below float'],
  '%': ['% of rating'],
  '°C': ['°C difference'],
  '°F': ['°F difference'],
  'mV/°C': ['mV/°C/12V', 'mV/°C/cell'],
};

/** Units that a value may be in for what is measured so, by the unit that was typed behind it; all of them where none was. */
export function typedUnits(core: NumberUnit, typedUnit: DeviceUnit | undefined): readonly DeviceUnit[] {
  const all = deviceUnitsFor(core).filter((unit) => unit !== 'ratio' || core === 'ratio');
  return typedUnit === undefined ? all : all.filter((unit) => unit === typedUnit || mayMean[typedUnit]?.includes(unit) === true);
}

/** Reads what somebody typed as the display shows it: “14.4”, “14,4 V”, “−3 mV/°C”, “2 h”; anything else is a word. */
export function readShown(text: string): Shown {
  const plain = text.replace(/\u00a0/g, ' ').trim();
  if (plain === '') return { kind: 'nothing' };
  const [, digits, behind = ''] = /^([+\-−–]?\s*[\d.,]+)\s*(.*)$/.exec(plain) ?? [];
  const number = digits === undefined ? null : parseNumber(digits.replace(/\s/g, ''));
  if (digits === undefined || !number?.ok) return { kind: 'word' };
  const decimals = /[.,](\d*)$/.exec(digits)?.[1]?.length ?? 0;
  if (behind === '') return { kind: 'number', value: number.value, decimals };
  const unit = typed.find(([pattern]) => pattern.test(behind))?.[1] ?? deviceUnits.find((u) => u === behind || unitInfo[u].label === behind);
  return unit ? { kind: 'number', value: number.value, unit, decimals } : { kind: 'word' };
}
