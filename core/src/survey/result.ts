import {
  cardSchema,
  foundOut,
  isUnknown,
  roleInfo,
  unitInfo,
  wideRange,
  type Card,
  type DeviceUnit,
  type DeviceValues,
  type NumberParameter,
  type Parameter,
  type Role,
} from '../card';
import { decimalsOf, tidy } from '../quantity';
import { withHabits } from './habits';
import { readShown, typedUnits } from './reading';
import type { Survey, SurveyItem } from './survey';

/** Words of a language that choices on displays use for on, off, and the setting that hides no figure. */
export type ChoiceTerms = Readonly<Record<'on' | 'off' | 'custom', RegExp>>;

/** What a card made from a survey says in a language. */
export interface SurveyTexts {
  readonly choiceTerms: ChoiceTerms;
  /** How a value is saved, with the key that does it where it is known. */
  readonly saves: {
    readonly key: (keep: string | undefined) => string;
    readonly long: (keep: string | undefined) => string;
    readonly end: string;
    readonly atOnce: string;
  };
  /** The keys run faster when they are held. */
  readonly faster: string;
}

/** The unit in which an item counts: said, typed behind its value, or the usual one of what it means. */
export function unitOf(item: SurveyItem): DeviceUnit | 'choice' | undefined {
  if (item.unit !== undefined) return item.unit;
  const shown = readShown(item.shown);
  const typed = shown.kind === 'number' ? shown.unit : undefined;
  if (item.role == null) return typed;
  const core = roleInfo[item.role].unit;
  if (core === 'choice') return 'choice';
  const fits = typedUnits(core, typed);
  return fits.length === 0 ? typed : typed === undefined && core === 's' ? 'min' : fits[0];
}

/** Greater numbers are no reading of a charger. */
const mostShown = 9e4;

/** Everything an item was seen to show as a number: at first, and after each change. */
function seenNumbers(survey: Survey, item: SurveyItem): readonly number[] {
  const texts = [item.shown, ...survey.changes.flatMap((c) => [c.shows[item.id] ?? '', c.item === item.id ? c.to : ''])];
  return texts.flatMap((text) => {
    const shown = readShown(text);
    return shown.kind === 'number' && Math.abs(shown.value) < mostShown ? [shown.value] : [];
  });
}

/** A number on the card; what contradicts itself or was seen passed is not known. */
function numberOf(survey: Survey, item: SurveyItem, role: Role, unit: DeviceUnit, before: Parameter | undefined): NumberParameter {
  const { ratings } = survey.card;
  const seen = seenNumbers(survey, item);
  const wide = wideRange(role, unit, { outputA: ratings.outputA, systemVolts: ratings.systemVolts, inputVolts: ratings.inputVolts?.max });
  const slope = roleInfo[role].unit === 'V/°C per cell';
  // A slope without its minus: the range that nobody knows lies on the other side of nought.
  const positive = slope && [...seen, item.least ?? 0, item.most ?? 0].some((value) => value > 0);
  const [lowest, high] = positive ? [0, -wide.min] : [wide.min, wide.max];
  // No display shows such a number.
  const real = (end: number | undefined): number | undefined => (end !== undefined && Math.abs(end) < mostShown ? end : undefined);
  const [lower, upper] = [real(item.least), real(item.most)];
  const crossed = lower !== undefined && upper !== undefined && lower >= upper;
  const least = crossed || seen.some((value) => lower !== undefined && value < lower - 1e-9) ? undefined : lower;
  const most = crossed || seen.some((value) => upper !== undefined && value > upper + 1e-9) ? undefined : upper;
  const step = item.step !== undefined && least !== undefined && most !== undefined && item.step > most - least + 1e-9 ? undefined : item.step;
  const fine = Math.min(wide.step, ...seen.map((value) => 10 ** -decimalsOf(value)));
  const by = step ?? fine;
  // The steps are counted from what is known to lie on them.
  const anchor = least ?? most ?? seen[0] ?? lowest;
  const low = anchor <= lowest ? anchor - (high - lowest) : lowest;
  const down = (to: number): number => tidy(anchor - Math.max(1, Math.floor((anchor - to) / by + 1e-9)) * by);
  const min = least ?? Math.min(down(low), ...seen);
  const max = most ?? Math.max(high, tidy(min + by), ...seen);
  const notKnown = [
    ...(least === undefined ? (['least'] as const) : []),
    ...(most === undefined ? (['most'] as const) : []),
    ...(step === undefined ? (['step'] as const) : []),
  ];
  const printed = item.factory === undefined ? undefined : readShown(item.factory);
  const factory = printed?.kind === 'number' && printed.value >= min - 1e-9 && printed.value <= max + 1e-9 ? printed.value : undefined;
  const { notKnown: _before, wraps: _wraps, factory: formerly, ...known } = before && before.unit !== 'choice' ? before : ({} as Partial<NumberParameter>);
  return {
    keys: [],
    access: 'basic',
    special: slope && min <= 0 && max >= 0 ? [{ value: 0, means: 'off' }] : [],
    per12V: false,
    ...known,
    role,
    label: item.label.trim() || roleInfo[role].name,
    menu: item.menu,
    unit,
    ...(positive ? { slopeSign: 'positive' as const } : {}),
    min,
    max,
    step: by,
    wraps: item.runsRound === true,
    ...inRange(factory ?? formerly, min, max),
    ...(notKnown.length > 0 ? { notKnown } : {}),
  };
}

