import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatQuantity } from '@calm-keel/core/quantity';
import { isAnswered, type SheetStep } from '@calm-keel/core/runsheet';
import { cardOf, devicesOf, type Plan } from '@calm-keel/core/settings';
import type { Charger } from '@calm-keel/core/system';
import { BrowserSerial } from '../data/browser-serial';
import { DeviceLink, staleMs } from '../data/device-link';
import { RunWork } from '../data/run-work';
import { whyItFailed, WireWork } from '../data/wire-work';
import { Glyph } from '../ui/glyph';
import { FieldsPanel } from './fields-panel';
import { OwnPort } from './own-port';
import { SaidSettings } from './said-settings';
import { WireLive } from './wire-live';

/** What goes over the wire: what a device tells now, what stands on it, and a whole charger written after one confirmation. */
@Component({
  selector: 'ck-wire-panel',
  imports: [FieldsPanel, Glyph, OwnPort, RouterLink, SaidSettings, WireLive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [WireWork],
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
        <ck-wire-live [state]="s" [old]="stale()" />
      } @else {
        <p class="quiet">Waiting for its first values.</p>
      }
      @if (stillOn(); as why) {
        <p class="said bad" role="alert">
          <ck-glyph name="stop" /><span class="line">{{ why }}</span>
        </p>
      }
      @if (doubt() && !wire.busy()) {
        <div class="said bad doubt" role="alert">
          <ck-glyph name="stop" />
          <span class="line"
            ><b>State unknown.</b> {{ doubted() }} was sent to {{ device()?.name }}, and no answer came that tells what became of it. Nothing more is sent
            before the device has been read.</span
          >
          <button type="button" class="ghost" (click)="settleDoubt()">Read the device</button>
        </div>
      }
      @if (wire.acknowledged(); as text) {
        <p class="said" role="status">
          <span class="line">{{ text }}</span>
        </p>
      }
      @if (wire.busy(); as words) {
        <p class="said" role="status">
          <span class="line">{{ words }}</span>
        </p>
      }
      @if (wire.problem(); as why) {
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
          <button type="button" class="ghost sure" (click)="write(todo())">Write {{ todo().length === 1 ? 'it' : 'them' }}</button>
          <button type="button" class="ghost" (click)="asking.set(false)">Not now</button>
        </div>
      } @else if (!wire.busy() && !talks()) {
        <div class="acts">
          @if (!work.running()) {
            <button type="button" class="ghost" (click)="readIn()">Read in what stands on it</button>
          }
          @if (stepHere()?.kind === 'identify' || stepHere()?.kind === 'readOff' || stepHere()?.kind === 'persist') {
            <button type="button" class="ghost" (click)="readStep()">Read this step over the wire</button>
          }
          @if (stepHere()?.value || stepHere()?.kind === 'commit') {
            <button type="button" class="ghost" [disabled]="notYet() !== null" (click)="write([stepHere()!])">
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
  protected readonly wire = inject(WireWork);
  private readonly ports = inject(BrowserSerial);
  readonly plan = input.required<Plan>();
  readonly device = input.required<Charger | null>();
  /** Goes to where values are compared. */
  readonly noted = output();
  protected readonly asking = signal(false);

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
        this.wire.problem.set(whyItFailed(error));
      });
    });
  }

  protected async readIn(): Promise<void> {
    const device = this.device();
    if (device && (await this.wire.readIn(device))) this.noted.emit();
  }

  protected async readStep(): Promise<void> {
    const [step, name] = [this.stepHere(), this.name()];
    if (step && name !== null) await this.wire.readStep(name, step);
  }

  protected async write(steps: readonly SheetStep[]): Promise<void> {
    this.asking.set(false);
    const name = this.name();
    if (name !== null) await this.wire.write(this.plan(), name, steps);
  }

  protected async settleDoubt(): Promise<void> {
    const name = this.name();
    if (name !== null) await this.wire.settle(name, this.doubtedStep());
  }
}

/** A charger whose source is off gives less than this, A. */
const stillAmps = 0.5;
