import { batterySaid, batteryTaken, isTaken, type Job } from '@calm-keel/core/job';
import { formatBand, formatQuantity, mapBand } from '@calm-keel/core/quantity';
import {
  basisWords,
  capacityText,
  cellsOf,
  chemistryWords,
  countsPer,
  editionOf,
  figureInfo,
  plausibleWindow,
  printFigure,
  type Basis,
  type BankShape,
  type Chemistry,
  type FigureEntry,
  type FigureKey,
} from '@calm-keel/core/sheet';
import { paperEnglish } from '@calm-keel/core/words';
import { figureOfEntry, readValue, type Box, type Candidate, type PaperReading } from '@calm-keel/core/paper';

/** What a person changed of a reading before taking it. */
export interface Changed {
  readonly key?: FigureKey;
  readonly basis?: Basis;
  readonly entry?: FigureEntry;
}

/** How far a reading has come. */
export type ItemState = 'sure' | 'look' | 'taken' | 'not';

/** One thing read from a paper, as the page shows it: what the battery is, a figure, the table of current when cold. */
export interface Item {
  readonly id: string;
  readonly kind: 'battery' | 'figure' | 'derating';
  readonly name: string;
  /** As it would stand on the slip. */
  readonly value: string;
  /** What it was understood as, and where it stands. */
  readonly about: string;
  readonly quote: string;
  readonly page: number;
  readonly boxes: readonly Box[];
  readonly state: ItemState;
  /** Why to look again, each in a sentence. */
  readonly doubts: readonly string[];
  /** What the job has in its place, when that says something else. */
  readonly instead: string | null;
  readonly candidate?: Candidate;
}

/** A reading as it was changed: another meaning is read anew from what is printed. Null when it cannot be that. */
export function asChanged(candidate: Candidate, change: Changed | undefined, chemistry: Chemistry, shape: BankShape): Candidate | null {
  if (!change) return candidate;
  const { key = candidate.key, basis, entry } = change;
  let next = candidate;
  if (key !== candidate.key) {
    const read = readValue(key, candidate.printed, { chemistry, shape, basis: 'unit' });
    if (!read.ok) return null;
    next = { ...candidate, key, entry: read.value.entry, doubts: read.value.doubts };
  }
  if (entry) next = { ...next, entry, doubts: [] };
  return basis === undefined
    ? next
    : { ...next, entry: { ...next.entry, basis }, doubts: next.doubts.filter((d) => d !== 'basisAssumed' && d !== 'implausible') };
}

const normal = (key: FigureKey, entry: FigureEntry, chemistry: Chemistry, shape: BankShape): string => {
  const window = plausibleWindow(chemistry, key);
  const value = entry.target ?? entry.max ?? entry.min;
  if (entry.state !== 'stated' || value === undefined || !countsPer(entry.unit) || entry.unit === 'A' || entry.unit === 's/Ah') return '';
  const slope = entry.unit === 'V/°C';
  const scale = slope ? 1000 : 1;
  const each = (value / cellsOf(entry.basis, shape)) * scale;
  const unit = slope ? 'mV/°C' : 'V';
  const digits = slope ? 1 : 2;
  const band = window && mapBand(window, (end) => end * scale);
  const inside = !band || (each >= (band.min ?? -Infinity) && each <= (band.max ?? Infinity));
  return `, ${formatQuantity(each, unit, digits)} a cell${band ? `: ${inside ? 'inside' : 'outside'} the normal range of ${chemistryWords[chemistry]}, ${formatBand(band, unit, digits)}` : ''}`;
};

