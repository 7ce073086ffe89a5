import { cardKindWords } from '../../card';
import type { Job } from '../../job';
import { formatQuantity, type TemperatureScale } from '../../quantity';
import { type Plan, cardOf, devicesOf, temperatureWords, type TemperatureWords } from '../../settings';
import { type Charger, sensorPlaceWords, wireText } from '../../system';
import type { Cell, Section } from '../paper';
import { cell } from './words';

function equipment(plan: Plan, device: Charger, units: TemperatureWords): readonly Cell[] {
  const card = cardOf(plan.input, device);
  const { sensor } = device;
  const isCharger = plan.input.system.chargers.some((c) => c.id === device.id);
  return [
    cell(device.name),
    cell(card ? `${card.maker} ${card.model}` : 'no card', undefined, card ? cardKindWords[card.kind] : undefined),
    cell(device.firmware ?? 'not read', device.firmware ? undefined : 'quiet'),
    cell(
      !isCharger && !plan.input.system.companions.some((c) => c.id === device.id && c.sensor)
        ? ''
        : sensor.fitted
          ? `fitted ${sensorPlaceWords[sensor.place]}, ± ${units.difference(sensor.errorC)}`
          : sensor.fitted === false
            ? 'none fitted'
            : 'not known',
      undefined,
      sensor.fitted && sensor.offsetC !== 0
        ? `reads ${sensor.offsetC < 0 ? '−' : '+'}${units.difference(Math.abs(sensor.offsetC))} against the cell while cold`
        : undefined,
    ),
    cell([device.fuseA ? `fuse ${device.fuseA} A` : '', device.wire ? wireText(device.wire) : ''].filter(Boolean).join(', ')),
  ];
}

/** The one-line drawing and every device with its sensor, fuse and cable. */
export function system(job: Job, plan: Plan, scale: TemperatureScale): Section {
  return {
    id: 'system',
    title: 'The system',
    blocks: [
      { kind: 'drawing', drawing: 'oneLine', caption: 'One-line drawing, worked out from what is entered' },
      {
        kind: 'table',
        columns: [
          { head: 'Device', share: 2 },
          { head: 'Model', share: 3 },
          { head: 'Firmware', share: 2 },
          { head: 'Battery sensor', share: 4 },
          { head: 'Fuse and cable', share: 3 },
        ],
        rows: devicesOf(plan.input).map((d) => equipment(plan, d, temperatureWords(scale))),
        empty: 'No charger is entered yet.',
      },
      {
        kind: 'text',
        tone: 'quiet',
        text: `Loads ${formatQuantity(job.system.loads.minA, 'A', 1)} at least, ${formatQuantity(job.system.loads.maxA, 'A', 1)} at most. Charge current ceiling ${plan.ceiling.binding ? `${formatQuantity(plan.ceiling.binding.amps, 'A', 0)} (${plan.ceiling.binding.name.toLowerCase()}, ${plan.ceiling.binding.sum})` : 'not given'}.`,
      },
    ],
  };
}
