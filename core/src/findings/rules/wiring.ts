import { voltageDrop } from '../../physics';
import { figureOnBank, statedFigure } from '../../sheet';
import { bankAmpacity, chargerAmpacity, chargerDrop } from '../../system';
import { amps, chargersWithCards, mostAmps, volts } from '../words';
import type { Finding, FindingRule } from '../finding';

/** A fuse that lets through more than its conductor bears. */
export const fusePastCable: FindingRule = {
  code: 'fusePastCable',
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

/** Part of the nominal voltage that may be lost between a charger and the bank before it is worth a word. */
const worthMentioning = 0.015;

/** Voltage lost in a charger's cable at its full current. */
export const cableDrop: FindingRule = {
  code: 'cableDrop',
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

/** A main fuse that cannot break what the bank drives into a short. */
export const fuseCannotBreak: FindingRule = {
  code: 'fuseCannotBreak',
  check: ({ plan }) => {
    const { fuseA, fuseBreaksA, shortCircuitA } = plan.input.system.bank;
    if (fuseA === undefined || shortCircuitA === undefined || (fuseBreaksA ?? 0) >= shortCircuitA) return [];
    return [
      {
        code: 'fuseCannotBreak',
        severity: 'attention',
        text:
          fuseBreaksA === undefined
            ? `The bank drives ${amps(shortCircuitA)} into a short, and what the main fuse can break is not entered.`
            : `The bank drives ${amps(shortCircuitA)} into a short, and the main fuse can break ${amps(fuseBreaksA)}.`,
        hurts: 'A fuse that cannot break the arc burns on. Its sheet gives the breaking capacity at the bank’s voltage.',
        remedies: [],
      },
    ];
  },
};

/** An alternator that a BMS can cut off while it turns. */
export const loadDump: FindingRule = {
  code: 'loadDump',
  check: ({ plan }) =>
    !plan.input.system.bank.hasBms
      ? []
      : chargersWithCards(plan)
          .filter(({ charger, card }) => card.kind === 'alternator' && charger.machine?.loadDumpProtected !== true)
          .map(({ charger }) => ({
            code: 'loadDump',
            severity: 'attention' as const,
            charger: charger.id,
            text: `A BMS that opens while ${charger.name} charges leaves the alternator without a load, and no protection is entered.`,
            hurts: 'The voltage spike kills diodes and electronics. The output of a turning alternator is never opened: it is stopped at its field.',
            remedies: [],
          })),
};

/** A meter whose range ends below what it has to show. */
export const meterOutOfRange: FindingRule = {
  code: 'meterOutOfRange',
  check: ({ plan }) => {
    const figure = statedFigure(plan.input.sheet, 'absorbVoltage');
    const most = figure && (figureOnBank(figure, plan.facts.shape).band.max ?? figureOnBank(figure, plan.facts.shape).target);
    const meter = plan.input.system.instruments.find((i) => i.id === plan.input.system.provingInstrument);
    if (most === undefined || meter?.rangeV === undefined || meter.rangeV >= most) return [];
    return [
      {
        code: 'meterOutOfRange',
        severity: 'attention',
        text: `${meter.name} shows ${volts(meter.rangeV, 0)} at most, and absorb stands at ${volts(most, 1)}.`,
        hurts: 'Nothing can be proved with it at the terminals. Choose another range or another meter.',
        remedies: [],
      },
    ];
  },
};
