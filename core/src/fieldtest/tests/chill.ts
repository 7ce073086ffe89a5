import { figureOnBank, statedFigure } from '../../sheet';
import { referenceC } from '../../settings';
import { formatQuantity, rectangular, said, warmth, warmthBy, type BudgetLine, type Sentence } from '../../quantity';
import { slopeRatio } from '../../proof';
import { fitLagged, type LaggedPoint } from '../fit';
import type { FieldTest, Subject } from '../definition';
import type { Plan } from '../../settings';
import { expectedVolts, isolate, measuredRow, putBack, requirement } from '../tools';
import type { TestRecord } from '../record';

/** Degrees the sensor has to be moved at least. */
const leastSpan = 5;
/** An ordinary temperature of a sensor before it is chilled, °C. */
const warmC = 20;
/** Room kept to the cutoff where one sensor serves both, beside the sensor's own error, °C. */
const roomC = 1;

/** How far a sensor may be chilled here, and what that does to the bank. */
export function chillLimits(plan: Plan, { device, card }: Subject): { coldestC: number; pushV: number; mostV: number; refused: Sentence | null } {
  const { sheet, system } = plan.input;
  const absorb = statedFigure(sheet, 'absorbVoltage');
  const equalise = statedFigure(sheet, 'equaliseVoltage');
  const top = (equalise && figureOnBank(equalise, plan.facts.shape).band.max) ?? (absorb && figureOnBank(absorb, plan.facts.shape).band.max) ?? Infinity;
  const mostV = Math.min(top, system.loads.maxVolts ?? Infinity);
  const cutoff = card.sensor.usedFor.includes('cutoff') ? (plan.setting(device.id, 'lowTempCutoff')?.trueValue ?? null) : null;
  const floorC = cutoff === null ? 1 : cutoff + device.sensor.errorC + roomC;
  const slope = (plan.setting(device.id, 'compensationSlope')?.trueValue ?? 0) * plan.facts.cells;
  const held = plan.setting(device.id, 'absorbVoltage')?.trueValue ?? 0;
  // The coldest at which the voltage stays under the maximum; the sheet’s own compensated maximum does not help loads or a bank that is warm.
  const bySlope = slope < 0 && Number.isFinite(mostV) ? referenceC(plan) + (mostV - held) / slope : -Infinity;
  const coldestC = Math.ceil(Math.max(floorC, bySlope));
  const pushV = expectedVolts(plan, device.id, 'absorbVoltage', coldestC) ?? held;
  const roomFromWarm = warmC - coldestC;
  return {
    coldestC,
    pushV,
    mostV,
    refused:
      pushV > mostV + 1e-6
        ? said`Even at ${warmth(coldestC, 0)} the chilled sensor would push the bank to ${formatQuantity(pushV, 'V', 2)}, above the ${formatQuantity(mostV, 'V', 2)} it or its loads allow. Test the slope with a log over warm and cold days instead.`
        : roomFromWarm < leastSpan
          ? said`Between ${warmth(coldestC, 0)}, where ${bySlope > floorC ? 'the voltage would pass the maximum' : 'the cutoff comes near'}, and an ordinary ${warmth(warmC, 0)} there are less than ${warmthBy(leastSpan, 0)}. Warm the sensor in the hand instead, with the battery itself measured warm.`
          : null,
  };
}

const points = (record: TestRecord): readonly LaggedPoint[] =>
  record.series.flatMap((a) => {
    const { celsius, volts, regulating } = a.values;
    if (typeof celsius !== 'number' || typeof volts !== 'number') return [];
    return [{ t: Date.parse(a.at) / 1000, celsius, volts, counts: regulating !== 'no' }];
  });

