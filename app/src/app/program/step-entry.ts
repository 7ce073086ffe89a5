import { computed, inject, Injectable, linkedSignal, signal, untracked } from '@angular/core';
import type { DeviceValues, Role } from '@calm-keel/core/card';
import { formatNumber, formatQuantity } from '@calm-keel/core/quantity';
import { readingOf, type Look, type SheetStep } from '@calm-keel/core/runsheet';
import { cardOf, devicesOf, provingMeter, type Plan } from '@calm-keel/core/settings';
import { indistinguishable } from '@calm-keel/core/system';
import { RunWork } from '../data/run-work';

/** What the main answer says, by what a step is. */
const plainAnswers: Readonly<Partial<Record<SheetStep['kind'], string>>> = {
  caution: 'Understood',
  tools: 'All within reach',
  balance: 'Balanced as the maker says',
  strings: 'Joined at equal voltage',
  open: 'It is off and tagged',
  wake: 'It is awake',
  reach: 'It is open',
  commit: 'Saved',
  link: 'It shows its leader’s figures',
  sensor: 'Done',
  passcode: 'Changed',
  close: 'It is on again',
  handBack: 'All done',
};

/** Two readings further apart than this share of the meter’s are not of the same voltage. */
const sameVoltage = 0.1;
/** A display off by more than this share points at a lead before it points at the display. */
const suspectLead = 0.01;

/** What is being entered at a step of the run sheet, and the answer it comes to. What is typed belongs to one step: it goes with it. */
@Injectable()
export class StepEntry {
  private readonly work = inject(RunWork);
  private readonly at = signal<{ readonly plan: Plan; readonly step: SheetStep } | null>(null);
  private readonly id = computed(() => this.at()?.step.id ?? '');
  readonly device = computed(() => {
    const at = this.at();
    return at ? (devicesOf(at.plan.input).find((d) => d.id === at.step.device) ?? null) : null;
  });
  readonly card = computed(() => {
    const [at, device] = [this.at(), this.device()];
    return at && device ? (cardOf(at.plan.input, device) ?? null) : null;
  });

  readonly ticked = linkedSignal<string, ReadonlySet<string>>({ source: this.id, computation: () => new Set() });
  readonly seen = linkedSignal<string, ReadonlyMap<Role, string>>({
    source: this.id,
    computation: () => untracked(() => new Map(this.at()?.step.kind === 'readOff' ? this.noted() : [])),
  });
  /** The firmware as its screen shows it. */
  readonly text = linkedSignal({ source: this.id, computation: () => untracked(() => this.device()?.firmware ?? '') });
  readonly meterV = linkedSignal<string, number | undefined>({ source: this.id, computation: () => undefined });
  readonly displayV = linkedSignal<string, number | undefined>({ source: this.id, computation: () => undefined });

  /** Goes to a step. */
  be(plan: Plan, step: SheetStep): void {
    this.at.set({ plan, step });
  }

  tick(item: string, on: boolean): void {
    this.ticked.update((set) => new Set(on ? [...set, item] : [...set].filter((other) => other !== item)));
  }

  /** What an entry of the menu shows, as typed; nothing takes it away again. */
  see(role: Role, text: string): void {
    this.seen.update((map) => new Map([...[...map].filter(([other]) => other !== role), ...(text.trim() === '' ? [] : [[role, text] as const])]));
  }

  private noted(): [Role, string][] {
    const step = this.at()?.step;
    const found = this.work.record()?.found[step?.device ?? ''] ?? {};
    return (step?.looks ?? []).flatMap((l) => (found[l.role] === undefined ? [] : [[l.role, String(found[l.role])] as [Role, string]]));
  }

  /** What was typed for an entry, read as its card would; null while nothing was. */
  private read(look: Look): ReturnType<typeof readingOf> | null {
    const text = this.seen().get(look.role);
    const card = this.card();
    return text === undefined || !card ? null : readingOf(card, look.role, text);
  }
  problemOf(look: Look): string | null {
    const read = this.read(look);
    return read && !read.ok ? read.text : null;
  }
  isOdd(look: Look): boolean {
    const read = this.read(look);
    return look.want !== null && read?.ok === true && read.value !== look.want;
  }
  private readonly looked = computed((): { values: DeviceValues; odd: number; wrong: boolean } => {
    const values: Partial<Record<Role, number | string>> = {};
    const looks = this.at()?.step.looks ?? [];
    for (const look of looks) {
      const read = this.read(look);
      if (read?.ok) values[look.role] = read.value;
      else if (!read && look.want !== null) values[look.role] = look.want;
    }
    return { values, odd: looks.filter((look) => this.isOdd(look)).length, wrong: looks.some((look) => this.problemOf(look) !== null) };
  });

