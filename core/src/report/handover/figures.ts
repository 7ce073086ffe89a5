import { formatBand, formatQuantity, formatTemperature, type TemperatureScale } from '../../quantity';
import type { Plan } from '../../settings';
import { figureInfo, figureKeys, figureOnBank, paperOf, printWithBasis, rankWords } from '../../sheet';
import type { Block, Cell, Section } from '../paper';
import { cell } from './words';

/** The maker’s figures as printed and on this bank, with their sources. */
export function figures(plan: Plan, scale: TemperatureScale): Section {
  const { sheet, otherSheets } = plan.input;
  const stated = figureKeys.flatMap((key): readonly Cell[][] => {
    const figure = sheet.figures[key];
    if (!figure) return [];
    const bank = figure.state === 'stated' && figure.unit === 'V' ? figureOnBank(figure, plan.facts.shape) : null;
    const onBank = bank
      ? [
          bank.target === undefined ? '' : formatQuantity(bank.target, 'V', 2),
          bank.band.min === undefined && bank.band.max === undefined ? '' : formatBand(bank.band, 'V', 2),
        ]
          .filter(Boolean)
          .join(', ')
      : '';
    return [
      [
        cell(figureInfo[key].name),
        cell(printWithBasis(figure)),
        cell(onBank),
        cell([figure.from, figure.page].filter(Boolean).join(', ') || 'the sheet', undefined, rankWords[figure.rank]),
      ],
    ];
  });
  const blocks: Block[] = [
    {
      kind: 'facts',
      rows: [
        { name: 'Document', text: `${paperOf(sheet)}${sheet.fetched ? `, fetched ${sheet.fetched}` : ''}` },
        ...otherSheets.map((s) => ({ name: 'Also in this job, not used', text: `${s.maker} ${s.battery}, ${paperOf(s)}` })),
      ],
    },
    {
      kind: 'table',
      columns: [
        { head: 'Figure', share: 3 },
        { head: 'As printed', share: 4, figures: true },
        { head: 'On this bank', share: 4, figures: true },
        { head: 'Source', share: 4 },
      ],
      rows: stated,
      empty: 'No figure is entered yet.',
    },
  ];
  if (plan.stairs.length > 0)
    blocks.push({
      kind: 'list',
      items: plan.stairs.map((s) => cell(`From ${formatTemperature(s.fromC, scale)}: at most ${formatQuantity(s.amps, 'A', 0)} into the bank`)),
      empty: '',
    });
  if (sheet.advice) blocks.push({ kind: 'text', tone: 'quiet', text: sheet.advice });
  return { id: 'figures', title: 'The maker’s figures', blocks };
}
