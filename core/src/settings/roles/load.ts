import { meansOf, parameterFor } from '../../card';
import type { Direction } from '../../quantity';
import { isLithium, type Chemistry, type FigureKey } from '../../sheet';
import { left, notUsed, voltsFromSheet, type RoleContext, type RoleRule } from '../context';

/** Volts per cell at which a fifth of the charge is left under a light load, and from which loads may come back (general electrochemistry). */
const derivedPerCell: Readonly<Record<Chemistry, { readonly disconnect: number; readonly reconnect: number }>> = {
  lfp: { disconnect: 3.05, reconnect: 3.25 },
  nmc: { disconnect: 3.4, reconnect: 3.6 },
  flooded: { disconnect: 1.95, reconnect: 2.1 },
  agm: { disconnect: 1.95, reconnect: 2.1 },
  gel: { disconnect: 1.95, reconnect: 2.1 },
};

const fromSheet = (role: 'loadDisconnect' | 'loadReconnect', key: FigureKey, pick: 'disconnect' | 'reconnect', prefer: Direction): RoleRule => ({
  role,
  want: (context) => {
    const sheet = voltsFromSheet(context, key);
    if (sheet) return { kind: 'number', exact: sheet.volts, band: sheet.band, inset: 0, prefer, steps: sheet.steps };
    const { chemistry } = context.input.sheet;
    const perCell = derivedPerCell[chemistry][pick];
    return {
      kind: 'number',
      exact: perCell * context.facts.cells,
      band: null,
      inset: 0,
      prefer,
      steps: [
        {
          kind: 'start',
          words: `The sheet gives none: ${isLithium(chemistry) ? 'a fifth of the charge left, and lithium volts say little' : 'about a fifth of the charge left under a light load'}`,
          value: perCell,
          unit: 'V',
          digits: 2,
          source: 'General electrochemistry, not the maker’s figure',
        },
        { kind: 'result', words: `× ${context.facts.cells} cells in series`, value: perCell * context.facts.cells, unit: 'V', digits: 2 },
      ],
    };
  },
});

/** Load disconnect: the sheet's, rounded up so that the bank is never drained below it; else derived from a floor of charge. */
export const loadDisconnect = fromSheet('loadDisconnect', 'disconnectVoltage', 'disconnect', 'up');

/** Load reconnect: the sheet's, else derived. */
export const loadReconnect = fromSheet('loadReconnect', 'reconnectVoltage', 'reconnect', 'up');

/** Whether the loads hang on this device's output. A charger with a load output is taken to feed them unless a companion does. */
export const feedsLoads = ({ charger, input }: Pick<RoleContext, 'charger' | 'input'>): boolean => {
  const companion = input.system.companions.find((c) => c.id === charger.id);
  return companion ? companion.switches.includes('loads') : !input.system.companions.some((c) => c.switches.includes('loads'));
};

/** How long the bank must be low before the loads go, and high before they come back, s: longer than a motor takes to start. */
const delays = { loadDisconnectDelay: 30, loadReconnectDelay: 60 } as const;

const delay = (role: keyof typeof delays, words: string): RoleRule => ({
  role,
  want: () => ({
    kind: 'number',
    exact: delays[role],
    band: null,
    inset: 0,
    prefer: 'up',
    steps: [{ kind: 'start', words, value: delays[role], unit: 's', digits: 0, source: 'Usual practice, not the maker’s figure' }],
  }),
});

/** Delay before the loads are disconnected. */
export const loadDisconnectDelay = delay('loadDisconnectDelay', 'Long enough that a motor that starts does not disconnect the loads');

/** Delay before they are connected again. */
export const loadReconnectDelay = delay('loadReconnectDelay', 'Long enough that the bank has recovered and the loads do not go on and off');

/** Load mode: on where the loads hang on it. Off at many factories, which leaves the disconnect without effect. */
export const loadMode: RoleRule = {
  role: 'loadMode',
  want: (context) => {
    const on = feedsLoads(context);
    return {
      kind: 'choice',
      means: on ? 'on' : 'off',
      steps: [{ kind: 'note', words: on ? 'The loads hang on it: without this the disconnect has no effect.' : 'No load hangs on it.' }],
    };
  },
};

const timer = (role: 'loadTimer' | 'loadDawnTimer'): RoleRule => ({
  role,
  want: ({ done, card }) => {
    const mode = done.get('loadMode');
    const timed = mode && meansOf(parameterFor(card, 'loadMode'), mode.value) === 'other';
    return timed
      ? left(`“${mode.value}” was chosen: how long is for the owner to say. Set it here; the voltage disconnects the loads at any hour.`)
      : notUsed('The loads are on at all hours; only the voltage disconnects them.');
  },
});

/** Load timer, after dusk: without use while loads are on at all hours; the person’s to choose where a mode by the hour was chosen. */
export const loadTimer = timer('loadTimer');

/** The same before dawn. */
export const loadDawnTimer = timer('loadDawnTimer');
