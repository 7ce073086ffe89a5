import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, viewChild, type ElementRef } from '@angular/core';
import {
  ampacity,
  ampacitySource,
  cardKindWords,
  cardOf,
  cardQuirks,
  cutoffMargin,
  deviceDecimals,
  formatNumber,
  formatTemperatureDifference,
  isSource,
  mostAmps,
  nearestAwg,
  roleInfo,
  roleSchema,
  sensorPlaceWords,
  sensorSchema,
  type Bank,
  type Card,
  type Charger,
  type Companion,
  type Instrument,
  type Loads,
  type Problem,
  type Role,
  type Sensor,
  type Site,
  type System,
  type Wire,
} from '@calm-keel/core';
import { freeId } from '../data/free-id';
import { JobStore } from '../data/job-store';
import { Library } from '../data/library';
import { Selection } from '../data/selection';
import { Units } from '../data/units';
import { ChoiceField } from '../ui/choice-field';
import { FindingsList } from '../ui/findings-list';
import { NumberField } from '../ui/number-field';
import { measuredWidth } from '../ui/measured-width';
import { showInspector } from '../ui/show-inspector';
import { TextField } from '../ui/text-field';
import { ViewSize } from '../data/view-size';
import { ArrayPanel } from './array-panel';
import { DetailFields } from './detail-fields';
import { CompanionPanel } from './companion-panel';
import { OneLineDrawing } from './one-line';

/** What a sensor usually promises at each place; the person corrects it. */
const usualSensor: Readonly<Record<Sensor['place'], Pick<Sensor, 'offsetC' | 'lagSeconds' | 'warmLeadC'>>> = {
  batteryCase: { offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 },
  batteryPost: { offsetC: 0, lagSeconds: 420, warmLeadC: 2 },
  betweenUnits: { offsetC: 0, lagSeconds: 1200, warmLeadC: 1 },
  pad: { offsetC: 2.5, lagSeconds: 900, warmLeadC: 2 },
  air: { offsetC: 3, lagSeconds: 60, warmLeadC: 8 },
  chargerCase: { offsetC: 10, lagSeconds: 900, warmLeadC: 10 },
};

