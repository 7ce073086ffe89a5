import { formatNumber } from '../../quantity';
import { left, type RoleRule } from '../context';

/** Battery type: the card’s own-figures entry, never a preset that hides or overwrites figures. */
export const batteryType: RoleRule = {
  role: 'batteryType',
  want: ({ parameter }) => {
    const custom = parameter.unit === 'choice' ? parameter.options.find((o) => o.means === 'custom') : undefined;
    return custom
      ? {
          kind: 'choice',
          means: custom.value,
          steps: [
            { kind: 'note', words: 'The entry for one’s own figures: a preset knows neither this battery nor this site, and hides or overwrites figures.' },
          ],
        }
      : left('This card names no entry for one’s own figures. Choose the one that shows every figure, and read all of them back.');
  },
};

/** Capacity: rated, or rated × the recorded factor, by school. */
export const capacity: RoleRule = {
  role: 'capacity',
  want: ({ facts, input }) => {
    const rated = input.schools.monitorCapacity === 'rated';
    const { capacityFactor, capacityReason } = input.system.bank;
    const { ratedAh } = facts;
    if (ratedAh === null)
      return { kind: 'none', why: 'missingFigure', steps: [{ kind: 'note', words: 'The capacity of the battery is not known. Enter it on Spec.' }] };
    const usedAh = ratedAh * capacityFactor;
    return {
      kind: 'number',
      exact: rated ? ratedAh : usedAh,
      band: null,
      inset: 0,
      prefer: 'down',
      steps: [
        {
          kind: 'start',
          words: `Rated, ${input.system.bank.stringsInParallel} × ${input.sheet.unit.capacityAh} Ah`,
          value: ratedAh,
          unit: 'Ah',
          digits: 0,
        },
        rated
          ? { kind: 'note', words: 'School: the rated capacity.' }
          : {
              kind: 'subtotal',
              words: `× ${formatNumber(capacityFactor, 2)} in use${capacityReason ? `: ${capacityReason.toLowerCase()}` : ''}`,
              value: usedAh,
              unit: 'Ah',
              digits: 0,
            },
      ],
    };
  },
};

/** Leader, follower or alone. */
export const follows: RoleRule = {
  role: 'follows',
  want: ({ charger, input }) => {
    const leads = input.system.chargers.filter((c) => c.follows === charger.id).map((c) => c.name);
    const leader = input.system.chargers.find((c) => c.id === charger.follows);
    return {
      kind: 'choice',
      means: leader ? 'follower' : leads.length > 0 ? 'leader' : 'off',
      steps: [
        {
          kind: 'note',
          words: leader
            ? `Takes its figures from ${leader.name}; its current limit stays its own.`
            : leads.length > 0
              ? `${leads.join(', ')} take${leads.length === 1 ? 's' : ''} the figures from here.`
              : 'Linked to no other charger.',
        },
      ],
    };
  },
};

/** Who commands: the BMS where its charge enable is wired to this input, other chargers where they follow, else nobody. */
export const remoteControl: RoleRule = {
  role: 'remoteControl',
  want: ({ charger, card, input }) => {
    const led = input.system.chargers.some((c) => c.follows === charger.id);
    const bms = card.kind === 'dcdc' && input.system.bank.chargeEnable === 'wired';
    return {
      kind: 'choice',
      means: led || bms ? 'on' : 'off',
      steps: [
        {
          kind: 'note',
          words: bms
            ? 'The BMS’s charge enable is wired to it. The local figures are the fallback and must still be right.'
            : led
              ? 'Other chargers follow its figures.'
              : 'Nothing on this job commands it or follows it: its own figures count.',
        },
      ],
    };
  },
};

/** Ground-fault detection: on only where it makes the one bond to earth. */
export const groundFaultDetection: RoleRule = {
  role: 'groundFaultDetection',
  want: ({ input }) => {
    const how = input.system.site.grounding;
    if (how === undefined) return left('How the DC side is earthed is not entered on System. Left as it is; local codes and a licensed electrician decide.');
    return {
      kind: 'choice',
      means: how === 'throughCharger' ? 'on' : 'off',
      steps: [
        {
          kind: 'note',
          words:
            how === 'throughCharger'
              ? 'The DC side is earthed only through this detector.'
              : how === 'bonded'
                ? 'The DC side is bonded to earth elsewhere: a second bond through the detector would blind or trip it.'
                : 'The DC side floats: the detector would earth it.',
          source: 'Local codes and a licensed electrician decide',
        },
        {
          kind: 'note',
          words: 'Where it has a jumper or a fuse for this, that goes with the setting: its manual says which.',
        },
      ],
    };
  },
};

/** Settings that have no bearing on the battery. */
export const displaySleep: RoleRule = { role: 'displaySleep', want: () => left('No bearing on the battery. Long enough to read every value back.') };
/** Its clock, by which its daily history is read. */
export const clock: RoleRule = { role: 'clock', want: () => left('Set it to the time on site, so that the daily history can be read.') };
