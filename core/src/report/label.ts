import type { Job } from '../job';
import { bad, fnv1a, good, type Result } from '../quantity';
import { verifiedWords } from '../runsheet';
import { editionOf } from '../sheet';
import { cardOf, devicesOf, keyedText, type Plan } from '../settings';
import { readBackOf } from './readBack';

/** One setting on a label: what the menu calls it, and what its display is to show. */
export interface LabelLine {
  readonly label: string;
  readonly value: string;
}

/** What stands on the lid of a charger: enough to compare what is keyed in with what was set, without the job. */
export interface Label {
  readonly site: string;
  readonly device: string;
  readonly model: string;
  /** Year-month-day on which it was read back; otherwise on which it was made. */
  readonly date: string;
  /** How far these very values were verified on the device, in words. */
  readonly state: string;
  /** Battery, document, revision. */
  readonly by: string;
  readonly lines: readonly LabelLine[];
}

/** The first line of every label, with its version. */
const head = 'CALM KEEL LABEL 1';

/** Values of one line stay on it. */
const plain = (text: string): string => text.replace(/\s+/g, ' ').replaceAll(':', '꞉').trim();

/**
 * The label of a device: every value that is keyed in. Null for a device the job has not, or without a card.
 *
 * @param today year-month-day
 */
export function labelOf(job: Job, plan: Plan, device: string, today: string): Label | null {
  const place = devicesOf(plan.input).find((d) => d.id === device);
  const card = place && cardOf(plan.input, place);
  if (!place || !card) return null;
  const { sheet } = job;
  const own = plan.settings.filter((s) => s.charger === device && s.value !== null && !s.inherited);
  const shot = readBackOf(job, plan, device);
  return {
    site: job.name,
    device: place.name,
    model: `${card.maker} ${card.model}`,
    date: shot?.date ?? today,
    state: shot ? verifiedWords[shot.verified] : 'worked out, not read back yet',
    by: `${sheet.maker} ${sheet.battery}, ${editionOf(sheet)}`,
    lines: own.map((s) => ({ label: s.label, value: keyedText(s).replaceAll('\u00a0', ' ') })),
  };
}

/** Eight digits that tell a slip of copying. */
const checkOf = (text: string): string => fnv1a(text).padStart(8, '0');

/**
 * The label as the text its code holds: lines that any phone shows and a person reads, and that this program reads back.
 *
 * @example 'CALM KEEL LABEL 1\nSite: Launch\nDevice: Solar fore\n…\nAbsorb volts: 28.3 V\nCheck: 1a2b3c4d'
 */
export function writeLabel(label: Label): string {
  const lines = [
    head,
    `Site: ${plain(label.site)}`,
    `Device: ${plain(label.device)}`,
    `Model: ${plain(label.model)}`,
    `Date: ${label.date}`,
    `State: ${plain(label.state)}`,
    `By: ${plain(label.by)}`,
    ...label.lines.map((l) => `${plain(l.label)}: ${plain(l.value)}`),
  ].join('\n');
  return `${lines}\nCheck: ${checkOf(lines)}`;
}

/** Reads the text of a label's code. */
export function readLabel(text: string): Result<Label> {
  const lines = text
    .slice(0, 20_000)
    .split(/\r?\n/)
    .map((l) => l.trim())
    .filter(Boolean);
  if (lines[0] !== head)
    return lines[0]?.startsWith('CALM KEEL LABEL')
      ? bad('label-newer', 'This label is of a version that this program does not know. Update the program, then read it again.')
      : bad('label-none', `This is not the text of a label: it does not begin with “${head}”. Scan the code on the charger’s lid and copy all of its text.`);
  const check = /^Check: ([0-9a-f]{8})$/.exec(lines.at(-1) ?? '')?.[1];
  const body = lines.slice(0, -1).join('\n');
  if (check === undefined || check !== checkOf(body))
    return bad('label-broken', 'Something in this text is not as it was printed: its check does not fit. Scan the code again and copy all of its text.');
  const pairs = lines.slice(1, -1).map((line): LabelLine => {
    const at = line.indexOf(': ');
    return { label: line.slice(0, at), value: line.slice(at + 2) };
  });
  const [site, device, model, date, state, by, ...rest] = pairs;
  if (!site || !device || !model || !date || !state || !by)
    return bad('label-short', 'This label lacks its first lines. Scan the code again and copy all of its text.');
  return good({ site: site.value, device: device.value, model: model.value, date: date.value, state: state.value, by: by.value, lines: rest });
}

/** Whether what a display shows is what the label says: numbers by their value, words by their letters. */
export function labelAgrees(line: LabelLine, seen: string): boolean {
  const tidy = (text: string): string => text.toLowerCase().replace(/\s+/g, '').replaceAll('−', '-').replaceAll(',', '.');
  const number = (text: string): number | null => {
    const found = /^[+-]?\d+(\.\d+)?/.exec(tidy(text))?.[0];
    return found === undefined ? null : Number(found);
  };
  const [wanted, shown] = [number(line.value), number(seen)];
  if (wanted === null || shown === null) return tidy(line.value) === tidy(seen);
  const unit = (text: string): string => tidy(text).replace(/^[+-]?\d+(\.\d+)?/, '');
  return wanted === shown && (unit(seen) === '' || unit(seen) === unit(line.value));
}
