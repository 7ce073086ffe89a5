import type { Role } from '../card';
import type { Job } from '../job';
import type { Figure, FigureKey } from '../sheet';
import type { Companion, PanelArray } from '../system';
import { asAlternator, cardNamed, override, panels, quiet, skarrow, stage, tumbler, withBank, withCard, withSchools, withSite } from '../testing/findingCases';
import { asDerived, find, plan, rookMoss, teasel, wholeTeasel, withCharger, withFigure, withSystem } from '../testing/fixtures';
import type { Severity } from './index';

/** One limit of a finding: just past it the finding stands, with these words; just within it is silent. */
interface Edge {
  readonly code: string;
  readonly past: () => Job;
  readonly within: () => Job;
  readonly says?: string;
  readonly severity?: Severity;
  readonly remedies?: readonly string[];
  readonly today?: string;
  readonly device?: string;
}

const overridden = (role: Role, value: number, job: Job = quiet(), charger = 'aft'): Job => ({ ...job, overrides: [override(role, value, charger)] });
const found = (role: Role, value: number | string, job: Job = quiet(), charger = 'aft'): Job => {
  const device = job.system.chargers.find((c) => c.id === charger)!;
  return withCharger(job, charger, { present: { ...device.present, [role]: value } });
};
const monitor = (present: Readonly<Partial<Record<Role, number | string>>>): Job => {
  const job = wholeTeasel();
  return withSystem(job, { companions: job.system.companions.map((c) => (c.id === 'monitor' ? { ...c, present, fullSeen: true } : c)) });
};
const trip = (max: number): Job => withFigure(quiet(), 'bmsOverVoltage', { max });
const dcdc = (present: Readonly<Record<string, number>>, dropV = 0): Job => {
  const job = wholeTeasel();
  const feed = job.system.chargers.find((c) => c.id === 'dcdc')!.feed!;
  return withCharger(job, 'dcdc', { present, feed: { ...feed, dropV } });
};
const display = (displayV: number): Job => withCharger(quiet(), 'fore', { displayReadings: [{ meterV: 25, displayV }] });
const spread = (cellSpreadV: number): Job => withBank(quiet(), { cellSpreadV });
const fuse = (fuseA: number, areaMm2: number): Job => withCharger(withBank(quiet(), { fuseA: 240 }), 'aft', { fuseA, wire: { lengthM: 0.2, areaMm2 } });
const strings = (...stringVolts: number[]): Job => withBank(quiet(), { firstCharge: { topBalanced: true, stringVolts } });
const unit = (nominalVolts: number, cellsInSeries: number): Job => ({
  ...quiet(),
  sheet: { ...quiet().sheet, unit: { ...quiet().sheet.unit, nominalVolts, cellsInSeries } },
});
const alternator = (present: Readonly<Record<string, number>>, ratedA = 100): Job => {
  const job = wholeTeasel();
  const { machine } = job.system.chargers.find((c) => c.id === 'alternator')!;
  return withCharger(job, 'alternator', { present, machine: { ...machine!, ratedA } });
};
const frost = (bankLowC: number): Job => withSite(rookMoss(), { bankLowC });
const slope = (value: number): Job => withCharger(rookMoss(), 'mast', { present: { compensationSlope: value } });

const withVoc = (vocV: number): Job => withCharger(quiet(), 'aft', { array: { ...panels, panel: { ...panels.panel, vocV } } });

const feed = (spareA: number): Job => withCharger(wholeTeasel(), 'dcdc', { feed: { name: 'Start bank', volts: 12, spareA } });
const onMonitor = (present: Companion['present']): Job =>
  withSystem(wholeTeasel(), { companions: wholeTeasel().system.companions.map((c) => ({ ...c, present })) });
const withArray = (change: Partial<PanelArray>): Job => withCharger(quiet(), 'aft', { array: { ...panels, ...change } });
const withVocChange = (vocPercentPerC: number): Job => withArray({ panel: { ...panels.panel, vocPercentPerC } });
const figure = (key: FigureKey, change: Partial<Figure>): Job => withFigure(quiet(), key, change);
/** The launch with limits found on both solar chargers, worked out lower. */
const limitsFound = (fore: number, aft: number, fuseA: number): Job => {
  const job = withSystem(quiet(), { bank: { ...quiet().system.bank, fuseA } });
  return withCharger(withCharger(job, 'fore', { present: { ...job.system.chargers[0]!.present, chargeCurrentLimit: fore } }), 'aft', {
    present: { ...job.system.chargers[1]!.present, chargeCurrentLimit: aft },
  });
};

/** The hut’s monitor found on a full voltage, and its bank this hot at the most. */
const hotMonitor = (fullDetectVoltage: number, bankHighC: number): Job => {
  const job = withSite(skarrow(), { bankHighC });
  return withSystem(job, { companions: job.system.companions.map((c) => ({ ...c, present: { ...c.present, fullDetectVoltage } })) });
};
const mastLoads = (maxVolts: number, equalise = 'on'): Job =>
  withCharger(withSystem(rookMoss(), { loads: { ...rookMoss().system.loads, maxVolts } }), 'mast', { present: { equaliseEnabled: equalise } });
const noEqualise = (maxVolts: number): Job =>
  withFigure(mastLoads(maxVolts), 'equaliseVoltage', { state: 'notPermitted', min: undefined, target: undefined, max: undefined });

/** The launch beside an alternator that gives this much. */
const besideMachine = (ratedA: number): Job =>
  withCharger(wholeTeasel(), 'alternator', { machine: { ...wholeTeasel().system.chargers.find((c) => c.id === 'alternator')!.machine!, ratedA } });

const inEngineSpace = (fuseA: number): Job => withCharger(quiet(), 'aft', { fuseA, wire: { lengthM: 1, areaMm2: 16, airC: 60 } });
/** A charger’s own 10 mm² and a main cable that both chargers share. */
const sharedMain = (lengthM: number): Job => withCharger(withBank(quiet(), { wire: { lengthM, areaMm2: 35 } }), 'aft', { wire: { lengthM: 1, areaMm2: 10 } });

