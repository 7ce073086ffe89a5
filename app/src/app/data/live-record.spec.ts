import type { Job } from '@calm-keel/core';
import { sampleJob } from '../testing';
import { logOfSamples } from './live-record';

type Values = Readonly<Record<string, number | null | undefined>>;
const charger = (id: string) => ({
  id,
  name: id,
  card: 'p1',
  sensor: { fitted: true, place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 0, warmLeadC: 0 },
  displayReadings: [],
  present: {},
});
const job = {
  ...sampleJob(),
  system: { ...sampleJob().system, chargers: [charger('fore'), charger('aft')], companions: [{ id: 'monitor', name: 'Monitor', card: 'm1', present: {} }] },
} as unknown as Job;
const samples = (...moments: Readonly<Record<string, Values>>[]) => moments.map((values, i) => ({ at: 1000 + i, values: new Map(Object.entries(values)) }));

describe('what the devices told, as a log', () => {
  it('takes the bank from the monitor, and from each charger what it says of itself', () => {
    const log = logOfSamples(
      job,
      samples(
        { monitor: { volts: 26.5, bankAmps: 9, celsius: 12, charge: 80 }, fore: { volts: 26.6, amps: 10, inputVolts: 60, stage: 2 } },
        { monitor: { volts: 26.7, bankAmps: 8, celsius: 12.5, charge: 81 }, fore: { volts: 26.8, amps: 9.5, inputVolts: 61, stage: 3 } },
      ),
    );
    expect([...log.time]).toEqual([1000, 1001]);
    const rounded = (data: Float32Array | undefined) => [...(data ?? [])].map((v) => Number(v.toFixed(2)));
    expect([rounded(log.bankVolts), rounded(log.bankAmps), rounded(log.batteryC), rounded(log.stateOfCharge)]).toEqual([
      [26.5, 26.7],
      [9, 8],
      [12, 12.5],
      [80, 81],
    ]);
    const fore = log.chargers['fore'];
    expect([rounded(fore?.amps), rounded(fore?.volts), rounded(fore?.arrayVolts), [...(fore?.stage ?? [])]]).toEqual([
      [10, 9.5],
      [26.6, 26.8],
      [60, 61],
      [2, 3],
    ]);
  });

  it('has no column of what nobody told, and no value where somebody was silent', () => {
    const log = logOfSamples(job, samples({ fore: { volts: 26.6, amps: 10 } }, { fore: { volts: 26.7, amps: null, stage: undefined } }));
    expect(Object.keys(log.chargers)).toEqual(['fore']);
    expect(Object.keys(log.chargers['fore'] ?? {})).toEqual(['amps', 'volts']);
    expect([...(log.chargers['fore']?.amps ?? [])]).toEqual([10, NaN]);
    expect([log.bankAmps, log.batteryC, log.stateOfCharge]).toEqual([undefined, undefined, undefined]);
  });

  it('without a monitor reads the bank’s volts from a charger, and its temperature from the first that has one', () => {
    const log = logOfSamples(job, samples({ fore: { volts: 26.5, amps: 1 }, aft: { volts: 26.4, amps: 2, celsius: 7 } }));
    expect(log.bankVolts[0]).toBeCloseTo(26.5, 3);
    expect([...(log.batteryC ?? [])]).toEqual([7]);
  });

  it('marks a stage that was not told among stages that were', () => {
    const log = logOfSamples(job, samples({ fore: { amps: 1, stage: 2 } }, { fore: { amps: 1 } }));
    expect([...(log.chargers['fore']?.stage ?? [])]).toEqual([2, 255]);
    expect(log.chargers['fore']?.volts).toBeUndefined();
  });
});
