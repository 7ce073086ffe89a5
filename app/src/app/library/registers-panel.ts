import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import {
  deviceUnitLabel,
  parameterFor,
  registersOf,
  roleInfo,
  wordsIn,
  type Card,
  type Live,
  type RegisterForm,
  type Role,
  type Telemetry,
} from '@calm-keel/core/card';
import { candidatesFor, shownNumber, stillFitting, type Candidate, type Table, type Words } from '@calm-keel/core/wire';
import { DeviceLink, LinkProblem } from '../data/device-link';
import { Glyph } from '../ui/glyph';

/** What a device tells of the moment, and could be found by what its display shows. */
const liveWords: Partial<Record<Live, string>> = {
  volts: 'battery voltage',
  amps: 'its output current',
  bankAmps: 'current into the bank',
  celsius: 'battery temperature',
  inputVolts: 'voltage at its input',
  inputWatts: 'power from its source',
  loadAmps: 'current of the loads',
  charge: 'state of charge',
};
const unitOfLive: Partial<Record<Live, string>> = {
  volts: 'V',
  amps: 'A',
  bankAmps: 'A',
  celsius: '°C',
  inputVolts: 'V',
  inputWatts: 'W',
  loadAmps: 'A',
  charge: '%',
};
/** How words make a number. */
const formNames: Readonly<Record<RegisterForm, string>> = {
  int16: 'with a sign',
  uint16: 'without a sign',
  int32: '32 bits with a sign',
  uint32: '32 bits without a sign',
  float32: 'float of 32 bits',
};
/** Rows of candidates that are shown; the rest are counted. */
const mostShown = 8;
/** Registers asked of the server in one request. */
const part = 32;

/** Registers of a card, and finding them by reading: what the display shows, and what moves with it. */
@Component({
  selector: 'ck-registers',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './registers-panel.html',
  styleUrl: './registers-panel.scss',
})
export class RegistersPanel {
  private readonly link = inject(DeviceLink);
  readonly card = input.required<Card>();
  readonly editable = input.required<boolean>();
  readonly changed = output<Telemetry>();

  protected readonly most = mostShown;
  protected readonly devices = computed(() => (this.link.devices() ?? []).flatMap((d) => (d.kind === 'registers' ? [d.name] : [])));
  protected readonly device = linkedSignal<readonly string[], string>({
    source: () => this.devices(),
    computation: (names, before) => (before && names.includes(before.value) ? before.value : (names[0] ?? '')),
  });
  protected readonly table = signal<Table>('holding');
  protected readonly from = signal('0');
  protected readonly count = signal('100');
  protected readonly identity = signal('');
  protected readonly held = signal<number | null>(null);
  protected readonly shown = signal('');
  protected readonly busy = signal(false);
  protected readonly done = signal(0);
  protected stopped = false;
  protected readonly problem = signal<string | null>(null);
  protected readonly candidates = signal<readonly Candidate[] | null>(null);

  /** Settings with a number, and live values; what is on the card already can be found anew. */
  protected readonly sought = computed(() => {
    const { telemetry, parameters } = this.card();
    const settings = parameters.flatMap((p) =>
      p.unit === 'choice'
        ? []
        : [{ value: `setting ${p.role}`, words: `${p.label}, a setting`, known: telemetry?.values.some((v) => v.role === p.role) ?? false }],
    );
    const live = Object.entries(liveWords).map(([what, words]) => ({
      value: `live ${what}`,
      words,
      known: telemetry?.live.some((l) => l.what === what) ?? false,
    }));
    return [...settings, ...live];
  });
  protected readonly what = linkedSignal<string, string>({ source: () => this.card().id, computation: () => this.sought().find((s) => !s.known)?.value ?? '' });
  protected readonly unit = computed(() => {
    const [kind, name = ''] = this.what().split(' ');
    if (kind === 'live') return unitOfLive[name as Live] ?? '';
    const p = parameterFor(this.card(), name as Role);
    return p && p.unit !== 'choice' ? deviceUnitLabel(p) : '';
  });
  protected readonly readable = computed(() => {
    const value = shownNumber(this.shown());
    return value !== null && value !== 0;
  });
  protected readonly told = computed(() => {
    const list = this.candidates() ?? [];
    if (list.length === 0) return 'No register fits. Look into the other table, or another range.';
    if (list.length === 1) return 'One register fits.';
    const rest = list.length > mostShown ? ` The first ${mostShown} are shown.` : '';
    return `${list.length} fit.${rest} Change the value on the device, or wait until it moves; type what it shows then, and read again.`;
  });

