import { formatQuantity, said, warmth, warmthBy, type Sentence } from '../../quantity';
import { aliveStep, bathFor, cellsRow, coldestIn, warmerThanCells } from '../bath';
import type { Plan } from '../../settings';
import { leastHysteresisC } from '../../system';
import type { FieldTest } from '../definition';
import { isolate, measuredRow, number, putBack, reading, requirement, seenRow, word } from '../tools';

/** The battery itself stands at least so far above the resume temperature, °C. */
const aboveC = 3;

/** Where a charger may charge again, °C. */
const resumeOf = (plan: Plan, device: string): number =>
  plan.setting(device, 'lowTempResume')?.trueValue ?? (plan.setting(device, 'lowTempCutoff')?.trueValue ?? 0) + leastHysteresisC;

/** The sensor in a cold bath: trip, resume, and how far what it reads lies from the cells. */
export const lowTemperature: FieldTest = {
  code: 'lowTemperature',
  name: 'Low-temperature cutoff in a cold bath',
  purpose:
    'With the sensor in ice water, or in ice with salt for a cutoff below freezing, the charger has to stop; warmed again it has to resume. And what the sensor reads on a cold bank has to be the cells’ own temperature.',
  tools: ['thermometer', 'cup of crushed ice and water, salt for a cutoff below freezing', 'clamp meter or the charger’s own current', 'watch'],
  proves: ['cutoffAsProgrammed', 'resumeAsProgrammed', 'noChargeBelowMinimum'],
  needs: (plan, { device }) => ({
    source: 'some',
    bank: 'taking',
    bring: ['thermometer', 'coldBath', 'clampMeter', 'watch'],
    minutes: 30,
    warmC: resumeOf(plan, device.id) + aboveC,
  }),
  fits: (plan, { device }) => plan.setting(device.id, 'lowTempCutoff')?.trueValue != null,
  prepare: (plan, subject) => {
    const { device } = subject;
    const cutoff = plan.setting(device.id, 'lowTempCutoff')?.trueValue ?? 0;
    const resume = resumeOf(plan, device.id);
    const error = device.sensor.errorC;
    const bath = bathFor(cutoff, device);
    return {
      refused: device.sensor.fitted
        ? null
        : device.sensor.fitted === undefined
          ? `Nobody has said whether the battery sensor of ${device.name} is fitted. Look, say it on System, then begin.`
          : `${device.name} has no battery sensor: there is nothing to chill. What protects the bank is tested instead: a thermostat with its relay, or the BMS by its maker’s manual.`,
      expected: [
        {
          name: 'Stops, the sensor at',
          band: { min: cutoff - error - 1, max: cutoff + error + 1 },
          unit: '°C',
          digits: 1,
          why: said`Cutoff ${warmth(cutoff, 0)}, sensor ± ${warmthBy(error)}, and what the lag of thermometer and sensor costs.`,
        },
        {
          name: 'Resumes, the sensor at',
          band: { min: resume - error - 1, max: resume + error + 1 },
          unit: '°C',
          digits: 1,
          why: said`Resume ${warmth(resume, 0)}.`,
        },
      ],
      steps: [
        {
          id: 'cells',
          kind: 'read',
          title: 'Where the sensor sits, cold and undisturbed',
          says: [
            'Before the sun and before the sensor is touched, at the coldest hour you can have: thermometer on the case of a cell, under tape, five minutes; and the temperature the charger shows.',
          ],
          fields: [
            { id: 'cell', name: 'Cell case', unit: '°C' },
            { id: 'shown', name: 'Charger shows', unit: '°C' },
          ],
        },
        isolate(plan, subject, 'keep'),
        {
          id: 'warm',
          kind: 'read',
          title: 'The battery itself must be warm',
          says: [said`Above ${warmth(resume + aboveC, 0)} on its case. Warming the probe of a truly cold bank would let it charge.`],
          caution: 'Lithium charged below its least temperature is harmed for good and can become dangerous.',
          fields: [{ id: 'cell', name: 'Cell case', unit: '°C', expected: { min: resume + aboveC } }],
        },
        {
          id: 'trip',
          kind: 'read',
          title: `Sensor into the ${bath.name}`,
          says: [
            bath.says,
            'Thermometer beside it, stirred. Note its temperature when the current falls, how long that took, and whether the current is really nothing.',
          ],
          fields: [
            { id: 'celsius', name: 'Sensor when it stopped', unit: '°C', expected: { min: cutoff - error - 1, max: cutoff + error + 1 } },
            { id: 'coldest', name: 'Coldest the sensor was', unit: '°C', optional: true },
            { id: 'delay', name: 'Time in the bath until then', unit: 's', optional: true },
            { id: 'amps', name: 'Current after it stopped', unit: 'A', expected: { max: 0.5 } },
            { id: 'stopped', name: 'Did it stop', unit: '', choices: ['yes', 'no'] },
          ],
        },
        aliveStep('Charger still alive', 'A relay between charger and battery takes the charger’s supply away, and the monitor’s count with it.'),
        {
          id: 'resume',
          kind: 'read',
          title: 'Warm it in the hand',
          says: ['Out of the bath, into the hand. Note its temperature when current flows again.'],
          fields: [{ id: 'celsius', name: 'Sensor when it resumed', unit: '°C', expected: { min: resume - error - 1, max: resume + error + 1 } }],
        },
        putBack(plan, subject, 'Sensor dried, and back on the cell case under its tape.'),
      ],
    };
  },
  judge: (plan, { device }, record, instrument) => {
    const trip = number(record, 'trip', 'celsius');
    const resumed = number(record, 'resume', 'celsius');
    const warmerC = warmerThanCells(record);
    const amps = number(record, 'trip', 'amps');
    const stopped = word(record, 'trip', 'stopped');
    const below = requirement(plan, 'noChargeBelowMinimum', device.id);
    const lagged = { name: 'Lag between thermometer and sensor', halfWidth: 0.5, divisor: Math.sqrt(3), kind: 'systematic' as const };
    if (stopped === 'no') {
      const cutoff = plan.setting(device.id, 'lowTempCutoff')?.trueValue ?? 0;
      const bath = bathFor(cutoff, device);
      const coldest = coldestIn(record, bath);
      const went = coldest === null ? '' : said`${device.name} went on charging with its sensor at ${warmth(coldest)}`;
      // Above its cutoff, as far as one can tell, it must not stop.
      if (coldest === null || coldest + instrument.temperatureErrorC >= cutoff - device.sensor.errorC) {
        const why =
          coldest === null ? `${device.name} did not stop, and nobody noted how cold its sensor was.` : said`${went}, which may still be above its cutoff.`;
        const next = said`${bath.name === 'ice water' ? 'Ice water' : 'Ice with salt'} well below ${warmth(cutoff - device.sensor.errorC, 0)}, measured beside the sensor, would settle it.`;
        return [
          ...seenRow(record, requirement(plan, 'cutoffAsProgrammed', device.id), 'inconclusive', why, next),
          ...seenRow(record, below, 'inconclusive', why, next),
        ];
      }
      return [
        ...seenRow(record, requirement(plan, 'cutoffAsProgrammed', device.id), 'fail', said`${went}.`),
        ...seenRow(record, below, 'fail', said`${went}: it has no cold protection.`),
      ];
    }
    const rows = [
      ...(trip === undefined
        ? []
        : measuredRow(
            plan,
            record,
            requirement(plan, 'cutoffAsProgrammed', device.id),
            trip,
            [...reading(instrument, trip, '°C'), lagged],
            `${device.name} stopped with its sensor at`,
          )),
      ...(resumed === undefined
        ? []
        : measuredRow(
            plan,
            record,
            requirement(plan, 'resumeAsProgrammed', device.id),
            resumed,
            [...reading(instrument, resumed, '°C'), lagged],
            `${device.name} resumed with its sensor at`,
          )),
    ];
    if (trip === undefined || !below) return rows;
    if (amps !== undefined && amps > below.zeroA)
      return [...rows, ...seenRow(record, below, 'fail', `After it “stopped”, ${formatQuantity(amps, 'A', 1)} still flowed. That is charging.`)];
    if (warmerC === null)
      return [
        ...rows,
        ...seenRow(
          record,
          below,
          'inconclusive',
          said`${device.name} stops with its sensor at ${warmth(trip)}. How far that lies from its cells was not measured.`,
          'Cell case and the charger’s reading, side by side on a cold morning, would settle it.',
        ),
      ];
    const pad = warmerC > 2 ? ' (it sits on a pad, in the air, or by something warm)' : '';
    const told = (warmer: Sentence): Sentence => said`Its sensor reads ${warmer} than the cells${pad}, so charging stops with the cells at`;
    return [...rows, ...cellsRow(plan, record, below, instrument, { tripC: trip, warmerC, what: 'sensor', told })];
  },
};
