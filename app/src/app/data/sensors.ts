import { ownProbe, type Charger } from '@calm-keel/core/system';

/** What may have written a battery temperature, for a choice: a probe on the battery, or the sensor of a charger that has one. */
export const sensorChoices = (chargers: readonly Charger[]): readonly { readonly value: string; readonly words: string }[] => [
  { value: ownProbe, words: 'a probe on the battery' },
  ...chargers.flatMap((c) => (c.sensor.fitted ? [{ value: c.id, words: `the sensor of ${c.name}` }] : [])),
];
