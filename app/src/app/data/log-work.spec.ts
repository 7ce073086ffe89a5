import { lent } from './log-work';

describe('a log that is sent to the worker', () => {
  it('goes over as it lies, and the page’s own stays with the page', () => {
    const log = {
      time: Float64Array.from([0, 10]),
      offsetMinutes: 60,
      bankVolts: Float32Array.from([26.5, NaN]),
      batterySensor: 'ownProbe',
      chargers: { fore: { amps: Float32Array.from([1, 2]), stage: Uint8Array.from([2, 255]) } },
    };
    const { port1, port2 } = new MessageChannel();
    const copy = lent(log);
    expect(copy).toEqual(log);
    // Every column of its own, none shared with the page’s.
    const columns = [copy.time, copy.bankVolts, copy.chargers['fore']?.amps, copy.chargers['fore']?.stage].map((c) => c?.buffer as ArrayBuffer);
    port1.postMessage(copy, columns);
    expect(columns.map((b) => b.byteLength)).toEqual([0, 0, 0, 0]);
    expect(log.bankVolts.length).toBe(2);
    expect(log.chargers.fore.stage[1]).toBe(255);
    port1.close();
    port2.close();
  });
});
