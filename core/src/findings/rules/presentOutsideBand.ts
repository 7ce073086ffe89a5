import { hasTrait } from '../../card';
import { outsideBy } from '../../quantity';
import { presentWithin } from '../../settings';
import { puttingRight, settingRule } from '../rule';

/** A voltage found on the device that lies outside the maker's band. */
export const presentOutsideBand = settingRule((s) => {
  if (!hasTrait(s.role, 'bandAsFound') || s.inherited || presentWithin(s) !== false || s.presentTrue === undefined || s.band === null) return null;
  const by = outsideBy(s.band, s.presentTrue);
  // Recharge charges nothing by itself: too high a one only begins a charge sooner.
  const harms = by > 0 && hasTrait(s.role, 'chargingSetpoint');
  return {
    severity: harms ? 'stop' : 'attention',
    facts: { role: s.role, foundV: s.presentTrue, by, min: s.band.min ?? null, max: s.band.max ?? null, harms },
    remedies: puttingRight(s),
  };
});
