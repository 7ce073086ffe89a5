import { roleInfo } from '../../card';
import type { DeviceReading } from '../../findings';
import { basisWords } from '../../sheet';
import { breakWords } from '../../settings';
import type { Language } from '../language';
import type { Say } from '../say';
import { counted, listed } from './join';

type From = readonly { readonly device: string; readonly fromC: number }[];

/** "DC-DC from 0 °C, Solar fore and Solar aft from 5 °C". */
function starts(sources: From, say: Say): string {
  const stairs = [...new Set(sources.map((s) => s.fromC))].sort((a, b) => a - b);
  return stairs.map((fromC) => `${listed(sources.filter((s) => s.fromC === fromC).map((s) => say.name(s.device)))} from ${say.celsius(fromC)}`).join(', ');
}

/** What the buttons of remedies say. */
export const remedies: Language['remedies'] = {
  asAssumed: () => 'Record: these are right',
  clearOverride: () => 'Go back to the derived value',
  clearLimit: ({ device }, say) => `Go back to the derived limit of ${say.name(device)}`,
  recordReading: (reads, say) => `Record that it now reads ${say.reading(reads)}`,
  recordOff: () => 'Record that it is off now',
  recordSensorFitted: () => 'Record: sensor fitted on the battery case',
  recordSensorOnCase: () => 'Record: sensor moved to the bare case',
  recordSensorUnplugged: () => 'Record: sensor unplugged',
  rankFigures: ({ rank }) => `Record: ${rank === 'makerForThisCharger' ? 'the battery maker’s own figures' : 'the battery maker’s, for another charger'}`,
  recordWired: () => 'Record: charge-enable wired',
  recordBalanced: () => 'Record: cells top-balanced',
  recordFullCharge: () => 'Record: a full charge was proved',
  recordPasscode: () => 'Record: passcode changed',
  recordReadBack: () => 'Record: all values read back since',
  recordRelayMoved: ({ to }) => `Record: relay moved to ${breakWords[to]}`,
  reviewed: () => 'Record: checked by a second person',
  setBasis: ({ basis }) => `Read it ${basisWords[basis]}`,
  setCells: ({ cells }) => `Set ${counted(cells, 'cell')} in series`,
  pinSheet: ({ revision }) => (revision === '' ? 'Use the newer sheet' : `Use revision ${revision}`),
  countBestAvailable: () => 'Use the best figures available',
  restInstead: () => 'Rest instead of float',
  holdSheetFloat: () => 'Hold at the sheet’s float',
  anyProtection: () => 'Use any protection that works',
  addMargin: () => 'Add the margin of each sensor',
  raiseCutoffs: ({ pastC }, say) => `Raise every cutoff past ${say.celsius(pastC)}`,
  stagger: ({ sources }, say) => `Stagger: ${starts(sources, say)}`,
  lowerLimits: ({ togetherA, late }, say) =>
    `Lower the limits to ${say.amps(togetherA, 0)} together${late.map((s) => `, ${say.name(s.device)} from ${say.celsius(s.fromC)}`).join('')}`,
  absorbEvery: ({ everyDays }) => (everyDays === null ? 'Absorb at an interval' : `Absorb every ${everyDays} days`),
  timeEndsAbsorb: () => 'Let time end absorb',
  storeBank: () => 'Store at storage charge',
};

const shown = (reading: DeviceReading | 'off' | null, say: Say): string => (reading === null ? 'left' : reading === 'off' ? 'off' : say.reading(reading));

/** "Solar aft: low-temperature cutoff 4 °C → 16 °C". */
export const changed: Language['changed'] = ({ device, role, before, after }, say) =>
  `${say.name(device)}: ${roleInfo[role].name} ${shown(before, say)} → ${shown(after, say)}`;
