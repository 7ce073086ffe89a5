import * as z from 'zod';
import { cardSchema, deviceUnits, roleSchema, settingWays } from '../card';
import { between, identifier, shortText } from '../sheet';

/** Most settings a device may list. */
export const mostItems = 300;
const number = between(-1e5, 1e5);

const itemSchema = z.object({
  id: identifier,
  /** What the display calls it. */
  label: shortText(60),
  menu: z.array(shortText(60)).max(8).default([]),
  /** What it shows now, as it shows it; empty where that was not read. */
  shown: shortText(40).default(''),
  /** What a manual prints as its factory value. */
  factory: shortText(40).optional(),
  /** `choice`: it shows a word. */
  unit: z.enum([...deviceUnits, 'choice']).optional(),
  /** What it means; null where the person does not know, missing where nobody has said. */
  role: roleSchema.nullable().optional(),
  /** Where it stops, and what one press changes. */
  least: number.optional(),
  most: number.optional(),
  step: z.number().positive().max(1000).optional(),
  /** Stepping past one end jumps to the other. */
  runsRound: z.boolean().optional(),
  /** Everything a choice can be, in the order in which the device runs through it. */
  options: z.array(shortText(40)).max(20).default([]),
  /** The person has gone on from it; false where it was passed by. */
  looked: z.boolean().default(false),
});
/** One setting as it is met on the device. */
export type SurveyItem = z.infer<typeof itemSchema>;

const readingsSchema = z.record(identifier, shortText(40));

const changeSchema = z.object({
  /** The item that was changed, and what it was changed to. */
  item: identifier,
  to: shortText(40),
  /** What the others show after it, by item. */
  shows: readingsSchema,
});
/** One change on the device, and the list read again after it. */
export type SurveyChange = z.infer<typeof changeSchema>;

/** Where a survey is, to be gone on with. */
export const surveyParts = ['plate', 'way', 'walk', 'habits', 'changes', 'result'] as const;
export type SurveyPart = (typeof surveyParts)[number];

/** A charger looked over item by item, from its plate to what it does by itself. Left and taken up again at any point. */
export const surveySchema = z.object({
  format: z.literal('calm-keel/survey'),
  version: z.literal(1),
  id: identifier,
  /** What was known before: whatever the survey does not come by stays as it is here. */
  card: cardSchema,
  /** The device of a job it is made on: what is read there is as found. */
  on: z.object({ job: identifier, device: identifier }).optional(),
  by: shortText(20).default(''),
  startedOn: z.iso.date(),
  from: z.enum(['device', 'document']).default('device'),
  document: shortText(120).optional(),
  way: z.enum(settingWays).optional(),
  raise: shortText(30).optional(),
  lower: shortText(30).optional(),
  keep: shortText(40).optional(),
  /** It runs faster when a key is held. */
  runsFaster: z.boolean().optional(),
  items: z.array(itemSchema).max(mostItems).default([]),
  /** The whole list was walked: what is not in it the device does not have. */
  walked: z.boolean().default(false),
  /** Answers by question. */
  habits: z.record(z.string().max(30), z.string().max(30)).default({}),
  /** An edit left alone is thrown away after so many seconds. */
  timeoutS: between(1, 3600).optional(),
  /** Seconds at its voltage before absorb begins. */
  holdS: between(1, 3600).optional(),
  /** Items whose value a power cut takes. */
  forgets: z.array(identifier).max(mostItems).default([]),
  changes: z.array(changeSchema).max(40).default([]),
  /** Where the person is. */
  at: z.object({ part: z.enum(surveyParts), item: identifier.optional(), question: z.string().max(30).optional() }).default({ part: 'plate' }),
});
export type Survey = z.infer<typeof surveySchema>;

/** An id that no item has. */
export function freeItem(survey: Survey): string {
  let n = survey.items.length + 1;
  while (survey.items.some((item) => item.id === `i${n}`)) n++;
  return `i${n}`;
}

/** A survey with one more item behind another, or at the end; as it was where the list is full. */
export function withItem(survey: Survey, item: SurveyItem, after?: string): Survey {
  if (survey.items.length >= mostItems) return survey;
  const at = after === undefined ? survey.items.length : survey.items.findIndex((i) => i.id === after) + 1;
  return { ...survey, items: [...survey.items.slice(0, at), item, ...survey.items.slice(at)] };
}

/** A survey with an item changed. */
export const onItem = (survey: Survey, id: string, change: Partial<SurveyItem>): Survey => ({
  ...survey,
  items: survey.items.map((item) => (item.id === id ? { ...item, ...change } : item)),
});

/** A survey without an item, and without what was noted of it. */
export const withoutItem = (survey: Survey, id: string): Survey => ({
  ...survey,
  items: survey.items.filter((item) => item.id !== id),
  forgets: survey.forgets.filter((f) => f !== id),
  changes: survey.changes
    .filter((c) => c.item !== id)
    .map((c) => ({ ...c, shows: Object.fromEntries(Object.entries(c.shows).filter(([item]) => item !== id)) })),
});

/** A survey with an item one place up (−1) or down (+1) in the order of the device. */
export function withItemMoved(survey: Survey, id: string, by: -1 | 1): Survey {
  const from = survey.items.findIndex((item) => item.id === id);
  const to = from + by;
  const [one, other] = [survey.items[from], survey.items[to]];
  if (!one || !other) return survey;
  return { ...survey, items: survey.items.map((item, i) => (i === from ? other : i === to ? one : item)) };
}
