import type { RoleRule } from '../context';
import { absorbTime } from './absorbTime';
import { absorbVoltage } from './absorbVoltage';
import { chargeCurrentLimit } from './chargeCurrentLimit';
import { compensationSlope } from './compensationSlope';
import { equaliseEnabled, equaliseInterval, equaliseTime, equaliseVoltage } from './equalise';
import { floatVoltage } from './floatVoltage';
import { loadDisconnect, loadReconnect } from './load';
import { lowTempCutoff } from './lowTempCutoff';
import { lowTempResume } from './lowTempResume';
import { rechargeVoltage } from './rechargeVoltage';
import { systemVoltage } from './systemVoltage';
import { taperCurrent } from './taperCurrent';

/** Every role rule, in the order in which they may look at each other's results. */
export const roleRules: readonly RoleRule[] = [
  systemVoltage,
  chargeCurrentLimit,
  absorbVoltage,
  absorbTime,
  taperCurrent,
  floatVoltage,
  rechargeVoltage,
  compensationSlope,
  lowTempCutoff,
  lowTempResume,
  equaliseEnabled,
  equaliseVoltage,
  equaliseTime,
  equaliseInterval,
  loadDisconnect,
  loadReconnect,
];