/** System: bank, place, loads, chargers and instruments, and the charge current ceiling that follows. */
@Component({
  selector: 'ck-system-page',
  imports: [NumberField, TextField, ChoiceField, FindingsList, OneLineDrawing, ArrayPanel, CompanionPanel, DetailFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './system-page.html',
  styleUrl: './system-page.scss',
})
export class SystemPage {
  protected readonly store = inject(JobStore);
  protected readonly selection = inject(Selection);
  protected readonly library = inject(Library);
  protected readonly units = inject(Units);
  private readonly size = inject(ViewSize);
  private readonly measure = viewChild<ElementRef<HTMLElement>>('measure');
  private readonly width = measuredWidth(this.measure);
  protected readonly room = computed(() => Math.max(300, this.width()));
  /** Set by "Add a charger" links. */
  readonly add = input<string>();
  protected readonly adding = signal(false);
  protected readonly roleInfo = roleInfo;
  protected readonly formatNumber = formatNumber;

  protected readonly system = computed(() => this.store.plan()?.input.system ?? null);
  protected readonly charger = computed(() => this.system()?.chargers.find((c) => c.id === this.selection.charger()) ?? null);
  protected readonly card = computed(() => {
    const plan = this.store.plan();
    const charger = this.charger();
    return plan && charger ? (cardOf(plan.input, charger) ?? null) : null;
  });
  protected readonly places = sensorSchema.shape.place.options.map((value) => ({ value, words: sensorPlaceWords[value] }));
  protected readonly margin = computed(() => {
    const system = this.system();
    const charger = this.charger();
    return system && charger ? cutoffMargin(charger.sensor, system.site) : null;
  });
  /** Settings of the chosen charger that can be noted as found. */
  protected readonly found = computed(() => {
    const card = this.card();
    const charger = this.charger();
    if (!card || !charger) return [];
    return card.parameters.map((p) => ({
      role: p.role,
      label: p.label,
      unit: p.unit === 'choice' ? '' : p.unit,
      step: p.unit === 'choice' ? 1 : p.step,
      digits: p.unit === 'choice' ? 0 : deviceDecimals(p),
      options: p.unit === 'choice' ? [{ value: '', words: 'not read' }, ...p.options.map((o) => ({ value: o.value, words: o.value }))] : null,
      value: charger.present[p.role],
    }));
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
  /** Sources to add, by kind; companions stand apart. */
  protected readonly shelves = computed(() => [
    { name: 'Chargers', cards: this.library.cards().filter((c) => isSource(c.kind)) },
    { name: 'Companions', cards: this.library.cards().filter((c) => !isSource(c.kind)) },
  ]);
  protected readonly solar = computed(() => this.card()?.kind.startsWith('solar') ?? false);

  constructor() {
    effect(() => {
      if (this.add()) this.adding.set(true);
    });
  }

  /** Chooses a part of the drawing; the bank's own key is empty. */
  protected choose(key: string): void {
    this.selection.charger.set(key === '' ? null : key);
    if (this.size.phone()) showInspector();
  }

  protected editWire(key: 'lengthM' | 'areaMm2', value: number | undefined): void {
    this.editCharger('Change a charger’s wiring', `wire ${key}`, (c) => set(c, 'wire', wired(c.wire, key, value)));
  }

  protected editBankWire(key: 'lengthM' | 'areaMm2', value: number | undefined): void {
    this.edit('Change the bank', `bank wire ${key}`, (s) => ({ ...s, bank: set(s.bank, 'wire', wired(s.bank.wire, key, value)) }));
  }

  protected editMachine(change: Partial<NonNullable<Charger['machine']>>): void {
    this.editCharger('Change the machine', `machine ${Object.keys(change).join()}`, (c) => ({
      ...c,
      machine: { ...(c.machine ?? { name: 'Machine', ratedA: this.card()?.ratings.outputA ?? 10, loadDumpProtected: false }), ...change },
    }));
  }

  protected editFeed(change: Partial<NonNullable<Charger['feed']>>): void {
    this.editCharger('Change the feed', `feed ${Object.keys(change).join()}`, (c) => ({
      ...c,
      feed: { ...(c.feed ?? { name: 'Start bank', volts: 12 }), ...change },
    }));
  }

  /** What the comparisons say: one gives an offset, two or more a gain between them. */
  protected readonly displayWords = computed(() => {
    const readings = [...(this.charger()?.displayReadings ?? [])].sort((a, b) => a.meterV - b.meterV);
    const first = readings[0];
    const last = readings.at(-1);
    if (!first || !last) return '';
    const say = (r: { meterV: number; displayV: number }): string => {
      const error = r.displayV - r.meterV;
      return `${formatNumber(Math.abs(error), 2)} V ${error >= 0 ? 'high' : 'low'} at ${formatNumber(r.meterV, 1)} V`;
    };
    if (readings.length === 1 || last.meterV === first.meterV) return `The display reads ${say(first)}: an offset, taken to hold everywhere.`;
    const gain = (last.displayV - first.displayV) / (last.meterV - first.meterV);
    return `The display reads ${say(first)} and ${say(last)}: gain ${formatNumber(gain, 3)}, used between the readings only.`;
  });

  protected editFirmware(text: string): void {
    this.editCharger('Note the firmware', 'firmware', (c) => set(c, 'firmware', text === '' ? undefined : text));
  }

  protected editSensorType(text: string): void {
    this.editCharger('Change a sensor', 'sensor type', (c) => ({ ...c, sensor: set(c.sensor, 'type', text === '' ? undefined : text) }));
  }

  protected ampacityOf(wire: Wire): string {
    return `${formatNumber(ampacity(wire.areaMm2), 0)} A, about ${nearestAwg(wire.areaMm2)}`;
  }

  protected readonly ampacitySource = ampacitySource;

  protected editRange(index: number, key: 'rangeV' | 'rangeA' | 'burdenMilliohm', value: number | undefined): void {
    this.editInstrument(index, key, (i) => set(i, key, value));
  }

  protected editCalibration(index: number, text: string): void {
    const plain = text.trim();
    this.editInstrument(index, 'calibration', (i) => set(i, 'calibrationDue', plain === '' ? undefined : plain));
  }

  private edit(label: string, key: string, change: (system: System) => System): readonly Problem[] {
    const problems = this.store.edit(label, (job) => ({ ...job, system: change(job.system) }), `system ${key}`);
    this.refused.set(problems.length > 0 ? { key, text: (problems[0]?.text ?? '').replace(/^[^:]*: /, '') } : null);
    return problems;
  }

  protected readonly refused = signal<{ key: string; text: string } | null>(null);

  protected why(key: string): string | null {
    const refused = this.refused();
    return refused?.key === key ? `Not like this: ${refused.text}` : null;
  }

  protected editBank<K extends keyof Bank>(key: K, value: Bank[K] | undefined): void {
    this.edit('Change the bank', `bank ${key}`, (s) => ({ ...s, bank: set(s.bank, key, value) }));
  }

  protected editSite<K extends keyof Site>(key: K, value: Site[K] | undefined): void {
    this.edit('Change the place', `site ${key}`, (s) => ({ ...s, site: set(s.site, key, value) }));
  }

  protected editLoads<K extends keyof Loads>(key: K, value: Loads[K] | undefined): void {
    this.edit('Change the loads', `loads ${key}`, (s) => ({ ...s, loads: set(s.loads, key, value) }));
  }

  private editCharger(label: string, key: string, change: (charger: Charger) => Charger): void {
    const id = this.charger()?.id;
    this.edit(label, `${id ?? ''} ${key}`, (s) => ({ ...s, chargers: s.chargers.map((c) => (c.id === id ? change(c) : c)) }));
  }

  protected rename(name: string): void {
    this.editCharger('Rename a charger', 'name', (c) => ({ ...c, name }));
  }

  protected editWiring(key: 'fuseA' | 'cableA', value: number | undefined): void {
    this.editCharger('Change a charger’s wiring', key, (c) => set(c, key, value));
  }

  protected editSensor<K extends keyof Sensor>(key: K, value: Sensor[K]): void {
    this.editCharger('Change a sensor', `sensor ${key}`, (c) => ({
      ...c,
      sensor: { ...c.sensor, [key]: value, ...(key === 'place' ? usualSensor[value as Sensor['place']] : {}) },
    }));
  }

  protected setPasscode(changed: boolean): void {
    this.editCharger('Note the passcode', 'passcode', (c) => ({ ...c, passcodeChanged: changed }));
  }

  protected editReading(index: number, key: 'meterV' | 'displayV', value: number | undefined): void {
    if (value === undefined) return;
    this.editCharger('Change a comparison', `reading ${index} ${key}`, (c) => ({
      ...c,
      displayReadings: c.displayReadings.map((r, i) => (i === index ? { ...r, [key]: value } : r)),
    }));
  }

  protected addReading(): void {
    const volts = this.store.plan()?.facts.nominalVolts ?? 12;
    this.editCharger('Add a comparison', '', (c) => ({ ...c, displayReadings: [...c.displayReadings, { meterV: volts, displayV: volts }] }));
  }

  protected removeReading(index: number): void {
    this.editCharger('Remove a comparison', '', (c) => ({ ...c, displayReadings: c.displayReadings.filter((_, i) => i !== index) }));
  }

  protected editFound(role: Role, value: number | string | undefined): void {
    this.editCharger('Note a value as found', `present ${role}`, (c) => {
      const { [roleSchema.parse(role)]: _before, ...others } = c.present;
      return { ...c, present: value === undefined || value === '' ? others : { ...others, [role]: value } };
    });
  }

  protected asNumber(value: number | string | undefined): number | undefined {
    return typeof value === 'number' ? value : undefined;
  }

  protected asPlace(value: string): Sensor['place'] {
    return value as Sensor['place'];
  }

  protected hasSensorUse(card: Card): string {
    return card.sensor.usedFor.length === 0 ? 'nothing' : card.sensor.usedFor.join(' and ');
  }

  /** Puts a charger of a shipped card into the job, with a name of its own and the card's own copy. */
  protected addCharger(card: Card): void {
    const system = this.system();
    if (!system) return;
    if (!isSource(card.kind)) {
      this.addCompanion(card);
      return;
    }
    let n = 1;
    while (system.chargers.some((c) => c.id === `charger-${n}`)) n++;
    const charger: Charger = {
      id: `charger-${n}`,
      name: `${card.model} ${n}`,
      card: card.id,
      sensor: { fitted: card.sensor.reads === 'wired', place: 'batteryCase', errorC: 1, ...usualSensor.batteryCase },
      displayReadings: [],
      present: {},
      passcodeChanged: false,
    };
    this.store.edit(`Add ${card.model}`, (job) => ({
      ...job,
      cards: job.cards.some((c) => c.id === card.id) ? job.cards : [...job.cards, card],
      system: { ...job.system, chargers: [...job.system.chargers, charger] },
    }));
    this.selection.charger.set(charger.id);
    this.adding.set(false);
  }

  private addCompanion(card: Card): void {
    const id = freeId(
      card.kind,
      [...(this.system()?.chargers ?? []), ...(this.system()?.companions ?? [])].map((c) => c.id),
      'companion',
    );
    const companion: Companion = { id, name: `${card.model}`, card: card.id, present: {}, switches: card.kind === 'monitor' ? ['loads'] : [] };
    this.store.edit(`Add ${card.model}`, (job) => ({
      ...job,
      cards: job.cards.some((c) => c.id === card.id) ? job.cards : [...job.cards, card],
      system: { ...job.system, companions: [...job.system.companions, companion] },
    }));
    this.selection.charger.set(id);
    this.adding.set(false);
  }

  protected quirks(card: Card): readonly string[] {
    return cardQuirks(card);
  }

  protected kindOf(card: Card): string {
    return cardKindWords[card.kind];
  }

  protected removeCharger(): void {
    const id = this.charger()?.id;
    this.store.edit('Remove a charger', (job) => {
      const chargers = job.system.chargers.filter((c) => c.id !== id);
      return {
        ...job,
        system: { ...job.system, chargers },
        cards: job.cards.filter((card) => [...chargers, ...job.system.companions].some((c) => c.card === card.id)),
        overrides: job.overrides.filter((o) => o.charger !== id),
      };
    });
    this.selection.charger.set(null);
  }

  protected editInstrument(index: number, key: string, change: (i: Instrument) => Instrument): void {
    this.edit('Change an instrument', `instrument ${index} ${key}`, (s) => ({ ...s, instruments: s.instruments.map((x, i) => (i === index ? change(x) : x)) }));
  }

  protected editVolts(index: number, key: 'percent' | 'digits' | 'resolution', value: number | undefined): void {
    if (value !== undefined) this.editInstrument(index, `volts ${key}`, (i) => ({ ...i, volts: { ...i.volts, [key]: value } }));
  }

  protected editAmps(index: number, key: 'percent' | 'digits', value: number | undefined): void {
    if (value !== undefined) this.editInstrument(index, `amps ${key}`, (i) => ({ ...i, amps: { ...i.amps, [key]: value } }));
  }

  protected provingChoice(): readonly { value: string; words: string }[] {
    return this.system()?.instruments.map((i) => ({ value: i.id, words: i.name })) ?? [];
  }

  protected setProving(id: string): void {
    this.edit('Choose the proving instrument', 'proving', (s) => ({ ...s, provingInstrument: id }));
  }

  protected addInstrument(): void {
    this.edit('Add an instrument', '', (s) => {
      let n = s.instruments.length + 1;
      while (s.instruments.some((i) => i.id === `instrument-${n}`)) n++;
      return {
        ...s,
        instruments: [
          ...s.instruments,
          {
            id: `instrument-${n}`,
            name: `Instrument ${n}`,
            volts: { percent: 0.5, digits: 2, resolution: 0.01 },
            amps: { percent: 2, digits: 3, resolution: 0.1 },
            temperatureErrorC: 1,
          },
        ],
      };
    });
  }

  protected renameInstrument(index: number, name: string): void {
    this.editInstrument(index, 'name', (i) => ({ ...i, name }));
  }

  protected editTemperature(index: number, value: number | undefined): void {
    if (value !== undefined) this.editInstrument(index, 'temperature', (i) => ({ ...i, temperatureErrorC: value }));
  }

  protected difference(celsius: number): string {
    return formatTemperatureDifference(celsius, this.units.scale());
  }
}

/** Sets a property, or takes it away when the value is unknown. */
function set<T extends object, K extends keyof T>(target: T, key: K, value: T[K] | undefined): T {
  if (value !== undefined) return { ...target, [key]: value };
  const { [key]: _gone, ...rest } = target;
  return rest as T;
}

/** A conductor with one end of it changed; a part that is taken away takes the conductor with it, a first one gets a usual partner. */
function wired(wire: Wire | undefined, key: keyof Wire, value: number | undefined): Wire | undefined {
  if (value === undefined) return undefined;
  return { ...(wire ?? { lengthM: 1, areaMm2: 16 }), [key]: value };
}
