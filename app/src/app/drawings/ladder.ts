import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { Role } from '@calm-keel/core/card';
import type { Finding } from '@calm-keel/core/findings';
import { formatBand, formatNumber } from '@calm-keel/core/quantity';
import type { Plan } from '@calm-keel/core/settings';
import { editionOf } from '@calm-keel/core/sheet';
import { Units } from '../data/units';
import { cutText } from '../ui/cut-text';
import { layoutLadder, type BandShape, type Rung } from './ladder-layout';

/** A rung of the ladder: whose, and which. */
export interface RungPlace {
  readonly charger: string;
  readonly role: Role;
}

/**
 * The setpoint ladder: every setpoint on one scale of bank volts, the maker's bands behind. A rung is chosen with a press, tried by dragging it or
 * with the arrow keys, and let go with Escape.
 */
@Component({
  selector: 'ck-ladder',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ladder.svg.html',
  styles: `
    :host {
      display: block;
      overflow-x: auto;
    }
    svg {
      display: block;
      user-select: none;
    }
    .rung {
      cursor: pointer;
      outline: none;
    }
    .rung.movable .hit {
      cursor: ns-resize;
      touch-action: none;
    }
    .rung:focus-visible .frame {
      stroke: var(--ck-ink);
      stroke-width: 3;
      opacity: 1;
    }
    .hit {
      fill: transparent;
    }
  `,
})
export class LadderDrawing {
  private readonly units = inject(Units);
  readonly plan = input.required<Plan>();
  readonly width = input.required<number>();
  readonly height = input(500);
  readonly only = input<string | null>(null);
  readonly charger = input<string | null>(null);
  readonly role = input<Role | null>(null);
  /** Battery temperature to draw compensated setpoints at, °C. */
  readonly celsius = input<number | null>(null);
  /** The value being tried, and where it would stand otherwise. */
  readonly ghost = input<{ readonly device: string; readonly role: Role; readonly volts: number } | null>(null);
  /** What speaks against the values: a bar is as grave as the worst of them says. */
  readonly findings = input<readonly Finding[]>([]);
  readonly chosen = output<RungPlace>();
  /** A value to try, in true volts at the bank. */
  readonly tried = output<RungPlace & { readonly volts: number }>();
  /** One device step up or down. */
  readonly stepped = output<RungPlace & { readonly by: 1 | -1 }>();
  readonly reverted = output();

  private readonly dragging = signal<(RungPlace & { readonly startY: number; readonly moved: boolean }) | null>(null);
  protected readonly ladder = computed(() =>
    layoutLadder(this.plan(), { width: this.width(), height: this.height(), only: this.only(), celsius: this.celsius(), ghost: this.ghost() }),
  );
  protected readonly revision = computed(() => editionOf(this.plan().input.sheet));
  protected readonly summary = computed(() => {
    const at = this.celsius();
    return `Setpoint ladder: ${this.ladder().columns.length} devices, their setpoints on one voltage scale with the maker’s bands behind${at === null ? '' : `, at ${this.units.temperature(at)}`}. The table view has the same values.`;
  });

  protected bandText(shape: BandShape): string {
    const { min, max } = shape.band;
    return min === max && max !== undefined
      ? `${formatNumber(max, 1)} V`
      : shape.kind === 'recharge' && min === undefined
        ? `${formatNumber(max ?? 0, 1)} V at most`
        : formatBand(shape.band, 'V', this.bandDigits(shape));
  }

  private bandDigits({ band }: BandShape): number {
    return [band.min, band.max].every((v) => v === undefined || Math.abs(v * 10 - Math.round(v * 10)) < 1e-6) ? 1 : 2;
  }

  protected readonly volts = (value: number): string => formatNumber(value, 1);
  protected readonly perCell = (value: number): string => formatNumber(value, 2);

  /** As much of a name as its column holds; the whole of it stands in the roster. */
  protected short(name: string, width: number): string {
    return cutText(name, Math.floor((width - 14) / 7.6));
  }

  protected isChosen(charger: string, rung: Rung): boolean {
    return this.charger() === charger && this.role() === rung.role && !rung.asFound;
  }

  /** Whether a rung can be tried: one that is keyed here, at the reference temperature. */
  protected movable(rung: Rung): boolean {
    return !rung.asFound && !rung.inherited && this.celsius() === null;
  }

