import { isUnknown, type Card, type CardUnknown } from './card';
import { carefulHabits } from './quick';

/** The parts of a card that each habit is in. */
export const cardParts: Readonly<Partial<Record<CardUnknown, (card: Card) => Partial<Card>>>> = {
  saveWay: ({ commit: { timeoutSeconds: _own, ...commit } }) => ({ commit }),
  saveTimeout: ({ commit: { timeoutSeconds } }) => ({ commit: { timeoutSeconds } }) as Partial<Card>,
  absorbStart: ({ absorb: { start } }) => ({ absorb: { start } }) as Partial<Card>,
  absorbCount: ({ absorb: { timerCounts } }) => ({ absorb: { timerCounts } }) as Partial<Card>,
  absorbEnd: ({ absorb: { end } }) => ({ absorb: { end } }) as Partial<Card>,
  absorbCurrent: ({ absorb: { currentSeen } }) => ({ absorb: { currentSeen } }) as Partial<Card>,
  rechargeRule: ({ recharge: { rule } }) => ({ recharge: { rule } }) as Partial<Card>,
  rechargeDaily: ({ recharge: { restartsDaily } }) => ({ recharge: { restartsDaily } }) as Partial<Card>,
  sensorKind: ({ sensor: { reads } }) => ({ sensor: { reads } }) as Partial<Card>,
  sensorUse: ({ sensor: { usedFor } }) => ({ sensor: { usedFor } }) as Partial<Card>,
  sensorLoss: ({ sensor: { withoutSensor } }) => ({ sensor: { withoutSensor } }) as Partial<Card>,
  displayAdjust: ({ display: { calibratable } }) => ({ display: { calibratable } }) as Partial<Card>,
  displayAccuracy: ({ regulationPercent, display: { stepV } }) => ({ regulationPercent, display: { stepV } }) as Partial<Card>,
  sense: ({ remoteSense }) => ({ remoteSense }),
  powerCut: ({ forgets }) => ({ forgets }),
  batteryLoss: ({ survivesBatteryLoss }) => ({ survivesBatteryLoss }),
  passcode: ({ defaultPasscode }) => ({ defaultPasscode }),
  input: ({ ratings: { arrayVoltsMax, arrayAmpsMax, inputVolts } }) => ({ ratings: { arrayVoltsMax, arrayAmpsMax, inputVolts } }) as Partial<Card>,
};
/** A card with parts of another laid over it, one level deep. */
export function laidOver(card: Card, over: Partial<Card>): Card {
  const entries = Object.entries(over).map(([key, value]) => {
    const own = card[key as keyof Card];
    const nested = typeof value === 'object' && value !== null && !Array.isArray(value) && typeof own === 'object';
    return [key, nested ? { ...(own as object), ...value } : value];
  });
  return { ...card, ...Object.fromEntries(entries) } as Card;
}

/** A card of which somebody says that a part is not known after all: the careful guess takes its place, and is said to be one. */
export function withUnknown(card: Card, what: CardUnknown): Card {
  const part = cardParts[what];
  if (!part || isUnknown(card, what)) return card;
  const { arrayVoltsMax: _volts, arrayAmpsMax: _amps, inputVolts: _input, ...ratings } = card.ratings;
  return { ...laidOver(card, part({ ...card, ...carefulHabits, ratings })), notKnown: [...(card.notKnown ?? []), what] };
}
