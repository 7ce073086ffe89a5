import { ChangeDetectionStrategy, Component, computed, effect, inject, input, linkedSignal, untracked } from '@angular/core';
import { asStated, onCharger, onCompanion, type Job } from '@calm-keel/core/job';
import { parseQuantity } from '@calm-keel/core/quantity';
import { withSaid } from '@calm-keel/core/settings';
import { DeviceLink } from '../data/device-link';
import { JobStore } from '../data/job-store';
import { ChoiceField } from '../ui/choice-field';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';
import { details, valueAt, withValue, type Detail, type DetailPlace } from './detail-list';

/** Whether a detail of an instrument is of its accuracy. */
const measures = (d: Detail): boolean => ['volts', 'amps', 'temperatureErrorC'].includes(d.path[0] ?? '');

/** The fields of one part of the system under one heading, as the list of details has them. */
@Component({
  selector: 'ck-details',
  imports: [NumberField, TextField, ChoiceField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './detail-fields.html',
  styleUrl: './detail-fields.scss',
})
export class DetailFields {
  private readonly store = inject(JobStore);
  private readonly link = inject(DeviceLink);
  protected readonly listed = computed(() => this.link.names() ?? []);
  readonly place = input.required<DetailPlace>();
  /** Of a charger, a companion or an instrument. */
  readonly id = input('');
  readonly heading = input('more');
  /** What could not stand when it was typed, by path: kept, said, and tried again when something else changes. */
  private readonly refused = linkedSignal<string, ReadonlyMap<string, { readonly text: string; readonly detail: Detail; readonly value: unknown }>>({
    source: () => this.id(),
    computation: () => new Map(),
  });

  private readonly part = computed(() => {
    const system = this.store.job()?.system;
    switch (this.place()) {
      case 'charger':
        return system?.chargers.find((c) => c.id === this.id());
      case 'companion':
        return system?.companions.find((c) => c.id === this.id());
      case 'instrument':
        return system?.instruments.find((i) => i.id === this.id());
      case 'bank':
        return system?.bank;
      case 'loads':
        return system?.loads;
      case 'site':
        return system?.site;
    }
  });
  constructor() {
    effect(() => {
      // Asked once, when there is a field for it; without a server there is none.
      if (this.asked().some((d) => d.listed) && this.link.devices() === null) untracked(() => void this.link.look());
    });
  }

  protected readonly asked = computed<readonly Detail[]>(() => {
    const job = this.store.job();
    const part = this.part();
    if (!job || !part) return [];
    return (details[this.place()][this.heading()] ?? []).filter((d) => d.asked?.(this.card(), job, part) ?? true);
  });
  private readonly card = computed(() => {
    const part = this.part();
    return part && 'card' in part ? this.store.job()?.cards.find((c) => c.id === part.card) : undefined;
  });

  protected why(d: Detail): string | null {
    return this.refused().get(d.path.join('.'))?.text ?? null;
  }

  protected read(d: Detail): unknown {
    return valueAt(this.part(), d.path);
  }
  protected word(d: Detail): string {
    const typed = this.typed().get(d.path.join('.'));
    if (typed !== undefined && this.stillMeans(d, typed)) return typed;
    const value = d.together ? d.together.read(this.part()) : this.read(d);
    return typeof value === 'string' ? value : d.reads && typeof value === 'number' ? String(value) : '';
  }
  /** Whether what stands there was never said by anybody. */
  private isAssumed(d: Detail): boolean {
    const assumed = this.store.job()?.assumed;
    return d.path.length === 1 && this.id() === '' && assumed !== undefined && (d.path[0] ?? '') in assumed;
  }
  protected number(d: Detail): number | undefined {
    const value = this.read(d);
    return typeof value === 'number' && !this.isAssumed(d) ? value : undefined;
  }
  /** What is taken for a number while nobody has said it. */
  protected taken(d: Detail): number | undefined {
    const value = this.read(d);
    return this.isAssumed(d) && typeof value === 'number' ? value : d.usual?.(this.card());
  }
  protected readonly yesNo = [
    { value: '', words: 'Not known' },
    { value: 'yes', words: 'Yes' },
    { value: 'no', words: 'No' },
  ];
  protected answer(d: Detail): string {
    const value = this.read(d);
    return value === undefined || this.isAssumed(d) ? '' : value === true ? 'yes' : 'no';
  }
  protected decide(d: Detail, answer: string): void {
    this.write(d, answer === '' ? undefined : answer === 'yes');
  }
  protected list(d: Detail): string {
    const value = this.read(d);
    return Array.isArray(value) ? value.join('; ') : '';
  }
  protected options(d: Detail): readonly { readonly value: string; readonly words: string }[] {
    const job = this.store.job();
    return job ? (d.options?.(job, this.id()) ?? []) : [];
  }

  /** What was written in fields that are read, as written. */
  private readonly typed = linkedSignal<string, ReadonlyMap<string, string>>({ source: () => this.id(), computation: () => new Map() });

  /** Whether what was written is refused, or still says the value: one from elsewhere, an undo, takes its place. */
  private stillMeans(d: Detail, text: string): boolean {
    const job = this.store.job();
    const read = job && d.reads?.(text, job);
    return this.why(d) !== null || (read?.ok === true && read.value === this.read(d));
  }

  protected writeRead(d: Detail, text: string): void {
    const job = this.store.job();
    this.typed.update((all) => new Map(all).set(d.path.join('.'), text));
    const read = job && d.reads?.(text, job);
    if (!read) return;
    if (read.ok) this.write(d, read.value);
    else this.note(d, read.problems[0]?.text ?? 'This cannot be read.');
  }

  protected said(d: Detail): string {
    const job = this.store.job();
    return job && d.says ? d.says(this.read(d), job) : '';
  }

  /** Takes numbers apart at semicolons and spaces; a comma is a decimal comma. */
  protected writeList(d: Detail, text: string): void {
    const numbers: number[] = [];
    for (const part of text.split(/[;\s]+/).filter((p) => p !== '')) {
      const read = parseQuantity(part, d.unit ?? '');
      if (!read.ok) {
        this.note(d, `“${part}” is not a number of ${d.unit ?? ''}. Separate several with a semicolon.`);
        return;
      }
      numbers.push(read.value);
    }
    this.write(d, numbers);
  }

  protected write(d: Detail, value: unknown): void {
    if (value === undefined && d.required) return;
    const text = this.tryToWrite(d, value);
    this.note(d, text, value);
    if (text !== null) return;
    // What was refused before may stand now: a least load below a most that has just been typed.
    for (const [, other] of this.refused()) if (other.value !== undefined && this.tryToWrite(other.detail, other.value) === null) this.note(other.detail, null);
  }

  private note(detail: Detail, text: string | null, value?: unknown): void {
    const path = detail.path.join('.');
    this.refused.update((all) => {
      const next = new Map(all);
      if (text === null) next.delete(path);
      else next.set(path, { text, detail, value });
      return next;
    });
  }

  /** Why the value cannot stand; null when it does. */
  private tryToWrite(d: Detail, value: unknown): string | null {
    const [place, id] = [this.place(), this.id()];
    const change = <T extends object>(part: T): T => withValue(part, d, value);
    const problems = this.store.edit(
      `Change “${d.label}”`,
      (job): Job => {
        const { system } = job;
        switch (place) {
          case 'charger':
            return onCharger(job, id, change);
          case 'companion':
            return onCompanion(job, id, change);
          case 'instrument':
            return { ...job, system: { ...system, instruments: system.instruments.map((i) => (i.id === id ? change(measures(d) ? asStated(i) : i) : i)) } };
          default:
            return withSaid({ ...job, system: { ...system, [place]: change(system[place]) } }, d.path);
        }
      },
      `${place} ${id} ${d.path.join('.')}`,
    );
    const text = problems[0]?.text.replace(/^[^:]*: /, '');
    return text === undefined ? null : (d.refusal ?? `Not like this: ${text}`);
  }
}
