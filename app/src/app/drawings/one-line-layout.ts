import { formatNumber } from '@calm-keel/core/quantity';
import { cardOf, mostAmps, type Plan } from '@calm-keel/core/settings';
import { capacityText, statedFigure } from '@calm-keel/core/sheet';
import { chargerDrop, wireDrop, wireText, type Charger } from '@calm-keel/core/system';
import { cutText } from '../ui/cut-text';

/** What can be chosen in the drawing: a charger, the bank, a companion. */
interface Hit {
  readonly key: string;
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
  readonly label: string;
}

type Tone = 'ink' | 'quiet' | 'cold' | 'stop' | 'attention' | 'copper';

/** A line or an outline. */
interface Stroke {
  readonly d: string;
  readonly width: number;
  readonly tone: Tone;
  readonly dash: string | null;
  readonly fill: 'none' | 'surface' | 'hatch' | 'ink';
}

/** A word in the drawing. */
export interface Word {
  readonly x: number;
  readonly y: number;
  readonly text: string;
  readonly anchor: 'start' | 'middle' | 'end';
  readonly bold: boolean;
  readonly tone: Tone;
  readonly size: number;
}

/** The whole drawing, in px. */
export interface OneLine {
  readonly width: number;
  readonly height: number;
  readonly strokes: readonly Stroke[];
  readonly words: readonly Word[];
  readonly hits: readonly Hit[];
}

const boxY = 112;
const boxH = 44;
const bankH = 74;
const rightW = 158;
/** A column is never wider: one charger alone is no wall. */
const mostColumn = 230;

/**
 * The one-line drawing of a job: sources on top, bus bars level, the bank below left, loads below right; energy runs down the page.
 * Laid out from the data alone, so that the same job always gives the same picture.
 *
 * @param room width to fill, px; more sources than fit make it wider
 */
