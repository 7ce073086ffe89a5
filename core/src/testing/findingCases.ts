import { readFileSync } from 'node:fs';
import { cardSchema, type Card, type Role } from '../card';
import type { Job } from '../job';
import { readJob } from '../job';
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
const sensor = (job: Job, id: string, change: Partial<Charger['sensor']>): Job =>
  withCharger(job, id, { sensor: { ...job.system.chargers.find((c) => c.id === id)!.sensor, ...change } });
const monitor = (present: Companion['present'], fullSeen = true): Job => withCompanion(wholeTeasel(), 'monitor', { present, fullSeen });
/** The stage with a contactor that suits its roof. */
const stage = (relay: Partial<Relay> = {}): Job =>
  withCompanion(tumbler(), 'thermostat', { relay: { breaks: 'arraySide', volts: 200, amps: 25, coilW: 1, fusedSupply: true, ...relay } });
/** The launch's DC-DC charger, its sensor joined to the battery. */
const dcdc = (change: Partial<Charger>): Job => withCharger(wholeTeasel(), 'dcdc', change);
const without = <T extends object, K extends keyof T>(value: T, key: K): Omit<T, K> => {
  const { [key]: _gone, ...rest } = value;
  return rest;
};

export const findingCases: Readonly<Record<string, FindingCase>> = {
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
  unattendedWithoutPlan: { fires: skarrow, silent: () => withSchools(skarrow(), { unattended: 'absorbEvery' }) },
  valueLost: { fires: wholeTeasel, silent: () => ({ ...tumbler(), system: { ...tumbler().system, chargers: tumbler().system.chargers.slice(1) } }) },
  wrapNearValue: {
    fires: () => withFigure(wholeTeasel(), 'absorbTime', { target: 600 }),
    silent: wholeTeasel,
  },
};

export { withSchools, withBank, withSite, withCard, stage };
