import { bandRule } from '../bands';

/** Absorb outside the maker's band. */
export const absorbOutsideBand = bandRule(
  'absorbOutsideBand',
  'absorbVoltage',
  'Cells age, and the BMS may open under charge.',
  'The bank is never fully charged or balanced.',
  { short: 'Absorb out of band' },
);
