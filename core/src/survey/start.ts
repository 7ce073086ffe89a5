import { isKnown, isUnknown, type Card } from '../card';
import { habitsOf } from './habits';
import { surveySchema, type Survey } from './survey';

/**
 * Begins a survey of a device. What the card already has from an earlier look is walked again with its values filled in; settings that it only usually has
 * are not: they are met on the device or not at all.
 *
 * @param date today, year-month-day
 */
export function startSurvey(card: Card, date: string, own: Pick<Survey, 'on'> = {}): Survey {
  const met = card.parameters.filter((p) => p.unit === 'choice' || (p.notKnown ?? []).length === 0 || !isUnknown(card, 'settings'));
  const survey = surveySchema.parse({
    format: 'calm-keel/survey',
    version: 1,
    id: card.id,
    card,
    ...own,
    startedOn: date,
    way: card.setBy,
    raise: card.entry?.raise,
    lower: card.entry?.lower,
    keep: card.entry?.keep,
    timeoutS: card.commit.timeoutSeconds,
    ...(card.absorb.start.kind === 'held' ? { holdS: card.absorb.start.seconds } : {}),
    forgets: met.flatMap((p, i) => (card.forgets.includes(p.role) ? [`i${i + 1}`] : [])),
    walked: met.length > 0 && !isUnknown(card, 'settings'),
    items: [
      ...met.map((p, i) => ({
        id: `i${i + 1}`,
        label: p.label,
        menu: p.menu,
        unit: p.unit,
        role: p.role,
        looked: true,
        ...(p.factory === undefined ? {} : { factory: String(p.factory) }),
        ...(p.unit === 'choice'
          ? { options: p.options.map((o) => o.value) }
          : {
              ...(isKnown(p, 'least') ? { least: p.min } : {}),
              ...(isKnown(p, 'most') ? { most: p.max } : {}),
              ...(isKnown(p, 'step') ? { step: p.step } : {}),
              ...(p.wraps ? { runsRound: true } : {}),
            }),
      })),
      ...(card.others ?? []).map((other, i) => ({
        id: `i${met.length + i + 1}`,
        label: other.label,
        menu: other.menu,
        shown: other.shows ?? '',
        role: null,
        looked: true,
      })),
    ],
  });
  return { ...survey, habits: habitsOf(card, survey) };
}
