import { bandRule } from '../bands';

/** Float outside the maker's band. */
export const floatOutsideBand = bandRule(
  'floatOutsideBand',
  'floatVoltage',
  'Held above the band all day, cells age.',
  'The bank drains slowly while the sun shines.',
  { short: 'Float out of band' },
);
