import type { Role } from '../../card';
import type { RoleRule } from '../context';
import { absorbIntervalDays } from './absorbIntervalDays';
import { absorbTime } from './absorbTime';
import { absorbVoltage } from './absorbVoltage';
import { highVoltageAlarm, lowVoltageAlarm } from './alarms';
import { beltRelief, fieldLimit, machineTempLimit, softStartTime } from './alternator';
import { bulkVoltage } from './bulkVoltage';
import { chargeCurrentLimit } from './chargeCurrentLimit';
import { compensationMaxTemp, compensationMinTemp } from './compensationClamp';
import { compensationSlope } from './compensationSlope';
import { inputStartVoltage, inputStopVoltage } from './dcdcInput';
import { batteryType, capacity, clock, displaySleep, follows, groundFaultDetection, remoteControl } from './device';
import { equaliseEnabled, equaliseInterval, equaliseTime, equaliseVoltage } from './equalise';
import { floatVoltage } from './floatVoltage';
import { highTempCutoff, highTempResume } from './highTemperature';
import { loadDawnTimer, loadDisconnect, loadDisconnectDelay, loadMode, loadReconnect, loadReconnectDelay, loadTimer } from './load';
import { lowTempCutoff } from './lowTempCutoff';
import { lowTempResume } from './lowTempResume';
import { maxChargeTime } from './maxChargeTime';
import { chargeEfficiency, fullDetectCurrent, fullDetectTime, fullDetectVoltage, peukertExponent } from './monitor';
import { rechargeVoltage } from './rechargeVoltage';
import { relayOffVoltage, relayOnVoltage, relayRule } from './relayOutput';
import { systemVoltage } from './systemVoltage';
import { taperCurrent } from './taperCurrent';
import { outputMode, thermostatDelay, thermostatDifferential, thermostatSetpoint } from './thermostat';
import { brakeVoltage, diversionVoltage, inputLimitVoltage, powerCurve } from './turbine';

/** The rule of every role, in the order in which they may look at each other's results; null for those that no figure of a sheet speaks of. */
export const roleRules: Readonly<Record<Role, RoleRule | null>> = {
  batteryType,
  systemVoltage,
  capacity,
  follows,
  remoteControl,
  chargeCurrentLimit,
  absorbVoltage,
  bulkVoltage,
  absorbTime,
  maxChargeTime,
  taperCurrent,
  floatVoltage,
  rechargeVoltage,
  compensationSlope,
  compensationMinTemp,
  compensationMaxTemp,
  lowTempCutoff,
  lowTempResume,
  highTempCutoff,
  highTempResume,
  equaliseEnabled,
  equaliseVoltage,
  equaliseTime,
  equaliseInterval,
  highVoltageAlarm,
  loadDisconnect,
  loadReconnect,
  loadDisconnectDelay,
  loadReconnectDelay,
  loadMode,
  loadTimer,
  loadDawnTimer,
  relayRule,
  relayOnVoltage,
  relayOffVoltage,
  lowVoltageAlarm,
  machineTempLimit,
  fieldLimit,
  softStartTime,
  beltRelief,
  inputStopVoltage,
  inputStartVoltage,
  diversionVoltage,
  brakeVoltage,
  inputLimitVoltage,
  powerCurve,
  outputMode,
  fullDetectVoltage,
  fullDetectCurrent,
  fullDetectTime,
  chargeEfficiency,
  peukertExponent,
  thermostatDifferential,
  thermostatSetpoint,
  thermostatDelay,
  groundFaultDetection,
  displaySleep,
  clock,
  absorbStartHold: null,
  absorbMinTime: null,
  absorbIntervalDays,
  floatTime: null,
  rechargeRule: null,
  bulkAtSunrise: null,
  groundingScheme: null,
};
