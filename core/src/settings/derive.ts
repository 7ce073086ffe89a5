import {
  deviceDecimals,
  deviceUnitLabel,
  factoryOf,
  fromDevice,
  hasTrait,
  offNumber,
  parameterFor,
  plainEnd,
  roleInfo,
  shownIn,
  toDevice,
  type Card,
  type DeviceSetting,
  type Parameter,
  type Role,
} from '../card';
import { contains, formatNumber } from '../quantity';
import { usableSheet, type Withheld } from '../sheet';
import { bankFacts, chargeCeiling, coldStairs, type BankFacts, type Ceiling, type Charger, type ColdStair } from '../system';
import { coldPlan, unlimitedA, type ColdPlan } from './cold';
import { left, type RoleContext, type RoleRule, type Wanted } from './context';
import { fitNumber, trueFromDisplay } from './fit';
import { cardOf, deviceName, devicesOf, type Override, type SettingsInput } from './input';
import { roleRules } from './roles';
import type { Setting, Step } from './setting';
import { keyedText } from './words';

/** Settings of a whole job with the bank numbers they rest on. */
export interface Plan {
  /** As given, with figures that do not count taken out of the sheet. */
  readonly input: SettingsInput;
  readonly facts: BankFacts;
  readonly ceiling: Ceiling;
  readonly stairs: readonly ColdStair[];
  readonly cold: ColdPlan;
  readonly settings: readonly Setting[];
  /** Figures the sheet states but the reference policy does not let count. */
  readonly withheld: readonly Withheld[];
  /** Looks one up. */
  readonly setting: (charger: string, role: Role) => Setting | undefined;
}

/**
 * Derives every setting of every charger from sheet, system, cards, schools and overrides. A pure function:
 * the same input gives the same plan.
 */
export function deriveSettings(given: SettingsInput): Plan {
  const { sheet, withheld } = usableSheet(given.sheet, given.schools.reference);
  const input = withheld.length === 0 ? given : { ...given, sheet };
  const ground = groundOf(given.sheet, input);
  const { facts, ceiling, stairs, cold, order } = ground;
  const byDevice = new Map<string, ReadonlyMap<Role, Setting>>();
  const other: RoleContext['other'] = (device, role) => byDevice.get(device)?.get(role);
  const shared = { input, facts, ceiling, stairs, cold, other };
  for (const { device, card, sees } of order)
    byDevice.set(device.id, keptSettings(ground, shared, device, card, sees === 'all' ? [...byDevice.values()] : sees.flatMap((id) => byDevice.get(id) ?? [])));
  const settings = devicesOf(input).flatMap((d) => [...(byDevice.get(d.id)?.values() ?? [])]);
  return { input, facts, ceiling, stairs, cold, settings, withheld, setting: other };
}

/** What rests on sheet, system, cards and schools alone, and the order in which devices may look at each other. */
interface Ground {
  readonly parts: readonly unknown[];
  readonly facts: BankFacts;
  readonly ceiling: Ceiling;
  readonly stairs: readonly ColdStair[];
  readonly cold: ColdPlan;
  /** Leaders, followers, companions; `sees`: the devices whose settings a device looks at. */
  readonly order: readonly { readonly device: Charger; readonly card: Card; readonly sees: readonly string[] | 'all' }[];
  readonly kept: Map<string, { readonly parts: readonly unknown[]; readonly settings: ReadonlyMap<Role, Setting> }>;
}

const grounds = new WeakMap<object, Ground>();
const same = (a: readonly unknown[], b: readonly unknown[]): boolean => a.length === b.length && a.every((x, i) => x === b[i]);

/**
 * The ground of an input. Kept with the system it was made for: while a value is dragged only overrides change, and only the devices they
 * belong to, with those that look at them, are worked out anew. Documents are never changed in place, so the same object means the same content.
 */
