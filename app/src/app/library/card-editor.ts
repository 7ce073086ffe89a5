import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output, signal } from '@angular/core';
import {
  cardSchema,
  deviceUnitsFor,
  formatNumber,
  holdValue,
  parseNumber,
  problemsOf,
  roleInfo,
  shownIn,
  type Card,
  type NumberParameter,
  type NumberUnit,
  type Parameter,
  type Problem,
  type Role,
} from '@calm-keel/core';
import { Glyph } from '../ui/glyph';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';
import { RegistersPanel } from './registers-panel';

type Field = 'label' | 'menu' | 'min' | 'max' | 'step' | 'factory' | 'access' | 'shownWhen' | 'keys' | 'wraps' | 'special';
/** Names of settings by role; a preset that is not sound yet may hold words that are none. */
const names: Readonly<Partial<Record<string, string>>> = Object.fromEntries(Object.entries(roleInfo).map(([role, info]) => [role, info.name]));
/** A range to begin with, to be corrected by what the device takes: in the usual unit, for a 12 V system. */
const plainRange: Readonly<Record<NumberUnit, readonly [min: number, max: number, step: number]>> = {
  V: [10, 16, 0.1],
  A: [0, 100, 1],
  Ah: [10, 1000, 10],
  s: [0, 600, 1],
  d: [0, 180, 1],
  '°C': [-40, 60, 1],
  '°C difference': [0, 20, 1],
  'V/°C per cell': [-10, 0, 0.5],
  '%': [0, 100, 1],
  ratio: [0, 100, 1],
};

/**
 * A charger card as a table of its parameters, with its constraints and presets, and a place to try how a value would be held.
 * A change that would make the card contradict itself is not kept, and the reason stands where it was made.
 */
