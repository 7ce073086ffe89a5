import { left, missing, notUsed, per12, voltsFromSheet, type RoleContext, type RoleRule, type Wanted } from '../context';

/** How far below absorb a load for surplus comes on, V per 12 V: near enough to be full, and reached whatever the display rounds. */
const belowAbsorb = 0.1;
/** Above the recharge voltage, and below float, where only one of the two is there, V per 12 V. */
const apart = 0.2;
/** How far above the load disconnect a start or an alarm comes, V per 12 V: while the loads still run. */
const beforeDisconnect = 0.3;

/** What is joined to the relay of a charger; undefined while nobody has said it. */
const joined = ({ input, charger }: RoleContext) => input.system.chargers.find((c) => c.id === charger.id)?.onRelay;

const source = 'Usual practice, not the maker’s figure';

/** Relay rule: off where nothing is joined to it, by voltage where something is. */
export const relayRule: RoleRule = {
  role: 'relayRule',
  want: (context) => {
    switch (joined(context)) {
      case undefined:
        return left('What is joined to its relay is not said. Say it on System, and its voltages are worked out.');
      case 'nothing':
        return { kind: 'choice', means: 'off', steps: [{ kind: 'note', words: 'Nothing is joined to its relay.' }] };
      case 'surplus':
        return {
          kind: 'choice',
          means: 'on',
          steps: [{ kind: 'note', words: 'A load for surplus is joined to its relay: it goes by the volts of the bank.' }],
        };
      case 'low':
        return {
          kind: 'choice',
          means: 'on',
          steps: [{ kind: 'note', words: 'A start or an alarm is joined to its relay: it goes by the volts of the bank.' }],
        };
    }
  },
};

const unused = (context: RoleContext): Wanted =>
  notUsed(joined(context) === undefined ? 'What is joined to its relay is not said.' : 'Nothing is joined to its relay.');

/** A voltage so far above another, V per 12 V. */
function moved(context: RoleContext, words: string, from: number, by: number, why: string): Wanted {
  const change = per12(context, by);
  return {
    kind: 'number',
    exact: from + change,
    band: null,
    inset: 0,
    prefer: by < 0 ? 'down' : 'up',
    steps: [
      { kind: 'start', words, value: from, unit: 'V', digits: 2 },
      { kind: 'change', words: why, value: change, unit: 'V', digits: 2, source },
    ],
  };
}

/** Relay on: just below absorb for surplus; before the loads are disconnected for a start or an alarm. */
export const relayOnVoltage: RoleRule = {
  role: 'relayOnVoltage',
  want: (context) => {
    const value = (role: 'absorbVoltage' | 'loadDisconnect'): number | null => context.done.get(role)?.trueValue ?? null;
    switch (joined(context)) {
      case 'surplus': {
        const absorb = value('absorbVoltage');
        return absorb === null
          ? missing(context, 'absorb voltage')
          : moved(context, 'Absorb as set', absorb, -belowAbsorb, 'Below it, so that it is reached: the bank is full or nearly so');
      }
      case 'low': {
        const disconnect = value('loadDisconnect') ?? voltsFromSheet(context, 'disconnectVoltage')?.volts ?? null;
        return disconnect === null
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
    const value = (role: 'floatVoltage' | 'rechargeVoltage' | 'loadReconnect'): number | null => {
      const found = context.done.get(role);
      return found && !found.off ? found.trueValue : null;
    };
    switch (joined(context)) {
      case 'surplus': {
        const [float, recharge] = [value('floatVoltage'), value('rechargeVoltage')];
        if (float !== null && recharge !== null)
          return {
            kind: 'number',
            exact: (float + recharge) / 2,
            band: null,
            inset: 0,
            prefer: 'up',
            steps: [
              { kind: 'start', words: 'Float as set', value: float, unit: 'V', digits: 2 },
              { kind: 'start', words: 'Recharge as set', value: recharge, unit: 'V', digits: 2 },
              {
                kind: 'subtotal',
                words: 'Between the two: the load never makes the charger begin anew',
                value: (float + recharge) / 2,
                unit: 'V',
                digits: 2,
                source,
              },
            ],
          };
        if (float !== null) return moved(context, 'Float as set', float, -apart, 'Below it, so that float alone does not hold the load on');
        if (recharge !== null) return moved(context, 'Recharge as set', recharge, apart, 'Above it, so that the load never makes the charger begin anew');
        return missing(context, 'float or recharge voltage');
      }
      case 'low': {
        const reconnect = value('loadReconnect') ?? voltsFromSheet(context, 'reconnectVoltage')?.volts ?? null;
        return reconnect === null
          ? missing(context, 'load reconnect')
          : {
              kind: 'number',
              exact: reconnect,
              band: null,
              inset: 0,
              prefer: 'up',
              steps: [{ kind: 'start', words: 'Load reconnect: the bank has recovered', value: reconnect, unit: 'V', digits: 2, source }],
            };
      }
      default:
        return unused(context);
    }
  },
};
