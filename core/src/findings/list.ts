import type { FindingRule } from './finding';
import { absorbEveryNowhere } from './rules/absorbEveryNowhere';
import { bankReadsOther } from './rules/bankReadsOther';
import { stringFusePastPanel } from './rules/stringFusePastPanel';
import { batteryNotSaid } from './rules/batteryNotSaid';
import { capacityNotSaid } from './rules/capacityNotSaid';
import { figuresNotSaid } from './rules/figuresNotSaid';
import { systemNotSaid } from './rules/systemNotSaid';
import { cutoffTooHigh } from './rules/cutoffTooHigh';
import { absorbFoundLong } from './rules/absorbFoundLong';
import { thermostatAsFound } from './rules/thermostatAsFound';
import { fieldFoundHigh } from './rules/fieldFoundHigh';
import { monitorCounts } from './rules/monitorCounts';
import { reconnectTooClose } from './rules/reconnectTooClose';
import { alarmBelowDisconnect } from './rules/alarmBelowDisconnect';
import { disconnectBelowBms } from './rules/disconnectBelowBms';
import { loadsBelowSetpoint } from './rules/loadsBelowSetpoint';
import { mainPathTooSmall } from './rules/mainPathTooSmall';
import { arrayParts } from './rules/arrayParts';
import { panelCoefficient } from './rules/panelCoefficient';
import { siteSuspicious } from './rules/siteSuspicious';
import { capacityWithoutReason } from './rules/capacityWithoutReason';
import { dcdcStartsLow } from './rules/dcdcStartsLow';
import { dcdcPastSpare } from './rules/dcdcPastSpare';
import { figureSuspicious } from './rules/figureSuspicious';
import { coldPastDiversion } from './rules/coldPastDiversion';
import { bandImpossible } from './rules/bandImpossible';
import { absorbEndsDiffer } from './rules/absorbEndsDiffer';
import { absorbNearTrip } from './rules/absorbNearTrip';
import { absorbOutsideBand } from './rules/absorbOutsideBand';
import { alarmPastTrip } from './rules/alarmPastTrip';
import { alternatorPastMachine } from './rules/alternatorPastMachine';
import { arrayClipped } from './rules/arrayClipped';
import { arrayStringFuses } from './rules/arrayStringFuses';
import { arrayTooHigh } from './rules/arrayTooHigh';
import { arrayTooLow } from './rules/arrayTooLow';
import { arrayTooMuchCurrent } from './rules/arrayTooMuchCurrent';
import { bankPastLimits } from './rules/bankPastLimits';
import { basisSuspicious } from './rules/basisSuspicious';
import { batteryReadingMissing } from './rules/batteryReadingMissing';
import { besideShunt } from './rules/besideShunt';
import { bmsUnknown } from './rules/bmsUnknown';
import { cableDrop } from './rules/cableDrop';
import { cardNotKnown } from './rules/cardNotKnown';
import { cardMissing } from './rules/cardMissing';
import { cellCountMismatch } from './rules/cellCountMismatch';
import { cellSpread } from './rules/cellSpread';
import { chargeEnableNotWired } from './rules/chargeEnableNotWired';
import { chargeUnknown } from './rules/chargeUnknown';
import { chargersDisagree } from './rules/chargersDisagree';
import { chemistryNotSupported } from './rules/chemistryNotSupported';
import { coilLoad } from './rules/coilLoad';
import { coldProtection } from './rules/coldProtection';
import { coldProtectionSingle } from './rules/coldProtectionSingle';
import { compensatedVoltage } from './rules/compensatedVoltage';
import { compensationMissingLead } from './rules/compensationMissingLead';
import { compensationOnLithium } from './rules/compensationOnLithium';
import { cutoffBelowSheet } from './rules/cutoffBelowSheet';
import { cutoffWithoutMargin } from './rules/cutoffWithoutMargin';
import { cutoffWithoutSensor } from './rules/cutoffWithoutSensor';
import { dcdcDrainsStarter } from './rules/dcdcDrainsStarter';
import { defaultPasscode } from './rules/defaultPasscode';
import { defaultUnexamined } from './rules/defaultUnexamined';
import { deratingExceeded } from './rules/deratingExceeded';
import { displayCorrected } from './rules/displayCorrected';
import { displayErrorLarge } from './rules/displayErrorLarge';
import { displayNotCompared } from './rules/displayNotCompared';
import { diversionFixed } from './rules/diversionFixed';
import { dictatedLine } from './rules/dictatedLine';
import { diversionBelowAbsorb } from './rules/diversionBelowAbsorb';
import { equaliseReachable } from './rules/equaliseReachable';
import { equaliseStored } from './rules/equaliseStored';
import { figureMissing } from './rules/figureMissing';
import { firmwareChanged } from './rules/firmwareChanged';
import { firmwareOtherThanCard } from './rules/firmwareOtherThanCard';
import { floatNotPermitted } from './rules/floatNotPermitted';
import { floatOutsideBand } from './rules/floatOutsideBand';
import { followerCannot } from './rules/followerCannot';
import { fuseCannotBreak } from './rules/fuseCannotBreak';
import { fuseMissing } from './rules/fuseMissing';
import { fusePastCable } from './rules/fusePastCable';
import { groundFaultSetting } from './rules/groundFaultSetting';
import { inputLimitAboveRating } from './rules/inputLimitAboveRating';
import { leadCanFreeze } from './rules/leadCanFreeze';
import { leadTooWeak } from './rules/leadTooWeak';
import { limitCopied } from './rules/limitCopied';
import { limitsPastCeiling } from './rules/limitsPastCeiling';
import { loadDisconnectMissing } from './rules/loadDisconnectMissing';
import { loadDisconnectTooLow } from './rules/loadDisconnectTooLow';
import { loadDump } from './rules/loadDump';
import { lowRank } from './rules/lowRank';
import { meterOutOfRange } from './rules/meterOutOfRange';
import { meterPastCalibration } from './rules/meterPastCalibration';
import { monitorNeverFull } from './rules/monitorNeverFull';
import { monitorResetsEarly } from './rules/monitorResetsEarly';
import { newerRevision } from './rules/newerRevision';
import { noMonitor } from './rules/noMonitor';
import { notTopBalanced } from './rules/notTopBalanced';
import { outputOpened } from './rules/outputOpened';
import { overrideNotReviewed } from './rules/overrideNotReviewed';
import { overrideOutsideSheet } from './rules/overrideOutsideSheet';
import { pastOwnFuse } from './rules/pastOwnFuse';
import { presentOutsideBand } from './rules/presentOutsideBand';
import { presetChosen } from './rules/presetChosen';
import { presetFigures } from './rules/presetFigures';
import { rangeCannotReach } from './rules/rangeCannotReach';
import { rechargeBelowDisconnect } from './rules/rechargeBelowDisconnect';
import { rechargeNearFloat } from './rules/rechargeNearFloat';
import { relayContactTooSmall } from './rules/relayContactTooSmall';
import { relayWrongSide } from './rules/relayWrongSide';
import { resumeTooClose } from './rules/resumeTooClose';
import { ruleBroken } from './rules/ruleBroken';
import { schoolAgainstSheet } from './rules/schoolAgainstSheet';
import { sensorReadsWarm } from './rules/sensorReadsWarm';
import { sensorStillPlugged } from './rules/sensorStillPlugged';
import { sensorUnplugged } from './rules/sensorUnplugged';
import { settingAbsent } from './rules/settingAbsent';
import { slopeAsFound } from './rules/slopeAsFound';
import { slopeSign } from './rules/slopeSign';
import { stepPastTolerance } from './rules/stepPastTolerance';
import { stringFuses } from './rules/stringFuses';
import { stringsApart } from './rules/stringsApart';
import { systemVoltageFound } from './rules/systemVoltageFound';
import { systemVoltageMismatch } from './rules/systemVoltageMismatch';
import { taperDisplaced } from './rules/taperDisplaced';
import { taperBelowLoads } from './rules/taperBelowLoads';
import { turbineWithoutDiversion } from './rules/turbineWithoutDiversion';
import { unattendedWithoutPlan } from './rules/unattendedWithoutPlan';
import { valueLost } from './rules/valueLost';
import { wrapNearValue } from './rules/wrapNearValue';

