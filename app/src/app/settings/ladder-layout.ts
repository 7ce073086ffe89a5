import {
  cellsInSeries,
  contains,
  figureOnBank,
  formatNumber,
  mostAmps,
  outsideBy,
  statedFigure,
  tidy,
  type Band,
  type FigureKey,
  type Plan,
  type Role,
  type Setting,
} from '@calm-keel/core';

/** The part of the ladder that a role draws. */
const rungRoles = ['equaliseVoltage', 'absorbVoltage', 'floatVoltage', 'rechargeVoltage', 'loadReconnect', 'loadDisconnect'] as const satisfies readonly Role[];

const stageLetter: Partial<Record<Role, 'A' | 'F' | 'B' | 'E'>> = { absorbVoltage: 'A', floatVoltage: 'F', rechargeVoltage: 'B', equaliseVoltage: 'E' };
const texture = { A: 'absorb', F: 'float', B: 'bulk', E: 'equalise' } as const;
const roleWords: Partial<Record<Role, string>> = {
  equaliseVoltage: 'equalise',
  absorbVoltage: 'absorb',
  floatVoltage: 'float',
  rechargeVoltage: 'recharge',
  loadReconnect: 'reconnect',
  loadDisconnect: 'disconnect',
};

export interface Rung {
  readonly role: Role;
  readonly volts: number;
  readonly y: number;
  /** Baseline of the value above the rung; further off when labels had to move. */
  readonly labelY: number;
  readonly letter: string | null;
  readonly texture: string | null;
  readonly words: string;
  /** Value to key when it differs from the true one. */
  readonly key: string | null;
  readonly outside: number;
  /** As found on the device and out of band; the planned rung stands elsewhere. */
  readonly asFound: boolean;
  /** Where the arrow of an as-found bar points. */
  readonly towardsY: number | null;
  readonly overridden: boolean;
  /** Role and key share a line where the column is wide enough. */
  readonly oneLine: boolean;
  /** The words of a stop bar stand above it, for want of room below. */
  readonly wordsAbove: boolean;
}

export interface Column {
  readonly charger: string;
  readonly name: string;
  readonly model: string;
  readonly x: number;
  readonly width: number;
  readonly rungs: readonly Rung[];
}

export interface BandShape {
  readonly kind: 'absorb' | 'float' | 'equalise' | 'recharge' | 'reconnect' | 'disconnect';
  readonly name: string;
  readonly band: Band;
  readonly top: number;
  readonly bottom: number;
}

export interface Trip {
  readonly volts: number;
  readonly y: number;
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
  /** Where the first charger column begins. */
  readonly columnsLeft: number;
  /** The break between stretched and compressed scale; null when there is none. */
  readonly breakY: number | null;
  readonly ticks: readonly { readonly y: number; readonly volts: number; readonly cell: number }[];
  readonly bands: readonly BandShape[];
  readonly trips: readonly Trip[];
  readonly columns: readonly Column[];
}

const header = 50;
/** A value above its rung and one line below it, and what a second line adds, px. */
const labelHeight = 40;
const secondLine = 14;
/** From this column width on, an as-found bar leaves room for the rung beside its words, and role and key share a line, px. */
const wideColumn = 138;
const oneLineColumn = 160;

/**
 * Lays out the setpoint ladder: one voltage axis, stretched where setpoints live and compressed below, the maker's bands across it,
 * one column per charger. Rungs stay at their true voltage; labels that would touch move down.
 *
 * @param only draw just this charger (the phone's view)
 */
