import { cardSchema, isKnown, parameterFor, type Card, type Role } from '../card';
import { asksOf, type Ask } from './asks';
import { cardOfSurvey, type SurveyTexts } from './result';
import { startSurvey } from './start';
import { freeItem, onItem, withItem, type Survey, type SurveyItem } from './survey';

/** What somebody has seen of one setting while setting it: what its display calls it, its ends, one press. */
export type Seen = Partial<Pick<SurveyItem, 'label' | 'least' | 'most' | 'step'>>;

/** A survey of one setting and nothing else: what the card knows of it, and what was seen. */
function oneItem(card: Card, role: Role, seen: Seen, shown: string, date: string): { readonly survey: Survey; readonly id: string } | null {
  const p = parameterFor(card, role);
  if (!p || p.unit === 'choice') return null;
  const survey = startSurvey(card, date);
  const known = survey.items.find((item) => item.role === role);
  const id = known?.id ?? freeItem(survey);
  const before = {
    ...(isKnown(p, 'least') ? { least: p.min } : {}),
    ...(isKnown(p, 'most') ? { most: p.max } : {}),
    ...(isKnown(p, 'step') ? { step: p.step } : {}),
  };
  const item: SurveyItem = known ?? { id, label: p.label, menu: p.menu, shown: '', options: [], looked: true, unit: p.unit, role, ...before };
  return { survey: onItem(known ? survey : withItem(survey, item), id, { ...seen, ...(shown === '' ? {} : { shown }) }), id };
}

/**
 * What does not fit together in what was seen, to be asked before it goes on the card.
 *
 * @param shown what the display shows now, as it shows it; empty where nobody has said
 */
export function seenAsks(card: Card, role: Role, seen: Seen, shown = ''): readonly Ask[] {
  const one = oneItem(card, role, seen, shown, '2000-01-01');
  return one ? asksOf(one.survey, one.id) : [];
}

/**
 * A card that has learnt of one setting what was seen of it at the device; everything else of it stays, and so does the order of its menu.
 *
 * @param at who saw it, and the date, year-month-day
 * @returns the same card where nothing was seen, or the setting holds no number
 * @example cardSeen(quick, 'floatVoltage', { step: 0.5 }, { by: 'KM', on: '2026-06-09' }, texts) // float counts in halves from now on
 */
export function cardSeen(card: Card, role: Role, seen: Seen, at: { readonly by: string; readonly on: string }, texts: SurveyTexts, shown = ''): Card {
  const one = Object.values(seen).some((value) => value !== undefined && value !== '') ? oneItem(card, role, seen, shown, at.on) : null;
  const learnt = one && parameterFor(cardOfSurvey(one.survey, texts), role);
  if (!learnt) return card;
  const entry = { by: at.by, on: at.on, from: 'device' as const };
  const before = (card.surveyed ?? []).filter((s) => s.by !== entry.by || s.on !== entry.on || s.from !== 'device');
  const next = { ...card, parameters: card.parameters.map((p) => (p.role === role ? { ...learnt, said: entry } : p)), surveyed: [...before, entry].slice(-40) };
  const read = cardSchema.safeParse(next);
  // Rules of the card that the new ends contradict go; they can be seen again.
  return read.success ? read.data : cardSchema.parse({ ...next, constraints: [], presets: [] });
}