function groundOf(printed: SettingsInput['sheet'], input: SettingsInput): Ground {
  const { system, cards, schools, tolerance, coverage } = input;
  const parts = [printed, cards, schools, tolerance, coverage];
  const kept = grounds.get(system);
  if (kept && same(kept.parts, parts)) return kept;
  const facts = bankFacts(input.sheet, system);
  const ceiling = chargeCeiling(input.sheet, system, schools.chargeCurrent);
  const stairs = coldStairs(input.sheet, system, schools.chargeCurrent);
  const cold = coldPlan(input, ceiling.binding?.amps ?? Infinity, stairs);
  const chargers = [...system.chargers].sort((a, b) => Number(a.follows !== undefined) - Number(b.follows !== undefined));
  const companions = devicesOf(input).slice(system.chargers.length);
  const order = [
    ...chargers.map((device) => ({ device, sees: device.follows === undefined ? [] : [device.follows] })),
    ...companions.map((device) => ({ device, sees: 'all' as const })),
  ].flatMap(({ device, sees }) => {
    const card = cardOf(input, device);
    return card ? [{ device, card, sees }] : [];
  });
  const ground = { parts, facts, ceiling, stairs, cold, order, kept: new Map() };
  grounds.set(system, ground);
  return ground;
}

type Shared = Pick<RoleContext, 'input' | 'facts' | 'ceiling' | 'stairs' | 'cold' | 'other'>;

/** A device’s settings, as worked out before when neither its overrides nor what it looks at has changed. */
function keptSettings(ground: Ground, shared: Shared, device: Charger, card: Card, seen: readonly unknown[]): ReadonlyMap<Role, Setting> {
  const parts = [...shared.input.overrides.filter((o) => o.charger === device.id), null, ...seen];
  const kept = ground.kept.get(device.id);
  if (kept && same(kept.parts, parts)) return kept.settings;
  const settings = deviceSettings(shared, device, card);
  ground.kept.set(device.id, { parts, settings });
  return settings;
}

function deviceSettings(shared: Shared, charger: Charger, card: Card): Map<Role, Setting> {
  const done = new Map<Role, Setting>();
  const { input, facts, ceiling, stairs, cold, other } = shared;
  const leader = charger.follows === undefined || !card.canFollow ? undefined : input.system.chargers.find((c) => c.id === charger.follows);
  const overrides = input.overrides.filter((o) => o.charger === charger.id);
  const said = dictationOf(charger, card);
  let device = deviceSetting(facts, card);
  for (const parameter of inRuleOrder(card)) {
    const { role } = parameter;
    // A literal, not a spread: this runs a hundred times for every frame of a drag.
    const context: RoleContext = { input, facts, ceiling, stairs, cold, other, charger, card, parameter, device, done };
    const fromLeader = leader?.card === charger.card && !hasTrait(role, 'ownOfFollower') ? other(leader.id, role) : undefined;
    const override = overrides.length === 0 ? undefined : overrides.find((o) => o.role === role);
    const wanted = fromLeader ? null : (roleRules[role] ?? noRule).want(context);
    const setting =
      leader && fromLeader
        ? inheritedFrom(leader, charger.id, fromLeader)
        : override?.value === null
          ? leftBy(override, resolve(context, wanted ?? noRule.want(context), undefined), context)
          : resolve(context, override && wanted ? overridden(wanted, override) : (wanted ?? noRule.want(context)), override);
    done.set(role, withPresent(context, said?.roles.includes(role) ? saidElsewhere(input, setting, said.by) : setting));
    if (role === 'floatVoltage') device = deviceSetting(facts, card, setting.trueValue ?? undefined);
  }
  return done;
}

/** Who says figures of a charger over a data line, and which; null where nobody does, or nobody has said so. `battery`, or the id of a device. */
export function dictationOf(
  charger: Charger,
  card: Card,
): (Pick<Dictated, 'roles'> & { readonly by: string; readonly whenLost: NonNullable<Dictated['whenLost']> | null }) | null {
  const { dictatedBy } = charger;
  const by = dictatedBy?.by === 'battery' ? 'battery' : dictatedBy?.by === 'device' ? dictatedBy.device : undefined;
  return card.dictated && by !== undefined ? { by, roles: card.dictated.roles, whenLost: card.dictated.whenLost ?? null } : null;
}
type Dictated = Readonly<NonNullable<Card['dictated']>>;

/** The name of who says them: the battery, or a device. */
export const dictatorName = (input: SettingsInput, by: string): string => (by === 'battery' ? 'the battery' : deviceName(input, by));

/** A figure that another says while the line is up. */
function saidElsewhere(input: SettingsInput, setting: Setting, by: string): Setting {
  const who = dictatorName(input, by);
  return {
    ...setting,
    dictated: by,
    derivation: [
      ...setting.derivation,
      { kind: 'note', words: `While its data line is up, ${who} says this figure. Enter it all the same: it counts when the line is lost.` },
    ],
  };
}