/** Every rule under its code, what hurts people, cells or a running system first. A new finding is its file, its words, and one line here. */
const rules = {
  batteryNotSaid,
  systemNotSaid,
  capacityNotSaid,
  figuresNotSaid,
  bmsUnknown,
  cardMissing,
  chemistryNotSupported,
  systemVoltageMismatch,
  systemVoltageFound,
  basisSuspicious,
  figureSuspicious,
  cellCountMismatch,
  bankReadsOther,
  slopeSign,
  stringsApart,
  coldProtection,
  sensorUnplugged,
  cutoffBelowSheet,
  thermostatAsFound,
  deratingExceeded,
  outputOpened,
  relayContactTooSmall,
  relayWrongSide,
  turbineWithoutDiversion,
  inputLimitAboveRating,
  arrayTooHigh,
  arrayTooMuchCurrent,
  limitsPastCeiling,
  pastOwnFuse,
  alternatorPastMachine,
  absorbNearTrip,
  alarmPastTrip,
  compensationOnLithium,
  slopeAsFound,
  absorbOutsideBand,
  floatOutsideBand,
  floatNotPermitted,
  presentOutsideBand,
  absorbFoundLong,
  displayErrorLarge,
  bankPastLimits,
  diversionBelowAbsorb,
  arrayTooLow,
  stringFusePastPanel,
  arrayStringFuses,
  arrayParts,
  panelCoefficient,
  arrayClipped,
  fusePastCable,
  cableDrop,
  fuseCannotBreak,
  mainPathTooSmall,
  loadDump,
  meterOutOfRange,
  cellSpread,
  chargersDisagree,
  compensatedVoltage,
  loadsBelowSetpoint,
  cutoffTooHigh,
  compensationMissingLead,
  defaultPasscode,
  displayNotCompared,
  displayCorrected,
  equaliseReachable,
  equaliseStored,
  figureMissing,
  leadTooWeak,
  lowRank,
  meterPastCalibration,
  newerRevision,
  overrideOutsideSheet,
  overrideNotReviewed,
  rangeCannotReach,
  bandImpossible,
  rechargeNearFloat,
  resumeTooClose,
  sensorReadsWarm,
  stringFuses,
  taperBelowLoads,
  taperDisplaced,
  absorbEndsDiffer,
  batteryReadingMissing,
  besideShunt,
  chargeEnableNotWired,
  chargeUnknown,
  siteSuspicious,
  capacityWithoutReason,
  coilLoad,
  coldProtectionSingle,
  cutoffWithoutMargin,
  cutoffWithoutSensor,
  dcdcDrainsStarter,
  dcdcStartsLow,
  dcdcPastSpare,
  defaultUnexamined,
  diversionFixed,
  coldPastDiversion,
  firmwareChanged,
  firmwareOtherThanCard,
  fieldFoundHigh,
  followerCannot,
  dictatedLine,
  fuseMissing,
  groundFaultSetting,
  leadCanFreeze,
  limitCopied,
  loadDisconnectMissing,
  loadDisconnectTooLow,
  disconnectBelowBms,
  reconnectTooClose,
  alarmBelowDisconnect,
  monitorNeverFull,
  monitorResetsEarly,
  monitorCounts,
  noMonitor,
  notTopBalanced,
  presetChosen,
  presetFigures,
  rechargeBelowDisconnect,
  ruleBroken,
  schoolAgainstSheet,
  sensorStillPlugged,
  settingAbsent,
  cardNotKnown,
  stepPastTolerance,
  unattendedWithoutPlan,
  absorbEveryNowhere,
  valueLost,
  wrapNearValue,
};

/** The code of a finding. */
export type FindingCode = keyof typeof rules;

/** What each finding knows, by its code: what its words may say. */
export type FindingFacts = { readonly [C in FindingCode]: (typeof rules)[C] extends FindingRule<infer F> ? F : never };

/** Every rule with its code, in the order of the catalogue. */
export const findingRules: readonly (FindingRule & { readonly code: FindingCode })[] = (Object.keys(rules) as FindingCode[]).map((code) => ({
  ...rules[code],
  code,
}));
