import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { cardKindWords, cardQuirks, roleSchema, type Companion } from '@calm-keel/core';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { TextField } from '../ui/text-field';
import { DetailFields } from './detail-fields';
import { FoundFields } from './found-fields';

/** A monitor or a thermostat: its name, what it switches, and what was found on it. */
@Component({
  selector: 'ck-companion-panel',
  imports: [TextField, DetailFields, FoundFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (companion(); as c) {
      <div class="top">
        <h2>{{ c.name }}</h2>
      </div>
      <ck-text-field label="Name" [value]="c.name" [max]="60" (changed)="change('name', { name: $event })" />
      @if (card(); as k) {
        <p class="quiet">{{ k.maker }} {{ k.model }}, {{ kind() }}. {{ k.commit.how }}</p>
        <details>
          <summary class="do">What is peculiar about it</summary>
          <ul>
            @for (quirk of quirks(); track quirk) {
              <li>{{ quirk }}</li>
            }
          </ul>
        </details>
        <div class="sech"><span>Switches</span></div>
        @for (target of targets(); track target.id) {
          <label class="tick"
            ><input #box type="checkbox" [checked]="c.switches.includes(target.id)" (change)="toggle(target.id, box.checked)" /> {{ target.name }}</label
          >
        }
        <ck-details place="companion" [id]="c.id" />
        <ck-found [card]="k" [values]="c.present" (changed)="found($event.role, $event.value)" />
      }
      <button type="button" class="do gone" (click)="remove()">Remove this companion</button>
    }
  `,
  styles: `
    .tick {
      display: flex;
      gap: 8px;
      align-items: center;
      min-height: 30px;
    }
    ul {
      padding: 4px 0 4px 18px;
      list-style: disc;
      font-size: 13.5px;
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
  protected readonly kind = computed(() => {
    const card = this.card();
    return card ? cardKindWords[card.kind] : '';
  });
  protected readonly quirks = computed(() => {
    const card = this.card();
    return card ? cardQuirks(card) : [];
  });
  protected readonly targets = computed(() => {
    const system = this.store.job()?.system;
    return system ? [{ id: 'loads', name: system.loads.name ?? 'Loads' }, ...system.chargers.map((c) => ({ id: c.id, name: c.name }))] : [];
  });

  protected change(field: string, by: Partial<Companion>): void {
    const { id } = this.companion();
    this.store.edit(
      'Change a companion',
      (job) => ({ ...job, system: { ...job.system, companions: job.system.companions.map((c) => (c.id === id ? { ...c, ...by } : c)) } }),
      `${id} ${field}`,
    );
  }

  protected toggle(target: string, on: boolean): void {
    const { switches } = this.companion();
    this.change('switches', { switches: on ? [...switches, target] : switches.filter((s) => s !== target) });
  }

  protected found(role: string, value: number | string | undefined): void {
    const { [roleSchema.parse(role)]: _before, ...others } = this.companion().present;
    this.change(`present ${role}`, { present: value === undefined || value === '' ? others : { ...others, [role]: value } });
  }

  protected remove(): void {
    const { id } = this.companion();
    this.store.edit('Remove a companion', (job) => {
      const companions = job.system.companions.filter((c) => c.id !== id);
      return {
        ...job,
        system: { ...job.system, companions },
        cards: job.cards.filter((card) => [...job.system.chargers, ...companions].some((c) => c.card === card.id)),
      };
    });
    this.selection.charger.set(null);
  }
}
