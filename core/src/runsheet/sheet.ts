import { isSource, isUnknown, parameterFor, roleInfo, type Card, type Role } from '../card';
import { editPlan } from '../edits';
import { capital, formatQuantity } from '../quantity';
import { cardOf, devicesOf, per12, targetsOf, trueOf, type Plan } from '../settings';
import { isLithium } from '../sheet';
import { stringsMayDiffer } from '../system';
import { cautionsOf, lastWord } from './cautions';
import { fatesOf } from './fates';
import { keying, lookAt } from './keying';
import { withCardLines, withJobLines } from './lines';
import { bare, sentence, type Place } from './place';
import { backPrefix, valuesAfter } from './progress';
import type { Programming } from './record';
import { sensorStep } from './sensor';
import { closing, hazardsOf, openStep } from './sources';
import type { RunSheet, SheetStep } from './step';

/** Which device a card is of, as far as anybody said. */
function describedBy({ maker, model, describes: { firmware, menuRevision } }: Card): string {
  const parts = [
    [maker, model].filter((part) => part !== '').join(' '),
    ...(firmware === '' ? [] : [`firmware ${firmware}`]),
    ...(menuRevision === '' ? [] : [`menu ${menuRevision}`]),
  ];
  return `The card describes ${parts.join(', ')}. ${parts.length === 1 ? 'Nobody has noted its firmware yet. ' : ''}Screens differ between revisions.`;
}

/**
 * The run sheet of a job: cautions, tools, what is opened, every device keyed in an order it accepts, read back and proved to be saved, and
 * everything closed again. Worked out anew from the job each time; answers find their steps by id. A pure function.
 *
 * @param record what was found and answered; null before it is begun
 */
export function runSheet(plan: Plan, record: Programming | null): RunSheet {
  const places = devicesOf(plan.input).flatMap((charger): Place[] => {
    const card = cardOf(plan.input, charger);
    return card ? [{ charger, card, source: isSource(card.kind) }] : [];
  });
  // Leaders before their followers, chargers before companions; otherwise in the order of the roster.
  const ordered = [...places].sort((a, b) => rankOf(a) - rankOf(b));
  const steps = withJobLines(plan.input.system, record?.aim === 'putBack' ? backSteps(plan, record, ordered) : setSteps(plan, record, ordered));
  return { steps, hazards: hazardsOf(steps), fates: fatesOf(plan, record, ordered) };
}

const rankOf = ({ charger, source }: Place): number => (source ? (charger.follows === undefined ? 0 : 1) : 2);

function setSteps(plan: Plan, record: Programming | null, places: readonly Place[]): readonly SheetStep[] {
  return [
    ...cautionsOf(plan).map((c): SheetStep => ({ ...bare(`caution/${c.code}`, 'caution', null, c.title), says: [c.says], notes: [lastWord] })),
    toolsStep(places),
    ...firstChargeSteps(plan),
    ...places.flatMap((p) => openStep(p) ?? []),
    ...places.flatMap((p) => withCardLines(p.card, p.charger.id, deviceSteps(plan, record, p), '')),
    ...closing(plan, places, ''),
  ];
}

/** The day ends early: every device that was touched goes back to what was found on it, and everything is closed again. */
function backSteps(plan: Plan, record: Programming, places: readonly Place[]): readonly SheetStep[] {
  const set = setSteps(plan, { ...record, aim: 'set' }, places);
  const touched = places.flatMap((place) => {
    const { id } = place.charger;
    const answers = record.answers.filter((a) => !a.step.startsWith(backPrefix));
    const lost = record.beforeReset?.[id];
    if (!lost && !answers.some((a) => a.state === 'done' && a.step.startsWith(`${id}/edit/`))) return [];
    const from = valuesAfter(id, record.found[id] ?? {}, answers, set);
    const found = lost ?? record.found[id] ?? {};
    const to = Object.fromEntries(Object.entries(found).filter(([role]) => parameterFor(place.card, role as Role)));
    const edits = editPlan(plan, id, { found: from, to });
    return edits ? withCardLines(place.card, id, keying(plan, place, edits, backPrefix, to), backPrefix) : [];
  });
  const opened = new Set(record.answers.flatMap((a) => (a.state === 'done' && a.step.startsWith('open/') ? [a.step.slice(5)] : [])));
  return [...touched, ...closing(plan, places, backPrefix, opened)];
}

function toolsStep(places: readonly Place[]): SheetStep {
  const special = places.flatMap(({ charger, card }) => card.programming.tools.map((tool) => `${capital(tool)} (${charger.name})`));
  const compares = places.some((p) => p.source);
  return {
    ...bare('tools', 'tools', null, 'Lay out what you need'),
    says: ['Everything within reach before anything is opened.'],
    items: [
      ...(compares ? ['Multimeter, with its leads looked at and its battery fresh'] : []),
      'Insulated tools, covers for the terminals',
      'Tags for what is opened, a torch',
      'The charging sheet and the chargers’ manuals',
      ...special,
    ],
  };
}

