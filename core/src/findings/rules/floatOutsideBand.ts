import { bandRule } from '../bands';

/** Float outside the maker's band. */
export const floatOutsideBand = bandRule('floatVoltage');
