import { parameterFor, type Role } from '../card';
import { formatNumber } from '../quantity';
import type { Job } from '../job';
import { cardOf, deriveSettings, type Plan } from '../settings';
import { capacityText, chemistryWords, countsPer, editionOf, figureInfo, isLithium, paperOf, shownUnit, type FigureKey } from '../sheet';

/** Which figures a charger's setting is worked out from. */
const figuresOf: Partial<Record<Role, readonly FigureKey[]>> = {
  absorbVoltage: ['absorbVoltage'],
  absorbTime: ['absorbTime'],
  taperCurrent: ['taperCurrent'],
  floatVoltage: ['floatVoltage'],
  rechargeVoltage: ['rechargeVoltage'],
  compensationSlope: ['compensationSlope', 'compensationReference'],
  lowTempCutoff: ['chargeTemperature', 'coolingRate'],
  chargeCurrentLimit: ['chargeCurrentMax'],
  equaliseEnabled: ['equaliseVoltage'],
  equaliseVoltage: ['equaliseVoltage'],
  equaliseTime: ['equaliseTime'],
  equaliseInterval: ['equaliseInterval'],
  loadDisconnect: ['disconnectVoltage'],
  loadReconnect: ['reconnectVoltage'],
};

/** What a lithium bank must know of its BMS, whatever the chargers offer, and what for. */
const bmsFigures: readonly (readonly [FigureKey, string])[] = [
  ['bmsOverVoltage', 'how far absorb stays below it'],
  ['bmsCellOverVoltage', 'how much the cells may differ'],
  ['bmsRelease', 'how the bank is woken after a trip'],
];

/** A figure the chosen chargers need and the sheet lacks. */
export interface NeededFigure {
  readonly key: FigureKey;
  /** Who needs it, in words: "Solar fore, Solar aft (Top level)". */
  readonly neededFor: string;
}

/** Figures that the chosen chargers need and that the sheet, as the reference policy lets it count, does not give. In the order of a sheet. */
export function neededFigures(plan: Plan): readonly NeededFigure[] {
  const { sheet, system } = plan.input;
  const wanted = new Map<FigureKey, string[]>();
  const want = (key: FigureKey, by: string): void => {
    const carried = (figureInfo[key].chemistries as readonly string[]).includes(sheet.chemistry);
    // An equalise or compensation that is not permitted answers its details too.
    const parent: FigureKey | null = key.startsWith('equalise') ? 'equaliseVoltage' : key.startsWith('compensation') ? 'compensationSlope' : null;
    const answered = sheet.figures[key] !== undefined || (parent !== null && sheet.figures[parent] !== undefined && sheet.figures[parent].state !== 'stated');
    if (carried && !answered) wanted.set(key, [...(wanted.get(key) ?? []), by]);
  };
  for (const charger of system.chargers) {
    const card = cardOf(plan.input, charger);
    if (!card) continue;
    for (const [role, keys] of Object.entries(figuresOf) as [Role, readonly FigureKey[]][])
      if (parameterFor(card, role) && !(role === 'compensationSlope' && isLithium(sheet.chemistry))) for (const key of keys) want(key, charger.name);
  }
  if (isLithium(sheet.chemistry) && system.chargers.length > 0) for (const [key, why] of bmsFigures) want(key, why);
  return (Object.keys(figureInfo) as FigureKey[]).flatMap((key) => {
    const by = wanted.get(key);
    return by ? [{ key, neededFor: [...new Set(by)].join(', ') }] : [];
  });
}

/** A letter as a model: screens, files and mail make of it what they need. */
export interface Letter {
  readonly to: string;
  readonly subject: string;
  readonly body: string;
  readonly lines: readonly NeededFigure[];
}

/**
 * The letter that asks the maker for the figures that are missing, naming battery, bank, chargers and each figure with its unit.
 * Only what stands in the job is in it; people and addresses are for the writer to add.
 */
export function requestLetter(job: Job): Letter {
  const plan = deriveSettings(job);
  const { sheet, system } = job;
  const { bank } = system;
  const lines = neededFigures(plan);
  const units = bank.unitsInSeries * bank.stringsInParallel;
  const battery = `${sheet.maker} ${sheet.battery}`.trim();
  const chargers = system.chargers.flatMap((c) => {
    const card = cardOf(job, c);
    return card ? [`- ${c.name}: ${card.maker} ${card.model}, ${formatNumber(card.ratings.outputA, 0)} A`] : [];
  });
  const asks = lines.map(({ key, neededFor }, i) => {
    const units = figureInfo[key].units.map((unit) => shownUnit[unit].text).join(' or ');
    const counted = countsPer(figureInfo[key].units[0]) ? ', and whether it counts per cell, per battery or for the bank' : '';
    return `${i + 1}. ${figureInfo[key].name}, in ${units}${counted}. Needed for: ${neededFor}.`;
  });
  const body = [
    'Good day,',
    '',
    `we set the chargers of a bank of ${units} × ${battery} (${chemistryWords[sheet.chemistry]}): ${bank.unitsInSeries} in series, ${bank.stringsInParallel} ${bank.stringsInParallel === 1 ? 'string' : 'strings in parallel'}, ${formatNumber(plan.facts.nominalVolts, 1)} V, ${capacityText(plan.facts.ratedAh)}.`,
    `We go by your document “${sheet.document}”, ${editionOf(sheet)}. It does not give the following:`,
    '',
    ...asks,
    '',
    'The chargers:',
    ...chargers,
    '',
    'Please give each figure as a band where you allow one, or write “not permitted” or “not needed”, and name the document and revision it is in. We file your answer with the settings of this bank.',
    '',
  ].join('\n');
  return { to: sheet.maker, subject: `Charging figures for ${battery}, ${paperOf(sheet)}`, body, lines };
}
