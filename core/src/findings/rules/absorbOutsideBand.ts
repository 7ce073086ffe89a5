import { bandRule } from '../bands';

/** Absorb outside the maker's band. */
export const absorbOutsideBand = bandRule('absorbVoltage');
