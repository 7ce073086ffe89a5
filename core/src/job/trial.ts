import { isSource, type Card } from '../card';
import { assumedOfBattery, deriveSettings, withSaid, type Plan } from '../settings';
import type { Sheet } from '../sheet';
import { systemVoltageOf, bareCharger } from '../system';
import { newJob } from './job';

/** Batteries of a sheet in series that a card is made for, and the system volts each makes. */
export function trialBanks(card: Card, sheet: Sheet): readonly { readonly inSeries: number; readonly volts: number }[] {
  return [1, 2, 3, 4].flatMap((inSeries) => {
    const volts = systemVoltageOf(sheet.unit.nominalVolts * inSeries);
    return volts !== null && card.ratings.systemVolts.includes(volts) ? [{ inSeries, volts }] : [];
  });
}

/**
 * What a device would hold of everything that a sheet wants: worked out as on a job with one string of its batteries and this device alone. Place, loads,
 * array, wires and sensor are not said; what depends on them is as cautious as on a job that does not say them.
 *
 * @param inSeries batteries in series, 1 or more
 * @example trialOf(s45, corvane, 2).settings // 28.2 V wanted for absorb, 28.2 V held
 */
export function trialOf(card: Card, sheet: Sheet, inSeries: number): Plan {
  const job = withSaid(newJob('trial', '', new Date(0).toISOString()), assumedOfBattery);
  const device = { id: 'tried', name: card.model, card: card.id, present: {} };
  const source = isSource(card.kind);
  return deriveSettings({
    ...job,
    sheet,
    cards: [card],
    system: {
      ...job.system,
      bank: { ...job.system.bank, unitsInSeries: inSeries },
      chargers: source ? [bareCharger(device)] : [],
      companions: source ? [] : [{ ...device, switches: [] }],
    },
  });
}
