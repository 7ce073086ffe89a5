import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, input, output, signal } from '@angular/core';
import { deviceRange, deviceUnitLabel, displayText, type Role, type Stroke } from '@calm-keel/core/card';
import {
  enterOnPage,
  faceView,
  frontWay,
  holdsOf,
  keptFrom,
  levelsToReach,
  runsWhenHeld,
  savePage,
  timeOutOf,
  turnSwitch,
  unsavedRoles,
  type FaceRules,
  type FaceState,
} from '@calm-keel/core/face';
import { Tip } from '../ui/tip';

/** A key held down for this long lets the value run, ms; then it steps so often, and after a while by ten. */
const runAfterMs = 450;
const runEveryMs = 110;
const fasterAfterMs = 3000;
const fasterSteps = 10;
/** While one contact is held, a list moves on, and a value, once in so long, ms. */
const scrollEveryMs = { list: 1000, value: 300 } as const;

/** A key of the front: what it is called, whether it turns, and how long it can be held for something of its own. */
interface Key {
  readonly name: string;
  readonly holds: readonly number[];
  readonly caps: readonly Cap[];
}
/** One thing that a finger can do with it. */
interface Cap {
  readonly id: string;
  readonly act: 'press' | 'left' | 'right';
  readonly face: string;
  /** What it is called where its face does not say it. */
  readonly name: string | null;
  readonly does: string | null;
}

/** Something done on a front without keys: what it makes of the front. */
export type FrontStep = (rules: FaceRules, state: FaceState) => FaceState;

