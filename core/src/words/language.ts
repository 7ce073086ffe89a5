import type { ChangedSetting, Facts, Finding, FindingCode, FindingFacts, RemedyCode, RemedyFacts } from '../findings';
import type { Say } from './say';

/** What a finding says: one plain sentence with its numbers, and one on what it can hurt. */
export interface Said {
  readonly text: string;
  readonly hurts: string;
}

/** The words of one finding: from its facts, the numbers and names, and the name of the device it is about (empty where it is about none). */
export type FindingWords<C extends FindingCode> = (facts: FindingFacts[C], say: Say, its: string) => Said;

/** One language: every sentence the product says. A second one is another record of this type. */
export interface Language {
  readonly findings: { readonly [C in FindingCode]: FindingWords<C> };
  /** What the list of devices says of one that has it: "No cold protection". */
  readonly shortFindings: Partial<Record<FindingCode, string>>;
  /** Used in the list of devices for a finding without a short word. */
  readonly lookAtFindings: string;
  /** What a remedy’s button says; it begins with a verb. */
  readonly remedies: { readonly [C in RemedyCode]: (facts: RemedyFacts[C], say: Say) => string };
  /** A sentence about one device that holds for others too. */
  readonly alsoOn: (sentence: string, devices: readonly string[]) => string;
  /** A value that choosing a school changes. */
  readonly changed: (change: ChangedSetting, say: Say) => string;
}

/** A remedy with what its button says. */
export interface SpokenRemedy {
  readonly label: string;
  readonly changes: Finding['remedies'][number]['changes'];
}

/** A finding in words. */
export interface SpokenFinding extends Omit<Finding, 'remedies'>, Said {
  /** What is said. */
  readonly finding: Finding;
  readonly remedies: readonly SpokenRemedy[];
}

/** Says a finding in a language. */
export function speakFinding(language: Language, finding: Finding, say: Say): SpokenFinding {
  // The catalogue gives every code its own facts; here they are only known as facts.
  const words = language.findings[finding.code as FindingCode] as (facts: Facts, say: Say, its: string) => Said;
  return {
    ...finding,
    finding,
    ...words(finding.facts, say, finding.charger === undefined ? '' : say.name(finding.charger)),
    remedies: finding.remedies.map(({ does, facts, changes }) => {
      const label = language.remedies[does] as (facts: object, say: Say) => string;
      return { label: label(facts ?? {}, say), changes };
    }),
  };
}

/** Says once what was found alike on several devices: the sentence of the first, and the names of the others behind it. Its ways out act on all of them. */
export function speakAlike(language: Language, [first, ...others]: readonly [Finding, ...Finding[]], say: Say): SpokenFinding {
  const spoken = speakFinding(language, first, say);
  if (others.length === 0) return spoken;
  const also = others.map((finding) => speakFinding(language, finding, say));
  return {
    ...spoken,
    text: language.alsoOn(
      spoken.text,
      others.flatMap(({ charger }) => (charger === undefined ? [] : [say.name(charger)])),
    ),
    remedies: spoken.remedies.map(({ label, changes }, i) => ({ label, changes: [...changes, ...also.flatMap((s) => s.remedies[i]?.changes ?? [])] })),
  };
}

/** What the list of devices says of one with this finding. */
export const shortOf = (language: Language, code: string): string => language.shortFindings[code as FindingCode] ?? language.lookAtFindings;
