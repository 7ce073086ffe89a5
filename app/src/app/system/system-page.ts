import { afterNextRender, ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, Injector, input, signal, viewChild } from '@angular/core';
import { isSource, type Card } from '@calm-keel/core/card';
import { usualMeter, withDevice } from '@calm-keel/core/job';
import { formatNumber } from '@calm-keel/core/quantity';
import { cardOf, mostAmps } from '@calm-keel/core/settings';
import { freeId } from '../data/free-id';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { ViewSize } from '../data/view-size';
import { ChoiceField } from '../ui/choice-field';
import { NextStation } from '../ui/next-station';
import { FindingsList } from '../ui/findings-list';
import { measuredWidth } from '../ui/measured-width';
import { showInspector } from '../ui/show-inspector';
import { ArrayPanel } from './array-panel';
import { ChargerPanel } from './charger-panel';
import { CompanionPanel } from './companion-panel';
import { DetailFields } from './detail-fields';
import { details, entered } from './detail-list';
import { OneLineDrawing } from '../drawings/one-line';
import { ShelfPanel } from './shelf-panel';
import { Moves } from '../ui/moves';

/** System: bank, place, loads, chargers and instruments, and the charge current ceiling that follows. */
@Component({
  selector: 'ck-system-page',
  imports: [Moves, NextStation, ChoiceField, FindingsList, OneLineDrawing, ArrayPanel, ChargerPanel, CompanionPanel, DetailFields, ShelfPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './system-page.html',
  styleUrl: './system-page.scss',
})
export class SystemPage {
  protected readonly store = inject(JobStore);
  protected readonly selection = inject(Selection);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  private readonly size = inject(ViewSize);
  private readonly measure = viewChild<ElementRef<HTMLElement>>('measure');
  private readonly width = measuredWidth(this.measure);
  protected readonly room = computed(() => Math.max(300, this.width()));
  /** Set by "Add a charger" links. */
  readonly add = input<string>();
  protected readonly adding = signal(false);
  protected readonly formatNumber = formatNumber;

  protected readonly system = computed(() => this.store.plan()?.input.system ?? null);
  protected readonly charger = computed(() => this.system()?.chargers.find((c) => c.id === this.selection.charger()) ?? null);
  protected readonly card = computed(() => {
    const plan = this.store.plan();
    const charger = this.charger();
    return plan && charger ? (cardOf(plan.input, charger) ?? null) : null;
  });
  protected readonly ceiling = computed(() => {
    const plan = this.store.plan();
    if (!plan) return null;
    const { candidates, binding } = plan.ceiling;
    const most = Math.max(1, ...candidates.map((c) => c.amps));
    const set = plan.input.system.chargers.reduce((sum, c) => {
      const card = cardOf(plan.input, c);
      return sum + (card ? mostAmps(plan, c, card) : 0);
    }, 0);
    return { rows: candidates.map((c) => ({ ...c, x: (c.amps / most) * 100, binds: c === binding })), set: formatNumber(set, 0), most: Math.ceil(most) };
  });

  protected readonly companion = computed(() => this.system()?.companions.find((c) => c.id === this.selection.charger()) ?? null);
  protected readonly solar = computed(() => this.card()?.kind.startsWith('solar') ?? false);

  constructor() {
    effect(() => {
      if (this.add()) this.openShelf();
    });
  }

  /** Chooses a part of the drawing; the bank's own key is empty. */
  protected choose(key: string): void {
    this.selection.charger.set(key === '' ? null : key);
    if (this.size.phone()) showInspector();
  }

  /** Puts a device of a shipped card into the job, with a name of its own and the card's own copy. */
  protected addDevice(card: Card): void {
    const system = this.system();
    if (!system) return;
    const taken = [...system.chargers, ...system.companions].map((c) => c.id);
    const like = system.chargers.filter((c) => c.card === card.id).length;
    const source = isSource(card.kind);
    const id = freeId(source ? 'charger' : card.kind, taken, 'device');
    this.store.edit(`Add ${card.model}`, (job) => withDevice(job, card, { id, name: source ? `${card.model} ${like + 1}` : card.model }));
    this.show(id);
  }

  /** The new device is chosen, its name ready to be typed. */
  private show(id: string): void {
    this.selection.charger.set(id);
    this.adding.set(false);
    this.focusOn('.insp input');
  }

  /** Opens the shelf of devices at its first, or closes it. */
  protected toggleShelf(): void {
    if (this.adding()) this.adding.set(false);
    else this.openShelf();
  }

  protected openShelf(): void {
    this.adding.set(true);
  }

  private focusOn(what: string): void {
    afterNextRender(
      () => {
        const found = this.host.nativeElement.querySelector<HTMLElement>(what);
        found?.focus();
        if (found instanceof HTMLInputElement) found.select();
      },
      { injector: this.injector },
    );
  }

  /** How much of what is folded away is entered. */
  protected said(place: 'bank' | 'site' | 'loads'): string {
    const list = details[place]['more'] ?? [];
    return `${entered(list, this.system()?.[place])} of ${list.filter((d) => !d.required).length} entered`;
  }
  protected readonly instruments = computed(
    () =>
      this.system()
        ?.instruments.map((i) => i.name)
        .join(', ') ?? '',
  );

  protected provingChoice(): readonly { value: string; words: string }[] {
    return this.system()?.instruments.map((i) => ({ value: i.id, words: i.name })) ?? [];
  }

  protected setProving(id: string): void {
    this.store.edit('Choose the proving instrument', (job) => ({ ...job, system: { ...job.system, provingInstrument: id } }));
  }

  protected addInstrument(): void {
    this.store.edit('Add an instrument', (job) => {
      const { instruments } = job.system;
      const n = instruments.length + 1;
      const id = freeId(
        `instrument-${n}`,
        instruments.map((i) => i.id),
        'instrument',
      );
      return { ...job, system: { ...job.system, instruments: [...instruments, { ...usualMeter, id, name: `Instrument ${n}`, assumed: true as const }] } };
    });
  }
}