const rank = Object.fromEntries(Object.keys(roleRules).map((role, i) => [role, i])) as Readonly<Record<Role, number>>;
const inOrder = new WeakMap<Card, readonly Parameter[]>();

/** A card's parameters in the order in which their rules may look at each other. Kept: cards do not change while a value is dragged. */
function inRuleOrder(card: Card): readonly Parameter[] {
  const kept = inOrder.get(card);
  if (kept) return kept;
  const sorted = [...card.parameters].sort((a, b) => rank[a.role] - rank[b.role]);
  inOrder.set(card, sorted);
  return sorted;
}

/** What a card has and no rule works out: said, so that nobody takes it for done. */
const noRule: Pick<RoleRule, 'want'> = { want: () => left('No figure of a sheet is about it. Left as it is; see the charger’s own manual.') };

/** A leader’s figure as it stands at the follower: shown, not keyed. */
function inheritedFrom(leader: Charger, follower: string, { present: _p, presentTrue: _t, override: _o, ...setting }: Setting): Setting {
  return {
    ...setting,
    charger: follower,
    inherited: leader.id,
    derivation: [{ kind: 'note', words: `Taken from ${leader.name} over the link: shown here, not entered.` }, ...setting.derivation],
  };
}

/** What the value conversions of one charger need. Falls back to the nearest class when the bank's voltage is unusual. */
export function deviceSetting(facts: BankFacts, card: Card, floatVolts?: number): DeviceSetting {
  return {
    systemVolts: facts.systemVolts ?? facts.nominalVolts,
    cellsInSeries: facts.cells,
    ratingA: card.ratings.outputA,
    ...(floatVolts === undefined ? {} : { floatVolts }),
  };
}

/** What somebody chose to leave as it stands: nothing to key, and the band by which what stands there is judged. */
const leftBy = (override: Override, derived: Setting, context: RoleContext): Setting => ({
  ...bare(context, null, [
    ...(derived.value === null ? [] : [{ kind: 'note', words: `Derived: ${keyedText(derived)}.` } as const]),
    { kind: 'note', words: `Left as it is by the ${override.by}: ${override.reason}`, source: whenSeen(override) },
  ]),
  band: derived.band,
  noValue: 'left',
  left: override,
});

const whenSeen = ({ date, reviewedBy }: Override): string => `${date}${reviewedBy ? `, seen by the ${reviewedBy}` : ', no second look yet'}`;

/** An override keeps the sheet's band and loses the derived aim. */
function overridden(wanted: Wanted, override: Override): Wanted {
  const { value } = override;
  const words = `Override by the ${override.by}: ${override.reason}`;
  if (value === false || value === null) return { kind: 'off', steps: [{ kind: 'note', words, source: whenSeen(override) }] };
  if (typeof value === 'string') return { kind: 'choice', means: value, steps: [{ kind: 'note', words, source: whenSeen(override) }] };
  const core = roleInfo[override.role].unit;
  const { unit, scale } = core === 'choice' ? { unit: '', scale: 1 } : shownIn[core];
  return {
    kind: 'number',
    exact: value,
    band: wanted.kind === 'number' ? wanted.band : null,
    inset: 0,
    prefer: 'nearest',
    asGiven: true,
    steps: [
      ...(wanted.kind === 'number' ? [{ kind: 'note', words: `Derived from the sheet: ${formatNumber(wanted.exact / scale, 2)} ${unit}.` } as const] : []),
      {
        kind: 'start',
        words,
        value: value / scale,
        unit,
        digits: 2,
        source: whenSeen(override),
      },
    ],
  };
}

/** A setting without a value, in the shape all settings share. */
const bare = ({ charger, parameter }: RoleContext, exact: Setting['exact'], derivation: readonly Step[]): Setting => ({
  charger: charger.id,
  role: parameter.role,
  label: parameter.label,
  menu: parameter.menu,
  exact,
  value: null,
  unit: parameter.unit === 'choice' ? '' : deviceUnitLabel(parameter),
  counts: parameter.unit,
  digits: parameter.unit === 'choice' ? 0 : deviceDecimals(parameter),
  trueValue: null,
  uncertainty: null,
  budget: [],
  band: null,
  within: 'noBand',
  deviation: null,
  tolerance: null,
  off: false,
  derivation,
});