/** New cells before their first charge. */
function firstChargeSteps(plan: Plan): readonly SheetStep[] {
  const first = plan.input.system.bank.firstCharge;
  if (!first || !isLithium(plan.input.sheet.chemistry)) return [];
  const list: SheetStep[] = [];
  if (!first.topBalanced)
    list.push({
      ...bare('balance', 'balance', null, 'Balance the new cells at the top'),
      says: [
        'Bring every cell to the same voltage at the top of charge, as the maker describes, before the pack is charged as a whole.',
        'Out of balance, one cell trips the BMS at a pack voltage that looks harmless.',
      ],
    });
  if (plan.input.system.bank.stringsInParallel > 1)
    list.push({
      ...bare('strings', 'strings', null, 'Join strings only at equal voltage'),
      says: [
        `Measure every string at rest. Join them when they are within ${formatQuantity(per12(plan, stringsMayDiffer), 'V', 2)} of each other; else charge each by itself first.`,
      ],
      caution: 'Joined apart, one drives hundreds of amps into the other.',
    });
  return list;
}

function deviceSteps(plan: Plan, record: Programming | null, place: Place): readonly SheetStep[] {
  const { charger, card } = place;
  const { id, name } = charger;
  const list: SheetStep[] = [];
  const add = (kind: SheetStep['kind'], title: string, more: Partial<SheetStep>): void => {
    list.push({ ...bare(`${id}/${kind}`, kind, id, title), ...more });
  };
  const { programming, commit } = card;
  const sister = plan.input.system.chargers.find((c) => c.id !== id && c.card === charger.card && c.follows === undefined && charger.follows === undefined);
  const bms = plan.input.system.bank.hasBms;

  add('wake', `Wake ${name}`, {
    says: [
      sentence(`Powered: ${programming.powered.replace(/\.$/, '')}`),
      ...(programming.powerUp.length > 1 ? [`Connected in this order: ${programming.powerUp.join(', then ')}; the fuse goes in last.`] : []),
      ...(programming.bench ? ['It can also be programmed on the bench, before it is mounted and without its source.'] : []),
    ],
    notes: [
      ...(commit.timeoutSeconds === undefined ? [] : [`An edit left alone for ${commit.timeoutSeconds} s is discarded: read the whole step first.`]),
      ...(commit.waysOut ? [`Two ways out: ${commit.waysOut.saves} saves, ${commit.waysOut.discards} discards the edit.`] : []),
      ...card.keys.flatMap((k) => (k.alsoDoes ? [`Key ${k.key} has a second meaning. ${sentence(k.alsoDoes)}`] : [])),
      ...(bms ? ['No volts at the bank? A tripped BMS wakes when a charger or a load is joined, or by its own button: see the battery’s manual.'] : []),
    ],
  });
  add('identify', 'Read off what it is', {
    says: ['Note firmware and menu revision from its own screen.'],
    expects: card.describes.firmware,
    notes: [describedBy(card)],
  });
  if (place.source || card.kind === 'monitor')
    add('compare', 'Compare its display with the meter', {
      says: [
        `Hold the meter ${place.source ? 'on the charger’s own battery terminals' : 'where it measures the bank'} and read both at the same moment.`,
        card.display.calibratable
          ? 'It can be calibrated: bring its display to the meter first, then enter what both read.'
          : isUnknown(card, 'displayAdjust')
            ? 'Whether its display can be adjusted is not known: see its manual. If it can, do that first.'
            : 'It cannot be calibrated: the values to enter are corrected by the difference.',
      ],
      notes: ['More than 1 % apart, or drifting: look for a bad lead before correcting anything. A drop under current is not a display error.'],
    });

  const follower = charger.follows !== undefined && card.canFollow;
  const found = record?.found[id] ?? charger.present;
  const unread = card.parameters.filter((p) => found[p.role] === undefined && !plan.setting(id, p.role)?.inherited);
  const readOffDone = record?.answers.some((a) => a.step === `${id}/readOff`) ?? false;
  if (unread.length > 0 || readOffDone)
    add('readOff', 'Read off what is set on it', {
      says: ['Note what each entry shows before it is changed. Only what was noted can be put back.'],
      looks: card.parameters.filter((p) => !plan.setting(id, p.role)?.inherited).map((p) => lookAt(card, p.role, null)),
    });

  const edits = editPlan(plan, id, { found });
  if (edits) list.push(...keying(plan, place, edits, '', targetsOf(plan, id), sister));
  if (follower) {
    const leader = plan.input.system.chargers.find((c) => c.id === charger.follows);
    add('link', `Link it to ${leader?.name ?? 'its leader'}`, {
      says: [`Join the network lead, and see that ${name} shows its leader’s figures. They are not entered here.`],
      notes: ['Current limits are never copied between chargers of different rating.'],
    });
  }
  const sensor = place.source ? sensorStep(plan, charger, card) : null;
  if (sensor) add('sensor', sensor.title, { says: sensor.says, notes: sensor.notes, ...(sensor.unplugs ? { unplugs: true } : {}) });
  if (card.defaultPasscode && place.source && (!charger.passcodeChanged || (record?.answers.some((a) => a.step === `${id}/passcode`) ?? false)))
    add('passcode', 'Change the passcode', {
      says: ['It left the factory with one that everybody knows. Change it and keep it with the owner; only that it was done is noted here.'],
    });
  return list;
}

/** What a value on a display makes at the battery, V; null where it is no voltage or there is nothing to tell. */
export function atTheBattery(plan: Plan, step: SheetStep): number | null {
  if (!step.value || !step.device || typeof step.value.to !== 'number' || roleInfo[step.value.role].unit !== 'V') return null;
  return trueOf(plan, step.device, step.value.role, step.value.to);
}
