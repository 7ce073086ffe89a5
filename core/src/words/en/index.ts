export { english } from './english';

/** What the survey of a device says in English; apart from the rest, because only its page loads it. */
export { surveyEnglish } from './survey';

export { paperEnglish } from './paper';

/** What the practice bench says in English; only its page loads it. */
export { practiceEnglish } from './practice';
