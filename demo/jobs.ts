import { readFileSync } from 'node:fs';
import { cardSchema, jobSchema, newJob, sheetSchema, type Job } from '@calm-keel/core';

const library = (path: string): unknown => JSON.parse(readFileSync(new URL(`../library/${path}`, import.meta.url), 'utf8'));
const card = (id: string) => cardSchema.parse(library(`cards/${id}.json`));
const sheet = (id: string) => sheetSchema.parse(library(`sheets/${id}.json`));

/** Survey launch Teasel: 24 V LFP, two solar chargers; the forward display reads high, the aft sensor sits on a pad. */
export function teasel(): Job {
  const blank = newJob('teasel', 'Survey launch Teasel', '2026-06-09T08:00:00Z');
  return jobSchema.parse({
    ...blank,
    note: 'House bank charged by two solar arrays. Aft float found at 27.6 V.',
    sheet: sheet('pellow-lb-25-rev-d'),
    otherSheets: [sheet('pellow-lb-25-rev-c')],
    cards: [card('varrow-s45')],
    system: {
      bank: {
        unitsInSeries: 1,
        stringsInParallel: 2,
        capacityFactor: 1,
        capacityReason: 'New batteries',
        hasBms: true,
        fuseA: 250,
        cableA: 240,
        stringFuseA: 150,
      },
      site: { place: 'Workboat, forward locker', recordLowC: -14, recordHighC: 36, bankLowC: -4, bankHighC: 36, coolingCPerHour: 5 },
      loads: { minA: 2, maxA: 11, maxVolts: 31 },
      companions: [],
      chargers: [
        {
          id: 'fore',
          name: 'Solar fore',
          card: 'varrow-s45',
          sensor: { fitted: true, place: 'batteryCase', errorC: 0.5, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 },
          displayReadings: [{ meterV: 26.6, displayV: 26.81 }],
          present: { floatVoltage: 27.1, absorbVoltage: 28.3, compensationSlope: 0, lowTempCutoff: 2, equaliseEnabled: 'off', equaliseVoltage: 28.3 },
          fuseA: 60,
          passcodeChanged: true,
        },
        {
          id: 'aft',
          name: 'Solar aft',
          card: 'varrow-s45',
          sensor: { fitted: true, place: 'pad', errorC: 0.5, offsetC: 2.5, lagSeconds: 540, warmLeadC: 1.5 },
          displayReadings: [{ meterV: 26.6, displayV: 26.6 }],
          present: { floatVoltage: 27.6, absorbVoltage: 28.1, compensationSlope: 0, lowTempCutoff: 0, equaliseEnabled: 'off' },
          fuseA: 60,
          passcodeChanged: false,
        },
      ],
      instruments: [
        {
          id: 'meter',
          name: 'Multimeter',
          volts: { percent: 0.1, digits: 0, resolution: 0.01 },
          amps: { percent: 1.5, digits: 3, resolution: 0.1 },
          temperatureErrorC: 1,
        },
        {
          id: 'monitor',
          name: 'Battery monitor',
          volts: { percent: 0.1, digits: 0, resolution: 0.01 },
          amps: { percent: 1, digits: 2, resolution: 0.1 },
          temperatureErrorC: 0.5,
        },
      ],
      provingInstrument: 'meter',
    },
  });
}

/** Rook Moss weather mast: 12 V vented lead-acid, a PWM charger, a weak array and cold winters. */
export function rookMoss(): Job {
  const blank = newJob('rook-moss', 'Rook Moss weather mast', '2026-06-03T09:30:00Z');
  return jobSchema.parse({
    ...blank,
    note: 'Mast hut without mains. Vented batteries in a vented hut.',
    sheet: sheet('dunmere-t6-210-rev-5'),
    cards: [card('varrow-p15')],
    tolerance: { voltsPerCell: 0.01, rank: 'assumed' },
    system: {
      bank: { unitsInSeries: 2, stringsInParallel: 2, capacityFactor: 0.9, capacityReason: 'Four winters old', hasBms: false, fuseA: 80, cableA: 70 },
      site: { place: 'Mast hut on the moor', recordLowC: -22, recordHighC: 31, bankLowC: -18, bankHighC: 30, coolingCPerHour: 3 },
      loads: { minA: 0.8, maxA: 2.5, maxVolts: 15.5 },
      companions: [],
      chargers: [
        {
          id: 'mast',
          name: 'Mast solar',
          card: 'varrow-p15',
          sensor: { fitted: true, place: 'batteryPost', errorC: 1, offsetC: 0, lagSeconds: 900, warmLeadC: 1 },
          displayReadings: [{ meterV: 12.72, displayV: 12.7 }],
          present: {},
          fuseA: 20,
          passcodeChanged: false,
        },
      ],
      instruments: [
        {
          id: 'meter',
          name: 'Multimeter',
          volts: { percent: 0.1, digits: 1, resolution: 0.01 },
          amps: { percent: 1.5, digits: 3, resolution: 0.1 },
          temperatureErrorC: 1,
        },
      ],
      provingInstrument: 'meter',
    },
  });
}
