import { puttingRight, settingRule } from '../rule';

/** A load disconnect, as found, under the sheet's. */
export const loadDisconnectTooLow = settingRule((s) => {
  const least = s.band?.min;
  if (s.role !== 'loadDisconnect' || s.override || s.presentTrue === undefined || least === undefined || s.presentTrue >= least - 1e-9) return null;
  return { severity: 'attention', facts: { foundV: s.presentTrue, leastV: least }, remedies: s.within === 'inside' ? puttingRight(s) : [] };
});