const marked = (setting: Setting, override: Override | undefined): Setting => (override ? { ...setting, override } : setting);

function resolve(context: RoleContext, wanted: Wanted, override: Override | undefined): Setting {
  const { parameter } = context;
  if (wanted.kind === 'none') return marked({ ...bare(context, null, wanted.steps), noValue: wanted.why }, override);
  if (parameter.unit === 'choice') {
    const means = wanted.kind === 'choice' ? wanted.means : wanted.kind === 'number' ? String(wanted.exact) : 'off';
    const option = parameter.options.find((o) => o.value === means) ?? parameter.options.find((o) => o.means === means);
    if (!option)
      return marked(
        { ...bare(context, means, [...wanted.steps, { kind: 'note', words: `This charger offers no “${means}” here.` }]), noValue: 'outOfReach' },
        override,
      );
    return marked(
      { ...bare(context, means, [...wanted.steps, { kind: 'set', words: `Set “${option.value}”` }]), value: option.value, off: option.means === 'off' },
      override,
    );
  }
  const unit = deviceUnitLabel(parameter);
  const off = offNumber(parameter);
  // A person who sets a value that the charger reads as off has switched it off.
  if (wanted.kind === 'number' && wanted.asGiven && off !== undefined && Math.abs(toDevice(parameter, wanted.exact, context.device) - off) < 1e-9)
    return resolve(context, { kind: 'off', steps: wanted.steps }, override);
  if (wanted.kind === 'off') {
    if (off === undefined)
      return resolve(
        context,
        {
          kind: 'number',
          exact: 0,
          band: null,
          inset: 0,
          prefer: 'nearest',
          steps: [...wanted.steps, { kind: 'note', words: 'This charger has no “off” here: the smallest value it takes.' }],
        },
        override,
      );
    const set = { kind: 'set', words: 'Set, which this charger reads as off', value: off, unit, digits: deviceDecimals(parameter) } as const;
    return marked({ ...bare(context, 0, [...wanted.steps, set]), value: off, trueValue: 0, deviation: 0, off: true }, override);
  }
  if (wanted.kind === 'end') {
    const value = plainEnd(parameter, context.device.systemVolts, wanted.end);
    if (value === undefined) return marked({ ...bare(context, null, wanted.steps), noValue: 'outOfReach' }, override);
    const exact = fromDevice(parameter, value, context.device);
    return resolve(context, { kind: 'number', exact, band: null, inset: 0, prefer: 'nearest', steps: wanted.steps }, override);
  }
  if (wanted.kind === 'choice') return marked({ ...bare(context, null, wanted.steps), noValue: 'notSupported' }, override);
  return marked(fitNumber(context, parameter, wanted), override);
}

/** Adds what was found on the device, and what it makes at the battery. */
function withPresent(context: RoleContext, setting: Setting): Setting {
  const { parameter, charger } = context;
  const present = charger.present[parameter.role];
  if (present === undefined) return setting;
  if (parameter.unit === 'choice' || typeof present !== 'number') return { ...setting, present };
  const presentTrue = trueFromDisplay(context, parameter, present);
  // What is left as it stands is what counts there.
  return { ...setting, present, presentTrue, ...(setting.left ? { trueValue: presentTrue } : {}) };
}

/** The most a charger may give, A: its limit as set, else its machine's or its own rating. */
export const mostAmps = (plan: Plan, charger: Charger, card: Card): number =>
  plan.setting(charger.id, 'chargeCurrentLimit')?.trueValue ?? unlimitedA(plan.input, charger) ?? card.ratings.outputA;

/** Whether the value found on the device lies in the setting's band; null when there is nothing to compare. */
export const presentWithin = (setting: Setting): boolean | null =>
  setting.presentTrue === undefined || setting.band === null ? null : contains(setting.band, setting.presentTrue);

/** What the charger holds when nobody has looked: as found, else the factory value, in device units. */
export function presentOrFactory(input: SettingsInput, charger: Charger, role: Role): number | string | undefined {
  const found = charger.present[role];
  if (found !== undefined) return found;
  const card = cardOf(input, charger);
  const parameter = card && parameterFor(card, role);
  if (!parameter) return undefined;
  const facts = bankFacts(input.sheet, input.system);
  return factoryOf(parameter, facts.systemVolts ?? facts.nominalVolts);
}
