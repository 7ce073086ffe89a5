import { chargerRule } from '../rule';

/** A device whose firmware changed, or that was reset, since its settings were last proved. */
export const firmwareChanged = chargerRule(
  'firmwareChanged',
  ({ charger }) => {
    const updated = charger.provedFirmware !== undefined && charger.firmware !== undefined && charger.firmware !== charger.provedFirmware;
    if (!updated && charger.resetSinceProof !== true) return null;
    return {
      severity: 'attention',
      text: updated
        ? `${charger.name} runs firmware ${charger.firmware ?? ''}, and its settings were proved on ${charger.provedFirmware ?? ''}.`
        : `${charger.name} has been reset since its settings were proved.`,
      hurts: 'An update or a reset puts every value in doubt. Read all of them back before anything else.',
      remedies: [
        {
          label: 'Every value has been read back since',
          changes: [
            {
              kind: 'setCharger',
              charger: charger.id,
              values: { resetSinceProof: false, ...(charger.firmware === undefined ? {} : { provedFirmware: charger.firmware }) },
            },
          ],
        },
      ],
    };
  },
  { belongsTo: 'system', short: 'Read all back' },
);
