import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { cardKindWords, cardQuirks, type Role } from '@calm-keel/core/card';
import { withFound, onCompanion, withoutDevice } from '@calm-keel/core/job';
import type { Companion } from '@calm-keel/core/system';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { DetailFields } from './detail-fields';
import { FoundFields } from './found-fields';

/** A monitor or a thermostat: its name, what it switches, and what was found on it. */
@Component({
  selector: 'ck-companion-panel',
  imports: [DetailFields, FoundFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (companion(); as c) {
      <div class="top">
        <h2>{{ c.name }}</h2>
      </div>
      <ck-details place="companion" heading="name" [id]="c.id" />
      @if (card(); as k) {
        <p class="quiet">{{ k.maker }} {{ k.model }}, {{ kindWords[k.kind] }}. {{ k.commit.how }}</p>
        <details>
          <summary class="do">What is peculiar about it</summary>
          <ul>
            @for (quirk of quirks(k); track quirk) {
              <li>{{ quirk }}</li>
            }
          </ul>
        </details>
        <div class="sech"><span role="heading" aria-level="2">Switches</span></div>
        @for (target of targets(); track target.id) {
          <label class="tick"
            ><input #box type="checkbox" [checked]="c.switches.includes(target.id)" (change)="toggle(target.id, box.checked)" /> {{ target.name }}</label
          >
        }
        <ck-details place="companion" [id]="c.id" />
        <ck-found [device]="c.id" [card]="k" [values]="c.present" (changed)="found($event.role, $event.value)" />
      }
      <button type="button" class="do gone" (click)="remove()">Remove this companion</button>
    }
  `,
  styles: `
    ul {
      padding: 4px 0 4px 18px;
      list-style: disc;
      font-size: 0.8438rem;
      color: var(--ck-ink-2);
    }
    .gone {
      margin-top: 14px;
    }
  `,
})
export class CompanionPanel {
  private readonly store = inject(JobStore);
  private readonly selection = inject(Selection);
  readonly companion = input.required<Companion>();
  protected readonly card = computed(() => this.store.job()?.cards.find((c) => c.id === this.companion().card) ?? null);
  protected readonly kindWords = cardKindWords;
  protected readonly quirks = cardQuirks;
  protected readonly targets = computed(() => {
    const system = this.store.job()?.system;
    return system ? [{ id: 'loads', name: system.loads.name ?? 'Loads' }, ...system.chargers.map((c) => ({ id: c.id, name: c.name }))] : [];
  });

  protected toggle(target: string, on: boolean): void {
    const { id } = this.companion();
    const switched = ({ switches }: Companion): string[] => (on ? [...switches, target] : switches.filter((s) => s !== target));
    this.store.edit('Change a companion', (job) => onCompanion(job, id, (c) => ({ ...c, switches: switched(c) })), `${id} switches`);
  }

  protected found(role: Role, value: number | string | undefined): void {
    const { id } = this.companion();
    this.store.edit('Note a value as found', (job) => withFound(job, id, role, value), `${id} present ${role}`);
  }

  protected remove(): void {
    const { id } = this.companion();
    this.store.edit('Remove a companion', (job) => withoutDevice(job, id));
    this.selection.charger.set(null);
  }
}
