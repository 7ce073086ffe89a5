import {
  deviceGrid,
  deviceRange,
  deviceUnitLabel,
  displayText,
  factoryOf,
  hasTrait,
  meansOf,
  parameterFor,
  roleInfo,
  specialAt,
  specialWords,
  type Card,
  type DeviceValues,
  type Parameter,
  type Role,
} from '../card';
import { formatQuantity, tidy } from '../quantity';
import { cardOf, devicesOf, factoryValues, targetsOf, trueOf, valuesOn, type Plan } from '../settings';
import { broken, orderMoves, type Dial, type Gap } from './order';
import { rangeVolts } from '../system';

/** One edit to make on the device. */
export interface EditStep {
  readonly kind: 'edit' | 'preset';
  readonly role: Role;
  /** What the device's menu calls it. */
  readonly label: string;
  readonly menu: readonly string[];
  /** Null when nobody knows what stands there. */
  readonly from: number | string | null;
  /** The same as the display shows it, and whether it was read off; else it is the factory's, to be looked at first. */
  readonly stands: string;
  readonly readOff: boolean;
  readonly to: number | string;
  readonly unit: string;
  /** What must be read back. */
  readonly readBack: string;
  /** On the way to another value. */
  readonly temporary: boolean;
  /** Settings that this one changes by itself: nobody knows what stands there until it is looked at. */
  readonly overwrites: readonly Role[];
  /** What to know at this step, one sentence each. */
  readonly notes: readonly string[];
}

/** Why no order of edits exists, and what can be done about it. */
export interface EditBlock {
  readonly why: string;
  readonly ways: readonly string[];
}

export interface EditPlan {
  readonly device: string;
  readonly steps: readonly EditStep[];
  readonly blocked?: EditBlock;
  /** Settings that need no edit, by what stands there already, and those that are left, inherited or not used. */
  readonly already: readonly Role[];
  readonly left: readonly Role[];
  /** How the card saves, and which screen proves it. */
  readonly commit: string;
  readonly proof: string;
}

/** What an edit plan may assume. */
export interface EditOptions {
  /** What stands on the device; what is missing is taken from the factory. */
  readonly from?: DeviceValues;
  /** What was read off, in place of what the job notes now: while keying-in is under way the job’s notes move with it. */
  readonly found?: DeviceValues;
  /** Where to go instead of the targets: values noted earlier, to put a device back as it was found. */
  readonly to?: DeviceValues;
  /** A source is live: presets that pass through voltages above the sheet's most are refused. */
  readonly live?: boolean;
}

/** Types and voltages that reveal or reset others come before everything else; what switches something on comes last. */
const comesFirst = ({ role }: Parameter): boolean => hasTrait(role, 'resetsOthers');

/**
 * The order in which to key a device: presets and types first, then numbers in an order every step of which the device accepts, then what
 * switches something on. No edit goes past a wrap-around, and no state on the way is above both what stands there and what is wanted.
 *
 * @example editPlan(plan, 'dcdc').steps.map((s) => s.label)
 * @returns null when the job has no such device, or no card for it
 */
