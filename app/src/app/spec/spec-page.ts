import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  basisSchema,
  cellsOf,
  chemistrySchema,
  chemistryWords,
  figureInfo,
  figureKeys,
  figureOnBank,
  formatBand,
  formatNumber,
  formatQuantity,
  plausibility,
  plausibleWindow,
  rankWords,
  ranks,
  type Figure,
  type FigureKey,
  type Problem,
  type Sheet,
} from '@calm-keel/core';
import { JobStore } from '../data/job-store';
import { Library } from '../data/library';
import { Selection } from '../data/selection';
import { ViewSize } from '../data/view-size';
import { ChoiceField } from '../ui/choice-field';
import { FindingsList } from '../ui/findings-list';
import { Glyph } from '../ui/glyph';
import { NumberField } from '../ui/number-field';
import { showInspector } from '../ui/show-inspector';
import { TextField } from '../ui/text-field';

const basisWords = { cell: 'per cell', unit: 'per battery', bank: 'for the bank' } as const;
const unitWords = { V: 'V', A: 'A', C: 'C', s: 'min', d: 'days', '°C': '°C', 'V/°C': 'mV/°C' } as const;
/** Core units in one shown unit of a figure. */
const shownScale = { V: 1, A: 1, C: 1, s: 60, d: 1, '°C': 1, 'V/°C': 0.001 } as const;
const digitsOf = (figure: Figure): number =>
  figure.unit === 'V' ? (figure.basis === 'cell' ? 2 : 1) : figure.unit === 'C' ? 2 : figure.unit === 'V/°C' ? 1 : 0;

