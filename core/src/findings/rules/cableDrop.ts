import { mostAmps } from '../../settings';
import { chargerDrop, wireDrop } from '../../system';
import { allAmps } from '../places';
import { chargerRule } from '../rule';

/** Part of the nominal voltage that may be lost between a charger and the bank before it is worth a word. */
const worthMentioning = 0.015;

/** Voltage lost in a charger's cable at its full current, and in the main cable with all chargers flowing through it. */
export const cableDrop = chargerRule(
  ({ charger, card }, plan) => {
    const amps = mostAmps(plan, charger, card);
    const main = plan.input.system.bank.wire;
    const own = chargerDrop(charger, amps);
    if (own === null || card.remoteSense) return null;
    const allA = allAmps(plan);
    const mainV = wireDrop(main, allA);
    const lostV = own + (mainV ?? 0);
    return lostV < plan.facts.nominalVolts * worthMentioning ? null : { severity: 'note', facts: { lostV, amps, allA: mainV === null ? null : allA } };
  },
  { belongsTo: 'system' },
);
