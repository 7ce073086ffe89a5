import { gapsOf, medianStep, type Log, type LogReport } from '../log';

/** What can be said of a log besides its samples. */
export function reportOf(log: Log, { skipped, firstSkipped, notes }: Pick<LogReport, 'skipped' | 'firstSkipped' | 'notes'>): LogReport {
  const interval = medianStep(log.time);
  const gaps = gapsOf(log.time, interval);
  const more: string[] = [];
  if (gaps.length > 0)
    more.push(`${gaps.length} ${gaps.length === 1 ? 'gap' : 'gaps'} of more than ${Math.round(5 * interval)} s: nothing is claimed over them.`);
  if (log.offsetMinutes === null) more.push('The times carry no zone; they are read as written.');
  if (signLooksReversed(log))
    more.push(
      'The bank’s current falls when the chargers give more: its sign looks reversed. Turn it round in the mapping if discharge is positive in this file.',
    );
  return { rows: log.time.length, skipped, firstSkipped, intervalSeconds: interval, gaps, notes: [...notes, ...more] };
}

/** Whether the bank's current runs against the sum of the chargers': correlation below −0.5 over at most 20,000 samples. */
export function signLooksReversed({ bankAmps, chargers }: Log): boolean {
  const all = Object.values(chargers).flatMap((c) => (c.amps ? [c.amps] : []));
  if (!bankAmps || all.length === 0) return false;
  const every = Math.max(1, Math.floor(bankAmps.length / 20_000));
  let n = 0;
  let sx = 0;
  let sy = 0;
  let sxx = 0;
  let syy = 0;
  let sxy = 0;
  for (let i = 0; i < bankAmps.length; i += every) {
    const x = bankAmps[i] ?? NaN;
    let y = 0;
    for (const a of all) y += a[i] ?? NaN;
    if (!Number.isFinite(x + y)) continue;
    n++;
    sx += x;
    sy += y;
    sxx += x * x;
    syy += y * y;
    sxy += x * y;
  }
  const spread = Math.sqrt(Math.max(0, n * sxx - sx * sx) * Math.max(0, n * syy - sy * sy));
  return n > 20 && spread > 0 && (n * sxy - sx * sy) / spread < -0.5;
}
