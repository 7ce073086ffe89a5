import type { Language } from '../../language';
import { listed } from '../join';

type Words = Language['findings'];

/** Charge currents, alone and together. */
export const currentFindings = {
  alternatorPastMachine: (f, say, its) =>
    f.past === 'current'
      ? { text: `${its} may take ${say.amps(f.limitA)} from a machine rated for ${say.amps(f.ratedA)}.`, hurts: 'The machine overheats.' }
      : {
          text: `${its} lets the machine reach ${say.celsius(f.limitC)}. Its maker allows ${say.celsius(f.maxC)}.`,
          hurts: 'Windings and diodes fail, and the housing burns whoever touches it.',
        },
  dcdcPastSpare: ({ givesA, drawsA, spareA }, say, its) => ({
    text: `${its} gives up to ${say.amps(givesA)} and draws about ${say.amps(drawsA)} for it. The alternator it hangs on can spare ${say.amps(spareA)}.`,
    hurts: 'The alternator overheats, or the starter battery is drained while driving.',
  }),
  deratingExceeded: ({ givesA, allowed }, say) => ({
    text: `The chargers can deliver ${say.amps(givesA)}. The sheet allows ${listed(allowed.map(({ amps, belowC }) => `${say.amps(amps)} below ${say.celsius(belowC)}`))}.`,
    hurts: 'Too much current into cold cells plates lithium, even with the right cutoff. A charger that reduces its current by temperature is another way out.',
  }),
  limitCopied: ({ larger, smaller }, say) => ({
    text: `${say.name(larger.device)} (${say.amps(larger.ratedA)}) and ${say.name(smaller.device)} (${say.amps(smaller.ratedA)}) were both found limited to ${say.amps(larger.foundA)}. They should be ${say.amps(larger.worksOutA)} and ${say.amps(smaller.worksOutA)}.`,
    hurts: 'The figure looks copied: one may overload its cable, or the other charges too slowly.',
  }),
  limitsPastCeiling: ({ found, sumA, ceilingA, ceiling, adds, bms }, say) => {
    const digits = say.digits(sumA, ceilingA);
    return {
      text: `The charge limits${found ? ', as found,' : ''} add up to ${say.amps(sumA, digits)}. The bank’s limit is ${say.amps(ceilingA, digits)} (${ceiling.toLowerCase()}: ${adds}).`,
      hurts: `Cables overheat and fuses blow${bms ? ', or the BMS trips on over-current' : ''}.`,
    };
  },
  pastOwnFuse: (f, say, its) => ({
    text:
      f.past === 'fuse'
        ? `${its} ${f.found ? 'was found limited to' : 'can deliver'} ${say.amps(f.givesA)}. Its ${say.amps(f.fuseA)} fuse carries ${say.amps(f.carriesA)} continuously.`
        : `${its} ${f.found ? 'was found limited to' : 'can deliver'} ${say.amps(f.givesA)}. Its cable is rated for ${say.amps(f.cableA)}.`,
    hurts: f.past === 'fuse' ? 'The fuse opens while charging.' : 'The cable overheats.',
  }),
  taperBelowLoads: ({ devices, taperA, loadA, timerS }, say) => ({
    text: `Alone on the bank, ${listed(devices.map(say.name))} cannot fall below the taper of ${say.amps(taperA)} while the loads take ${say.amps(loadA)}${timerS === null ? '' : `; the timer of ${say.duration(timerS)} ends absorb instead`}.`,
    hurts: timerS === null ? 'The charger stays in absorb while the loads run.' : 'On such days absorb ends by time, not by current.',
  }),
  taperDisplaced: ({ devices, taperA, others, othersA, bankA, atLeast }, say) => ({
    text: `${listed(devices.map(say.name))} ${devices.length === 1 ? 'ends absorb when its' : 'end absorb when their'} own output falls to ${say.amps(taperA)}. Beside ${listed(others.map(say.name))}, up to ${say.amps(othersA)}, that comes while as much as ${say.amps(bankA)} still flow into the bank.`,
    hurts: atLeast
      ? `${devices.length === 1 ? 'Its absorb ends' : 'Their absorb ends'} long before the bank is full, and no lower taper can be set. Sense the current at a shunt, or let the others finish the charge.`
      : 'Absorb ends long before the bank is full. Let time end it, or sense the current at a shunt.',
  }),
} satisfies Partial<Words>;
