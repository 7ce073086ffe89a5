import { allRoles, roleInfo, unitInfo, type Role } from '@calm-keel/core/card';
import { clamp, contains, formatNumber, mapBand, outsideBy, tidy, type Band } from '@calm-keel/core/quantity';
import { compensationOf, devicesOf, mostAmps, referenceC, setpointAt, shiftAt, type Plan, type Setting } from '@calm-keel/core/settings';
import { cellsInSeries, figureOnBank, scaleVolts, statedFigure, type FigureKey } from '@calm-keel/core/sheet';
import { lowestTrip, rangeVolts } from '@calm-keel/core/system';
import { axis, rounds } from '../ui/scales';
import { neededHeight, placeLabels, type Block } from './ladder-labels';

const stageLetter: Partial<Record<Role, 'A' | 'F' | 'B' | 'E'>> = { absorbVoltage: 'A', floatVoltage: 'F', rechargeVoltage: 'B', equaliseVoltage: 'E' };
const texture = { A: 'absorb', F: 'float', B: 'bulk', E: 'equalise' } as const;
/** The settings that stand on the ladder. */
const rungRoles = allRoles.filter((role) => roleInfo[role].ladder !== undefined);

export interface Rung {
  readonly role: Role;
  readonly volts: number;
  readonly y: number;
  /**
   * `plain`: value above the rung, role below. `moved`: the same beside a short rung, joined by a leader. `line`: one of several labels that share
   * a block, a line each. `bar`: out of band, a bar: filled, or empty where it is out by little.
   */
  readonly style: 'plain' | 'moved' | 'line' | 'bar';
  /** Where its label stands: the rung of a plain one, the middle of a line. */
  readonly labelY: number;
  readonly letter: string | null;
  readonly texture: string | null;
  readonly words: string;
  /** Value to key when it differs from the true one. */
  readonly key: string | null;
  readonly outside: number;
  /** Out of band by no more than displays and regulators are off by anyhow: its bar is drawn empty. */
  readonly slight: boolean;
  /** As found on the device and out of band; the planned rung stands elsewhere. */
  readonly asFound: boolean;
  /** Where the arrow of a bar points. */
  readonly towardsY: number | null;
  readonly overridden: boolean;
  /** "override" of a person's figure, "trying" of one that is not kept yet. */
  readonly mark: string | null;
  /** The line under the role: the value to key, and in a narrow column the mark. */
  readonly second: string | null;
  readonly inherited: boolean;
  /** Role and key share a line where the column is wide enough. */
  readonly oneLine: boolean;
  /** Value and role of a shared label stand side by side. */
  readonly beside: boolean;
}

interface Column {
  readonly charger: string;
  readonly name: string;
  readonly model: string;
  readonly x: number;
  readonly width: number;
  readonly rungs: readonly Rung[];
  /** Where the value that is being tried would stand by the sheet. */
  readonly ghostY: number | null;
}

export interface BandShape {
  readonly kind: 'absorb' | 'float' | 'equalise' | 'recharge' | 'reconnect' | 'disconnect';
  readonly name: string;
  readonly band: Band;
  readonly top: number;
  readonly bottom: number;
  /** Middle of its name in the sheet's column, and whether that takes two lines. */
  readonly labelY: number;
  readonly twoLines: boolean;
}

interface Trip {
  readonly name: string;
  readonly volts: number;
  readonly y: number;
  /** Middle of its name. */
  readonly labelY: number;
  /** Which way the allowed side lies. */
  readonly allowed: 'below' | 'above';
}

export interface Ladder {
  readonly width: number;
  readonly height: number;
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
  /** Where the first column begins. */
  readonly columnsLeft: number;
  /** The break between stretched and compressed scale; null when there is none. */
  readonly breakY: number | null;
  readonly ticks: readonly { readonly y: number; readonly volts: number; readonly cell: number }[];
  readonly bands: readonly BandShape[];
  readonly trips: readonly Trip[];
  readonly columns: readonly Column[];
  /** Bank volts at a height of the stretched part; below the break the compressed scale counts. */
  readonly voltsAt: (y: number) => number;
}

