import { roleInfo } from '../../../card';
import { formatBand, formatNumber, formatQuantity } from '../../../quantity';
import type { Assumable } from '../../../settings';
import { basisWords, chemistryWords, editionOf, figureInfo, rankWords, type Chemistry } from '../../../sheet';
import type { Language } from '../../language';
import type { Say } from '../../say';
import { counted, listed } from '../join';

type Words = Language['findings'];

/** What an assumed thing is called, and how its value is written. */
const assumedWords = (what: Assumable): { readonly name: string; readonly value: (value: string | number | boolean, say: Say) => string } => {
  const plain = (name: string) => ({ name, value: String });
  const celsius = (name: string) => ({ name, value: (value: string | number | boolean, say: Say) => say.celsius(Number(value)) });
  const amps = (name: string) => ({ name, value: (value: string | number | boolean, say: Say) => say.amps(Number(value)) });
  switch (what) {
    case 'chemistry':
      return { name: 'chemistry', value: (value) => chemistryWords[value as Chemistry] };
    case 'nominalVolts':
      return { name: 'volts', value: (value) => formatQuantity(Number(value), 'V', 1) };
    case 'cellsInSeries':
      return { name: 'cells in series', value: (value) => counted(Number(value), 'cell') };
    case 'unitsInSeries':
      return plain('batteries in series');
    case 'stringsInParallel':
      return plain('strings in parallel');
    case 'hasBms':
      return { name: 'whether there is a BMS', value: (value) => (value === true ? 'yes' : 'no') };
    case 'bankLowC':
      return celsius('the bank’s coldest');
    case 'bankHighC':
      return celsius('the bank’s hottest');
    case 'recordLowC':
      return celsius('the air’s record low');
    case 'recordHighC':
      return celsius('the air’s record high');
    case 'coolingCPerHour':
      return { name: 'the fastest cooling', value: (value, say) => `${say.degrees(Number(value))} an hour` };
    case 'minA':
      return amps('the least load');
    case 'maxA':
      return amps('the greatest load');
  }
};

