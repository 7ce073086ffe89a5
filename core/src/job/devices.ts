import { cardKindWords, driveOf, isSource, quickCard, systemClasses, type Card, type DeviceValues, type QuickKind, type Role } from '../card';
import { capital, formatQuantity } from '../quantity';
import { bareCharger, classOfVolts, type Charger, type Companion } from '../system';
import type { Job } from './job';

/** The job with one charger changed; an id it has not leaves it as it is. */
export const onCharger = (job: Job, id: string, change: (charger: Charger) => Charger): Job => ({
  ...job,
  system: { ...job.system, chargers: job.system.chargers.map((c) => (c.id === id ? change(c) : c)) },
});

/** The job with one companion changed; an id it has not leaves it as it is. */
export const onCompanion = (job: Job, id: string, change: (companion: Companion) => Companion): Job => ({
  ...job,
  system: { ...job.system, companions: job.system.companions.map((c) => (c.id === id ? change(c) : c)) },
});

/** The job with what stands on a device changed, be it a charger or a companion. */
export function onPresent(job: Job, id: string, change: (present: DeviceValues) => DeviceValues): Job {
  const noted = <T extends { readonly present: DeviceValues }>(device: T): T => ({ ...device, present: change(device.present) });
  return onCompanion(onCharger(job, id, noted), id, noted);
}

/** Notes what a device shows for a setting, on its own display; without a value it counts as not read. */
export function withFound(job: Job, id: string, role: Role, value: number | string | undefined): Job {
  return onPresent(job, id, ({ [role]: _before, ...others }) => (value === undefined || value === '' ? others : { ...others, [role]: value }));
}

/**
 * The job with one more device of a card, of which nobody has said anything yet. Panels that no charger takes go to it where it takes panels. A card of the
 * same id that the job has already stays as it is there.
 *
 * @param own id and name of the new one
 */
export function withDevice(job: Job, card: Card, own: { readonly id: string; readonly name: string }): Job {
  const cards = job.cards.some((c) => c.id === card.id) ? job.cards : [...job.cards, card];
  const device = { ...own, card: card.id };
  if (!isSource(card.kind)) {
    const companion: Companion = { ...device, present: {}, switches: card.kind === 'monitor' ? ['loads'] : [] };
    return { ...job, cards, system: { ...job.system, companions: [...job.system.companions, companion] } };
  }
  const { plannedArray, ...system } = job.system;
  const takes = plannedArray !== undefined && driveOf(card.kind) === 'sun';
  const charger: Charger = takes ? { ...bareCharger(device), array: plannedArray } : bareCharger(device);
  return { ...job, cards, system: { ...(takes ? system : job.system), chargers: [...system.chargers, charger] } };
}

/**
 * The job with one more charger like another: card, array, machine, feed, wiring and fuse are as there. What was read, compared or said of that one alone is
 * not: values found, its display, its sensor, firmware, passcode, overrides.
 *
 * @param own id and name of the new one
 */
export function withTwin(job: Job, id: string, own: { readonly id: string; readonly name: string }): Job {
  const at = job.system.chargers.findIndex((c) => c.id === id);
  const like = job.system.chargers[at];
  if (!like) return job;
  const { card, array, machine, feed, wire, fuseA, cableA, follows, besideShunt } = like;
  const copied = Object.entries({ array, machine, feed, wire, fuseA, cableA, follows, besideShunt }).filter(([, value]) => value !== undefined);
  const twin: Charger = { ...bareCharger({ ...own, card }), ...Object.fromEntries(copied) };
  const { chargers } = job.system;
  return { ...job, system: { ...job.system, chargers: [...chargers.slice(0, at + 1), twin, ...chargers.slice(at + 1)] } };
}

/** The job without a device, its overrides, and its card where no other device has it. */
export function withoutDevice(job: Job, id: string): Job {
  const chargers = job.system.chargers.filter((c) => c.id !== id);
  const companions = job.system.companions.filter((c) => c.id !== id);
  return {
    ...job,
    system: {
      ...job.system,
      chargers,
      companions,
      ...(job.system.lines ? { lines: job.system.lines.filter((line) => !line.before.startsWith(`${id}/`)) } : {}),
    },
    cards: job.cards.filter((card) => [...chargers, ...companions].some((c) => c.card === card.id)),
    overrides: job.overrides.filter((o) => o.charger !== id),
  };
}

/** A charger that a log speaks of and the job does not have yet, as somebody says what it is. */
export interface Newcomer {
  readonly id: string;
  readonly name: string;
  readonly kind: QuickKind;
  /** Rated output, A. */
  readonly outputA: number;
}

/**
 * The job with chargers that a log speaks of. Of each only its name, what it is and its rated output are known; that it works on a bank of the log’s
 * class is seen.
 *
 * @param bankVolts volts of the bank in the log, V; null where nobody can tell
 */
export function withNewcomers(job: Job, newcomers: readonly Newcomer[], bankVolts: number | null): Job {
  const seen = bankVolts === null ? null : classOfVolts(bankVolts);
  const taken = new Set([...job.system.chargers, ...job.system.companions].map((d) => d.id));
  const chargers: Charger[] = [];
  const cards: Job['cards'] = [];
  for (const { id, name, kind, outputA } of newcomers) {
    if (taken.has(id)) continue;
    let card = `${id}-card`;
    while (job.cards.some((c) => c.id === card)) card += '-2';
    const model = `${capital(cardKindWords[kind])}, ${formatQuantity(outputA, 'A', Number.isInteger(outputA) ? 0 : 1)}`;
    cards.push(quickCard({ id: card, maker: '', model, kind, outputA, systemVolts: seen === null ? systemClasses : [seen] }));
    chargers.push(bareCharger({ id, name, card }));
  }
  return { ...job, cards: [...job.cards, ...cards], system: { ...job.system, chargers: [...job.system.chargers, ...chargers] } };
}
