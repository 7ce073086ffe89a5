import { readFileSync } from 'node:fs';
import { cardSchema } from '@calm-keel/core/card';
import { jobSchema, newJob, type Job } from '@calm-keel/core/job';
import { sheetSchema } from '@calm-keel/core/sheet';

const library = (path: string): unknown => JSON.parse(readFileSync(new URL(`../library/${path}`, import.meta.url), 'utf8'));
const card = (id: string) => cardSchema.parse(library(`cards/${id}.json`));
const sheet = (id: string) => sheetSchema.parse(library(`sheets/${id}.json`));

/** A new job of which everything was said: the demo’s jobs enter all of it. */
function said({ assumed: _all, ...job }: Job): Job {
  return job;
}

/** Every device whose card tells of registers is joined to the device of its name on the server’s list. */
function linked(document: unknown): Job {
  const job = jobSchema.parse(document);
  const wired = new Set(job.cards.filter((c) => c.telemetry).map((c) => c.id));
  const join = <T extends { readonly id: string; readonly card: string }>(d: T): T => (wired.has(d.card) ? { ...d, link: `${job.id}-${d.id}` } : d);
  return { ...job, system: { ...job.system, chargers: job.system.chargers.map(join), companions: job.system.companions.map(join) } };
}

/** Panels as they lie on the launch. */
const shore = {
  panel: { name: 'Shore 310', watts: 310, vocV: 40, vmpV: 33, iscA: 10, impA: 9.4, vocPercentPerC: -0.3, bypassDiodes: 3 },
  tilt: 5,
  azimuth: 180,
};

/**
 * Survey launch Teasel: 24 V LFP, two solar chargers, a DC-DC charger without a temperature lead and an alternator without a current limit;
 * the forward display reads high, the aft sensor sits on a pad.
 */
