import { formatDuration } from '../quantity';
import { allUnknowns, groupOf, isUnknown, unknownGroups, type Card, type CardUnknown, type Constraint, type SettingWay, type UnknownGroup } from './card';
import { offNumber, specialWords } from './convention';
import { roleInfo, type Role } from './role';
import { unitInfo } from './unit';

const access = { expert: 'at expert level', installer: 'at installer level' } as const;

/** How a device is set, after "Set …". */
const settingWayWords: Readonly<Record<SettingWay, string>> = {
  list: 'in a list, with its keys',
  menus: 'in menus, with its keys',
  contact: 'by one key or contact and a list that scrolls',
  numbers: 'by numbered settings',
  switch: 'by switches with fixed tables',
  app: 'in an app or page on another device',
  wire: 'over a wire',
  nothing: 'at the factory: nothing on it can be changed',
};

/** What nobody knows of a device yet: of its settings in general, then of the device. */
type Unknown = 'ranges' | CardUnknown;

/** What is not known of a device, in words. */
export const unknownWords: Readonly<Record<Unknown, string>> = {
  ranges: 'its ranges and steps',
  settings: 'which settings it has',
  saving: 'how it saves',
  absorb: 'how it starts, counts and ends absorb',
  saveWay: 'which way of leaving the menu saves',
  saveTimeout: 'how long it holds an edit left alone',
  absorbStart: 'how it starts absorb',
  absorbCount: 'how it counts absorb time',
  absorbEnd: 'what ends absorb',
  absorbCurrent: 'whether it sees its own current or the bank’s',
  recharge: 'when it begins a new charge',
  rechargeRule: 'at what it begins a new charge',
  rechargeDaily: 'whether it begins a new charge every day',
  sensor: 'what its battery sensor is and does',
  sensorKind: 'what its battery sensor is',
  sensorUse: 'what its battery sensor is used for',
  sensorLoss: 'what it does without its battery sensor',
  display: 'how well its display and its regulation hold',
  displayAdjust: 'whether its display can be adjusted',
  displayAccuracy: 'how well its display and its regulation hold',
  sense: 'whether it regulates from sense leads',
  powerCut: 'what it forgets at a power cut',
  batteryLoss: 'whether it survives losing the battery',
  passcode: 'whether it has a passcode',
  input: 'how many volts its input takes',
};

/** What nobody knows of a device yet: a group by its own name where nothing of it is known. */
export function unknownsOf(card: Card): readonly Unknown[] {
  const missing = card.notKnown ?? [];
  const whole: readonly CardUnknown[] = (Object.keys(unknownGroups) as UnknownGroup[]).filter(
    (group) => missing.includes(group) || (unknownGroups[group].length > 0 && unknownGroups[group].every((own) => missing.includes(own))),
  );
  const within = (own: CardUnknown): boolean => whole.some((group) => group === groupOf(own));
  return [
    ...(card.parameters.some((p) => p.unit !== 'choice' && (p.notKnown ?? []).length > 0) ? (['ranges'] as const) : []),
    ...allUnknowns.filter((what) => whole.includes(what) || (missing.includes(what) && !within(what))),
  ];
}

/** What a device forces between two settings. */
export const ruleWords = ({ parameter, relation, other, gap }: Constraint): string =>
  `Holds ${roleInfo[parameter].name} at least ${gap} ${relation === 'atLeast' ? 'above' : 'below'} ${roleInfo[other].name}.`;