/** A factory value, where the range has it. */
const inRange = (factory: number | undefined, min: number, max: number): { readonly factory?: number } =>
  factory !== undefined && factory >= min - 1e-9 && factory <= max + 1e-9 ? { factory } : {};

/** A choice on the card; null while fewer than two of what it can be are known. */
function choiceOf(survey: Survey, item: SurveyItem, role: Role, before: Parameter | undefined, terms: ChoiceTerms): Parameter | null {
  const seen = [item.shown, ...survey.changes.flatMap((c) => [c.shows[item.id] ?? '', c.item === item.id ? c.to : ''])].map((text) => text.trim());
  const values = [...new Set([...item.options.map((o) => o.trim()), ...seen, item.factory?.trim() ?? ''])].filter((text) => text !== '').slice(0, 20);
  if (values.length < 2) return null;
  const meant = before?.unit === 'choice' ? before.options : [];
  const meaning = (value: string): 'on' | 'off' | 'custom' | 'other' =>
    meant.find((o) => o.value === value)?.means ??
    (roleInfo[role].traits.includes('resetsOthers') ? [] : (['on', 'off'] as const)).concat().find((m) => terms[m].test(value)) ??
    (terms.custom.test(value) ? 'custom' : 'other');
  const printed = item.factory?.trim();
  const { factory, ...known } = before?.unit === 'choice' ? before : ({} as { factory?: string });
  return {
    keys: [],
    access: 'basic',
    ...known,
    role,
    label: item.label.trim() || roleInfo[role].name,
    menu: item.menu,
    unit: 'choice',
    options: values.map((value) => ({ value, means: meaning(value) })),
    ...(printed !== undefined && values.includes(printed) ? { factory: printed } : factory !== undefined && values.includes(factory) ? { factory } : {}),
  };
}

/** Items by what they mean: the first of two that are said to mean the same. */
function met(survey: Survey): ReadonlyMap<Role, SurveyItem> {
  const list = new Map<Role, SurveyItem>();
  for (const item of survey.items) if (item.role != null && !list.has(item.role)) list.set(item.role, item);
  return list;
}

/**
 * The card that a survey has come to: what was seen is on it, what was not is marked as not known, and whatever the survey does not come by stays as it was.
 * Always a card that can be worked with, however little was said and whatever in it contradicts itself.
 */
export function cardOfSurvey(survey: Survey, texts: SurveyTexts): Card {
  const { card } = survey;
  const parameters: Parameter[] = [];
  const others: NonNullable<Card['others']> = [];
  const items = met(survey);
  for (const item of survey.items) {
    const { role } = item;
    const unit = unitOf(item);
    const before = card.parameters.find((p) => p.role === role);
    const parameter =
      role == null || items.get(role) !== item || unit === undefined
        ? null
        : unit === 'choice' || roleInfo[role].unit === 'choice'
          ? choiceOf(survey, item, role, before, texts.choiceTerms)
          : unit === 'ratio' || unitInfo[unit].core === roleInfo[role].unit
            ? numberOf(survey, item, role, unit, before)
            : null;
    if (parameter) parameters.push(parameter);
    else if (item.label.trim() !== '')
      others.push({ label: item.label.trim(), menu: item.menu, ...(item.shown.trim() === '' ? {} : { shows: item.shown.trim() }) });
  }
  if (!survey.walked) parameters.push(...card.parameters.filter((p) => !items.has(p.role)));
  const has = (role: Role): boolean => parameters.some((p) => p.role === role);
  const numbers = new Set(parameters.flatMap((p) => (p.unit === 'choice' ? [] : [p.role])));
  const moved = withMoves(survey, parameters);
  const next: Card = withHabits(
    {
      ...card,
      parameters: moved.parameters.slice(0, 80),
      others,
      constraints: card.constraints.filter((c) => numbers.has(c.parameter) && numbers.has(c.other)),
      presets: [
        ...moved.presets,
        ...card.presets.filter((p) => !moved.presets.some((m) => m.name === p.name) && Object.keys(p.sets).every((r) => has(r as Role))),
      ].slice(0, 20),
      forgets: card.forgets.filter(has),
      ...(survey.way ? { setBy: survey.way } : {}),
      ...(survey.raise && survey.lower
        ? {
            entry: {
              ...(survey.runsFaster === true ? { held: texts.faster } : {}),
              ...card.entry,
              raise: survey.raise,
              lower: survey.lower,
              ...(survey.keep ? { keep: survey.keep } : {}),
            },
          }
        : {}),
      notKnown: [...(survey.walked ? foundOut(card.notKnown ?? [], 'settings') : (card.notKnown ?? []))],
    },
    survey,
  );
  const how = howItSaves(survey, texts);
  if (how !== null && isUnknown(card, 'saveWay')) next.commit = { ...next.commit, how };
  const whole = cardSchema.safeParse(tidied(next));
  if (whole.success) return whole.data;
  // Rules and presets of the former card that what was seen contradicts go first; they can be seen again.
  return cardSchema.parse(tidied({ ...next, constraints: [], presets: [] }));
}

