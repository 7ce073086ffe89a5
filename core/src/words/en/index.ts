import type { Language } from '../language';
import { listed } from './join';
import { changed, remedies } from './remedies';
import { bankFindings } from './findings/bank';
import { coldFindings } from './findings/cold';
import { currentFindings } from './findings/current';
import { deviceFindings } from './findings/devices';
import { loadFindings } from './findings/loads';
import { shortFindings } from './findings/short';
import { voltageFindings } from './findings/voltages';
import { wiringFindings } from './findings/wiring';

/** English, the only language shipped. */
export const english: Language = {
  findings: {
    ...bankFindings,
    ...coldFindings,
    ...currentFindings,
    ...deviceFindings,
    ...loadFindings,
    ...voltageFindings,
    ...wiringFindings,
  },
  shortFindings,
  lookAtFindings: 'See findings',
  remedies,
  alsoOn: (sentence, devices) => `${sentence} The same on ${listed(devices)}.`,
  changed,
};

/** What the survey of a device says in English; apart from the rest, because only its page loads it. */
export { surveyEnglish } from './survey';

export { paperEnglish } from './paper';

/** What the practice bench says in English. */
export { practiceEnglish } from './practice';

/** What the plan of a visit says in English. */
export { visitEnglish } from './visit';

/** What a log shows before anybody has said of which battery it is, in English. */
export { aloneEnglish } from './alone';

/** What the words of the trade and of this program mean, in English. */
export { glossaryEnglish } from './glossary';