const hutLoads = (maxVolts: number): Job => withSystem(skarrow(), { loads: { ...skarrow().system.loads, maxVolts } });

/** The stage on a bank so small that its inverter-charger, which steps by 5 % of 70 A and calls 0 % off, cannot go low enough. */
const smallStage = (chargeCurrentRecommended: number): Job =>
  withFigure(
    withFigure(tumbler(), 'chargeCurrentRecommended', { state: 'stated', max: chargeCurrentRecommended, target: undefined, unit: 'A', basis: 'bank' }),
    'chargeCurrentMax',
    null,
  );

const edges: readonly Edge[] = [
  {
    // Share 70 of 115 A: 5.7 A of the bank are 3.47 A, and its least is 3.5 A.
    code: 'rangeCannotReach',
    past: () => smallStage(5.7),
    within: () => smallStage(5.8),
    device: 'yard',
    severity: 'attention',
    says: 'Inverter-charger has no step for charge current limit at 3.47 A, which the sheet requires. The nearest is 3.50 A.',
  },
  {
    code: 'bandImpossible',
    past: () => hutLoads(28.95),
    within: () => hutLoads(29),
    says: 'Stream turbine: brake must be at least 29.00 V and at most 28.95 V. No value fits both.',
    severity: 'attention',
  },
  {
    // 85 A at 30 °C, times √((70 − 60) / 40) in an engine space.
    code: 'fusePastCable',
    past: () => inEngineSpace(43),
    within: () => inEngineSpace(42.5),
    says: 'Solar aft: the fuse of 43.0 A is larger than its cable’s rating of 42.5 A.',
    severity: 'stop',
  },
  {
    // 2 m of copper at 50 °C: 45 A over 10 mm² and 90 A over 35 mm², against 1.5 % of 25.6 V.
    code: 'cableDrop',
    past: () => sharedMain(2.13),
    within: () => sharedMain(2.12),
    says: 'The cables from Solar aft to the bank lose 0.38 V at 45 A, with 90 A of all chargers in the main cable.',
    severity: 'note',
  },
  // The forward charger keys 7.5 A of its share of 7.65: beside 9.5 A of alternator less 2 A of load no more than twice that is left.
  {
    code: 'taperDisplaced',
    past: () => withSchools(besideMachine(9.6), { absorbEnd: 'whicheverFirst' }),
    within: () => withSchools(besideMachine(9.4), { absorbEnd: 'whicheverFirst' }),
    severity: 'attention',
    remedies: ['Let time end absorb'],
  },
  // A charger whose taper has no off, at its least: 0.5 A beside 2.5 A of alternator less 2 A of load.
  {
    code: 'taperDisplaced',
    past: () => withSchools(besideMachine(2.6), { absorbEnd: 'time' }),
    within: () => withSchools(besideMachine(2.4), { absorbEnd: 'time' }),
    device: 'dcdc',
    severity: 'attention',
    remedies: [],
  },
  {
    // 15.3 V − 0.024 V/°C × (−18 − 25).
    code: 'compensatedVoltage',
    past: () => mastLoads(16.33),
    within: () => mastLoads(16.34),
    says: 'At −18 °C Mast solar would equalise at 16.332 V. The loads are rated for 16.330 V.',
    severity: 'attention',
  },
  {
    // Where it may not be equalised absorb is the highest: 14.7 + 0.024 × 43.
    code: 'compensatedVoltage',
    past: () => noEqualise(15.73),
    within: () => noEqualise(15.74),
    says: 'At −18 °C Mast solar would absorb at 15.732 V. The loads are rated for 15.730 V.',
  },
  {
    // 28.8 V − 0.048 V/°C × (−1 − 25) − … : at −1 °C the leader’s 30.05 V are over the diversion at 29.0 and the brake at 29.8 V.
    code: 'coldPastDiversion',
    past: () => withSite(skarrow(), { bankLowC: -1 }),
    within: () => withSite(skarrow(), { bankLowC: 21 }),
    says: 'At −1 °C Solar leader absorbs at 30.05 V, above the diversion of Stream turbine at 29.00 V and its brake at 29.80 V.',
    severity: 'attention',
  },
  {
    code: 'coldPastDiversion',
    past: () => withSite(skarrow(), { bankLowC: 20 }),
    within: () => withSite(skarrow(), { bankLowC: 21 }),
    says: 'At 20 °C Solar leader absorbs at 29.04 V, above the diversion of Stream turbine at 29.00 V.',
  },
  {
    code: 'monitorNeverFull',
    past: () => hotMonitor(28.1, 40),
    within: () => hotMonitor(28.1, 39),
    says: 'Monitor: full-charge voltage is 28.10 V. With the bank at 40 °C the lowest absorb is 28.08 V.',
  },
  {
    // 80 A × 0.8 = 64 A for the bank; 32 and 32 A are worked out.
    code: 'limitsPastCeiling',
    past: () => limitsFound(32, 33, 80),
    within: () => limitsFound(32, 32, 80),
    says: 'The charge limits, as found, add up to 65 A. The bank’s limit is 64 A (main fuse: 80 A × 0.8).',
    severity: 'stop',
    remedies: ['Record that it now reads 32\u00a0A'],
  },
  {
    code: 'pastOwnFuse',
    past: () => withCharger(limitsFound(30, 36, 250), 'aft', { fuseA: 44, present: { chargeCurrentLimit: 36 } }),
    within: () => withCharger(limitsFound(30, 35, 250), 'aft', { fuseA: 44, present: { chargeCurrentLimit: 35 } }),
    says: 'Solar aft was found limited to 36 A. Its 44 A fuse carries 35.2 A continuously.',
    severity: 'stop',
    remedies: ['Record that it now reads 35\u00a0A'],
  },
  {
    code: 'pastOwnFuse',
    past: () => withCharger(quiet(), 'aft', { cableA: 40, present: { chargeCurrentLimit: 41 } }),
    within: () => withCharger(quiet(), 'aft', { cableA: 40, present: { chargeCurrentLimit: 40 } }),
    says: 'Solar aft was found limited to 41 A. Its cable is rated for 40 A.',
    severity: 'stop',
  },
  {
    code: 'resumeTooClose',
    past: () => withCharger(quiet(), 'aft', { present: { lowTempCutoff: 7, lowTempResume: 8 } }),
    within: () => withCharger(quiet(), 'aft', { present: { lowTempCutoff: 7, lowTempResume: 9 } }),
    says: 'Solar aft was found to resume at 8 °C, 1 °C above its cutoff. It needs 2 °C.',
    severity: 'attention',
  },
  {
    // Worked out: 5 + 1.25 °C.
    code: 'cutoffTooHigh',
    past: () => found('lowTempCutoff', 12),
    within: () => found('lowTempCutoff', 11),
    says: 'Solar aft: low-temperature cutoff was found at 12 °C. 6.3 °C is enough.',
    severity: 'attention',
  },
  { code: 'absorbFoundLong', past: () => found('absorbTime', 120), within: () => found('absorbTime', 115), severity: 'stop' },
  {
    code: 'absorbFoundLong',
    past: () => withCharger(withFigure(quiet(), 'absorbTime', { target: 3600 }), 'aft', { present: { absorbTime: 180 } }),
    within: () => withCharger(withFigure(quiet(), 'absorbTime', { target: 3600 }), 'aft', { present: { absorbTime: 175 } }),
    severity: 'stop',
  },
  {
    code: 'thermostatAsFound',
    past: () => stage({}, { outputMode: 'heating', thermostatSetpoint: 50 }),
    within: () => stage({}, { outputMode: 'cooling', thermostatSetpoint: 50 }),
    says: 'Thermostat was found on output “heating”. It must be on “cooling”.',
    severity: 'stop',
  },
  {
    code: 'thermostatAsFound',
    past: () => stage({}, { outputMode: 'cooling', thermostatSetpoint: 49 }),
    within: () => stage({}, { outputMode: 'cooling', thermostatSetpoint: 50 }),
    says: 'Thermostat: setpoint was found at 9.4 °C. It must be at least 9.7 °C.',
    severity: 'stop',
  },
  {
    code: 'fieldFoundHigh',
    past: () => found('fieldLimit', 85, wholeTeasel(), 'alternator'),
    within: () => found('fieldLimit', 80, wholeTeasel(), 'alternator'),
    severity: 'attention',
  },
  { code: 'monitorCounts', past: () => onMonitor({ capacity: 484 }), within: () => onMonitor({ capacity: 483 }), severity: 'attention' },
  { code: 'monitorCounts', past: () => onMonitor({ capacity: 436 }), within: () => onMonitor({ capacity: 437 }), severity: 'attention' },
  {
    code: 'monitorCounts',
    past: () => onMonitor({ peukertExponent: 1.1 }),
    within: () => onMonitor({ peukertExponent: 1.09 }),
    says: 'Monitor: Peukert exponent was found at 1.10. This bank needs 1.03.',
  },
  {
    code: 'monitorCounts',
    past: () => onMonitor({ chargeEfficiency: 95 }),
    within: () => onMonitor({ chargeEfficiency: 96 }),
    says: 'Monitor: charge efficiency was found at 95 %. This bank needs 99 %.',
  },
  {
    code: 'reconnectTooClose',
    past: () => onMonitor({ loadDisconnect: 24.6, loadReconnect: 25.1 }),
    within: () => onMonitor({ loadDisconnect: 24.6, loadReconnect: 25.2 }),
    severity: 'attention',
  },
  {
    code: 'alarmBelowDisconnect',
    past: () => onMonitor({ loadDisconnect: 24.6, lowVoltageAlarm: 24.6 }),
    within: () => onMonitor({ loadDisconnect: 24.6, lowVoltageAlarm: 24.7 }),
    severity: 'attention',
  },
  { code: 'disconnectBelowBms', past: () => onMonitor({ loadDisconnect: 20.8 }), within: () => onMonitor({ loadDisconnect: 20.9 }), severity: 'attention' },
  {
    code: 'loadsBelowSetpoint',
    past: () => withSystem(quiet(), { loads: { ...quiet().system.loads, maxVolts: 28.05 } }),
    within: () => withSystem(quiet(), { loads: { ...quiet().system.loads, maxVolts: 28.1 } }),
    says: 'Solar aft: absorb at 28.10 V is above the 28.05 V the loads are rated for.',
    severity: 'attention',
  },
  {
    code: 'loadsBelowSetpoint',
    past: () => withSystem(found('floatVoltage', 29), { loads: { ...quiet().system.loads, maxVolts: 28.5 } }),
    within: () => withSystem(found('floatVoltage', 28.5), { loads: { ...quiet().system.loads, maxVolts: 28.5 } }),
    says: 'Solar aft: float at 29.0 V is above the 28.5 V the loads are rated for.',
  },
  { code: 'mainPathTooSmall', past: () => withBank(quiet(), { shuntA: 89 }), within: () => withBank(quiet(), { shuntA: 90 }), severity: 'attention' },
  {
    code: 'mainPathTooSmall',
    past: () => withSystem(quiet(), { bank: { ...quiet().system.bank, mainSwitchA: 150 }, loads: { minA: 2, maxA: 151 } }),
    within: () => withSystem(quiet(), { bank: { ...quiet().system.bank, mainSwitchA: 150 }, loads: { minA: 2, maxA: 150 } }),
    says: 'The main switch is rated for 150 A. The loads take up to 151 A.',
  },
  { code: 'arrayParts', past: () => withArray({ isolatorA: 12.4 }), within: () => withArray({ isolatorA: 12.5 }), severity: 'attention' },
  {
    code: 'arrayParts',
    past: () => withArray({ inParallel: 3, inSeries: 2, stringFuseA: 12 }),
    within: () => withArray({ inParallel: 3, inSeries: 2, stringFuseA: 12.5 }),
    says: 'The string fuse of Solar aft is rated for 12.0 A. In bright light 12.5 A flow through it.',
  },
  { code: 'panelCoefficient', past: () => withVocChange(-0.19), within: () => withVocChange(-0.2), severity: 'attention' },
  {
    code: 'panelCoefficient',
    past: () => withVocChange(-0.51),
    within: () => withVocChange(-0.5),
    says: 'The panels of Solar aft are entered with an open-circuit change of −0.51 %/°C. The usual range is −0.2 to −0.5 %/°C.',
  },
  { code: 'bankReadsOther', past: () => withBank(quiet(), { restingV: 22.3 }), within: () => withBank(quiet(), { restingV: 22.4 }), severity: 'stop' },
  { code: 'bankReadsOther', past: () => withBank(quiet(), { restingV: 27.7 }), within: () => withBank(quiet(), { restingV: 27.6 }), severity: 'stop' },
  {
    code: 'bankReadsOther',
    past: () => withBank(rookMoss(), { restingV: 11 }),
    within: () => withBank(rookMoss(), { restingV: 11.1 }),
    says: 'The bank measures 11.00 V at rest. 6 cells of vented lead-acid rest at 11.1–13.2 V.',
  },
  // Two strings of 10 A panels: one drives 10 A into the other.
  {
    code: 'arrayStringFuses',
    past: () => withArray({ inSeries: 2, inParallel: 2, panel: { ...panels.panel, maxFuseA: 9.9 } }),
    within: () => withArray({ inSeries: 2, inParallel: 2, panel: { ...panels.panel, maxFuseA: 10 } }),
    says: '2 strings of panels are in parallel on Solar aft, without a fuse in each. The others drive 10.0 A into a faulty one; the label allows 9.9 A.',
  },
  {
    code: 'arrayStringFuses',
    past: () => withArray({ inSeries: 1, inParallel: 3 }),
    within: () => withArray({ inSeries: 1, inParallel: 3, panel: { ...panels.panel, maxFuseA: 20 } }),
  },
  // What a person set counts before what was found.
  {
    code: 'monitorNeverFull',
    past: () => ({ ...onMonitor({ fullDetectVoltage: 27.6 }), overrides: [override('fullDetectVoltage', 28.3, 'monitor')] }),
    within: () => ({ ...onMonitor({ fullDetectVoltage: 28.3 }), overrides: [override('fullDetectVoltage', 27.8, 'monitor')] }),
    device: 'monitor',
  },
  { code: 'siteSuspicious', past: () => withSite(quiet(), { bankLowC: -15.1 }), within: () => withSite(quiet(), { bankLowC: -15 }), severity: 'attention' },
  {
    code: 'dcdcStartsLow',
    past: () => found('inputStartVoltage', 12.8, wholeTeasel(), 'dcdc'),
    within: () => found('inputStartVoltage', 12.9, wholeTeasel(), 'dcdc'),
    severity: 'attention',
  },
  // 20 A × 28.1 V / (14 V × 0.9) = 44.6 A.
  { code: 'dcdcPastSpare', past: () => feed(44.5), within: () => feed(44.7), severity: 'attention' },
  { code: 'figureSuspicious', past: () => figure('absorbTime', { target: 299 }), within: () => figure('absorbTime', { target: 300 }), severity: 'attention' },
  {
    code: 'figureSuspicious',
    past: () => figure('chargeCurrentMax', { max: 4, unit: 'C' }),
    within: () => figure('chargeCurrentMax', { max: 2, unit: 'C' }),
    says: 'Most current is 4.00 C. 0.40 C is likelier.',
  },
  {
    code: 'figureSuspicious',
    past: () => figure('chargeCurrentMax', { max: 0.4, unit: 'A' }),
    within: () => figure('chargeCurrentMax', { max: 4.6, unit: 'A' }),
    says: 'Most current is 0.4 A. 0.40 C, 92 A, is likelier.',
  },
  {
    code: 'figureSuspicious',
    past: () => figure('chargeTemperature', { min: 41, max: 113 }),
    within: () => figure('chargeTemperature', { min: 25, max: 45 }),
    says: 'Charging range begins at 41 °C. 41 °F, 5 °C, is likelier.',
  },
  {
    code: 'figureSuspicious',
    past: () => ({ ...quiet(), sheet: { ...quiet().sheet, unit: { ...quiet().sheet.unit, capacityAh: 5888 } } }),
    within: () => ({ ...quiet(), sheet: { ...quiet().sheet, unit: { ...quiet().sheet.unit, capacityAh: 703 } } }),
    says: 'One battery is entered with 5888 Ah. 230 Ah is likelier, if that number was watt-hours.',
  },
  {
    // 3 × 44.7 × (1 + 0.003 × 39) = 149.79; 3 °C colder and 3 % more: 155.53.
    code: 'arrayTooHigh',
    past: () => withVoc(44.7),
    within: () => withVoc(43.1),
    says: 'The array of Solar aft, 3 in series, reaches 149.8 V at −14 °C, and up to 155.5 V with the label’s tolerance on a clear night. The charger’s input is rated for 150.0 V.',
    severity: 'attention',
  },
  { code: 'arrayTooHigh', past: () => withVoc(43.2), within: () => withVoc(43.1), severity: 'attention' },
  { code: 'arrayTooHigh', past: () => withVoc(44.8), within: () => withVoc(43.1), severity: 'stop' },
  {
    code: 'absorbNearTrip',
    past: () => trip(28.48),
    within: () => trip(28.51),
    says: 'Solar fore absorbs at 28.09 V, 0.39 V below the BMS trip of 28.48 V. It must be at least 0.40 V below.',
    severity: 'stop',
  },
  {
    code: 'absorbNearTrip',
    past: () => trip(28),
    within: () => trip(28.51),
    says: 'Solar fore absorbs at 28.09 V, 0.09 V above the BMS trip of 28.00 V. It must be at least 0.40 V below.',
    severity: 'stop',
  },
  {
    code: 'alarmPastTrip',
    past: () => found('highVoltageAlarm', 28.9, wholeTeasel(), 'alternator'),
    within: () => found('highVoltageAlarm', 28.8, wholeTeasel(), 'alternator'),
    says: 'Alternator: high-voltage alarm is at 28.9 V, 0.3 V below the BMS trip of 29.2 V. It must be at least 0.4 V below.',
    severity: 'attention',
  },
  {
    code: 'alarmPastTrip',
    past: () => found('highVoltageAlarm', 29.2, wholeTeasel(), 'alternator'),
    within: () => overridden('highVoltageAlarm', 28.8, found('highVoltageAlarm', 29.4, wholeTeasel(), 'alternator'), 'alternator'),
    says: 'Alternator: high-voltage alarm is at 29.2 V, at the BMS trip of 29.2 V. It must be at least 0.4 V below.',
    severity: 'stop',
  },
  {
    code: 'absorbOutsideBand',
    past: () => overridden('absorbVoltage', 27.9),
    within: () => overridden('absorbVoltage', 28),
    says: 'Solar aft: absorb is overridden by the owner and comes to 27.90 V, 0.10 V below the sheet’s 28.00–28.40 V.',
    severity: 'attention',
  },
  {
    code: 'absorbOutsideBand',
    past: () => overridden('absorbVoltage', 28.5),
    within: () => overridden('absorbVoltage', 28.4),
    says: 'Solar aft: absorb is overridden by the owner and comes to 28.50 V, 0.10 V above the sheet’s 28.00–28.40 V.',
    severity: 'stop',
  },
  { code: 'floatOutsideBand', past: () => overridden('floatVoltage', 26.6), within: () => overridden('floatVoltage', 26.7), severity: 'attention' },
  { code: 'floatOutsideBand', past: () => overridden('floatVoltage', 27.2), within: () => overridden('floatVoltage', 27.1), severity: 'stop' },
  {
    code: 'presentOutsideBand',
    past: () => found('floatVoltage', 26.6),
    within: () => found('floatVoltage', 26.7),
    says: 'Solar aft: float was found at 26.6 V, 0.1 V below the sheet’s 26.7–27.1 V.',
    severity: 'attention',
  },
  {
    code: 'presentOutsideBand',
    past: () => found('absorbVoltage', 28.42),
    within: () => found('absorbVoltage', 28.4),
    says: 'Solar aft: absorb was found at 28.42 V, 0.02 V above the sheet’s 28.00–28.40 V.',
    severity: 'stop',
  },
  {
    code: 'presentOutsideBand',
    past: () => found('absorbVoltage', 28.5),
    within: () => found('absorbVoltage', 28.4),
    says: 'Solar aft: absorb was found at 28.5 V, 0.1 V above the sheet’s 28.0–28.4 V.',
    severity: 'stop',
  },
  {
    code: 'presentOutsideBand',
    past: () => found('rechargeVoltage', 27),
    within: () => found('rechargeVoltage', 26.4),
    says: 'Solar aft: recharge was found at 27.0 V, 0.6 V above the sheet’s maximum of 26.4 V.',
    severity: 'attention',
  },
  {
    code: 'rechargeNearFloat',
    past: () => overridden('rechargeVoltage', 26.8),
    within: () => overridden('rechargeVoltage', 26.7),
    says: 'Solar aft: recharge at 26.80 V is 0.10 V below float at 26.90 V. It must be at least 0.20 V below.',
    severity: 'attention',
  },
  {
    code: 'rechargeNearFloat',
    past: () => overridden('rechargeVoltage', 27),
    within: () => overridden('rechargeVoltage', 26.6),
    says: 'Solar aft: recharge at 27.00 V is 0.10 V above float at 26.90 V. It must be at least 0.20 V below.',
  },
  {
    code: 'cutoffBelowSheet',
    past: () => overridden('lowTempCutoff', 1),
    within: () => overridden('lowTempCutoff', 2),
    says: 'Solar aft: low-temperature cutoff would be 1 °C. It must be at least 1.3 °C (sheet 0 °C + sensor margin 1.3 °C).',
    severity: 'stop',
    remedies: ['Go back to the derived value'],
  },
  {
    code: 'cutoffBelowSheet',
    past: () => found('lowTempCutoff', 1),
    within: () => found('lowTempCutoff', 2),
    says: 'Solar aft: low-temperature cutoff was found at 1 °C. It must be at least 1.3 °C (sheet 0 °C + sensor margin 1.3 °C).',
  },
  {
    code: 'cutoffBelowSheet',
    past: () => withSite(found('lowTempCutoff', 0), { bankLowC: 1.2 }),
    within: () => withSite(found('lowTempCutoff', 0), { bankLowC: 1.4 }),
  },
  {
    code: 'resumeTooClose',
    past: () => overridden('lowTempResume', 8),
    within: () => overridden('lowTempResume', 9),
    says: 'Solar aft resumes at 8 °C, 1 °C above its cutoff. It needs 2 °C.',
  },
  {
    code: 'sensorReadsWarm',
    past: () => withCharger(quiet(), 'aft', { sensor: { ...quiet().system.chargers[1]!.sensor, offsetC: 1 } }),
    within: () => withCharger(quiet(), 'aft', { sensor: { ...quiet().system.chargers[1]!.sensor, offsetC: 0.9 } }),
    severity: 'attention',
  },
  {
    code: 'dcdcDrainsStarter',
    past: () => dcdc({ inputStopVoltage: 12.7 }),
    within: () => dcdc({ inputStopVoltage: 12.8 }),
    says: 'DC-DC was found set to stop at 12.7 V. 12 V start bank rests at 12.8 V.',
  },
  {
    code: 'dcdcDrainsStarter',
    past: () => dcdc({ inputStopVoltage: 12.7 }, 0.3),
    within: () => dcdc({ inputStopVoltage: 12.8 }, 0.3),
    says: 'DC-DC was found set to stop at 12.7 V. 12 V start bank rests at 12.8 V.',
  },
  {
    code: 'dcdcDrainsStarter',
    past: () => overridden('inputStopVoltage', 12.6, dcdc({ inputStopVoltage: 12.8 }), 'dcdc'),
    within: () => overridden('inputStopVoltage', 12.8, dcdc({ inputStopVoltage: 12 }), 'dcdc'),
    says: 'DC-DC would stop at 12.6 V. 12 V start bank rests at 12.8 V.',
  },
  {
    code: 'displayErrorLarge',
    past: () => display(25.26),
    within: () => display(25.25),
    says: 'Solar fore: the display shows 25.26 V and the meter 25.00 V, 1.0 % high.',
    severity: 'stop',
  },
  {
    code: 'displayErrorLarge',
    past: () => display(24.7),
    within: () => display(24.75),
    says: 'Solar fore: the display shows 24.70 V and the meter 25.00 V, 1.2 % low.',
  },
  {
    code: 'displayCorrected',
    past: () => display(24.9),
    within: () => display(25),
    says: 'Solar fore: absorb is entered as 28.0 V to make 28.10 V, because the display reads 0.10 V low.',
    severity: 'note',
  },
  {
    code: 'diversionBelowAbsorb',
    past: () => found('diversionVoltage', 14.4, skarrow(), 'turbine'),
    within: () => found('diversionVoltage', 14.5, skarrow(), 'turbine'),
    says: 'Stream turbine: diversion at 28.80 V is not above absorb at 28.80 V.',
    severity: 'stop',
  },
  {
    code: 'fuseCannotBreak',
    past: () => withBank(quiet(), { shortCircuitA: 8000, fuseBreaksA: 7999 }),
    within: () => withBank(quiet(), { shortCircuitA: 8000, fuseBreaksA: 8000 }),
    says: 'The bank drives 8000 A into a short. The main fuse can break 7999 A.',
  },
  {
    code: 'fuseCannotBreak',
    past: () => withBank(quiet(), { shortCircuitA: 8000, fuseBreaksA: undefined }),
    within: () => withBank(quiet(), { shortCircuitA: 8000, fuseBreaksA: undefined, fuseA: undefined }),
    says: 'The bank drives 8000 A into a short. The breaking capacity of the main fuse is not entered.',
  },
  {
    code: 'fusePastCable',
    past: () => fuse(86, 16),
    within: () => fuse(85, 16),
    says: 'Solar aft: the fuse of 86 A is larger than its cable’s rating of 85 A.',
    severity: 'stop',
    device: 'aft',
  },
  {
    code: 'fusePastCable',
    past: () => withBank(quiet(), { fuseA: 151, cableA: 150 }),
    within: () => withBank(quiet(), { fuseA: 150, cableA: 150 }),
    says: 'The main fuse of 151 A is larger than its cable’s rating of 150 A.',
    severity: 'stop',
  },
  {
    code: 'fusePastCable',
    past: () => withBank(quiet(), { fuseA: 150, cableA: 149.6 }),
    within: () => withBank(quiet(), { fuseA: 150, cableA: 150 }),
    says: 'The main fuse of 150.0 A is larger than its cable’s rating of 149.6 A.',
  },
  {
    code: 'leadCanFreeze',
    past: () => frost(-14),
    within: () => frost(-13),
    says: 'The bank falls to −14 °C. At about 20 % of charge its acid freezes at −13 °C; from about 40 % it stays liquid.',
  },
  {
    code: 'leadCanFreeze',
    past: () => frost(-25),
    within: () => withSite(quiet(), { bankLowC: -25 }),
    says: 'The bank falls to −25 °C. At about 20 % of charge its acid freezes at −13 °C; from about 60 % it stays liquid.',
  },
  {
    code: 'leadCanFreeze',
    past: () => frost(-31),
    within: () => frost(-12),
    says: 'The bank falls to −31 °C. At about 20 % of charge its acid freezes at −13 °C; from about 60 % it stays liquid.',
  },
  {
    code: 'leadCanFreeze',
    past: () => frost(-45),
    within: () => frost(0),
    says: 'The bank falls to −45 °C. At about 20 % of charge its acid freezes at −13 °C; from about 80 % it stays liquid.',
  },
  {
    code: 'leadCanFreeze',
    past: () => frost(-55),
    within: () => frost(0),
    says: 'The bank falls to −55 °C. At about 20 % of charge its acid freezes at −13 °C; from about 100 % it stays liquid.',
  },
  {
    code: 'leadTooWeak',
    past: () => withFigure(rookMoss(), 'chargeCurrentRecommended', { unit: 'A', basis: 'bank', min: 15.1, target: undefined, max: undefined }),
    within: () => withFigure(rookMoss(), 'chargeCurrentRecommended', { unit: 'A', basis: 'bank', min: 15, target: undefined, max: undefined }),
    severity: 'note',
  },
  {
    code: 'loadDisconnectTooLow',
    past: () => monitor({ loadDisconnect: 24.4 }),
    within: () => monitor({ loadDisconnect: 24.5 }),
    says: 'Monitor: load disconnect was found at 24.4 V. The sheet requires at least 24.5 V.',
  },
  {
    code: 'monitorNeverFull',
    past: () => monitor({ fullDetectVoltage: 27.9 }),
    within: () => monitor({ fullDetectVoltage: 27.8, fullDetectCurrent: 19 }),
    severity: 'attention',
  },
  {
    code: 'monitorResetsEarly',
    past: () => monitor({ fullDetectVoltage: 26.9 }),
    within: () => monitor({ fullDetectVoltage: 27.2, fullDetectCurrent: 19 }),
    says: 'Monitor shows full from 26.90 V, at or below float at 26.90 V.',
  },
  {
    code: 'monitorResetsEarly',
    past: () => monitor({ fullDetectVoltage: 27.7, fullDetectCurrent: 19, fullDetectTime: 0.5 }),
    within: () => monitor({ fullDetectVoltage: 27.7, fullDetectCurrent: 19, fullDetectTime: 1 }),
    says: 'Monitor shows full after 30 s, as long as a gap in the clouds.',
  },
  {
    code: 'cellSpread',
    past: () => spread(0.12),
    within: () => spread(0.11),
    says: 'Solar fore absorbs at 28.09 V, a mean of 3.51 V per cell. With 0.12 V of measured spread the highest cell reaches 3.63 V, and the BMS trips at 3.68 V on any cell. Absorb must be at most 28.08 V.',
    severity: 'stop',
  },
  {
    code: 'cellCountMismatch',
    past: () => unit(25.6, 9),
    within: () => unit(27.6, 8),
    says: '25.6 V over 9 cells is 2.84 V per cell. LFP has 3.20 V: 8 cells would fit.',
    severity: 'stop',
    remedies: ['Set 8 cells in series'],
  },
  {
    code: 'cellCountMismatch',
    past: () => unit(27.7, 8),
    within: () => unit(23.6, 8),
    says: '27.7 V over 8 cells is 3.46 V per cell. LFP has 3.20 V: 9 cells would fit.',
  },
  {
    code: 'cellCountMismatch',
    past: () => unit(3.2, 2),
    within: () => unit(3.2, 1),
    says: '3.2 V over 2 cells is 1.60 V per cell. LFP has 3.20 V: 1 cell would fit.',
    remedies: ['Set 1 cell in series'],
  },
  {
    code: 'bankPastLimits',
    past: () => withBank(quiet(), { stringsInParallel: 5 }),
    within: () => withBank(quiet(), { stringsInParallel: 4 }),
    says: 'The bank has 5 strings in parallel. The sheet allows 4.',
  },
  {
    code: 'stringsApart',
    past: () => strings(26.5, 26.61),
    within: () => strings(26.5, 26.6),
    says: 'The strings rest at 26.50 V to 26.61 V, 0.11 V apart. Join them only within 0.10 V.',
    severity: 'stop',
  },
  { code: 'stringsApart', past: () => strings(26.7, 26.5), within: () => strings(26.5), severity: 'stop' },
  {
    code: 'stringFuses',
    past: () => withBank(quiet(), { stringsInParallel: 3, stringFuseA: undefined }),
    within: () => withBank(quiet(), { stringsInParallel: 2, stringFuseA: undefined }),
    severity: 'attention',
  },
  {
    code: 'pastOwnFuse',
    past: () => withCharger(overridden('chargeCurrentLimit', 45), 'aft', { fuseA: 56 }),
    within: () => withCharger(overridden('chargeCurrentLimit', 45), 'aft', { fuseA: 57 }),
    says: 'Solar aft can deliver 45 A. Its 56 A fuse carries 44.8 A continuously.',
    severity: 'stop',
  },
  {
    code: 'pastOwnFuse',
    past: () => withCharger(overridden('chargeCurrentLimit', 45), 'aft', { fuseA: 80, cableA: 44 }),
    within: () => withCharger(overridden('chargeCurrentLimit', 45), 'aft', { fuseA: 80, cableA: 45 }),
    says: 'Solar aft can deliver 45 A. Its cable is rated for 44 A.',
  },
  {
    code: 'alternatorPastMachine',
    past: () => alternator({ machineTempLimit: 121 }),
    within: () => alternator({ machineTempLimit: 120 }),
    says: 'Alternator lets the machine reach 121 °C. Its maker allows 120 °C.',
    severity: 'stop',
  },
  {
    code: 'meterPastCalibration',
    past: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, calibrationDue: '2026-06-08' })) }),
    within: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, calibrationDue: '2026-06-09' })) }),
    says: 'Multimeter was due for calibration 2026-06-08.',
  },
  {
    code: 'meterOutOfRange',
    past: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, rangeV: 28.3 })) }),
    within: () => withSystem(quiet(), { instruments: quiet().system.instruments.map((i) => ({ ...i, rangeV: 28.4 })) }),
  },
  {
    code: 'unattendedWithoutPlan',
    past: () => withSite(withSchools(skarrow(), { unattended: 'askMaker' }), { unattendedMonths: 1 }),
    within: () => withSite(withSchools(skarrow(), { unattended: 'askMaker' }), { unattendedMonths: 0.5 }),
    severity: 'attention',
  },
  {
    code: 'slopeAsFound',
    past: () => slope(-24),
    within: () => slope(24),
    says: 'Mast solar: compensation slope was found at −24 mV/°C per 6 cells, with the sign reversed. It must be 24 mV/°C per 6 cells.',
    severity: 'stop',
  },
  {
    code: 'slopeAsFound',
    past: () => slope(48),
    within: () => slope(30),
    says: 'Mast solar: compensation slope was found at 48 mV/°C per 6 cells, 2 times the sheet’s. It must be 24 mV/°C per 6 cells.',
    severity: 'stop',
  },
  {
    code: 'slopeAsFound',
    past: () => slope(12),
    within: () => slope(18),
    says: 'Mast solar: compensation slope was found at 12 mV/°C per 6 cells, 1/2 of the sheet’s. It must be 24 mV/°C per 6 cells.',
    severity: 'attention',
  },
  {
    code: 'slopeAsFound',
    past: () => slope(36),
    within: () => slope(33),
    says: 'Mast solar: compensation slope was found at 36 mV/°C per 6 cells, 1.5 times the sheet’s. It must be 24 mV/°C per 6 cells.',
    severity: 'stop',
  },
  {
    code: 'inputLimitAboveRating',
    past: () => found('inputLimitVoltage', 200, skarrow(), 'turbine'),
    within: () => found('inputLimitVoltage', 199, skarrow(), 'turbine'),
    severity: 'stop',
  },
  {
    code: 'systemVoltageFound',
    past: () => found('systemVoltage', 'auto'),
    within: () => found('systemVoltage', '24'),
    severity: 'attention',
    says: 'Solar aft was found on system voltage “auto”. The bank is 24 V.',
  },
  {
    code: 'leadTooWeak',
    past: () => withFigure(rookMoss(), 'chargeCurrentRecommended', null),
    within: () => withCharger(rookMoss(), 'mast', { card: 'none' }),
    says: 'All chargers together give at most 15 A (0.036 C). Usual for 420 Ah of vented lead-acid is 42 A.',
  },
  { code: 'noMonitor', past: quiet, within: () => withSystem(quiet(), { chargers: [] }), severity: 'note' },
  {
    code: 'coilLoad',
    past: () => stage({ coilW: 2.3 }),
    within: () => stage({ coilW: 2.1 }),
    severity: 'note',
    says: 'The relay coil of Thermostat uses 55 Wh a day, 1.1 % of the bank.',
  },
  {
    code: 'coilLoad',
    past: () => stage({ coilW: 1, fusedSupply: false }),
    within: () => stage({ coilW: 1 }),
    severity: 'attention',
    says: 'The relay coil of Thermostat uses 24 Wh a day, 0.5 % of the bank, and no fused supply is entered for it.',
  },
  { code: 'loadDump', past: () => asAlternator(false), within: () => asAlternator(true), severity: 'attention' },
  {
    code: 'firmwareOtherThanCard',
    past: () => withCharger(quiet(), 'aft', { firmware: '9' }),
    within: () => withCharger(quiet(), 'aft', { firmware: cardNamed('varrow-s45').describes.firmware }),
    severity: 'note',
  },
  {
    code: 'chemistryNotSupported',
    past: () => withCard(quiet(), 'varrow-s45', (c) => ({ ...c, ratings: { ...c.ratings, chemistries: ['agm'] } })),
    within: quiet,
    says: 'Solar fore (S45) is made for AGM lead-acid. The bank is LFP.',
    severity: 'stop',
  },
  {
    code: 'schoolAgainstSheet',
    past: () => withSchools(quiet(), { lithiumFloat: 'rest' }),
    within: quiet,
    says: 'The choice “rest” sets no float. The sheet gives 26.90 V.',
    severity: 'note',
  },
  {
    code: 'coldProtection',
    past: () => withSite(withCharger(quiet(), 'aft', { sensor: { ...quiet().system.chargers[1]!.sensor, fitted: false } }), { bankLowC: -0.1 }),
    within: () => withSite(withCharger(quiet(), 'aft', { sensor: { ...quiet().system.chargers[1]!.sensor, fitted: false } }), { bankLowC: 0 }),
    severity: 'stop',
  },
  {
    code: 'relayContactTooSmall',
    past: () => stage({ volts: 134 }),
    within: () => stage({ volts: 136 }),
    says: 'The relay of Thermostat is rated for 134 V and 25 A. On the array side of Roof it must break 135 V and 12.5 A.',
    severity: 'stop',
  },
  { code: 'relayContactTooSmall', past: () => stage({ amps: 12 }), within: () => stage({ amps: 13 }), severity: 'stop' },
  {
    code: 'rechargeBelowDisconnect',
    past: () => ({ ...wholeTeasel(), overrides: [override('rechargeVoltage', 24.6)] }),
    within: () => ({ ...wholeTeasel(), overrides: [override('rechargeVoltage', 24.7)] }),
    says: 'Solar aft starts a new charge at 24.60 V. Monitor disconnects the loads at 24.60 V already.',
  },
  {
    code: 'equaliseStored',
    past: () => found('equaliseVoltage', 28.5),
    within: () => found('equaliseVoltage', 28.4),
    says: 'Solar aft still stores 28.5 V for equalise. The sheet allows at most 28.4 V.',
    severity: 'attention',
  },
  {
    code: 'taperBelowLoads',
    past: () => withSystem(quiet(), { loads: { minA: 2, maxA: 10 } }),
    within: () => withSystem(quiet(), { loads: { minA: 2, maxA: 9.9 } }),
    severity: 'note',
  },
  {
    code: 'chargersDisagree',
    past: () => overridden('absorbVoltage', 28.2),
    within: () => overridden('absorbVoltage', 28.1),
    says: 'The chargers differ in absorb: Solar aft 28.20 V, Solar fore 28.09 V.',
    severity: 'attention',
  },
  {
    code: 'chargersDisagree',
    past: () => overridden('absorbTime', 45 * 60),
    within: () => overridden('absorbTime', 40 * 60),
    says: 'The chargers differ in absorb time: Solar aft 45 min, Solar fore 40 min.',
  },
  { code: 'deratingExceeded', past: () => withSite(teasel(), { bankLowC: 4.9 }), within: () => withSite(teasel(), { bankLowC: 5 }), severity: 'stop' },
];

describe('the limit of a finding', () => {
  edges.forEach(({ code, past, within, says, severity, remedies, today, device }, i) => {
    it(`${code}, ${says ?? severity ?? i}: past it and within`, () => {
      const finding = find(past(), code, today);
      const text = (finding?.text ?? '').replace(/\u00a0/g, ' ');
      expect(finding).withContext('past it').toBeDefined();
      if (says !== undefined) expect(text).toBe(says);
      if (severity !== undefined) expect(finding?.severity).toBe(severity);
      if (device !== undefined) expect(finding?.charger).toBe(device);
      if (remedies !== undefined) expect(finding?.remedies.map((r) => r.label)).toEqual([...remedies]);
      expect(find(within(), code, today)?.text)
        .withContext('within it')
        .toBeUndefined();
    });
  });

  it('is on a launch that stands as derived, but for what is changed', () => {
    expect(plan(quiet()).setting('aft', 'floatVoltage')?.trueValue).toBe(26.9);
    expect(asDerived(quiet()).system.chargers.length).toBe(2);
    expect(tumbler().system.chargers.length).toBeGreaterThan(0);
  });
});