export function editPlan(plan: Plan, device: string, options: EditOptions = {}): EditPlan | null {
  const place = devicesOf(plan.input).find((d) => d.id === device);
  const card = place && cardOf(plan.input, place);
  if (!place || !card) return null;
  const systemVolts = rangeVolts(plan.facts);
  const { found } = options;
  const now: Partial<Record<Role, number | string>> = found
    ? { ...factoryValues(plan, device), ...found, ...options.from }
    : { ...valuesOn(plan, device, options.from) };
  const known = new Set<Role>([...(Object.keys(options.from ?? {}) as Role[]), ...(Object.keys(found ?? place.present) as Role[])]);
  const to = options.to ?? targetsOf(plan, device);
  const goals = card.parameters.filter((p) => to[p.role] !== undefined);
  const differs = (p: Parameter): boolean => now[p.role] !== to[p.role];
  const already = goals.filter((p) => !differs(p)).map((p) => p.role);
  const steps: EditStep[] = [];
  const step = (
    p: Parameter,
    value: number | string,
    more: { temporary?: boolean; notes?: readonly string[]; kind?: EditStep['kind']; overwrites?: readonly Role[] } = {},
  ): void => {
    steps.push({
      kind: more.kind ?? 'edit',
      role: p.role,
      label: p.label,
      menu: p.menu,
      from: now[p.role] ?? null,
      stands: now[p.role] === undefined ? 'unknown' : displayText(p, now[p.role] ?? ''),
      readOff: known.has(p.role),
      to: value,
      unit: p.unit === 'choice' ? '' : deviceUnitLabel(p),
      readBack: displayText(p, value),
      temporary: more.temporary ?? false,
      overwrites: more.overwrites ?? [],
      notes: [...(more.notes ?? []), ...notesOf(p, value, systemVolts)],
    });
    now[p.role] = value;
    known.add(p.role);
  };
  const common = {
    device,
    already,
    left: card.parameters.filter((p) => to[p.role] === undefined).map((p) => p.role),
    commit: card.commit.how,
    proof: card.commit.proof,
  };

  // 1. Types, presets and classes; each may overwrite others, which then stand at what the preset or the factory says.
  const most = plan.settings.find((s) => s.charger === device && s.role === 'absorbVoltage')?.band?.max;
  for (const p of goals.filter((g) => comesFirst(g) && differs(g))) {
    const value = to[p.role] ?? '';
    const preset = card.presets.find((x) => x.name === value);
    const overwritten = new Map<Role, number | string>();
    for (const [role, v] of Object.entries(preset?.sets ?? {}) as [Role, number | string][]) overwritten.set(role, onThisSystem(card, role, v, systemVolts));
    for (const q of card.parameters) {
      if (q.movesWith !== p.role || overwritten.has(q.role)) continue;
      const factory = factoryOf(q, systemVolts);
      if (factory !== undefined) overwritten.set(q.role, factory);
    }
    const high = [...overwritten].flatMap(([role, v]) => {
      const volts = hasTrait(role, 'chargingSetpoint') && typeof v === 'number' ? trueOf(plan, device, role, v) : null;
      return volts !== null && most !== undefined && volts > most + 1e-9 ? [{ role, volts }] : [];
    });
    if (high.length > 0 && options.live === true)
      return {
        ...common,
        steps,
        blocked: {
          why: `Choosing ${displayText(p, value)} sets ${high.map(({ role, volts }) => `${roleInfo[role].name} to ${formatQuantity(volts, 'V', 1)}`).join(' and ')}, above the sheet’s most of ${formatQuantity(most ?? 0, 'V', 1)}, while a source is live.`,
          ways: ['Open the array breaker, or stop the source, before this step.'],
        },
      };
    step(p, value, {
      kind: overwritten.size > 0 ? 'preset' : 'edit',
      overwrites: [...overwritten.keys()],
      notes: [
        ...(overwritten.size > 0 ? [`It overwrites ${overwritten.size} values: ${[...overwritten.keys()].map((r) => roleInfo[r].name).join(', ')}.`] : []),
        ...(high.length > 0 ? ['Some of them are above the sheet’s most until they are set: leave the source off.'] : []),
      ],
    });
    for (const [role, v] of overwritten) {
      now[role] = v;
      known.delete(role);
    }
  }

  // 2. What is switched off goes off before any number is touched.
  const choices = goals.filter((g) => g.unit === 'choice' && !comesFirst(g));
  const meansOff = (p: Parameter): boolean => meansOf(p, to[p.role]) === 'off';
  for (const p of choices.filter((c) => meansOff(c) && differs(c))) step(p, to[p.role] ?? '');

  // 3. Numbers, in an order the device accepts.
  const values = (from: DeviceValues): Record<string, number> =>
    Object.fromEntries(card.parameters.flatMap((p) => (p.unit !== 'choice' && typeof from[p.role] === 'number' ? [[p.role, from[p.role] as number]] : [])));
  const start = values(now);
  const end = { ...start, ...values(to) };
  // A rule that is broken by what stands, and that no edit touches, is the device’s own affair: it holds these values already.
  const touched = (role: string): boolean =>
    Math.abs((start[role] ?? NaN) - (end[role] ?? NaN)) > 1e-9 || (start[role] === undefined && end[role] !== undefined);
  const gaps = gapsOf(card).filter((g) => touched(g.upper) || touched(g.lower) || broken([g], end).length === 0);
  const dials: Dial[] = card.parameters.flatMap((p) => (p.unit === 'choice' ? [] : [{ name: p.role, values: deviceGrid(p, systemVolts) }]));
  // Values that should fall come first, so that nothing stands high for longer than it must.
  const falling = (d: Dial): number => ((start[d.name] ?? 0) > (end[d.name] ?? 0) + 1e-9 ? 0 : 1);
  const order = orderMoves(
    [...dials].sort((a, b) => falling(a) - falling(b)),
    gaps,
    start,
    end,
  );
  if ('blockedBy' in order) return { ...common, steps, blocked: blockOf(card, order, start, end) };
  for (const move of order.moves) {
    const p = parameterFor(card, move.name as Role);
    if (p) step(p, move.to, { temporary: move.temporary, notes: move.temporary ? ['On the way only: the charger does not accept the value wanted yet.'] : [] });
  }

  // 4. What switches something on comes last.
  for (const p of choices.filter((c) => !meansOff(c) && differs(c))) step(p, to[p.role] ?? '');
  return { ...common, steps };
}

