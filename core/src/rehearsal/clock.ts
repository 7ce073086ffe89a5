import type { Run } from './record';

const two = (n: number): string => String(n).padStart(2, '0');
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** A moment of a run on its own clock: "14:39", with the date where the run is longer than a day: "16 Jun 03:41". */
export function clockOf(run: Pick<Run, 'from' | 'to'>, at: number): string {
  const date = new Date(at * 1000);
  const time = `${two(date.getUTCHours())}:${two(date.getUTCMinutes())}`;
  return run.to - run.from > 86_400 ? `${date.getUTCDate()} ${months[date.getUTCMonth()] ?? ''} ${time}` : time;
}
