import type { Direction } from '../../quantity';
import { isLithium, type Chemistry, type FigureKey } from '../../sheet';
import { notUsed, voltsFromSheet, type RoleContext, type RoleRule } from '../context';

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
        { kind: 'change', words: `× ${context.facts.cells} cells in series`, value: perCell * context.facts.cells, unit: 'V', digits: 2 },
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

/** Load timer: without use while loads are on at all hours. */
export const loadTimer: RoleRule = { role: 'loadTimer', want: () => notUsed('The loads are on at all hours; only the voltage disconnects them.') };
