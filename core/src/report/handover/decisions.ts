import { roleInfo } from '../../card';
import type { Finding } from '../../findings';
import { type Job, acceptedBy } from '../../job';
import { lower, type TemperatureScale } from '../../quantity';
import { type Plan, type Setting, allowedText, defaultSchools, deviceName, keyedText, onDisplayText, schoolQuestions, temperatureWords } from '../../settings';
import { english, sayFor, speakFinding } from '../../words';
import type { Cell, Section } from '../paper';
import { cell } from './words';

/** Schools with who chose them and why, figures outside the sheet, findings that were answered for. */
export function decisions(job: Job, plan: Plan, findings: readonly Finding[], scale: TemperatureScale): Section {
  const questions = [reference, ...schoolQuestions.filter((q) => q.bears(plan))].map((q) => {
    const value = job.schools[q.school];
    const option = q.options.find((o) => o.value === value);
    const choice = job.choices.findLast((c) => c.school === q.school && c.to === value);
    return { question: q.question, words: option?.words ?? value, gives: option?.gives, choice, careful: value === defaultSchools[q.school] };
  });
  const [made, left] = [questions.filter((q) => q.choice !== undefined || !q.careful), questions.filter((q) => q.choice === undefined && q.careful)];
  const chosen = made.map(({ question, words, gives, choice }): readonly Cell[] => [
    cell(question),
    cell(words, undefined, gives),
    choice ? cell(`${choice.reason} By ${choice.by}, ${choice.date}.`) : cell('nobody said why', 'quiet'),
  ]);
  const name = (id: string): string => deviceName(job, id);
  const say = sayFor(job, scale);
  const accepted = findings.flatMap((finding) => {
    const by = acceptedBy(job, finding);
    return by ? [cell(speakFinding(english, finding, say).text, 'caution', `${by.reason} By ${by.by}, ${by.date}.`)] : [];
  });
  return {
    id: 'decisions',
    title: 'What was decided, and why',
    blocks: [
      ...(chosen.length === 0
        ? []
        : [
            {
              kind: 'table' as const,
              columns: [
                { head: 'Question', share: 3 },
                { head: 'Chosen', share: 5 },
                { head: 'Why', share: 5 },
              ],
              rows: chosen,
              empty: '',
            },
          ]),
      ...(left.length === 0
        ? []
        : [
            {
              kind: 'text' as const,
              text: `Nobody chose otherwise than the careful default in: ${left.map((q) => lower(q.question)).join(', ')}.`,
              tone: 'quiet' as const,
            },
          ]),
      { kind: 'heading', text: 'Figures outside the sheet' },
      {
        kind: 'list',
        items: job.overrides.map((o) =>
          cell(
            `${name(o.charger)}, ${roleInfo[o.role].name}: ${overrideText(plan, o.charger, o.role, scale)}. ${o.reason}`,
            'stop',
            `By ${o.by}, ${o.date}${o.reviewedBy ? `; looked at by ${o.reviewedBy}` : '; nobody else has looked at it'}.`,
          ),
        ),
        empty: 'None: every figure is the sheet’s.',
      },
      { kind: 'heading', text: 'Findings that somebody accepted' },
      { kind: 'list', items: accepted, empty: 'None.' },
    ],
  };
}

/** Whose figures count, beside the questions on which practitioners differ. */
const reference = {
  school: 'reference',
  question: 'Whose figures count',
  options: [
    { value: 'makerOnly', words: 'The maker’s own paper only', gives: undefined },
    { value: 'bestAvailable', words: 'The best that can be had, each marked', gives: undefined },
  ],
} as const;

function overrideText(plan: Plan, charger: string, role: Setting['role'], scale: TemperatureScale): string {
  const s = plan.setting(charger, role);
  if (s?.left) return `left as it is${s.present === undefined ? ', and not read yet' : `, at ${onDisplayText(s, s.present)}`}`;
  return s ? `set ${keyedText(s)}${s.band ? `, the sheet allows ${allowedText(s, temperatureWords(scale))}` : ''}` : 'no longer a setting of it';
}
