import { family, parameterFor, type Role } from '../card';
import type { Job } from '../job';
import { formatDuration, formatNumber, formatTemperature, type TemperatureScale } from '../quantity';
import { lastWord } from '../runsheet';
import { cardOf, devicesOf, keyedText, referenceC, type Plan } from '../settings';
import { figureOnBank, isLithium, statedFigure } from '../sheet';
import { lowestTrip } from '../system';
import type { Block, Cell, Paper } from './paper';
import { readBackOf } from './readBack';

/** What a display may be off before anybody is called, V. */
const displaySlack = 0.2;

const cell = (text: string, below?: string): Cell => ({ text, ...(below ? { below } : {}) });

/**
 * One page for whoever lives with the bank: what normal looks like on the displays, what to call about, what never to press. Plain words; values as the
 * displays show them, and whether anybody has seen them there.
 *
 * @param date year-month-day
 */
export function ownersCard(job: Job, plan: Plan, date: string, scale: TemperatureScale = 'C'): Paper {
  return {
    title: job.name,
    lines: [`For whoever looks after it. ${howFar(job, plan, date)}`],
    foot: lastWord,
    sections: [
      { id: 'normal', title: 'What normal looks like', blocks: normal(plan, scale) },
      { id: 'call', title: 'Call when', blocks: [{ kind: 'list', items: calls(plan, scale), empty: '' }] },
      { id: 'never', title: 'Never', blocks: [{ kind: 'list', items: nevers(plan), empty: '' }] },
      {
        id: 'who',
        title: 'Whom to call',
        blocks: [{ kind: 'text', text: 'Name and number: ______________________________   Job: ' + job.name, tone: 'quiet' }],
      },
    ],
  };
}

/** How far the values of this page were seen on the devices. It is said at the head, so that the card stays one page. */
function howFar(job: Job, plan: Plan, date: string): string {
  const chargers = plan.input.system.chargers.map((c) => ({ name: c.name, shot: readBackOf(job, plan, c.id) }));
  const names = (list: typeof chargers): string => list.map((c) => c.name).join(', ');
  const [seen, rest] = [chargers.filter((c) => c.shot), chargers.filter((c) => !c.shot)];
  if (seen.length === 0) return `Worked out on ${date}, and not read back on any charger yet: a display may show other values.`;
  const last =
    seen
      .map((c) => c.shot?.date ?? '')
      .sort()
      .at(-1) ?? '';
  return rest.length === 0
    ? `Settings as they were read back on each charger, last on ${last}.`
    : `Read back on ${names(seen)}, last on ${last}. Worked out on ${date} for ${names(rest)}: a display there may show other values.`;
}

/** A value as the display shows it, where it is keyed. */
function shown(plan: Plan, device: string, role: Role): string | null {
  const s = plan.setting(device, role);
  return s?.value != null && !s.off ? keyedText(s) : null;
}

function normal(plan: Plan, scale: TemperatureScale): readonly Block[] {
  const rows = plan.input.system.chargers.flatMap((charger): readonly Cell[][] => {
    const card = cardOf(plan.input, charger);
    if (!card) return [];
    const absorb = shown(plan, charger.id, 'absorbVoltage');
    const time = plan.setting(charger.id, 'absorbTime');
    const float = plan.setting(charger.id, 'floatVoltage');
    const minutes = typeof time?.trueValue === 'number' ? `, for about ${formatDuration(time.trueValue)}` : '';
    const cold = plan.setting(charger.id, 'lowTempCutoff');
    return [
      [
        cell(charger.name),
        cell(absorb ? `${absorb}${minutes}` : 'no display of its own figure'),
        cell(float?.value == null || float.off ? 'charging stops until it is needed' : keyedText(float)),
        cell(
          cold?.trueValue == null || cold.off
            ? ''
            : charger.sensor.fitted
              ? `stops below ${formatTemperature(cold.trueValue, scale)}`
              : charger.sensor.fitted === false
                ? 'does not stop: no sensor'
                : 'not known: nobody has seen its sensor',
        ),
      ],
    ];
  });
  const blocks: Block[] = [
    {
      kind: 'table',
      columns: [
        { head: 'Charger', share: 3 },
        { head: 'Filling up', share: 4, figures: true },
        { head: 'Full', share: 4, figures: true },
        { head: 'In the cold', share: 3, figures: true },
      ],
      rows,
      empty: 'No charger is entered yet.',
    },
    {
      kind: 'text',
      text: `Any voltage below “filling up” is normal while there is little sun or the loads are on. “Absorb” on a display does not mean nearly full: a gap in the cloud can show it for a moment.`,
    },
  ];
  const monitor = plan.input.system.companions.find((c) => cardOf(plan.input, c)?.kind === 'monitor');
  if (monitor) blocks.push({ kind: 'text', text: `${monitor.name} shows 100 % after a full charge.` });
  return blocks;
}

