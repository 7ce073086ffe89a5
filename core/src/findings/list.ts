import type { FindingRule } from './finding';
import { absorbNearTrip } from './rules/absorbNearTrip';
import { arrayClipped, arrayStringFuses, arrayTooHigh, arrayTooLow, arrayTooMuchCurrent } from './rules/arrayInput';
import { bankPastLimits } from './rules/bankPastLimits';
import { basisSuspicious } from './rules/basisSuspicious';
import { bmsUnknown } from './rules/bmsUnknown';
import { cardMissing } from './rules/cardMissing';
import { cellCountMismatch } from './rules/cellCountMismatch';
import { cellSpread } from './rules/cellSpread';
import { chargersDisagree } from './rules/chargersDisagree';
import { chemistryNotSupported } from './rules/chemistryNotSupported';
import { coldProtection } from './rules/coldProtection';
import { compensatedVoltage } from './rules/compensatedVoltage';
import { compensationMissingLead } from './rules/compensationMissingLead';
import { compensationOnLithium } from './rules/compensationOnLithium';
import { cutoffBelowSheet } from './rules/cutoffBelowSheet';
import { defaultPasscode } from './rules/defaultPasscode';
import { deratingExceeded } from './rules/deratingExceeded';
import { displayErrorLarge, displayNotCompared, displayCorrected } from './rules/displayError';
import { equaliseReachable, equaliseStored } from './rules/equaliseReachable';
import { figureMissing } from './rules/figureMissing';
import { leadTooWeak } from './rules/leadTooWeak';
import { limitsPastCeiling } from './rules/limitsPastCeiling';
import { lowRank } from './rules/lowRank';
import { newerRevision } from './rules/newerRevision';
import { meterPastCalibration } from './rules/meterPastCalibration';
import { absorbOutsideBand, floatOutsideBand } from './rules/outsideBand';
import { overrideOutsideSheet, overrideNotReviewed } from './rules/overrides';
import { pastOwnFuse } from './rules/pastOwnFuse';
import { presentOutsideBand } from './rules/presentOutsideBand';
import { rangeCannotReach } from './rules/rangeCannotReach';
import { rechargeNearFloat } from './rules/rechargeNearFloat';
import { resumeTooClose } from './rules/resumeTooClose';
import { sensorReadsWarm } from './rules/sensorReadsWarm';
import { stringFuses } from './rules/stringFuses';
import { systemVoltageMismatch } from './rules/systemVoltageMismatch';
import { taperBelowLoads } from './rules/taperBelowLoads';
import { cableDrop, fuseCannotBreak, fusePastCable, loadDump, meterOutOfRange } from './rules/wiring';

/** Every rule. Adding a finding is one file and one line here. */
export const findingRules: readonly FindingRule[] = [
  arrayTooHigh,
  arrayTooMuchCurrent,
  arrayTooLow,
  arrayStringFuses,
  arrayClipped,
  fusePastCable,
  cableDrop,
  fuseCannotBreak,
  loadDump,
  meterOutOfRange,
  absorbNearTrip,
  bankPastLimits,
  basisSuspicious,
  bmsUnknown,
  cardMissing,
  cellCountMismatch,
  cellSpread,
  chargersDisagree,
  chemistryNotSupported,
  coldProtection,
  compensatedVoltage,
  compensationMissingLead,
  compensationOnLithium,
  cutoffBelowSheet,
  defaultPasscode,
  deratingExceeded,
  displayErrorLarge,
  displayNotCompared,
  displayCorrected,
  equaliseReachable,
  equaliseStored,
  figureMissing,
  leadTooWeak,
  limitsPastCeiling,
  lowRank,
  meterPastCalibration,
  newerRevision,
  absorbOutsideBand,
  floatOutsideBand,
  overrideOutsideSheet,
  overrideNotReviewed,
  pastOwnFuse,
  presentOutsideBand,
  rangeCannotReach,
  rechargeNearFloat,
  resumeTooClose,
  sensorReadsWarm,
  stringFuses,
  systemVoltageMismatch,
  taperBelowLoads,
];
