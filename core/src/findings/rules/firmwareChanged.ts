import { chargerRule } from '../rule';

/** A device whose firmware changed, or that was reset, since its settings were last proved. */
export const firmwareChanged = chargerRule(
  ({ charger }) => {
    const updated = charger.provedFirmware !== undefined && charger.firmware !== undefined && charger.firmware !== charger.provedFirmware;
    if (!updated && charger.resetSinceProof !== true) return null;
    return {
      severity: 'attention',
      facts: { updated, firmware: charger.firmware ?? null, proved: charger.provedFirmware ?? null },
      remedies: [
        {
          does: 'recordReadBack',
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
  { belongsTo: 'system' },
);