  protected readonly two = (k: Candidate): boolean => wordsIn(k) === 2;
  protected readonly where = (k: Candidate): string => registersOf(k).join(' and ');
  /** How the words make the number, where it is not one word with a sign. */
  protected readonly formWords = ({ form, order }: Candidate): string =>
    form === undefined ? '' : `, ${formNames[form]}${order === 'lowFirst' ? ', low word first' : ''}`;
  protected readonly settingOfTwo = computed(() => {
    const only = this.candidates()?.[0];
    return only !== undefined && wordsIn(only) === 2 && this.what().startsWith('setting');
  });

  constructor() {
    if (this.link.devices() === null) void this.link.look();
  }

  protected restart(): void {
    this.candidates.set(null);
    this.problem.set(null);
  }

  /** A whole number as it was typed, within its bounds; a sentence where it is none. */
  private whole(text: string, least: number, most: number, name: string): number {
    const value = Number(text.trim());
    if (text.trim() === '' || !Number.isInteger(value) || value < least || value > most)
      throw new LinkProblem(`${name} is a whole number from ${least} to ${most}.`);
    return value;
  }

  private async during(task: () => Promise<void>): Promise<void> {
    if (this.busy()) return;
    this.busy.set(true);
    this.problem.set(null);
    try {
      await task();
    } catch (error) {
      this.problem.set(error instanceof LinkProblem ? error.message : 'The link failed in a way nobody foresaw. Reload the page.');
    } finally {
      this.busy.set(false);
    }
  }

  protected identify(): Promise<void> {
    return this.during(async () => {
      this.held.set(null);
      const register = this.whole(this.identity(), 0, 65_535, 'A register');
      const { words, problem } = await this.link.range(this.device(), { from: register, count: 1, table: 'holding' });
      const word = words.get(register);
      if (word === undefined) throw new LinkProblem(problem ?? 'The device has no such register.');
      if (word === 0 || word > 32_767)
        throw new LinkProblem(`It holds ${word}, which tells no device from another. Choose the register that the manual calls model or type.`);
      this.held.set(word);
    });
  }

  protected useIdentity(): void {
    const value = this.held();
    if (value === null) return;
    this.changed.emit({ protocol: 'modbus', identity: { register: Number(this.identity().trim()), value }, live: [], values: [] });
    this.held.set(null);
  }

  protected look(): Promise<void> {
    return this.during(async () => {
      if (!this.readable()) throw new LinkProblem('Type what the display shows, as a number that is not 0.');
      const from = this.whole(this.from(), 0, 65_535, 'The first register');
      const count = this.whole(this.count(), 1, 250, 'How many');
      const before = this.candidates();
      const { words, problem } = await this.read(from, count);
      if (this.stopped) return;
      if (words.size === 0) throw new LinkProblem(problem ?? 'The device has no register in this range.');
      this.candidates.set(before === null ? candidatesFor(words, this.shown()) : stillFitting(before, words, this.shown()));
      if (problem !== null) this.problem.set(`${problem} What was read before it is shown.`);
    });
  }

  /** In parts, so that it can be seen and stopped. */
  private async read(from: number, count: number): Promise<{ words: Words; problem: string | null }> {
    const words = new Map<number, number>();
    this.stopped = false;
    for (let at = from; at < from + count && !this.stopped; at += part) {
      this.done.set(at - from);
      const read = await this.link.range(this.device(), { from: at, count: Math.min(part, from + count - at), table: this.table() });
      for (const [register, word] of read.words) words.set(register, word);
      if (read.problem !== null) return { words, problem: read.problem };
    }
    return { words, problem: null };
  }

  protected put({ register, scale, form, order }: Candidate): void {
    const { telemetry } = this.card();
    const [kind, name = ''] = this.what().split(' ');
    if (!telemetry) return;
    const table = this.table() === 'input' ? { table: 'input' as const } : {};
    const at = { register, scale, ...(form ? { form } : {}), ...(order ? { order } : {}) };
    const next: Telemetry =
      kind === 'live'
        ? { ...telemetry, live: [...telemetry.live.filter((l) => l.what !== name), { what: name as Live, ...at, ...table }] }
        : { ...telemetry, values: [...telemetry.values.filter((v) => v.role !== name), { role: name as Role, ...at }] };
    if (kind === 'setting' && this.table() === 'input') {
      this.problem.set(`${roleInfo[name as Role].name} is set in the table that can be written. Look for it there.`);
      return;
    }
    this.changed.emit(next);
    this.candidates.set(null);
    this.shown.set('');
    this.what.set(this.sought().find((s) => !s.known && s.value !== this.what())?.value ?? this.what());
  }
}
