import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { capital, formatNumber, formatQuantity } from '@calm-keel/core/quantity';
import { breakWords, relayPlan, type Plan, type RelaySource } from '@calm-keel/core/settings';
import type { Breaks } from '@calm-keel/core/system';
import { JobStore } from '../data/job-store';
import { Units } from '../data/units';
import { ChoiceField } from '../ui/choice-field';
import { Glyph } from '../ui/glyph';
import { NumberField } from '../ui/number-field';
import { Moves } from '../ui/moves';

const places: readonly { readonly value: Breaks; readonly words: string }[] = (Object.keys(breakWords) as Breaks[]).map((value) => ({
  value,
  words: capital(breakWords[value]),
}));

/** The thermostat and its relay: what the contact must break, a wiring sketch from the data, and what happens in every case. */
@Component({
  selector: 'ck-relay-view',
  imports: [Moves, ChoiceField, Glyph, NumberField, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (relay(); as r) {
      <p class="quiet">
        Its {{ r.output }} output {{ r.output === 'cooling' ? 'closes above' : 'closes below' }} {{ t(r.closesC) }} and opens at {{ t(r.opensC) }}: the coldest
        cell still charged is at {{ t(r.coldestCellC) }}.
      </p>
      <div class="fields">
        <ck-choice-field
          label="The relay opens"
          [value]="r.companion.relay?.breaks ?? r.sources[0]?.breaks ?? 'arraySide'"
          [options]="places"
          (changed)="set({ breaks: asBreaks($event) })"
        />
        <ck-number-field
          label="Contact breaks"
          unit="V"
          [value]="r.companion.relay?.volts ?? undefined"
          [optional]="true"
          [min]="1"
          [max]="2000"
          (changed)="set({ volts: $event })"
        />
        <ck-number-field
          label="Contact carries"
          unit="A"
          [value]="r.companion.relay?.amps ?? undefined"
          [optional]="true"
          [min]="0.1"
          [max]="2000"
          (changed)="set({ amps: $event })"
        />
        <ck-number-field
          label="Coil takes"
          unit="W"
          [value]="r.companion.relay?.coilW ?? undefined"
          [optional]="true"
          [min]="0"
          [max]="200"
          (changed)="set({ coilW: $event })"
        />
        <label class="check"
          ><input #fused type="checkbox" [checked]="r.companion.relay?.fusedSupply === true" (change)="set({ fusedSupply: fused.checked })" /> Coil on a fused
          slot of its own</label
        >
      </div>
      <div class="need">
        @for (s of r.sources; track s.charger.id) {
          <p [class.t-stop]="!s.enough || s.breaks !== s.right">
            <ck-glyph [name]="s.enough && s.breaks === s.right ? 'done' : 'stop'" />
            <span>{{ asks(s) }}</span>
          </p>
        } @empty {
          <p class="t-attention">It switches nothing yet. <a class="do" [routerLink]="['../system']">Say on System what it switches</a></p>
        }
      </div>
      @if (sketch(); as k) {
        <svg [attr.width]="width()" [attr.height]="k.height" [attr.viewBox]="'0 0 ' + width() + ' ' + k.height" role="img" [attr.aria-label]="k.words">
          @for (row of k.rows; track row.y) {
            <rect x="8" [attr.y]="row.y" [attr.width]="k.box" height="44" fill="#fdfcf9" stroke="#1d2a35" stroke-width="1.5" />
            <text x="16" [attr.y]="row.y + 18" font-size="13.5" font-weight="620" fill="#1d2a35">{{ row.source }}</text>
            <text x="16" [attr.y]="row.y + 35" font-size="12.5" fill="#414e58">{{ row.sourceLine }}</text>
            <path [attr.d]="'M' + (8 + k.box) + ' ' + (row.y + 22) + 'H' + (k.breakX - 22)" stroke="#1d2a35" stroke-width="2.4" />
            <path [attr.d]="'M' + (k.breakX + 22) + ' ' + (row.y + 22) + 'H' + k.chargerX" stroke="#1d2a35" stroke-width="2.4" />
            @if (row.open) {
              <path
                [attr.d]="'M' + (k.breakX - 22) + ' ' + (row.y + 22) + 'l36 -16M' + (k.breakX + 22) + ' ' + (row.y + 22) + 'm-3 0a3 3 0 1 0 6 0a3 3 0 1 0 -6 0'"
                fill="none"
                [attr.stroke]="row.good ? '#1d2a35' : '#a0182e'"
                stroke-width="2.6"
              />
              <text [attr.x]="k.breakX" [attr.y]="row.y + 42" font-size="12.5" text-anchor="middle" [attr.fill]="row.good ? '#1d2a35' : '#a0182e'">
                {{ row.contact }}
              </text>
              <path [attr.d]="'M' + k.breakX + ' ' + (row.y + 47) + 'V' + k.coilY" stroke="#2f6479" stroke-width="1.3" stroke-dasharray="2 4" />
            } @else {
              <path [attr.d]="'M' + (k.breakX - 22) + ' ' + (row.y + 22) + 'h44'" stroke="#1d2a35" stroke-width="2.4" />
              <path
                [attr.d]="'M' + (k.chargerX + 30) + ' ' + (row.y + 44) + 'V' + (k.coilY + 20) + 'H' + (k.breakX + 84)"
                stroke="#2f6479"
                stroke-width="1.3"
                stroke-dasharray="2 4"
              />
            }
            <rect [attr.x]="k.chargerX" [attr.y]="row.y" [attr.width]="k.box" height="44" fill="#fdfcf9" stroke="#1d2a35" stroke-width="1.5" />
            <text [attr.x]="k.chargerX + 8" [attr.y]="row.y + 18" font-size="13.5" font-weight="620" fill="#1d2a35">{{ row.charger }}</text>
            <text [attr.x]="k.chargerX + 8" [attr.y]="row.y + 35" font-size="12.5" fill="#414e58">{{ row.chargerLine }}</text>
            <path [attr.d]="'M' + (k.chargerX + k.box) + ' ' + (row.y + 22) + 'H' + k.busX" stroke="#1d2a35" stroke-width="2.4" />
            @if (row.battery) {
              <path [attr.d]="'M' + (k.chargerX + k.box + 12) + ' ' + (row.y + 22) + 'l26 -14'" stroke="#a0182e" stroke-width="2.6" />
            }
          }
          <path [attr.d]="'M' + k.busX + ' ' + k.busTop + 'V' + k.busBottom" stroke="#1d2a35" stroke-width="4.5" />
          <text [attr.x]="k.busX - 6" [attr.y]="k.busBottom + 16" font-size="12.5" text-anchor="end" fill="#414e58">bank</text>
          <rect [attr.x]="k.breakX - 84" [attr.y]="k.coilY" width="168" height="40" fill="#e6eef1" stroke="#2f6479" stroke-width="1.5" />
          <text [attr.x]="k.breakX - 76" [attr.y]="k.coilY + 17" font-size="13.5" font-weight="620" fill="#1d2a35">{{ k.name }}</text>
          <text [attr.x]="k.breakX - 76" [attr.y]="k.coilY + 33" font-size="12.5" fill="#414e58">{{ k.coil }}</text>
        </svg>
      }
      <div class="scroll" ckMoves="What happens when something fails">
        <table>
          <caption>
            What happens
          </caption>
          <thead>
            <tr>
              <th scope="col">Battery</th>
              <th scope="col">Output</th>
              <th scope="col">Relay</th>
              <th scope="col">Charger</th>
              <th scope="col">Bank</th>
            </tr>
          </thead>
          <tbody>
            @for (row of r.rows; track row.when) {
              <tr>
                <th scope="row">{{ when(row.when) }}</th>
                <td>{{ row.output }}</td>
                <td>{{ row.relay }}</td>
                <td [class.t-stop]="!row.chargerAlive">{{ row.chargerAlive ? 'alive' : 'loses its supply' }}</td>
                <td [class.t-stop]="row.wrong">{{ row.bankCharging ? (row.wrong ? 'charging, though cold' : 'charging') : 'not charging' }}</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
      @if (r.coilWhPerDay !== null) {
        <p class="quiet">Held closed all day, the coil takes {{ number(r.coilWhPerDay) }} Wh{{ ofBank(r.coilWhPerDay) }}.</p>
      }
      <p class="quiet">
        The array is live in daylight, and breaking it under load draws an arc: over 60 V, and for all wiring, local codes and a licensed electrician decide.
      </p>
    } @else {
      <p class="quiet">No setpoint can be worked out for this thermostat: the sheet gives no least charging temperature.</p>
    }
  `,
  styleUrl: './relay-view.scss',
})
export class RelayView {
  private readonly store = inject(JobStore);
  private readonly units = inject(Units);
  readonly plan = input.required<Plan>();
  readonly companion = input.required<string>();
  readonly width = input.required<number>();
  protected readonly places = places;

  protected readonly relay = computed(() => relayPlan(this.plan(), this.companion()));
  /** What part of the bank the coil takes in a day; nothing while the capacity is not known. */
  protected ofBank(perDayWh: number): string {
    const { capacityAh, nominalVolts } = this.plan().facts;
    return capacityAh === null ? '' : `, ${formatNumber((100 * perDayWh) / (capacityAh * nominalVolts), 1)} % of the bank`;
  }

  protected readonly sketch = computed(() => {
    const r = this.relay();
    if (!r || r.sources.length === 0 || this.width() < 560) return null;
    const width = this.width();
    const box = Math.min(190, (width - 190) / 2.4);
    const busX = width - 30;
    const chargerX = busX - 56 - box;
    const breakX = (8 + box + chargerX) / 2;
    const rows = r.sources.map((s, i) => {
      const array = s.charger.array;
      const open = s.breaks === 'arraySide';
      return {
        y: 12 + i * 62,
        source: array ? `Array ${array.inSeries}s${array.inParallel}p` : (s.charger.machine?.name ?? s.charger.feed?.name ?? 'Source'),
        sourceLine: s.volts !== null && array ? `${formatNumber(s.volts, 0)} V cold, ${formatNumber(s.amps ?? 0, 0)} A` : '',
        charger: s.charger.name,
        chargerLine: open ? s.card.model : `stopped at ${breakWords[s.breaks]}`,
        contact: open
          ? `${r.contact.volts === null ? '?' : formatNumber(r.contact.volts, 0)} V ${r.contact.amps === null ? '?' : formatNumber(r.contact.amps, 0)} A`
          : '',
        good: s.enough && s.breaks === s.right,
        open,
        battery: s.breaks === 'batterySide' || s.breaks === 'output',
      };
    });
    const coilY = 12 + rows.length * 62 + 8;
    return {
      rows,
      box,
      breakX,
      chargerX,
      busX,
      busTop: 12,
      busBottom: coilY + 24,
      coilY,
      height: coilY + 52,
      name: r.companion.name,
      coil: `${r.output} output${r.companion.relay?.coilW === undefined ? '' : `, coil ${formatNumber(r.companion.relay.coilW, 1)} W`}`,
      words: `Wiring: ${r.sources.map((s) => this.asks(s)).join(' ')}`,
    };
  });

  protected t(celsius: number): string {
    return this.units.temperature(celsius, 1);
  }

  protected number(value: number, digits = 0): string {
    return formatNumber(value, digits);
  }

  protected when(words: string): string {
    return capital(words);
  }

  protected asBreaks(value: string): Breaks {
    return value as Breaks;
  }

  /** What one source asks of the contact, and whether it gets it. */
  protected asks(s: RelaySource): string {
    const r = this.relay();
    if (s.breaks !== s.right) return `${s.charger.name} belongs stopped at ${breakWords[s.right]}, not at ${breakWords[s.breaks]}.`;
    if (s.volts === null) return `${s.charger.name} is stopped at ${breakWords[s.breaks]}: a control contact does.`;
    const has = `${r?.contact.volts == null ? 'an unknown voltage' : formatQuantity(r.contact.volts, 'V', 0)} and ${r?.contact.amps == null ? 'an unknown current' : formatQuantity(r.contact.amps, 'A', 0)}`;
    return `${s.charger.name}: ${breakWords[s.breaks]} asks for ${formatQuantity(s.volts, 'V', 0)} DC (cold, open circuit) and ${formatQuantity(s.amps ?? 0, 'A', 0)} (1.25 × short circuit); ${r?.contact.own ? 'the thermostat’s own contact' : 'this contact'} breaks ${has}${s.enough ? '.' : ': too small.'}`;
  }

  protected set(change: { breaks?: Breaks; volts?: number | undefined; amps?: number | undefined; coilW?: number | undefined; fusedSupply?: boolean }): void {
    const r = this.relay();
    if (!r) return;
    // A field emptied means "not known", which the document says by leaving it out.
    const { breaks, volts, amps, coilW, fusedSupply } = { breaks: r.sources[0]?.breaks ?? ('arraySide' as const), ...r.companion.relay, ...change };
    this.store.apply('Change the relay', [
      {
        kind: 'setCompanion',
        companion: r.companion.id,
        values: {
          relay: {
            breaks,
            ...(volts === undefined ? {} : { volts }),
            ...(amps === undefined ? {} : { amps }),
            ...(coilW === undefined ? {} : { coilW }),
            ...(fusedSupply === undefined ? {} : { fusedSupply }),
          },
        },
      },
    ]);
  }
}
