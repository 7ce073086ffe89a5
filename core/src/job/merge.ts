import { apartDevices, apartIds, type Renamed } from './apart';
import { roleInfo, type Role } from '../card';
import { bad, good, isRecord, type Loose, type Result } from '../quantity';
import { figureInfo, figureSchema, printFigure, type FigureKey } from '../sheet';
import { jobSchema, mostPastSheets, type Job } from './job';
import { problemsOf } from './read';

type Value = unknown;

/** A place that both copies changed, each its own way. */
interface Conflict {
  /** Where, as a stable name: `system/chargers/#aft/present/floatVoltage`. */
  readonly path: string;
  /** The same in words. */
  readonly label: string;
  /** As it was before both; missing when nobody knows. */
  readonly base?: string;
  readonly mine: string;
  readonly theirs: string;
}

/** What merging came to. */
export interface Merged {
  readonly job: Job;
  /** Everything that both changed, chosen or not; where nothing was chosen, mine stands. */
  readonly conflicts: readonly Conflict[];
  /** Places where the other copy alone had changed something, in words. */
  readonly taken: readonly string[];
  /** Things of the other copy that got another id here; their contents are to be kept under it. */
  readonly renamed: Renamed;
}

/** Which copy counts at a conflict, by its path. */
export type MergeChoices = Readonly<Record<string, 'mine' | 'theirs'>>;

const isList = (value: Value): value is readonly Value[] => Array.isArray(value);

/** Deep equality of what JSON can hold, whatever the order of keys. */
function same(a: Value, b: Value): boolean {
  if (a === b) return true;
  if (isList(a) && isList(b)) return a.length === b.length && a.every((item, i) => same(item, b[i]));
  if (!isRecord(a) || !isRecord(b)) return false;
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...keys].every((key) => same(a[key], b[key]));
}

/** What tells the entries of a list apart, by the keys they carry; the first that all of them carry counts. */
const identities: readonly (readonly string[])[] = [
  ['id'],
  ['charger', 'role'],
  ['step', 'at'],
  ['device', 'at', 'verified'],
  ['school', 'date', 'to'],
  ['code', 'text'],
  ['begunAt'],
];

/** Lists whose entries follow each other: taken as one. Answers are told apart by their step. */
function nameIn(lists: readonly (readonly Value[])[], path: readonly string[]): ((item: Loose) => string) | null {
  const items = lists.flat();
  if (items.length === 0 || !items.every(isRecord)) return null;
  const keys = path.at(-1) === 'answers' ? ['step'] : identities.find((names) => items.every((item) => names.every((name) => typeof item[name] === 'string')));
  if (!keys) return null;
  const name = (item: Loose): string => keys.map((key) => String(item[key])).join('|');
  return lists.every((list) => new Set((list as readonly Loose[]).map(name)).size === list.length) ? name : null;
}

/** Where the eye rests: not worth a question. */
const cursors: ReadonlySet<string> = new Set(['programming/at']);

interface Work {
  readonly choices: MergeChoices;
  readonly conflicts: { path: string[]; base: Value; known: boolean; mine: Value; theirs: Value }[];
  readonly taken: string[][];
}

/**
 * One value of three. Without a common ancestor (`known` false) what only one copy has is an addition, and what both have otherwise is a conflict.
 */
function merge(base: Value, known: boolean, mine: Value, theirs: Value, path: string[], work: Work): Value {
  if (same(mine, theirs)) return mine;
  if (known && same(base, theirs)) return mine;
  // Where only they changed something inside, that place is named, and not all that is around it.
  if (known && same(base, mine) && !(isRecord(mine) && isRecord(theirs))) {
    work.taken.push(path);
    return theirs;
  }
  if (!known && mine === undefined) {
    work.taken.push(path);
    return theirs;
  }
  if (!known && theirs === undefined) return mine;
  if (cursors.has(path.join('/'))) return mine;
  if (isRecord(mine) && isRecord(theirs)) {
    const keys = new Set([...Object.keys(mine), ...Object.keys(theirs)]);
    const under = isRecord(base) ? base : {};
    const merged = Object.fromEntries(
      [...keys].map((key) => [key, merge(under[key], known && isRecord(base), mine[key], theirs[key], [...path, key], work)] as const),
    );
    for (const key of keys) if (merged[key] === undefined) delete merged[key];
    return merged;
  }
  if (isList(mine) && isList(theirs)) {
    const under = isList(base) ? base : [];
    const name = nameIn([mine, theirs, under], path);
    if (name) {
      const find = (list: readonly Value[], key: string): Value => list.find((item) => name(item as Loose) === key);
      const order = [...new Set([...mine, ...theirs].map((item) => name(item as Loose)))];
      return order.flatMap((key) => {
        const merged = merge(find(under, key), known && isList(base), find(mine, key), find(theirs, key), [...path, `#${key}`], work);
        return merged === undefined ? [] : [merged];
      });
    }
  }
  work.conflicts.push({ path, base, known, mine, theirs });
  return work.choices[path.join('/')] === 'theirs' ? theirs : mine;
}

const words = (key: string): string => key.replace(/([A-Z])/g, (c) => ` ${c.toLowerCase()}`);

