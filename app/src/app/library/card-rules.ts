import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { displayText, roleInfo, type Card, type Role } from '@calm-keel/core/card';
import { capital } from '@calm-keel/core/quantity';
import { ChoiceField } from '../ui/choice-field';
import { TextField } from '../ui/text-field';
import { typedNumber, type CardEdit } from './card-edit';

type Rule = Card['constraints'][number];
type Preset = Card['presets'][number];
const relations = [
  { value: 'atLeast', words: 'stays above' },
  { value: 'atMost', words: 'stays below' },
];

/** What a device forces between two settings, and its presets. */
@Component({
  selector: 'ck-card-rules',
  imports: [ChoiceField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './card-rules.html',
  styles: `
    .rule {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 12px;
      align-items: end;
      padding: 5px 4px;
      border-bottom: 1px solid var(--ck-rule);
    }
    .by {
      width: 140px;
    }
  `,
})
export class CardRules {
  readonly card = input.required<Card>();
  readonly editable = input.required<boolean>();
  readonly edited = output<CardEdit>();
  protected readonly relations = relations;

  private readonly numbers = computed(() => this.card().parameters.flatMap((p) => (p.unit === 'choice' ? [] : [p.role])));
  protected readonly settings = computed(() => this.numbers().map((role) => ({ value: role, words: roleInfo[role].name })));

  protected ruleWords({ parameter, relation, other }: Rule): string {
    return `${capital(roleInfo[parameter].name)} ${relation === 'atLeast' ? 'stays above' : 'stays below'} ${roleInfo[other].name} by at least`;
  }

  protected gapWords(rule: Rule): string {
    return this.shown(rule.parameter, rule.gap);
  }

  /** What a preset sets, as the display shows it. */
  protected presetWords(preset: Preset): string {
    return Object.entries(preset.sets)
      .map(([role, value]) => `${roleInfo[role as Role].name} ${this.shown(role as Role, value)}`)
      .join(', ');
  }

  private shown(role: Role, value: number | string): string {
    const p = this.card().parameters.find((x) => x.role === role);
    return p ? displayText(p, value) : String(value);
  }

  /** Settings that a preset could set besides. */
  protected without(preset: Preset): readonly { readonly value: string; readonly words: string }[] {
    return [
      { value: '', words: 'choose a setting' },
      ...this.card()
        .parameters.filter((p) => !(p.role in preset.sets))
        .map((p) => ({ value: p.role, words: roleInfo[p.role].name })),
    ];
  }

  protected sets(preset: Preset): readonly { readonly role: Role; readonly name: string; readonly value: string }[] {
    return Object.entries(preset.sets).map(([role, value]) => ({ role: role as Role, name: capital(roleInfo[role as Role].name), value: String(value) }));
  }

  private put(label: string, change: Readonly<Record<string, unknown>>): void {
    this.edited.emit({ label, card: { ...this.card(), ...change } });
  }

  protected rule(index: number, change: Readonly<Record<string, unknown>>): void {
    this.put('What it forces', { constraints: this.card().constraints.map((c, i) => (i === index ? { ...c, ...change } : c)) });
  }

  protected gap(index: number, text: string): void {
    this.rule(index, { gap: typedNumber(text) });
  }

  protected addRule(): void {
    const [parameter, other] = this.numbers();
    if (parameter && other) this.put('Add a rule', { constraints: [...this.card().constraints, { parameter, relation: 'atLeast', other, gap: -1000 }] });
  }

  protected removeRule(index: number): void {
    this.put('Remove a rule', { constraints: this.card().constraints.filter((_, i) => i !== index) });
  }

  private preset(index: number, change: (preset: Preset) => unknown): void {
    this.put('Presets', { presets: this.card().presets.map((p, i) => (i === index ? change(p) : p)) });
  }

  protected rename(index: number, name: string): void {
    this.preset(index, (p) => ({ ...p, name }));
  }

  protected set(index: number, role: string, text: string): void {
    const choice = this.card().parameters.find((p) => p.role === role)?.unit === 'choice';
    this.preset(index, (p) => ({ ...p, sets: { ...p.sets, [role]: choice ? text : typedNumber(text) } }));
  }

  /** A setting joins a preset at what it leaves the factory with; where that is not known its value waits to be typed. */
  protected addTo(index: number, role: string): void {
    const p = this.card().parameters.find((x) => x.role === role);
    if (p) this.preset(index, (preset) => ({ ...preset, sets: { ...preset.sets, [role]: p.factory ?? '' } }));
  }

  protected removeFrom(index: number, role: string): void {
    this.preset(index, (p) => ({ ...p, sets: Object.fromEntries(Object.entries(p.sets).filter(([r]) => r !== role)) }));
  }

  protected addPreset(): void {
    this.put('Add a preset', { presets: [...this.card().presets, { name: `Preset ${this.card().presets.length + 1}`, sets: {} }] });
  }

  protected removePreset(index: number): void {
    this.put('Remove a preset', { presets: this.card().presets.filter((_, i) => i !== index) });
  }
}
