import { voltageDrop } from '../../physics';
import { chargerDrop } from '../../system';
import { mostAmps } from '../places';
import { chargerRule } from '../rule';

/** Part of the nominal voltage that may be lost between a charger and the bank before it is worth a word. */
const worthMentioning = 0.015;

/** Voltage lost in a charger's cable at its full current. */
export const cableDrop = chargerRule(
  ({ charger, card }, plan) => {
    const amps = mostAmps(plan, charger, card);
    const main = plan.input.system.bank.wire;
    const own = chargerDrop(charger, amps);
    if (own === null || card.remoteSense) return null;
    const lostV = own + (main ? voltageDrop(main.lengthM, main.areaMm2, amps) : 0);
    return lostV < plan.facts.nominalVolts * worthMentioning ? null : { severity: 'note', facts: { lostV, amps } };
  },
  { belongsTo: 'system' },
);