/** How it saves, by the answer; null while nobody has answered. */
function howItSaves({ habits, keep }: Survey, { saves }: SurveyTexts): string | null {
  switch (habits['save']) {
    case 'atOnce':
      return saves.atOnce;
    case 'key':
      return saves.key(keep);
    case 'long':
      return saves.long(keep);
    case 'end':
      return saves.end;
    default:
      return null;
  }
}

const tidied = (card: Card): Card => {
  const { others, notKnown, ...rest } = card;
  return { ...rest, ...(others && others.length > 0 ? { others } : {}), ...(notKnown && notKnown.length > 0 ? { notKnown } : {}) };
};

/** What the changes made on the device say: with a choice it is a preset, with a number a value that follows. */
function withMoves(survey: Survey, parameters: readonly Parameter[]): { readonly parameters: readonly Parameter[]; readonly presets: Card['presets'] } {
  const presets: Card['presets'] = [];
  let list = [...parameters];
  for (const change of survey.changes) {
    const leader = survey.items.find((item) => item.id === change.item);
    const by = leader?.role ?? undefined;
    const moves = movedBy(survey, change.item, change.shows);
    const sets = Object.fromEntries(
      moves.flatMap(({ item, to }) => {
        const parameter = item.role == null ? undefined : list.find((p) => p.role === item.role);
        const value = parameter === undefined ? undefined : valueOn(parameter, to);
        return parameter && value !== undefined ? [[parameter.role, value]] : [];
      }),
    ) as DeviceValues;
    if (Object.keys(sets).length === 0) continue;
    if (leader && unitOf(leader) === 'choice') presets.push({ name: change.to.slice(0, 60), sets });
    else if (by) list = list.map((p) => (p.role !== by && p.role in sets ? { ...p, movesWith: by } : p));
  }
  return { parameters: list, presets };
}

/** A text as a value of a parameter; undefined where it is none. */
function valueOn(parameter: Parameter, text: string): number | string | undefined {
  if (parameter.unit === 'choice') return parameter.options.find((o) => o.value === text.trim())?.value;
  const shown = readShown(text);
  return shown.kind === 'number' ? shown.value : undefined;
}

/** Items, besides the one that was changed, that show something else than before. What was not read again counts as unchanged, since nobody has seen it move. */
export function movedBy(
  survey: Survey,
  changed: string,
  shows: Readonly<Record<string, string>>,
): readonly { readonly item: SurveyItem; readonly from: string; readonly to: string }[] {
  return survey.items.flatMap((item) => {
    const to = (shows[item.id] ?? '').trim();
    const from = item.shown.trim();
    const [a, b] = [readShown(from), readShown(to)];
    const same = to === from || (a.kind === 'number' && b.kind === 'number' && Math.abs(a.value - b.value) < 1e-9);
    return item.id === changed || to === '' || from === '' || same ? [] : [{ item, from, to }];
  });
}

/** What was read on the device, by role, as its display shows it: the values as found. */
export function foundOnDevice(survey: Survey, card: Card): DeviceValues {
  return Object.fromEntries(
    [...met(survey)].flatMap(([role, item]) => {
      const parameter = card.parameters.find((p) => p.role === role);
      const value = parameter && item.shown.trim() !== '' ? valueOn(parameter, item.shown) : undefined;
      return value === undefined ? [] : [[role, value]];
    }),
  );
}
