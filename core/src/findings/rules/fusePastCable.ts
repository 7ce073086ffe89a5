import { digitsApart } from '../../quantity';
import { bankAmpacity, chargerAmpacity } from '../../system';
import { amps } from '../words';
import type { Finding, FindingRule } from '../finding';

/** A fuse that lets through more than its conductor bears. */
export const fusePastCable: FindingRule = {
  code: 'fusePastCable',
  belongsTo: 'system',
  check: ({ plan }) => {
    const { bank } = plan.input.system;
    const places = [
      { name: 'The main fuse', fuse: bank.fuseA, bears: bankAmpacity(bank), charger: undefined },
      ...plan.input.system.chargers.map((c) => ({ name: `The fuse of ${c.name}`, fuse: c.fuseA, bears: chargerAmpacity(c), charger: c.id })),
    ];
    return places.flatMap(({ name, fuse, bears, charger }): Finding[] => {
      if (fuse === undefined || bears === null || fuse <= bears + 1e-9) return [];
      const digits = digitsApart(fuse, bears, 0);
      return [
        {
          code: 'fusePastCable',
          severity: 'stop',
          ...(charger ? { charger } : {}),
          text: `${name}, ${amps(fuse, digits)}, is larger than its cable bears, ${amps(bears, digits)}.`,
          hurts: 'The cable burns before the fuse opens. Local codes and a licensed electrician decide.',
          remedies: [],
        },
      ];
    });
  },
};
