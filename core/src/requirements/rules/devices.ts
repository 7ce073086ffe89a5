import { devicesOf } from '../../settings';
import { bandOf } from './programmed';
import type { Rule } from '../context';
import type { Setting } from '../../settings';
import type { Requirement, RequirementCode } from '../requirement';

/** The delay of a load switch, where its device has one that can be told. */
const delayOf = (setting: Setting | undefined): Pick<Requirement, 'delaySeconds'> =>
  setting?.trueValue == null ? {} : { delaySeconds: setting.off === true ? 0 : setting.trueValue };

/** What is asked of each device by itself: loads, machines, memory, display and passcode. */
export const devices: Rule = (plan) =>
  devicesOf(plan.input).flatMap((device) => {
    const card = plan.input.cards.find((c) => c.id === device.card);
    if (!card) return [];
    const list: Requirement[] = [];
    const common = { charger: device.id, dwellSeconds: 0, zeroA: 0.3, digits: 2 } as const;
    const told = (role: Parameters<typeof plan.setting>[1]) => plan.setting(device.id, role);
    const level = (role: 'loadDisconnect' | 'loadReconnect', name: string, why: string): void => {
      const setting = told(role);
      if (setting?.trueValue == null) return;
      list.push({
        ...common,
        code: role,
        question: 'specified',
        name,
        why,
        seenBy: ['log', 'test'],
        unit: 'V',
        band: setting.band ?? bandOf(setting.trueValue, card),
        ...delayOf(told(role === 'loadDisconnect' ? 'loadDisconnectDelay' : 'loadReconnectDelay')),
      });
    };
    level('loadDisconnect', 'Loads are cut off in time', 'Loads that stay on drain the bank below what its maker allows, or to the BMS.');
    level('loadReconnect', 'Loads come back', 'Loads that come back too early pull the bank down again; too late they are missed.');
    const machine = told('machineTempLimit');
    if (machine?.trueValue != null)
      list.push({
        ...common,
        code: 'machineTemperature',
        question: 'specified',
        name: 'The machine stays cool enough',
        why: 'An alternator held at full field burns its diodes and windings.',
        seenBy: ['log', 'test'],
        dwellSeconds: 60,
        unit: '°C',
        digits: 0,
        band: { max: machine.band?.max ?? machine.trueValue },
      });
    const soft = told('softStartTime');
    if (soft?.trueValue != null && !soft.off)
      list.push({
        ...common,
        code: 'softStart',
        question: 'programmed',
        name: 'Soft start',
        why: 'A belt that takes the full load at once slips and wears.',
        seenBy: ['test'],
        unit: 's',
        digits: 0,
        band: { min: soft.trueValue * 0.7, max: soft.trueValue * 1.3 + 5 },
      });
    const diversion = told('diversionVoltage');
    if (diversion?.trueValue != null)
      list.push({
        ...common,
        code: 'diversion',
        question: 'specified',
        name: 'Diversion takes over',
        why: 'A turbine that runs unloaded destroys itself, and the bank is overcharged meanwhile.',
        seenBy: ['test'],
        unit: 'V',
        band: diversion.band ?? bandOf(diversion.trueValue, card),
      });
    const record = (code: RequirementCode, name: string, why: string, seenBy: Requirement['seenBy']): void => {
      list.push({ ...common, code, question: 'programmed', name, why, seenBy, unit: '', digits: 0, band: {} });
    };
    if (card.parameters.some((p) => p.role === 'absorbVoltage'))
      list.push({
        ...common,
        code: 'displayAgrees',
        question: 'programmed',
        name: 'Display agrees with the meter',
        why: 'Every setpoint is off by as much as the display is.',
        seenBy: ['log', 'test', 'record'],
        unit: 'V',
        // One device step is what its display can resolve.
        band: { min: -card.display.stepV, max: card.display.stepV },
      });
    record('survivesPowerCut', 'Values survive a power cut', 'A value that was entered and never saved is gone at the next power cut.', ['test', 'record']);
    record('passcodeChanged', 'Passcode changed', 'With the passcode of the factory anyone in reach can change the figures.', ['test', 'record']);
    return list;
  });
