import { roleInfo } from '../../../card';
import { digitsApart } from '../../../quantity';
import type { Language } from '../../language';
import { listed } from '../join';

type Words = Language['findings'];

/** Loads, monitors and what they count. */
export const loadFindings = {
  alarmBelowDisconnect: ({ alarmV, disconnectV }, say, its) => {
    const digits = digitsApart(alarmV, disconnectV, 1);
    return {
      text: `${its}: low-voltage alarm is at ${say.volts(alarmV, digits)}, not above the load disconnect at ${say.volts(disconnectV, digits)}.`,
      hurts: 'The loads go off before anybody is warned.',
    };
  },
  besideShunt: ({ monitor, devices, load }, say) => ({
    text: `The negative of ${listed([...devices.map(say.name), ...(load === null ? [] : [load === '' ? 'a load' : load])])} bypasses the shunt, so ${say.name(monitor)} does not count its current.`,
    hurts: 'Its count and its state of charge are wrong. Move every negative to the load side of the shunt.',
  }),
  chargeUnknown: (_, _say, its) => ({
    text: `${its} has not seen a full charge yet, so its state of charge is unknown.`,
    hurts: 'Do not judge loads or charging by its percentage until then.',
  }),
  coilLoad: ({ perDayWh, bankWh, unfused }, say, its) => ({
    text: `The relay coil of ${its} uses ${say.wattHours(perDayWh)} a day${bankWh === null ? '' : `, ${say.percent((100 * perDayWh) / bankWh, 1)} of the bank`}${unfused ? ', and no fused supply is entered for it' : ''}.`,
    hurts: 'It draws all day in the weeks with the least sun. A latching relay, or one closed only by day, uses less. Give it its own fuse.',
  }),
  disconnectBelowBms: ({ disconnectV, tripV }, say, its) => {
    const digits = digitsApart(disconnectV, tripV, 1);
    return {
      text: `${its}: load disconnect at ${say.volts(disconnectV, digits)} is not above the BMS low trip at ${say.volts(tripV, digits)}.`,
      hurts: 'The BMS cuts the whole bank off first, chargers and all, and may have to be reset by hand.',
    };
  },
  loadDisconnectMissing: (f, say) =>
    f.device === null
      ? {
          text: `Nothing disconnects the loads of up to ${say.amps(f.loadsA)} when the bank is low.`,
          hurts: f.lithium
            ? f.bms
              ? 'The BMS cuts everything off, and may have to be reset by hand.'
              : 'The cells are run flat, which damages them.'
            : 'A lead bank run flat sulphates, and can freeze.',
        }
      : {
          text: `${say.name(f.device)}: the load output ${f.found ? 'was found' : 'leaves the factory'} on “${f.reads}”. Its disconnect has no effect.`,
          hurts: 'The bank is run flat although a disconnect voltage is set.',
        },
  loadDisconnectTooLow: ({ foundV, leastV }, say, its) => {
    const digits = digitsApart(foundV, leastV, 1);
    return {
      text: `${its}: load disconnect was found at ${say.volts(foundV, digits)}. The sheet requires at least ${say.volts(leastV, digits)}.`,
      hurts: 'Every deep discharge shortens the bank’s life.',
    };
  },
  monitorCounts: ({ role, found, wanted }, say, its) => ({
    text: `${its}: ${roleInfo[role].name} was found at ${say.ofRole(role, found)}. This bank needs ${say.ofRole(role, wanted)}.`,
    hurts: 'Its state of charge is wrong, and more so from day to day.',
  }),
  monitorNeverFull: (f, say, its) => ({
    text:
      f.by === 'voltage'
        ? `${its}: full-charge voltage is ${say.volts(f.fullV)} and the lowest absorb ${say.volts(f.absorbV)}. It must be at least ${say.volts(f.apartV)} below absorb.`
        : f.by === 'heat'
          ? `${its}: full-charge voltage is ${say.volts(f.fullV)}. With the bank at ${say.celsius(f.bankHighC)} the lowest absorb is ${say.volts(f.hotV)}.`
          : `${its}: full-charge current is ${say.amps(f.fullA)}. The chargers end absorb at ${say.amps(f.endsA)} already.`,
    hurts: 'It never shows 100 %, and its count drifts from day to day.',
  }),
  monitorResetsEarly: (f, say, its) => ({
    text: `${its} shows full ${
      f.by === 'voltage'
        ? `from ${say.volts(f.fullV)}, at or below float at ${say.volts(f.floatV)}`
        : f.by === 'current'
          ? `below ${say.amps(f.fullA)}. The sheet ends absorb at ${say.amps(f.endsA)}`
          : `after ${say.duration(f.heldS)}, as long as a gap in the clouds`
    }.`,
    hurts: 'It shows 100 % on a bank that is not full, until the next true full charge.',
  }),
  loadsBelowSetpoint: ({ role, setV, loadsV }, say, its) => {
    const digits = digitsApart(setV, loadsV, 1);
    return {
      text: `${its}: ${roleInfo[role].name} at ${say.volts(setV, digits)} is above the ${say.volts(loadsV, digits)} the loads are rated for.`,
      hurts: 'Electronics on the bank fail in every full charge. Feed them through a regulator, or ask their maker.',
    };
  },
  noMonitor: ({ ratedAh }, say) => ({
    text: `This lithium bank${ratedAh === null ? '' : ` of ${say.ampHours(ratedAh)}`} has no monitor.`,
    hurts: 'Its resting voltage hardly moves between 20 and 90 % of charge, so it cannot tell how full it is. Count the current with a shunt.',
  }),
  reconnectTooClose: ({ reconnectV, disconnectV, leastV }, say, its) => {
    const digits = digitsApart(reconnectV, disconnectV, 1);
    return {
      text: `${its}: loads reconnect at ${say.volts(reconnectV, digits)}, ${say.volts(reconnectV - disconnectV, digits)} above their disconnect at ${say.volts(disconnectV, digits)}. At least ${say.volts(leastV, 1)} is needed.`,
      hurts: 'The bank recovers by that much when the loads go off: they switch on and off all night.',
    };
  },
} satisfies Partial<Words>;
