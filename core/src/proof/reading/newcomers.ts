import { capital } from '../../quantity';
import { ampWords, bankWords, inputWords, loadWords, ofAmps, ofStage, outWords, says, stageWords, voltWords, words } from './heads';
import type { Table } from './table';

/** A charger as files and columns may call it. */
export interface Named {
  readonly id: string;
  readonly name: string;
}

/** A file of one charger that names it nowhere, nor by its own name. */
const unnamed = 'charger';
/** Words of a head that tell what is measured, and not on whom. */
const measured =
  /\b(charge|charging|charger|chargeur|laden|lade|output|out|avg|average|mean|min|max|minimum|maximum|power|leistung|puissance|potencia|dc|total|temp\w*|[a-z])\b/g;
/** Words of a file’s name that tell what kind of file it is, and not whose. */
const ofFiles = /\b(log|logs|data|export|exported|history|report|csv|txt|day|daily|file|download|device|copy)\b/g;

/** What a text calls somebody, once the words for what is measured are taken away; '' where it names nobody. */
const ownerIn = (name: string, patterns: readonly RegExp[]): string =>
  patterns
    .reduce((text, p) => text.replace(new RegExp(`(?:${p.source})\\w*`, 'g'), ' '), name)
    .replace(measured, ' ')
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/** A name as an id, and as it is written. */
function asNamed(written: string): Named | null {
  const id = words(written)
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 40);
  return id === '' || !/[a-z]/.test(id) ? null : { id, name: capital(written.trim()).slice(0, 60) };
}

/**
 * The chargers that a file speaks of: by a column of names; else by what stands in the heads of currents, stages and inputs beside what they measure. A
 * file that names nobody is of one charger, called as its own name calls it.
 */
export function newcomersIn(table: Table, fileName = ''): readonly Named[] {
  const { headers, all, heads, numbers, timeAt, dateAt, clockAt, nameAt } = table;
  if (nameAt >= 0) return namesOnce([...new Set(all[nameAt])]);
  let nobody = false;
  const owners = heads.flatMap((head, i) => {
    const { name, unit } = head;
    if ([timeAt, dateAt, clockAt].includes(i) || says(name, ...bankWords, ...loadWords, ...outWords)) return [];
    const filled = (numbers[i] ?? []).some(Number.isFinite);
    const isStage = ofStage(head) && (all[i] ?? []).some((f) => f !== '');
    const isInput = says(name, ...inputWords) && (unit === 'V' || unit === 'W' || unit === 'kW' || unit === null);
    if (!isStage && !(filled && (isInput || ofAmps(head)))) return [];
    const owner = ownerIn(name, [...stageWords, ...inputWords, ...ampWords, ...voltWords]);
    // A current of which nothing is said is the bank’s.
    if (owner === '' && (isStage || isInput || says(name, /\bcharg/, /\boutput/, /\bout\b/))) nobody = true;
    if (owner === '') return [];
    // As the head writes it, where it does so in one piece.
    const header = headers[i] ?? '';
    const at = words(header).indexOf(owner);
    return [at < 0 || words(header).length !== header.length ? owner : header.slice(at, at + owner.length)];
  });
  if (owners.length > 0) return namesOnce(owners);
  if (!nobody) return [];
  return namesOnce([ownerIn(words(fileName.replace(/\.\w+$/, '')).replace(/[^a-z]+/g, ' '), [ofFiles]) || unnamed]);
}

/** More than so many names are no chargers. */
const mostNewcomers = 12;

/** Names as chargers, each once. */
function namesOnce(owners: readonly string[]): readonly Named[] {
  const found = new Map<string, Named>();
  for (const owner of owners) {
    const named = asNamed(owner);
    if (named && !found.has(named.id)) found.set(named.id, named);
  }
  return found.size > mostNewcomers ? [] : [...found.values()];
}
