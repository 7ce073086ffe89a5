import { roleInfo } from '../card';
import { stages } from '../charger';
import { verdictWords } from '../proof';
import { glossaryEnglish } from '.';

describe('the glossary', () => {
  const terms = glossaryEnglish.groups.flatMap((g) => g.terms);
  const words = terms.flatMap((t) => t.word.split(', ')).map((w) => w.toLowerCase());

  it('explains every word once, in one or two whole sentences that are read in a breath', () => {
    expect(new Set(words).size).toBe(words.length);
    for (const says of [...terms.map((t) => t.says), ...Object.values(glossaryEnglish.roles)]) {
      expect(says).toMatch(/^[A-Z].*\.$/);
      expect(says.length).withContext(says).toBeLessThan(175);
      expect(says.split(/[.:;] /).length)
        .withContext(says)
        .toBeLessThanOrEqual(4);
    }
  });

  it('has every setting, every verdict and every stage that a screen can show', () => {
    expect(Object.keys(glossaryEnglish.roles).sort()).toEqual(Object.keys(roleInfo).sort());
    for (const verdict of Object.values(verdictWords)) expect(words).toContain(verdict.toLowerCase());
    const known = words.join(' ');
    for (const stage of stages)
      expect(known)
        .withContext(stage)
        .toContain(stage.replace(/[A-Z].*/, ''));
  });

  it('explains no setting by its own name alone', () => {
    for (const [role, says] of Object.entries(glossaryEnglish.roles))
      expect(says.toLowerCase().replace(/[^a-z ]/g, ''))
        .withContext(role)
        .not.toBe(roleInfo[role as keyof typeof roleInfo].name.toLowerCase());
  });
});
