import { capital, displayText, habitsOf, roleInfo, surveyEnglish, unknownWords, type Card, type CardDifference, type HabitId } from '@calm-keel/core';

const ends = { least: 'lower end', most: 'upper end', step: 'one press' } as const;

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
      return { what: `${capital(roleInfo[difference.role].name)}, ${ends[difference.what]}`, mine: text(difference.mine), theirs: text(difference.theirs) };
    }
    case 'setting':
      return {
        what: capital(roleInfo[difference.role].name),
        mine: `in ${surveyEnglish.unit(difference.mine.unit)}`,
        theirs: `in ${surveyEnglish.unit(difference.theirs.unit)}`,
      };
    case 'habit': {
      const id = difference.what === 'saveWay' ? 'save' : difference.what === 'saveTimeout' ? 'timeout' : difference.what;
      const answer = (card: Card): string => {
        const given = habitsOf(card)[id];
        const words: Readonly<Record<string, string>> | undefined = id in surveyEnglish.habits ? surveyEnglish.habits[id as HabitId].answers : undefined;
        return (given === undefined ? undefined : words?.[given]) ?? 'as on this card';
      };
      return { what: capital(unknownWords[difference.what]), mine: answer(mine), theirs: answer(theirs) };
    }
  }
}
