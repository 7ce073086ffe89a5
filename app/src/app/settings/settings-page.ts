import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, signal, viewChild } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { roleInfo, type Role } from '@calm-keel/core/card';
import { formatQuantity, tidy } from '@calm-keel/core/quantity';
import { devicesOf, nearestHeld, nextHeld, referenceC } from '@calm-keel/core/settings';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { Units } from '../data/units';
import { ViewSize } from '../data/view-size';
import { NextStation } from '../ui/next-station';
import { Announcer } from '../ui/announcer';
import { FindingsList } from '../ui/findings-list';
import { measuredWidth } from '../ui/measured-width';
import { showInspector } from '../ui/show-inspector';
import { Tabs, type Tab } from '../ui/tabs';
import { ColdStrip } from './cold-strip';
import { DifferenceTable } from './difference-table';
import { LadderDrawing, type RungPlace } from '../drawings/ladder';
import { anyCompensated, shiftOf } from '../drawings/ladder-layout';
import { RelayView } from './relay-view';
import { SchoolsPanel } from './schools-panel';
import { SettingInspector } from './setting-inspector';
import { SettingsTable } from './settings-table';
import { TemperatureView } from './temperature-view';

type View = 'ladder' | 'temperature' | 'table' | 'differences' | 'relay';

const titles: Readonly<Record<View, { readonly title: string; readonly words: string }>> = {
  ladder: {
    title: 'Setpoint ladder',
    words: 'Every setpoint on one scale of bank volts. Drag a rung, or use the arrow keys, to try a value.',
  },
  temperature: { title: 'Cold and heat', words: 'How setpoints and current follow the battery’s temperature.' },
  table: { title: 'Settings as a table', words: 'The same values, one setting a row.' },
  differences: { title: 'What differs', words: 'Factory, last visit, as found and target beside each other.' },
  relay: { title: 'Thermostat and relay', words: 'What it stops, what its contact must carry, and what happens when something fails.' },
};

