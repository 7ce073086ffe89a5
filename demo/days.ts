import type { Day, SimulatedCharger } from './simulate.js';

const fore: SimulatedCharger = {
  id: 'fore',
  absorbV: 28.11,
  floatV: 26.9,
  rechargeV: 26.29,
  absorbSeconds: 2400,
  taperA: 10,
  cutoffC: 2,
  resumeC: 4,
  sensorOffsetC: 0,
  arrayPeakW: 1080,
  arrayV: 104,
};
const aft: SimulatedCharger = { ...fore, id: 'aft', absorbV: 28.115, floatV: 26.905, cutoffC: 4, resumeC: 6, sensorOffsetC: 2.5, arrayPeakW: 1000, arrayV: 70 };

const fridge = (hour: number): number => 2 + (hour % 1 < 0.38 ? 5.5 : 0) + (hour > 18.5 ? 3.5 : 0);

/** Smooth pseudo-random drift from sums of sines; no state, so that any hour can be asked for. */
const drift = (hour: number, k: number): number =>
  Math.sin(hour * 7.3 * k + k) * 0.5 + Math.sin(hour * 17.9 * k + 2 * k) * 0.3 + Math.sin(hour * 41.1 * k) * 0.2;

const summer = {
  date: '2026-06-14',
  offset: '+01:00',
  offsetMinutes: 60,
  fromHour: 5,
  toHour: 20.5,
  sunrise: 5.2,
  sunset: 20.4,
  intervalSeconds: 10,
  load: fridge,
} as const;

/** The days of the launch that ship as logs. */
export const days: Readonly<Record<string, Day>> = {
  'teasel-broken-cloud': {
    ...summer,
    seed: 7,
    startCharge: 0.3,
    chargers: [fore, aft],
    temperature: (hour) => 14 + 5 * Math.sin(((hour - 9) / 24) * 2 * Math.PI),
    sky: (hour) => {
      if (hour > 10.7 && hour < 10.715) return 1.6;
      if (hour < 10.7) return 0.74 + 0.03 * drift(hour, 1.3);
      if (hour > 12.75) return 0.97;
      const cloud = drift(hour, 2.1);
      return cloud > 0.45 ? 1.12 : Math.max(0.14, 0.5 + 0.5 * cloud);
    },
  },
  'teasel-freezing-dawn': {
    ...summer,
    seed: 11,
    date: '2026-02-17',
    offset: '+00:00',
    offsetMinutes: 0,
    fromHour: 5,
    toHour: 18,
    sunrise: 7.1,
    sunset: 17.4,
    startCharge: 0.4,
    // As found: the aft cutoff stood at the sheet's 0 °C, and its sensor reads 2.5 °C warmer than the cell.
    chargers: [fore, { ...aft, cutoffC: 0, resumeC: 1 }],
    temperature: (hour) => (hour < 7.3 ? -1.6 - 0.18 * (hour - 5) : -2.01 + 1.5 * (hour - 7.3) - 0.06 * (hour - 7.3) ** 2),
    sky: () => 0.78,
  },
  'teasel-clean-day': {
    ...summer,
    seed: 3,
    date: '2026-06-21',
    startCharge: 0.62,
    chargers: [fore, aft],
    temperature: (hour) => 15 + 4 * Math.sin(((hour - 9) / 24) * 2 * Math.PI),
    sky: () => 0.96,
  },
};