/** The sheet and the bank it belongs to. */
export const bankFindings = {
  bankPastLimits: ({ way, count, most }) => ({
    text: `The bank has ${count} ${way === 'seriesMax' ? 'batteries in series' : 'strings in parallel'}. The sheet allows ${most}.`,
    hurts: way === 'seriesMax' ? 'Electronics in the batteries may not be rated for this voltage.' : 'One battery may carry the current of all the others.',
  }),
  basisSuspicious: ({ key, chemistry, perCell, min, max, slope, wouldFit }) => {
    const [scale, unit, digits] = slope ? [1000, 'mV/°C', 1] : [1, 'V', 2];
    const window = formatBand({ ...(min === null ? {} : { min: min * scale }), ...(max === null ? {} : { max: max * scale }) }, unit, digits);
    const fits = wouldFit.length === 0 ? '' : ` It would fit as a figure ${wouldFit.map((b) => basisWords[b]).join(' or ')}.`;
    return {
      text: `${figureInfo[key].name} comes to ${formatNumber(perCell * scale, digits)} ${unit} per cell. The normal range for ${chemistryWords[chemistry]} is ${window}.${fits}`,
      hurts: 'On the wrong basis every setpoint is wrong by a factor.',
    };
  },
  batteryNotSaid: ({ rows }, say) => ({
    text: `Nobody has entered the battery’s ${listed(rows.map((r) => assumedWords(r.what).name))}. ${rows.map((r) => assumedWords(r.what).value(r.value, say)).join(', ')} ${rows.length === 1 ? 'is' : 'are'} assumed.`,
    hurts: 'Every setpoint is worked out from them. Enter them from the battery’s label.',
  }),
  capacityNotSaid: ({ figures, stairs }) => {
    const by = [...figures.map((key) => figureInfo[key].name.toLowerCase()), ...(stairs ? ['the current when cold'] : [])];
    return {
      text: `Nobody has entered the capacity of the battery.${by.length === 0 ? '' : ` The sheet prints ${listed(by)} by it.`}`,
      hurts:
        by.length === 0
          ? 'A monitor cannot be set, and no day can be rehearsed. Enter it on Spec.'
          : 'These come to no amps and no minutes, and no limit is checked against them. Enter it on Spec.',
    };
  },
  systemNotSaid: ({ rows, meters }, say) => {
    const list = [
      ...rows.map((r) => `${assumedWords(r.what).name} (${assumedWords(r.what).value(r.value, say)})`),
      ...meters.map((m) => `the accuracy of ${m.name} (${formatNumber(m.percent, 1)} % and ${counted(m.digits, 'digit')})`),
    ];
    return {
      text: `Nobody has entered ${listed(list)}. The figures in brackets are assumed.`,
      hurts: 'Voltages, currents, cold protection and every ± rest on them. Enter them on System, or record that they are right.',
    };
  },
  bmsUnknown: ({ none }) =>
    none
      ? { text: 'This lithium bank has no BMS.', hurts: 'Nothing stops a cell from being overcharged or run flat. Do not program chargers for it.' }
      : { text: 'The BMS over-voltage trip is not on the sheet.', hurts: 'The distance from absorb to the trip cannot be checked. Ask the maker.' },
  bankReadsOther: ({ restingV, cells, chemistry, lowV, highV, fits }, say) => ({
    text: `The bank measures ${say.volts(restingV)} at rest. ${counted(cells, 'cell')} of ${chemistryWords[chemistry]} rest at ${say.voltsBand({ min: lowV, max: highV }, 1)}.${fits === null ? '' : ` ${counted(fits, 'cell')} would fit.`}`,
    hurts:
      'With another cell count every setpoint is wrong by a whole battery; with the right one the bank is empty or a lead is off. Look before anything is entered.',
  }),
  capacityWithoutReason: ({ percent, ratedAh, usedAh }, say) => ({
    text: `The bank counts with ${say.percent(percent)} of its ${say.ampHours(ratedAh)}, ${say.ampHours(usedAh)}, and no reason is entered.`,
    hurts: 'Times and currents rest on it. Enter the test or the age it comes from.',
  }),
  cellCountMismatch: ({ nominalV, cells, chemistry, usualV, fits }) => ({
    text: `${formatQuantity(nominalV, 'V', 1)} over ${counted(cells, 'cell')} is ${formatQuantity(nominalV / cells, 'V', 2)} per cell. ${chemistryWords[chemistry]} has ${formatQuantity(usualV, 'V', 2)}: ${counted(fits, 'cell')} would fit.`,
    hurts: 'Every figure printed per cell comes out wrong on this bank.',
  }),
  chargeEnableNotWired: () => ({
    text: 'The charge-enable contact of the BMS is not wired to the chargers.',
    hurts:
      'When one cell is full the BMS can only disconnect the whole bank. Wire the contact to enable inputs, field and brake. Never rely on the BMS to stop charging.',
  }),
  figuresNotSaid: ({ keys, counts }) => ({
    text: `Nobody has said whose ${keys.length === 1 ? 'figure this is' : 'figures these are'}: ${listed(keys.map((key) => figureInfo[key].name.toLowerCase()))}.`,
    hurts: counts
      ? 'They count, and may be another charger’s or nobody’s. Say what paper they come from.'
      : 'They do not count under “maker only” until somebody has said it.',
  }),
  figureMissing: ({ role, devices, withheld }, say) => ({
    text: withheld
      ? `No ${roleInfo[role].name} for ${listed(devices.map(say.name))}: the figure on the sheet is not the maker’s and does not count.`
      : `The sheet gives no figure for ${roleInfo[role].name} of ${listed(devices.map(say.name))}.`,
    hurts: 'The charger then uses its factory value. Ask the maker, or enter a figure from another source.',
  }),
  figureSuspicious: ({ key, what, value, likelier }, say) => {
    const said = {
      seconds: { reads: `${figureInfo[key].name} is ${say.duration(value)}`, likelier: `${say.duration(likelier ?? 0)} is likelier` },
      rateHigh: { reads: `${figureInfo[key].name} is ${formatNumber(value, 2)} C`, likelier: `${formatNumber(likelier ?? 0, 2)} C is likelier` },
      ampsLow: { reads: `${figureInfo[key].name} is ${say.amps(value)}`, likelier: `${formatNumber(value, 2)} C, ${say.amps(likelier ?? 0)}, is likelier` },
      fahrenheit: {
        reads: `${figureInfo[key].name} begins at ${formatNumber(value, 0)} °C`,
        likelier: `${formatNumber(value, 0)} °F, ${formatNumber(likelier ?? 0, 0)} °C, is likelier`,
      },
      capacity: {
        reads: `One battery is entered with ${say.ampHours(value)}`,
        likelier: `${say.ampHours(likelier ?? 0)} is likelier, if that number was watt-hours`,
      },
    }[what];
    return {
      text: `${said.reads}.${likelier === null ? '' : ` ${said.likelier}.`}`,
      hurts: 'No battery of this kind has such a figure: the unit or the point is most often wrong. Look at the paper.',
    };
  },
  leadCanFreeze: ({ bankLowC, leftPercent, freezesC, safePercent }, say) => ({
    text: `The bank falls to ${say.celsius(bankLowC)}. At about ${say.percent(leftPercent)} of charge its acid freezes at ${say.celsius(freezesC)}; from about ${say.percent(safePercent)} it stays liquid.`,
    hurts: 'Ice bursts the cells. In winter disconnect loads earlier, or charge more than the loads take.',
  }),
  leadTooWeak: ({ givesA, ratedAh, leastA, bySheet, chemistry }, say) => ({
    text: `All chargers together give at most ${say.amps(givesA)}${ratedAh === null ? '' : ` (${formatNumber(givesA / ratedAh, 3)} C)`}. ${bySheet || ratedAh === null ? 'The sheet requires at least' : `Usual for ${say.ampHours(ratedAh)} of ${chemistryWords[chemistry]} is`} ${say.amps(leastA)}.`,
    hurts: `${chemistry === 'flooded' ? 'The acid stratifies and the plates sulphate. Plan a longer absorb, equalising' : 'The plates sulphate. Plan a longer absorb'} or a second source.`,
  }),
  lowRank: ({ key, rank, counts }) =>
    counts
      ? { text: `${figureInfo[key].name} is not the maker’s figure: ${rankWords[rank]}.`, hurts: 'A warranty claim needs the maker’s paper.' }
      : {
          text: `${figureInfo[key].name} is not the maker’s figure (${rankWords[rank]}) and does not count under “maker only”.`,
          hurts: 'Settings that need it have no value until the maker’s figure is entered.',
        },
  newerRevision: ({ pinned, newer, count, some }) => ({
    text: `The job uses ${editionOf(pinned)}. ${newer.revision === '' ? 'A sheet' : `Revision ${newer.revision}`} of ${newer.date} is in the job too: ${count === 0 ? 'no figure differs' : `${counted(count, 'figure differs', 'figures differ')}, ${some.map((d) => `${d.name.toLowerCase()} ${d.before} to ${d.after}`).join('; ')}`}.`,
    hurts: 'Makers change figures for a reason, and a claim is judged by the sheet in force.',
  }),
  notTopBalanced: ({ cells }) => ({
    text: `The ${cells} cells in series were not top-balanced before their first charge.`,
    hurts: 'One cell reaches its limit while the pack voltage still looks harmless, and the BMS trips.',
  }),
  presetFigures: ({ keys }) => ({
    text: `${listed(keys.map((key) => figureInfo[key].name))} ${keys.length === 1 ? 'comes' : 'come'} from a charger’s preset.`,
    hurts: 'A preset knows neither this battery nor this site, and is mostly too low. Ask the battery’s maker.',
  }),
  siteSuspicious: ({ bankLowC, recordLowC }, say) => ({
    text: `The bank is entered as falling to ${say.celsius(bankLowC)}, colder than the coldest air on record, ${say.celsius(recordLowC)}.`,
    hurts: 'Cold cutoffs, compensation and array volts rest on the two. One of them is wrong.',
  }),
  slopeSign: ({ slope }, say) => ({
    text: `The compensation slope on the sheet is ${say.slope(slope)}, rising with temperature. A lead battery’s falls.`,
    hurts: 'With the sign reversed the bank is overcharged in the heat, where it can run away, and undercharged in the cold.',
  }),
  stringsApart: ({ lowV, highV, mostV }, say) => ({
    text: `The strings rest at ${say.volts(lowV)} to ${say.volts(highV)}, ${say.volts(highV - lowV)} apart. Join them only within ${say.volts(mostV)}.`,
    hurts: 'Joined now, one drives hundreds of amps into the other. First charge each by itself to the same voltage.',
  }),
} satisfies Partial<Words>;
