import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { stages, type Stage } from '@calm-keel/core/charger';
import {
  columnMeaning,
  columnSensor,
  columnUnitWords,
  fieldMeanings,
  mappingProblems,
  meaningSchema,
  meaningWords,
  ofCharger,
  stageWord,
  unitsOf,
  type ColumnUnit,
  type Mapping,
  type MappedColumn,
} from '@calm-keel/core/proof';
import type { Charger } from '@calm-keel/core/system';
import { DeviceLink, staleMs } from '../data/device-link';
import { FieldMaps } from '../data/field-maps';
import { sensorChoices } from '../data/sensors';
import { Glyph } from '../ui/glyph';
import { stageLook } from '../ui/stages';

/** What a device that only talks says now, and what each of its fields means. */
@Component({
  selector: 'ck-fields-panel',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="quiet">It only talks: nothing can be asked of it or written to it. Its fields go into live logs and test readings by what they mean.</p>
    @if (state()?.odd; as why) {
      <p class="said" role="status">
        <ck-glyph name="attention" /><span class="line">{{ why }}</span>
      </p>
    }
    @for (d of maps.doubts(name()); track d) {
      <p class="said">
        <ck-glyph name="attention" /><span class="line">{{ d }}</span>
      </p>
    }
    @for (p of problems(); track p) {
      <p class="said bad" role="alert">
        <ck-glyph name="stop" /><span class="line">{{ p }}</span>
      </p>
    }
    @if (mapping(); as m) {
      <ul aria-label="What its fields mean">
        @for (c of m.columns; track c.header; let i = $index) {
          <li [class.off]="c.meaning === 'ignore'">
            <span class="f"
              ><b>{{ c.header }}</b
              ><span class="n" [class.old]="stale()">{{ state()?.fields?.[c.header] ?? 'not said' }}</span></span
            >
            <span class="w">
              <select #w class="plain means" [attr.aria-label]="'Meaning of ' + c.header" (change)="mean(i, w.value)">
                @for (o of meanings; track o.value) {
                  <option [value]="o.value" [selected]="o.value === c.meaning">{{ o.words }}</option>
                }
              </select>
              @if (belongs(c)) {
                <select #of class="plain" [attr.aria-label]="'Charger of ' + c.header" (change)="put(i, { charger: of.value })">
                  @for (x of chargers(); track x.id) {
                    <option [value]="x.id" [selected]="x.id === c.charger">{{ x.name }}</option>
                  }
                </select>
              }
              @if (c.meaning === 'batteryC') {
                <select #by class="plain" [attr.aria-label]="'Sensor that wrote ' + c.header" (change)="sensor(i, by.value)">
                  <option value="" [selected]="c.sensor === undefined">a sensor nobody knows</option>
                  @for (x of sensors(); track x.value) {
                    <option [value]="x.value" [selected]="x.value === c.sensor">{{ x.words }}</option>
                  }
                </select>
              }
              @if (unitChoices(c).length > 1) {
                <select #u class="plain unit" [attr.aria-label]="'Unit of ' + c.header" (change)="put(i, { unit: asUnit(u.value) })">
                  @for (o of unitChoices(c); track o.value) {
                    <option [value]="o.value" [selected]="o.value === c.unit">{{ o.words }}</option>
                  }
                </select>
              }
              @if (c.meaning === 'bankAmps') {
                <label><input #g type="checkbox" [checked]="c.negated === true" (change)="put(i, { negated: g.checked })" />discharge is positive</label>
              }
            </span>
          </li>
        }
      </ul>
      @if (words().length > 0) {
        <p class="quiet">What its stages are called</p>
        @for (word of words(); track word) {
          <label class="stage"
            >“{{ word }}” is
            <select #t class="plain" (change)="stage(word, t.value)">
              <option value="" [selected]="!m.stages[word]">not known</option>
              @for (x of stageChoices; track x.value) {
                <option [value]="x.value" [selected]="m.stages[word] === x.value">{{ x.words }}</option>
              }
            </select></label
          >
        }
      }
      <p class="quiet">{{ maps.settled(name()) ? 'Remembered under this name.' : 'Guessed from the names of its fields. Change what is wrong.' }}</p>
    } @else {
      <p class="quiet">Waiting for its first words.</p>
    }
    @if (letGo(); as lost) {
      <p class="quiet">{{ lost }}</p>
    }
  `,
  styles: `
    ul {
      margin: 6px 0;
    }
    li {
      padding: 5px 0;
      border-top: 1px solid var(--ck-rule);
      font-size: 0.875rem;
    }
    .f {
      display: flex;
      justify-content: space-between;
      gap: 10px;
      b {
        font-weight: 500;
        overflow-wrap: anywhere;
      }
    }
    .off .f b {
      color: var(--ck-ink-2);
    }
    .old {
      color: var(--ck-ink-3);
      font-weight: 400;
    }
    .w {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 8px;
      font-size: 0.8438rem;
      padding-top: 2px;
      select {
        min-height: 30px;
        height: auto;
        padding-block: 2px;
        flex: 1 1 100px;
        order: 3;
        width: auto;
        min-width: 0;
      }
      .means {
        flex: 1 1 180px;
        order: 1;
      }
      .unit {
        flex: 0 0 76px;
        order: 2;
      }
      label {
        display: flex;
        align-items: center;
        gap: 6px;
        order: 4;
      }
    }
    .stage {
      display: flex;
      justify-content: space-between;
      font-size: 0.875rem;
      padding: 2px 0;
    }
    @media (max-width: 767px) {
      .w select {
        min-height: 44px;
      }
    }
  `,
})
export class FieldsPanel {
  private readonly link = inject(DeviceLink);
  protected readonly maps = inject(FieldMaps);
  readonly chargers = input.required<readonly Charger[]>();
  /** Its name on the server’s list. */
  readonly name = input.required<string>();

  protected readonly meanings = fieldMeanings.map((value) => ({ value, words: meaningWords[value] }));
  protected readonly stageChoices = stages.map((value) => ({ value, words: stageLook[value].words }));
  protected readonly sensors = computed(() => sensorChoices(this.chargers()));
  protected readonly state = computed(() => this.link.live().get(this.name()) ?? null);
  protected readonly stale = computed(() => this.link.now() - (this.state()?.at ?? 0) > staleMs);
  protected readonly mapping = computed(() => this.maps.of(this.name()));
  protected readonly problems = computed(() => {
    const mapping = this.mapping();
    return mapping ? mappingProblems(mapping, true) : [];
  });
  /** Words that a field of stages has said, and those that were given a meaning. */
  protected readonly words = computed(() => {
    const mapping = this.mapping();
    const said = (mapping?.columns ?? []).flatMap((c) => (c.meaning === 'stage' ? [this.state()?.fields?.[c.header]?.trim() ?? ''] : []));
    return [...new Set([...Object.keys(mapping?.stages ?? {}), ...said])].filter((w) => w !== '').slice(0, 24);
  });
  protected readonly letGo = computed(() => {
    const l = this.state()?.letGo;
    const parts = l
      ? ([`${l.noise} damaged`, `${l.doubled} doubled`, `${l.late} late`, `${l.stored} of unknown age`] as const).filter((p) => !p.startsWith('0 '))
      : [];
    return parts.length > 0 ? `Left out since it was first heard: ${parts.join(', ')}.` : null;
  });

  protected readonly belongs = (c: MappedColumn): boolean => ofCharger.includes(c.meaning);
  protected readonly unitChoices = (c: MappedColumn): readonly { value: ColumnUnit; words: string }[] =>
    unitsOf(c.meaning).map((value) => ({ value, words: columnUnitWords[value] }));
  protected readonly asUnit = (value: string): ColumnUnit => value as ColumnUnit;

  protected mean(index: number, value: string): void {
    const meaning = meaningSchema.parse(value);
    this.columns((c, i) => (i === index ? columnMeaning(c, meaning, this.chargers()[0]?.id) : c));
  }
  protected put(index: number, patch: Partial<MappedColumn>): void {
    this.columns((c, i) => (i === index ? { ...c, ...patch } : c));
  }
  /** Which sensor wrote a temperature; nothing while nobody has said. */
  protected sensor(index: number, value: string): void {
    this.columns((c, i) => (i === index ? columnSensor(c, value) : c));
  }
  protected stage(word: string, stage: string): void {
    const mapping = this.mapping();
    if (mapping) this.keep({ ...mapping, stages: stageWord(mapping.stages, word, stage as Stage | '') });
  }

  private columns(change: (column: MappedColumn, index: number) => MappedColumn): void {
    const mapping = this.mapping();
    if (mapping) this.keep({ ...mapping, columns: mapping.columns.map(change) });
  }
  private keep(mapping: Mapping): void {
    void this.maps.set(this.name(), mapping);
  }
}
