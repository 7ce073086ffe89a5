import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { TestRecord } from '@calm-keel/core/fieldtest';
import { LiveRecord } from '../data/live-record';
import { TestWork } from '../data/test-work';
import { Units } from '../data/units';
import { Glyph } from '../ui/glyph';
import { SmallPlot } from './small-plot';
import { TestEntry } from './test-entry';

/** Recording from the devices while a test runs, and taking what they tell into its fields. */
@Component({
  selector: 'ck-test-live',
  imports: [Glyph, SmallPlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (live.running(); as run) {
      <p>
        <ck-glyph name="note" [size]="15" /> Recording from the devices, <b class="n">{{ live.count() }}</b> samples.
        @if (newest(); as now) {
          <span class="n">{{ now.volts.toFixed(2) }} V, {{ now.amps.toFixed(1) }} A</span>
        }
        <button type="button" class="do" (click)="live.end()">Stop</button>
        @if (fields()) {
          <button type="button" class="do" (click)="fromWire()">Take these into the fields</button>
        }
      </p>
      <ck-small-plot [points]="livePoints()" />
    } @else if (!record().endedAt) {
      <button type="button" class="ghost" (click)="startLive()">Record from the devices while you test</button>
    }
    @if (live.problem(); as why) {
      <p class="wrong" role="alert">{{ why }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      border-top: 1px solid var(--ck-rule-strong);
      padding-top: 10px;
      max-width: 720px;
      font-size: 0.875rem;
      p {
        display: flex;
        flex-wrap: wrap;
        gap: 4px 12px;
        align-items: center;
      }
      .ghost {
        min-height: 48px;
      }
    }
  `,
})
export class TestLive {
  protected readonly live = inject(LiveRecord);
  private readonly work = inject(TestWork);
  private readonly entry = inject(TestEntry);
  private readonly units = inject(Units);
  readonly record = input.required<TestRecord>();
  /** What the recording is called. */
  readonly name = input.required<string>();
  /** Whether the step in view has fields to take readings into. */
  readonly fields = input.required<boolean>();
  protected readonly livePoints = computed(() => this.live.recent().map((p) => ({ at: p.at, volts: p.volts, celsius: p.celsius })));
  protected readonly newest = computed(() => this.live.recent().at(-1) ?? null);

  protected async startLive(): Promise<void> {
    const { id, device } = this.record();
    const log = await this.live.begin(this.name(), device);
    if (log) this.work.note(id, { log });
  }

  /** Takes what the device tells at this moment into the fields. */
  protected fromWire(): void {
    const now = this.newest();
    if (!now) return;
    this.entry.fill({
      ...(Number.isFinite(now.volts) ? { volts: now.volts.toFixed(2) } : {}),
      ...(Number.isFinite(now.amps) ? { amps: now.amps.toFixed(1) } : {}),
      ...(Number.isFinite(now.celsius) ? { celsius: this.units.number(now.celsius).toFixed(1) } : {}),
    });
  }
}
