import type { CardKind } from './card';

/** What a charger draws on: the sky, or a machine that turns. Chargers of one family on one job have the same. */
type Family = 'solar' | 'driven';

const families: Readonly<Partial<Record<CardKind, Family>>> = { solarMppt: 'solar', solarPwm: 'solar', alternator: 'driven', dcdc: 'driven' };

/** The family of a kind; null for what draws on something of its own. */
export const family = (kind: CardKind): Family | null => families[kind] ?? null;
