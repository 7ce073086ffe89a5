import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { stages } from '@calm-keel/core/charger';
import { formatNumber, formatQuantity, formatTimeOfDay } from '@calm-keel/core/quantity';
import { isAnswered, whatItMakes, type SheetStep } from '@calm-keel/core/runsheet';
import { cardOf, devicesOf, type Plan } from '@calm-keel/core/settings';
import type { Charger } from '@calm-keel/core/system';
import { BrowserSerial } from '../data/browser-serial';
import { DeviceLink, LinkProblem, staleMs, type Outcome, type WireStep } from '../data/device-link';
import { RunWork } from '../data/run-work';
import { Units } from '../data/units';
import { Glyph } from '../ui/glyph';
import { FieldsPanel } from './fields-panel';
import { OwnPort } from './own-port';
import { SaidSettings } from './said-settings';
import { stageLook } from '../ui/stages';

/** What goes over the wire: what a device tells now, what stands on it, and a whole charger written after one confirmation. */
@Component({
  selector: 'ck-wire-panel',
  imports: [FieldsPanel, Glyph, OwnPort, RouterLink, SaidSettings],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (wired()) {
      <div class="sech">
        <span role="heading" aria-level="2">{{ device()?.name }}, on the wire</span>
        <small>{{ age() }}</small>
      </div>
      @if (link.simulation()) {
        <p class="sim"><b>Simulated devices.</b> Nothing here is a real charger. <a class="do" routerLink="/simulation">Press their keys</a></p>
      }
      @if (state()?.problem; as why) {
        <p class="said bad" role="status">
          <ck-glyph name="attention" /><span class="line">{{ why }}</span>
        </p>
      }
      @if (talks()) {
        <ck-fields-panel [chargers]="plan().input.system.chargers" [name]="name() ?? ''" />
        @if (known(); as k) {
          <ck-said-settings [device]="k.device" [card]="k.card" />
        }
      } @else if (state(); as s) {
        <dl [class.old]="stale()">
          @for (line of lines(); track line.name) {
            <div>
              <dt>{{ line.name }}</dt>
              <dd class="n">{{ line.value }}</dd>
            </div>
          }
        </dl>
      } @else {
        <p class="quiet">Waiting for its first values.</p>
      }
      @if (stillOn(); as why) {
        <p class="said bad" role="alert">
          <ck-glyph name="stop" /><span class="line">{{ why }}</span>
        </p>
      }
      @if (doubt() && !busy()) {
        <div class="said bad doubt" role="alert">
          <ck-glyph name="stop" />
          <span class="line"
            ><b>State unknown.</b> {{ doubted() }} was sent to {{ device()?.name }}, and no answer came that tells what became of it. Nothing more is sent
            before the device has been read.</span
          >
          <button type="button" class="ghost" (click)="settleDoubt()">Read the device</button>
        </div>
      }
      @if (acknowledged(); as text) {
        <p class="said" role="status">
          <span class="line">{{ text }}</span>
        </p>
      }
      @if (busy(); as words) {
        <p class="said" role="status">
          <span class="line">{{ words }}</span>
        </p>
      }
      @if (problem(); as why) {
        <div class="said bad" role="alert">
          <ck-glyph name="stop" /><span class="line">{{ why }}</span>
        </div>
      }
      @if (asking()) {
        <div class="confirm" role="group" aria-label="Confirm what is written">
          <p>
            <b>Write {{ todo().length }} {{ todo().length === 1 ? 'step' : 'steps' }} to {{ device()?.name }}, in this order?</b>
          </p>
          <ol>
            @for (step of todo(); track step.id) {
              <li>
                <span>{{ step.title }}</span><b class="n">{{ step.value?.readBack ?? '' }}</b>
              </li>
            }
          </ol>
          <p class="quiet">Each is read back. It stops at the first that differs, and nothing is sent twice.</p>
          <button type="button" class="ghost sure" (click)="writeAll()">Write {{ todo().length === 1 ? 'it' : 'them' }}</button>
          <button type="button" class="ghost" (click)="asking.set(false)">Not now</button>
        </div>
      } @else if (!busy() && !talks()) {
        <div class="acts">
          @if (!work.running()) {
            <button type="button" class="ghost" (click)="readIn()">Read in what stands on it</button>
          }
          @if (stepHere()?.kind === 'identify' || stepHere()?.kind === 'readOff' || stepHere()?.kind === 'persist') {
            <button type="button" class="ghost" (click)="readStep()">Read this step over the wire</button>
          }
          @if (stepHere()?.value || stepHere()?.kind === 'commit') {
            <button type="button" class="ghost" [disabled]="notYet() !== null" (click)="writeOne()">
              {{ stepHere()?.kind === 'commit' ? 'Save over the wire' : 'Write ' + (stepHere()?.value?.readBack ?? '') + ' over the wire' }}
            </button>
          }
          @if (work.running() && todo().length > 1) {
            <button type="button" class="ghost" [disabled]="notYet() !== null" (click)="asking.set(true)">
              {{ some() ? 'Go on writing' : 'Write' }} all {{ todo().length }} of {{ device()?.name }}
            </button>
          }
          @if (work.running() && notYet() && todo().length > 0) {
            <p class="quiet">{{ notYet() }}</p>
          }
        </div>
      }
    } @else if (readable(); as r) {
      <ck-own-port [device]="r.device" [card]="r.card" (noted)="noted.emit()" />
    }
  `,
  styles: `
    .sim {
      border: 1.5px dashed var(--ck-ink-2);
      padding: 6px 10px;
      font-size: 0.8438rem;
      margin-bottom: 6px;
    }
    dl div {
      display: flex;
      justify-content: space-between;
      padding: 3px 0;
      border-top: 1px solid var(--ck-rule);
      font-size: 0.875rem;
    }
    dt {
      font-weight: 400;
    }
    dl.old dd {
      color: var(--ck-ink-3);
      font-weight: 400;
    }
    .acts,
    .confirm {
      display: grid;
      gap: 8px;
      padding-top: 8px;
    }
    .confirm {
      border: 2px solid var(--ck-ink);
      padding: 10px 12px;
      margin-top: 8px;
    }
    .doubt {
      flex-wrap: wrap;
      .line {
        flex: 1 1 180px;
      }
      .ghost {
        flex: 1 1 100%;
        min-height: 44px;
      }
    }
    .sure {
      border: 2px solid var(--ck-ink);
      min-height: 44px;
    }
    li {
      display: flex;
      justify-content: space-between;
      gap: 8px;
      font-size: 0.8438rem;
      padding: 2px 0;
      border-top: 1px solid var(--ck-rule);
    }
  `,
})
export class WirePanel {
  protected readonly link = inject(DeviceLink);
  protected readonly work = inject(RunWork);
  private readonly ports = inject(BrowserSerial);
  private readonly units = inject(Units);
  readonly plan = input.required<Plan>();
  readonly device = input.required<Charger | null>();
  /** Goes to where values are compared. */
  readonly noted = output();
  protected readonly asking = signal(false);
  protected readonly busy = signal<string | null>(null);
  protected readonly problem = signal<string | null>(null);

  /** What a device said yes to and nobody has seen. */
  protected readonly acknowledged = signal<string | null>(null);

  protected readonly name = computed(() => this.device()?.link ?? null);
  protected readonly talks = computed(() => this.link.talks(this.name() ?? ''));
  /** Something was sent to it, and nobody knows whether it was taken. */
  protected readonly doubt = computed(() => this.link.doubts().get(this.name() ?? '') ?? null);
  private readonly doubtedStep = computed(() => this.work.sheet()?.steps.find((s) => s.id === this.doubt()?.step) ?? null);
  protected readonly doubted = computed(() => {
    const step = this.doubtedStep();
    return step ? `“${step.title}${step.value ? `: ${step.value.readBack}` : ''}”` : 'A value';
  });
  protected readonly wired = computed(() => {
    const name = this.name();
    return name !== null && (this.link.names()?.includes(name) ?? false);
  });
  /** The device in view with its card, where it has one. */
  protected readonly known = computed(() => {
    const device = this.device();
    const card = device && cardOf(this.plan().input, device);
    return device && card ? { device, card } : null;
  });
  /** Not on the server’s list, and this browser can open a port itself: a device whose registers are known. */
  protected readonly readable = computed(() => {
    const known = this.known();
    return this.ports.there && known?.card.telemetry && !this.work.running() ? known : null;
  });
  protected readonly state = computed(() => {
    const state = this.link.live().get(this.name() ?? '');
    return state && (state.at > 0 || state.problem !== null) ? state : null;
  });
  private readonly ageMs = computed(() => {
    const state = this.state();
    return state && state.at > 0 ? Math.max(0, this.link.now() - state.at) : null;
  });
  protected readonly stale = computed(() => (this.ageMs() ?? 0) > staleMs);
  protected readonly age = computed(() => {
    const ms = this.ageMs();
    return ms === null ? '' : ms < 2000 ? 'now' : `${Math.round(ms / 1000)} s old`;
  });
  protected readonly lines = computed(() => {
    const live = this.state()?.live ?? {};
    const list: { name: string; value: string }[] = [];
    const add = (name: string, value: number | null | undefined, unit: string, digits: number): void => {
      if (value !== undefined) list.push({ name, value: value === null ? 'no reading' : formatQuantity(value, unit, digits) });
    };
    const stage = typeof live.stage === 'number' ? stages[live.stage] : undefined;
    if (stage) list.push({ name: 'Stage', value: stageLook[stage].words });
    add('Battery, as it measures', live.volts, 'V', 2);
    add('Its output', live.amps, 'A', 1);
    add('Into the bank', live.bankAmps, 'A', 1);
    add('Charge', live.charge, '%', 0);
    if (live.celsius !== undefined)
      list.push({ name: 'Battery sensor', value: live.celsius === null ? 'no reading' : this.units.temperature(live.celsius, 1) });
    add('Its input', live.inputVolts, 'V', 2);
    if (typeof live.clockMinutes === 'number')
      list.push({
        name: 'Its clock',
        value: formatTimeOfDay(live.clockMinutes),
      });
    if (live.alarm) list.push({ name: 'Alarm', value: `code ${formatNumber(live.alarm, 0)}` });
    return list;
  });
  protected readonly stepHere = computed(() => {
    const step = this.work.running() ? this.work.step() : null;
    return step?.device !== undefined && step?.device === this.device()?.id ? step : null;
  });
  private readonly ofDevice = computed(() =>
    (this.work.sheet()?.steps ?? []).filter((s) => s.device === this.device()?.id && (s.kind === 'edit' || s.kind === 'commit')),
  );
  /** Edits and the save of this device that stand open, in order. */
  protected readonly todo = computed(() => this.ofDevice().filter((s) => !isAnswered(s, this.work.kept())));
  protected readonly some = computed(() => this.todo().length < this.ofDevice().length);
  /** Why nothing may be written yet. */
  protected readonly notYet = computed(() => {
    if (this.doubt()) return 'First read the device: nobody knows whether the last write was taken.';
    const sheet = this.work.sheet();
    const kept = this.work.kept();
    const open = sheet?.steps.find((s) => (s.kind === 'caution' || s.kind === 'open') && !isAnswered(s, kept));
    return open ? `First answer the step “${open.title}”.` : null;
  });

  /** A source that should be off and is not. */
  protected readonly stillOn = computed(() => {
    const device = this.device();
    const amps = this.state()?.live.amps;
    const kept = this.work.kept();
    const off = kept.get(`open/${device?.id ?? ''}`)?.state === 'done' && kept.get(`close/${device?.id ?? ''}`)?.state !== 'done';
    return this.work.running() && off && !this.stale() && typeof amps === 'number' && amps > stillAmps
      ? `It still gives ${formatQuantity(amps, 'A', 1)}: its source is not off. Look at what was opened before you go on.`
      : null;
  });

  constructor() {
    effect(() => {
      const { input: job } = this.plan();
      if (!this.link.there()) return;
      const devices = devicesOf(job).flatMap((d) => {
        const card = cardOf(job, d);
        return d.link === undefined ? [] : [{ name: d.link, card: card ?? null }];
      });
      this.link.attach(devices).catch((error: unknown) => {
        this.problem.set(sentence(error));
      });
    });
  }

  /** Runs something that may fail, with words meanwhile. */
  private async during(words: string, task: () => Promise<void>): Promise<void> {
    this.busy.set(words);
    this.acknowledged.set(null);
    this.problem.set(null);
    try {
      await task();
    } catch (error) {
      this.problem.set(sentence(error));
    } finally {
      this.busy.set(null);
    }
  }

  protected readIn(): Promise<void> {
    return this.during('Reading what stands on it.', async () => {
      const device = this.device();
      if (!device?.link) return;
      const { values } = await this.link.read(device.link);
      this.work.noteFound(device.id, values);
      this.noted.emit();
    });
  }

  protected readStep(): Promise<void> {
    return this.during('Reading over the wire.', async () => {
      const step = this.stepHere();
      const name = this.name();
      if (!step || name === null) return;
      const { values, firmware } = await this.link.read(name);
      if (step.kind === 'identify') {
        if (firmware !== null) this.work.answer(step, { state: 'done', reading: firmware }, 'wire');
        return;
      }
      const roles = new Set((step.looks ?? []).map((l) => l.role));
      const silent = (step.looks ?? []).filter((l) => l.want !== null && values[l.role] === undefined).map((l) => l.label);
      // What has no register is not proved by those that have one.
      if (silent.length > 0) throw new LinkProblem(`No register tells ${silent.join(', ')}: look at its display, and answer this step by hand.`);
      this.work.answer(step, { state: 'done', values: Object.fromEntries(Object.entries(values).filter(([role]) => roles.has(role as never))) }, 'wire');
    });
  }

  protected writeOne(): Promise<void> {
    const step = this.stepHere();
    return step ? this.write([step]) : Promise.resolve();
  }

  protected writeAll(): Promise<void> {
    this.asking.set(false);
    return this.write(this.todo());
  }

  /** Reads a device whose state is unknown, twice, and says what became of the last write. */
  protected settleDoubt(): Promise<void> {
    return this.during('Reading what stands on it.', async () => {
      const name = this.name();
      const step = this.doubtedStep();
      if (name === null) return;
      const first = (await this.link.read(name)).values;
      const second = (await this.link.read(name)).values;
      if (!step?.value) {
        this.acknowledged.set(
          step?.kind === 'commit'
            ? 'The device answers. Whether it saved, no register tells: save again, and let the power cut show it.'
            : 'The device answers. Compare its values before you go on.',
        );
        return;
      }
      const { role, to, readBack } = step.value;
      if (first[role] === to && second[role] === to) {
        this.work.answer(step, { state: 'done', reading: to }, 'wire');
        this.acknowledged.set(`It was taken: ${step.title} reads ${readBack}.`);
        return;
      }
      const reads = first[role] === second[role] ? String(second[role] ?? 'nothing') : 'now this and now that';
      this.work.trouble(step, `${step.title}: the answer to the write was lost; read again it reads ${reads}.`);
      this.problem.set(`It was not taken: ${step.title} reads ${reads} instead of ${readBack}. It can be written again.`);
    });
  }

  private write(steps: readonly SheetStep[]): Promise<void> {
    const name = this.name();
    const wire: WireStep[] = steps.flatMap((s): WireStep[] =>
      s.kind === 'commit' ? [{ step: s.id, commit: true }] : s.value ? [{ step: s.id, role: s.value.role, value: s.value.to }] : [],
    );
    if (name === null || wire.length === 0) return Promise.resolve();
    return this.during(wire.length === 1 ? 'Writing, and reading back.' : `Writing 1 of ${wire.length}, and reading back.`, async () => {
      let done = 0;
      await this.link.write(name, wire, (sent, outcome) => {
        const step = steps.find((s) => s.id === sent.step);
        if (!step) return false;
        done++;
        this.busy.set(`Writing ${Math.min(done + 1, wire.length)} of ${wire.length}, and reading back.`);
        return this.take(step, outcome);
      });
    });
  }

  /** Keeps what came of a write. Only a value that was read back answers its step. */
  private take(step: SheetStep, outcome: Outcome): boolean {
    if (outcome.kind === 'readBack' && step.value) {
      this.work.answer(step, { state: 'done', reading: step.value.to }, 'wire');
      return true;
    }
    if (outcome.kind === 'acknowledged') {
      this.work.answer(step, { state: 'done', reading: 'acknowledged, not seen' }, 'wire');
      this.acknowledged.set(outcome.says);
      return true;
    }
    const shown = this.shown(step, outcome);
    this.work.trouble(step, `${step.title}: ${shown}`);
    this.work.show(step.id);
    this.problem.set(`${step.title}: ${shown} Writing has stopped here.`);
    return false;
  }

  /** What came of it in words, with what a value that differs would do. */
  private shown(step: SheetStep, outcome: Outcome): string {
    if (outcome.kind !== 'differs' || outcome.value == null || !step.value || !step.device) return outcome.says;
    const would = typeof outcome.value === 'number' ? whatItMakes(this.plan(), step.device, step.value.role, outcome.value) : '';
    return `${outcome.says}${would} The device changed it on its way in, or never took it: look at its display before you write again.`;
  }
}

/** A charger whose source is off gives less than this, A. */
const stillAmps = 0.5;

const sentence = (error: unknown): string =>
  error instanceof LinkProblem ? error.message : 'The link failed in a way nobody foresaw. Go on by hand, and reload the page.';
