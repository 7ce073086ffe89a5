import { formatQuantity, said, warmth, warmthBy } from '../../quantity';
import { aliveStep, bathFor, cellsRow, coldestIn, warmerThanCells } from '../bath';
import type { FieldTest, Subject } from '../definition';
import { isolate, number, putBack, requirement, seenRow, word } from '../tools';
import type { Plan } from '../../settings';

const setpoint = (plan: Plan, { device }: Subject): number | null => plan.setting(device.id, 'thermostatSetpoint')?.trueValue ?? null;

/** The chargers a thermostat switches. */
const switched = (plan: Plan, { device }: Subject): readonly string[] => {
  const own = plan.input.system.companions.find((c) => c.id === device.id)?.switches ?? [];
  return plan.input.system.chargers.flatMap((c) => (own.includes(c.id) ? [c.id] : []));
};

/** The battery itself stands at least so far above the setpoint, °C. */
const aboveC = 5;

/** An external thermostat and its contact: the probe in a cold bath, the contact open, the current nothing, what else lost its supply, and warm again. */
export const thermostat: FieldTest = {
  code: 'thermostat',
  name: 'Thermostat and its contact in a cold bath',
  purpose:
    'A charger without a cutoff of its own is stopped by a thermostat. Its probe is chilled: the contact has to open, the current to be nothing, and what must stay alive to stay alive.',
  tools: ['thermometer', 'cup of crushed ice and water, salt for a setpoint below freezing', 'clamp meter', 'meter'],
  proves: ['noChargeBelowMinimum'],
  needs: (plan, subject) => ({
    source: 'some',
    bank: 'taking',
    bring: ['thermometer', 'coldBath', 'clampMeter', 'multimeter'],
    minutes: 30,
    warmC: (setpoint(plan, subject) ?? 0) + aboveC,
  }),
  fits: (plan, subject) => subject.card.kind === 'thermostat' && setpoint(plan, subject) !== null && switched(plan, subject).length > 0,
  speaksFor: switched,
  prepare: (plan, subject) => {
    const at = setpoint(plan, subject) ?? 0;
    const { sensor } = subject.device;
    const bath = bathFor(at, subject.device);
    const names = plan.input.system.chargers.flatMap((c) => (switched(plan, subject).includes(c.id) ? [c.name] : []));
    return {
      refused: null,
      expected: [
        {
          name: 'Contact opens, the probe at',
          band: { min: at - sensor.errorC - 1, max: at + sensor.errorC + 1 },
          unit: '°C',
          digits: 1,
          why: said`Setpoint ${warmth(at, 0)}, sensor ± ${warmthBy(sensor.errorC)}, and what the lag of thermometer and probe costs.`,
        },
      ],
      steps: [
        {
          id: 'cells',
          kind: 'read',
          title: 'Where the probe sits, cold and undisturbed',
          says: ['Before the sun: thermometer on the case of a cell, under tape, five minutes; and the temperature the thermostat shows.'],
          fields: [
            { id: 'cell', name: 'Cell case', unit: '°C' },
            { id: 'shown', name: 'Thermostat shows', unit: '°C' },
          ],
        },
        isolate(plan, subject, 'keep'),
        {
          id: 'warm',
          kind: 'read',
          title: 'The battery itself must be warm',
          says: [said`Above ${warmth(at + aboveC, 0)} on its case, and ${names.join(', ')} charging.`],
          caution: 'The contact breaks DC that can hold an arc: covers on, and nobody’s hand at it while it opens.',
          fields: [{ id: 'cell', name: 'Cell case', unit: '°C', expected: { min: at + aboveC } }],
        },
        {
          id: 'trip',
          kind: 'read',
          title: `Probe into the ${bath.name}`,
          says: [bath.says, 'Thermometer beside it, stirred. Note its temperature when the contact opens, and the current of each charger afterwards.'],
          fields: [
            { id: 'celsius', name: 'Probe when it opened', unit: '°C', expected: { min: at - sensor.errorC - 1, max: at + sensor.errorC + 1 } },
            { id: 'coldest', name: 'Coldest the probe was', unit: '°C', optional: true },
            { id: 'amps', name: 'Current after it opened, all together', unit: 'A', expected: { max: 0.5 } },
            { id: 'opened', name: 'Did it open', unit: '', choices: ['yes', 'no'] },
          ],
        },
        aliveStep(
          'Chargers still alive',
          'Charger and monitor are to stay powered; a machine that turns is stopped at its field or brake, never at its output.',
        ),
        {
          id: 'resume',
          kind: 'read',
          title: 'Warm it in the hand',
          says: ['Out of the bath, into the hand. Note its temperature when current flows again.'],
          fields: [{ id: 'celsius', name: 'Probe when it closed', unit: '°C', optional: true }],
        },
        putBack(plan, subject, 'Probe dried, and back on the cell case under its tape.'),
      ],
    };
  },
  judge: (plan, subject, record, instrument) => {
    const { device } = subject;
    const at = setpoint(plan, subject) ?? 0;
    const opened = word(record, 'trip', 'opened');
    const trip = number(record, 'trip', 'celsius');
    const amps = number(record, 'trip', 'amps');
    const warmerC = warmerThanCells(record);
    return switched(plan, subject).flatMap((id) => {
      const below = requirement(plan, 'noChargeBelowMinimum', id);
      if (!below) return [];
      if (opened === 'no') {
        const coldest = coldestIn(record, bathFor(at, device));
        return coldest !== null && coldest + instrument.temperatureErrorC < at - device.sensor.errorC
          ? seenRow(
              record,
              below,
              'fail',
              said`The contact of ${device.name} stayed closed with its probe at ${warmth(coldest)}: nothing stops the charge in the cold.`,
            )
          : seenRow(
              record,
              below,
              'inconclusive',
              `The contact of ${device.name} stayed closed, and its probe may still have been above its setpoint.`,
              'A colder bath, measured beside the probe, would settle it.',
            );
      }
      if (opened !== 'yes' || trip === undefined) return [];
      if (amps === undefined)
        return seenRow(
          record,
          below,
          'inconclusive',
          said`The contact of ${device.name} opened at ${warmth(trip)}; the current afterwards was not read.`,
          'A clamp meter on each charger’s output, contact open, would settle it.',
        );
      if (amps > below.zeroA)
        return seenRow(record, below, 'fail', `With the contact of ${device.name} open ${formatQuantity(amps, 'A', 1)} still flowed. That is charging.`);
      if (warmerC === null)
        return seenRow(
          record,
          below,
          'inconclusive',
          said`The contact of ${device.name} opens with its probe at ${warmth(trip)}. How far that lies from the cells was not measured.`,
          'Cell case and the thermostat’s reading, side by side on a cold morning, would settle it.',
        );
      return cellsRow(plan, record, below, instrument, {
        tripC: trip,
        warmerC,
        what: 'probe',
        told: (warmer) => said`${device.name}’s probe reads ${warmer} than the cells, so charging stops with the cells at`,
      });
    });
  },
};