/** What is peculiar about a card, each in a sentence a technician would want to have been told. In the order in which it matters at the device; what is not known too, unless it is told elsewhere. */
export function cardQuirks(card: Card, { unknowns = true } = {}): readonly string[] {
  const list: string[] = [];
  const numbers = card.parameters.filter((p) => p.unit !== 'choice');
  const has = (role: Role): boolean => card.parameters.some((p) => p.role === role);
  const { commit, absorb, sensor, recharge } = card;

  if (card.setBy) list.push(`Set ${settingWayWords[card.setBy]}.`);
  if (commit.timeoutSeconds !== undefined) list.push(`An edit left alone for ${formatDuration(commit.timeoutSeconds)} is discarded.`);
  if (commit.kind === 'endOfList') list.push('Values are saved only at the end of the list: go through all of it.');
  if (commit.kind === 'auto') list.push('Every change is saved at once, a slip too.');
  if (commit.waysOut) list.push(`Two ways out: “${commit.waysOut.saves}” saves, “${commit.waysOut.discards}” discards the edit.`);
  for (const level of ['expert', 'installer'] as const) {
    const names = card.parameters.filter((p) => p.access === level).map((p) => roleInfo[p.role].name);
    if (names.length > 0) list.push(`Shown only ${access[level]}: ${names.join(', ')}.`);
  }
  for (const p of card.parameters) {
    if (p.shownWhen) list.push(`${p.label} is shown only ${p.shownWhen}.`);
  }
  for (const leader of new Set(card.parameters.flatMap((p) => p.movesWith ?? []))) {
    const moved = card.parameters.filter((p) => p.movesWith === leader).map((p) => p.label);
    list.push(`Changed by itself when ${roleInfo[leader].name} is changed, so set last: ${moved.join(', ')}.`);
  }
  for (const p of numbers) {
    if (p.wraps) list.push(`${p.label} jumps from ${p.min} to ${p.max} when stepped below its end.`);
    for (const s of p.special) list.push(`${p.label} at ${s.value} means ${specialWords[s.means]}.`);
    if (p.slopeSign === 'positive') list.push(`${p.label} takes the slope without its minus.`);
    const { quirk } = unitInfo[p.unit];
    if (quirk) list.push(`${p.label} ${quirk}.`);
  }
  for (const c of card.constraints) if (c.gap !== 0) list.push(ruleWords(c));
  for (const preset of card.presets)
    list.push(`The preset “${preset.name}” overwrites ${Object.keys(preset.sets).length} ${Object.keys(preset.sets).length === 1 ? 'value' : 'values'}.`);
  if (card.forgets.length > 0) list.push(`Lost at a restart unless saved apart: ${card.forgets.map((r) => roleInfo[r].name).join(', ')}.`);
  if (card.kind !== 'monitor' && card.kind !== 'thermostat') {
    if (!isUnknown(card, 'absorbStart'))
      list.push(
        absorb.start.kind === 'touch'
          ? 'Absorb begins at the first touch of its voltage.'
          : `Absorb begins after ${formatDuration(absorb.start.seconds)} at its voltage.`,
      );
    if (absorb.timerCounts === 'wallClock') list.push('Its absorb timer runs on the wall clock, at voltage or not.');
    if (absorb.end === 'adaptive') list.push('Absorb lasts by how long bulk took.');
    if (absorb.end === 'stateOfCharge') list.push('Absorb ends by state of charge.');
    if (absorb.currentSeen === 'ownOutput' && has('taperCurrent') && !isUnknown(card, 'absorbCurrent'))
      list.push('It sees only its own output: loads it feeds count against the taper current.');
    if (recharge.restartsDaily) list.push('It begins a new charge every day, whatever the voltage.');
    if (recharge.rule === 'none') list.push('It has no recharge setting.');
    if (!has('lowTempCutoff') && !isUnknown(card, 'settings')) list.push('It has no low-temperature cutoff.');
    if (sensor.reads === 'ownCase') list.push('Its temperature is that of its own warm case.');
    if (has('lowTempCutoff') && sensor.withoutSensor === 'ignoresCutoff' && !isUnknown(card, 'sensorLoss'))
      list.push('Without a battery sensor it silently ignores the cutoff.');
    if (has('compensationSlope') && !numbers.some((p) => p.role === 'compensationSlope' && offNumber(p) !== undefined))
      list.push('Its compensation cannot be switched off.');
    if (has('fieldLimit') && !has('chargeCurrentLimit')) list.push('It has a field limit but no current limit: the machine counts with its full rating.');
    if (card.remoteSense) list.push('It regulates from its sense leads at the battery.');
    if (card.canFollow) list.push('It can take its figures from a leader.');
    if (!card.survivesBatteryLoss && !isUnknown(card, 'batteryLoss')) list.push('It does not survive losing the battery while the source is on.');
  }
  const open = unknowns ? unknownsOf(card) : [];
  if (open.length > 0) list.push(`Not known: ${open.map((what) => unknownWords[what]).join('; ')}.`);
  if ((card.others ?? []).length > 0)
    list.push(`Settings that nobody knows the meaning of; leave them alone: ${(card.others ?? []).map((o) => o.label).join(', ')}.`);
  if (card.display.calibratable) list.push('Its display can be calibrated: do that before anything is set.');
  if (card.defaultPasscode) list.push('It leaves the factory with a passcode that everybody knows.');
  for (const key of card.keys) if (key.alsoDoes) list.push(`Key ${key.key}: ${key.alsoDoes}`);
  return list;
}
