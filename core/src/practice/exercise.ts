import * as z from 'zod';
import { isSource, roleSchema } from '../card';
import { randomFrom } from '../physics';
import { factoryValues } from '../settings';
import { identifier } from '../sheet';
import { faultCodes, faultCodeSchema, faultKinds, type FaultCode, type Setup, type Spot } from './faults';
import { placeCodes, type PlaceCode, type PracticeLibrary } from './places';
import { prepare, type Prepared } from './prepared';

/** A fault in its place. */
export interface Planted {
  readonly code: FaultCode;
  readonly spot: Spot;
}

const plantedSchema = z.object({
  code: faultCodeSchema,
  spot: z.object({ device: identifier.nullable(), role: roleSchema.nullable() }),
});

const seedSchema = z
  .int()
  .min(0)
  .max(2 ** 31);

/** What is practised: find what is wrong, or program one device from its sheet. */
export const exerciseSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('find'),
    seed: seedSchema,
    place: z.enum(placeCodes),
    faults: z.array(plantedSchema).min(1).max(3),
  }),
  z.object({
    kind: z.literal('program'),
    seed: seedSchema,
    place: z.enum(placeCodes),
    device: identifier,
  }),
]);
export type Exercise = z.infer<typeof exerciseSchema>;
export type FindExercise = Extract<Exercise, { kind: 'find' }>;

/** What somebody wants of the next exercise. */
export interface Wish {
  readonly place?: PlaceCode;
  /** How many faults, 1 to 3. */
  readonly faults?: number;
  /** How much each kind is wanted; 1 where nothing is said, 0 for not at all. */
  readonly weight?: (code: FaultCode) => number;
}

/** Where a kind of fault can be at a place. */
export const spotsOf = (at: Prepared, code: FaultCode): readonly Spot[] => faultKinds[code].spots(at);

/** Whether two faults can be told apart when both are there. */
function goTogether(a: Planted, b: Planted): boolean {
  const [one, other] = [faultKinds[a.code], faultKinds[b.code]];
  if (one.touches === 'all' || other.touches === 'all') return false;
  if (one.touches !== other.touches) return true;
  return one.touches !== 'load' && a.spot.device !== null && b.spot.device !== null && a.spot.device !== b.spot.device;
}

/** Picks one of a list by weights; nothing where all are 0. */
function pick<T>(random: () => number, list: readonly T[], weight: (item: T) => number): T | undefined {
  const total = list.reduce((sum, item) => sum + Math.max(0, weight(item)), 0);
  let left = random() * total;
  return total > 0 ? (list.find((item) => (left -= Math.max(0, weight(item))) < 0) ?? list.at(-1)) : undefined;
}

/**
 * Draws an exercise: the same seed and wish give the same one.
 *
 * @param seed a whole number from 0
 * @throws Error where the wish leaves nothing to plant
 */
export function drawExercise(seed: number, library: PracticeLibrary, { place, faults = 1, weight = () => 1 }: Wish = {}): FindExercise {
  const random = randomFrom(seed);
  const where = place === undefined ? [...placeCodes] : [place];
  const all = where.flatMap((code) => {
    const at = prepare(code, library);
    return faultCodes.map((fault) => ({ place: code, fault, spots: spotsOf(at, fault) })).filter(({ spots }) => spots.length > 0);
  });
  // A kind that can be at many places is no likelier for it.
  const kinds = [...new Set(all.map((x) => x.fault))];
  const first = pick(random, kinds, weight);
  const found =
    first &&
    pick(
      random,
      all.filter((x) => x.fault === first),
      () => 1,
    );
  if (!found) throw new Error('nothing that was wished for can be at that place');
  const planted: Planted[] = [{ code: found.fault, spot: pick(random, found.spots, () => 1) ?? { device: null, role: null } }];
  for (let tries = 0; planted.length < faults && tries < 60; tries++) {
    const next = pick(
      random,
      all.filter((x) => x.place === found.place),
      ({ fault }) => weight(fault),
    );
    const spot = next && pick(random, next.spots, () => 1);
    if (!next || !spot) break;
    const more = { code: next.fault, spot };
    if (planted.every((one) => goTogether(one, more))) planted.push(more);
  }
  return { kind: 'find', seed, place: found.place, faults: planted };
}

/** The chargers of a place that somebody can practise to program. */
export const programmable = (at: Prepared): readonly string[] =>
  at.plan.input.system.chargers
    .filter((c) => c.follows === undefined && isSource(at.plan.input.cards.find((k) => k.id === c.card)?.kind ?? 'monitor'))
    .map((c) => c.id);

/** An installation with everything right, before anything is planted. */
const sound = ({ plan, right, scenario }: Prepared): Setup => ({
  truth: plan.input,
  inUse: right,
  stored: right,
  scenario,
  light: 1,
  loadA: 0,
  unplugged: [],
  isolated: [],
  shuntReversed: false,
  wallSheet: null,
});

/** The installation of an exercise as it really is. */
export function setUp(exercise: Exercise, at: Prepared): Setup {
  const seeded: Setup = { ...sound(at), scenario: { ...at.scenario, seed: exercise.seed } };
  if (exercise.kind === 'find') return exercise.faults.reduce<Setup>((setup, { code, spot }) => faultKinds[code].plant(setup, spot, at), seeded);
  // As it leaves its box: only what nobody can key from the sheet is told already.
  const factory = { ...at.right[exercise.device], ...factoryValues(at.plan, exercise.device) };
  const put = { ...at.right, [exercise.device]: factory };
  return { ...seeded, inUse: put, stored: put, isolated: [exercise.device] };
}