/** Everything on a paper in its order: the battery first, then the figures as they are printed, then the table. */
export function itemsOf(
  job: Job,
  document: string,
  reading: PaperReading,
  shape: BankShape,
  changed: Readonly<Record<string, Changed>>,
  refused: readonly string[],
): readonly Item[] {
  const { chemistry } = reading.readAs;
  const battery = batterySaid(reading.facts, reading.readAs);
  const facts = Object.values(reading.facts);
  const first = facts[0] as { page: number; quote: string } | undefined;
  const items: Item[] = [];
  if (first) {
    const unit = [
      ...(battery.chemistry === undefined ? [] : [chemistryWords[battery.chemistry]]),
      ...(battery.nominalVolts === undefined ? [] : [`${battery.nominalVolts} V`]),
      ...(battery.capacityAh === undefined ? [] : [capacityText(battery.capacityAh)]),
      ...(battery.cells === undefined ? [] : [`${battery.cells} cells`]),
    ];
    const paper = [
      battery.title,
      battery.revision !== undefined || battery.date !== undefined ? editionOf({ revision: battery.revision ?? '', date: battery.date ?? '' }) : undefined,
    ].filter((part) => part !== undefined);
    const taken = batteryTaken(job, document, battery);
    const differs = job.assumed?.['chemistry'] !== true && battery.chemistry !== undefined && battery.chemistry !== job.sheet.chemistry;
    const unclear = facts.some((f) => (f as { unclear?: true }).unclear === true);
    items.push({
      id: 'battery',
      kind: 'battery',
      name: 'Battery and paper',
      value: unit.join(', ') || 'not said',
      about: paper.length === 0 ? 'The paper names itself nowhere.' : `Paper: ${paper.join(', ')}.`,
      quote: [...new Set(facts.map((f) => (f as { quote: string }).quote))].join(' · ').slice(0, 300),
      page: first.page,
      boxes: (facts as { page: number; boxes: readonly Box[] }[]).filter((f) => f.page === first.page).flatMap((f) => f.boxes),
      state: taken ? 'taken' : refused.includes('battery') ? 'not' : differs || unclear ? 'look' : 'sure',
      doubts: [...(differs ? [`This job says ${chemistryWords[job.sheet.chemistry]}.`] : []), ...(unclear ? [paperEnglish.doubts.unclear] : [])],
      instead: null,
    });
  }
  for (const candidate of reading.candidates) {
    const as = asChanged(candidate, changed[candidate.id], chemistry, shape) ?? candidate;
    const figure = figureOfEntry(as.entry);
    const before = job.sheet.figures[as.key];
    const taken = isTaken(job, document, as.key, as.entry, as.page);
    items.push({
      id: candidate.id,
      kind: 'figure',
      name: figureInfo[as.key].name,
      value: printFigure(figure),
      about: `${figure.state === 'stated' && countsPer(figure.unit) ? basisWords[figure.basis] : 'as printed'}${normal(as.key, as.entry, chemistry, shape)}.`,
      quote: as.quote,
      page: as.page,
      boxes: as.boxes,
      state: taken ? 'taken' : refused.includes(candidate.id) ? 'not' : as.doubts.length === 0 ? 'sure' : 'look',
      doubts: as.doubts.map((d) => paperEnglish.doubts[d]),
      instead:
        !before || taken || printFigure(before) === printFigure(figure)
          ? null
          : `${printFigure(before)} ${countsPer(before.unit) ? basisWords[before.basis] : ''}`.trim(),
      candidate: as,
    });
  }
  const { derating } = reading;
  if (derating) {
    const same = JSON.stringify(job.sheet.derating) === JSON.stringify(derating.rows);
    items.push({
      id: 'derating',
      kind: 'derating',
      name: 'Current when cold',
      value: derating.rows.map((r) => `to ${r.toC} °C: ${r.limit} ${r.unit}`).join(', '),
      about: 'as printed',
      quote: derating.quote,
      page: derating.page,
      boxes: derating.boxes,
      state: same ? 'taken' : refused.includes('derating') ? 'not' : 'sure',
      doubts: [],
      instead: job.sheet.derating.length > 0 && !same ? 'another table' : null,
    });
  }
  return items;
}