export function oneLine(plan: Plan, chosen: string | null, room: number): OneLine {
  const { sheet, system } = plan.input;
  const { bank, loads } = system;
  const { assumed } = plan.input;
  const strokes: Stroke[] = [];
  const words: Word[] = [];
  const hits: Hit[] = [];
  const sources = system.chargers.map((charger) => ({ charger, card: cardOf(plan.input, charger) }));
  const count = Math.max(1, sources.length);
  const colW = Math.max(136, (room - rightW) / count);
  const width = Math.max(room, colW * count + rightW);
  // Without a source nothing stands above the bus but a sentence.
  const busY = sources.length > 0 ? 258 : 64;
  const bankY = busY + 136;
  const systemV = plan.facts.systemVolts ?? Math.round(plan.facts.nominalVolts);

  const line = (d: string, w = 1.5, tone: Tone = 'ink', dash: string | null = null, fill: Stroke['fill'] = 'none'): void => {
    strokes.push({ d, width: w, tone, dash, fill });
  };
  const word = (x: number, y: number, text: string, options: Partial<Omit<Word, 'x' | 'y' | 'text'>> = {}): void => {
    words.push({ x, y, text, anchor: 'start', bold: false, tone: 'ink', size: 12.5, ...options });
  };
  const rect = (x: number, y: number, w: number, h: number): string => `M${x} ${y}h${w}v${h}h${-w}z`;
  const fuse = (x: number, y: number, tone: Tone = 'ink'): void => {
    line(rect(x - 5, y, 10, 20), 1.4, tone, null, 'surface');
    line(`M${x} ${y}v20`, 1.2, tone);
  };
  const blade = (x: number, y: number): void => {
    line(`M${x} ${y}l-9 -15`, 1.6);
    line(`M${x - 1.8} ${y}a1.8 1.8 0 1 0 3.6 0a1.8 1.8 0 1 0 -3.6 0`, 1.2, 'ink', null, 'surface');
  };
  const selected = (key: string, x: number, y: number, w: number, h: number): void => {
    if (chosen === key) line(rect(x - 3, y - 3, w + 6, h + 6), 2.5, 'copper');
  };
  /** Cut to what fits, so that nothing runs over its neighbour. */
  const fit = (text: string, px: number, size = 12.5): string => cutText(text, Math.floor(px / (size * 0.53)));

  // Bus bars first, everything hangs from them.
  const busEnd = width - 10;
  line(`M10 ${busY}H${busEnd}`, 4.5);
  word(14, busY + 17, `${systemV} V bus`, { bold: true });

  const battery = { strings: Math.min(4, bank.stringsInParallel), all: bank.stringsInParallel };
  const bankRoom = width - rightW - 20;
  const boxW = Math.max(40, Math.min(176, (bankRoom - 90) / battery.strings - 40));
  const stringX = (i: number): number => 66 + i * (boxW + 50);
  const mainX = stringX(0) + (stringX(battery.strings - 1) + boxW - stringX(0)) / 2 + (battery.strings === 1 ? 20 : 0);

  // Sources, one column each.
  let sensor = 0;
  /** How many rings sit at each place already. */
  const seated = new Map<string, number>();
  sources.forEach(({ charger, card }, i) => {
    const x = 10 + i * colW;
    const lead = x + 22;
    const w = Math.min(colW, mostColumn) - 18;
    const limit = card ? mostAmps(plan, charger, card) : 0;
    word(x, 14, fit(sourceName(charger, card?.kind), w, 13.5), { bold: true, size: 13.5 });
    drawSource(charger, card?.kind, lead);
    line(`M${lead} 78V${boxY}`, 1.5);
    if (charger.array?.isolatorA !== undefined) {
      line(`M${lead} 84v16`, 3, 'ink');
      blade(lead, 100);
      word(lead + 12, 99, `isolator ${charger.array.isolatorA} A`, { tone: 'quiet' });
    }
    line(rect(x, boxY, w, boxH), 1.5, 'ink', null, 'surface');
    word(x + 7, boxY + 18, fit(charger.name, w - 12, 14), { bold: true, size: 14 });
    word(
      x + 7,
      boxY + 35,
      fit(card ? (hasLimit(plan, charger) ? `${card.model}, ${formatNumber(card.ratings.outputA, 0)} A` : card.model) : 'no card', w - 60),
      { tone: 'quiet' },
    );
    word(x + w - 6, boxY + 35, card && hasLimit(plan, charger) ? `set ${formatNumber(limit, 0)} A` : 'no limit', { anchor: 'end', bold: true });
    selected(charger.id, x, boxY, w, boxH);
    hits.push({ key: charger.id, x, y: boxY, w, h: boxH, label: `${charger.name}, ${card?.model ?? 'no card'}` });

    // Down to the bus: fuse, conductor, drop.
    line(`M${lead} ${boxY + boxH}V${busY}`, 2.6);
    line(`M${lead - 3.5} ${busY}a3.5 3.5 0 1 0 7 0a3.5 3.5 0 1 0 -7 0`, 1, 'ink', null, 'ink');
    if (charger.fuseA !== undefined) {
      fuse(lead, boxY + boxH + 12);
      word(lead + 12, boxY + boxH + 27, `fuse ${charger.fuseA} A`, { bold: true });
    } else word(lead + 12, boxY + boxH + 27, 'no fuse entered', { tone: 'attention' });
    if (charger.wire) {
      const lostV = chargerDrop(charger, limit);
      word(lead + 12, boxY + boxH + 50, fit(wireText(charger.wire), w - 34), { tone: 'quiet' });
      word(lead + 12, boxY + boxH + 66, `${lostV === null ? 'drop not known' : `drop ${formatNumber(lostV, 2)} V`}, ${formatNumber(limit, 0)} A`, {
        tone: 'quiet',
      });
    }
    if (card?.kind === 'alternator') word(lead + 12, boxY + boxH + 82, 'stopped at its field', { tone: 'quiet' });

    // The temperature sensor, drawn where it really sits.
    if (!card || card.sensor.reads === 'none') return;
    const out = x + w + 8;
    if (card.sensor.reads === 'ownCase' || (charger.sensor.fitted && charger.sensor.place === 'chargerCase')) {
      ring(out, boxY + 22, `T${++sensor}`, 'attention');
      return;
    }
    if (charger.sensor.fitted !== true) {
      line(`M${out - 9} ${boxY + 22}a9 9 0 1 0 18 0a9 9 0 1 0 -18 0`, 1.5, 'stop', '3 2', 'surface');
      word(out, boxY + 26.5, '?', { anchor: 'middle', tone: 'stop', bold: true });
      word(x + w - 5, boxY + 17, charger.sensor.fitted === false ? 'no lead' : 'lead?', { anchor: 'end', tone: 'stop', bold: true });
      return;
    }
    const name = `T${++sensor}`;
    const before = seated.get(charger.sensor.place) ?? 0;
    seated.set(charger.sensor.place, before + 1);
    const at = sensorSpot(charger, before);
    const corner = bankY - 56 + ((sensor - 1) % 4) * 5;
    const reads = charger.sensor.place === 'batteryCase' || charger.sensor.place === 'batteryPost' || charger.sensor.place === 'betweenUnits';
    // Leads run in the gutter between columns and hop over the bus.
    line(
      `M${x + w} ${boxY + 22}H${out}V${busY - 5}a5 5 0 0 1 0 10V${corner}H${at.x}V${at.y - 10}`,
      1.3,
      chosen === charger.id ? 'copper' : 'cold',
      '7 3 1.5 3',
    );
    ring(at.x, at.y, name, reads ? 'cold' : 'attention');
    word(x + w - 6, boxY + 18, name, { anchor: 'end', bold: true, tone: 'cold' });
    if (at.side !== 0) word(at.x + at.side * 13, at.y + 4, placeWords(charger), { anchor: at.side > 0 ? 'start' : 'end', tone: 'quiet', size: 12 });
  });
  if (sources.length === 0) word(14, 28, 'No charger yet. Add one, and it is drawn here.', { tone: 'quiet' });

  // From the bus to the bank.
  line(`M${mainX} ${busY}V${battery.strings > 1 ? bankY - 34 : bankY}`, 4);
  const link = weakest(plan);
  if (bank.mainSwitchA !== undefined) {
    line(`M${mainX} ${busY + 8}v16`, 5, 'ink');
    blade(mainX, busY + 26);
    word(mainX + 12, busY + 24, `main switch ${bank.mainSwitchA} A`, { tone: 'quiet' });
  }
  if (bank.fuseA !== undefined) {
    fuse(mainX, busY + 34, link === 'fuse' ? 'attention' : 'ink');
    word(mainX + 12, busY + 48, `fuse ${bank.fuseA} A${link === 'fuse' ? `, the weakest link: ${formatNumber(bank.fuseA * 0.8, 0)} A all day` : ''}`, {
      bold: true,
      tone: link === 'fuse' ? 'attention' : 'ink',
    });
  } else word(mainX + 12, busY + 48, 'no main fuse entered', { tone: 'attention' });
  if (bank.wire) {
    const amps = plan.ceiling.binding?.amps ?? 0;
    const lostV = wireDrop(bank.wire, amps);
    word(mainX - 12, busY + 40, wireText(bank.wire), { anchor: 'end', tone: 'quiet' });
    word(mainX - 12, busY + 56, lostV === null ? 'drop not known' : `drop ${formatNumber(lostV, 2)} V at ${formatNumber(amps, 0)} A`, {
      anchor: 'end',
      tone: 'quiet',
    });
  }
  if (bank.shuntA !== undefined) {
    line(rect(mainX - 10, busY + 66, 20, 8), 1.5, 'ink', null, 'surface');
    word(mainX - 16, busY + 75, `shunt ${bank.shuntA} A`, { anchor: 'end', tone: 'quiet' });
  }
  if (battery.strings > 1) {
    const from = stringX(0) + 24;
    const to = stringX(battery.strings - 1) + 24;
    line(`M${Math.min(from, mainX)} ${bankY - 34}H${Math.max(to, mainX)}`, 4);
  }
  const bms = statedFigure(sheet, 'bmsOverVoltage');
  for (let i = 0; i < battery.strings; i++) {
    const x = stringX(i);
    if (battery.strings > 1) {
      line(`M${x + 24} ${bankY - 34}V${bankY}`, 2.6);
      if (bank.stringFuseA !== undefined) {
        fuse(x + 24, bankY - 27);
        word(x + 34, bankY - 13, `${bank.stringFuseA} A`, { bold: true, size: 12 });
      }
    }
    line(rect(x, bankY, boxW, bankH), 1.5, 'ink', null, 'surface');
    if (bank.hasBms)
      word(
        x + 8,
        bankY + 16,
        fit(assumed?.hasBms ? 'BMS not known' : bms?.max === undefined ? 'BMS, trips unknown' : `BMS opens at ${formatNumber(bms.max, 1)} V`, boxW - 12),
        {
          tone: 'quiet',
          size: 12,
        },
      );
    cells(x + 8, bankY + 26, Math.min(8, plan.facts.cells), boxW - (boxW >= 130 ? 44 : 12), plan.facts.cells);
    const many = bank.unitsInSeries > 1;
    word(x + 8, bankY + 54, many ? `String ${i + 1}` : `Battery ${i + 1}`, { bold: true });
    word(
      x + 8,
      bankY + 68,
      fit(
        many || sheet.unit.capacityAh === undefined ? `${bank.unitsInSeries} × ${sheet.battery}` : `${sheet.battery}, ${capacityText(sheet.unit.capacityAh)}`,
        boxW - 12,
      ),
      {
        tone: 'quiet',
        size: 12,
      },
    );
  }
  if (battery.all > battery.strings) word(stringX(battery.strings - 1) + 72, bankY - 13, `and ${battery.all - battery.strings} more`, { tone: 'quiet' });
  const bankX = stringX(0);
  const bankWide = stringX(battery.strings - 1) + boxW - bankX;
  if (chosen === null) line(rect(bankX - 4, bankY - 4, bankWide + 8, bankH + 8), 2.5, 'copper');
  hits.push({ key: '', x: bankX, y: bankY, w: bankWide, h: bankH, label: 'Bank' });

  // Loads and companions on the right.
  const loadX = width - 48;
  line(`M${loadX} ${busY}V${bankY + 44}`, 1.5);
  if (loads.fuseA !== undefined) {
    fuse(loadX, busY + 14);
    word(loadX + 10, busY + 28, `${loads.fuseA} A`, { bold: true });
  }
  system.companions.forEach((companion, i) => {
    const card = plan.input.cards.find((c) => c.id === companion.card);
    const y = busY + 42 + i * 58;
    const x = width - rightW + 6;
    line(rect(x, y, 84, 36), 1.5, 'ink', null, 'surface');
    word(x + 6, y + 15, fit(companion.name, 76), { bold: true });
    word(x + 6, y + 30, card?.model ?? 'no card', { tone: 'quiet' });
    selected(companion.id, x, y, 84, 36);
    hits.push({ key: companion.id, x, y, w: 84, h: 36, label: companion.name });
    const switched = system.chargers.filter((c) => companion.switches.includes(c.id)).map((c) => c.name);
    if (switched.length > 0) word(x, y + 50, fit(`switches ${switched.join(', ')}`, rightW - 10, 12), { tone: 'quiet', size: 12 });
    if (companion.switches.includes('loads')) {
      line(`M${x + 84} ${y + 18}H${loadX - 9}`, 1.2, 'ink', '2 3');
      line(`M${loadX} ${y + 8}v16`, 4, 'ink');
      blade(loadX, y + 26);
    }
    if (card?.kind === 'monitor' && bank.shuntA !== undefined) line(`M${mainX + 10} ${busY + 70}H${x}`, 1.2, 'ink', '2 3');
  });
  line(`M${loadX - 5} ${bankY + 36}l5 9 5 -9`, 1.5);
  word(width - 8, bankY + 58, fit(loads.name ?? 'Loads', rightW - 6), { anchor: 'end', bold: true });
  word(width - 8, bankY + 73, loadsText(plan), { anchor: 'end', tone: 'quiet', size: 12 });

  return { width, height: bankY + bankH + 14, strokes, words, hits };

  function ring(x: number, y: number, text: string, tone: Tone): void {
    line(`M${x - 10} ${y}a10 10 0 1 0 20 0a10 10 0 1 0 -20 0`, 1.5, tone, null, 'surface');
    word(x, y + 4, text, { anchor: 'middle', bold: true, tone, size: 11.5 });
  }

  function cells(x: number, y: number, shown: number, room_: number, all: number): void {
    const gap = Math.min(15, room_ / shown);
    for (let i = 0; i < shown; i++) {
      line(`M${x + i * gap} ${y - 5}v10`, 1.3);
      line(`M${x + i * gap + 4} ${y - 2.5}v5`, 2.4);
      if (i < shown - 1) line(`M${x + i * gap + 4} ${y}H${x + (i + 1) * gap}`, 1.2);
    }
    if (boxW >= 130) word(x + shown * gap + 2, y + 4, `${all} cells`, { tone: 'quiet', size: 12 });
  }

  function drawSource(charger: Charger, kind: string | undefined, lead: number): void {
    if (charger.array) {
      const { inSeries, inParallel, shaded } = charger.array;
      const across = Math.min(inSeries, 4);
      const down = Math.min(inParallel, 2);
      for (let p = 0; p < down; p++)
        for (let s = 0; s < across; s++) {
          const px = lead + 8 + s * 24;
          const py = 24 + p * 20;
          line(rect(px, py, 20, 15), 1.3, 'ink', null, p * inSeries + s < shaded ? 'hatch' : 'surface');
          line(`M${px} ${py + 7.5}h20M${px + 7} ${py}v15M${px + 13} ${py}v15`, 0.7, 'quiet');
          if (s > 0) line(`M${px - 4} ${py + 7.5}h4`, 1.2);
        }
      for (let p = 0; p < down; p++) line(`M${lead} ${31.5 + p * 20}h8`, 1.3);
      line(`M${lead} 31.5V78`, 1.5);
      const joined = inParallel === 1 ? `${inSeries} in series` : `${inSeries}s${inParallel}p`;
      word(lead + 8, 78, `${joined}${shaded > 0 ? ', shaded' : ''}`, { tone: 'quiet', size: 12 });
      return;
    }
    if (charger.feed) {
      line(`M${lead - 12} 34h24M${lead - 7} 40h14M${lead - 12} 46h24M${lead - 7} 52h14`, 1.5);
      line(`M${lead} 52V78`, 1.5);
      word(lead + 18, 47, charger.feed.volts === undefined ? '? V' : `${charger.feed.volts} V`, { tone: 'quiet' });
      return;
    }
    if (kind?.startsWith('solar')) {
      // Panels that nobody has described yet: their place, empty.
      for (let s = 0; s < 3; s++) line(rect(lead + 8 + s * 24, 24, 20, 15), 1.2, 'quiet', '3 2', 'surface');
      line(`M${lead + 8} 31.5H${lead}V78`, 1.3);
      return;
    }
    line(`M${lead - 15} 46a15 15 0 1 0 30 0a15 15 0 1 0 -30 0`, 1.5, 'ink', null, 'surface');
    word(lead, 51, kind === 'turbine' ? 'T' : kind === 'inverterCharger' ? '~' : 'G', { anchor: 'middle', bold: true, size: 14 });
    line(`M${lead} 61V78`, 1.5);
    if (charger.machine) word(lead + 20, 44, charger.machine.ratedA === undefined ? '? A' : `${charger.machine.ratedA} A`, { bold: true });
    if (charger.machine)
      word(lead + 20, 60, charger.machine.loadDumpProtected ? 'dump guarded' : charger.machine.loadDumpProtected === false ? 'no dump guard' : 'dump guard?', {
        tone: charger.machine.loadDumpProtected ? 'quiet' : 'attention',
        size: 12,
      });
  }

  /** Where a ring sits, beside those that sit there already: none hides another. */
  function sensorSpot(charger: Charger, before: number): { x: number; y: number; side: 1 | -1 | 0 } {
    const right = stringX(battery.strings - 1) + boxW;
    switch (charger.sensor.place) {
      case 'batteryPost':
        return { x: right - 26 - before * 24, y: bankY - 10, side: before === 0 ? 1 : 0 };
      case 'betweenUnits':
        return { x: (battery.strings > 1 ? stringX(0) : right - boxW) + boxW + 14 + (before % 2) * 22, y: bankY + 34 + before * 12, side: 0 };
      case 'pad': {
        const y = bankY + 26;
        if (before === 0) line(rect(right, y - 13, 9, 26), 1.2, 'attention', null, 'hatch');
        return { x: right + 19, y: y - before * 25, side: before === 0 ? 1 : 0 };
      }
      case 'air':
        return { x: right + 34 + before * 24, y: bankY + 62, side: 1 };
      default: {
        // Left of the first battery, then right of the last, then a row lower.
        const left = before % 2 === 0;
        const row = Math.floor(before / 2) * 24;
        return left ? { x: stringX(0) - 11, y: bankY + 22 + row, side: -1 } : { x: right + 11, y: bankY + 56 - row, side: 1 };
      }
    }
  }
}

