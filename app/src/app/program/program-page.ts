import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { cardOf, devicesOf, editPlan, targetsOf, type EditPlan } from '@calm-keel/core';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { FindingsList } from '../ui/findings-list';
import { Glyph } from '../ui/glyph';

/** Program: the order in which each device is keyed, and whether keying-in may begin. It can always be read. */
@Component({
  selector: 'ck-program-page',
  imports: [Glyph, FindingsList, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './program-page.html',
  styleUrl: './program-page.scss',
})
export class ProgramPage {
  protected readonly store = inject(JobStore);
  private readonly selection = inject(Selection);
  protected readonly live = signal(false);
  protected readonly back = signal(false);

  protected readonly devices = computed(() => {
    const plan = this.store.settled();
    return plan ? devicesOf(plan.input).filter((d) => plan.settings.some((s) => s.charger === d.id)) : [];
  });
  protected readonly device = computed(() => this.devices().find((d) => d.id === this.selection.charger()) ?? this.devices()[0] ?? null);
  protected readonly card = computed(() => {
    const plan = this.store.settled();
    const device = this.device();
    return plan && device ? (cardOf(plan.input, device) ?? null) : null;
  });
  /** Towards the targets, or back to what was found. */
  protected readonly edits = computed<EditPlan | null>(() => {
    const plan = this.store.settled();
    const device = this.device();
    if (!plan || !device) return null;
    return this.back()
      ? editPlan(plan, device.id, { from: targetsOf(plan, device.id), to: device.present, live: this.live() })
      : editPlan(plan, device.id, { live: this.live() });
  });
  protected readonly foundNothing = computed(() => Object.keys(this.device()?.present ?? {}).length === 0);

  protected readonly unread = computed(() => this.edits()?.steps.filter((s) => !s.readOff).length ?? 0);

  protected choose(id: string): void {
    this.selection.charger.set(id);
  }
}
