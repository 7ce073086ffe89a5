import { bad, good, isRecord, type Loose, type Result } from '../quantity';
import { defaultSchools } from '../settings';
import { jobVersion } from './job';

/** What version 8 put into a new job for its place. */
const placeOfNewJob = { recordLowC: -10, recordHighC: 35, bankLowC: 0, bankHighC: 35, coolingCPerHour: 5 };

/**
 * One step per version: takes a document of that version and gives what the next one has. Each step keeps everything it does not name.
 */
const steps: Readonly<Record<number, (document: Loose) => Loose>> = {
  /**
   * Version 1 kept the place's temperatures as `site.coldestC` and `site.hottestC` for bank and air alike, and had neither
   * a tolerance for single figures nor a coverage factor.
   */
  1: (document) => {
    const system = isRecord(document['system']) ? document['system'] : {};
    const { coldestC, hottestC, ...site } = isRecord(system['site']) ? system['site'] : {};
    return {
      tolerance: { voltsPerCell: 0.0125, rank: 'assumed' },
      coverage: 2,
      ...document,
      system: { ...system, site: { recordLowC: coldestC, recordHighC: hottestC, bankLowC: coldestC, bankHighC: hottestC, coolingCPerHour: 5, ...site } },
    };
  },
  /** Version 2 knew one sheet, no documents and no companions, and let every figure count whatever its rank. */
  2: (document) => ({
    otherSheets: [],
    attachments: [],
    ...document,
    schools: { reference: 'bestAvailable', ...(isRecord(document['schools']) ? document['schools'] : {}) },
    system: { companions: [], ...(isRecord(document['system']) ? document['system'] : {}) },
  }),
  /** Version 3 knew five schools and kept neither who chose one nor stops that were answered for. */
  3: (document) => ({
    choices: [],
    accepted: [],
    ...document,
    schools: { ...defaultSchools, ...(isRecord(document['schools']) ? document['schools'] : {}) },
  }),
  /** Version 4 knew no rehearsal. */
  4: (document) => ({ rehearsal: null, ...document }),
  /** Version 5 knew no run sheet and no snapshots. */
  5: (document) => ({ programming: null, pastSheets: [], snapshots: [], ...document }),
  /** Version 6 knew no guided tests. */
  6: (document) => ({ tests: [], ...document }),
  /** Version 7 knew no visits. */
  7: (document) => ({ visits: [], recheckMonths: 12, ...document }),
  /** Version 8 took the place a new job began with for said. */
  8: (document) => {
    const site = isRecord(document['system']) && isRecord(document['system']['site']) ? document['system']['site'] : {};
    const untouched = !site['place'] && Object.entries(placeOfNewJob).every(([key, value]) => site[key] === value);
    return { ...(untouched ? { assumed: Object.fromEntries(Object.keys(placeOfNewJob).map((key) => [key, true])) } : {}), ...document };
  },
};

/** Brings a job document of an older version to the present one; refuses newer ones and documents that are no job. */
export function migrateJob(document: unknown): Result<Loose> {
  if (!isRecord(document) || document['format'] !== 'calm-keel/job') {
    const format = isRecord(document) && typeof document['format'] === 'string' ? ` It calls itself “${document['format'].slice(0, 60)}”.` : '';
    return bad('job-not-a-job', `This is not a Calm Keel job file.${format} Choose a file that was saved with Job file.`);
  }
  let current = document;
  const version = current['version'];
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return bad('job-no-version', 'This job file does not say which version it is. It may have been edited; use an unedited copy.', 'version');
  if (version > jobVersion)
    return bad(
      'job-newer',
      `This job file is of version ${version}, and this program reads up to ${jobVersion}. Update the program, then bring the file in again.`,
      'version',
    );
  for (const step of Object.entries(steps).filter(([from]) => Number(from) >= version)) current = step[1](current);
  current = { ...current, version: jobVersion };
  return good(current);
}
