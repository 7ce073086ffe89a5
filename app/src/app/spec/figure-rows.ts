import type { Role } from '@calm-keel/core/card';
import type { Job } from '@calm-keel/core/job';
import { formatQuantity } from '@calm-keel/core/quantity';
import type { NeededFigure } from '@calm-keel/core/report';
import type { Plan } from '@calm-keel/core/settings';
import {
  cellsOf,
  figureGroups,
  figureInfo,
  figureKeys,
  figureOnBank,
  isLithium,
  plausibility,
  plausibleWindow,
  printFigure,
  ranks,
  type Basis,
  type Figure,
  type FigureKey,
  type Sheet,
  type SheetDifference,
} from '@calm-keel/core/sheet';
import { axis } from '../ui/scales';

/** A figure's trail: the same value per cell, per battery and on the bank, and which of them the maker printed. */
interface Trail {
  readonly cell: string;
  readonly unit: string;
  readonly bank: string;
  readonly basis: Basis | null;
}

/** Where things lie on the common scale of a group, px of a drawing 128 wide; null where there is nothing. */
export interface ScaleMarks {
  readonly kind: 'volts' | 'amps';
  readonly min: number | null;
  readonly target: number | null;
  readonly max: number | null;
  readonly windowLow: number | null;
  readonly windowHigh: number | null;
  readonly trip: boolean;
  /** The same figure on another revision. */
  readonly other: number | null;
}

/** One row of the sheet. */
export interface FigureRow {
  readonly key: FigureKey;
  readonly name: string;
  /** The group's name where the row is the first of it. */
  readonly opens: string | null;
  readonly group: keyof typeof figureGroups;
  readonly figure: Figure | undefined;
  readonly printed: string;
  readonly trail: Trail;
  readonly scale: ScaleMarks | null;
  readonly source: string;
  /** A slope: its numbers carry their long unit. */
  readonly slope: boolean;
  /** 0 is the best rank; −1 without a figure. */
  readonly rank: number;
  readonly suspicious: boolean;
  /** Left out by the reference policy. */
  readonly withheld: boolean;
  /** A person's figures in its place, outside the sheet or not. */
  readonly overrides: readonly string[];
  readonly needed: { readonly line: number; readonly neededFor: string } | null;
  /** What the other revision says instead, and by how much. */
  readonly conflict: { readonly printed: string; readonly by: string } | null;
}

/** The setting that a voltage figure leads to, where a person may have set another. */
const overridesOf: Partial<Record<FigureKey, Role>> = {
  absorbVoltage: 'absorbVoltage',
  floatVoltage: 'floatVoltage',
  rechargeVoltage: 'rechargeVoltage',
  equaliseVoltage: 'equaliseVoltage',
  disconnectVoltage: 'loadDisconnect',
  reconnectVoltage: 'loadReconnect',
};

const left = 8;
const span = 112;

/** Volts per cell at the ends of the common scale. */
export const voltRange = (sheet: Sheet): readonly [number, number] =>
  sheet.chemistry === 'nmc' ? [2.4, 4.4] : isLithium(sheet.chemistry) ? [2.4, 4] : [1.6, 2.8];

/** Greatest multiple of capacity on the scale of currents: a round figure past every current of the sheet. */
export function currentRange(plan: Plan, sheet: Sheet): number {
  const { ratedAh } = plan.facts;
  const most = figureKeys.flatMap((key) => {
    const figure = sheet.figures[key];
    if (figure?.state !== 'stated' || key === 'bmsOverCurrent' || (figure.unit !== 'A' && figure.unit !== 'C')) return [];
    const scaled = figureOnBank(figure, plan.facts.shape);
    return ratedAh === null ? [] : [(scaled.band.max ?? scaled.target ?? scaled.band.min ?? 0) / ratedAh];
  });
  return [0.1, 0.2, 0.5, 1, 2, 5].find((end) => end >= Math.max(0.05, ...most)) ?? 10;
}

const place = (value: number, low: number, high: number): number => axis([low, high], [left, left + span]).clamp(true)(value);