/** Settings: ladder, cold and heat, table, differences and relay; in the inspector the chosen value with its sum. */
@Component({
  selector: 'ck-settings-page',
  imports: [
    NextStation,
    LadderDrawing,
    ColdStrip,
    FindingsList,
    RouterLink,
    SettingInspector,
    SettingsTable,
    DifferenceTable,
    TemperatureView,
    RelayView,
    SchoolsPanel,
    Tabs,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './settings-page.html',
  styleUrl: './settings-page.scss',
  host: { '(document:keydown.t)': 'toggleTable($event)', '(document:keydown.escape)': 'store.trial.set(null)' },
})
export class SettingsPage {
  protected readonly store = inject(JobStore);
  protected readonly selection = inject(Selection);
  protected readonly units = inject(Units);
  protected readonly size = inject(ViewSize);
  private readonly router = inject(Router);
  private readonly announcer = inject(Announcer);
  private readonly work = viewChild.required<ElementRef<HTMLElement>>('work');

  /** Which view, in the address: a reload, a link and the way back come to it. */
  readonly view = input<string>();
  protected readonly shown = computed<View>(() => this.views().find((v) => v.id === this.view())?.id ?? 'ladder');
  protected readonly head = computed(() => titles[this.shown()]);
  private readonly room = measuredWidth(this.work);
  protected readonly ladderWidth = computed(() => Math.max(300, this.room()));

  protected readonly devices = computed(() => {
    const plan = this.store.plan();
    return plan ? devicesOf(plan.input).filter((d) => plan.settings.some((s) => s.charger === d.id)) : [];
  });
  /** The device whose setting is shown: the chosen one, else the first. */
  protected readonly device = computed(() => this.devices().find((d) => d.id === this.selection.charger()) ?? this.devices()[0] ?? null);
  protected readonly role = computed(() => {
    const own = this.store.plan()?.settings.filter((s) => s.charger === this.device()?.id) ?? [];
    return (own.find((s) => s.role === this.selection.role()) ?? own[0])?.role ?? null;
  });
  protected readonly index = computed(() => this.devices().findIndex((c) => c.id === this.device()?.id));
  protected readonly thermostat = computed(() => {
    const plan = this.store.plan();
    const all = plan?.input.system.companions.filter((c) => plan.input.cards.find((k) => k.id === c.card)?.kind === 'thermostat') ?? [];
    return all.find((c) => c.id === this.selection.charger()) ?? all[0] ?? null;
  });
  protected readonly views = computed<readonly (Tab & { readonly id: View })[]>(() => [
    { id: 'ladder', words: 'Ladder' },
    { id: 'temperature', words: 'Cold and heat' },
    { id: 'table', words: 'Table', key: 'T' },
    { id: 'differences', words: 'What differs' },
    ...(this.thermostat() ? [{ id: 'relay' as const, words: 'Relay' }] : []),
  ]);

  /** The battery temperature at which the ladder is drawn; null: at the reference. */
  protected readonly celsius = signal<number | null>(null);
  protected readonly slider = computed(() => {
    const plan = this.store.plan();
    if (!plan || !anyCompensated(plan)) return null;
    const { bankLowC, bankHighC } = plan.input.system.site;
    const reference = referenceC(plan);
    const least = Math.floor(Math.min(bankLowC, 0)) - 5;
    const most = Math.ceil(Math.max(bankHighC, reference)) + 5;
    const at = this.celsius() ?? reference;
    const place = (c: number): number => (100 * (c - least)) / (most - least);
    const device = this.device();
    const by = device ? shiftOf(plan, device.id, at) : 0;
    return {
      least,
      most,
      at,
      reference,
      shown: this.units.temperature(at),
      shift: device && by !== 0 ? `${device.name} ${by > 0 ? 'up' : 'down'} ${formatQuantity(Math.abs(by), 'V', 2)}` : 'no shift',
      marks: [
        { c: bankLowC, left: place(bankLowC), words: `coldest ${this.units.temperature(bankLowC)}` },
        { c: reference, left: place(reference), words: this.units.temperature(reference) },
        { c: bankHighC, left: place(bankHighC), words: `hottest ${this.units.temperature(bankHighC)}` },
      ].filter((m, i, all) => i !== 1 || Math.abs(m.left - (all[2]?.left ?? 0)) > 14),
    };
  });
  /** Where the tried rung would stand without the trial. */
  protected readonly ghost = computed(() => {
    const trial = this.store.trial();
    const volts = trial && this.store.settled()?.setting(trial.charger, trial.role)?.trueValue;
    return trial && volts != null && roleInfo[trial.role].unit === 'V' ? { device: trial.charger, role: trial.role, volts } : null;
  });

  constructor() {
    effect(() => {
      const first = this.devices()[0];
      if (this.selection.charger() === null && first) this.selection.charger.set(first.id);
    });
    // What is tried here is tried here only.
    inject(DestroyRef).onDestroy(() => {
      this.store.trial.set(null);
    });
  }

  protected show(view: View): void {
    void this.router.navigate([], { queryParams: { view: view === 'ladder' ? null : view }, queryParamsHandling: 'merge' });
    const stat = this.thermostat();
    if (view === 'relay' && stat) this.selection.charger.set(stat.id);
  }

  protected choose({ charger, role }: RungPlace): void {
    const trial = this.store.trial();
    if (trial && (trial.charger !== charger || trial.role !== role)) this.store.trial.set(null);
    this.selection.charger.set(charger);
    this.selection.role.set(role);
    if (this.size.phone()) showInspector();
  }

  /** Tries what a rung was dragged to. */
  protected drag({ charger, role, volts }: RungPlace & { readonly volts: number }): void {
    const plan = this.store.settled();
    const held = plan && nearestHeld(plan, charger, role, volts);
    if (!held) return;
    this.take(charger, role);
    this.store.try({ charger, role, value: tidy(held.real) });
  }

  /** Tries the next value of the device. */
  protected step({ charger, role, by }: RungPlace & { readonly by: 1 | -1 }): void {
    const plan = this.store.plan();
    const next = plan && nextHeld(plan, charger, role, by);
    if (!next) return;
    this.take(charger, role);
    this.store.try({ charger, role, value: tidy(next.real) });
    this.say(charger, role, next.real);
  }

  /** Says a tried value: the rung moves, and who does not see it hears it. */
  private say(charger: string, role: Role, value: number): void {
    const { name, unit } = roleInfo[role];
    this.announcer.say(`${this.devices().find((d) => d.id === charger)?.name ?? ''}, ${name}: ${formatQuantity(value, unit, 2)}`);
  }
  private take(charger: string, role: Role): void {
    this.selection.charger.set(charger);
    this.selection.role.set(role);
  }

  protected toggleTable(event: Event): void {
    if ((event.target as HTMLElement).matches('input, textarea, select')) return;
    this.show(this.shown() === 'table' ? 'ladder' : 'table');
  }

  protected move(by: number): void {
    const list = this.devices();
    const next = list[(this.index() + by + list.length) % list.length];
    if (next) this.selection.charger.set(next.id);
  }

  protected setCelsius(value: string): void {
    const at = Number(value);
    this.celsius.set(Number.isFinite(at) && at !== this.slider()?.reference ? at : null);
  }
}