const hasLimit = (plan: Plan, charger: Charger): boolean => plan.setting(charger.id, 'chargeCurrentLimit') !== undefined;

function placeWords(charger: Charger): string {
  switch (charger.sensor.place) {
    case 'pad':
      return 'pad';
    case 'batteryPost':
      return 'post';
    case 'betweenUnits':
      return '';
    case 'air':
      return 'in the air';
    default:
      return 'case';
  }
}

function sourceName(charger: Charger, kind: string | undefined): string {
  if (charger.array) return `Array, ${formatNumber(charger.array.panel.watts * charger.array.inSeries * charger.array.inParallel, 0)} W`;
  if (charger.feed) return charger.feed.name;
  if (charger.machine) return charger.machine.name;
  return kind === 'inverterCharger' ? 'Mains' : kind?.startsWith('solar') ? 'Array, not entered' : 'Source, not entered';
}

/** Which part of the charging path to the bank binds, if it is a part in the drawing. */
function weakest(plan: Plan): 'fuse' | 'cable' | null {
  const copper = plan.ceiling.candidates.filter((c) => c.name === 'Main fuse' || c.name === 'Main cable').sort((a, b) => a.amps - b.amps)[0];
  return copper?.name === 'Main fuse' ? 'fuse' : copper ? 'cable' : null;
}

