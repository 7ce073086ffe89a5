/** What journeys work out beforehand with the core. */
export { findFindings } from '@calm-keel/core/findings';
export { accept, answerStep, beginProgramming, readJob, sheetOf, stopsThatStay, writeJob } from '@calm-keel/core/job';
export { nextOpen } from '@calm-keel/core/runsheet';
export { deriveSettings, devicesOf } from '@calm-keel/core/settings';
