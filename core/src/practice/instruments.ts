import { randomFrom } from '../physics';
import type { Sight } from './done';
import type { Prepared } from './prepared';
import type { Setup } from './faults';
import type { Site } from './site';

/** Parts of the gain a meter may be wrong by, and a thermometer by, °C. */
const gainPart = 0.003;
const thermometerC = 0.3;
/** Most of the cable’s drop lies on the plus side, where fuse and breaker are. */
const plusPart = 0.75;
/** Less in each string than this, A, is no sun to tell by. */
const dimA = 0.3;
/** Under this clearness the sky is broken cloud. */
const cloudyBelow = 0.7;

/** What an instrument showed: the key of its line, its number, and a second one beside it. */
export interface Measured {
  readonly key: string;
  readonly number: number;
  readonly beside?: number;
}

/** A number as an instrument shows it, with so many decimals. */
export const rounded = (value: number, digits: number): number => Math.round(value * 10 ** digits) / 10 ** digits;

/** The instruments of one exercise, each with the error that it has all along. */
export function instrumentsOf(seed: number, site: Site, at: Prepared, arrived: Setup) {
  const random = randomFrom(seed ^ 0x5bd1);
  const gain = 1 + gainPart * (2 * random() - 1);
  const offC = thermometerC * (2 * random() - 1);
  const amps = (id: string): number => site.plant().reading(id)?.amps ?? 0;

  /** Volts of a probe against the bank’s minus. */
  function potential(probe: string): number {
    const plus = probe.endsWith('+');
    const where = probe.slice(0, -1);
    const bank = site.plant().bank();
    if (where === 'bank') return plus ? bank.volts : 0;
    if (where === 'bus') return plus ? bank.busVolts : 0;
    const [side = '', id = ''] = where.split(':');
    const r = site.plant().reading(id);
    if (!r) return 0;
    const minus = -(1 - plusPart) * r.cableDrop;
    if (side === 'in') return plus ? minus + (Number.isFinite(r.inputVolts) ? r.inputVolts : 0) : minus;
    return plus ? bank.busVolts + plusPart * r.cableDrop : minus;
  }
  /** What is measured between two probes: volts at a place, volts lost on a charger’s way, or neither. */
  function meterKey(red: string, black: string): string {
    const [a, b] = [red.slice(0, -1), black.slice(0, -1)];
    const across = red.at(-1) !== black.at(-1);
    if (across && a === b) return a.startsWith('at:') ? `meter:${a.slice(3)}` : a.startsWith('in:') ? `input:${a.slice(3)}` : `meter:${a}`;
    const charger = [a, b].find((p) => p.startsWith('at:'));
    const toBank = [a, b].some((p) => p === 'bank' || p === 'bus');
    return !across && charger !== undefined && toBank ? `drop:${charger.slice(3)}` : 'meter:other';
  }

  /** What the monitor counts: what flows beside its shunt is missing, and with its leads swapped it counts backwards. */
  const monitorAmps = (): number =>
    (site.shuntReversed() ? -1 : 1) *
    site.truth().system.chargers.reduce((sum, c) => (c.besideShunt === true ? sum - amps(c.id) : sum), site.plant().bank().amps);
  const began = site.plant().bank().counted;
  /** The state of charge that it has come to by counting, as a part. */
  const monitorCharge = (): number => {
    const { counted } = site.plant().bank();
    return site.shuntReversed() ? Math.min(1, Math.max(0, 2 * began - counted)) : counted;
  };
  const loadAmps = (): number => site.truth().system.chargers.reduce((sum, c) => sum + amps(c.id), 0) - site.plant().bank().amps;

  /** What a look meets on one charger. */
  function lookAt(thing: string, id: string): Sight {
    const charger = site.truth().system.chargers.find((c) => c.id === id);
    const planned = at.plan.input.system.chargers.find((c) => c.id === id);
    switch (thing) {
      case 'sensor':
        if (charger?.sensor.fitted !== true) return 'none';
        if (site.unplugged.has(id)) return 'unplugged';
        return charger.sensor.place === 'pad' ? 'onPad' : charger.sensor.place === 'chargerCase' ? 'inCase' : 'onBattery';
      case 'joints':
        return (charger?.wire?.lengthM ?? 0) > (planned?.wire?.lengthM ?? 0) ? 'burnt' : 'fine';
      case 'isolator':
        return site.isolated(id) ? 'open' : 'closed';
      case 'negative':
        return charger?.besideShunt === true ? 'besideShunt' : 'throughShunt';
      case 'shunt':
        return site.shuntReversed() ? 'leadsSwapped' : 'leadsRight';
      case 'relay': {
        const relay = site.truth().system.companions.find((c) => c.id === id)?.relay;
        return relay ? (relay.breaks === 'batterySide' ? 'partsBattery' : 'partsSource') : 'none';
      }
      default:
        return 'fine';
    }
  }

  return {
    monitorAmps,
    monitorCharge,
    meter: (red: string, black: string): Measured => ({ key: meterKey(red, black), number: rounded((potential(red) - potential(black)) * gain, 2) }),
    clamp: (where: string): Measured => ({
      key: `clamp:${where}`,
      number: rounded(where === 'bank' ? site.plant().bank().amps : where === 'loads' ? loadAmps() : amps(where), 1),
    }),
    /** The lowest and the highest string of an array; null where there is none. */
    strings(id: string): Measured | null {
      const planned = at.plan.input.system.chargers.find((c) => c.id === id)?.array?.inParallel ?? 0;
      const live = site.truth().system.chargers.find((c) => c.id === id)?.array?.inParallel ?? 0;
      const r = site.plant().reading(id);
      if (!r || planned === 0) return null;
      const each = r.inputVolts > 1 ? (r.amps * r.terminalVolts) / r.inputVolts / Math.max(1, live) : 0;
      // In the dark all are nought, and that shows nothing.
      return { key: each > dimA ? `strings:${id}` : `dark:${id}`, number: live < planned ? 0 : rounded(each, 1), beside: rounded(each, 1) };
    },
    thermometer(where: 'battery' | 'air'): Measured {
      const bank = site.plant().bank();
      return { key: `thermometer:${where}`, number: rounded((where === 'battery' ? bank.celsius : bank.airC) + offC, 1) };
    },
    /** What a look with the torch meets; of cells, how far the highest is above the mean, V. */
    look(what: string): { readonly sight: Sight; readonly number: number | null } {
      const [thing = '', id] = what.split(':');
      const { bank } = site.truth().system;
      if (thing === 'cells') return bank.hasBms ? { sight: 'cells', number: rounded(bank.cellSpreadV ?? 0, 2) } : { sight: 'none', number: null };
      const seen: Readonly<Record<string, () => Sight>> = {
        array: () => (site.covered() ? 'snow' : 'clear'),
        sky: () => (arrived.scenario.clearness < cloudyBelow ? 'cloud' : 'clear'),
        loads: () => (site.loadLeftOn() ? 'loadLeftOn' : 'loadsUsual'),
        label: () => (arrived.wallSheet === null ? 'sameSheet' : 'otherSheet'),
      };
      return { sight: seen[thing]?.() ?? lookAt(thing, id ?? ''), number: null };
    },
  };
}
export type Instruments = ReturnType<typeof instrumentsOf>;
