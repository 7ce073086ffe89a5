import { displayText, roleInfo, unknownWords, type Card, type CardDifference, type Role, type Said } from '@calm-keel/core/card';
import { capital } from '@calm-keel/core/quantity';
import { habitsOf, habitThatFinds } from '@calm-keel/core/survey';
import { surveyEnglish } from '@calm-keel/core/words';

const ends = { least: 'lower end', most: 'upper end', step: 'one press' } as const;

/** Firmware and menus a card is of: "menus a, firmware 3.1"; nothing of what it does not say. */
export const revisionWords = ({ describes: { menuRevision, firmware } }: Card): string =>
  [menuRevision && `menus ${menuRevision}`, firmware && `firmware ${firmware}`].filter(Boolean).join(', ');

/** Who looked a card up last, when and from what: "looked up by KM on 2026-06-09, on the device"; null where nobody says. */
export function lookedUp({ surveyed }: Card): string | null {
  const last = surveyed?.at(-1);
  return last ? saidWords(last) : null;
}

/** Who looked something up, when and where. */
export const saidWords = ({ by, on, from, document }: Said): string =>
  `looked up by ${by || 'somebody'} on ${on}, ${from === 'device' ? 'on the device' : `in ${document ?? 'a document'}`}`;

/** The same behind one of two values that differ; empty where nobody says. */
const behind = (card: Card, role: Role): string => {
  const said = card.parameters.find((p) => p.role === role)?.said;
  return said ? `, ${saidWords(said)}` : '';
};

/** What two cards of one device say differently, in words. */
export function differenceWords(
  mine: Card,
  theirs: Card,
  difference: CardDifference,
): { readonly what: string; readonly mine: string; readonly theirs: string } {
  switch (difference.kind) {
    case 'number': {
      const parameter = mine.parameters.find((p) => p.role === difference.role);
      const text = (value: number): string => (parameter ? displayText(parameter, value) : String(value));
      return {
        what: `${capital(roleInfo[difference.role].name)}, ${ends[difference.what]}`,
        mine: text(difference.mine) + behind(mine, difference.role),
        theirs: text(difference.theirs) + behind(theirs, difference.role),
      };
    }
    case 'setting':
      return {
        what: capital(roleInfo[difference.role].name),
        mine: `in ${surveyEnglish.unit(difference.mine.unit)}`,
        theirs: `in ${surveyEnglish.unit(difference.theirs.unit)}`,
      };
    case 'habit': {
      const id = habitThatFinds(difference.what);
      const answer = (card: Card): string => {
        const given = id && habitsOf(card)[id];
        const words: Readonly<Record<string, string>> = id ? surveyEnglish.habits[id].answers : {};
        return (given && words[given]) ?? 'as on this card';
      };
      return { what: capital(unknownWords[difference.what]), mine: answer(mine), theirs: answer(theirs) };
    }
  }
}
