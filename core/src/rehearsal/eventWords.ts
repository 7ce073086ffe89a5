import { formatDuration, formatQuantity, said, warmth, type Sentence, type Warmth } from '../quantity';
import type { Plan } from '../settings';
import { sensorPlaceWords } from '../system';
import type { RunEvent } from './record';

const v = (value: number | undefined, digits = 2): string => formatQuantity(value ?? NaN, 'V', digits);
const a = (value: number | undefined): string => formatQuantity(value ?? NaN, 'A', Math.abs(value ?? 0) < 10 ? 1 : 0);
const c = (value: number | undefined): Warmth => warmth(value ?? NaN);
const full = (e: RunEvent): string => `${Math.round(Math.min(1, Math.max(0, e.charge)) * 100)} %`;

/** A long enough absorb to be called one, s. */
const brief = 600;

/**
 * What happened and why, in one or two plain sentences with the numbers in them.
 *
 * @param plan for names, cards and sensors
 */
export function eventWords(plan: Plan, e: RunEvent): Sentence {
  const { chargers, companions } = plan.input.system;
  const charger = chargers.find((x) => x.id === e.device);
  const name = charger?.name ?? companions.find((x) => x.id === e.device)?.name ?? 'The bank';
  const card = charger && plan.input.cards.find((x) => x.id === charger.card);
  const off = e.ownV !== undefined && Math.abs(e.ownV - e.bankV) >= 0.05 ? ` The bank itself is at ${v(e.bankV)}.` : '';
  switch (e.kind) {
    case 'bmsOpen':
      switch (e.trip) {
        case 'high':
          return `The BMS opens: the pack is at ${v(e.bankV)}.`;
        case 'cell':
          return `The BMS opens on one cell while the bank is at ${v(e.bankV)}.`;
        case 'low':
          return `The BMS opens: the pack is empty, at ${v(e.bankV)}. A charger on the bus wakes it.`;
        case 'current':
          return `The BMS opens: ${a(Math.abs(e.bankA))} are more than it allows.`;
        case 'cold':
          return said`The BMS blocks charge at ${c(e.batteryC)}; loads may still be fed.`;
        default:
          return `The BMS opens while ${e.bankA >= 0 ? `${a(e.bankA)} flow in` : `${a(-e.bankA)} flow out`}.`;
      }
    case 'bmsClosed':
      return 'The BMS closes again.';
    case 'loadOff':
      return `${name} cuts the loads off at ${v(e.bankV)}, ${full(e)} charge.`;
    case 'loadOn':
      return `${name} joins the loads again at ${v(e.bankV)}.`;
    case 'monitorFull':
      return `${name} shows full; the bank is at ${full(e)}, ${a(e.bankA)} still going in.`;
    case 'diverting':
      return `${name} sends ${formatQuantity(e.figure ?? 0, 'W', 0)} into its diversion load at ${v(e.bankV)}.`;
    case 'heatCut':
      return said`${name} is cut back to ${a(e.amps)}: its machine is at ${c(e.figure)}.`;
    case 'relayOpen':
      return said`${name} opens at ${c(e.sensorC)}: no charge from what it switches.`;
    case 'relayClosed':
      return said`${name} closes at ${c(e.sensorC)}: charging is allowed.`;
    case 'overAllowed':
      return said`${a(e.bankA)} go in at ${c(e.batteryC)}; the sheet allows ${a(e.figure)}.`;
    case 'powerCut':
      return `${name} starts again after the power cut with what it had stored.`;
    case 'stage':
      break;
  }
  const counted = e.counted ?? 0;
  switch (e.cause) {
    case 'sourceOn':
      return e.stage === 'bulk'
        ? `${name} begins${card?.recharge.restartsDaily ? ', as on every start,' : ''} in bulk; ${full(e)} charge.`
        : `${name} has its source again and goes on in ${e.stage ?? ''}: the bank has not fallen to its recharge voltage.`;
    case 'sourceOff':
      return `${name} has no source; it was in ${e.before ?? ''}, the bank at ${full(e)}.`;
    case 'touched':
      return `${name} touches its absorb voltage, ${v(e.ownV)} at its own terminals, at ${full(e)} charge: absorb begins.${off}`;
    case 'held':
      return `${name} has held its absorb voltage long enough, at ${full(e)} charge: absorb begins.${off}`;
    case 'taper':
      return `${name} ends absorb: ${a(e.amps)} is its taper current, after ${formatDuration(Math.round(counted))} at voltage. ${a(e.bankA)} go into the bank.`;
    case 'time':
      return `${name} ends absorb on time${card?.absorb.timerCounts === 'wallClock' ? `: its clock ran on, ${formatDuration(Math.round(e.lasted ?? 0))}, ${formatDuration(Math.round(counted))} of them at voltage` : ` after ${formatDuration(Math.round(counted))} at voltage`}.${counted < brief ? ' That is short.' : ''}`;
    case 'timeAndTaper':
      return `${name} ends absorb: time and current both say so, after ${formatDuration(Math.round(counted))} at voltage.`;
    case 'charge':
      return `${name} ends absorb: the monitor says ${full(e)}.`;
    case 'maxTime':
      return `${name} ends the charge at its longest time, ${full(e)} charge.`;
    case 'recharge':
      return `${name} begins anew: ${v(e.ownV)} by its own measure is under its recharge voltage; ${full(e)} charge.${off}`;
    case 'days':
      return `${name} begins anew: the days between two absorbs are over.`;
    case 'floatTime':
      return `${name} ends float and rests.`;
    case 'cold':
      return said`${name} holds for the cold: its sensor${charger ? `, ${sensorPlaceWords[charger.sensor.place]},` : ''} reads ${c(e.sensorC)}; the cells are at ${c(e.batteryC)}.`;
    case 'warm':
      return said`${name} may charge again: its sensor reads ${c(e.sensorC)}; the cells are at ${c(e.batteryC)}.`;
    case 'hot':
      return said`${name} holds for the heat at ${c(e.sensorC)}.`;
    case 'cooled':
      return said`${name} may charge again at ${c(e.sensorC)}.`;
    case 'noSensor':
      return `${name} does not charge: its cutoff is set and no sensor tells it the temperature.`;
    case 'equaliseDue':
      return `${name} equalises: its interval is over.`;
    case 'equaliseAsked':
      return `${name} equalises: somebody started it.`;
    case 'equaliseDone':
      return `${name} ends equalise after ${formatDuration(Math.round(counted))} at voltage.`;
    case 'alarm':
      return `${name} stops: ${v(e.ownV)} is its high-voltage alarm.`;
    case 'alarmOver':
      return `${name} starts again after its alarm.`;
    case 'batteryGone':
      return `${name} lost the battery while its source was on. It may not survive that.`;
    case 'leader':
      return `${name} follows its leader to ${e.stage ?? ''}.`;
    case 'brake':
      return `${name} is braked at ${v(e.ownV)}, and stays so until somebody lets it go.`;
    case 'blocked':
      return `${name} is held off by its relay.`;
    case 'unblocked':
      return `${name} may charge again: its relay has closed.`;
    case 'restart':
      return `${name} starts again after the power cut with what it had stored.`;
    default:
      return `${name}: ${e.stage ?? ''}.`;
  }
}
