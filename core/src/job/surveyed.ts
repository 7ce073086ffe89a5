import { saidAnew, type Card, type Parameter, type Said } from '../card';
import { cardOfSurvey, foundOnDevice, type Survey, type SurveyTexts } from '../survey';
import { onPresent } from './devices';
import type { Job } from './job';

/** The card of a survey with who made it, when and from what. */
export function surveyedCard(survey: Survey, texts: SurveyTexts, date: string): Card {
  const card = cardOfSurvey(survey, texts);
  const { by, from, document } = survey;
  const entry = { by, on: date, from, ...(document === undefined ? {} : { document }) };
  const before = (card.surveyed ?? []).filter((s) => s.on !== date || s.by !== by || s.from !== from || s.document !== document);
  // What the display was seen to show was looked up on the device, whatever paper lay beside it.
  const seen = new Set(survey.items.flatMap((item) => (item.role != null && item.shown.trim() !== '' ? [item.role] : [])));
  const said = ({ role }: Parameter): Said => (seen.has(role) ? { by, on: date, from: 'device' } : entry);
  return { ...card, parameters: saidAnew(survey.card.parameters, card.parameters, said), surveyed: [...before, entry].slice(-40) };
}

/**
 * The job with what a survey has come to: every device of that card has it, and what was read on the way is as found on the device it was read on. An
 * override of a setting that the device turned out not to have goes.
 *
 * @param date of today, year-month-day
 */
export function withSurvey(job: Job, survey: Survey, texts: SurveyTexts, date: string): Job {
  const card = surveyedCard(survey, texts, date);
  if (!job.cards.some((c) => c.id === card.id)) return job;
  const devices = [...job.system.chargers, ...job.system.companions].filter((d) => d.card === card.id).map((d) => d.id);
  const next: Job = {
    ...job,
    cards: job.cards.map((c) => (c.id === card.id ? card : c)),
    overrides: job.overrides.filter((o) => !devices.includes(o.charger) || card.parameters.some((p) => p.role === o.role)),
  };
  const read = survey.on?.job === job.id ? survey.on.device : null;
  return read === null ? next : onPresent(next, read, (present) => ({ ...present, ...foundOnDevice(survey, card) }));
}