export function layoutLadder(plan: Plan, width: number, height: number, only: string | null = null): Ladder {
  const { sheet } = plan.input;
  const shape = plan.facts.shape;
  const onBank = (key: FigureKey) => {
    const figure = statedFigure(sheet, key);
    return figure && figureOnBank(figure, shape);
  };
  const single = (key: FigureKey): number | undefined => {
    const f = onBank(key);
    return f && (f.band.max ?? f.target ?? f.band.min);
  };
  const per12 = (plan.facts.systemVolts ?? plan.facts.nominalVolts) / 12;
  const shown = plan.settings.filter((s) => (only === null || s.charger === only) && (rungRoles as readonly Role[]).includes(s.role));
  const found = shown.filter((s) => s.presentTrue !== undefined && s.band !== null && !contains(s.band, s.presentTrue));
  const bandFigures = [
    ['equalise', 'Equalise', 'equaliseVoltage'],
    ['absorb', 'Absorb', 'absorbVoltage'],
    ['float', 'Float', 'floatVoltage'],
    ['recharge', 'Recharge', 'rechargeVoltage'],
    ['reconnect', 'Reconnect', 'reconnectVoltage'],
    ['disconnect', 'Disconnect', 'disconnectVoltage'],
  ] as const;
  const bands = bandFigures.flatMap(([kind, name, key]) => {
    const f = onBank(key);
    if (!f) return [];
    const band = f.band.min === undefined && f.band.max === undefined && f.target !== undefined ? { min: f.target, max: f.target } : f.band;
    return [{ kind, name, band }];
  });
  const tripHigh = single('bmsOverVoltage');
  const tripLow = (() => {
    const f = onBank('bmsUnderVoltage');
    return f && (f.band.min ?? f.target);
  })();

  const high = Math.max(
    plan.facts.nominalVolts * 1.02,
    ...shown.flatMap((s) => (s.trueValue === null ? [] : [s.trueValue])),
    ...found.map((s) => s.presentTrue ?? 0),
    ...bands.flatMap((b) => [b.band.max ?? 0, b.band.min ?? 0]),
    tripHigh ?? 0,
  );
  const zoneLows = [
    ...shown
      .filter((s) => s.role === 'rechargeVoltage' || s.role === 'floatVoltage' || s.role === 'absorbVoltage')
      .flatMap((s) => (s.trueValue === null ? [] : [s.trueValue])),
    ...bands.filter((b) => b.kind === 'recharge' || b.kind === 'float' || b.kind === 'absorb').flatMap((b) => [b.band.min ?? b.band.max ?? Infinity]),
  ];
  const right = width - 50;
  const left = 46;
  const chargers = plan.input.system.chargers.filter((c) => only === null || c.id === only);
  const columnsLeft = left + (width < 480 ? 122 : 132);
  const columnWidth = chargers.length === 0 ? 0 : Math.min(340, (right - columnsLeft) / chargers.length);
  const step = (plan.facts.systemVolts ?? 12) <= 12 ? 0.4 : 0.2 * per12;
  const half = step / 2;
  const lowest = Math.min(plan.facts.nominalVolts * 1.03, ...zoneLows);
  // A load rung among the setpoints pushes labels down, and narrow columns need a second line: leave them room above the break.
  const crowded = shown.some((s) => (s.role === 'loadReconnect' || s.role === 'loadDisconnect') && s.trueValue !== null && s.trueValue > lowest - 0.1 * per12);
  const zoneLow = tidy(Math.floor((lowest - (crowded ? 0.5 : columnWidth < oneLineColumn ? 0.3 : 0.12) * per12) / half) * half);
  const top = header;
  const topVolts = tidy(Math.ceil((high + 0.12 * per12) / half) * half);
  const lows = [
    ...shown.flatMap((s) => (s.trueValue !== null && s.trueValue < zoneLow ? [s.trueValue] : [])),
    ...bands.flatMap((b) => [b.band.min ?? b.band.max ?? Infinity]).filter((v) => v < zoneLow),
    ...(tripLow === undefined ? [] : [tripLow]),
  ];
  const bottom = height - 8;
  const lowVolts = lows.length > 0 ? Math.min(...lows) - 0.15 * per12 : null;
  const breakY = lowVolts === null ? null : bottom - 96;
  const zoneBottom = breakY === null ? bottom : breakY - 6;
  const y = (volts: number): number => {
    const at =
      volts >= zoneLow || lowVolts === null || breakY === null
        ? zoneBottom - ((volts - zoneLow) / (topVolts - zoneLow)) * (zoneBottom - top)
        : bottom - ((volts - lowVolts) / (zoneLow - lowVolts)) * (bottom - breakY - 20);
    return Math.round(at * 10) / 10;
  };
  const cells = cellsInSeries(shape);
  const ticks: { y: number; volts: number; cell: number }[] = [];
  for (let v = tidy(Math.floor(topVolts / step + 1e-9) * step); v >= zoneLow - 1e-9; v = tidy(v - step)) ticks.push({ y: y(v), volts: v, cell: v / cells });
  if (lowVolts !== null) {
    const coarse = per12;
    for (let v = Math.floor((zoneLow - 0.5 * per12) / coarse) * coarse; v > lowVolts; v -= coarse) ticks.push({ y: y(v), volts: v, cell: v / cells });
  }

  const columns = chargers.map((charger, i): Column => {
    const card = plan.input.cards.find((c) => c.id === charger.card);
    const limit = card && mostAmps(plan, charger, card);
    return {
      charger: charger.id,
      name: charger.name,
      model: `${card?.model ?? ''}${limit === undefined ? '' : `, ${formatNumber(limit, 0)} A`}`,
      x: columnsLeft + i * columnWidth,
      width: columnWidth,
      rungs: rungsOf(plan, charger.id, y, bottom, columnWidth),
    };
  });
  return {
    width,
    height,
    top,
    bottom,
    left,
    right,
    columnsLeft,
    breakY,
    ticks,
    bands: bands.map((b) => ({ ...b, top: y(b.band.max ?? b.band.min ?? 0), bottom: y(b.band.min ?? b.band.max ?? 0) })),
    trips: [
      ...(tripHigh === undefined ? [] : [{ volts: tripHigh, y: y(tripHigh), allowed: 'below' as const }]),
      ...(tripLow === undefined ? [] : [{ volts: tripLow, y: y(tripLow), allowed: 'above' as const }]),
    ],
    columns,
  };
}

