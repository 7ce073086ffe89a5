import { computed, inject, Injectable, linkedSignal, signal } from '@angular/core';
import type { ReadingField, TestRecord, TestStep } from '@calm-keel/core/fieldtest';
import { outsideBy, parseQuantity } from '@calm-keel/core/quantity';
import { Units } from '../data/units';

/** A bare number, as it is typed. */
const bareNumber = /^[-−+]?[\d.,]+$/;

/** What is being entered at a step of a guided test, and when it was read. What is typed outlives every save, and another step does not take it. */
@Injectable()
export class TestEntry {
  private readonly units = inject(Units);
  private readonly at = signal<{ readonly record: TestRecord; readonly step: TestStep | null } | null>(null);
  private readonly test = computed(() => this.at()?.record.id ?? '');
  private readonly key = computed(() => `${this.test()} ${this.at()?.step?.id ?? ''}`);
  private readonly entered = signal<{ readonly key: string; readonly values: Readonly<Record<string, string>> }>({ key: '', values: {} });
  /** What stands in the fields of the step in view, as typed; else as it was answered. */
  readonly typed = computed<Readonly<Record<string, string>>>(() => {
    const { key, values } = this.entered();
    if (key === this.key()) return values;
    const step = this.at()?.step;
    const answer = step && this.at()?.record.answers.find((a) => a.step === step.id);
    const fieldOf = (id: string): ReadingField | undefined => step?.fields?.find((f) => f.id === id);
    return Object.fromEntries(Object.entries(answer?.values ?? {}).map(([k, v]) => [k, this.entry(fieldOf(k), v)]));
  });
  /** When the reading was taken, as a date field holds it; empty means now. It outlives a reading: the next line of a notebook is minutes later. */
  readonly taken = linkedSignal<string, string>({ source: this.test, computation: () => '' });
  private readonly askedWhen = linkedSignal<string, boolean>({ source: this.test, computation: () => false });
  readonly when = computed(() => this.askedWhen() || this.taken() !== '' || this.at()?.record.code === 'history');
  askWhen(): void {
    this.askedWhen.set(true);
  }
  setTaken(text: string): void {
    this.taken.set(text);
    this.problem.set(null);
  }
  /** The moment as it is kept; undefined for now, null where it cannot be, and why is said. */
  moment(): string | undefined | null {
    const text = this.taken();
    if (text === '') return undefined;
    const at = new Date(text).getTime();
    if (Number.isNaN(at)) {
      this.problem.set('Taken at: not a date and time. Enter both, or leave it empty for now.');
      return null;
    }
    if (at > Date.now()) {
      this.problem.set('Taken at: that is still to come. Enter when it was read, or leave it empty for now.');
      return null;
    }
    return new Date(at).toISOString();
  }
  /** Why what was entered cannot be taken. */
  readonly problem = linkedSignal<string, string | null>({ source: this.key, computation: () => null });

  /** Goes to a step of a test. */
  be(record: TestRecord, step: TestStep | null): void {
    this.at.set({ record, step });
  }

  type(field: string, text: string): void {
    this.entered.set({ key: this.key(), values: { ...this.typed(), [field]: text } });
    this.problem.set(null);
  }

  /** The unit beside a field: the person's own for a temperature. */
  unitOf(field: ReadingField): string {
    return field.unit === '°C' ? this.units.label() : field.unit;
  }
  /** A number as it was taken, on the person's own scale. */
  private onScale(field: ReadingField | undefined, value: number): number {
    return field?.unit === '°C' ? this.units.number(value) : value;
  }
  /** What was taken, as it would be typed again: to a hundredth where a scale was changed on the way. */
  private entry(field: ReadingField | undefined, value: number | string): string {
    return typeof value === 'number' ? String(Number(this.onScale(field, value).toFixed(4))) : value;
  }

  /** Reads a field as typed: a number in the field's own unit, whatever unit was typed. */
  private valueOf(field: ReadingField): { ok: true; value: number | string | null } | { ok: false; why: string } {
    const text = (this.typed()[field.id] ?? '').trim();
    if (text === '') return field.optional ? { ok: true, value: null } : { ok: false, why: `${field.name}: nothing entered yet.` };
    if (field.choices || field.unit === '') return { ok: true, value: text.slice(0, 60) };
    // A bare number of °C is one in the person's own scale.
    const bare = field.unit === '°C' && this.units.scale() === 'F' && bareNumber.test(text) ? `${text} °F` : text;
    const read = parseQuantity(bare, field.unit);
    return read.ok ? { ok: true, value: read.value } : { ok: false, why: `${field.name}: ${read.problems[0]?.text ?? 'not a number'}` };
  }

  /** Everything that was entered at a step, in the units of its fields; null where something cannot be read, and why is said. */
  values(step: TestStep): Readonly<Record<string, number | string>> | null {
    const out: Record<string, number | string> = {};
    for (const field of step.fields ?? []) {
      const read = this.valueOf(field);
      if (!read.ok) {
        this.problem.set(read.why);
        return null;
      }
      if (read.value !== null) out[field.id] = read.value;
    }
    return out;
  }

  /** How a typed value lies by what was expected. */
  fit(field: ReadingField): 'inside' | 'outside' | null {
    const read = this.valueOf(field);
    if (!read.ok || typeof read.value !== 'number' || !field.expected) return null;
    return outsideBy(field.expected, read.value) === 0 ? 'inside' : 'outside';
  }

  /** The fields are empty for the next reading. */
  clear(): void {
    this.entered.set({ key: this.key(), values: {} });
  }

  /** Puts readings into fields, beside what was typed in others. */
  fill(values: Readonly<Record<string, string>>): void {
    this.entered.set({ key: this.key(), values: { ...this.typed(), ...values } });
  }

  /** Readings in a line, on the person’s own scale. */
  valuesOf(values: Readonly<Record<string, number | string>>): string {
    return (this.at()?.step?.fields ?? [])
      .flatMap((f) => {
        const value = values[f.id];
        if (value === undefined) return [];
        return [`${typeof value === 'number' ? this.onScale(f, value).toFixed(f.unit === 'V' ? 2 : 1) : value} ${this.unitOf(f)}`.trim()];
      })
      .join(', ');
  }
}