/** The front of a device: its display, its keys in the order of its card, and the one thing that runs. Nothing here looks like a real front. */
@Component({
  selector: 'ck-device-front',
  imports: [Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './device-front.html',
  styleUrl: './device-front.scss',
  host: { '(keydown)': 'arrow($event)' },
})
export class DeviceFront {
  readonly rules = input.required<FaceRules>();
  readonly state = input.required<FaceState>();
  readonly name = input.required<string>();
  readonly model = input.required<string>();
  /** What the home screen shows, the greatest first. */
  readonly home = input.required<readonly string[]>();
  /** What the last key did, in words. */
  readonly note = input('');
  readonly stroke = output<Stroke>();
  readonly reach = output<'expert' | 'installer'>();
  readonly leave = output();
  readonly without = output<FrontStep>();

  private timers: number[] = [];
  private consumed = false;
  protected readonly down = signal<string | null>(null);

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.stop();
    });
  }

  protected readonly view = computed(() => faceView(this.rules(), this.state()));
  protected readonly atHome = computed(() => this.state().at.length === 0);
  protected readonly keys = computed((): readonly Key[] =>
    this.rules().menu.keys.map((name) => {
      const does = this.rules().card.keys.find((k) => k.key === name)?.does ?? null;
      const cap = (act: Cap['act'], face: string, called: string | null): Cap => ({ id: `${name}/${act}`, act, face, name: called, does });
      return {
        name,
        holds: holdsOf(this.rules(), name),
        caps: this.rules().menu.turns.includes(name)
          ? [cap('left', '⟲', `${name}, turn left`), cap('press', name, `${name}, press`), cap('right', '⟳', `${name}, turn right`)]
          : [cap('press', name, null)],
      };
    }),
  );
  /** The levels that are still to be opened, and how the card says that it is done. */
  protected readonly levels = computed(() =>
    levelsToReach(this.rules(), this.state()).map((level) => ({
      level,
      how: this.rules().card.programming.levels?.[level] ?? 'The card does not say how it is opened.',
    })),
  );
  protected readonly timeOut = computed(() => timeOutOf(this.rules().card));
  protected readonly trail = computed(() => this.view().trail.filter((name) => name !== ''));
  /** Nobody knows what stands at this setting: its card has no value for it. */
  protected readonly blank = computed(() => {
    const { role, value, keptFrom } = this.view();
    return role !== null && value === null && keptFrom === null;
  });
  /** What the display shows in large: the value, or where the way leads. */
  protected readonly large = computed(() => {
    const view = this.view();
    if (view.back) return 'Back';
    if (view.unnamed) return '· · ·';
    if (view.keptFrom) return '—';
    if (this.blank()) return 'not known';
    return view.value ?? this.trail().at(-1) ?? '';
  });
  protected readonly small = computed(() => {
    const view = this.view();
    if (view.value === null && !this.blank() && !view.keptFrom && !view.back && !view.unnamed) return this.trail().slice(0, -1);
    // The number stands beside it in large.
    const number = this.number() ?? '';
    return this.trail().map((name) => (number !== '' && name !== number && name.startsWith(number) ? name.slice(number.length).trim() : name));
  });
  protected readonly seconds = computed(() => Math.ceil(this.view().left ?? 0));

  protected readonly way = computed(() => frontWay(this.rules().card));
  /** Whether there is a display with keys or a contact, in place of a page or a switch. */
  protected readonly keyed = computed(() => ['keys', 'contact', 'numbers'].includes(this.way()));
  /** Whether the one contact of a device moves on while it is held. */
  protected readonly scrolls = computed(() => this.way() === 'contact' && this.rules().menu.worked.raise.act === 'hold');
  /** The number of a numbered setting: as its label begins with it, or its place in the list. */
  protected readonly number = computed(() => {
    if (this.way() !== 'numbers' || this.atHome()) return null;
    const label = this.view().trail.at(-1) ?? '';
    return /^[A-Za-z]{0,3}[-.]?\d{1,3}\b/.exec(label)?.[0] ?? String((this.state().at[0] ?? 0) + 1);
  });
  /** Every setting as a page lists it, with what it is now and what keeps it from being changed. */
  protected readonly lines = computed(() => {
    const { card, systemVolts } = this.rules();
    const state = this.state();
    const unsaved = unsavedRoles(state.memory);
    return card.parameters.map((p) => {
      const value = state.memory.inUse[p.role];
      const range = p.unit === 'choice' ? null : deviceRange(p, systemVolts);
      return {
        role: p.role,
        label: p.label,
        value: value ?? '',
        shown: value === undefined ? '—' : displayText(p, value).replace(/^“|”$/g, ''),
        options: p.unit === 'choice' ? p.options.map((o) => o.value) : null,
        unit: p.unit === 'choice' ? '' : deviceUnitLabel(p),
        step: p.unit === 'choice' ? 1 : p.step,
        min: range?.min ?? 0,
        max: range?.max ?? 0,
        locked: keptFrom(this.rules(), state, p) !== null,
        unsaved: unsaved.includes(p.role),
      };
    });
  });
  protected readonly positions = computed(() => this.rules().card.presets.map((p) => p.name));
  protected readonly savesApart = computed(() => this.rules().card.commit.kind !== 'auto');

  /** A value typed or chosen on a page. */
  protected enter(role: Role, text: string, number: boolean): void {
    const value = number ? Number(text.replace(',', '.')) : text;
    if (number && (text.trim() === '' || !Number.isFinite(value))) return;
    this.without.emit((rules, state) => enterOnPage(rules, state, role, value));
  }
  protected savePage(): void {
    this.without.emit((_, state) => savePage(state));
  }
  protected turnTo(position: string): void {
    this.without.emit((rules, state) => turnSwitch(rules, state, position));
  }

  protected hold(name: string, seconds: number): void {
    this.stroke.emit({ key: name, act: 'hold', seconds });
  }

  /** A finger comes down on a key. */
  protected begin(key: Key, cap: Cap): void {
    this.stop();
    this.down.set(cap.id);
    this.consumed = false;
    const stroke: Stroke = { key: key.name, act: cap.act };
    if (this.scrolls()) {
      this.scroll();
      return;
    }
    if (runsWhenHeld(this.rules(), this.state(), stroke)) {
      this.consumed = true;
      this.stroke.emit(stroke);
      let held = runAfterMs;
      this.whileHeld(runEveryMs, () => {
        held += runEveryMs;
        const times = held > fasterAfterMs ? fasterSteps : 1;
        for (let i = 0; i < times; i++) this.stroke.emit(stroke);
      });
      return;
    }
    if (cap.act !== 'press') return;
    for (const seconds of key.holds)
      this.timers.push(
        window.setTimeout(() => {
          this.consumed = true;
          this.hold(key.name, seconds);
        }, seconds * 1000),
      );
  }

  /** Does something again and again, from a while after a finger came down until it goes up. */
  private whileHeld(everyMs: number, step: () => void, first: () => void = () => undefined): void {
    this.timers.push(
      window.setTimeout(() => {
        first();
        this.timers.push(window.setInterval(step, everyMs));
      }, runAfterMs),
    );
  }

  /** One contact is held: the list, or what is open, moves on until it is let go. */
  private scroll(): void {
    const move = (): void => {
      this.consumed = true;
      this.stroke.emit(this.rules().menu.worked.raise);
    };
    this.whileHeld(this.view().editing ? scrollEveryMs.value : scrollEveryMs.list, move, move);
  }

  /** The finger goes up again. */
  protected end(key: Key, cap: Cap): void {
    if (this.down() !== cap.id) return;
    this.stop();
    if (!this.consumed) this.stroke.emit({ key: key.name, act: cap.act });
  }

  /** The finger slides off: nothing was pressed. */
  protected stop(): void {
    for (const timer of this.timers) {
      clearTimeout(timer);
      clearInterval(timer);
    }
    this.timers = [];
    this.down.set(null);
  }

  protected keyDown(event: KeyboardEvent, key: Key, cap: Cap): void {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    if (!event.repeat) this.begin(key, cap);
  }
  protected keyUp(event: KeyboardEvent, key: Key, cap: Cap): void {
    if (event.key === 'Enter' || event.key === ' ') this.end(key, cap);
  }
  /** A press that came from neither finger nor key: a voice, a switch. */
  protected clicked(event: MouseEvent, key: Key, cap: Cap): void {
    if (event.detail === 0) this.stroke.emit({ key: key.name, act: cap.act });
  }

  /** The arrow keys of a keyboard raise and lower, wherever the focus is on the front. */
  protected arrow(event: KeyboardEvent): void {
    const { raise, lower } = this.rules().menu.worked;
    const stroke = event.key === 'ArrowUp' ? raise : event.key === 'ArrowDown' ? lower : null;
    if (stroke === null) return;
    event.preventDefault();
    this.stroke.emit(stroke);
  }
}