/** What to draw. */
export interface LadderView {
  readonly width: number;
  readonly height: number;
  /** Draw just this device (the phone's view). */
  readonly only?: string | null;
  /** Battery temperature at which compensated setpoints are drawn, °C; without it at the reference. */
  readonly celsius?: number | null;
  /** Where a value that is being tried would stand otherwise. */
  readonly ghost?: { readonly device: string; readonly role: Role; readonly volts: number } | null;
}

const header = 50;
/** From this column width on role and key share a line, px; and the narrowest a column gets before the ladder grows wider than its place. */
const oneLineColumn = 160;
const narrowest = 97;
/** Rungs closer than this share one label, px. */
const sharing = 14;
/** A line of a shared label: value and role side by side where there is room, else the role below. */
const sideBySide = 150;
const lineHeight = (width: number): number => (width >= sideBySide ? 17 : 29);
const keyHeight = 14;
/** Room over the highest rung for its value, px. */
const highestAbove = 24;
const plain = { above: 19, below: 21 } as const;
const bar = { above: 14, below: 45 } as const;

/**
 * Lays out the setpoint ladder: one voltage axis, stretched where setpoints live and compressed below, the maker's bands across it,
 * one column per charger and companion. Rungs stay at their true voltage; labels that would touch are moved apart, and the drawing grows where there is
 * no room for all.
 */
