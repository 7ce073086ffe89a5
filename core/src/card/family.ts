import type { CardKind } from './card';

/** What a charger draws on. */
export type Drive = 'sun' | 'engine' | 'turbine' | 'mains';

const drives: Readonly<Partial<Record<CardKind, Drive>>> = {
  solarMppt: 'sun',
  solarPwm: 'sun',
  dcdc: 'engine',
  alternator: 'engine',
  turbine: 'turbine',
  inverterCharger: 'mains',
};

/** What a kind draws on; null for what charges nothing. */
export const driveOf = (kind: CardKind): Drive | null => drives[kind] ?? null;

/** The sky, or a machine that turns: chargers of one family on one job have the same. */
type Family = 'solar' | 'driven';

const families: Readonly<Partial<Record<Drive, Family>>> = { sun: 'solar', engine: 'driven' };

/** The family of a kind; null for what draws on something of its own. */
export function family(kind: CardKind): Family | null {
  const drive = driveOf(kind);
  return drive && (families[drive] ?? null);
}
