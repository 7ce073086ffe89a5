import { deviceDecimals, deviceUnitLabel, displayText, isKnown, keyStroke, parameterFor, roleInfo, type Card, type DeviceValues, type Role } from '../card';
import type { EditPlan, EditStep } from '../edits';
import { capital } from '../quantity';
import { devicesOf, dictatorName, targetsOf, type Plan } from '../settings';
import type { Charger } from '../system';
import { bare, sentence, type Place } from './place';
import type { Look, SheetStep } from './step';

/** Level of access, edits in order, the save, and the proof of it. */
export function keying(plan: Plan, { charger, card }: Place, edits: EditPlan, prefix: string, to: DeviceValues, sister?: Charger): readonly SheetStep[] {
  const { id, name } = charger;
  const list: SheetStep[] = [];
  const level = edits.steps.flatMap((s) => parameterFor(card, s.role)?.access ?? []).find((a) => a !== 'basic');
  if (level)
    list.push({
      ...bare(`${prefix}${id}/reach`, 'reach', id, `Open the ${level} level`),
      says: [card.programming.levels?.[level] ?? 'The manual tells how.'],
      notes: edits.steps.flatMap((s) => (parameterFor(card, s.role)?.access === level ? [`${s.label} is shown only there.`] : [])),
    });
  const seen = new Map<Role, number>();
  const differing = sister ? differences(plan, id, sister.id) : [];
  edits.steps.forEach((edit, i) => {
    const nth = seen.get(edit.role) ?? 0;
    seen.set(edit.role, nth + 1);
    const last = edits.steps.findLastIndex((s) => s.role === edit.role) === i;
    const step = editSheetStep(charger, card, edit, `${prefix}${id}/edit/${edit.role}${last ? '' : `/via${nth + 1}`}`);
    const other = differing.find((d) => d.role === edit.role);
    const dictated = plan.setting(id, edit.role)?.dictated;
    const first = [
      ...(dictated === undefined ? [] : [`It counts when the data line is lost: while it is up, ${dictatorName(plan.input, dictated)} says this figure.`]),
      ...(other && sister ? [`Not the same as on ${sister.name}, which has ${other.there}.`] : []),
    ];
    list.push({ ...step, notes: [...first, ...step.notes] });
  });
  if (edits.blocked)
    list.push({
      ...bare(`${prefix}${id}/blocked`, 'blocked', id, 'No order of edits is accepted'),
      says: [edits.blocked.why, ...edits.blocked.ways],
      blocked: edits.blocked,
    });
  if (edits.steps.length > 0 && card.commit.kind !== 'auto')
    list.push({
      ...bare(`${prefix}${id}/commit`, 'commit', id, 'Save'),
      says: [sentence(card.commit.how), ...(card.commit.waysOut ? [`Leave by ${card.commit.waysOut.saves}, not by ${card.commit.waysOut.discards}.`] : [])],
      notes: ['Everything looks right until the next power cut: what is not saved is lost then, not now.'],
    });
  const looks = card.parameters.flatMap((p) => {
    const want = to[p.role];
    return want === undefined || p.role === 'clock' ? [] : [lookAt(card, p.role, want)];
  });
  // Where nothing was keyed the values are still looked at once, but nothing has to be proved by a power cut.
  if (looks.length > 0)
    list.push({
      ...bare(`${prefix}${id}/persist`, 'persist', id, edits.steps.length > 0 ? 'Cut its power and read again' : 'Read every value'),
      says: [
        ...(edits.steps.length > 0
          ? [powerCutWords(name, card), 'Then every value must still be there.']
          : ['Nothing is to be entered. See that every value is as listed.']),
        sentence(card.commit.proof),
      ],
      notes: [
        ...(card.forgets.length > 0 ? [`It loses at a restart unless saved: ${card.forgets.map((r) => roleInfo[r].name).join(', ')}.`] : []),
        ...(sister && differing.length > 0
          ? [`Sister of ${sister.name}: ${differing.length === 1 ? 'one value differs' : `${differing.length} values differ`}, as they should.`]
          : []),
      ],
      looks,
      ...(edits.steps.length > 0 && plan.input.system.bank.hasBms
        ? { caution: 'Only this device loses its supply. The bank stays connected, and no source is on.' }
        : {}),
    });
  return list;
}

const powerCutWords = (name: string, card: Card): string =>
  card.kind === 'monitor' || card.kind === 'thermostat'
    ? `Take the supply fuse of ${name} out, count to thirty, put it back.`
    : `Source off, then take ${name} off the battery at its own breaker or fuse. Count to thirty, and put it back.`;

/** A line to look at on a display; `want` null where it is only noted. */
export function lookAt(card: Card, role: Role, want: number | string | null): Look {
  const p = parameterFor(card, role);
  if (!p) throw new RangeError(`the card has no ${role}`);
  return {
    role,
    label: p.label,
    unit: p.unit === 'choice' ? '' : deviceUnitLabel(p),
    choices: p.unit === 'choice' ? p.options.map((o) => o.value) : [],
    want,
    text: want === null ? '' : displayText(p, want),
  };
}

function editSheetStep(charger: Charger, card: Card, edit: EditStep, id: string): SheetStep {
  const p = parameterFor(card, edit.role);
  const { entry, commit } = card;
  return {
    ...bare(id, 'edit', charger.id, capital(roleInfo[edit.role].name)),
    says: [],
    notes: [
      ...edit.notes,
      ...(p && p.unit !== 'choice' && !isKnown(p, 'step')
        ? ['Its steps are not known. If it does not take this value, set the nearest below that it takes, and enter what it shows.']
        : []),
      ...(p?.movesWith ? [`It moves by itself when ${roleInfo[p.movesWith].name} is changed.`] : []),
      ...(entry?.held && p?.unit !== 'choice' ? [entry.held] : []),
      ...(p?.proof ? [`Proof: ${p.proof}`] : []),
    ],
    keys: (p?.keys ?? []).map(keyStroke),
    value: {
      role: edit.role,
      label: edit.label,
      from: edit.from,
      stands: edit.stands,
      readOff: edit.readOff,
      to: edit.to,
      unit: edit.unit,
      digits: p && p.unit !== 'choice' ? deviceDecimals(p) : 0,
      readBack: edit.readBack,
      temporary: edit.temporary,
      overwrites: edit.overwrites,
    },
    ...(commit.timeoutSeconds === undefined ? {} : { timeoutS: commit.timeoutSeconds }),
  };
}

/** Values that two chargers of one model are to have differently, as the other’s display shows them. */
function differences(plan: Plan, id: string, sister: string): readonly { role: Role; there: string }[] {
  const [own, other] = [targetsOf(plan, id), targetsOf(plan, sister)];
  const card = plan.input.cards.find((c) => c.id === devicesOf(plan.input).find((d) => d.id === sister)?.card);
  return (Object.keys(own) as Role[]).flatMap((role) => {
    const there = other[role];
    const p = card && parameterFor(card, role);
    return there === undefined || there === own[role] || !p ? [] : [{ role, there: displayText(p, there) }];
  });
}
