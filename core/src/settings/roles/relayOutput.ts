import type { Role } from '../../card';
import { left, missing, notUsed, per12, voltsFromSheet, type RoleContext, type RoleRule, type Wanted } from '../context';
import type { Step } from '../setting';

/** How far below absorb a load for surplus comes on, V per 12 V: near enough to be full, and reached whatever the display rounds. */
const belowAbsorb = 0.1;
/** Above the recharge voltage, and below float, where only one of the two is there, V per 12 V. */
const apart = 0.2;
/** How far above the load disconnect a start or an alarm comes, V per 12 V: while the loads still run. */
const beforeDisconnect = 0.3;

const source = 'Usual practice, not the maker’s figure';

/** What is joined, and what its relay then goes by. */
const joinedWords = {
  nothing: 'Nothing is joined to its relay.',
  surplus: 'A load for surplus is joined to its relay: it goes by the volts of the bank.',
  low: 'A start or an alarm is joined to its relay: it goes by the volts of the bank.',
} as const;

/** Relay rule: off where nothing is joined to it, by voltage where something is. */
export const relayRule: RoleRule = {
  role: 'relayRule',
  want: ({ charger: { onRelay } }) =>
    onRelay === undefined
      ? left('What is joined to its relay is not said. Say it on System, and its voltages are worked out.')
      : { kind: 'choice', means: onRelay === 'nothing' ? 'off' : 'on', steps: [{ kind: 'note', words: joinedWords[onRelay] }] },
};

const unused = ({ charger: { onRelay } }: RoleContext): Wanted =>
  notUsed(onRelay === 'nothing' ? joinedWords.nothing : 'What is joined to its relay is not said.');

/** A voltage of the same device as it is set; null where it has none, or it is off. */
function asSet({ done }: RoleContext, role: Role): number | null {
  const found = done.get(role);
  return found && !found.off ? found.trueValue : null;
}

const volts = (exact: number, prefer: 'up' | 'down', steps: readonly Step[]): Wanted => ({ kind: 'number', exact, band: null, inset: 0, prefer, steps });
const begins = (words: string, value: number): Step => ({ kind: 'start', words, value, unit: 'V', digits: 2 });

/** A voltage so far above another, V per 12 V. */
function moved(context: RoleContext, words: string, from: number, by: number, why: string): Wanted {
  const value = per12(context, by);
  return volts(from + value, by < 0 ? 'down' : 'up', [begins(words, from), { kind: 'change', words: why, value, unit: 'V', digits: 2, source }]);
}

/** Relay on: just below absorb for surplus; before the loads are disconnected for a start or an alarm. */
export const relayOnVoltage: RoleRule = {
  role: 'relayOnVoltage',
  want: (context) => {
    switch (context.charger.onRelay) {
      case 'surplus': {
        const absorb = asSet(context, 'absorbVoltage');
        return absorb === null
          ? missing(context, 'absorb voltage')
          : moved(context, 'Absorb as set', absorb, -belowAbsorb, 'Below it, so that it is reached: the bank is full or nearly so');
      }
      case 'low': {
        const disconnect = asSet(context, 'loadDisconnect') ?? voltsFromSheet(context, 'disconnectVoltage')?.volts;
        return disconnect === undefined
          ? missing(context, 'load disconnect')
          : moved(context, 'Load disconnect', disconnect, beforeDisconnect, 'Above it, while the loads still run');
      }
      default:
        return unused(context);
    }
  },
};

/** Relay off: between float and recharge for surplus, so that the load never makes the charger begin anew; at the reconnect for a start or an alarm. */
export const relayOffVoltage: RoleRule = {
  role: 'relayOffVoltage',
  want: (context) => {
    switch (context.charger.onRelay) {
      case 'surplus': {
        const [float, recharge] = [asSet(context, 'floatVoltage'), asSet(context, 'rechargeVoltage')];
        if (float !== null && recharge !== null) {
          const value = (float + recharge) / 2;
          const between = {
            kind: 'subtotal',
            words: 'Between the two: the load never makes the charger begin anew',
            value,
            unit: 'V',
            digits: 2,
            source,
          } as const;
          return volts(value, 'up', [begins('Float as set', float), begins('Recharge as set', recharge), between]);
        }
        if (float !== null) return moved(context, 'Float as set', float, -apart, 'Below it, so that float alone does not hold the load on');
        if (recharge !== null) return moved(context, 'Recharge as set', recharge, apart, 'Above it, so that the load never makes the charger begin anew');
        return missing(context, 'float or recharge voltage');
      }
      case 'low': {
        const reconnect = asSet(context, 'loadReconnect') ?? voltsFromSheet(context, 'reconnectVoltage')?.volts;
        return reconnect === undefined
          ? missing(context, 'load reconnect')
          : volts(reconnect, 'up', [{ ...begins('Load reconnect: the bank has recovered', reconnect), source }]);
      }
      default:
        return unused(context);
    }
  },
};
