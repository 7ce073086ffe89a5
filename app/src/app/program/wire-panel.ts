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
  templateUrl: './wire-panel.html',
  styleUrl: './wire-panel.scss',
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
  /** Not on the server’s list, and this browser can open a port itself: it can be listened to, and read where its registers are known. */
  protected readonly reachable = computed(() => {
    const device = this.device();
    return this.ports.there && device && !this.work.running() ? { device, card: this.known()?.card ?? null } : null;
  });
  /** This page itself listens to it. */
  protected readonly listened = computed(() => this.link.listensTo(this.name() ?? ''));
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
