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
import type { QuickKind } from '@calm-keel/core/card';
import type { Newcomer } from '@calm-keel/core/job';
import { formatClock, formatDate } from '@calm-keel/core/quantity';
import { JobStore } from '../data/job-store';
import type { Settled, Waiting } from '../data/log-import';
import { Glyph } from '../ui/glyph';
import { stageLook } from '../ui/stages';
import { sensorChoices } from '../data/sensors';
import { asChargerKind, chargerKinds } from '../ui/charger-kinds';
import { ChoiceField } from '../ui/choice-field';
import { Moves } from '../ui/moves';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';

/** A charger of the file that the job does not have: what is said of it so far. */
interface Proposed {
  readonly id: string;
  readonly name: string;
  /** Empty while nobody has said what it is; `out` where its columns are not wanted. */
  readonly kind: QuickKind | 'out' | '';
  readonly outputA?: number | undefined;
}

/** What somebody has settled: every make with the mapping it is to be read by, and the chargers that the job gets with it. */
export interface SettledFiles {
  readonly settled: readonly Settled[];
  readonly newcomers: readonly Newcomer[];
}

/** What each column of a file means: guessed, shown with the first rows, and corrected here. */
@Component({
  selector: 'ck-import-panel',
  imports: [Moves, Glyph, ChoiceField, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './import-panel.html',
  styleUrl: './import-panel.scss',
})
export class ImportPanel {
  private readonly store = inject(JobStore);
  readonly files = input.required<readonly Waiting[]>();
  readonly read = output<SettledFiles>();
  readonly left = output();

  protected readonly meanings = meaningSchema.options.map((value) => ({ value, words: meaningWords[value] }));
  protected readonly stageChoices = stages.map((value) => ({ value, words: stageLook[value].words }));
  protected readonly zones = zonesOffered();
  protected readonly kinds = [{ value: '', words: 'Choose' }, ...chargerKinds, { value: 'out', words: 'Leave its columns out' }];
  private readonly own = computed(() => this.store.job()?.system.chargers ?? []);
  /** Chargers that the files speak of and the job does not have, as they are said so far. */
  protected readonly proposed = linkedSignal<readonly Waiting[], readonly Proposed[]>({
    source: () => this.files(),
    computation: (files) => {
      const found = new Map(files.flatMap((f) => f.guess.newcomers).map((n) => [n.id, n]));
      return [...found.values()].map(({ id, name }) => ({ id, name, kind: '' }));
    },
  });
  private readonly newcomers = computed(() =>
    this.proposed().flatMap(({ id, name, kind, outputA }): Newcomer[] =>
      kind === '' || kind === 'out' || outputA === undefined || name.trim() === '' ? [] : [{ id, name: name.trim(), kind, outputA }],
    ),
  );
  /** Whose a column can be: the job’s own chargers, and those that come with the file. */
  protected readonly chargers = computed(() => [...this.own(), ...this.proposed().filter((p) => p.kind !== 'out')].map(({ id, name }) => ({ id, name })));
  protected readonly sensors = computed(() => sensorChoices(this.own()));
  protected readonly at = linkedSignal<number, number>({ source: () => this.files().length, computation: () => 0 });
  /** Mappings as they stand, one for each file. */
  protected readonly mappings = linkedSignal<readonly Waiting[], readonly Mapping[]>({
    source: () => this.files(),
    // Looked at once: a save must not undo what was chosen.
    computation: (files) =>
      untracked(() => files.map((f) => this.withKnownSensors(fitted(f.guess.mapping, { chargers: [...this.own(), ...f.guess.newcomers] })))),
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
  /** Chargers of the files of which something is still needed, by name. */
  protected readonly lacking = computed(() =>
    this.proposed()
      .filter(({ id, kind }) => kind !== 'out' && !this.newcomers().some((n) => n.id === id))
      .map(({ id, name }) => name.trim() || id),
  );
  protected readonly ready = computed(() => this.problems().every((p) => p.length === 0) && this.lacking().length === 0);
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

  /** Of a sensor that the job does not have nobody knows anything. */
  private withKnownSensors(mapping: Mapping): Mapping {
    const known = this.sensors().map((s) => s.value);
    return { ...mapping, columns: mapping.columns.map((c) => (c.sensor === undefined || known.includes(c.sensor) ? c : columnSensor(c, ''))) };
  }

  protected say(id: string, what: Partial<Proposed>): void {
    this.proposed.update((all) => all.map((p) => (p.id === id ? { ...p, ...what } : p)));
  }
  protected setKind(id: string, value: string): void {
    this.say(id, { kind: value === 'out' ? 'out' : (asChargerKind(value) ?? '') });
  }

  protected go(): void {
    const newcomers = this.newcomers();
    const chargers = [...this.own(), ...newcomers];
    const settled = this.files().flatMap((f, i) => {
      const mapping = this.mappings()[i];
      return mapping ? [{ waiting: f, mapping: fitted(mapping, { chargers }) }] : [];
    });
    this.read.emit({ settled, newcomers });
  }
}

/** Zones this device knows, its own first. */
function zonesOffered(): readonly string[] {
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const all = 'supportedValuesOf' in Intl ? Intl.supportedValuesOf('timeZone') : [];
  return [...new Set([own, 'UTC', ...all])];
}