function rungsOf(plan: Plan, charger: string, y: (volts: number) => number, bottom: number, width: number): Rung[] {
  const absorb = plan.setting(charger, 'absorbVoltage')?.trueValue;
  const raw: Omit<Rung, 'labelY' | 'wordsAbove'>[] = [];
  for (const role of rungRoles) {
    const s = plan.setting(charger, role);
    if (s?.trueValue == null) continue;
    // A switched-off equalise stored at absorb lies on the absorb rung: one rung says both.
    if (role === 'equaliseVoltage' && absorb != null && Math.abs(s.trueValue - absorb) < 0.02) continue;
    const letter = stageLetter[role] ?? null;
    const out = s.band === null ? 0 : outsideBy(s.band, s.trueValue);
    const at = y(s.trueValue);
    const key = keyText(s);
    raw.push({
      role,
      volts: s.trueValue,
      y: at,
      letter,
      texture: letter && texture[letter],
      words: roleWords[role] ?? role,
      key,
      outside: out,
      asFound: false,
      towardsY: null,
      overridden: s.override !== undefined,
      // A long key, as of a 12 V block, has a line of its own at any width.
      oneLine: width >= oneLineColumn && (key?.length ?? 0) <= 9,
    });
    if (s.presentTrue !== undefined && s.band !== null && !contains(s.band, s.presentTrue))
      raw.push({
        role,
        volts: s.presentTrue,
        y: y(s.presentTrue),
        letter: null,
        texture: null,
        words: `${roleWords[role] ?? role} as found`,
        key: null,
        outside: outsideBy(s.band, s.presentTrue),
        asFound: true,
        towardsY: at,
        overridden: false,
        oneLine: width >= oneLineColumn,
      });
  }
  raw.sort((a, b) => a.y - b.y);
  let free = -Infinity;
  return raw.map((rung) => {
    const bar = rung.asFound || rung.outside !== 0;
    const above = bar ? 13 : 19;
    const below = bar ? (rung.asFound && width >= wideColumn ? 13 : 46) : labelHeight - above + (rung.key && !rung.oneLine ? secondLine : 0);
    // A moved label clears its own rung, or it would be struck through.
    const moved = rung.y - above < free ? Math.max(rung.y + 22, free + above) : rung.y;
    const labelY = bar ? rung.y : Math.min(bottom - 18, moved);
    free = labelY + below;
    return { ...rung, labelY, wordsAbove: bar && rung.y + 46 > bottom };
  });
}

/** "key 28.3" when the value to key is not what it makes. */
const keyText = (s: Setting): string | null =>
  typeof s.value === 'number' && s.trueValue !== null && (s.unit !== 'V' || Math.abs(s.value - s.trueValue) >= 0.05)
    ? `key ${s.value.toFixed(s.digits)}${s.unit === 'V' ? '' : s.unit === 'V below float' ? ' below' : s.unit === 'V per 12 V' ? ' /12 V' : ` ${s.unit}`}`
    : null;
