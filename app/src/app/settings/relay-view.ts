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
  templateUrl: './relay-view.html',
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
    return `${s.charger.name}: ${breakWords[s.breaks]} needs ${formatQuantity(s.volts, 'V', 0)} DC (cold, open circuit) and ${formatQuantity(s.amps ?? 0, 'A', 0)} (1.25 × short circuit); ${r?.contact.own ? 'the thermostat’s own contact' : 'this contact'} breaks ${has}${s.enough ? '.' : ': too small.'}`;
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