export function layoutLadder(plan: Plan, view: LadderView): Ladder {
  const only = view.only ?? null;
  const celsius = view.celsius ?? null;
  const { sheet } = plan.input;
  const shape = plan.facts.shape;
  const onBank = (key: FigureKey) => {
    const figure = statedFigure(sheet, key);
    return figure && figureOnBank(figure, shape);
  };
  const per12 = rangeVolts(plan.facts) / 12;
  const devices = devicesOf(plan.input).filter((d) =>
    only === null ? plan.settings.some((s) => s.charger === d.id && rungRoles.includes(s.role)) : d.id === only,
  );
  const shown = plan.settings.filter((s) => devices.some((d) => d.id === s.charger) && rungRoles.includes(s.role));
  const volts = new Map(shown.map((s) => [s, celsius === null ? s.trueValue : setpointAt(plan, s, celsius)]));
  // The sheet's own bands move with its slope.
  const slope = statedFigure(sheet, 'compensationSlope');
  const moved = celsius === null || !slope ? 0 : scaleVolts(slope.target ?? 0, slope.basis, 'bank', shape) * (celsius - referenceC(plan));
  const bandFigures = [
    ['equalise', 'Equalise', 'equaliseVoltage', moved],
    ['absorb', 'Absorb', 'absorbVoltage', moved],
    ['float', 'Float', 'floatVoltage', moved],
    ['recharge', 'Recharge', 'rechargeVoltage', 0],
    ['reconnect', 'Reconnect', 'reconnectVoltage', 0],
    ['disconnect', 'Disconnect', 'disconnectVoltage', 0],
  ] as const;
  const bands = bandFigures.flatMap(([kind, name, key, by]) => {
    const f = onBank(key);
    if (!f) return [];
    const band = f.band.min === undefined && f.band.max === undefined && f.target !== undefined ? { min: f.target, max: f.target } : f.band;
    return [{ kind, name, band: mapBand(band, (v) => v + by) }];
  });
  const high = lowestTrip(sheet, plan.input.system);
  const tripLow = onBank('bmsUnderVoltage');
  const low = tripLow && (tripLow.band.min ?? tripLow.target);

  const raw = devices.map((d) => rungsOf(plan, d.id, volts, moved, view.ghost ?? null));
  const values = raw.flat().map((r) => r.volts);
  const inZone = (role: Role): boolean => !role.startsWith('load') && role !== 'lowVoltageAlarm';
  const zoneVolts = raw.flat().flatMap((r) => (inZone(r.role) ? [r.volts] : []));
  const bandsInZone = bands.filter((b) => b.kind !== 'reconnect' && b.kind !== 'disconnect');
  const highest = Math.max(
    plan.facts.nominalVolts * 1.02,
    ...values,
    ...bands.flatMap((b) => [b.band.max ?? 0, b.band.min ?? 0]),
    high?.volts ?? 0,
    view.ghost?.volts ?? 0,
  );
  const lowest = Math.min(
    plan.facts.nominalVolts * 1.03,
    ...zoneVolts,
    ...bandsInZone.map((b) => b.band.min ?? b.band.max ?? Infinity),
    view.ghost?.volts ?? Infinity,
  );

  const left = 46;
  const columnsLeft = left + (view.width < 480 ? 122 : 132);
  const room = view.width - 50 - columnsLeft;
  const columnWidth = devices.length === 0 ? 0 : Math.max(narrowest, Math.min(340, room / devices.length));
  const right = devices.length === 0 ? view.width - 50 : Math.max(view.width - 50, columnsLeft + columnWidth * devices.length);
  const step = (plan.facts.systemVolts ?? 12) <= 12 ? 0.4 : 0.2 * per12;
  const half = step / 2;
  const zoneLow = tidy(Math.floor((lowest - 0.16 * per12) / half) * half);
  const lows = [
    ...values.filter((v) => v < zoneLow),
    ...bands.flatMap((b) => [b.band.min ?? b.band.max ?? Infinity]).filter((v) => v < zoneLow),
    ...(low === undefined ? [] : [low]),
  ];
  const lowVolts = lows.length > 0 ? Math.min(...lows) - 0.15 * per12 : null;

  const blocksOf = (rungs: readonly RawRung[], y: (v: number) => number): { blocks: readonly Block[]; groups: readonly (readonly RawRung[])[] } => {
    const sorted = [...rungs].sort((a, b) => b.volts - a.volts);
    const groups: RawRung[][] = [];
    for (const rung of sorted) {
      const before = groups.at(-1);
      const last = before?.at(-1);
      if (before && last && !last.bar && !rung.bar && y(rung.volts) - y(last.volts) < sharing) before.push(rung);
      else groups.push([rung]);
    }
    const blocks = groups.map((group): Block => {
      const at = group.reduce((sum, r) => sum + y(r.volts), 0) / group.length;
      const first = group[0];
      if (group.length > 1) {
        const height = group.reduce((sum, r) => sum + lineHeight(columnWidth) + (sharedSecond(r, columnWidth) ? keyHeight : 0), 0);
        return { at, above: height / 2 + 2, below: height / 2 + 2 };
      }
      return first ? single(first, at, columnWidth) : { at, above: 0, below: 0 };
    });
    return { blocks, groups };
  };

  const compressed = lowVolts === null ? 0 : 104;
  // As high as asked, and higher where the fullest column needs it.
  const needed = Math.max(0, ...raw.map((rungs) => neededHeight(rungs.map((r) => single(r, 0, columnWidth)))));
  const height = Math.max(view.height, header + needed + 40);
  const bottom = height - 8;
  const breakY = lowVolts === null ? null : bottom - compressed + 8;
  const zoneBottom = breakY === null ? bottom : breakY - 6;
  const top = header;
  // What stands highest has room for its own label above it.
  const share = highestAbove / (zoneBottom - top);
  const topVolts = tidy(Math.ceil(Math.max(highest + 0.12 * per12, (highest - share * zoneLow) / (1 - share)) / half) * half);
  const zone = axis([zoneLow, topVolts], [zoneBottom, top]);
  const foot = lowVolts === null || breakY === null ? null : axis([lowVolts, zoneLow], [bottom, breakY + 20]);
  const y = (v: number): number => (v >= zoneLow || !foot ? zone(v) : foot(v));
  const voltsAt = (at: number): number => (breakY === null || !foot || at <= breakY ? zone.invert(at) : foot.invert(at));
  const cells = cellsInSeries(shape);
  const ticks = [...rounds([zoneLow, topVolts], step).reverse(), ...(lowVolts === null ? [] : rounds([lowVolts, zoneLow - 0.5 * per12], per12).reverse())].map(
    (volts) => ({ y: y(volts), volts: tidy(volts), cell: volts / cells }),
  );

  const columns = devices.map((device, i): Column => {
    const card = plan.input.cards.find((c) => c.id === device.card);
    const companion = plan.input.system.companions.some((c) => c.id === device.id);
    const limit = card && !companion ? mostAmps(plan, device, card) : undefined;
    const { blocks, groups } = blocksOf(raw[i] ?? [], y);
    const places = placeLabels(blocks, top + 2, bottom);
    const rungs = groups.flatMap((group, g): Rung[] => {
      const place = places[g] ?? 0;
      if (group.length === 1) {
        const [r] = group as [RawRung];
        const at = y(r.volts);
        const stays = Math.abs(place - at) < 3;
        return [finish(r, at, place, r.bar ? 'bar' : stays ? 'plain' : 'moved', columnWidth, y)];
      }
      let line = place - (blocks[g]?.above ?? 0) + 2;
      return group.map((r) => {
        const middle = line + lineHeight(columnWidth) / 2;
        line += lineHeight(columnWidth) + (sharedSecond(r, columnWidth) ? keyHeight : 0);
        return finish(r, y(r.volts), middle, 'line', columnWidth, y);
      });
    });
    return {
      charger: device.id,
      name: device.name,
      model: `${card?.model ?? ''}${limit === undefined ? '' : `, ${formatNumber(limit, 0)} A`}`,
      x: columnsLeft + i * columnWidth,
      width: columnWidth,
      rungs,
      ghostY: view.ghost?.device === device.id ? y(view.ghost.volts) : null,
    };
  });
  const shapes = bands.map((b) => {
    const [bandTop, bandBottom] = [y(b.band.max ?? b.band.min ?? 0), y(b.band.min ?? b.band.max ?? 0)];
    return { ...b, top: bandTop, bottom: bandBottom, twoLines: b.kind === 'recharge' || bandBottom - bandTop > 26 };
  });
  const trips = [
    ...(high === null ? [] : [{ name: high.by === 'cell' ? 'First cell trips' : 'BMS trip', volts: high.volts, y: y(high.volts), allowed: 'below' as const }]),
    ...(low === undefined ? [] : [{ name: 'BMS trip', volts: low, y: y(low), allowed: 'above' as const }]),
  ];
  // Names in the sheet's column keep clear of each other like any label.
  const names = [
    ...shapes.map((of) => ({
      of,
      at: of.kind === 'recharge' ? of.top + 22 : of.kind === 'reconnect' ? of.top - 8 : of.kind === 'disconnect' ? of.top + 9 : (of.top + of.bottom) / 2,
      above: of.twoLines ? 14 : 8,
      below: of.twoLines ? 15 : 8,
    })),
    ...trips.map((of) => ({ of, at: of.allowed === 'below' ? of.y + 17 : of.y - 13, above: 8, below: 8 })),
  ].sort((a, b) => a.at - b.at);
  const placed = placeLabels(names, top, bottom);
  const nameAt = new Map(names.map((n, i) => [n.of, placed[i] ?? n.at]));
  return {
    width: right + 50,
    height,
    top,
    bottom,
    left,
    right,
    columnsLeft,
    breakY,
    ticks,
    bands: shapes.map((b) => ({ ...b, labelY: nameAt.get(b) ?? b.top })),
    trips: trips.map((t) => ({ ...t, labelY: nameAt.get(t) ?? t.y })),
    columns,
    voltsAt,
  };
}