/** A preset’s value for a 12 V system, on this one. */
function onThisSystem(card: Card, role: Role, value: number | string, systemVolts: number): number | string {
  const parameter = parameterFor(card, role);
  return typeof value === 'number' && parameter && parameter.unit !== 'choice' && parameter.per12V ? tidy((value * systemVolts) / 12) : value;
}

/** The card’s rules as gaps. */
const gapsOf = (card: Card): readonly Gap[] =>
  card.constraints.map((c) =>
    c.relation === 'atLeast' ? { upper: c.parameter, lower: c.other, gap: c.gap } : { upper: c.other, lower: c.parameter, gap: c.gap },
  );

/** What to know when a value is keyed: it stands beside a wrap, it reads as a word, it hides at another level. */
function notesOf(p: Parameter, value: number | string, systemVolts: number): readonly string[] {
  const notes: string[] = [];
  if (p.access !== 'basic') notes.push(`Shown only at ${p.access} level.`);
  if (p.shownWhen) notes.push(`Shown only ${p.shownWhen}.`);
  if (p.unit === 'choice' || typeof value !== 'number') return notes;
  const special = specialAt(p, value);
  if (special) notes.push(`${displayText(p, value)} means ${specialWords[special.means]} here.`);
  const { min, max } = deviceRange(p, systemVolts);
  if (p.wraps)
    notes.push(
      value - min < 1e-9
        ? `It is the least: stop there. One step further jumps to ${displayText(p, max)}.`
        : `Come straight from where it is; below ${displayText(p, min)} it jumps to ${displayText(p, max)}.`,
    );
  return notes;
}

/** Why no order exists, in words, and what can be done. */
function blockOf(
  card: Card,
  order: { readonly blockedBy: readonly Gap[]; readonly why: 'target' | 'start' | 'locked' },
  start: Readonly<Record<string, number>>,
  end: Readonly<Record<string, number>>,
): EditBlock {
  const words = (g: Gap, at: Readonly<Record<string, number>>): string => {
    const [upper, lower] = [parameterFor(card, g.upper as Role), parameterFor(card, g.lower as Role)];
    if (!upper || !lower) return '';
    const value = (p: Parameter, name: string): string => (at[name] === undefined ? 'unknown' : displayText(p, at[name]));
    const relation =
      g.gap === 0 ? 'must stay at or above' : g.gap > 0 ? `must stay ${displayText(upper, g.gap)} above` : `may be at most ${displayText(upper, -g.gap)} below`;
    return `${upper.label} (${value(upper, g.upper)}) ${relation} ${lower.label} (${value(lower, g.lower)})`;
  };
  const list = order.blockedBy.map((g) => words(g, order.why === 'start' ? start : end)).filter((w) => w !== '');
  const presets = card.presets.map((p) => `“${p.name}”`);
  const firstGap = order.blockedBy[0];
  const upper = firstGap && parameterFor(card, firstGap.upper as Role);
  const accept =
    firstGap && upper && order.why === 'target'
      ? [`Accept the gap: set ${upper.label} to ${displayText(upper, (end[firstGap.lower] ?? 0) + firstGap.gap)}.`]
      : [];
  const ways = [
    ...accept,
    ...(presets.length > 0 ? [`Choose a preset that sets both at once (${presets.join(', ')}), and go on from there.`] : []),
    ...(order.why === 'target' ? [] : ['Go back to the factory values, and go on from there.']),
  ];
  const why =
    order.why === 'target'
      ? `The values wanted do not go together on this charger: ${list.join('; ')}.`
      : order.why === 'start'
        ? `What is set on the device breaks its own rules, so no single edit is accepted: ${list.join('; ')}.`
        : `Each value waits for the other, and no single edit is accepted: ${list.join('; ')}.`;
  return { why, ways: ways.length > 0 ? ways : [`Ask ${card.maker}: the card names no other way in.`] };
}

/** How many edits stand between the devices of a job and their targets. */
export const stepsToKey = (plan: Plan): number => devicesOf(plan.input).reduce((sum, d) => sum + (editPlan(plan, d.id)?.steps.length ?? 0), 0);