  /** From the words of a bar to where it should be; null where there is no room for an arrow between them. */
  protected arrow({ x }: { readonly x: number }, { labelY, towardsY }: Rung): string | null {
    if (towardsY === null) return null;
    const from = `M${x + 6} `;
    if (towardsY - labelY > 30) return `${from}${labelY + 13}V${towardsY - 16}m-4 0h8l-4 7z`;
    return labelY - towardsY > 24 ? `${from}${labelY - 13}V${towardsY + 7}m-4 0h8l-4 -7z` : null;
  }

  protected label(name: string, rung: Rung): string {
    const out = rung.outside === 0 ? '' : `, ${formatNumber(Math.abs(rung.outside), 2)} V ${rung.outside > 0 ? 'above' : 'below'} the band`;
    return `${name}: ${rung.words} ${formatNumber(rung.volts, 2)} V${rung.key ? `, ${rung.key}` : ''}${out}${rung.mark ? `, ${rung.mark}` : ''}`;
  }

  protected isStop(charger: string, rung: Rung): boolean {
    const said = this.findings().filter((f) => f.charger === charger && f.role === rung.role && f.severity !== 'note');
    return said.length === 0 || said.some((f) => f.severity === 'stop');
  }

  protected off(rung: Rung): string {
    const by = Math.abs(rung.outside);
    return `${formatNumber(by, by < 0.095 ? 2 : 1)} V ${rung.outside > 0 ? 'above' : 'below'}`;
  }

  /** Where the rung’s frame stands. */
  protected frame(rung: Rung): { y: number; height: number } {
    if (rung.style === 'line') return { y: rung.labelY - (rung.beside ? 9 : 15), height: (rung.beside ? 17 : 29) + (rung.second ? 14 : 0) };
    const label = {
      top: rung.labelY - (rung.style === 'bar' ? 14 : 22),
      bottom: rung.labelY + (rung.style === 'bar' ? 14 : rung.second ? 36 : 22),
    };
    const top = Math.min(label.top, rung.y - 4);
    return { y: top, height: Math.max(label.bottom, rung.y + 4) - top };
  }

  protected down(event: PointerEvent, charger: string, rung: Rung): void {
    if (!this.movable(rung) || event.button !== 0 || (event.pointerType === 'touch' && !this.isChosen(charger, rung))) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.dragging.set({ charger, role: rung.role, startY: event.clientY, moved: false });
  }

  protected move(event: PointerEvent): void {
    const drag = this.dragging();
    if (!drag) return;
    if (!drag.moved && Math.abs(event.clientY - drag.startY) < 4) return;
    if (!drag.moved) this.dragging.set({ ...drag, moved: true });
    const svg = (event.currentTarget as Element).closest('svg');
    if (!svg) return;
    const y = event.clientY - svg.getBoundingClientRect().top;
    this.tried.emit({ charger: drag.charger, role: drag.role, volts: this.ladder().voltsAt(y) });
  }

  protected up(charger: string, rung: Rung): void {
    this.dragging.set(null);
    this.chosen.emit({ charger, role: rung.role });
  }

  protected key(event: KeyboardEvent, charger: string, rung: Rung): void {
    const place = { charger, role: rung.role };
    if (event.key === 'Enter' || event.key === ' ') this.chosen.emit(place);
    else if (event.key === 'Escape') this.reverted.emit();
    else if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && this.movable(rung))
      this.stepped.emit({ ...place, by: event.key === 'ArrowUp' ? 1 : -1 });
    else return;
    event.preventDefault();
  }

  /** Teeth of a trip line, pointing into the allowed side. */
  protected teeth(y: number, allowed: 'below' | 'above'): string {
    const { left, right } = this.ladder();
    const tip = allowed === 'below' ? 6 : -6;
    let path = `M${left} ${y}`;
    for (let x = left; x + 10 <= right; x += 10) path += `l5 ${tip}l5 ${-tip}`;
    return `${path}H${right}v${-tip / 3}H${left}z`;
  }

  /** Hanging ticks of an "at most" line. */
  protected hanging(y: number): string {
    const { left, right } = this.ladder();
    let path = '';
    for (let x = left + 3; x < right; x += 6) path += `M${x} ${y}v7`;
    return path;
  }

  protected zigzag(y: number): string {
    const { left, right } = this.ladder();
    let path = `M${left} ${y}`;
    for (let x = left; x + 12 <= right; x += 12) path += 'l6 -4l6 4';
    return path;
  }
}
