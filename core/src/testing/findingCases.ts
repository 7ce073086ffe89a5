import { readFileSync } from 'node:fs';
import { cardSchema, type Card, type Role } from '../card';
import type { Job } from '../job';
import { applyChanges, readJob, usualMeter } from '../job';
import type { Override, Schools } from '../settings';
import type { Bank, Charger, Companion, Relay, Site } from '../system';
import { asDerived, rookMoss, teasel, wholeTeasel, withCharger, withFigure, withSystem } from './fixtures';

/** For a code: a job on which it must fire, and one on which it must not when the quiet launch is no fair test of silence. */
export interface FindingCase {
  readonly fires: () => Job;
  readonly silent?: () => Job;
  readonly today?: string;
}

const demo = (name: string): Job => {
  const job = readJob(readFileSync(new URL(`../../../demo/${name}.job.json`, import.meta.url), 'utf8'));
  if (!job.ok) throw new Error(job.problems[0]?.text);
  return job.value;
};
export const skarrow = (): Job => demo('skarrow');
export const tumbler = (): Job => demo('tumbler');
export const cardNamed = (id: string): Card =>
  cardSchema.parse(JSON.parse(readFileSync(new URL(`../../../library/cards/${id}.json`, import.meta.url), 'utf8')));

const fore = teasel().system.chargers[0]!;
/** A launch with nothing left to say but what is always true of it. */
export const quiet = (): Job => {
  const job = withCharger(teasel(), 'aft', { sensor: fore.sensor });
  return asDerived({ ...job, schools: { ...job.schools, coldCurrent: 'raiseCutoff' } });
};
export const override = (role: Role, value: number, charger = 'aft'): Override => ({ charger, role, value, reason: 'asked', by: 'owner', date: '2026-06-09' });
const withSchools = (job: Job, schools: Partial<Schools>): Job => ({ ...job, schools: { ...job.schools, ...schools } });
const withBank = (job: Job, bank: Partial<Bank>): Job => withSystem(job, { bank: { ...job.system.bank, ...bank } });
const withSite = (job: Job, site: Partial<Site>): Job => withSystem(job, { site: { ...job.system.site, ...site } });
const withCompanion = (job: Job, id: string, change: Partial<Companion>): Job =>
  withSystem(job, { companions: job.system.companions.map((c) => (c.id === id ? { ...c, ...change } : c)) });
const withCard = (job: Job, id: string, change: (card: Card) => Card): Job => ({ ...job, cards: job.cards.map((c) => (c.id === id ? change(c) : c)) });
/** The launch whose aft charger takes two figures from the battery over a data line. */
const dictated = (whenLost?: 'ownFigures' | 'lastFigures' | 'stops'): Job =>
  withCard(withCharger(quiet(), 'aft', { dictatedBy: { by: 'battery' } }), 'varrow-s45', (card) => ({
    ...card,
    dictated: { roles: ['absorbVoltage', 'chargeCurrentLimit'], ...(whenLost ? { whenLost } : {}) },
  }));
const sensor = (job: Job, id: string, change: Partial<Charger['sensor']>): Job =>
  withCharger(job, id, { sensor: { ...job.system.chargers.find((c) => c.id === id)!.sensor, ...change } });
const monitor = (present: Companion['present'], fullSeen = true): Job => withCompanion(wholeTeasel(), 'monitor', { present, fullSeen });
/** The stage with a contactor that suits its roof. */
const stage = (relay: Partial<Relay> = {}, present?: Companion['present']): Job =>
  withCompanion(tumbler(), 'thermostat', {
    ...(present ? { present } : {}),
    relay: { breaks: 'arraySide', volts: 200, amps: 25, coilW: 1, fusedSupply: true, ...relay },
  });
/** The launch's DC-DC charger, its sensor joined to the battery. */
const dcdc = (change: Partial<Charger>): Job => withCharger(wholeTeasel(), 'dcdc', change);
const without = <T extends object, K extends keyof T>(value: T, key: K): Omit<T, K> => {
  const { [key]: _gone, ...rest } = value;
  return rest;
};

