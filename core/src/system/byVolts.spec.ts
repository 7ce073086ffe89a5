import { classOfVolts, seriesByVolts } from './byVolts';

describe('what a bank is by its volts', () => {
  it('its class is known by volts between a low bank and a full one', () => {
    expect([10.2, 13.3, 16.1, 19.3, 26.4, 29.5, 38, 41.6, 53, 64].map(classOfVolts)).toEqual([12, 12, 12, 24, 24, 24, 36, 36, 48, 48]);
    expect([9.5, 16.3, 19.1, 64.9, 400].map(classOfVolts)).toEqual([null, null, null, null, null]);
  });
});

describe('how many in series the highest volts of a log look like', () => {
  it('is the number whose full bank is nearest', () => {
    expect([13.6, 14.4, 28.1, 28.8, 57].map((v) => seriesByVolts(v, 12.8))).toEqual([1, 1, 2, 2, 4]);
    expect([28.1, 57].map((v) => seriesByVolts(v, 25.6))).toEqual([1, 2]);
    expect(seriesByVolts(14.7, 6)).toBe(2);
  });

  it('is none where the volts fit no number: below a bank at rest, or far above one that charges', () => {
    // One of 51.1 V at 0.92 and at 1.3 times its volts.
    expect([46.9, 47.1, 66.4, 66.5].map((v) => seriesByVolts(v, 51.1))).toEqual([null, 1, 1, null]);
    expect(seriesByVolts(28.1, 51.1)).toBeNull();
  });
});
