import { foundOut, isSource, isUnknown, withUnknown, type Card, type CardUnknown } from '../card';
import { isRecord } from '../quantity';
import type { Survey, SurveyItem } from './survey';

type Patch = Partial<Card>;

/** What an answer may need besides: seconds that were counted, and the settings that a power cut takes. */
type Tried = Pick<Survey, 'timeoutS' | 'holdS' | 'forgets'> & { readonly items: readonly Pick<SurveyItem, 'id' | 'role'>[] };

/** One thing a device does by itself, to be found out by trying. */
interface Habit {
  /** Cards it is of interest for; all where nothing is said. */
  readonly on?: (card: Card) => boolean;
  /** What each answer makes of the card, and what is known then. Null where something is still missing for it, such as a number of seconds. */
  readonly answers: Readonly<Record<string, (card: Card, tried: Tried) => { readonly patch: Patch; readonly finds: readonly CardUnknown[] } | null>>;
}

const found =
  (finds: CardUnknown | readonly CardUnknown[], patch: (card: Card) => Patch): Habit['answers'][string] =>
  (card) => ({
    patch: patch(card),
    finds: typeof finds === 'string' ? [finds] : finds,
  });
const charges = (card: Card): boolean => isSource(card.kind);
const absorb =
  (change: Partial<Card['absorb']>): ((card: Card) => Patch) =>
  (card) => ({ absorb: { ...card.absorb, ...change } });
const sensor =
  (change: Partial<Card['sensor']>): ((card: Card) => Patch) =>
  (card) => ({ sensor: { ...card.sensor, ...change } });
const recharge =
  (change: Partial<Card['recharge']>): ((card: Card) => Patch) =>
  (card) => ({ recharge: { ...card.recharge, ...change } });
const saved = (kind: Card['commit']['kind']): Habit['answers'][string] => found('saveWay', (card) => ({ commit: { ...card.commit, kind } }));
const ended = (end: Card['absorb']['end']): Habit['answers'][string] => found('absorbEnd', absorb({ end }));
const needsCurrent = ({ absorb: { end } }: Card): boolean => end === 'taper' || end === 'whicheverFirst' || end === 'both';

const record = {
  /** What keeps an edit. */
  save: { answers: { atOnce: saved('auto'), key: saved('keyPress'), long: saved('longPress'), end: saved('endOfList') } },
  /** Whether an edit left alone is thrown away. */
  timeout: {
    answers: {
      stays: found('saveTimeout', (card) => ({ commit: { ...card.commit, timeoutSeconds: undefined } })),
      goes: (card, { timeoutS }) =>
        timeoutS === undefined ? null : { patch: { commit: { ...card.commit, timeoutSeconds: timeoutS } }, finds: ['saveTimeout'] },
    },
  },
  absorbStart: {
    on: charges,
    answers: {
      touch: found('absorbStart', absorb({ start: { kind: 'touch' } })),
      held: (card, { holdS }) => (holdS === undefined ? null : { patch: absorb({ start: { kind: 'held', seconds: holdS } })(card), finds: ['absorbStart'] }),
    },
  },
  absorbCount: {
    on: charges,
    answers: { atVoltage: found('absorbCount', absorb({ timerCounts: 'atVoltage' })), clock: found('absorbCount', absorb({ timerCounts: 'wallClock' })) },
  },
  absorbEnd: {
    on: charges,
    answers: {
      time: ended('time'),
      current: ended('taper'),
      first: ended('whicheverFirst'),
      both: ended('both'),
      itself: ended('adaptive'),
      charge: ended('stateOfCharge'),
      never: ended('none'),
    },
  },
  /** Whose current ends absorb. */
  absorbCurrent: {
    on: (card) => charges(card) && needsCurrent(card),
    answers: { own: found('absorbCurrent', absorb({ currentSeen: 'ownOutput' })), bank: found('absorbCurrent', absorb({ currentSeen: 'bank' })) },
  },
  rechargeRule: {
    on: charges,
    answers: {
      voltage: found('rechargeRule', recharge({ rule: 'voltage' })),
      belowFloat: found('rechargeRule', recharge({ rule: 'belowFloat' })),
      days: found('rechargeRule', recharge({ rule: 'days' })),
      never: found('rechargeRule', recharge({ rule: 'none' })),
    },
  },
  rechargeDaily: {
    on: charges,
    answers: { yes: found('rechargeDaily', recharge({ restartsDaily: true })), no: found('rechargeDaily', recharge({ restartsDaily: false })) },
  },
  sensorKind: {
    on: charges,
    answers: {
      // Without one there is nothing to ask about it.
      none: found('sensor', sensor({ reads: 'none', usedFor: [] })),
      ownCase: found('sensorKind', sensor({ reads: 'ownCase' })),
      wired: found('sensorKind', sensor({ reads: 'wired' })),
      network: found('sensorKind', sensor({ reads: 'network' })),
    },
  },
  sensorUse: {
    on: (card) => charges(card) && card.sensor.reads !== 'none',
    answers: {
      slope: found('sensorUse', sensor({ usedFor: ['compensation'] })),
      cutoff: found('sensorUse', sensor({ usedFor: ['cutoff'] })),
      both: found('sensorUse', sensor({ usedFor: ['compensation', 'cutoff'] })),
      shown: found('sensorUse', sensor({ usedFor: [] })),
    },
  },
  sensorLoss: {
    on: (card) => charges(card) && card.sensor.reads !== 'none',
    answers: {
      ignores: found('sensorLoss', sensor({ withoutSensor: 'ignoresCutoff' })),
      stops: found('sensorLoss', sensor({ withoutSensor: 'stopsCharging' })),
      assumes: found('sensorLoss', sensor({ withoutSensor: 'assumes25C' })),
    },
  },
  displayAdjust: {
    answers: {
      yes: found('displayAdjust', (card) => ({ display: { ...card.display, calibratable: true } })),
      no: found('displayAdjust', (card) => ({ display: { ...card.display, calibratable: false } })),
    },
  },
  sense: { on: charges, answers: { yes: found('sense', () => ({ remoteSense: true })), no: found('sense', () => ({ remoteSense: false })) } },
  powerCut: {
    answers: {
      nothing: found('powerCut', () => ({ forgets: [] })),
      some: (_card, { forgets, items }) => {
        const roles = items.flatMap((item) => (item.role != null && forgets.includes(item.id) ? [item.role] : []));
        return roles.length === 0 ? null : { patch: { forgets: roles.slice(0, 20) }, finds: ['powerCut'] };
      },
    },
  },
  batteryLoss: {
    on: charges,
    answers: { yes: found('batteryLoss', () => ({ survivesBatteryLoss: true })), no: found('batteryLoss', () => ({ survivesBatteryLoss: false })) },
  },
  passcode: { answers: { none: found('passcode', () => ({ defaultPasscode: false })), factory: found('passcode', () => ({ defaultPasscode: true })) } },
  bench: {
    answers: {
      yes: found([], (card) => ({ programming: { ...card.programming, bench: true } })),
      no: found([], (card) => ({ programming: { ...card.programming, bench: false } })),
    },
  },
} satisfies Readonly<Record<string, Habit>>;