/** A job of whose battery nobody has said the capacity. */
export const withoutCapacity = (job: Job): Job => ({ ...job, sheet: { ...job.sheet, unit: without(job.sheet.unit, 'capacityAh') } });

/** Three panels in series, as they stand on the launch. */
export const panels = {
  panel: { name: '', watts: 310, vocV: 40, vmpV: 33, iscA: 10, impA: 9.4, vocPercentPerC: -0.3, bypassDiodes: 3 },
  inSeries: 3,
  inParallel: 1,
  tilt: 0,
  azimuth: 180,
  shaded: 0,
  shadeLight: 0.1,
};

/** The quiet launch with an alternator regulator in the place of the aft charger. */
export const asAlternator = (loadDumpProtected: boolean): Job => {
  const card = cardNamed('murrel-ar-2');
  return withCharger({ ...quiet(), cards: [...quiet().cards, card] }, 'aft', {
    card: card.id,
    present: {},
    machine: { name: 'Alternator', ratedA: 100, loadDumpProtected },
  });
};

export const findingCases: Readonly<Record<string, FindingCase>> = {
  batteryNotSaid: { fires: () => ({ ...quiet(), assumed: { chemistry: true, nominalVolts: true, cellsInSeries: true } }) },
  systemNotSaid: {
    fires: () => ({
      ...withSystem(quiet(), { instruments: [{ ...usualMeter, id: 'multimeter', name: 'Multimeter', assumed: true }] }),
      assumed: { unitsInSeries: true, hasBms: true, bankLowC: true, coolingCPerHour: true, minA: true },
    }),
    // What is asked on Spec is not asked again here.
    silent: () => ({ ...quiet(), assumed: { chemistry: true, nominalVolts: true } }),
  },
  capacityNotSaid: { fires: () => withoutCapacity(quiet()) },
  figuresNotSaid: {
    fires: () => withFigure(withFigure(quiet(), 'absorbVoltage', { rank: 'notSaid' }), 'floatVoltage', { rank: 'notSaid' }),
    silent: () => withFigure(quiet(), 'absorbVoltage', { rank: 'assumed' }),
  },
  cardMissing: { fires: () => ({ ...teasel(), cards: [] }) },
  basisSuspicious: { fires: () => withFigure(teasel(), 'absorbVoltage', { basis: 'cell' }) },
  arrayTooHigh: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, inSeries: 4 } }),
    silent: () => withCharger(quiet(), 'aft', { array: panels }),
  },
  arrayTooMuchCurrent: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, inParallel: 5 } }),
    silent: () => withCharger(quiet(), 'aft', { array: { ...panels, inParallel: 4 } }),
  },
  arrayTooLow: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, inSeries: 1 } }),
    silent: () => withCharger(quiet(), 'aft', { array: panels }),
  },
  bankReadsOther: { fires: () => withBank(quiet(), { restingV: 13.2 }), silent: () => withBank(quiet(), { restingV: 26.4 }) },
  stringFusePastPanel: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, panel: { ...panels.panel, maxFuseA: 20 }, stringFuseA: 25 } }),
    silent: () => withCharger(quiet(), 'aft', { array: { ...panels, panel: { ...panels.panel, maxFuseA: 25 }, stringFuseA: 25 } }),
  },
  arrayStringFuses: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, inSeries: 2, inParallel: 3 } }),
    silent: () => withCharger(quiet(), 'aft', { array: { ...panels, inSeries: 2, inParallel: 3, stringFuseA: 15 } }),
  },
  arrayClipped: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, inParallel: 2 } }),
    silent: () => withCharger(quiet(), 'aft', { array: panels }),
  },
  fusePastCable: {
    fires: () => withCharger(quiet(), 'aft', { fuseA: 100, wire: { lengthM: 1, areaMm2: 16 } }),
    silent: () => withCharger(withSystem(quiet(), { bank: { ...quiet().system.bank, fuseA: 240 } }), 'aft', { fuseA: 80, wire: { lengthM: 1, areaMm2: 16 } }),
  },
  cableDrop: {
    fires: () => withCharger(quiet(), 'aft', { wire: { lengthM: 4, areaMm2: 10 } }),
    silent: () => withCharger(quiet(), 'aft', { wire: { lengthM: 1, areaMm2: 16 } }),
  },
  fuseCannotBreak: {
    fires: () => withSystem(quiet(), { bank: { ...quiet().system.bank, shortCircuitA: 8000, fuseBreaksA: 5000 } }),
    silent: () => withSystem(quiet(), { bank: { ...quiet().system.bank, shortCircuitA: 8000, fuseBreaksA: 10000 } }),
  },
  loadDump: {
    fires: () => asAlternator(false),
    silent: () => asAlternator(true),
  },
  meterOutOfRange: {
    fires: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, rangeV: 20 })) }),
    silent: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, rangeV: 60 })) }),
  },
  cellCountMismatch: { fires: () => ({ ...quiet(), sheet: { ...quiet().sheet, unit: { ...quiet().sheet.unit, cellsInSeries: 7 } } }) },
  bankPastLimits: { fires: () => withSystem(quiet(), { bank: { ...quiet().system.bank, stringsInParallel: 5 } }) },
  newerRevision: {
    fires: () => applyChanges(quiet(), [{ kind: 'pinSheet', sheet: 'pellow-lb-25-rev-c' }]),
    silent: () => ({ ...quiet(), otherSheets: quiet().otherSheets.map((s) => ({ ...s, battery: 'LB-12', date: '2030-01' })) }),
  },
  figureMissing: { fires: () => withFigure(teasel(), 'rechargeVoltage', null) },
  lowRank: { fires: () => withFigure(teasel(), 'floatVoltage', { rank: 'assumed' }) },
  systemVoltageMismatch: { fires: () => withSystem(rookMoss(), { bank: { ...rookMoss().system.bank, unitsInSeries: 4 } }) },
  chemistryNotSupported: {
    fires: () => ({ ...teasel(), cards: teasel().cards.map((c) => ({ ...c, ratings: { ...c.ratings, chemistries: ['flooded' as const] } })) }),
  },
  absorbOutsideBand: { fires: () => ({ ...quiet(), overrides: [override('absorbVoltage', 28.7)] }) },
  floatOutsideBand: { fires: () => ({ ...quiet(), overrides: [override('floatVoltage', 27.6)] }) },
  presentOutsideBand: { fires: () => withCharger(quiet(), 'aft', { present: { floatVoltage: 27.6 } }) },
  rechargeNearFloat: { fires: () => ({ ...quiet(), overrides: [override('rechargeVoltage', 26.8)] }) },
  compensationOnLithium: { fires: () => withCharger(quiet(), 'aft', { present: {} }) },
  compensationMissingLead: { fires: () => withCharger(rookMoss(), 'mast', { sensor: { ...fore.sensor, fitted: false } }), silent: rookMoss },
  compensatedVoltage: { fires: rookMoss, silent: () => withSystem(rookMoss(), { loads: { ...rookMoss().system.loads, maxVolts: 17 } }) },
  cutoffBelowSheet: { fires: () => withCharger(quiet(), 'aft', { present: { lowTempCutoff: 0 } }) },
  coldProtection: { fires: () => withCharger(quiet(), 'aft', { sensor: { ...fore.sensor, fitted: false } }) },
  sensorReadsWarm: { fires: () => withCharger(quiet(), 'aft', { sensor: { ...fore.sensor, offsetC: 2.5 } }) },
  resumeTooClose: { fires: () => ({ ...quiet(), overrides: [override('lowTempResume', 7)] }) },
  equaliseReachable: { fires: () => withCharger(quiet(), 'aft', { present: { equaliseEnabled: 'on request' } }) },
  equaliseStored: { fires: () => withCharger(quiet(), 'aft', { present: { equaliseVoltage: 30.4, equaliseEnabled: 'off' } }) },
  absorbNearTrip: { fires: () => withFigure(quiet(), 'bmsOverVoltage', { max: 28.4 }) },
  cellSpread: { fires: () => withSystem(quiet(), { bank: { ...quiet().system.bank, cellSpreadV: 0.2 } }) },
  limitsPastCeiling: {
    fires: () => ({ ...asDerived(withSystem(quiet(), { bank: { ...quiet().system.bank, fuseA: 60 } })), overrides: [override('chargeCurrentLimit', 45)] }),
  },
  pastOwnFuse: { fires: () => withCharger({ ...quiet(), overrides: [override('chargeCurrentLimit', 45)] }, 'aft', { fuseA: 40 }) },
  taperBelowLoads: { fires: quiet, silent: () => withSystem(quiet(), { loads: { minA: 2, maxA: 6 } }) },
  chargersDisagree: { fires: () => ({ ...quiet(), overrides: [override('absorbVoltage', 28.4)] }) },
  rangeCannotReach: { fires: rookMoss, silent: () => withFigure(rookMoss(), 'disconnectVoltage', { target: 1.9 }) },
  displayErrorLarge: { fires: () => withCharger(quiet(), 'fore', { displayReadings: [{ meterV: 26.6, displayV: 27 }] }) },
  displayNotCompared: { fires: () => withCharger(quiet(), 'fore', { displayReadings: [] }) },
  displayCorrected: { fires: quiet, silent: () => withCharger(quiet(), 'fore', { displayReadings: [{ meterV: 26.6, displayV: 26.6 }] }) },
  deratingExceeded: { fires: teasel },
  leadTooWeak: { fires: rookMoss, silent: () => withFigure(rookMoss(), 'chargeCurrentRecommended', { min: 0.02 }) },
  bmsUnknown: { fires: () => withFigure(withFigure(quiet(), 'bmsOverVoltage', null), 'bmsCellOverVoltage', null) },
  overrideOutsideSheet: {
    fires: () => ({ ...quiet(), overrides: [override('rechargeVoltage', 26.6)] }),
    // Told once, by the finding on float itself.
    silent: () => ({ ...quiet(), overrides: [override('floatVoltage', 27.6)] }),
  },
  overrideNotReviewed: {
    fires: () => ({ ...quiet(), overrides: [override('absorbVoltage', 28.2)] }),
    silent: () => ({ ...quiet(), overrides: [{ ...override('absorbVoltage', 28.2), reviewedBy: 'installer' }] }),
  },
  defaultPasscode: { fires: () => withCharger(quiet(), 'aft', { passcodeChanged: false }) },
  meterPastCalibration: {
    fires: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, calibrationDue: '2026-05' })) }),
    silent: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, calibrationDue: '2026-06' })) }),
  },
  stringFuses: {
    fires: () => {
      const { stringFuseA: _none, ...bank } = quiet().system.bank;
      return withSystem(quiet(), { bank: { ...bank, stringsInParallel: 3 } });
    },
  },
  absorbFoundLong: {
    fires: () => withCharger(quiet(), 'aft', { present: { absorbTime: 600 } }),
    silent: () => withCharger(quiet(), 'aft', { present: { absorbTime: 90 } }),
  },
  alarmBelowDisconnect: { fires: () => monitor({ lowVoltageAlarm: 20 }), silent: () => monitor({ lowVoltageAlarm: 25 }) },
  arrayParts: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, isolatorA: 10 } }),
    silent: () => withCharger(quiet(), 'aft', { array: { ...panels, isolatorA: 16, stringFuseA: 15 } }),
  },
  capacityWithoutReason: {
    fires: () => withBank(quiet(), { capacityFactor: 0.9, capacityReason: '' }),
    silent: () => withBank(quiet(), { capacityFactor: 0.9, capacityReason: 'tested in March' }),
  },
  cutoffTooHigh: {
    fires: () => withSite(withCharger(quiet(), 'aft', { present: { lowTempCutoff: 20 } }), { bankLowC: -4 }),
    silent: () => withCharger(quiet(), 'aft', { present: { lowTempCutoff: 11 } }),
  },
  dcdcPastSpare: {
    fires: () => dcdc({ feed: { name: 'Start bank', volts: 12, spareA: 40 } }),
    silent: () => dcdc({ feed: { name: 'Start bank', volts: 12, spareA: 50 } }),
  },
  dcdcStartsLow: {
    fires: () => dcdc({ present: { inputStartVoltage: 12.6 } }),
    silent: () => dcdc({ present: { inputStartVoltage: 12.6 }, feed: { name: 'Start bank', volts: 12, engineSignal: true } }),
  },
  disconnectBelowBms: { fires: () => monitor({ loadDisconnect: 20.8 }), silent: () => monitor({ loadDisconnect: 22 }) },
  fieldFoundHigh: {
    fires: () => withCharger(wholeTeasel(), 'alternator', { present: { fieldLimit: 100 } }),
    silent: () => withCharger(wholeTeasel(), 'alternator', { present: { fieldLimit: 80 } }),
  },
  figureSuspicious: { fires: () => withFigure(quiet(), 'absorbTime', { target: 40 }), silent: () => withFigure(quiet(), 'absorbTime', { target: 300 }) },
  loadsBelowSetpoint: {
    fires: () => withSystem(quiet(), { loads: { ...quiet().system.loads, maxVolts: 28 } }),
    silent: () => withSystem(quiet(), { loads: { ...quiet().system.loads, maxVolts: 30 } }),
  },
  mainPathTooSmall: { fires: () => withBank(quiet(), { shuntA: 60 }), silent: () => withBank(quiet(), { shuntA: 500, mainSwitchA: 300 }) },
  monitorCounts: { fires: () => monitor({ capacity: 230 }), silent: () => monitor({ capacity: 460, peukertExponent: 1.05 }) },
  panelCoefficient: {
    fires: () => withCharger(quiet(), 'aft', { array: { ...panels, panel: { ...panels.panel, vocPercentPerC: -0.03 } } }),
    silent: () => withCharger(quiet(), 'aft', { array: panels }),
  },
  reconnectTooClose: {
    fires: () => monitor({ loadDisconnect: 24.6, loadReconnect: 24.7 }),
    silent: () => monitor({ loadDisconnect: 24.6, loadReconnect: 25.8 }),
  },
  siteSuspicious: { fires: () => withSite(quiet(), { bankLowC: -30 }), silent: () => withSite(quiet(), { bankLowC: -14 }) },
  thermostatAsFound: {
    fires: tumbler,
    silent: () => withCompanion(tumbler(), 'thermostat', { present: { outputMode: 'cooling', thermostatSetpoint: 60, thermostatDifferential: 2 } }),
  },
  bandImpossible: { fires: () => withSystem(skarrow(), { loads: { ...skarrow().system.loads, maxVolts: 28.9 } }), silent: skarrow },
  coldPastDiversion: { fires: skarrow, silent: () => withSite(skarrow(), { bankLowC: 24 }) },
  taperDisplaced: { fires: () => withSchools(wholeTeasel(), { absorbEnd: 'whicheverFirst' }), silent: teasel },
  absorbEndsDiffer: { fires: wholeTeasel },
  alarmPastTrip: {
    fires: wholeTeasel,
    silent: () => withCharger(wholeTeasel(), 'alternator', { present: { highVoltageAlarm: 28.8 } }),
  },
  alternatorPastMachine: {
    fires: () => withCharger(wholeTeasel(), 'alternator', { present: { machineTempLimit: 125 } }),
    silent: () => withCharger(wholeTeasel(), 'alternator', { present: { machineTempLimit: 100 } }),
  },
  batteryReadingMissing: { fires: () => sensor(skarrow(), 'leader', { fitted: false }), silent: skarrow },
  besideShunt: { fires: () => withCharger(wholeTeasel(), 'aft', { besideShunt: true }), silent: wholeTeasel },
  chargeEnableNotWired: { fires: () => withBank(quiet(), { chargeEnable: 'notWired' }), silent: () => withBank(quiet(), { chargeEnable: 'wired' }) },
  chargeUnknown: { fires: wholeTeasel, silent: () => withCompanion(wholeTeasel(), 'monitor', { fullSeen: true }) },
  coilLoad: { fires: () => stage({ coilW: 5 }), silent: () => stage({ coilW: 1 }) },
  coldProtectionSingle: {
    fires: () => withSchools(quiet(), { coldProtection: 'two' }),
    silent: () => withSchools(withFigure(quiet(), 'bmsLowTemperature', { state: 'stated', min: 0, unit: '°C' }), { coldProtection: 'two' }),
  },
  cutoffWithoutMargin: { fires: () => withSchools(quiet(), { cutoffFigure: 'exact' }) },
  cutoffWithoutSensor: {
    fires: () => withSite(sensor(quiet(), 'aft', { fitted: false }), { bankLowC: 4 }),
    silent: () => withSite(quiet(), { bankLowC: 4 }),
  },
  dcdcDrainsStarter: { fires: wholeTeasel, silent: () => dcdc({ present: { inputStopVoltage: 12.8 } }) },
  defaultUnexamined: { fires: () => withCharger(quiet(), 'aft', { present: {} }) },
  diversionBelowAbsorb: {
    fires: () => withCharger(skarrow(), 'turbine', { present: { diversionVoltage: 14.2 } }),
    silent: skarrow,
  },
  diversionFixed: {
    fires: skarrow,
    silent: () => withCard(skarrow(), 'ostrel-w12', (c) => ({ ...c, compensated: [...c.compensated, 'diversionVoltage'] })),
  },
  firmwareChanged: {
    fires: () => withCharger(quiet(), 'aft', { firmware: '3.2', provedFirmware: '3.1' }),
    silent: () => withCharger(quiet(), 'aft', { firmware: '3.2', provedFirmware: '3.2' }),
  },
  firmwareOtherThanCard: {
    fires: () => withCharger(quiet(), 'aft', { firmware: 'never written' }),
    silent: () => withCharger(quiet(), 'aft', { firmware: cardNamed('varrow-s45').describes.firmware }),
  },
  floatNotPermitted: {
    fires: () =>
      withSchools(withFigure(quiet(), 'floatVoltage', { state: 'notPermitted', min: undefined, target: undefined, max: undefined }), {
        lithiumFloat: 'floatEqualsAbsorb',
      }),
    silent: () => withFigure(quiet(), 'floatVoltage', { state: 'notPermitted', min: undefined, target: undefined, max: undefined }),
  },
  dictatedLine: { fires: () => dictated('lastFigures'), silent: () => dictated('ownFigures') },
  followerCannot: { fires: () => withCharger(quiet(), 'aft', { follows: 'fore' }), silent: skarrow },
  fuseMissing: { fires: () => withSystem(quiet(), { chargers: quiet().system.chargers.map((c) => without(c, 'fuseA')) }) },
  groundFaultSetting: { fires: () => withSite(skarrow(), { grounding: 'bonded' }), silent: skarrow },
  inputLimitAboveRating: {
    fires: () => withCharger(skarrow(), 'turbine', { present: { inputLimitVoltage: 200 } }),
    silent: () => withCharger(skarrow(), 'turbine', { present: { inputLimitVoltage: 180 } }),
  },
  leadCanFreeze: { fires: rookMoss, silent: () => withSite(rookMoss(), { bankLowC: -5 }) },
  limitCopied: {
    fires: () => withCharger(dcdc({ present: { chargeCurrentLimit: 30 } }), 'fore', { present: { chargeCurrentLimit: 30 } }),
    silent: () => withCharger(dcdc({ present: { chargeCurrentLimit: 20 } }), 'fore', { present: { chargeCurrentLimit: 31 } }),
  },
  loadDisconnectMissing: { fires: rookMoss, silent: () => withCharger(rookMoss(), 'mast', { present: { loadMode: 'always' } }) },
  loadDisconnectTooLow: { fires: () => monitor({ loadDisconnect: 22 }), silent: () => monitor({ loadDisconnect: 24.6 }) },
  monitorNeverFull: { fires: wholeTeasel, silent: () => monitor({ fullDetectVoltage: 27.7, fullDetectCurrent: 19 }) },
  monitorResetsEarly: {
    fires: () => monitor({ fullDetectVoltage: 26.8, fullDetectCurrent: 19 }),
    silent: () => monitor({ fullDetectVoltage: 27.7, fullDetectCurrent: 19 }),
  },
  noMonitor: { fires: quiet, silent: wholeTeasel },
  notTopBalanced: {
    fires: () => withBank(quiet(), { firstCharge: { topBalanced: false, stringVolts: [] } }),
    silent: () => withBank(quiet(), { firstCharge: { topBalanced: true, stringVolts: [] } }),
  },
  outputOpened: {
    fires: () =>
      withSystem(
        { ...wholeTeasel(), cards: [...wholeTeasel().cards, cardNamed('isk-t1')] },
        { companions: [{ id: 'stat', name: 'Thermostat', card: 'isk-t1', present: {}, switches: ['alternator'], relay: { breaks: 'output' } }] },
      ),
    silent: () =>
      withSystem(
        { ...wholeTeasel(), cards: [...wholeTeasel().cards, cardNamed('isk-t1')] },
        { companions: [{ id: 'stat', name: 'Thermostat', card: 'isk-t1', present: {}, switches: ['alternator'], relay: { breaks: 'field' } }] },
      ),
  },
  presetChosen: { fires: () => dcdc({ present: { batteryType: 'lithium' } }), silent: () => dcdc({ present: { batteryType: 'free' } }) },
  presetFigures: { fires: () => withSchools(withFigure(quiet(), 'floatVoltage', { rank: 'chargerPreset' }), { reference: 'bestAvailable' }) },
  rechargeBelowDisconnect: {
    fires: () => ({ ...wholeTeasel(), overrides: [override('rechargeVoltage', 24.5)] }),
    silent: wholeTeasel,
  },
  relayContactTooSmall: { fires: tumbler, silent: stage },
  relayWrongSide: { fires: () => stage({ breaks: 'batterySide' }), silent: stage },
  ruleBroken: {
    fires: () => ({ ...quiet(), overrides: [override('lowTempResume', 7)] }),
  },
  schoolAgainstSheet: { fires: () => withSchools(quiet(), { lithiumFloat: 'floatEqualsAbsorb' }) },
  sensorStillPlugged: {
    fires: () => sensor(tumbler(), 'yard', { fitted: true }),
    silent: tumbler,
  },
  sensorUnplugged: { fires: () => sensor(quiet(), 'aft', { fitted: false }) },
  settingAbsent: { fires: skarrow },
  slopeAsFound: {
    fires: () => withCharger(rookMoss(), 'mast', { present: { compensationSlope: 4 } }),
    silent: () => withCharger(rookMoss(), 'mast', { present: { compensationSlope: 24 } }),
  },
  slopeSign: { fires: () => withFigure(rookMoss(), 'compensationSlope', { target: 0.004 }), silent: rookMoss },
  stepPastTolerance: {
    fires: () => withFigure(quiet(), 'absorbTime', { target: 60 }),
    silent: () => withFigure(quiet(), 'absorbTime', { target: 2400 }),
  },
  stringsApart: {
    fires: () => withBank(quiet(), { firstCharge: { topBalanced: true, stringVolts: [26.5, 26.9] } }),
    silent: () => withBank(quiet(), { firstCharge: { topBalanced: true, stringVolts: [26.5, 26.55] } }),
  },
  systemVoltageFound: { fires: () => withCharger(quiet(), 'aft', { present: { systemVoltage: '12' } }) },
  turbineWithoutDiversion: {
    fires: () => withCharger(skarrow(), 'turbine', { machine: { name: 'Turbine', ratedA: 30, loadDumpProtected: true } }),
    silent: skarrow,
  },
  cardNotKnown: { fires: () => withCard(quiet(), 'varrow-s45', (card) => ({ ...card, notKnown: ['saving', 'passcode'] })) },
  absorbEveryNowhere: {
    fires: () => withSchools(skarrow(), { unattended: 'absorbEvery' }),
    silent: () => withSite(withSchools(skarrow(), { unattended: 'absorbEvery' }), { unattendedMonths: 0 }),
  },
  unattendedWithoutPlan: { fires: skarrow, silent: () => withSchools(skarrow(), { unattended: 'absorbEvery' }) },
  valueLost: { fires: wholeTeasel, silent: () => ({ ...tumbler(), system: { ...tumbler().system, chargers: tumbler().system.chargers.slice(1) } }) },
  wrapNearValue: {
    fires: () => withFigure(wholeTeasel(), 'absorbTime', { target: 600 }),
    silent: wholeTeasel,
  },
};

export { withSchools, withBank, withSite, withCard, stage };
