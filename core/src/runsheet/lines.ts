import type { Card, LinePlace } from '../card';
import type { System } from '../system';
import { bare } from './place';
import type { SheetStep } from './step';

/** Ids of steps that are lines of the job: the id of the line stands behind. */
export const linePrefix = 'line/';

const lineStep = (id: string, device: string | null, says: string, from: string): SheetStep => ({ ...bare(id, 'line', device, says), notes: [from] });

/** Whether a line of a card stands before a step. */
const standsBefore = (place: LinePlace, step: SheetStep): boolean => step.kind === place || step.value?.role === place;

/**
 * The steps of one device with the lines of its card in their places, each once: before the first step of that kind, or of that setting. A line before
 * something that is not to be done is left out; what stands behind all is added where the sheet goes towards the targets.
 */
export function withCardLines(card: Pick<Card, 'lines'>, device: string, steps: readonly SheetStep[], prefix: string): readonly SheetStep[] {
  const lines = (card.lines ?? []).map((line, i) => ({ ...line, step: lineStep(`${prefix}${device}/line/${i + 1}`, device, line.says, 'From its card.') }));
  const first = lines.map((line) => steps.findIndex((step) => standsBefore(line.before, step)));
  const behind = prefix === '' ? lines.flatMap((line) => (line.before === 'end' ? [line.step] : [])) : [];
  return [...steps.flatMap((step, at) => [...lines.flatMap((line, i) => (first[i] === at ? [line.step] : [])), step]), ...behind];
}

/** All steps with the job’s own lines, each before the step that it names; one whose step is not there now is left out, and comes back with it. */
export function withJobLines({ lines = [] }: Pick<System, 'lines'>, steps: readonly SheetStep[]): readonly SheetStep[] {
  return steps.flatMap((step) => [
    ...lines.filter((line) => line.before === step.id).map((line) => lineStep(`${linePrefix}${line.id}`, step.device, line.says, 'Added on this job.')),
    step,
  ]);
}
