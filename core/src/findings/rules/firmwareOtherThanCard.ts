import { chargerRule } from '../rule';

/** A device whose firmware is another than its card describes: menus may have moved. */
export const firmwareOtherThanCard = chargerRule(
  'firmwareOtherThanCard',
  ({ charger, card }) => {
    if (charger.firmware === undefined || charger.firmware === '' || charger.firmware === card.describes.firmware) return null;
    return {
      severity: 'note',
      text: `${charger.name} runs firmware ${charger.firmware}; its card describes ${card.describes.firmware}, menu revision ${card.describes.menuRevision}.`,
      hurts: 'Labels, ranges and what it does without a sensor differ between revisions. Look for a card of this one.',
    };
  },
  { belongsTo: 'system' },
);
