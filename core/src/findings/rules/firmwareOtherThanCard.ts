import { chargerRule } from '../rule';

/** A device whose firmware is another than its card describes: menus may have moved. */
export const firmwareOtherThanCard = chargerRule(
  ({ charger, card }) => {
    const { firmware } = charger;
    if (firmware === undefined || firmware === '' || card.describes.firmware === '' || firmware === card.describes.firmware) return null;
    return { severity: 'note', facts: { firmware, describes: card.describes.firmware, menu: card.describes.menuRevision } };
  },
  { belongsTo: 'system' },
);
