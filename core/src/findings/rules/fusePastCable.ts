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
    return places.flatMap(({ name, fuse, bears, charger }): Finding[] =>
      fuse === undefined || bears === null || fuse <= bears + 1e-9
        ? []
        : [
            {
              code: 'fusePastCable',
              severity: 'attention',
              ...(charger ? { charger } : {}),
              text: `${name}, ${amps(fuse)}, is larger than its cable bears, ${amps(bears)}.`,
              hurts: 'The cable burns before the fuse opens. Local codes and a licensed electrician decide.',
              remedies: [],
            },
          ],
    );
  },
};
