import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { NavigationEnd, NavigationStart, Router } from '@angular/router';
import { roleInfo, type Role } from '@calm-keel/core/card';
import { devicesOf } from '@calm-keel/core/settings';
import { figureKeys } from '@calm-keel/core/sheet';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';

/** What the address says of a choice; null says nothing, which is the bank and the first setting or figure. */
type Said = Readonly<Record<'device' | 'setting' | 'figure', string | null>>;
/** What should be there; what a station does not choose is left as it is: another may use the word for something of its own. */
type Wanted = Pick<Said, 'device'> & Partial<Said>;

/** Stations at which the device changes by the work itself: going back does not step through it. */
const byItself: readonly string[] = ['program', 'rehearse'];

/**
 * Keeps address and choice the same: what is chosen is in the address, so that a reload, a link in another tab and the way back come to it. An address that says
 * nothing leaves the choice as it is, except on the way back, where it means what it meant then.
 */
@Injectable()
export class ChosenAddress {
  private readonly router = inject(Router);
  private readonly selection = inject(Selection);
  private readonly store = inject(JobStore);
  private readonly arrived = signal(0);
  private readonly devices = computed(() => {
    const job = this.store.job();
    return new Set(job ? devicesOf(job).map((d) => d.id) : []);
  });
  /** The way here was the browser's own, back or forward. */
  private byHistory = false;
  /** The arrival whose address was completed. */
  private completed = -1;

  constructor() {
    this.read();
    this.router.events.pipe(takeUntilDestroyed()).subscribe((event) => {
      if (event instanceof NavigationStart) this.byHistory = event.navigationTrigger === 'popstate';
      if (event instanceof NavigationEnd) {
        this.read();
        this.arrived.update((n) => n + 1);
      }
    });
    effect(() => {
      const wanted = this.chosen();
      // On the way to somewhere else it is written there; before the job is open nobody knows its devices.
      if (this.router.currentNavigation() || this.store.state() !== 'ready') return;
      untracked(() => {
        this.write(wanted);
      });
    });
  }

  private station(): string {
    return this.router.url.split(/[/?#]/)[3] ?? '';
  }
  private said(): Said {
    const params = this.router.parseUrl(this.router.url).queryParams as Partial<Record<keyof Said, string>>;
    return { device: params.device ?? null, setting: params.setting ?? null, figure: params.figure ?? null };
  }

  /** What should be in the address: the choice, where it is one of this job and of this station. */
  private readonly chosen = computed<Wanted>(() => {
    const charger = this.selection.charger();
    const [role, figure] = [this.selection.role(), this.selection.figure()];
    this.arrived();
    const station = this.station();
    return {
      device: charger !== null && this.devices().has(charger) ? charger : null,
      ...(station === 'settings' ? { setting: role === firstRole ? null : role } : {}),
      ...(station === 'spec' ? { figure: figure === firstFigure ? null : figure } : {}),
    };
  });

  /** Takes over what the address says. */
  private read(): void {
    const said = this.said();
    if (said.device !== null || this.byHistory) this.selection.charger.set(said.device);
    const [role, figure] = [said.setting ?? (this.byHistory ? firstRole : ''), said.figure ?? (this.byHistory ? firstFigure : '')];
    if (this.station() === 'settings' && Object.hasOwn(roleInfo, role)) this.selection.role.set(role as Role);
    const key = figureKeys.find((k) => k === figure);
    if (this.station() === 'spec' && key) this.selection.figure.set(key);
  }

  private write(wanted: Wanted): void {
    const said = this.said();
    // The address of a station just come to says nothing of the choice yet: it is completed, which is no step of its own.
    const completing = this.completed !== this.arrived();
    this.completed = this.arrived();
    if (Object.entries(wanted).every(([key, value]) => said[key as keyof Said] === value)) return;
    const station = this.station();
    const aStep = wanted.device !== said.device && !completing && !byItself.includes(station) && !(station === 'settings' && said.device === null);
    void this.router.navigate([], { queryParams: { ...wanted }, queryParamsHandling: 'merge', replaceUrl: !aStep });
  }
}

const firstRole = 'absorbVoltage';
const firstFigure = 'absorbVoltage';