/** The sensor is chilled and warmed, and the voltage watched: slope and lag. */
export const chill: FieldTest = {
  code: 'chill',
  name: 'Chill the sensor, watch the voltage',
  purpose:
    'Compensation moves the voltage the charger holds; the current only follows. It can be seen only while the charger holds its voltage and has current to spare.',
  tools: ['multimeter at the battery', 'thermometer on the sensor', 'cold pack, cloth', 'watch'],
  proves: ['compensation', 'slopeAsProgrammed'],
  needs: () => ({ source: 'some', bank: 'absorb', bring: ['multimeter', 'thermometer', 'coldPack', 'watch'], minutes: 30 }),
  fits: (_plan, { device, card }) => device.sensor.fitted === true && card.parameters.some((p) => p.role === 'compensationSlope'),
  prepare: (plan, subject) => {
    const { device, card } = subject;
    const limits = chillLimits(plan, subject);
    const slope = (plan.setting(device.id, 'compensationSlope')?.trueValue ?? 0) * plan.facts.cells;
    const cuts = card.sensor.usedFor.includes('cutoff');
    const change = slope * (limits.coldestC - warmC);
    const by = Math.max(0.05, Math.abs(change) * 0.15);
    return {
      refused: limits.refused,
      expected: [
        {
          name: said`Change of voltage from ${warmth(warmC, 0)} down to ${warmth(limits.coldestC, 0)}`,
          band: { min: change - by, max: change + by },
          unit: 'V',
          digits: 2,
          why: `${formatQuantity(slope * 1000, 'mV/°C', 0)} for the bank, as programmed.`,
        },
        {
          name: 'Highest voltage this pushes the bank to',
          band: { max: limits.mostV },
          unit: 'V',
          digits: 2,
          why: said`${formatQuantity(limits.pushV, 'V', 2)} at ${warmth(limits.coldestC, 0)}.`,
        },
      ],
      steps: [
        isolate(plan, subject, 'keep'),
        {
          id: 'battery',
          kind: 'read',
          title: 'The battery itself',
          says: ['Measure the battery case, not the air. The sensor will no longer tell the charger how cold the battery is.'],
          fields: [{ id: 'celsius', name: 'Battery case', unit: '°C' }],
        },
        {
          id: 'holding',
          kind: 'read',
          title: 'Is it holding its voltage?',
          says: [
            'Absorb or float on its display, the voltage steady, and more source than it uses. In bulk the voltage cannot follow and this test shows nothing.',
          ],
          fields: [
            { id: 'volts', name: 'Voltage at the battery', unit: 'V' },
            { id: 'amps', name: 'Its current', unit: 'A' },
          ],
        },
        {
          id: 'readings',
          kind: 'series',
          title: 'Chill, and read as it moves',
          says: [
            said`Take the sensor off the battery, thermometer against it, both under the cold pack. Read both every half minute, down to ${warmth(limits.coldestC, 0)} and no further, and back up in the hand.`,
            ...(cuts ? ['On this charger the same sensor drives the cutoff: below that it stops, and the slope cannot be seen.'] : []),
            'Mark readings at which the charger had no current to spare.',
          ],
          caution: 'With the sensor off, the charger does not know the battery’s temperature: stay beside it.',
          fields: [
            { id: 'celsius', name: 'Sensor', unit: '°C' },
            { id: 'volts', name: 'Battery', unit: 'V' },
            { id: 'regulating', name: 'Current to spare', unit: '', choices: ['yes', 'no'], optional: true },
          ],
        },
        putBack(plan, subject, 'Sensor back on the battery case, under its tape, where it was.'),
      ],
    };
  },
  judge: (plan, { device }, record, instrument) => {
    const read = points(record);
    const fit = fitLagged(read);
    if (!fit || fit.spanC < leastSpan) return [];
    const perCell = (v: number): number => (v / plan.facts.cells) * 1000;
    const value = perCell(fit.slope);
    const budget: BudgetLine[] = [
      { name: `Scatter of ${read.length} readings about the line`, halfWidth: perCell(fit.standardError), divisor: 1, kind: 'random' },
      {
        name: said`Two readings of ${instrument.name}, resolution over ${warmthBy(fit.spanC, 0)}`,
        halfWidth: perCell((instrument.volts.resolution * Math.SQRT2) / fit.spanC),
        divisor: rectangular,
        kind: 'systematic',
      },
      {
        name: said`Thermometer ± ${warmthBy(instrument.temperatureErrorC)} over ${warmthBy(fit.spanC, 0)}`,
        halfWidth: (Math.abs(value) * instrument.temperatureErrorC * 0.5) / fit.spanC,
        divisor: rectangular,
        kind: 'systematic',
      },
    ];
    const { shape, cells } = plan.facts;
    const lag = `its sensor follows with ${formatQuantity(fit.lagS / 60, 'min', 1)} of lag`;
    return (['compensation', 'slopeAsProgrammed'] as const).flatMap((code) => {
      const req = requirement(plan, code, device.id);
      const asked = req ? ((req.band.min ?? 0) + (req.band.max ?? 0)) / 2 : 0;
      return measuredRow(
        plan,
        record,
        req,
        value,
        budget,
        said`Over ${warmthBy(fit.spanC, 0)} at the sensor the voltage ${device.name} held moved, per cell (${lag}), by`,
      ).map((row) => {
        const named = row.verdict === 'fail' ? slopeRatio(value, asked, shape.cellsPerBlock, Math.max(1, Math.round(cells / shape.cellsPerBlock))) : null;
        return named ? { ...row, why: said`${row.why} That is ${named}.` } : row;
      });
    });
  },
};