function calls(plan: Plan, scale: TemperatureScale): readonly Cell[] {
  const { sheet, system } = plan.input;
  const { shape } = plan.facts;
  const absorb = statedFigure(sheet, 'absorbVoltage');
  const equalise = statedFigure(sheet, 'equaliseVoltage');
  const most = [absorb, equalise].flatMap((f) => (f ? [figureOnBank(f, shape).band.max ?? figureOnBank(f, shape).target ?? 0] : []));
  const disconnect = statedFigure(sheet, 'disconnectVoltage');
  const low = disconnect && (figureOnBank(disconnect, shape).target ?? figureOnBank(disconnect, shape).band.min);
  const trip = isLithium(sheet.chemistry) ? lowestTrip(sheet, system) : null;
  const least = statedFigure(sheet, 'chargeTemperature')?.min;
  const list: Cell[] = [];
  // In the cold a compensated charger goes higher by right; a display may be a little off.
  const slope = statedFigure(sheet, 'compensationSlope');
  const colder = Math.max(0, referenceC(plan) - system.site.bankLowC);
  const rise = slope ? Math.abs(figureOnBank(slope, shape).target ?? 0) * colder : 0;
  if (most.length > 0)
    list.push(
      cell(
        `a display shows more than ${formatNumber(Math.max(...most) + rise + displaySlack, 1)} V`,
        trip ? `The battery ${trip.by === 'cell' ? 'may switch itself off from' : 'switches itself off at'} ${formatNumber(trip.volts, 1)} V.` : undefined,
      ),
    );
  if (low !== undefined) list.push(cell(`a display shows less than ${formatNumber(low, 1)} V`));
  if (least !== undefined)
    list.push(cell(`the bank is charged while it is colder than ${formatTemperature(least, scale)}`, 'Batteries charged too cold are damaged for good.'));
  list.push(
    cell('the displays differ from the labels on the lids', 'Each label’s code can be read with any phone.'),
    cell('anything was reset, updated or exchanged, or a battery of another kind was fitted', 'Every figure is in doubt then.'),
    cell('everything goes dark at once, or the battery gets hot, swells, smells or hisses', 'Keep away, air the room, do not switch it on again.'),
  );
  if (system.companions.some((c) => cardOf(plan.input, c)?.kind === 'monitor'))
    list.push(cell('the monitor does not come to 100 % through a long spell of good weather'));
  if (sheet.chemistry === 'flooded')
    list.push(cell('the cells are low on water, or one is warmer than the others', 'Distilled water, to the mark, after charging.'));
  return list;
}

function nevers(plan: Plan): readonly Cell[] {
  const kinds = new Set(plan.input.system.chargers.flatMap((c) => cardOf(plan.input, c)?.kind ?? []));
  const lithium = isLithium(plan.input.sheet.chemistry);
  const permitted = statedFigure(plan.input.sheet, 'equaliseVoltage') !== undefined;
  const equalises = devicesOf(plan.input).some((d) => {
    const card = cardOf(plan.input, d);
    return card && parameterFor(card, 'equaliseVoltage');
  });
  const list: Cell[] = [
    cell('“Factory reset”, “restore” or “battery type” in any menu', 'They bring the factory’s figures back.'),
    cell(
      [...kinds].some((kind) => family(kind) === 'solar')
        ? 'unplug the battery while the panels are connected: panels off first, battery last; battery on first, panels last'
        : 'unplug the battery while anything charges it',
    ),
  ];
  if (equalises)
    list.push(
      !permitted
        ? cell('“Equalise”', lithium ? 'It drives this battery past its limit; everything goes dark.' : 'The battery’s maker does not permit it.')
        : cell('“Equalise” by yourself', 'Water level, moving air, no sparks, somebody there until it ends.'),
    );
  if (kinds.has('alternator')) list.push(cell('turn the battery switch off while the engine runs', 'The surge destroys the alternator and what hangs on it.'));
  if (kinds.has('turbine')) list.push(cell('let the turbine run with its battery or its load heater off', 'It runs away. Brake it first.'));
  if (plan.input.system.companions.some((c) => c.relay)) list.push(cell('bridge the thermostat’s relay', 'It stops charging while the battery is too cold.'));
  list.push(cell('lay tools or rings across the terminals', 'The bank can weld a spanner.'));
  return list;
}
