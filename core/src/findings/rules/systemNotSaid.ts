import { isLithium } from '../../sheet';
import { assumedOfBattery, assumedValue, notSaid, type Assumable } from '../../settings';
import { jobRule } from '../rule';

/** Those by which a wrong assumption can hurt the bank: on lithium also the cold and the BMS. */
const grave: readonly Assumable[] = ['unitsInSeries'];
const graveOnLithium: readonly Assumable[] = ['hasBms', 'bankLowC'];

/** Bank, place, loads and meters that are still what a new job begins with, while chargers rest on them. */
export const systemNotSaid = jobRule(
  ({ input }) => {
    const { sheet, system } = input;
    const keys = notSaid(input).filter((key) => !assumedOfBattery.includes(key));
    const meters = system.instruments.filter((i) => i.assumed);
    if (system.chargers.length === 0 || (keys.length === 0 && meters.length === 0)) return null;
    const stops = keys.some((key) => grave.includes(key) || (isLithium(sheet.chemistry) && graveOnLithium.includes(key)));
    return {
      severity: stops ? 'stop' : 'attention',
      facts: {
        rows: keys.map((what) => ({ what, value: assumedValue(input, what) })),
        meters: meters.map(({ name, volts }) => ({ name, percent: volts.percent, digits: volts.digits })),
      },
      remedies: [{ does: 'asAssumed', changes: [{ kind: 'confirmAssumed', what: keys, meters: meters.map((m) => m.id) }] }],
    };
  },
  { belongsTo: 'system' },
);