/** Displays and regulation of most chargers are good to this part of the volts: what is out of band by less is out by little. */
const slightPart = 0.005;

/** A rung before the axis is known. */
interface RawRung extends Pick<Rung, 'role' | 'volts' | 'letter' | 'texture' | 'words' | 'key' | 'outside' | 'asFound' | 'overridden' | 'mark' | 'inherited'> {
  readonly bar: boolean;
  /** Volts at which the arrow of a bar ends. */
  readonly towards: number | null;
}

const oneLine = (r: Pick<RawRung, 'key'>, width: number): boolean => width >= oneLineColumn && (r.key?.length ?? 0) <= 9;

/** What stands under the role: the value to key, and where the column is narrow the mark with it. */
const secondLine = (r: Pick<RawRung, 'key' | 'mark'>, width: number): string | null =>
  oneLine(r, width) ? null : r.mark === null ? r.key : r.key === null ? r.mark : `${r.key.replace('key ', '')} ${r.mark}`;

/** The same in a shared label, which has no room for key and mark beside the role. */
const sharedSecond = (r: Pick<RawRung, 'key' | 'mark'>, width: number): string | null => (width >= sideBySide && r.mark === null ? r.key : secondLine(r, 0));

/** The room a label takes by itself. */
const single = (r: RawRung, at: number, width: number): Block =>
  r.bar ? { at, ...bar } : { at, above: plain.above, below: plain.below + (secondLine(r, width) ? keyHeight : 0) };