/** What the loads take, as much of it as somebody has said. */
function loadsText({ input: { assumed, system } }: Plan): string {
  const { minA, maxA } = system.loads;
  const parts = [...(assumed?.minA ? [] : [`${minA} A at least`]), ...(assumed?.maxA ? [] : [`${maxA} A at most`])];
  return parts.length === 0 ? 'not known' : parts.join(', ');
}

/** The drawing as a list, from each source to the bank: for a phone, and for who does not see it. */
export function oneLineList(plan: Plan): readonly { readonly key: string; readonly title: string; readonly lines: readonly string[] }[] {
  const { system, sheet } = plan.input;
  const branches = system.chargers.map((charger) => {
    const card = cardOf(plan.input, charger);
    const limit = card ? mostAmps(plan, charger, card) : 0;
    const lostV = chargerDrop(charger, limit);
    const sensor =
      !card || card.sensor.reads === 'none'
        ? 'reads no temperature'
        : charger.sensor.fitted !== true
          ? charger.sensor.fitted === false
            ? 'no temperature lead'
            : 'temperature lead not known'
          : `sensor: ${placeWords(charger) || 'between batteries'}`;
    return {
      key: charger.id,
      title: charger.name,
      lines: [
        sourceName(charger, card?.kind),
        card ? `${card.maker} ${card.model}, ${hasLimit(plan, charger) ? `set ${formatNumber(limit, 0)} A` : 'no current limit'}` : 'no card',
        `${charger.fuseA === undefined ? 'no fuse entered' : `fuse ${charger.fuseA} A`}${charger.wire ? `, ${wireText(charger.wire)}${lostV === null ? '' : `, drop ${formatNumber(lostV, 2)} V`}` : ''}`,
        sensor,
      ],
    };
  });
  const { bank, loads } = system;
  return [
    ...branches,
    ...system.companions.map((c) => ({
      key: c.id,
      title: c.name,
      lines: [
        plan.input.cards.find((k) => k.id === c.card)?.model ?? 'no card',
        c.switches.length > 0 ? `switches ${c.switches.join(', ')}` : 'switches nothing',
      ],
    })),
    {
      key: '',
      title: 'Bank',
      lines: [
        `${bank.stringsInParallel} × ${bank.unitsInSeries} ${sheet.battery}, ${plan.facts.cells} cells in series`,
        `${bank.fuseA === undefined ? 'no main fuse entered' : `main fuse ${bank.fuseA} A`}${bank.wire ? `, ${wireText(bank.wire)}` : ''}${bank.shuntA === undefined ? '' : `, shunt ${bank.shuntA} A`}`,
        `${loads.name ?? 'Loads'}: ${loadsText(plan)}`,
      ],
    },
  ];
}
