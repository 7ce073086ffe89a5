import { jobSchema, type Job } from '@calm-keel/core/job';
import { sampleCard, sampleJob, voltParameter } from '../testing';

/** One solar charger that saves by a key within twenty seconds, with a float found too high. */
export function soloJob(): Job {
  const job = sampleJob();
  const card = sampleCard({
    id: 'p1',
    kind: 'solarMppt',
    ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 100, chemistries: ['lfp'] },
    parameters: [voltParameter('absorbVoltage'), voltParameter('floatVoltage')],
    commit: { kind: 'keyPress', timeoutSeconds: 20, how: 'Press Set.', proof: 'Look at the list.' },
    entry: { raise: 'Up', lower: 'Down', keep: 'Set' },
    telemetry: {
      protocol: 'modbusTcp',
      identity: { register: 0, value: 7 },
      live: [{ what: 'volts', register: 1, scale: 0.01 }],
      values: [
        { role: 'absorbVoltage', register: 10, scale: 0.1 },
        { role: 'floatVoltage', register: 11, scale: 0.1 },
      ],
      commit: { register: 20, value: 1 },
    },
  });
  const sensor = { fitted: true, place: 'batteryCase', errorC: 0.5, offsetC: 0, lagSeconds: 540, warmLeadC: 1 } as const;
  return jobSchema.parse({
    ...job,
    cards: [card],
    accepted: [],
    system: {
      ...job.system,
      site: { ...job.system.site, bankLowC: 5, recordLowC: 2 },
      // A meter so good that no target has to be moved for its sake.
      instruments: job.system.instruments.map((i) => ({ ...i, volts: { percent: 0.05, digits: 0, resolution: 0.01 } })),
      chargers: [
        {
          id: 'solo',
          name: 'Solo',
          card: 'p1',
          sensor,
          displayReadings: [],
          present: { absorbVoltage: 28.1, floatVoltage: 27.6 },
          passcodeChanged: true,
          link: 'solo',
        },
      ],
    },
  });
}