/** Spec: the maker's figures as printed, their trail to this bank, and their source. */
@Component({
  selector: 'ck-spec-page',
  imports: [NumberField, TextField, ChoiceField, FindingsList, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './spec-page.html',
  styleUrl: './spec-page.scss',
})
export class SpecPage {
  protected readonly store = inject(JobStore);
  protected readonly selection = inject(Selection);
  protected readonly library = inject(Library);
  private readonly size = inject(ViewSize);
  protected readonly ranks = ranks;
  protected readonly choosing = signal(false);
  /** Problems of the last edit, by the field it was made in. */
  private readonly refused = signal<{ field: string; problems: readonly Problem[] } | null>(null);

  protected readonly sheet = computed(() => this.store.plan()?.input.sheet ?? null);
  protected readonly chemistries = chemistrySchema.options.map((value) => ({ value, words: chemistryWords[value] }));
  protected readonly rankOptions = ranks.map((value) => ({ value, words: rankWords[value] }));
  protected readonly basisOptions = basisSchema.options.map((value) => ({ value, words: basisWords[value] }));
  protected readonly stateOptions = [
    { value: 'missing', words: 'not on the sheet' },
    { value: 'stated', words: 'a value' },
    { value: 'notPermitted', words: 'not permitted' },
    { value: 'notNeeded', words: 'not needed' },
  ];

  protected readonly rows = computed(() => {
    const plan = this.store.plan();
    const sheet = this.sheet();
    if (!plan || !sheet) return [];
    return figureKeys
      .filter((key) => (figureInfo[key].chemistries as readonly string[]).includes(sheet.chemistry))
      .map((key) => {
        const figure = sheet.figures[key];
        const suspicious = figure !== undefined && !plausibility(sheet.chemistry, key, figure, plan.facts.shape).plausible;
        return {
          key,
          name: figureInfo[key].name,
          figure,
          printed: figure ? printed(figure) : '',
          basis: figure?.state === 'stated' && (figure.unit === 'V' || figure.unit === 'V/°C') ? figure.basis : null,
          ...trail(figure, plan.facts.shape),
          scale: figure ? this.scale(sheet, key, figure) : null,
          source: figure?.page ?? '',
          rank: figure ? ranks.indexOf(figure.rank) : -1,
          suspicious,
        };
      });
  });

  protected readonly key = computed<FigureKey>(() => (this.rows().some((r) => r.key === this.selection.figure()) ? this.selection.figure() : 'absorbVoltage'));
  protected readonly row = computed(() => this.rows().find((r) => r.key === this.key()) ?? null);
  protected readonly unitOptions = computed(() => figureInfo[this.key()].units.map((value) => ({ value, words: unitWords[value] })));
  protected readonly window = computed(() => {
    const sheet = this.sheet();
    const window = sheet && plausibleWindow(sheet.chemistry, this.key());
    if (!sheet || !window) return null;
    return this.key() === 'compensationSlope'
      ? `${formatBand({ min: (window.min ?? 0) * 1000, max: (window.max ?? 0) * 1000 }, 'mV/°C', 0)} per cell`
      : `${formatBand(window, 'V', 2)} per cell`;
  });

  protected readonly ticks = computed(() => {
    const [low, high] = this.range();
    const step = (high - low) / 4;
    return [0, 1, 2, 3, 4].map((i) => ({ x: 8 + i * 28, shown: i % 2 === 0, text: formatNumber(low + i * step, 1) }));
  });

  /** Volts per cell at the ends of the common scale. */
  private range(): readonly [number, number] {
    return this.sheet()?.chemistry === 'lfp' ? [2.4, 4] : [1.6, 2.8];
  }

  private scale(sheet: Sheet, key: FigureKey, figure: Figure) {
    if (figure.unit !== 'V' || figure.state !== 'stated') return null;
    const plan = this.store.plan();
    if (!plan) return null;
    const [low, high] = this.range();
    const cells = cellsOf(figure.basis, plan.facts.shape);
    const x = (v: number | undefined): number | null =>
      v === undefined ? null : Math.round(10 * (8 + (112 * (Math.min(high, Math.max(low, v / cells)) - low)) / (high - low))) / 10;
    const window = plausibleWindow(sheet.chemistry, key);
    const at = (v: number | undefined): number | null => (v === undefined ? null : x(v * cells));
    return {
      min: x(figure.min),
      max: x(figure.max),
      target: x(figure.target),
      windowLow: at(window?.min),
      windowHigh: at(window?.max),
      trip: key.startsWith('bms'),
    };
  }

  protected choose(key: FigureKey): void {
    this.selection.figure.set(key);
    this.refused.set(null);
    if (this.size.phone()) showInspector();
  }

  protected problemAt(field: string): string | null {
    const refused = this.refused();
    return refused?.field === field ? (refused.problems[0]?.text.replace(/^sheet › figures › \w+( › \w+)?: /, 'Not like this: ') ?? null) : null;
  }

  private tryEdit(field: string, label: string, edit: (sheet: Sheet) => Sheet): void {
    const problems = this.store.edit(label, (job) => ({ ...job, sheet: edit(job.sheet) }), `sheet ${field}`);
    this.refused.set(problems.length > 0 ? { field, problems } : null);
  }

  protected editSheet(field: string, change: Partial<Sheet>): void {
    this.tryEdit(field, 'Change the sheet', (sheet) => ({ ...sheet, ...change }));
  }

  protected editUnit(change: Partial<Sheet['unit']>): void {
    this.tryEdit('unit', 'Change the battery', (sheet) => ({ ...sheet, unit: { ...sheet.unit, ...change } }));
  }

  protected setState(state: string): void {
    const key = this.key();
    this.tryEdit('state', `Change ${figureInfo[key].name.toLowerCase()}`, (sheet) => {
      const { [key]: before, ...others } = sheet.figures;
      if (state === 'missing') return { ...sheet, figures: others };
      const unit = before?.unit ?? figureInfo[key].units[0];
      const figure: Figure = { ...(before ?? { unit, basis: 'unit', rank: 'makerForThisCharger' }), state: state as Figure['state'] };
      // A value needs a number to begin with; the middle of the chemistry's window says plainly that it is not the maker's.
      const window = plausibleWindow(sheet.chemistry, key);
      const cells = cellsOf(figure.basis, {
        cellsPerUnit: sheet.unit.cellsInSeries,
        unitsInSeries: 1,
        stringsInParallel: 1,
        unitCapacityAh: sheet.unit.capacityAh,
      });
      const start = window?.min !== undefined && window.max !== undefined ? Number((((window.min + window.max) / 2) * cells).toFixed(2)) : 0;
      const empty = figure.min === undefined && figure.target === undefined && figure.max === undefined;
      return { ...sheet, figures: { ...sheet.figures, [key]: state === 'stated' && empty ? { ...figure, target: start, rank: 'assumed' } : figure } };
    });
  }

  protected editFigure(field: 'min' | 'target' | 'max' | 'unit' | 'basis' | 'rank' | 'page' | 'quote', value: string | number | undefined): void {
    const key = this.key();
    this.tryEdit(field, `Change ${figureInfo[key].name.toLowerCase()}`, (sheet) => {
      const figure = sheet.figures[key];
      if (!figure) return sheet;
      const { [field]: _before, ...others } = figure;
      const next = { ...others, ...(value === undefined || value === '' ? {} : { [field]: value }) };
      return { ...sheet, figures: { ...sheet.figures, [key]: next as Figure } };
    });
  }

  protected asChemistry(value: string): Sheet['chemistry'] {
    return value as Sheet['chemistry'];
  }

  protected scaleOf(figure: Figure): number {
    return shownScale[figure.unit];
  }

  protected unitOf(figure: Figure): string {
    return unitWords[figure.unit];
  }

  protected stepOf(figure: Figure): number {
    return figure.unit === 'V' ? (figure.basis === 'cell' ? 0.01 : 0.1) : figure.unit === 'C' ? 0.01 : 1;
  }

  /** Takes a shipped sheet as this job's own copy. */
  protected pin(sheet: Sheet): void {
    this.choosing.set(false);
    this.store.edit(`Take the sheet of ${sheet.battery}`, (job) => ({ ...job, sheet }));
  }

  protected editRow(index: number, change: Partial<Sheet['derating'][number]>): void {
    this.tryEdit('derating', 'Change current when cold', (sheet) => ({
      ...sheet,
      derating: sheet.derating.map((row, i) => (i === index ? { ...row, ...change } : row)),
    }));
  }

  protected addRow(): void {
    this.tryEdit('derating', 'Add a stair', (sheet) => ({
      ...sheet,
      derating: [...sheet.derating, { toC: (sheet.derating.at(-1)?.toC ?? 0) + 5, limit: 0.2, unit: 'C' }],
    }));
  }

  protected removeRow(index: number): void {
    this.tryEdit('derating', 'Remove a stair', (sheet) => ({ ...sheet, derating: sheet.derating.filter((_, i) => i !== index) }));
  }

  protected move(event: Event, by: number): void {
    event.preventDefault();
    const rows = this.rows();
    const next = rows[rows.findIndex((r) => r.key === this.key()) + by];
    if (!next) return;
    this.choose(next.key);
    document.getElementById(`figure-${next.key}`)?.focus();
  }
}

/** A figure as the document prints it. */
function printed(figure: Figure): string {
  if (figure.state === 'notPermitted') return 'not permitted';
  if (figure.state === 'notNeeded') return 'not needed';
  const scale = shownScale[figure.unit];
  const digits = digitsOf(figure);
  const unit = unitWords[figure.unit];
  const band = { ...(figure.min === undefined ? {} : { min: figure.min / scale }), ...(figure.max === undefined ? {} : { max: figure.max / scale }) };
  if (figure.target === undefined) return formatBand(band, unit, digits);
  const target = formatQuantity(figure.target / scale, unit, digits);
  return figure.min === undefined && figure.max === undefined ? target : `${target}  ${formatBand(band, '', digits).trim()}`;
}

/** The figure per cell, per battery and on this bank. */
function trail(figure: Figure | undefined, shape: Parameters<typeof figureOnBank>[1]): { cell: string; unit: string; bank: string } {
  const none = { cell: '', unit: '', bank: '' };
  if (figure?.state !== 'stated') return none;
  const onBank = figureOnBank(figure, shape);
  const value = onBank.target ?? onBank.band.max ?? onBank.band.min;
  if (value === undefined) return none;
  if (figure.unit === 'V')
    return {
      cell: formatQuantity(value / cellsOf('bank', shape), 'V', 2),
      unit: formatQuantity((value * cellsOf('unit', shape)) / cellsOf('bank', shape), 'V', 2),
      bank: formatQuantity(value, 'V', 2),
    };
  if (figure.unit === 'V/°C')
    return { cell: formatQuantity((value * 1000) / cellsOf('bank', shape), 'mV/°C', 1), unit: '', bank: formatQuantity(value * 1000, 'mV/°C', 0) };
  if (figure.unit === 'A' || figure.unit === 'C')
    return { cell: '', unit: formatQuantity(value / shape.stringsInParallel, 'A', 1), bank: formatQuantity(value, 'A', 1) };
  return none;
}
