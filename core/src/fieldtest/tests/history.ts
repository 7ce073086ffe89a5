import { formatQuantity, rectangular, said, warmthBy, type BudgetLine } from '../../quantity';
import type { FieldTest } from '../definition';
import type { TestAnswer, TestRecord } from '../record';
import { compensationOf, referenceC } from '../../settings';
import { measuredRow, requirement, seenRow } from '../tools';
import type { ProofRow } from '../../proof';

/** Without the battery’s temperature of a day a compensated level lies anywhere within so many degrees, °C. */
const dayC = 15;

/** One day of a history page. */
interface HistoryDay {
  readonly highest: number;
  readonly absorbMinutes: number | null;
  readonly celsius: number | null;
}

const days = (record: TestRecord): readonly HistoryDay[] =>
  record.series.flatMap((a: TestAnswer) => {
    const { highest, absorb, celsius } = a.values;
    return typeof highest === 'number'
      ? [{ highest, absorbMinutes: typeof absorb === 'number' ? absorb : null, celsius: typeof celsius === 'number' ? celsius : null }]
      : [];
  });

/** What a charger keeps of the days before: less than a log, and more than nothing. */
export const history: FieldTest = {
  code: 'history',
  name: 'From its history page',
  purpose: 'Many chargers keep the highest voltage and the minutes in absorb of the last days. Read them off: they weigh less than a log, and never prove.',
  tools: ['its display or its app'],
  proves: ['neverAboveMaximum', 'absorbLevel', 'absorbAsProgrammed', 'absorbCompleted'],
  needs: () => ({ source: 'none', bank: 'any', bring: [], minutes: 10 }),
  fits: (plan, { device }) => plan.setting(device.id, 'absorbVoltage')?.trueValue != null,
  prepare: (plan, { device }) => {
    const told = plan.setting(device.id, 'absorbVoltage');
    return {
      refused: null,
      expected: [
        {
          name: 'Highest voltage of a day that reached absorb',
          band: told?.band ?? {},
          unit: 'V',
          digits: 2,
          why: `${device.name} is set to ${formatQuantity(told?.trueValue ?? 0, 'V', 2)}.`,
        },
      ],
      steps: [
        {
          id: 'readings',
          kind: 'series',
          title: 'One line a day',
          says: ['Open its history page. Enter each day with its date under “Taken at”. Leave out days on which somebody tested or changed something.'],
          fields: [
            { id: 'highest', name: 'Highest voltage', unit: 'V', ...(told?.band ? { expected: told.band } : {}) },
            { id: 'absorb', name: 'Minutes in absorb', unit: 'min', optional: true },
            { id: 'celsius', name: 'Battery that day', unit: '°C', optional: true },
          ],
        },
      ],
    };
  },
  judge: (plan, { device, card }, record): readonly ProofRow[] => {
    const read = days(record);
    if (read.length === 0) return [];
    const told = { ...record, grade: 'history' as const };
    const moves = compensationOf(plan, device.id);
    const slope = moves?.roles.includes('absorbVoltage') ? moves.slope : 0;
    const zero = referenceC(plan);
    const referred = (d: HistoryDay): number => d.highest - (d.celsius === null ? 0 : slope * (d.celsius - zero));
    const shown: BudgetLine = {
      name: `${device.name} shows steps of ${formatQuantity(card.display.stepV, 'V', 2)}`,
      halfWidth: card.display.stepV / 2,
      divisor: rectangular,
      kind: 'systematic',
    };
    const warmth = (d: HistoryDay): BudgetLine[] =>
      slope === 0 || d.celsius !== null
        ? []
        : [
            {
              name: said`The battery’s temperature of that day is not known: ± ${warmthBy(dayC, 0)} × slope`,
              halfWidth: Math.abs(slope) * dayC,
              divisor: rectangular,
              kind: 'systematic',
            },
          ];
    const high = read.reduce((a, b) => (referred(b) > referred(a) ? b : a));
    const of = read.length === 1 ? 'On the one day' : `On the highest of ${read.length} days`;
    const most = requirement(plan, 'neverAboveMaximum');
    const rows = measuredRow(plan, told, most, referred(high), [shown, ...(most?.compensation ? warmth(high) : [])], `${of} its history has`);
    const levels = (['absorbLevel', 'absorbAsProgrammed'] as const).flatMap((code): readonly ProofRow[] => {
      const req = requirement(plan, code, device.id);
      const least = req?.band.min ?? -Infinity;
      // A day without enough sun stays below; that is no fault of the level.
      if (referred(high) < least)
        return seenRow(
          told,
          req,
          'inconclusive',
          `${of} its history has ${formatQuantity(high.highest, 'V', 2)}: below the level, be it set lower or never reached.`,
          'A log of a sunny day would tell the two apart.',
        );
      return measuredRow(plan, told, req, referred(high), [shown, ...warmth(high)], `${of} its history has`);
    });
    const timed = read.filter((d) => d.absorbMinutes !== null);
    const done = requirement(plan, 'absorbCompleted', device.id);
    const shortest = timed.reduce<HistoryDay | null>((a, b) => (a === null || (b.absorbMinutes ?? 0) < (a.absorbMinutes ?? 0) ? b : a), null);
    const asked = done?.band.min;
    const completed =
      !done || shortest === null || asked === undefined
        ? []
        : (shortest.absorbMinutes ?? 0) * 60 >= asked
          ? seenRow(
              told,
              done,
              'stated',
              `Its history has at least ${formatQuantity(shortest.absorbMinutes ?? 0, 'min', 0)} of absorb on each of ${timed.length} ${timed.length === 1 ? 'day' : 'days'}; ${formatQuantity(asked / 60, 'min', 0)} are asked.`,
            )
          : seenRow(
              told,
              done,
              'inconclusive',
              `Its history has only ${formatQuantity(shortest.absorbMinutes ?? 0, 'min', 0)} of absorb on the shortest of ${timed.length} ${timed.length === 1 ? 'day' : 'days'}; ${formatQuantity(asked / 60, 'min', 0)} are asked. A fallen current may have ended it, or the evening.`,
              'A log of such a day would tell which.',
            );
    return [...rows, ...levels, ...completed];
  },
};
