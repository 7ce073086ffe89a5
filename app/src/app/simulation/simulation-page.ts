import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import * as z from 'zod';
import { stages, type Stage } from '@calm-keel/core/charger';
import { formatNumber, formatQuantity, formatTimeOfDay } from '@calm-keel/core/quantity';
import { Units } from '../data/units';
import { Glyph } from '../ui/glyph';
import { stageLook } from '../ui/stages';

const stateSchema = z.object({
  speed: z.number(),
  faultKinds: z.record(z.string(), z.object({ words: z.string(), once: z.boolean() })),
  sites: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      minuteOfDay: z.number(),
      bank: z.object({ volts: z.number(), amps: z.number(), celsius: z.number(), charge: z.number() }),
      conditions: z.object({ light: z.number(), shiftC: z.number(), engine: z.boolean().nullable(), loadA: z.number() }),
      devices: z.array(
        z.object({
          name: z.string(),
          title: z.string(),
          model: z.string(),
          faults: z.array(z.string()),
          sensorC: z.number().nullable(),
          hasSensor: z.boolean(),
          unsaved: z.boolean(),
          stage: z.enum(stages).nullable(),
        }),
      ),
    }),
  ),
});
type SimulationState = z.infer<typeof stateSchema>;

/** How often the page looks, ms. */
const everyMs = 1000;

/** Simulated devices with their keys to press: faults, clouds, cold, a cut of the power. Marked on every edge as what it is. */
@Component({
  selector: 'ck-simulation-page',
  imports: [RouterLink, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './simulation-page.html',
  styleUrl: './simulation-page.scss',
})
export class SimulationPage {
  protected readonly state = signal<SimulationState | null>(null);
  protected readonly problem = signal<string | null>(null);
  protected readonly kinds = computed(() => Object.entries(this.state()?.faultKinds ?? {}).map(([name, kind]) => ({ name, ...kind })));
  protected readonly speeds = [0, 1, 10, 60, 300] as const;
  protected readonly open = signal<string | null>(null);
  private readonly timer = setInterval(() => void this.look(), everyMs);

  constructor() {
    void this.look();
    inject(DestroyRef).onDestroy(() => {
      clearInterval(this.timer);
    });
  }

  private async ask(path: string, init?: RequestInit): Promise<void> {
    try {
      const response = await fetch(`/api/simulation${path}`, init);
      const answer: unknown = await response.json();
      const read = stateSchema.safeParse(answer);
      if (read.success) {
        this.state.set(read.data);
        this.problem.set(null);
      } else this.problem.set((answer as { text?: string }).text ?? 'The simulated devices answer in a way this page does not know.');
      if (response.status === 404) clearInterval(this.timer);
    } catch {
      this.problem.set('The server does not answer. Start it with npm run demo.');
    }
  }

  private look(): Promise<void> {
    return this.ask('/state');
  }

  protected act(action: unknown): Promise<void> {
    return this.ask('/act', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(action) });
  }

  protected readonly clock = formatTimeOfDay;
  protected readonly volts = (v: number): string => formatQuantity(v, 'V', 2);
  protected readonly amps = (a: number): string => formatQuantity(a, 'A', 1);
  private readonly units = inject(Units);
  protected readonly celsius = (c: number): string => this.units.temperature(c, 1);
  protected readonly colder = computed(() => `${this.units.difference(25, 0)} colder`);
  protected readonly percent = (p: number): string => `${formatNumber(100 * p, 0)} %`;
  protected readonly stageWords = (stage: Stage): string => stageLook[stage].words;
}