/** A path in words: names of devices instead of ids, roles and figures as they are called. */
function placeWords(path: readonly string[], jobs: readonly Job[]): string {
  const named = new Map<string, string>(
    jobs.flatMap((job) => [
      // An instrument may go by the id of a device.
      ...(path[1] === 'instruments' ? job.system.instruments : [...job.system.chargers, ...job.system.companions]).map((d) => [d.id, d.name] as const),
      ...[...job.logs, ...job.attachments].map((x) => [x.id, x.name] as const),
      ...job.cards.map((c) => [c.id, `${c.maker} ${c.model}`] as const),
    ]),
  );
  const skip = new Set(['system', 'chargers', 'companions', 'instruments']);
  const parts = path.flatMap((key) => {
    if (skip.has(key)) return [];
    if (key.startsWith('#'))
      return [
        key
          .slice(1)
          .split('|')
          .map((id) => named.get(id) ?? (id in roleInfo ? roleInfo[id as Role].name : id))
          .join(', '),
      ];
    if (key === 'present') return ['as found'];
    if (key in roleInfo) return [roleInfo[key as Role].name];
    if (key in figureInfo) return [figureInfo[key as FigureKey].name];
    return [words(key)];
  });
  const text = parts.join(', ');
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** A value in words, short enough for a table. */
function valueWords(value: Value): string {
  if (value === undefined) return 'not there';
  if (typeof value === 'string') return value === '' ? 'empty' : value.slice(0, 200);
  if (typeof value === 'number' || typeof value === 'boolean') return String(value);
  const figure = figureSchema.safeParse(value);
  if (figure.success) return printFigure(figure.data);
  const text = JSON.stringify(value);
  return text.length > 160 ? `${text.slice(0, 157)}…` : text;
}

const inWords = ({ path, known, base, mine, theirs }: Work['conflicts'][number], jobs: readonly Job[]): Conflict => ({
  path: path.join('/'),
  label: placeWords(path, jobs),
  ...(known ? { base: valueWords(base) } : {}),
  mine: valueWords(mine),
  theirs: valueWords(theirs),
});

/** Two run sheets begun apart: the later one is under way, the other is kept as an earlier one. */
function sheetsApart(mine: Job, theirs: Job): { mine: Job; theirs: Job } {
  const [a, b] = [mine.programming, theirs.programming];
  if (!a || !b || a.begunAt === b.begunAt) return { mine, theirs };
  const later = a.begunAt > b.begunAt ? a : b;
  const earlier = later === a ? b : a;
  const on = (job: Job): Job => ({
    ...job,
    programming: later,
    pastSheets: (job.pastSheets.some((s) => s.begunAt === earlier.begunAt) ? job.pastSheets : [...job.pastSheets, earlier]).filter(
      (s) => s.begunAt !== later.begunAt,
    ),
  });
  return { mine: on(mine), theirs: on(theirs) };
}

/**
 * Two copies of one job, edited apart, as one: field by field, entry by entry. What only one changed is taken; what both changed is a conflict, and mine
 * stands until the other is chosen. Lists of events are put together. Nothing is dropped without being named.
 *
 * @param base the copy both come from; null when this device does not know it: then every difference is a conflict
 * @returns problems when what comes of it would be no valid job; then keep both beside each other
 */
export function mergeJobs(base: Job | null, mine: Job, theirs: Job, choices: MergeChoices = {}): Result<Merged> {
  const work: Work = { choices, conflicts: [], taken: [] };
  const devices = apartDevices(base, mine, theirs);
  const { theirs: own, renamed } = apartIds(base, mine, devices.theirs);
  const apart = sheetsApart(mine, own);
  const merged = merge(base ?? undefined, base !== null, apart.mine, { ...apart.theirs, id: mine.id }, [], work);
  const job = merged as Job;
  const past = [...job.pastSheets].sort((a, b) => a.begunAt.localeCompare(b.begunAt));
  const old = past.slice(0, -mostPastSheets);
  const sorted = { ...job, pastSheets: past.slice(-mostPastSheets), snapshots: [...job.snapshots].sort((a, b) => a.at.localeCompare(b.at)) };
  const parsed = jobSchema.safeParse(sorted);
  if (!parsed.success) {
    const first = problemsOf(parsed.error, 'job')[0]?.text ?? '';
    return bad('merge-invalid', `The two copies do not fit together (${first}) Choose otherwise, or keep both beside each other.`);
  }
  return good({
    job: parsed.data,
    conflicts: work.conflicts.map((c) => inWords(c, [own, mine])),
    renamed: { ...renamed, devices: devices.renamed },
    taken: [
      ...work.taken.map((path) => placeWords(path, [mine, own])),
      ...old.map((sheet) => `Run sheet of ${sheet.begunAt.slice(0, 10)}, left out: only the newest ${mostPastSheets} are held`),
    ],
  });
}

/**
 * Places where an edit put its own value over one that somebody else had set meanwhile.
 *
 * @param before the document whoever edited was looking at
 * @param mine the document after the edit
 * @param theirs the document the edit was made on
 */
export function clashesOf(before: Job, mine: Job, theirs: Job): readonly Conflict[] {
  const work: Work = { choices: {}, conflicts: [], taken: [] };
  merge(before, true, mine, theirs, [], work);
  return work.conflicts.map((c) => inWords(c, [theirs, mine]));
}

/** Whether two jobs are copies of one: made at the same moment under the same id, however they are called now. */
export const sameJob = (a: Pick<Job, 'createdAt' | 'id'>, b: Pick<Job, 'createdAt' | 'id'>): boolean =>
  a.createdAt === b.createdAt && a.id.replace(/-\d+$/, '') === b.id.replace(/-\d+$/, '');