export function teasel(): Job {
  const blank = said(newJob('teasel', 'Survey launch Teasel', '2026-06-09T08:00:00Z'));
  return linked({
    ...blank,
    note: 'House bank charged by two solar arrays. Aft float found at 27.6 V.',
    sheet: sheet('pellow-lb-25-rev-d'),
    otherSheets: [sheet('pellow-lb-25-rev-c')],
    cards: [card('varrow-s45'), card('tessick-d30'), card('murrel-ar-2'), card('tessick-m1')],
    system: {
      bank: {
        unitsInSeries: 1,
        stringsInParallel: 2,
        capacityFactor: 1,
        capacityReason: 'New batteries',
        cellSpreadV: 0.02,
        hasBms: true,
        fuseA: 250,
        cableA: 260,
        stringFuseA: 150,
        wire: { lengthM: 0.8, areaMm2: 70 },
        mainSwitchA: 300,
        shuntA: 500,
        fuseBreaksA: 20000,
        shortCircuitA: 9000,
      },
      site: { place: 'Workboat, forward locker', recordLowC: -14, recordHighC: 36, bankLowC: -4, bankHighC: 36, coolingCPerHour: 5, latitude: 54 },
      loads: { minA: 2, maxA: 11, maxVolts: 31, name: 'Fridge and pilothouse', fuseA: 40 },
      companions: [
        {
          id: 'monitor',
          name: 'Monitor',
          card: 'tessick-m1',
          present: { capacity: 460, fullDetectVoltage: 28.2, fullDetectCurrent: 10, loadMode: 'loads', loadDisconnect: 24.6, loadReconnect: 25.8 },
          switches: ['loads'],
        },
      ],
      chargers: [
        {
          id: 'fore',
          name: 'Solar fore',
          card: 'varrow-s45',
          sensor: { fitted: true, place: 'batteryCase', errorC: 0.5, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 },
          displayReadings: [{ meterV: 26.6, displayV: 26.81 }],
          array: { ...shore, inSeries: 3, inParallel: 1, shaded: 0, shadeLight: 0.1, isolatorA: 32 },
          wire: { lengthM: 0.9, areaMm2: 16 },
          lastVisit: {
            date: '2025-09-30',
            values: { absorbVoltage: 28.9, absorbTime: 60, floatVoltage: 27.5, lowTempCutoff: 2, equaliseEnabled: 'off', equaliseVoltage: 28.9 },
          },
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
          array: { ...shore, inSeries: 2, inParallel: 2, shaded: 2, shadeLight: 0.15, isolatorA: 32 },
          wire: { lengthM: 1.6, areaMm2: 16 },
          lastVisit: { date: '2025-09-30', values: { absorbVoltage: 28.7, absorbTime: 60, floatVoltage: 27.3, lowTempCutoff: 0, equaliseEnabled: 'off' } },
          present: { floatVoltage: 27.6, absorbVoltage: 28.1, compensationSlope: 0, lowTempCutoff: 0, equaliseEnabled: 'off' },
          fuseA: 60,
          passcodeChanged: false,
        },
        {
          id: 'dcdc',
          name: 'DC-DC',
          card: 'tessick-d30',
          sensor: { fitted: false, place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 },
          displayReadings: [{ meterV: 26.6, displayV: 26.6 }],
          present: { batteryType: 'free', absorbVoltage: 28.1, floatVoltage: 26.9, equaliseEnabled: 'off' },
          feed: { name: '12 V start bank', volts: 12 },
          fuseA: 40,
          wire: { lengthM: 1.2, areaMm2: 10 },
          passcodeChanged: true,
        },
        {
          id: 'alternator',
          name: 'Alternator',
          card: 'murrel-ar-2',
          sensor: { fitted: true, place: 'batteryPost', errorC: 1, offsetC: 0, lagSeconds: 420, warmLeadC: 2 },
          displayReadings: [{ meterV: 26.6, displayV: 26.6 }],
          present: { absorbVoltage: 28.1, bulkVoltage: 28.1, floatVoltage: 26.9, highVoltageAlarm: 29.4, compensationSlope: 0, lowTempCutoff: 2 },
          machine: { name: '24 V alternator', ratedA: 100, loadDumpProtected: true, maxC: 120 },
          fuseA: 125,
          wire: { lengthM: 3.2, areaMm2: 35 },
          passcodeChanged: true,
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
  const blank = said(newJob('rook-moss', 'Rook Moss weather mast', '2026-06-03T09:30:00Z'));
  return linked({
    ...blank,
    note: 'Mast hut without mains. Vented batteries in a vented hut.',
    sheet: sheet('dunmere-t6-210-rev-5'),
    cards: [card('varrow-p15')],
    tolerance: { voltsPerCell: 0.01, rank: 'assumed' },
    system: {
      bank: { unitsInSeries: 2, stringsInParallel: 2, capacityFactor: 0.9, capacityReason: 'Four winters old', hasBms: false, fuseA: 60, cableA: 70 },
      site: { place: 'Mast hut on the moor', recordLowC: -22, recordHighC: 31, bankLowC: -18, bankHighC: 30, coolingCPerHour: 3, latitude: 56 },
      loads: { minA: 0.8, maxA: 2.5, maxVolts: 15.5 },
      companions: [],
      chargers: [
        {
          id: 'mast',
          name: 'Mast solar',
          card: 'varrow-p15',
          sensor: { fitted: true, place: 'batteryPost', errorC: 1, offsetC: 0, lagSeconds: 900, warmLeadC: 1 },
          displayReadings: [{ meterV: 12.72, displayV: 12.7 }],
          array: {
            panel: { name: 'Moor 90', watts: 90, vocV: 22, vmpV: 18, iscA: 5.4, impA: 5, bypassDiodes: 2 },
            inSeries: 1,
            inParallel: 1,
            tilt: 70,
            azimuth: 180,
            shaded: 0,
            shadeLight: 0.1,
          },
          wire: { lengthM: 6, areaMm2: 6 },
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

/** Skarrow relay hut: 24 V AGM, two solar chargers as leader and follower, a stream turbine; unattended all winter, snow on the array. */
export function skarrow(): Job {
  const blank = said(newJob('skarrow', 'Skarrow relay hut', '2026-05-18T10:00:00Z'));
  const array = {
    panel: { name: 'Fell 410', watts: 410, vocV: 37.4, vmpV: 31.2, iscA: 13.9, impA: 13.1, vocPercentPerC: -0.27, bypassDiodes: 3 },
    inSeries: 3,
    inParallel: 2,
    tilt: 65,
    azimuth: 170,
    shaded: 3,
    shadeLight: 0.05,
    isolatorA: 40,
  };
  const solar = (id: string, name: string, follows: string) => ({
    id,
    name,
    card: 'hadrin-h80',
    sensor: { fitted: true, place: 'betweenUnits', errorC: 1, offsetC: 0, lagSeconds: 1800, warmLeadC: 1, type: 'digital, on the network' },
    displayReadings: [{ meterV: 25.4, displayV: 25.4 }],
    present: { follows, groundFaultDetection: 'on' },
    ...(follows === 'follower' ? { follows: 'leader' } : {}),
    array,
    fuseA: 100,
    wire: { lengthM: 1.5, areaMm2: 35 },
    passcodeChanged: true,
  });
  return linked({
    ...blank,
    note: 'Radio relay, nobody there from November to April.',
    sheet: sheet('dunmere-gx-110-rev-2'),
    cards: [card('hadrin-h80'), card('ostrel-w12'), card('tessick-m1')],
    tolerance: { voltsPerCell: 0.01, rank: 'assumed' },
    system: {
      bank: {
        unitsInSeries: 2,
        stringsInParallel: 4,
        capacityFactor: 0.9,
        capacityReason: 'Cold hut',
        hasBms: false,
        fuseA: 200,
        stringFuseA: 80,
        wire: { lengthM: 1, areaMm2: 70 },
        mainSwitchA: 250,
        shuntA: 300,
        fuseBreaksA: 20000,
        shortCircuitA: 8800,
      },
      site: {
        place: 'Relay hut on the fell',
        recordLowC: -27,
        recordHighC: 28,
        bankLowC: -12,
        bankHighC: 24,
        coolingCPerHour: 1,
        latitude: 60,
        unattendedMonths: 6,
        grounding: 'throughCharger',
      },
      loads: { minA: 3, maxA: 9, maxVolts: 31, name: 'Relay and heater', fuseA: 30 },
      companions: [{ id: 'monitor', name: 'Monitor', card: 'tessick-m1', present: { capacity: 440, loadMode: 'loads' }, switches: ['loads'] }],
      chargers: [
        solar('leader', 'Solar leader', 'leader'),
        solar('follower', 'Solar follower', 'follower'),
        {
          id: 'turbine',
          name: 'Stream turbine',
          card: 'ostrel-w12',
          sensor: { fitted: true, place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 900, warmLeadC: 1 },
          displayReadings: [{ meterV: 25.4, displayV: 25.4 }],
          present: { powerCurve: 'low head', outputMode: 'auto', highVoltageAlarm: 16.5 },
          machine: { name: 'Stream turbine', ratedA: 30, loadDumpProtected: true, diversionW: 1500, peakW: 900, brakeFailsSafe: true },
          fuseA: 60,
          wire: { lengthM: 4, areaMm2: 25 },
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
          calibrationDue: '2027-03',
          rangeV: 60,
          rangeA: 10,
          burdenMilliohm: 20,
        },
      ],
      provingInstrument: 'meter',
    },
  });
}

/** Tumbler mobile stage: a 14-cell NMC pack whose BMS knows no temperature, one solar charger, an inverter-charger, a thermostat with contactor. */
export function tumbler(): Job {
  const blank = said(newJob('tumbler', 'Tumbler mobile stage', '2026-04-22T14:00:00Z'));
  return linked({
    ...blank,
    note: 'Charged on the road by the roof, in the yard by the mains.',
    sheet: sheet('corvane-n14-rev-1'),
    cards: [card('varrow-s45'), card('quern-r9'), card('isk-t1')],
    system: {
      bank: {
        unitsInSeries: 1,
        stringsInParallel: 1,
        capacityFactor: 1,
        capacityReason: 'New pack',
        cellSpreadV: 0.03,
        hasBms: true,
        fuseA: 100,
        wire: { lengthM: 1.2, areaMm2: 35 },
        mainSwitchA: 150,
        fuseBreaksA: 10000,
        shortCircuitA: 4000,
      },
      site: { place: 'Trailer, stage left', recordLowC: -16, recordHighC: 37, bankLowC: -8, bankHighC: 38, coolingCPerHour: 6, latitude: 48 },
      loads: { minA: 1, maxA: 40, maxVolts: 62, name: 'Amplifiers and light', fuseA: 80 },
      companions: [
        {
          id: 'thermostat',
          name: 'Thermostat',
          card: 'isk-t1',
          present: { outputMode: 'heating', thermostatSetpoint: 40, thermostatDifferential: 2 },
          switches: ['roof'],
          sensor: { fitted: true, place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 },
        },
      ],
      chargers: [
        {
          id: 'roof',
          name: 'Roof',
          card: 'varrow-s45',
          sensor: { fitted: false, place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 },
          displayReadings: [{ meterV: 52.6, displayV: 52.6 }],
          present: { systemVoltage: '48' },
          array: { ...shore, inSeries: 3, inParallel: 1, tilt: 0, shaded: 0, shadeLight: 0.1, isolatorA: 32 },
          fuseA: 40,
          wire: { lengthM: 3, areaMm2: 10 },
          passcodeChanged: true,
        },
        {
          id: 'yard',
          name: 'Inverter-charger',
          card: 'quern-r9',
          sensor: { fitted: false, place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 },
          displayReadings: [],
          present: { batteryType: 'own' },
          fuseA: 100,
          wire: { lengthM: 1, areaMm2: 25 },
          passcodeChanged: false,
        },
      ],
      instruments: [
        {
          id: 'meter',
          name: 'Multimeter',
          volts: { percent: 0.1, digits: 2, resolution: 0.01 },
          amps: { percent: 1.5, digits: 3, resolution: 0.1 },
          temperatureErrorC: 1,
        },
      ],
      provingInstrument: 'meter',
    },
  });
}
