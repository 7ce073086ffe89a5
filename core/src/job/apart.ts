import { isRecord, type Loose } from '../quantity';
import type { Job } from './job';

/** An id like one that is taken, with a mark; it is taken from then on. */
function freeOf(id: string, taken: Set<string>): string {
  let next = `${id.slice(0, 50)}-b`;
  for (let n = 2; taken.has(next); n++) next = `${id.slice(0, 50)}-b${n}`;
  taken.add(next);
  return next;
}

/** Lists whose entries are made by both copies and get their ids from what they are about, with what tells two of one id apart. */
const born = { logs: 'from', attachments: 'bytes', tests: 'begunAt', visits: 'date' } as const;

/** Ids of the other copy that were given to different things here: old to new, by list. */
type RenamedContents = Readonly<Record<keyof typeof born, Readonly<Record<string, string>>>>;
/** The same, with devices and instruments. */
export type Renamed = RenamedContents & { readonly devices: Readonly<Record<string, string>> };

/** Gives entries of the other copy that only share their id with one here an id of their own, and follows it wherever it is named. */
export function apartIds(base: Job | null, mine: Job, theirs: Job): { theirs: Job; renamed: RenamedContents } {
  const renamed = Object.fromEntries(
    (Object.keys(born) as (keyof typeof born)[]).map((list) => {
      const here = mine[list] as readonly Loose[];
      const taken = new Set([...here, ...(theirs[list] as readonly Loose[])].map((item) => String(item['id'])));
      const names = (theirs[list] as readonly Loose[]).flatMap((item) => {
        const twin = here.find((other) => other['id'] === item['id']);
        const known = (base?.[list] as readonly Loose[] | undefined)?.some((other) => other['id'] === item['id']) ?? false;
        if (!twin || known || twin[born[list]] === item[born[list]]) return [];
        const id = String(item['id']);
        return [[id, freeOf(id, taken)] as const];
      });
      return [list, Object.fromEntries(names)];
    }),
  ) as RenamedContents;
  const to = (list: keyof typeof born, id: string): string => renamed[list][id] ?? id;
  const photos = (ids: readonly string[]): string[] => ids.map((id) => to('attachments', id));
  return {
    renamed,
    theirs: {
      ...theirs,
      logs: theirs.logs.map((l) => ({ ...l, id: to('logs', l.id) })),
      attachments: theirs.attachments.map((a) => ({ ...a, id: to('attachments', a.id) })),
      tests: theirs.tests.map((t) => ({ ...t, id: to('tests', t.id), photos: photos(t.photos), ...(t.log === undefined ? {} : { log: to('logs', t.log) }) })),
      visits: theirs.visits.map((v) => ({ ...v, id: to('visits', v.id), photos: photos(v.photos) })),
    },
  };
}

/** Fields that name a device or an instrument by its id, alone or in a list. */
const naming: ReadonlySet<string> = new Set(['charger', 'device', 'follows', 'switches', 'unplugged', 'instrument', 'provingInstrument']);
/** Records whose keys are ids of devices. */
const keyed: ReadonlySet<string> = new Set(['found', 'targets', 'present']);
/** Fields that hold the id of a step, which begins with its device’s. */
const steps: ReadonlySet<string> = new Set(['step', 'at']);

/** A document with every mention of some devices under other ids. */
function renamedIn(value: unknown, names: ReadonlyMap<string, string>, field = ''): unknown {
  if (typeof value === 'string') {
    if (naming.has(field)) return names.get(value) ?? value;
    if (!steps.has(field) || !value.includes('/')) return value;
    const parts = value.split('/');
    const at = parts[0] === 'back' ? 1 : 0;
    return parts.map((part, i) => (i === at ? (names.get(part) ?? part) : part)).join('/');
  }
  if (Array.isArray(value)) return value.map((item) => renamedIn(item, names, field));
  if (!isRecord(value)) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [keyed.has(field) ? (names.get(key) ?? key) : key, renamedIn(inner, names, key)]));
}

/**
 * Gives devices and instruments that both copies added apart under one id, and that are not the same, ids of their own in the other copy, and follows them
 * wherever they are named. The same is what has the same card and name, or for an instrument the same name. Without a common ancestor nobody knows whether they
 * were added apart; then the difference is a question.
 */
export function apartDevices(base: Job | null, mine: Job, theirs: Job): { readonly theirs: Job; readonly renamed: Readonly<Record<string, string>> } {
  if (!base) return { theirs, renamed: {} };
  const of = ({ system }: Job): readonly { readonly id: string; readonly name: string; readonly card?: string }[] => [
    ...system.chargers,
    ...system.companions,
    ...system.instruments,
  ];
  const known = new Set(of(base).map((d) => d.id));
  const taken = new Set([...of(mine), ...of(theirs)].map((d) => d.id));
  const names = new Map(
    of(theirs).flatMap((device) => {
      const here = of(mine).find((d) => d.id === device.id);
      const same = !here || (here.name === device.name && here.card === device.card);
      return same || known.has(device.id) ? [] : [[device.id, freeOf(device.id, taken)] as const];
    }),
  );
  if (names.size === 0) return { theirs, renamed: {} };
  const moved = renamedIn(theirs, names) as Job;
  const own = <T extends { readonly id: string; readonly name: string }>(list: readonly T[]): T[] =>
    list.map((d) => {
      const id = names.get(d.id);
      if (id === undefined) return d;
      const alike = of(mine).some((other) => other.name === d.name);
      return { ...d, id, name: alike ? `${d.name.slice(0, 44)}, other copy` : d.name };
    });
  const { chargers, companions, instruments } = moved.system;
  return {
    theirs: { ...moved, system: { ...moved.system, chargers: own(chargers), companions: own(companions), instruments: own(instruments) } },
    renamed: Object.fromEntries(names),
  };
}
