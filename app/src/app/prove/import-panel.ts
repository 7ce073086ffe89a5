import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, untracked } from '@angular/core';
import { stages, type Stage } from '@calm-keel/core/charger';
import {
  columnMeaning,
  columnSensor,
  columnUnitWords,
  fitted,
  makeClock,
  mappingProblems,
  meaningSchema,
  meaningWords,
  ofCharger,
  stageWord,
  unitsOf,
  type ColumnUnit,
  type Mapping,
  type MappedColumn,
  type Meaning,
} from '@calm-keel/core/proof';
import { formatClock, formatDate } from '@calm-keel/core/quantity';
import { JobStore } from '../data/job-store';
import type { Settled, Waiting } from '../data/log-import';
import { Glyph } from '../ui/glyph';
import { stageLook } from '../ui/stages';
import { sensorChoices } from '../data/sensors';
import { Moves } from '../ui/moves';

/** What each column of a file means: guessed, shown with the first rows, and corrected here. */
@Component({
  selector: 'ck-import-panel',
  imports: [Moves, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './import-panel.html',
  styleUrl: './import-panel.scss',
})
export class ImportPanel {
  private readonly store = inject(JobStore);
  readonly files = input.required<readonly Waiting[]>();
  /** Every make with the mapping it is to be read by. */
  readonly read = output<readonly Settled[]>();
  readonly left = output();

  protected readonly meanings = meaningSchema.options.map((value) => ({ value, words: meaningWords[value] }));
  protected readonly stageChoices = stages.map((value) => ({ value, words: stageLook[value].words }));
  protected readonly zones = zonesOffered();
  protected readonly chargers = computed(() => this.store.job()?.system.chargers ?? []);
  protected readonly sensors = computed(() => sensorChoices(this.chargers()));
  protected readonly at = linkedSignal<number, number>({ source: () => this.files().length, computation: () => 0 });
  /** Mappings as they stand, one for each file. */
  protected readonly mappings = linkedSignal<readonly Waiting[], readonly Mapping[]>({
    source: () => this.files(),
    // Looked at once: a save must not undo what was chosen.
    computation: (files) => untracked(() => files.map((f) => fitted(f.guess.mapping, { chargers: this.chargers(), nominalVolts: 0 }))),
  });
  protected readonly shown = computed(() => {
    const waiting = this.files()[this.at()];
    const mapping = this.mappings()[this.at()];
    return waiting && mapping ? { waiting, mapping } : null;
  });
  /** How many tables there are in all. */
  protected readonly count = computed(() => this.files().reduce((sum, f) => sum + f.tables.length, 0));
  protected readonly called = ({ tables }: Waiting): string =>
    tables.length > 1 ? `${tables[0]?.name ?? ''} and ${tables.length - 1} alike` : (tables[0]?.name ?? '');
  protected readonly problems = computed(() => this.mappings().map((m) => mappingProblems(m)));
  protected readonly ready = computed(() => this.problems().every((p) => p.length === 0));
  /** Doubts of the guess that nobody has settled yet. */
  protected readonly doubts = computed(() => {
    const s = this.shown();
    if (!s) return [];
    return s.waiting.guess.doubts.filter((d) => !/^No column|say which charger|means the same/.test(d));
  });
  /** The first time of the file, as it would be read. */
  protected readonly firstTime = computed(() => {
    const s = this.shown();
    if (!s) return '';
    const { mapping, waiting } = s;
    const place = (meaning: Meaning): number => mapping.columns.findIndex((c) => c.meaning === meaning);
    const row = waiting.guess.rows[0];
    if (!row) return '';
    const text = place('time') >= 0 ? (row[place('time')] ?? '') : `${row[place('date')] ?? ''} ${row[place('clock')] ?? ''}`;
    const stamp = makeClock(mapping).read(text);
    return stamp
      ? `“${text.trim()}” is read as ${formatDate(stamp.seconds, stamp.offset)}, ${formatClock(stamp.seconds, stamp.offset)}${stamp.offset === null ? ', zone unknown' : ''}.`
      : `“${text.trim()}” cannot be read as a time.`;
  });
  protected readonly hasDates = computed(() => {
    const s = this.shown();
    return s?.waiting.guess.rows.some((r) => r.some((f) => /^\d{1,2}[-./]\d{1,2}[-./]\d{2,4}/.test(f.trim()))) ?? false;
  });
  protected readonly names = computed(() => {
    const s = this.shown();
    const at = s?.mapping.columns.findIndex((c) => c.meaning === 'chargerName') ?? -1;
    if (!s || at < 0) return [];
    return [...new Set([...s.waiting.guess.rows.map((r) => (r[at] ?? '').trim()), ...Object.keys(s.mapping.chargers)])].filter((n) => n !== '');
  });
  protected readonly words = computed(() => {
    const s = this.shown();
    if (!s) return [];
    const list = new Set(Object.keys(s.mapping.stages));
    s.mapping.columns.forEach((c, i) => {
      if (c.meaning === 'stage') for (const r of s.waiting.guess.rows) if ((r[i] ?? '').trim() !== '') list.add((r[i] ?? '').trim());
    });
    return [...list].slice(0, 24);
  });

  protected unitChoices(column: MappedColumn): readonly { value: ColumnUnit; words: string }[] {
    return unitsOf(column.meaning).map((value) => ({ value, words: columnUnitWords[value] }));
  }
  protected readonly belongs = (column: MappedColumn): boolean => ofCharger.includes(column.meaning) && this.names().length === 0;

  protected change(patch: Partial<Mapping>): void {
    this.mappings.update((all) => all.map((m, i) => (i === this.at() ? { ...m, ...patch } : m)));
  }

  protected column(index: number, patch: Partial<MappedColumn>): void {
    const mapping = this.mappings()[this.at()];
    if (!mapping) return;
    this.change({ columns: mapping.columns.map((c, i) => (i === index ? { ...c, ...patch } : c)) });
  }

  protected mean(index: number, value: string): void {
    const meaning = meaningSchema.parse(value);
    const before = this.mappings()[this.at()]?.columns[index];
    if (!before) return;
    const columns = (this.mappings()[this.at()]?.columns ?? []).map((c, i) => (i === index ? columnMeaning(before, meaning, this.chargers()[0]?.id) : c));
    this.change({ columns });
  }

  /** Which sensor wrote a temperature; nothing while nobody has said. */
  protected sensor(index: number, value: string): void {
    const columns = this.mappings()[this.at()]?.columns ?? [];
    this.change({
      columns: columns.map((c, i) => (i === index ? columnSensor(c, value) : c)),
    });
  }

  protected asUnit = (value: string): ColumnUnit => value as ColumnUnit;
  protected asOrder = (value: string): Mapping['dateOrder'] => value as Mapping['dateOrder'];
  protected asDecimal = (value: string): Mapping['decimal'] => value as Mapping['decimal'];

  protected name(name: string, charger: string): void {
    const mapping = this.mappings()[this.at()];
    if (!mapping) return;
    const { [name]: _gone, ...rest } = mapping.chargers;
    this.change({ chargers: charger === '' ? rest : { ...rest, [name]: charger } });
  }

  protected stage(word: string, stage: string): void {
    const mapping = this.mappings()[this.at()];
    if (!mapping) return;
    this.change({ stages: stageWord(mapping.stages, word, stage as Stage | '') });
  }

  protected go(): void {
    this.read.emit(
      this.files().flatMap((f, i) => {
        const mapping = this.mappings()[i];
        return mapping ? [{ waiting: f, mapping }] : [];
      }),
    );
  }
}

/** Zones this device knows, its own first. */
function zonesOffered(): readonly string[] {
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const all = 'supportedValuesOf' in Intl ? Intl.supportedValuesOf('timeZone') : [];
  return [...new Set([own, 'UTC', ...all])];
}
