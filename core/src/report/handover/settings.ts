import { displayText, parameterFor, roleInfo } from '../../card';
import { type Job, lastSnapshot } from '../../job';
import { speak, type TemperatureScale } from '../../quantity';
import { verifiedWords } from '../../runsheet';
import {
  type Plan,
  type Setting,
  type Step,
  allowedText,
  atBatteryText,
  cardOf,
  deviceName,
  devicesOf,
  fateWords,
  keyedText,
  stepFigure,
  temperatureWords,
} from '../../settings';
import type { Block, Cell, Section, SumLine } from '../paper';
import { cell, moment } from './words';

/** Every setting of every device: menu, what is keyed, what that makes, what the sheet allows, what was read back. */
export function settings(job: Job, plan: Plan, sums: boolean, scale: TemperatureScale): Section {
  const name = (id: string): string => deviceName(plan.input, id);
  const blocks: Block[] = [{ kind: 'drawing', drawing: 'ladder', caption: 'Every setpoint in true volts at the bank, over the maker’s bands' }];
  for (const device of devicesOf(plan.input)) {
    const own = plan.settings.filter((s) => s.charger === device.id);
    const shot = lastSnapshot(job, device.id, ['readBack', 'powerCycle']);
    blocks.push(
      {
        kind: 'heading',
        text: device.name,
        beside: shot ? `${verifiedWords[shot.verified]}, ${moment(shot.at)}, by ${shot.by || 'nobody named'}` : 'not read back yet',
      },
      {
        kind: 'table',
        columns: [
          { head: 'Menu', share: 11 },
          { head: 'Set', share: 6, figures: true },
          { head: 'At the battery', share: 7, figures: true },
          { head: 'The sheet allows', share: 7, figures: true },
          { head: 'Read back', share: 5, figures: true },
          { head: 'Remark', share: 6 },
        ],
        rows: own.map((s) => settingRow(plan, s, shot?.values[s.role], name, scale)),
        empty: 'No setting is worked out: the job carries no card for it.',
      },
    );
    if (sums) for (const s of own) if (s.value !== null && s.derivation.length > 1) blocks.push(sum(s, scale));
  }
  return { id: 'settings', title: 'Settings, charger by charger', blocks };
}

function settingRow(plan: Plan, s: Setting, read: number | string | undefined, name: (id: string) => string, scale: TemperatureScale): readonly Cell[] {
  const units = temperatureWords(scale);
  const device = devicesOf(plan.input).find((d) => d.id === s.charger);
  const card = device && cardOf(plan.input, device);
  const parameter = card && parameterFor(card, s.role);
  const readText = read === undefined ? '' : plainValue(parameter ? displayText(parameter, read) : String(read));
  const otherwise = read !== undefined && s.value !== null && !s.inherited && read !== s.value;
  const fate = fateWords(s, name);
  return [
    cell([...s.menu, s.label].join(' › '), undefined, roleInfo[s.role].name === s.label.toLowerCase() ? undefined : roleInfo[s.role].name),
    cell(keyedText(s)),
    cell(s.off ? 'off' : atBatteryText(s, units)),
    cell(allowedText(s, units)),
    cell(readText, otherwise ? 'stop' : undefined),
    cell(
      s.override ? 'outside the sheet, by choice' : fate,
      s.override || s.within === 'outside' ? 'stop' : 'quiet',
      s.value === null ? leftWords(s, scale) : undefined,
    ),
  ];
}

/** A choice without its quotation marks. */
const plainValue = (text: string): string => text.replace(/^“(.*)”$/, '$1');

/** Why nothing is keyed: the last note of its sum. */
const leftWords = (s: Setting, scale: TemperatureScale): string => speak(s.derivation.findLast((step) => step.kind === 'note')?.words ?? '', scale);

const figureWithUnit = (step: Step, scale: TemperatureScale): string => {
  const { figure, unit } = stepFigure(step, scale);
  return `${figure}${unit && figure ? ` ${unit}` : ''}`;
};

function sum(s: Setting, scale: TemperatureScale): Block {
  const lines = s.derivation.map((step): SumLine => ({
    words: speak(step.words, scale),
    figure: figureWithUnit(step, scale),
    kind: step.kind === 'set' || step.kind === 'subtotal' || step.kind === 'note' ? step.kind : 'line',
  }));
  return {
    kind: 'sum',
    title: `${roleInfo[s.role].name}: ${keyedText(s)}`,
    lines,
    sources: [...new Set(s.derivation.flatMap((step) => (step.source ? [step.source] : [])))],
  };
}