  /** How meter and display differ, and what follows from it. */
  readonly comparison = computed(() => {
    const [at, meterV, displayV, card] = [this.at(), this.meterV(), this.displayV(), this.card()];
    if (!at || meterV === undefined || displayV === undefined || !card) return null;
    const error = displayV - meterV;
    const { input } = at.plan;
    const limit = indistinguishable(provingMeter(input), card.display.stepV, meterV, input.coverage);
    const size = formatQuantity(Math.abs(error), 'V', 2);
    if (!this.comparable()) return `${size} apart: these are not two readings of the same voltage. Look at both again.`;
    if (Math.abs(error) <= limit) return `They agree within ± ${formatQuantity(limit, 'V', 2)}: there is nothing to correct.`;
    const way = error > 0 ? 'high' : 'low';
    const suspect = Math.abs(error) > suspectLead * meterV ? ' More than 1 %: look for a bad lead first.' : '';
    return card.display.calibratable
      ? `The display reads ${size} ${way}. Calibrate it, and compare again.${suspect}`
      : `The display reads ${size} ${way}. The values to enter move by as much.${suspect}`;
  });
  private readonly comparable = computed(() => {
    const [meterV, displayV] = [this.meterV(), this.displayV()];
    return meterV !== undefined && displayV !== undefined && Math.abs(displayV - meterV) <= sameVoltage * meterV;
  });

  /** What the main answer says, and why it cannot be given yet. */
  readonly primary = computed((): { readonly words: string; readonly why: string | null } => {
    const step = this.at()?.step;
    const plain = (step && plainAnswers[step.kind]) ?? 'Done';
    switch (step?.kind) {
      case 'edit':
        return { words: `Reads ${typeof step.value?.to === 'number' ? formatNumber(step.value.to, step.value.digits) : (step.value?.to ?? '')}`, why: null };
      case 'identify':
        return this.text().trim() === ''
          ? { words: 'Note it', why: 'Enter what its screen shows, or skip with a reason.' }
          : { words: `Note ${this.text().trim()}`, why: null };
      case 'compare':
        return { words: 'Keep the comparison', why: this.comparable() ? null : 'Enter what both read, or skip with a reason.' };
      case 'readOff':
        return this.readingOff();
      case 'persist':
        return this.readingBack();
      case 'tools':
      case 'handBack': {
        const left = (step.items ?? []).length - this.ticked().size;
        return { words: plain, why: left > 0 ? `${left} not ticked yet.` : null };
      }
      default:
        return { words: plain, why: null };
    }
  });

  private readingOff(): { words: string; why: string | null } {
    const { values, wrong } = this.looked();
    const count = Object.keys(values).length;
    if (wrong) return { words: 'Note the values', why: 'One line cannot be read: correct it first.' };
    if (count === 0) return { words: 'Note the values', why: 'Enter at least one, or skip with a reason.' };
    return { words: count === 1 ? 'Note 1 value' : `Note ${count} values`, why: null };
  }

  private readingBack(): { words: string; why: string | null } {
    const { odd, wrong } = this.looked();
    if (wrong) return { words: 'All read so', why: 'One line cannot be read: correct it first.' };
    return { words: odd === 0 ? 'All read so' : odd === 1 ? 'Record 1 that reads otherwise' : `Record ${odd} that read otherwise`, why: null };
  }

  /** Answers the step with what was entered; nothing while it cannot be given. */
  answer(): void {
    const step = this.at()?.step;
    if (!step || this.primary().why !== null) return;
    const [meterV, displayV] = [this.meterV(), this.displayV()];
    const instrument = this.work.record()?.instrument;
    switch (step.kind) {
      case 'edit':
        if (step.value) this.work.answer(step, { state: 'done', reading: step.value.to });
        return;
      case 'identify':
        this.work.answer(step, { state: 'done', reading: this.text().trim() });
        return;
      case 'compare':
        if (meterV !== undefined && displayV !== undefined)
          this.work.answer(step, { state: 'done', meterV, displayV, ...(instrument === undefined ? {} : { instrument }) });
        return;
      case 'readOff':
      case 'persist':
        this.work.answer(step, { state: 'done', values: this.looked().values });
        return;
      default:
        this.work.answer(step, { state: 'done' });
    }
  }
}