@Component({
  selector: 'ck-card-editor',
  imports: [NumberField, TextField, Glyph, RegistersPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './card-editor.html',
  styleUrl: './card-editor.scss',
})
export class CardEditor {
  readonly card = input.required<Card>();
  readonly editable = input.required<boolean>();
  readonly changed = output<Card>();

  /** What stands in the table: the card with edits that are not sound yet. */
  protected readonly draft = linkedSignal<Card, Card>({ source: () => this.card(), computation: (card) => card });
  protected readonly problems = linkedSignal<string, readonly Problem[]>({ source: () => this.card().id, computation: () => [] });
  protected readonly roleInfo = roleInfo;

  // The place to try a value.
  protected readonly role = linkedSignal<string, Role>({
    source: () => this.card().id,
    computation: () => {
      const roles = this.card().parameters.flatMap((p) => (p.unit === 'choice' ? [] : [p.role]));
      return roles.includes('absorbVoltage') ? 'absorbVoltage' : (roles[0] ?? 'absorbVoltage');
    },
  });
  protected readonly wanted = signal(28.1);
  protected readonly systemVolts = signal(24);
  protected readonly cells = signal(8);
  protected readonly against = signal<number | undefined>(undefined);
  protected readonly tried = computed(() => {
    const unit = roleInfo[this.role()].unit;
    return unit === 'choice' ? { unit: '', scale: 1 } : shownIn[unit];
  });
  protected readonly partner = computed<Role | null>(() => {
    const role = this.role();
    const rule = this.draft().constraints.find((c) => c.parameter === role || c.other === role);
    return rule ? (rule.parameter === role ? rule.other : rule.parameter) : null;
  });
  protected readonly held = computed(() => {
    const partner = this.partner();
    const against = this.against();
    const card = this.draft();
    const result = holdValue(
      card,
      this.role(),
      this.wanted() * this.tried().scale,
      {
        systemVolts: this.systemVolts(),
        cellsInSeries: this.cells(),
        ratingA: Math.max(0.1, card.ratings.outputA),
        floatVolts: (this.systemVolts() / 12) * 13.45,
      },
      partner && against !== undefined ? { [partner]: against } : {},
    );
    const makes = result.makes === null ? null : `${formatNumber(result.makes / this.tried().scale, 2)} ${this.tried().unit} at the bank`;
    return { ...result, shown: result.value === null ? 'refused' : String(Number(result.value.toFixed(3))).replace('-', '−'), makesWords: makes };
  });

  protected rangeOf(p: Parameter): string {
    return p.unit === 'choice' ? p.options.map((o) => o.value).join(', ') : '';
  }

  protected isNumber(p: Parameter): p is NumberParameter {
    return p.unit !== 'choice';
  }

  protected specials(p: NumberParameter): string {
    return p.special.map((s) => `${s.value} = ${s.means === 'allDay' ? 'all day' : s.means}`).join(', ');
  }

  protected presetWords(sets: Card['presets'][number]['sets']): string {
    return Object.entries(sets)
      .map(([role, value]) => `${names[role] ?? role} ${String(value)}`)
      .join(', ');
  }

  private put(next: unknown): void {
    const read = cardSchema.safeParse(next);
    if (!read.success) {
      this.problems.set(problemsOf(read.error, 'card'));
      this.draft.set(next as Card);
      return;
    }
    this.problems.set([]);
    this.draft.set(read.data);
    this.changed.emit(read.data);
  }

  protected editCard(change: Partial<Card>): void {
    this.put({ ...this.draft(), ...change });
  }

  protected editDescribes(change: Partial<Card['describes']>): void {
    this.put({ ...this.draft(), describes: { ...this.draft().describes, ...change } });
  }

  protected edit(index: number, field: Field, text: string | boolean): void {
    const card = this.draft();
    const value = (): unknown => {
      if (typeof text === 'boolean') return text;
      if (field === 'menu')
        return text
          .split(/[,›>]/)
          .map((t) => t.trim())
          .filter(Boolean);
      if (field === 'keys') return text.split(/[\s,]+/).filter(Boolean);
      if (field === 'label' || field === 'access') return text;
      if (field === 'special') return specialsOf(text);
      if (field === 'shownWhen') return text.trim() === '' ? undefined : text;
      if (field === 'factory' && text.trim() === '') return undefined;
      const read = parseNumber(text);
      return read.ok ? read.value : text;
    };
    this.put({ ...card, parameters: card.parameters.map((p, i) => (i === index ? { ...withKnown(p, field), [field]: value() } : p)) });
  }

  protected editRule(index: number, change: Partial<Card['constraints'][number]>): void {
    const card = this.draft();
    this.put({ ...card, constraints: card.constraints.map((c, i) => (i === index ? { ...c, ...change } : c)) });
  }

  /** Settings that hold a number, for rules between two of them. */
  protected readonly numbers = computed(() => this.draft().parameters.flatMap((p) => (p.unit === 'choice' ? [] : [p.role])));

  protected asRole(role: string): Role {
    return role as Role;
  }

  protected asRelation(relation: string): 'atLeast' | 'atMost' {
    return relation === 'atMost' ? 'atMost' : 'atLeast';
  }

  protected addRule(): void {
    const card = this.draft();
    const [parameter, other] = this.numbers();
    if (parameter && other) this.put({ ...card, constraints: [...card.constraints, { parameter, relation: 'atLeast', other, gap: -1000 }] });
  }

  protected addPreset(): void {
    const card = this.draft();
    this.put({ ...card, presets: [...card.presets, { name: `Preset ${card.presets.length + 1}`, sets: {} }] });
  }

  protected editPreset(index: number, change: { name?: string; sets?: string }): void {
    const card = this.draft();
    const next = { ...(change.name === undefined ? {} : { name: change.name }), ...(change.sets === undefined ? {} : { sets: setsOf(change.sets) }) };
    this.put({ ...card, presets: card.presets.map((p, i) => (i === index ? { ...p, ...next } : p)) });
  }

  protected editGap(index: number, gap: number | undefined): void {
    const card = this.draft();
    if (gap !== undefined) this.put({ ...card, constraints: card.constraints.map((c, i) => (i === index ? { ...c, gap } : c)) });
  }

  protected removeRow(list: 'parameters' | 'constraints' | 'presets', index: number): void {
    const card = this.draft();
    this.put({ ...card, [list]: (card[list] as readonly unknown[]).filter((_, i) => i !== index) });
  }

  protected readonly missing = computed(() => {
    const has = new Set(this.draft().parameters.map((p) => p.role));
    return (Object.keys(roleInfo) as Role[]).filter((role) => !has.has(role) && roleInfo[role].unit !== 'choice');
  });

  /** Adds a setting with a plain range, to be corrected. */
  protected addSetting(select: HTMLSelectElement): void {
    const role = select.value;
    select.value = '';
    if (role === '') return;
    const core = roleInfo[role as Role].unit;
    const unit = core === 'choice' ? undefined : deviceUnitsFor(core)[0];
    if (core === 'choice' || !unit) return;
    const [min, max, step] = plainRange[core];
    const card = this.draft();
    const parameter = { role, label: roleInfo[role as Role].name, menu: [], unit, min, max, step, per12V: core === 'V' };
    this.put({ ...card, parameters: [...card.parameters, parameter] });
  }

  protected setRole(role: string): void {
    this.role.set(role as Role);
    this.against.set(undefined);
  }
}

/** "0 = off, 5 = all day" as special values; what cannot be read comes back as it is, for the schema to refuse with its place. */
function specialsOf(text: string): unknown {
  const parts = text.split(/[;,](?=\s*[-−]?\d)/).map((part) => part.trim());
  if (text.trim() === '') return [];
  return parts.map((part) => {
    const match = /^([-−]?\d+(?:[.,]\d+)?)\s*=\s*(off|all day|automatic)$/.exec(part);
    const read = parseNumber(match?.[1] ?? '');
    return match && read.ok ? { value: read.value, means: match[2] === 'all day' ? 'allDay' : match[2] } : part;
  });
}

/** "absorb 14.4, float 13.6" as the values of a preset, by the names of the settings. */
function setsOf(text: string): unknown {
  const known = (Object.keys(roleInfo) as Role[]).sort((a, b) => roleInfo[b].name.length - roleInfo[a].name.length);
  return Object.fromEntries(
    text
      .split(/[,;]\s*(?=[a-z])/i)
      .filter((part) => part.trim() !== '')
      .map((part) => {
        const role = known.find((r) => part.trim().toLowerCase().startsWith(`${roleInfo[r].name.toLowerCase()} `));
        const rest = role ? part.trim().slice(roleInfo[role].name.length).trim() : '';
        const read = parseNumber(rest);
        return [role ?? part.trim(), read.ok ? read.value : rest];
      }),
  );
}

/** What somebody types of a range or a step is known from then on. */
function withKnown(p: Parameter, field: Field): Parameter {
  if (p.unit === 'choice' || !p.notKnown) return p;
  const ends = p.notKnown.flatMap((what) => (what === 'range' ? (['least', 'most'] as const) : [what]));
  const found = { min: 'least', max: 'most', step: 'step' }[field as string];
  const left = ends.filter((what) => what !== found);
  const { notKnown: _before, ...rest } = p;
  return left.length > 0 ? { ...rest, notKnown: [...new Set(left)] } : rest;
}
