import { voltageDrop } from '../../physics';
import { chargerDrop } from '../../system';
import { amps, chargersWithCards, mostAmps, volts } from '../words';
import type { Finding, FindingRule } from '../finding';

/** Part of the nominal voltage that may be lost between a charger and the bank before it is worth a word. */
const worthMentioning = 0.015;

/** Voltage lost in a charger's cable at its full current. */
export const cableDrop: FindingRule = {
  code: 'cableDrop',
  belongsTo: 'system',
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap(({ charger, card }): Finding[] => {
      const limit = mostAmps(plan, charger, card);
      const main = plan.input.system.bank.wire;
      const own = chargerDrop(charger, limit);
      if (own === null || card.remoteSense) return [];
      const total = own + (main ? voltageDrop(main.lengthM, main.areaMm2, limit) : 0);
      if (total < plan.facts.nominalVolts * worthMentioning) return [];
      return [
        {
          code: 'cableDrop',
          severity: 'note',
          charger: charger.id,
          text: `${volts(total)} are lost between ${charger.name} and the bank at ${amps(limit)}.`,
          hurts:
            'Absorb begins early and lasts longer. Thicken the cable or fit sense leads; never lift a setpoint for it, because the drop goes as the current tapers.',
          remedies: [],
        },
      ];
    }),
};
