import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import type { Card } from '@calm-keel/core/card';
import { onCharger, onCompanion } from '@calm-keel/core/job';
import type { Charger } from '@calm-keel/core/system';
import { readSettings } from '@calm-keel/core/wire';
import { BrowserSerial, type LineSettings } from '../data/browser-serial';
import { DeviceLink } from '../data/device-link';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { Glyph } from '../ui/glyph';

const bauds = [1200, 2400, 4800, 9600, 19_200, 38_400, 57_600, 115_200];

/** A device at a serial port of this machine, where the browser itself can open one: what stands on it is read, or it is listened to. Nothing is written. */
@Component({
  selector: 'ck-own-port',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details>
      <summary class="do">Read it through a port of this machine</summary>
      <p class="quiet">Without a server: nothing is written. Take speed, parity and number from its manual; wire the adapter as its maker says.</p>
      <div class="row">
        <label
          >Speed, baud
          <select #b class="plain" (change)="baud.set(+b.value)">
            @for (x of bauds; track x) {
              <option [value]="x" [selected]="x === baud()">{{ x }}</option>
            }
          </select></label
        >
        <label
          >Parity
          <select #p class="plain" (change)="parity.set(asParity(p.value))">
            <option value="none" [selected]="parity() === 'none'">none</option>
            <option value="even" [selected]="parity() === 'even'">even</option>
            <option value="odd" [selected]="parity() === 'odd'">odd</option>
          </select></label
        >
        @if (card()?.telemetry) {
          <label>Its number<input #n class="plain n" inputmode="numeric" [value]="unit()" (change)="unit.set(n.value)" /></label>
        }
      </div>
      @if (busy()) {
        <p class="said" role="status"><span class="line">Reading what it is set to.</span></p>
      } @else {
        <div class="acts">
          @if (card()?.telemetry) {
            <button type="button" class="ghost" (click)="read()">Choose the port and read it</button>
          }
          <button type="button" class="ghost" (click)="listen()">Choose the port and listen</button>
        </div>
        <p class="quiet">Listen to one that sends lines of names and values by itself.</p>
      }
      @if (problem(); as why) {
        <p class="said bad" role="alert">
          <ck-glyph name="stop" /><span class="line">{{ why }}</span>
        </p>
      }
      @if (done(); as words) {
        <p class="said" role="status">
          <span class="line">{{ words }}</span>
        </p>
      }
    </details>
  `,
  styles: `
    .acts {
      display: grid;
      gap: 8px;
    }
    .row {
      display: grid;
      grid-template-columns: 1fr 1fr 72px;
      gap: 8px;
      padding: 6px 0 8px;
      label {
        font-size: 0.8438rem;
        color: var(--ck-ink-2);
      }
    }
  `,
})
export class OwnPort {
  private readonly ports = inject(BrowserSerial);
  private readonly work = inject(RunWork);
  private readonly link = inject(DeviceLink);
  private readonly store = inject(JobStore);
  readonly device = input.required<Charger>();
  /** Without one, or without registers on it, it can only be listened to. */
  readonly card = input.required<Card | null>();
  /** What is on it was noted. */
  readonly noted = output();

  protected readonly bauds = bauds;
  protected readonly baud = signal(9600);
  protected readonly parity = signal<LineSettings['parity']>('none');
  protected readonly unit = signal('1');
  protected readonly busy = signal(false);
  protected readonly problem = signal<string | null>(null);
  protected readonly done = signal<string | null>(null);
  protected readonly asParity = (value: string): LineSettings['parity'] => value as LineSettings['parity'];

  /** Listens to it under its address; one without an address gets its own name as that. */
  protected async listen(): Promise<void> {
    this.problem.set(null);
    this.done.set(null);
    const port = await this.ports.choose();
    if (!port) return;
    const { id, name, link } = this.device();
    const address = link ?? name.slice(0, 60);
    const named = <T extends object>(device: T): T => ({ ...device, link: address });
    if (link === undefined) this.store.edit(`Address of ${name}`, (job) => onCompanion(onCharger(job, id, named), id, named));
    this.link.listen(address, this.ports.listen(port, { baud: this.baud(), parity: this.parity(), stopBits: 1 }));
  }

  protected async read(): Promise<void> {
    const card = this.card();
    if (!card) return;
    this.problem.set(null);
    this.done.set(null);
    const number = Number(this.unit().trim());
    if (!Number.isInteger(number) || number < 1 || number > 247) {
      this.problem.set('The number of a device on a line is a whole one from 1 to 247.');
      return;
    }
    const port = await this.ports.choose();
    if (!port) return;
    this.busy.set(true);
    const bus = this.ports.bus(port, { baud: this.baud(), parity: this.parity(), stopBits: 1 });
    try {
      const read = await readSettings(bus.unit(number), card);
      if (read.ok) {
        this.work.noteFound(this.device().id, read.values);
        this.done.set(`${Object.keys(read.values).length} settings were read${read.firmware === null ? '' : `, firmware ${read.firmware}`}.`);
        this.noted.emit();
      } else this.problem.set(read.says);
    } finally {
      bus.close();
      this.busy.set(false);
    }
  }
}
