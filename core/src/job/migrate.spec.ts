import { defaultSchools } from '../settings';
import { jobVersion, migrateJob } from './index';

/** A document of this version with little in it: what a step does not name has to come through. */
const document = (version: number, more: object = {}) => ({ format: 'calm-keel/job', version, id: 'x', kept: { deep: [1, 2] }, ...more });
const migrated = (input: unknown): Record<string, unknown> => {
  const read = migrateJob(input);
  if (!read.ok) throw new Error(read.problems[0]?.text);
  return read.value;
};
const refusal = (input: unknown) => {
  const read = migrateJob(input);
  return read.ok ? null : { code: read.problems[0]?.code, place: read.problems[0]?.place, text: read.problems[0]?.text };
};
/** What every document ends with, from the step that brought each. */
const since = {
  9: {},
  8: {},
  7: { visits: [], recheckMonths: 12 },
  6: { visits: [], recheckMonths: 12, tests: [] },
  5: { visits: [], recheckMonths: 12, tests: [], programming: null, pastSheets: [], snapshots: [] },
  4: { visits: [], recheckMonths: 12, tests: [], programming: null, pastSheets: [], snapshots: [], rehearsal: null },
} as const;

describe('a job document of an older version', () => {
  it('is of version 9 today', () => {
    expect(jobVersion).toBe(9);
  });

  for (const version of [4, 5, 6, 7, 8, 9] as const)
    it(`of version ${version} gets what came since, and keeps everything else`, () => {
      expect(migrated(document(version))).toEqual({ ...document(9), ...since[version] });
    });

  it('of version 3 keeps the schools it chose, gets the later ones’ defaults, and has chosen and accepted nothing', () => {
    const schools = { reference: 'makerOnly', lithiumFloat: 'rest', topCharge: 'gentle' };
    expect(migrated(document(3, { schools }))).toEqual({ ...document(9), ...since[4], choices: [], accepted: [], schools: { ...defaultSchools, ...schools } });
    expect(migrated(document(3))['schools']).toEqual({ ...defaultSchools });
  });

  it('of version 2 keeps its schools and lets every rank count, as it did then; it had one sheet, no documents, no companions', () => {
    const read = migrated(document(2, { schools: { lithiumFloat: 'rest' }, system: { chargers: ['c'] } }));
    expect(read).toEqual({
      ...document(9),
      ...since[4],
      choices: [],
      accepted: [],
      otherSheets: [],
      attachments: [],
      schools: { ...defaultSchools, reference: 'bestAvailable', lithiumFloat: 'rest' },
      system: { companions: [], chargers: ['c'] },
    });
    expect(migrated(document(2, { schools: { reference: 'makerOnly' } }))['schools']).toEqual({ ...defaultSchools, reference: 'makerOnly' });
    expect([migrated(document(2))['schools'], migrated(document(2))['system']]).toEqual([
      { ...defaultSchools, reference: 'bestAvailable' },
      { companions: [] },
    ]);
  });

  it('of version 1 has one pair of temperatures for bank and air alike, and gets a tolerance and a coverage factor', () => {
    const read = migrated(document(1, { system: { site: { coldestC: -14, hottestC: 36, latitude: 57 }, bank: 'b' } }));
    expect(read['system']).toEqual({
      companions: [],
      bank: 'b',
      site: { recordLowC: -14, recordHighC: 36, bankLowC: -14, bankHighC: 36, coolingCPerHour: 5, latitude: 57 },
    });
    expect([read['tolerance'], read['coverage'], read['version'], read['kept']]).toEqual([{ voltsPerCell: 0.0125, rank: 'assumed' }, 2, 9, { deep: [1, 2] }]);
    expect(migrated(document(1, { tolerance: 't', coverage: 3 }))).toEqual(jasmine.objectContaining({ tolerance: 't', coverage: 3 }));
    expect(migrated(document(1))['system']).toEqual(jasmine.objectContaining({ site: jasmine.objectContaining({ coolingCPerHour: 5 }) }));
    expect(migrated(document(1, { system: { site: { coolingCPerHour: 2 } } }))['system']).toEqual(
      jasmine.objectContaining({ site: jasmine.objectContaining({ coolingCPerHour: 2 }) }),
    );
  });
});

describe('the place of a job of version 8', () => {
  const begun = { place: '', recordLowC: -10, recordHighC: 35, bankLowC: 0, bankHighC: 35, coolingCPerHour: 5 };
  const assumed = { recordLowC: true, recordHighC: true, bankLowC: true, bankHighC: true, coolingCPerHour: true };
  const placed = (site: object): unknown => migrated(document(8, { system: { site } }))['assumed'];

  it('that nobody ever touched was never said', () => {
    expect(placed(begun)).toEqual(assumed);
    expect(placed({ ...begun, place: undefined })).toEqual(assumed);
  });

  it('counts as said as soon as one word of it was changed', () => {
    for (const change of [{ place: 'Hut' }, { recordLowC: -11 }, { recordHighC: 36 }, { bankLowC: 1 }, { bankHighC: 34 }, { coolingCPerHour: 4 }])
      expect(placed({ ...begun, ...change }))
        .withContext(JSON.stringify(change))
        .toBeUndefined();
    expect(migrated(document(8))['assumed']).toBeUndefined();
  });
});

describe('what is no job document', () => {
  it('is refused with what it calls itself', () => {
    expect(refusal({ format: 'calm-keel/card', version: 1 })).toEqual({
      code: 'job-not-a-job',
      place: undefined,
      text: 'This is not a Calm Keel job file. It calls itself “calm-keel/card”. Choose a file that was saved with Job file.',
    });
    for (const other of [null, 3, 'x', [], [{ format: 'calm-keel/job', version: 8 }], {}, { format: 7 }])
      expect(refusal(other)?.text).withContext(JSON.stringify(other)).toBe('This is not a Calm Keel job file. Choose a file that was saved with Job file.');
    expect(refusal({ format: 'y'.repeat(100) })?.text).toContain(`“${'y'.repeat(60)}”`);
  });

  it('is refused without a whole version of 1 or more, and when it is newer than this program', () => {
    for (const version of [0, -1, 1.5, '8', undefined])
      expect(refusal(document(version as number))).toEqual(jasmine.objectContaining({ code: 'job-no-version', place: 'version' }));
    expect(refusal(document(10))).toEqual({
      code: 'job-newer',
      place: 'version',
      text: 'This job file is of version 10, and this program reads up to 9. Update the program, then bring the file in again.',
    });
  });
});
