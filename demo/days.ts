import type { Day, SimulatedBank, SimulatedCharger } from './simulate.js';

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

/** The alternator and the DC-DC charger of the launch, while the engine turns from half past nine to eleven. */
const motoring = (hour: number): number => (hour >= 9.5 && hour < 11 ? 1 : 0);
const alternator: SimulatedCharger = { ...fore, id: 'alternator', absorbV: 28.1, floatV: 26.9, engineA: (hour) => 55 * motoring(hour), mostA: 100 };
const dcdc: SimulatedCharger = { ...fore, id: 'dcdc', absorbV: 28.1, floatV: 26.9, engineA: (hour) => 20 * motoring(hour), mostA: 20 };

/** The mast's bank: two strings of two 6 V vented batteries. */
const mastBank: SimulatedBank = {
  capacityAh: 420,
  rest: (charge) => 11.9 + 0.85 * charge,
  fast: 0.012,
  slow: 0.03,
  tauSeconds: 900,
  crowdsFrom: 0.85,
};
const mast: SimulatedCharger = {
  id: 'mast',
  absorbV: 14.7,
  floatV: 13.4,
  rechargeV: 12.4,
  absorbSeconds: 3 * 3600,
  taperA: 0,
  cutoffC: -60,
  resumeC: -60,
  sensorOffsetC: 0,
  arrayPeakW: 215,
  arrayV: 18,
  mostA: 15,
  compensation: { slope: -0.024, referenceC: 25 },
};
/** Nine days in May in which the hut swings through 25 °C. */
const nineDays = {
  seed: 19,
  date: '2026-05-06',
  offset: '+01:00',
  offsetMinutes: 60,
  fromHour: 0,
  toHour: 9 * 24,
  sunrise: 5,
  sunset: 20.5,
  startCharge: 0.9,
  intervalSeconds: 120,
  stepSeconds: 10,
  bank: mastBank,
  temperature: (hour: number) => 9 + 6 * Math.sin(((hour - 9) / 24) * 2 * Math.PI) + 6.5 * Math.sin((hour / 216) * 2 * Math.PI - 0.8),
  sky: (hour: number) => 0.86 + 0.1 * drift(hour / 9, 1.1),
  load: (hour: number) => 0.8 + (hour % 0.5 < 0.06 ? 1.7 : 0),
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
  'teasel-motoring': {
    ...summer,
    seed: 23,
    date: '2026-07-02',
    startCharge: 0.45,
    chargers: [fore, aft, dcdc, alternator],
    temperature: (hour) => 17 + 4 * Math.sin(((hour - 9) / 24) * 2 * Math.PI),
    sky: (hour) => 0.7 + 0.15 * drift(hour, 1.7),
  },
  'rook-moss-nine-days': { ...nineDays, chargers: [mast] },
  // The slope keyed per cell where the charger counts six: a sixth of what the sheet asks.
  'rook-moss-wrong-slope': { ...nineDays, chargers: [{ ...mast, compensation: { slope: -0.004, referenceC: 25 } }] },
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
