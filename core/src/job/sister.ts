import { roleInfo, type Role } from '../card';
import { keyedText, schoolQuestions, type Plan } from '../settings';
import { nothingDone, type Job } from './job';

/**
 * The choices of one job on another: schools with who chose them and why, the tolerance of single figures, the coverage factor, the age at which
 * evidence is taken again. Figures, devices and overrides stay: they belong to a bank and its chargers.
 *
 * @param date year-month-day
 */
export function withChoicesOf(job: Job, from: Job, by: string, date: string): Job {
  const changed = (Object.keys(from.schools) as (keyof Job['schools'])[]).filter((school) => job.schools[school] !== from.schools[school]);
  const choices = changed.map((school) => ({ school, to: String(from.schools[school]), by, reason: `As on “${from.name}”.`.slice(0, 300), date }));
  return {
    ...job,
    schools: from.schools,
    tolerance: from.tolerance,
    coverage: from.coverage,
    recheckMonths: from.recheckMonths,
    choices: [...job.choices, ...choices].slice(-200),
  };
}

/** A choice that would change. */
export interface ChoiceChange {
  readonly question: string;
  readonly from: string;
  readonly to: string;
}

/** Which choices differ between two jobs, in words. */
export function choiceChanges(from: Job, to: Job): readonly ChoiceChange[] {
  const option = (school: string, value: unknown): string =>
    schoolQuestions.find((q) => q.school === school)?.options.find((o) => o.value === value)?.words ?? String(value);
  const schools = (Object.keys(to.schools) as (keyof Job['schools'])[]).flatMap((school): ChoiceChange[] =>
    from.schools[school] === to.schools[school]
      ? []
      : [
          {
            question:
              schoolQuestions.find((q) => q.school === school)?.question ??
              (school === 'reference' ? 'Whose figures count' : 'A full charge at least every, days'),
            from: option(school, from.schools[school]),
            to: option(school, to.schools[school]),
          },
        ],
  );
  const plain: readonly (readonly [string, unknown, unknown])[] = [
    ['Tolerance of a single figure, V per cell', from.tolerance.voltsPerCell, to.tolerance.voltsPerCell],
    ['Coverage factor', from.coverage, to.coverage],
    ['Evidence is taken again after, months', from.recheckMonths, to.recheckMonths],
  ];
  return [...schools, ...plain.flatMap(([question, a, b]) => (a === b ? [] : [{ question, from: String(a), to: String(b) }]))];
}

/** A setting that comes out otherwise. */
export interface SettingShift {
  readonly device: string;
  readonly role: Role;
  readonly name: string;
  readonly from: string;
  readonly to: string;
}

/** Settings that differ between two plans of the same devices. */
export function settingShifts(before: Plan, after: Plan): readonly SettingShift[] {
  return after.settings.flatMap((s) => {
    const was = before.setting(s.charger, s.role);
    const [from, to] = [was ? keyedText(was) : '—', keyedText(s)];
    return from === to ? [] : [{ device: s.charger, role: s.role, name: roleInfo[s.role].name, from, to }];
  });
}

/** One line of a comparison between two sites. */
export interface SisterLine {
  readonly name: string;
  readonly here: string;
  readonly there: string;
}

/** Settings of two jobs side by side, charger by charger in the order of their rosters; only what differs. */
export function sisterDifferences(here: Plan, there: Plan): readonly (SisterLine & { readonly device: string })[] {
  const paired = here.input.system.chargers.flatMap((charger, i) => {
    const others = there.input.system.chargers;
    const other = others.find((c) => c.card === charger.card && c.name === charger.name) ?? others.find((c) => c.card === charger.card) ?? others[i];
    return other ? [{ charger, other }] : [];
  });
  return paired.flatMap(({ charger, other }) =>
    here.settings
      .filter((s) => s.charger === charger.id)
      .flatMap((s) => {
        const twin = there.setting(other.id, s.role);
        if (!twin) return [];
        const [a, b] = [keyedText(s), keyedText(twin)];
        return a === b ? [] : [{ device: `${charger.name} and ${other.name}`, name: roleInfo[s.role].name, here: a, there: b }];
      }),
  );
}

/** A job made like another: site, bank, chargers, sheets and choices; nothing of what was found, keyed, tested, logged or accepted there. */
export function asTemplate(job: Job, id: string, name: string, now: string): Job {
  const bare = <T extends { present: object; lastVisit?: unknown; link?: unknown; firmware?: unknown }>(device: T): T => {
    const { lastVisit: _visit, link: _link, firmware: _firmware, ...rest } = device;
    return { ...rest, present: {} } as T;
  };
  const { system } = job;
  return {
    ...job,
    id,
    name,
    note: '',
    createdAt: now,
    system: {
      ...system,
      chargers: system.chargers.map((c) => {
        const { provedFirmware: _p, resetSinceProof: _r, ...rest } = bare(c);
        return { ...rest, displayReadings: [], passcodeChanged: false };
      }),
      companions: system.companions.map((c) => {
        const { fullSeen: _f, ...rest } = bare(c);
        return rest;
      }),
    },
    ...nothingDone,
  };
}
