import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output, signal } from '@angular/core';
import {
  deviceUnitsFor,
  displayText,
  endFields,
  holdValue,
  isKnown,
  roleInfo,
  ruleWords,
  shownIn,
  specialWords,
  unitInfo,
  withEnd,
  type Card,
  type NumberParameter,
  type Parameter,
  type RangeEnd,
  type Role,
} from '@calm-keel/core/card';
import { capital, decimalsOf, formatNumber, parseNumber } from '@calm-keel/core/quantity';
import { ChoiceField } from '../ui/choice-field';
import { TextField } from '../ui/text-field';
import { NumberField } from '../ui/number-field';
import { typedNumber, type CardEdit } from './card-edit';
import { saidWords } from './card-words';

const levels = { basic: 'Everybody', expert: 'Expert level', installer: 'Installer level' } as const;
type Option = Extract<Parameter, { readonly unit: 'choice' }>['options'][number];
const meanings: Readonly<Record<Option['means'], string>> = { on: 'on', off: 'off', custom: 'hides no figure', other: 'something else' };

/** One setting of a card, opened: everything that is known of it, on a card of one's own to be changed, and a wish of one's own tried on it. */
@Component({
  selector: 'ck-card-setting',
  imports: [ChoiceField, TextField, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './card-setting.html',
  styleUrl: './card-setting.scss',
})
export class CardSetting {
  /** The card as it is being changed: what was typed may not hold together yet. */
  readonly card = input.required<Card>();
  /** The card as it is saved, to try a wish on. */
  readonly saved = input.required<Card>();
  readonly role = input.required<Role>();
  readonly editable = input.required<boolean>();
  readonly systemVolts = input.required<number>();
  readonly cells = input.required<number>();
  /** The wish to begin with, core unit. */
  readonly wish = input<number>();
  readonly edited = output<CardEdit>();

  protected readonly roleInfo = roleInfo;
  protected readonly saidWords = saidWords;
  protected readonly capital = capital;
  protected readonly name = computed(() => roleInfo[this.role()].name);
  protected readonly parameter = computed(() => this.card().parameters.find((p) => p.role === this.role()));
  protected readonly number = computed(() => {
    const p = this.parameter();
    return p && p.unit !== 'choice' ? p : null;
  });
  protected readonly choice = computed(() => {
    const p = this.parameter();
    return p?.unit === 'choice' ? p : null;
  });
  protected readonly levels = Object.entries(levels).map(([value, words]) => ({ value, words }));
  protected readonly meanings = Object.entries(meanings).map(([value, words]) => ({ value, words }));
  protected readonly units = computed(() => {
    const { unit } = roleInfo[this.role()];
    return unit === 'choice'
      ? []
      : deviceUnitsFor(unit).map((value) => ({ value, words: unitInfo[value].label === '' ? 'a bare number' : unitInfo[value].label }));
  });
  protected readonly others = computed(() => [
    { value: '', words: 'nothing' },
    ...this.card()
      .parameters.filter((p) => p.role !== this.role())
      .map((p) => ({ value: p.role, words: roleInfo[p.role].name })),
  ]);
  /** What is written down and not changed: sentences. */
  protected readonly facts = computed(() => {
    const p = this.parameter();
    if (!p) return [];
    return [
      ...(p.keys.length > 0 ? [`Keys: ${p.keys.join(', ')}`] : []),
      ...(p.access === 'basic' ? [] : [`Shown at ${p.access} level.`]),
      ...(p.shownWhen ? [`Shown only ${p.shownWhen}.`] : []),
      ...(p.movesWith ? [`Changes by itself when ${roleInfo[p.movesWith].name} is changed.`] : []),
      ...(p.unit === 'choice' ? [] : p.special.map((s) => `${s.value} means ${specialWords[s.means]}.`)),
      ...(p.unit !== 'choice' && p.wraps ? [`Stepped below its end it jumps from ${p.min} to ${p.max}.`] : []),
      ...(p.unit !== 'choice' && unitInfo[p.unit].quirk ? [`It ${unitInfo[p.unit].quirk ?? ''}.`] : []),
      ...this.card()
        .constraints.filter((c) => c.gap !== 0 && (c.parameter === p.role || c.other === p.role))
        .map(ruleWords),
    ];
  });

  protected end(what: RangeEnd): string {
    const p = this.number();
    return p && isKnown(p, what) ? written(p[endFields[what]]) : '';
  }
  protected factory(): string {
    return written(this.parameter()?.factory ?? '');
  }
  protected specials(p: NumberParameter): string {
    return (p.special as readonly unknown[])
      .map((s) =>
        typeof s === 'object' && s !== null && 'value' in s && 'means' in s
          ? `${String(s.value)} = ${s.means === 'allDay' ? 'all day' : String(s.means)}`
          : String(s),
      )
      .join(', ');
  }

  /** Hands on the card with this setting changed; what the reader meant and could not be read comes back as typed, for the schema to refuse with its place. */
  protected change(what: string, next: (p: Parameter) => unknown): void {
    const card = this.card();
    this.edited.emit({
      label: `${capital(this.name())}: ${what}`,
      card: { ...card, parameters: card.parameters.map((p) => (p.role === this.role() ? next(p) : p)) },
    });
  }

  protected put(what: string, change: Readonly<Record<string, unknown>>): void {
    this.change(what, (p) => ({ ...p, ...change }));
  }

  protected menu(text: string): void {
    this.put('menu', { menu: parts(text, /[,›>]/) });
  }

  protected keys(text: string): void {
    this.put('keys', { keys: parts(text, /,/) });
  }

  /** An end or a step: an empty line is one that nobody knows, and the wide number that never moves a value takes its place. */
  protected range(what: RangeEnd, text: string): void {
    const p = this.number();
    if (!p) return;
    const value = text.trim() === '' ? null : typedNumber(text);
    this.change({ least: 'lower end', most: 'upper end', step: 'one press' }[what], () =>
      typeof value === 'string' ? { ...p, [endFields[what]]: value } : withEnd(this.card(), p, what, value),
    );
  }

  protected setFactory(text: string): void {
    this.put('factory value', { factory: text.trim() === '' ? undefined : this.number() ? typedNumber(text) : text });
  }

  protected special(text: string): void {
    this.put('special values', { special: specialsOf(text) });
  }

  protected option(index: number, change: Partial<Option>): void {
    this.change('choices', (p) => (p.unit === 'choice' ? { ...p, options: p.options.map((o, i) => (i === index ? { ...o, ...change } : o)) } : p));
  }

  protected means(value: string): Option['means'] {
    return value in meanings ? (value as Option['means']) : 'other';
  }

  protected addOption(): void {
    this.change('choices', (p) => (p.unit === 'choice' ? { ...p, options: [...p.options, { value: `choice ${p.options.length + 1}`, means: 'other' }] } : p));
  }

  protected removeOption(index: number): void {
    this.change('choices', (p) => (p.unit === 'choice' ? { ...p, options: p.options.filter((_, i) => i !== index) } : p));
  }

  protected remove(): void {
    const card = this.card();
    this.edited.emit({ label: `Remove ${this.name()}`, card: { ...card, parameters: card.parameters.filter((p) => p.role !== this.role()) } });
  }

  // A wish of one's own.
  protected readonly shown = computed(() => {
    const { unit } = roleInfo[this.role()];
    return unit === 'choice' ? { unit: '', scale: 1 } : shownIn[unit];
  });
  protected readonly wanted = linkedSignal(() => (this.wish() === undefined ? undefined : Number((this.wish()! / this.shown().scale).toFixed(3))));
  protected readonly against = signal<number | undefined>(undefined);
  protected readonly partner = computed<Role | null>(() => {
    const role = this.role();
    const rule = this.saved().constraints.find((c) => c.parameter === role || c.other === role);
    return rule ? (rule.parameter === role ? rule.other : rule.parameter) : null;
  });
  protected readonly held = computed(() => {
    const [wanted, partner, against, card, number] = [this.wanted(), this.partner(), this.against(), this.saved(), this.number()];
    if (wanted === undefined) return null;
    const volts = this.systemVolts();
    const result = holdValue(
      card,
      this.role(),
      wanted * this.shown().scale,
      { systemVolts: volts, cellsInSeries: this.cells(), ratingA: Math.max(0.1, card.ratings.outputA), floatVolts: (volts / 12) * 13.45 },
      partner && against !== undefined ? { [partner]: against } : {},
    );
    const makes = result.makes === null ? null : `${formatNumber(result.makes / this.shown().scale, 2)} ${this.shown().unit} at the bank`;
    return { steps: result.steps, makes, value: result.value === null || !number ? 'refused' : displayText(number, result.value) };
  });
}

/** A number as it is written; what was typed and is none stays as it is. */
const written = (value: unknown): string => (typeof value === 'number' ? formatNumber(value, Math.min(3, decimalsOf(value))) : String(value));

const parts = (text: string, by: RegExp): readonly string[] =>
  text
    .split(by)
    .map((part) => part.trim())
    .filter(Boolean);

/** "0 = off, 5 = all day" as special values; what cannot be read comes back as it is. */
function specialsOf(text: string): unknown {
  if (text.trim() === '') return [];
  return text.split(/[;,](?=\s*[-−]?\d)/).map((part) => {
    const match = /^\s*([-−]?\d+(?:[.,]\d+)?)\s*=\s*(off|all day|automatic)\s*$/.exec(part);
    const read = parseNumber(match?.[1] ?? '');
    return match && read.ok ? { value: read.value, means: match[2] === 'all day' ? 'allDay' : match[2] } : part;
  });
}