function marks(plan: Plan, sheet: Sheet, key: FigureKey, figure: Figure, other: Figure | undefined): ScaleMarks | null {
  if (figure.state !== 'stated') return null;
  const { shape, ratedAh } = plan.facts;
  const stated = other?.state === 'stated' ? (other.target ?? other.max ?? other.min) : undefined;
  if (figure.unit === 'V') {
    const [low, high] = voltRange(sheet);
    const at = (volts: number | undefined, basis = figure.basis): number | null =>
      volts === undefined ? null : place(volts / cellsOf(basis, shape), low, high);
    const window = plausibleWindow(sheet.chemistry, key);
    return {
      kind: 'volts',
      min: at(figure.min),
      target: at(figure.target),
      max: at(figure.max),
      windowLow: at(window?.min, 'cell'),
      windowHigh: at(window?.max, 'cell'),
      trip: key.startsWith('bms') && key !== 'bmsRelease',
      other: other ? at(stated, other.basis) : null,
    };
  }
  if ((figure.unit === 'A' || figure.unit === 'C') && ratedAh !== null) {
    const high = currentRange(plan, sheet);
    const scaled = figureOnBank(figure, shape);
    const at = (amps: number | undefined): number | null => (amps === undefined ? null : place(amps / ratedAh, 0, high));
    const trip = key === 'bmsOverCurrent';
    return {
      kind: 'amps',
      min: at(scaled.band.min),
      target: at(scaled.target),
      max: at(scaled.band.max),
      windowLow: null,
      windowHigh: null,
      trip,
      other: null,
    };
  }
  return null;
}

function trailOf(figure: Figure | undefined, plan: Plan): Trail {
  const { shape, capacityAh } = plan.facts;
  const none: Trail = { cell: '', unit: '', bank: '', basis: null };
  if (figure?.state !== 'stated') return none;
  const onBank = figureOnBank(figure, shape);
  const value = onBank.target ?? onBank.band.max ?? onBank.band.min;
  if (value === undefined) return none;
  const cells = cellsOf('bank', shape);
  switch (figure.unit) {
    case 'V':
      return {
        cell: formatQuantity(value / cells, 'V', 2),
        unit: formatQuantity((value * shape.cellsPerUnit) / cells, 'V', 2),
        bank: formatQuantity(value, 'V', 2),
        basis: figure.basis,
      };
    case 'V/°C':
      return {
        cell: formatQuantity((value * 1000) / cells, 'mV', 1),
        unit: formatQuantity((value * 1000 * shape.cellsPerUnit) / cells, 'mV', 1),
        bank: formatQuantity(value * 1000, 'mV/°C', 0),
        basis: figure.basis,
      };
    case 'A':
    case 'C':
      return {
        cell: '',
        unit: formatQuantity(value / shape.stringsInParallel, 'A', 1),
        bank: formatQuantity(value, 'A', 1),
        basis: figure.unit === 'C' || figure.basis !== 'bank' ? 'unit' : 'bank',
      };
    case 's/Ah':
      return { cell: '', unit: '', bank: formatQuantity(value / 60, 'min', 0), basis: null };
    case '%':
      return { cell: '', unit: '', bank: capacityAh === null ? '' : formatQuantity((value / 100) * capacityAh, 'Ah', 0), basis: null };
    default:
      return none;
  }
}

/** The rows of a sheet in the order in which one is read. */
export function figureRows(
  job: Job,
  plan: Plan,
  needed: readonly NeededFigure[],
  differences: readonly SheetDifference[],
  other: Sheet | null,
): readonly FigureRow[] {
  const { sheet } = job;
  let group = '';
  return figureKeys
    .filter((key) => (figureInfo[key].chemistries as readonly string[]).includes(sheet.chemistry))
    .map((key) => {
      const info = figureInfo[key];
      const figure = sheet.figures[key];
      const opens = info.group === group ? null : figureGroups[info.group];
      group = info.group;
      const line = needed.findIndex((n) => n.key === key);
      const want = needed[line];
      const difference = differences.find((d) => d.key === key);
      const theirs = difference && other?.figures[key];
      const conflict = difference ? { printed: theirs ? printFigure(theirs) : 'not on the sheet', by: difference.by } : null;
      return {
        key,
        name: info.name,
        opens,
        group: info.group,
        figure,
        printed: figure ? printFigure(figure) : '',
        trail: trailOf(figure, plan),
        scale: figure ? marks(plan, sheet, key, figure, theirs) : null,
        slope: figure?.state === 'stated' && figure.unit === 'V/°C',
        source: figure?.page ?? figure?.from ?? '',
        rank: figure ? ranks.indexOf(figure.rank) : -1,
        suspicious: figure !== undefined && !plausibility(sheet.chemistry, key, figure, plan.facts.shape).plausible,
        withheld: plan.withheld.some((w) => w.key === key),
        overrides: job.overrides
          .filter((o) => o.role === overridesOf[key])
          .map((o) => {
            const name = job.system.chargers.find((c) => c.id === o.charger)?.name ?? o.charger;
            const does =
              o.value === null
                ? 'is left as it is'
                : `is set to ${typeof o.value === 'number' ? formatQuantity(o.value, 'V', 1) : o.value === false ? 'off' : o.value}`;
            return `${name} ${does} by the ${o.by} instead (${o.date}${o.reason ? `: ${o.reason}` : ', no reason given'})`;
          }),
        needed: want ? { line: line + 1, neededFor: want.neededFor } : null,
        conflict,
      };
    });
}
