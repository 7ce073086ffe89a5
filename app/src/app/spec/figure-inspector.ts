import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatBand, formatNumber, mapBand, type Problem } from '@calm-keel/core/quantity';
import {
  basisSchema,
  basisWords,
  cellsOf,
  countsPer,
  figureInfo,
  plausibleWindow,
  rankWords,
  ranks,
  shownUnit,
  type Figure,
  type FigureKey,
} from '@calm-keel/core/sheet';
import { JobStore } from '../data/job-store';
import { BandLine } from '../ui/band-line';
import { ChoiceField } from '../ui/choice-field';
import { Glyph, type GlyphName } from '../ui/glyph';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';

const stepOf = (figure: Figure): number => (figure.unit === 'V' ? (figure.basis === 'cell' ? 0.01 : 0.1) : figure.unit === 'C' ? 0.01 : 1);

/** The chosen figure: its numbers one by one, what it is counted for, where it stands and how good the source is. */
@Component({
  selector: 'ck-figure-inspector',
  imports: [RouterLink, NumberField, TextField, ChoiceField, BandLine, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './figure-inspector.html',
  styles: `
    ck-choice-field,
    ck-text-field,
    .three,
    .two {
      display: block;
      margin-bottom: 8px;
    }
    .three,
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr 1fr;
      gap: 6px;
    }
    .two {
      grid-template-columns: 1fr 1fr;
    }
    .fits {
      margin: 8px 0;
    }
    .onpaper {
      margin: 0 0 8px;
    }
  `,
})
export class FigureInspector {
  protected readonly store = inject(JobStore);
  readonly key = input.required<FigureKey>();
  /** The person wants to type a value where there is none yet. */
  readonly wantsValue = output();

  protected readonly figure = computed(() => this.store.job()?.sheet.figures[this.key()]);
  protected readonly name = computed(() => figureInfo[this.key()].name);
  protected readonly unit = computed(() => shownUnit[this.figure()?.unit ?? 'V']);
  protected readonly step = computed(() => {
    const figure = this.figure();
    return figure ? stepOf(figure) : 1;
  });
  protected readonly counts = computed(() => {
    const figure = this.figure();
    return figure !== undefined && countsPer(figure.unit);
  });
  protected readonly unitOptions = computed(() => figureInfo[this.key()].units.map((value) => ({ value, words: shownUnit[value].text })));
  protected readonly basisOptions = basisSchema.options.map((value) => ({ value, words: basisWords[value] }));
  protected readonly rankOptions = ranks.map((value) => ({ value, words: rankWords[value] }));
  protected readonly stateOptions = [
    { value: 'missing', words: 'not on the sheet' },
    { value: 'stated', words: 'a value' },
    { value: 'notPermitted', words: 'not permitted' },
    { value: 'notNeeded', words: 'not needed' },
  ];

  /** The figure per cell against the normal range of its chemistry. */
  protected readonly window = computed(() => {
    const plan = this.store.plan();
    const figure = this.figure();
    const window = plan && plausibleWindow(plan.input.sheet.chemistry, this.key());
    if (!plan || !window || figure?.state !== 'stated') return null;
    const value = figure.target ?? figure.max ?? figure.min ?? 0;
    const slope = figure.unit === 'V/°C';
    const scale = slope ? 1000 : 1;
    const perCell = (value / cellsOf(figure.basis, plan.facts.shape)) * scale;
    const band = mapBand(window, (end) => end * scale);
    const unit = slope ? 'mV/°C' : 'V';
    const digits = slope ? 1 : 2;
    const inside = perCell >= (band.min ?? -Infinity) && perCell <= (band.max ?? Infinity);
    return {
      band,
      perCell,
      digits,
      words: `${formatNumber(perCell, digits)} ${unit} per cell: ${inside ? 'inside' : 'outside'} the normal range of this chemistry, ${formatBand(band, unit, digits)}.`,
      inside,
    };
  });
  protected readonly chip = computed<{ glyph: GlyphName; words: string }>(() => {
    const figure = this.figure();
    if (!figure) return { glyph: 'notyet', words: 'Missing' };
    if (this.window()?.inside === false) return { glyph: 'stop', words: 'Wrong basis?' };
    if (this.store.plan()?.withheld.some((w) => w.key === this.key())) return { glyph: 'attention', words: 'Does not count' };
    return { glyph: 'done', words: 'Entered' };
  });

  /** Problems of the last edit, by the field it was made in; forgotten when another figure is chosen. */
  private readonly refused = linkedSignal<FigureKey, { field: string; problems: readonly Problem[] } | null>({
    source: () => this.key(),
    computation: () => null,
  });

  protected problemAt(field: string): string | null {
    const refused = this.refused();
    return refused?.field === field ? (refused.problems[0]?.text.replace(/^sheet › figures › \w+( › \w+)?: /, 'Not like this: ') ?? null) : null;
  }

  private put(field: string, change: (figure: Figure | undefined) => Figure | undefined): void {
    const key = this.key();
    const problems = this.store.edit(
      `Change ${this.name().toLowerCase()}`,
      (job) => {
        const { [key]: before, ...others } = job.sheet.figures;
        const next = change(before);
        return { ...job, sheet: { ...job.sheet, figures: next ? { ...others, [key]: next } : others } };
      },
      `sheet ${key} ${field}`,
    );
    this.refused.set(problems.length > 0 ? { field, problems } : null);
  }

  protected setState(state: string): void {
    const figure = this.figure();
    const empty = figure?.min === undefined && figure?.target === undefined && figure?.max === undefined;
    if (state === 'stated' && empty) {
      this.wantsValue.emit();
      return;
    }
    const unit = figureInfo[this.key()].units[0];
    const rank = this.store.job()?.sheet.rank ?? 'notSaid';
    this.put('state', (before) => (state === 'missing' ? undefined : { ...(before ?? { unit, basis: 'unit', rank }), state: state as Figure['state'] }));
  }

  protected edit(field: 'min' | 'target' | 'max' | 'unit' | 'basis' | 'rank' | 'page' | 'quote' | 'from', value: string | number | undefined): void {
    this.put(field, (figure) => {
      if (!figure) return figure;
      const { [field]: _before, ...others } = figure;
      return { ...others, ...(value === undefined || value === '' ? {} : { [field]: value }) } as Figure;
    });
  }
}