/** A question about what a device does by itself. */
export type HabitId = keyof typeof record;
/** The answers a question has. */
export type HabitAnswer<H extends HabitId> = keyof (typeof record)[H]['answers'] & string;

const habits: Readonly<Record<HabitId, Habit>> = record;
const ids = Object.keys(record) as HabitId[];

/** Questions for a device, in the order in which they are asked; some follow from what was answered before. */
export const habitsFor = (card: Card): readonly HabitId[] => ids.filter((id) => habits[id].on?.(card) ?? true);

/** Answers of a question, in order. */
export const answersOf = (id: HabitId): readonly string[] => Object.keys(habits[id].answers);

/** A card as somebody would have tried it: what it says itself. */
function triedOn({ commit, absorb: { start }, forgets, parameters }: Card): Tried {
  return {
    ...(commit.timeoutSeconds === undefined ? {} : { timeoutS: commit.timeoutSeconds }),
    ...(start.kind === 'held' ? { holdS: start.seconds } : {}),
    forgets: [...forgets],
    items: parameters.map(({ role }) => ({ id: role, role })),
  };
}

/** The answers that a card already has: those that would change nothing of it, and whose part of it is known. */
export function habitsOf(card: Card, survey: Tried = triedOn(card)): Survey['habits'] {
  const text = (value: Card): string => JSON.stringify(value, (_, part: unknown) => (isRecord(part) ? Object.fromEntries(Object.entries(part).sort()) : part));
  return Object.fromEntries(
    habitsFor(card).flatMap((id) => {
      // Whether it can be set on a bench is no unknown of a card: it says so or is silent.
      if (id === 'bench' && card.programming.bench === undefined) return [];
      const answer = answersOf(id).find((a) => {
        const effect = habits[id].answers[a]?.(card, survey) ?? null;
        return effect !== null && effect.finds.every((what) => !isUnknown(card, what)) && text({ ...card, ...effect.patch }) === text(card);
      });
      return answer === undefined ? [] : [[id, answer]];
    }),
  );
}

/** What the answers make of a card. An answer that lacks its number, and one that is none, change nothing. */
export function withHabits(card: Card, survey: Tried & Pick<Survey, 'habits'>): Card {
  return ids.reduce((now, id) => {
    if (habits[id].on?.(now) === false) return now;
    const answer = survey.habits[id];
    const effect = answer === undefined ? null : (habits[id].answers[answer]?.(now, survey) ?? null);
    return effect === null ? now : { ...now, ...effect.patch, notKnown: [...effect.finds.reduce<readonly CardUnknown[]>(foundOut, now.notKnown ?? [])] };
  }, card);
}

/** What of a card a question finds out; null of one whose answer a card may simply lack. */
export const habitFinds = (id: HabitId): CardUnknown | null => (id === 'bench' ? null : id === 'save' ? 'saveWay' : id === 'timeout' ? 'saveTimeout' : id);

/** The question that finds something out; undefined where none does. */
export const habitThatFinds = (what: CardUnknown): HabitId | undefined => ids.find((id) => habitFinds(id) === what);

/**
 * A card on which one question is answered anew.
 *
 * @param answer null: it is not known after all, and the careful guess is counted with
 * @param tried seconds that were counted; the settings, by role, that a power cut takes
 * @returns the same card while the answer lacks what it needs
 */
export function withAnswer(card: Card, id: HabitId, answer: string | null, tried: Partial<Pick<Tried, 'timeoutS' | 'holdS' | 'forgets'>> = {}): Card {
  if (answer !== null) return withHabits(card, { ...triedOn(card), ...tried, habits: { [id]: answer } });
  const what = habitFinds(id);
  if (what !== null) return withUnknown(card, what);
  const { bench: _before, ...programming } = card.programming;
  return { ...card, programming };
}
