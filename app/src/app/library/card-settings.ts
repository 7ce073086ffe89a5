import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { displayText, isKnown, rangeText, roleInfo, withSupposed, type Card, type Parameter, type Role } from '@calm-keel/core/card';
import { trialBanks, trialOf } from '@calm-keel/core/job';
import { capital } from '@calm-keel/core/quantity';
import { deviationText, fateWords, onDisplayText, wantedText, type Setting } from '@calm-keel/core/settings';
import type { Sheet } from '@calm-keel/core/sheet';
import { Units } from '../data/units';
import { Glyph } from '../ui/glyph';
import { PickField } from '../ui/pick-field';
import type { CardEdit } from './card-edit';
import { CardSetting } from './card-setting';

/** The settings of a card in the order of its menus, and what each would hold of a whole sheet. */
@Component({
  selector: 'ck-card-settings',
  imports: [Glyph, CardSetting, PickField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './card-settings.html',
  styleUrl: './card-settings.scss',
})
export class CardSettings {
  private readonly units = inject(Units);
  readonly card = input.required<Card>();
  /** The card as it is being changed: what was typed may not hold together yet. */
  readonly draft = input.required<Card>();
  readonly sheets = input.required<readonly Sheet[]>();
  readonly editable = input.required<boolean>();
  readonly edited = output<CardEdit>();

  /** Another card begins with everything closed; a change of this one does not. */
  private readonly id = computed(() => this.card().id);
  /** The setting that is opened. */
  protected readonly open = linkedSignal<string, Role | null>({ source: this.id, computation: () => null });
  private readonly chosen = signal('');
  private readonly wanted = signal(0);
  /** Sheets of batteries that this device is made for. */
  protected readonly tried = computed(() =>
    this.sheets().filter((s) => this.card().ratings.chemistries.includes(s.chemistry) && trialBanks(this.card(), s).length > 0),
  );
  protected readonly sheet = computed(() => this.tried().find((s) => s.id === this.chosen()) ?? this.tried()[0] ?? null);
  protected readonly banks = computed(() => {
    const sheet = this.sheet();
    return sheet ? trialBanks(this.card(), sheet) : [];
  });
  protected readonly bank = computed(() => this.banks().find((b) => b.volts === this.wanted()) ?? this.banks()[0] ?? null);
  private readonly plan = computed(() => {
    const [sheet, bank] = [this.sheet(), this.bank()];
    return sheet && bank ? trialOf(this.card(), sheet, bank.inSeries) : null;
  });
  protected readonly volts = computed(() => this.bank()?.volts ?? this.card().ratings.systemVolts[0] ?? 12);
  protected readonly cells = computed(() => (this.sheet()?.unit.cellsInSeries ?? 6) * (this.bank()?.inSeries ?? this.volts() / 12));

  protected readonly rows = computed(() =>
    this.card().parameters.map((p) => {
      const setting = this.plan()?.settings.find((s) => s.role === p.role);
      return {
        role: p.role,
        number: p.unit !== 'choice',
        name: capital(roleInfo[p.role].name),
        menu: [...p.menu, p.label].join(' › '),
        takes: this.takes(p),
        factory: this.factoryOf(p),
        setting,
        ...this.holds(setting),
      };
    }),
  );
  /** Settings that nobody knows the meaning of. */
  protected readonly others = computed(() => this.card().others ?? []);
  protected readonly missing = computed(() => {
    const has = new Set(this.card().parameters.map((p) => p.role));
    return (Object.keys(roleInfo) as Role[]).filter((role) => !has.has(role)).map((role) => ({ value: role, words: roleInfo[role].name }));
  });

  protected sheetName(sheet: Sheet): string {
    return `${sheet.maker} ${sheet.battery}`;
  }

  protected choose(id: string): void {
    this.chosen.set(id);
  }

  protected chooseVolts(volts: string): void {
    this.wanted.set(Number(volts));
  }

  protected toggle(role: Role): void {
    this.open.update((open) => (open === role ? null : role));
  }

  protected wishOf(setting: Setting | undefined): number | undefined {
    return typeof setting?.exact === 'number' ? setting.exact : undefined;
  }

  /** Range and step as far as they are known, at the volts that are tried; what a choice can be. */
  private takes(p: Parameter): { readonly words: string; readonly step: string } {
    if (p.unit === 'choice') return { words: p.options.map((o) => o.value).join(', '), step: '' };
    const range = rangeText(p, this.volts());
    return { words: range === '' ? 'range not known' : range, step: isKnown(p, 'step') ? `steps of ${displayText(p, p.step)}` : 'step not known' };
  }

  private factoryOf(p: Parameter): string {
    if (p.factory === undefined) return '';
    if (p.unit === 'choice') return p.factory;
    return foldable(displayText(p, p.per12V ? (p.factory * this.volts()) / 12 : p.factory));
  }

  private holds(s: Setting | undefined): { readonly wish: string; readonly held: string; readonly off: string; readonly bad: boolean } {
    if (!s) return { wish: '', held: '', off: '', bad: false };
    const fate = fateWords(s, () => '');
    const outside = s.within === 'outside' ? 'outside the sheet' : '';
    const off = s.value === null ? '' : deviationText(s, this.units);
    return {
      wish: foldable(wantedText(s, this.units)),
      held: s.value === null ? fate : foldable(onDisplayText(s, s.value)),
      off: [off === '0' ? '' : off, outside].filter(Boolean).join(', '),
      bad: s.within === 'outside' || s.noValue === 'outOfReach' || (s.deviation !== null && s.tolerance !== null && Math.abs(s.deviation) > s.tolerance + 1e-9),
    };
  }

  /** A setting of which only its meaning is known. */
  protected add(role: Role): void {
    this.edited.emit({ label: `Add ${roleInfo[role].name}`, card: withSupposed(this.draft(), role) });
    this.open.set(role);
  }
}

/** A long unit may go to the next line. */
const foldable = (text: string): string => (text.length > 11 ? text.replace(/\u00a0/g, ' ') : text);
