import { roleInfo, unitInfo, type Role } from '../card';
import { tidy } from '../quantity';
import { readShown } from './reading';
import type { Survey, SurveyItem } from './survey';

/** What does not fit together in what was noted of an item. A yes changes the item as `yes` says; without one there is nothing to take over. */
export type Ask = { readonly yes?: Partial<SurveyItem> } & (
  | { readonly code: 'ranRound'; readonly at: number; readonly shown: number }
  | { readonly code: 'endsCrossed'; readonly least: number; readonly most: number }
  | { readonly code: 'outsideEnds'; readonly shown: number; readonly end: 'least' | 'most'; readonly at: number }
  | { readonly code: 'stepUneven'; readonly step: number; readonly least: number; readonly most: number }
  | { readonly code: 'stepTooWide'; readonly step: number; readonly room: number }
  | { readonly code: 'labelTwice'; readonly label: string; readonly place: number }
  | { readonly code: 'roleTwice'; readonly role: Role; readonly place: number }
  | { readonly code: 'pointMissing'; readonly shown: number; readonly rather: number }
  | { readonly code: 'unitOther'; readonly role: Role }
  | { readonly code: 'oneOption' }
);

/** Ends between which a 12 V system can show anything in volts. */
const bankVolts = [5, 22] as const;

/** Whether a number is a whole count of steps, as far as decimals can tell. */
const isWhole = (count: number): boolean => Math.abs(count - Math.round(count)) < 1e-6;

/**
 * What a person should look at again, the plainest first. Nothing is refused: whatever was typed stays, and what contradicts itself counts as not known until
 * it is mended.
 */
export function asksOf(survey: Survey, id: string): readonly Ask[] {
  const at = survey.items.findIndex((item) => item.id === id);
  const item = survey.items[at];
  if (!item) return [];
  const asks: Ask[] = [];
  const place = (fits: (other: SurveyItem) => boolean): number => survey.items.findIndex((other, i) => i !== at && fits(other)) + 1;

  const twice = item.label.trim() === '' ? 0 : place((o) => o.label.trim() === item.label.trim() && o.menu.join() === item.menu.join());
  if (twice > 0) asks.push({ code: 'labelTwice', label: item.label.trim(), place: twice });
  const { role } = item;
  const same = role == null ? 0 : place((o) => o.role === role);
  if (role != null && same > 0) asks.push({ code: 'roleTwice', role, place: same });

  if (item.unit === 'choice') {
    const known = new Set([item.shown, ...item.options].map((text) => text.trim()).filter((text) => text !== ''));
    if (known.size === 1) asks.push({ code: 'oneOption' });
    return asks;
  }
  const core = role == null ? undefined : roleInfo[role].unit;
  if (role != null && item.unit !== undefined && core !== 'choice' && item.unit !== 'ratio' && unitInfo[item.unit].core !== core)
    asks.push({ code: 'unitOther', role });

  const { least, most, step, runsRound } = item;
  const shown = readShown(item.shown);
  if (shown.kind === 'number') {
    const { value } = shown;
    const volts = Math.max(...survey.card.ratings.systemVolts) / 12;
    // 144 for 14.4: a display without a point, or a point that was not typed.
    if (
      item.unit === 'V' &&
      value > bankVolts[1] * volts &&
      value / 10 >= bankVolts[0] &&
      value / 10 <= bankVolts[1] * volts &&
      core === 'V' &&
      !role?.startsWith('input')
    )
      asks.push({ code: 'pointMissing', shown: value, rather: tidy(value / 10), yes: { shown: String(tidy(value / 10)) } });
    else if (most !== undefined && most < value - 1e-9 && runsRound !== true)
      asks.push({ code: 'ranRound', at: most, shown: value, yes: { runsRound: true, most: undefined, ...(least === undefined ? { least: most } : {}) } });
    else if (least !== undefined && least > value + 1e-9 && runsRound !== true)
      asks.push({ code: 'ranRound', at: least, shown: value, yes: { runsRound: true, least: undefined, ...(most === undefined ? { most: least } : {}) } });
    else if (most !== undefined && most < value - 1e-9) asks.push({ code: 'outsideEnds', shown: value, end: 'most', at: most, yes: { most: undefined } });
    else if (least !== undefined && least > value + 1e-9) asks.push({ code: 'outsideEnds', shown: value, end: 'least', at: least, yes: { least: undefined } });
  }
  if (least !== undefined && most !== undefined) {
    if (least >= most && asks.every((ask) => ask.code !== 'ranRound')) asks.push({ code: 'endsCrossed', least, most, yes: { least: most, most: least } });
    else if (least < most && step !== undefined && step > most - least + 1e-9)
      asks.push({ code: 'stepTooWide', step, room: tidy(most - least), yes: { step: undefined } });
    else if (least < most && step !== undefined && !isWhole((most - least) / step))
      asks.push({ code: 'stepUneven', step, least, most, yes: { step: undefined } });
  }
  return asks;
}
