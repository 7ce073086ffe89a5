import { arrayRule } from '../arrays';

/** Coefficients of the open-circuit voltage that crystalline silicon and its kin have, % per °C. */
const usual = { most: -0.2, least: -0.5 };

/** A coefficient that no panel has: most often a slip of the decimal point. */
export const panelCoefficient = arrayRule(({ array }) => {
  const percent = array.panel.vocPercentPerC;
  if (percent === undefined || (percent >= usual.least - 1e-9 && percent <= usual.most + 1e-9)) return null;
  const likelier = [percent * 10, percent / 10].find((p) => p >= usual.least && p <= usual.most) ?? null;
  return { severity: 'attention', facts: { percent, likelier, ...usual } };
});