const finish = ({ bar: _bar, towards, ...r }: RawRung, at: number, labelY: number, style: Rung['style'], width: number, y: (v: number) => number): Rung => ({
  ...r,
  y: at,
  labelY,
  style,
  slight: Math.abs(r.outside) <= slightPart * r.volts,
  towardsY: towards === null ? null : y(towards),
  oneLine: oneLine(r, width),
  second: style === 'line' ? sharedSecond(r, width) : secondLine(r, width),
  beside: width >= sideBySide,
});

function rungsOf(plan: Plan, device: string, volts: ReadonlyMap<Setting, number | null>, moved: number, ghost: LadderView['ghost']): RawRung[] {
  const absorb = plan.setting(device, 'absorbVoltage');
  const list: RawRung[] = [];
  for (const role of rungRoles) {
    const s = plan.setting(device, role);
    const at = s && volts.get(s);
    if (!s || at == null || s.trueValue === null) continue;
    // What lies on the absorb rung without being a choice of its own is said by that rung.
    if ((role === 'equaliseVoltage' || role === 'bulkVoltage') && !s.override && absorb?.trueValue != null && Math.abs(s.trueValue - absorb.trueValue) < 0.02)
      continue;
    const band = s.band && moves(plan, device, role) ? mapBand(s.band, (v) => v + moved) : s.band;
    const out = band === null ? 0 : outsideBy(band, at);
    const letter = stageLetter[role] ?? null;
    list.push({
      role,
      volts: at,
      letter,
      texture: letter && texture[letter],
      words: roleInfo[role].ladder ?? role,
      key: keyText(s),
      outside: out,
      asFound: false,
      towards: out === 0 || band === null || moved !== 0 ? null : clamp(band, at),
      overridden: s.override !== undefined,
      mark: ghost?.device === device && ghost.role === role ? 'trying' : s.override ? 'override' : null,
      inherited: s.inherited !== undefined,
      bar: out !== 0 && moved === 0,
    });
    if (moved === 0 && s.presentTrue !== undefined && s.band !== null && !contains(s.band, s.presentTrue))
      list.push({
        role,
        volts: s.presentTrue,
        letter: null,
        texture: null,
        words: `${roleInfo[role].ladder ?? role} as found`,
        key: null,
        outside: outsideBy(s.band, s.presentTrue),
        asFound: true,
        towards: at,
        overridden: false,
        mark: null,
        inherited: false,
        bar: true,
      });
  }
  return list;
}

/** Whether compensation moves this setpoint of this device. */
const moves = (plan: Plan, device: string, role: Role): boolean => compensationOf(plan, device)?.roles.includes(role) ?? false;

/** Whether anything on the ladder moves with temperature. */
export const anyCompensated = (plan: Plan): boolean => plan.input.system.chargers.some((c) => compensationOf(plan, c.id) !== null);

/** The shift of a device’s setpoints at a temperature, V; 0 where nothing moves them. */
export const shiftOf = (plan: Plan, device: string, celsius: number): number => {
  const c = compensationOf(plan, device);
  return c ? shiftAt(c, celsius) : 0;
};

/** "key 28.3" when the value to key is not what it makes; other units say themselves that it is another number. */
function keyText(s: Setting): string | null {
  if (s.inherited) return 'from leader';
  if (typeof s.value !== 'number' || s.trueValue === null) return null;
  const value = s.value.toFixed(s.digits);
  if (s.counts === 'V') return Math.abs(s.value - s.trueValue) >= 0.05 ? `key ${value}` : null;
  return s.counts === 'choice' ? null : `${value}${unitInfo[s.counts].brief}`;
}
