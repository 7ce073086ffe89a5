import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import {
  deviceGrid,
  formatBand,
  formatNumber,
  formatQuantity,
  parameterFor,
  rankWords,
  roleInfo,
  tidy,
  trueOf,
  type Override,
  type Role,
  type Setting,
} from '@calm-keel/core';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { Units } from '../data/units';
import { ViewSize } from '../data/view-size';
import { BandLine } from '../ui/band-line';
import { ChoiceField } from '../ui/choice-field';
import { Derivation } from '../ui/derivation';
import { FindingsList } from '../ui/findings-list';
import { Glyph, type GlyphName } from '../ui/glyph';
import { showInspector } from '../ui/show-inspector';
import { TextField } from '../ui/text-field';
import { ColdStrip } from './cold-strip';
import { LadderDrawing } from './ladder';

/** Settings: the ladder or its table, and in the inspector the chosen value with its sum. */
@Component({
  selector: 'ck-settings-page',
  imports: [LadderDrawing, ColdStrip, Derivation, FindingsList, BandLine, Glyph, TextField, ChoiceField, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './settings-page.html',
  styleUrl: './settings-page.scss',
  host: { '(document:keydown.t)': 'toggleTable($event)' },
})
export class SettingsPage {
  protected readonly store = inject(JobStore);
  protected readonly selection = inject(Selection);
  protected readonly units = inject(Units);
  protected readonly size = inject(ViewSize);
  private readonly work = viewChild.required<ElementRef<HTMLElement>>('work');

  protected readonly table = signal(false);
  private readonly room = signal(740);
  protected readonly ladderWidth = computed(() => Math.max(300, this.room()));
  protected readonly roleInfo = roleInfo;

  protected readonly chargers = computed(() => this.store.plan()?.input.system.chargers ?? []);
  /** The charger whose setting is shown: the chosen one, else the first. */
  protected readonly charger = computed(() => {
    const chosen = this.selection.charger();
    return this.chargers().find((c) => c.id === chosen) ?? this.chargers()[0] ?? null;
  });
  protected readonly ofCharger = computed(() => this.store.plan()?.settings.filter((s) => s.charger === this.charger()?.id) ?? []);
  protected readonly setting = computed(() => this.ofCharger().find((s) => s.role === this.selection.role()) ?? this.ofCharger()[0] ?? null);
  protected readonly index = computed(() => this.chargers().findIndex((c) => c.id === this.charger()?.id));
  protected readonly schools = [
    {
      school: 'topCharge',
      label: 'Top charge',
      lithiumOnly: false,
      options: [
        { value: 'full', words: 'Full, to the target' },
        { value: 'gentle', words: 'Gentle, low end of the band' },
      ],
    },
    {
      school: 'lithiumFloat',
      label: 'Lithium float',
      lithiumOnly: true,
      options: [
        { value: 'hold', words: 'Hold at the sheet’s float' },
        { value: 'floatEqualsAbsorb', words: 'Float equals absorb' },
        { value: 'rest', words: 'Rest, no float' },
      ],
    },
    {
      school: 'coldCurrent',
      label: 'Cold and current',
      lithiumOnly: true,
      options: [
        { value: 'sheetMinimum', words: 'Cutoff at the sheet’s least' },
        { value: 'raiseCutoff', words: 'Raise every cutoff' },
        { value: 'lowerLimits', words: 'Lower the limits' },
      ],
    },
    {
      school: 'lithiumEqualise',
      label: 'Lithium equalise',
      lithiumOnly: true,
      options: [
        { value: 'offHarmless', words: 'Off and made harmless' },
        { value: 'off', words: 'Off only' },
      ],
    },
  ] as const;

  /** Settings that the chargers have and no rule works out yet: said, so that nobody takes them for done. */
  protected readonly left = computed(() => {
    const plan = this.store.plan();
    if (!plan) return [];
    return plan.input.system.chargers.flatMap((charger) => {
      const card = plan.input.cards.find((c) => c.id === charger.card);
      const roles = (card?.parameters ?? []).filter((p) => !plan.setting(charger.id, p.role)).map((p) => roleInfo[p.role].name);
      return roles.length > 0 ? [{ name: charger.name, roles: roles.join(', ') }] : [];
    });
  });

  protected readonly chip = computed<{ glyph: GlyphName; words: string } | null>(() => {
    const s = this.setting();
    if (!s) return null;
    if (s.override) return { glyph: 'attention', words: 'Override' };
    if (s.noValue) return { glyph: 'attention', words: s.noValue === 'missingFigure' ? 'No figure' : 'Left' };
    if (s.within === 'outside') return { glyph: 'stop', words: 'Out of band' };
    if (s.within === 'inside') return { glyph: 'done', words: 'In band' };
    return { glyph: 'done', words: s.off ? 'Off' : 'Derived' };
  });
  protected readonly shown = computed(() => {
    const s = this.setting();
    return s?.value == null ? '—' : typeof s.value === 'number' ? formatNumber(s.value, s.digits) : s.value;
  });
  protected readonly facts = computed(() => {
    const s = this.setting();
    if (!s) return '';
    const band = s.band && roleInfo[s.role].unit === 'V' ? `Sheet: ${formatBand(s.band, 'V', 2)}. ` : '';
    const figure =
      s.role === 'absorbVoltage' || s.role === 'floatVoltage' || s.role === 'rechargeVoltage' ? this.store.plan()?.input.sheet.figures[s.role] : undefined;
    return `${band}${figure ? `Rank: ${rankWords[figure.rank]}. ` : ''}Menu: ${[...s.menu, s.label].join(', ')}.`;
  });

  constructor() {
    effect(() => {
      const first = this.chargers()[0];
      if (this.selection.charger() === null && first) this.selection.charger.set(first.id);
    });
    const watch = new ResizeObserver(([entry]) => {
      if (entry) this.room.set(Math.floor(entry.contentRect.width));
    });
    effect((onCleanup) => {
      watch.observe(this.work().nativeElement);
      onCleanup(() => {
        watch.disconnect();
      });
    });
  }

  protected choose({ charger, role }: { charger: string; role: Role }): void {
    this.selection.charger.set(charger);
    this.selection.role.set(role);
    if (this.size.phone()) showInspector();
  }

  protected toggleTable(event: Event): void {
    if ((event.target as HTMLElement).matches('input, textarea, select')) return;
    this.table.update((on) => !on);
  }

  protected move(by: number): void {
    const list = this.chargers();
    const next = list[(this.index() + by + list.length) % list.length];
    if (next) this.selection.charger.set(next.id);
  }

  protected text(s: Setting): string {
    return s.value === null ? 'left' : typeof s.value === 'number' ? formatQuantity(s.value, s.unit, s.digits) : s.value;
  }

  protected settingsOf(charger: string): readonly Setting[] {
    return this.store.plan()?.settings.filter((s) => s.charger === charger) ?? [];
  }

  protected isNumber(s: Setting): boolean {
    return typeof s.value === 'number';
  }

  protected asRole(role: string): Role {
    return role as Role;
  }

  protected bandText(s: Setting): string {
    const unit = roleInfo[s.role].unit;
    if (s.band === null || unit === 'choice') return '';
    if (unit === '°C') return s.band.min === undefined ? '' : `at least ${this.units.temperature(s.band.min, 1)}`;
    if (unit === 's')
      return formatBand(
        { ...(s.band.min === undefined ? {} : { min: s.band.min / 60 }), ...(s.band.max === undefined ? {} : { max: s.band.max / 60 }) },
        'min',
        0,
      );
    return formatBand(s.band, unit, unit === 'V' ? 2 : 1);
  }

  protected real(s: Setting): string {
    const unit = roleInfo[s.role].unit;
    if (s.trueValue === null) return '';
    if (unit === '°C') return this.units.temperature(s.trueValue);
    if (unit === 's') return formatQuantity(s.trueValue / 60, 'min', 0);
    if (unit === 'V/°C per cell') return formatQuantity(s.trueValue * 1000, 'mV/°C per cell', 1);
    return `${formatQuantity(s.trueValue, unit, unit === 'V' ? 2 : unit === 'd' ? 0 : 1)}${s.uncertainty === null ? '' : ` ± ${formatNumber(s.uncertainty, 2)}`}`;
  }

  /** A choice of school, with the job's own word for it kept as a step of the history. */
  protected setSchool(school: string, to: string): void {
    this.store.apply('Change school', [{ kind: 'setSchool', school: school as 'topCharge', to }]);
  }

  protected schoolValue(school: string): string {
    return String((this.store.job()?.schools as Record<string, string> | undefined)?.[school] ?? '');
  }

  /** Moves the chosen value one device step and records it as a person's override. */
  protected step(by: 1 | -1): void {
    const s = this.setting();
    const plan = this.store.plan();
    const charger = this.charger();
    const card = plan?.input.cards.find((c) => c.id === charger?.card);
    const parameter = s && card && parameterFor(card, s.role);
    if (!plan || !s || !charger || !parameter || parameter.unit === 'choice' || typeof s.value !== 'number') return;
    const grid = deviceGrid(parameter, plan.facts.systemVolts ?? plan.facts.nominalVolts);
    const at = grid.findIndex((v) => Math.abs(v - (s.value as number)) < 1e-6);
    const next = grid[at + by];
    if (next === undefined) return;
    const real = trueOf(plan, charger.id, s.role, next);
    if (real === null) return;
    this.putOverride(
      {
        charger: charger.id,
        role: s.role,
        value: tidy(real),
        reason: s.override?.reason ?? '',
        by: s.override?.by ?? 'technician',
        date: new Date().toISOString().slice(0, 10),
      },
      'Override a value',
    );
  }

  private putOverride(override: Override, label: string): void {
    this.store.edit(
      label,
      (job) => ({ ...job, overrides: [...job.overrides.filter((o) => o.charger !== override.charger || o.role !== override.role), override] }),
      `override ${override.charger} ${override.role}`,
    );
  }

  protected editOverride(change: Partial<Override>): void {
    const override = this.setting()?.override;
    if (override) this.putOverride({ ...override, ...change }, 'Change an override');
  }

  protected clearOverride(): void {
    const s = this.setting();
    if (s) this.store.apply('Go back to the derived value', [{ kind: 'clearOverride', charger: s.charger, role: s.role }]);
  }
}
