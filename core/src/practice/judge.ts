import * as z from 'zod';
import { devicesOf } from '../settings';
import { identifier } from '../sheet';
import { meansOf, parameterFor, type Card, type DeviceValues, type Role } from '../card';
import { acceptable } from './acceptable';
import type { Bench, Danger } from './bench';
import type { Done } from './done';
import { faultCodeSchema, faultCodes, faultKinds, type FaultCode, type Hand, type Showing } from './faults';
import { spotsOf, type Planted } from './exercise';

/** What somebody says it is: a kind of fault, on what, and the lines of what was done that show it. */
export const claimSchema = z.object({ code: faultCodeSchema, device: identifier.nullable(), shownBy: z.array(z.int().min(0)).max(10_000).readonly() });
export type Claim = z.infer<typeof claimSchema>;

/** One fault that was there, and what became of it. */
export interface JudgedFault extends Planted {
  readonly named: boolean;
  /** Whether the lines that were pointed at show it; null while it was not named. */
  readonly shown: boolean | null;
  readonly cured: boolean;
  /** Where it was to be seen, whether it was looked at or not. */
  readonly proofs: readonly (Showing & { readonly seen: readonly (number | null)[] })[];
}

/** A value that stands wrong at the end. */
export interface LeftWrong {
  readonly device: string;
  readonly role: Role;
  readonly value: number | string | undefined;
  /** The value worked out. */
  readonly right: number | string | null;
  /** In use it is right, and it was not saved. */
  readonly unsaved: boolean;
}

/** What came of an exercise. */
export interface Judged {
  readonly passed: boolean;
  readonly faults: readonly JudgedFault[];
  /** Said, and not so. */
  readonly wrong: readonly Claim[];
  /** True, and only what something else has brought about. */
  readonly followed: readonly Claim[];
  readonly left: readonly LeftWrong[];
  /** Works of the hands that nothing called for. */
  readonly needless: readonly { readonly hand: Hand; readonly device: string | null }[];
  readonly hazards: readonly Danger[];
  readonly slips: ReturnType<Bench['slips']>;
  readonly hints: number;
  readonly steps: number;
  readonly seconds: number;
}

/** Whether lines of what was done show a fault by one of its proofs. */
export function shows(proof: Showing, done: readonly Done[], pointed: readonly Done[]): boolean {
  if (!pointed.some((d) => proof.keys.includes(d.key))) return false;
  const lines = proof.keys.map((key) => pointed.findLast((d) => d.key === key) ?? done.findLast((d) => d.key === key));
  const [first, second] = lines;
  if (!first || lines.some((line) => line === undefined)) return false;
  const number = first.number ?? NaN;
  if (proof.blank === true) return Number.isNaN(number);
  if (proof.atLeast !== undefined && !(Math.abs(number) >= proof.atLeast)) return false;
  if (proof.atMost !== undefined && !(number <= proof.atMost)) return false;
  return proof.apart === undefined || Math.abs(number - (second?.number ?? NaN)) >= proof.apart;
}

/** What equalise would do while it is off: where a fault is to be found nobody has to put that right too. */
const ofEqualise: readonly Role[] = ['equaliseVoltage', 'equaliseTime', 'equaliseInterval'];
const harmless = (bench: Bench, card: Card, role: Role, stored: DeviceValues): boolean =>
  bench.exercise.kind === 'find' && ofEqualise.includes(role) && meansOf(parameterFor(card, 'equaliseEnabled'), stored.equaliseEnabled) === 'off';

/** Every value that should be another, on every device: what a power cut would bring back counts. */
export function leftWrong(bench: Bench): readonly LeftWrong[] {
  const plan = bench.truePlan();
  return bench.devices.flatMap(({ id, card }) =>
    card.parameters.flatMap(({ role }): LeftWrong[] => {
      const { inUse, stored } = bench.face(id).memory;
      if (harmless(bench, card, role, stored)) return [];
      const used = acceptable(plan, bench.at, id, role, inUse[role]);
      if (used && acceptable(plan, bench.at, id, role, stored[role])) return [];
      return [
        {
          device: id,
          role,
          value: used ? stored[role] : inUse[role],
          right: plan.setting(id, role)?.value ?? bench.at.right[id]?.[role] ?? null,
          unsaved: used,
        },
      ];
    }),
  );
}

/** Whether a fault is no longer there. */
function isCured({ code, spot }: Planted, bench: Bench, left: readonly LeftWrong[]): boolean {
  const { remedy } = faultKinds[code];
  if (remedy === 'nothing') return true;
  if (remedy !== 'value') return bench.hands().some((h) => h.hand === remedy && (spot.device === null || h.device === spot.device));
  return !left.some(
    (l) =>
      (spot.device === null || l.device === spot.device) &&
      (spot.role === null || spot.role === 'batteryType' || spot.role === 'follows' || l.role === spot.role),
  );
}

/** Whether what was said is so, though it was not planted: the value that it speaks of was wrong when somebody arrived. */
function wasWrong(said: Claim, bench: Bench): boolean {
  const plan = bench.truePlan();
  return spotsOf(bench.at, said.code).some(({ device, role }) => {
    if (device !== said.device || device === null || role === null) return false;
    return !acceptable(plan, bench.at, device, role, bench.arrived.stored[device]?.[role]);
  });
}

/** How often somebody may be wrong on the way: more is guessing. */
export const mostWrong = 2;

const same = (s: Claim, f: Planted): boolean => s.code === f.code && (f.spot.device === null || s.device === f.spot.device);
const plantedIn = (bench: Bench): readonly Planted[] => (bench.exercise.kind === 'find' ? bench.exercise.faults : []);

/** What comes of saying something: it is so and shown, so and not shown, a consequence of something else, or not so. */
export type Assessed = 'so' | 'notShown' | 'follows' | 'wrong';

/** Holds one claim against what is there and what was done. */
export function assess(bench: Bench, claim: Claim): Assessed {
  const fault = plantedIn(bench).find((f) => same(claim, f));
  if (!fault) return wasWrong(claim, bench) ? 'follows' : 'wrong';
  const done = bench.done();
  const pointed = claim.shownBy.flatMap((i) => done[i] ?? []);
  return faultKinds[fault.code].proofs(fault.spot, bench.at).some((proof) => shows(proof, done, pointed)) ? 'so' : 'notShown';
}

/**
 * Judges an exercise by what was done, not by words: causes named and shown by what was measured or read, remedies carried out, nothing
 * else harmed.
 */
export function judgeExercise(bench: Bench, claims: readonly Claim[]): Judged {
  const done = bench.done();
  const left = leftWrong(bench);
  const planted = plantedIn(bench);
  const faults = planted.map((fault): JudgedFault => {
    const own = claims.find((s) => same(s, fault));
    return {
      ...fault,
      named: own !== undefined,
      shown: own ? assess(bench, own) === 'so' : null,
      cured: isCured(fault, bench, left),
      proofs: faultKinds[fault.code]
        .proofs(fault.spot, bench.at)
        .map((proof) => ({ ...proof, seen: proof.keys.map((key) => done.findLast((d) => d.key === key)?.at ?? null) })),
    };
  });
  const followed = claims.filter((s) => assess(bench, s) === 'follows');
  const wrong = claims.filter((s) => assess(bench, s) === 'wrong');
  const needed = planted.map((f) => ({ remedy: faultKinds[f.code].remedy, device: f.spot.device }));
  const needless = bench.hands().filter((h) => !needed.some((n) => n.remedy === h.hand && (n.device === null || n.device === h.device)));
  const hazards = bench.hazards();
  const found = bench.exercise.kind === 'program' || (faults.every((f) => f.named && f.shown === true) && wrong.length <= mostWrong);
  return {
    passed: found && left.length === 0 && faults.every((f) => f.cured) && needless.length === 0 && hazards.length === 0,
    faults,
    wrong,
    followed,
    left,
    needless,
    hazards,
    slips: bench.slips(),
    hints: bench.hints(),
    steps: done.length,
    seconds: bench.seconds(),
  };
}

/** One thing that could be said of a place: a kind of fault, and the device it would be on. */
export interface Choice {
  readonly code: FaultCode;
  readonly device: string | null;
}

/** Everything that could be wrong at a place, once for each device, in the order of its devices. */
export function choicesAt(bench: Pick<Bench, 'at'>): readonly Choice[] {
  const order = [null, ...devicesOf(bench.at.plan.input).map((d) => d.id)];
  const all = faultCodes.flatMap((code) => spotsOf(bench.at, code).map(({ device }) => ({ code, device })));
  return all
    .filter((c, i) => all.findIndex((o) => o.code === c.code && o.device === c.device) === i)
    .sort((a, b) => order.indexOf(a.device) - order.indexOf(b.device));
}

/** What a hint tells: first where to look, then what shows it. */
export type Hint =
  { readonly tells: 'where'; readonly device: string | null } | { readonly tells: 'proof'; readonly keys: readonly string[]; readonly device: string | null };

/** The hints taken so far: for each fault where it is, then how it shows. */
export function hintsOf(bench: Bench): readonly Hint[] {
  return plantedIn(bench)
    .flatMap(({ code, spot }): Hint[] => [
      { tells: 'where', device: spot.device },
      { tells: 'proof', keys: faultKinds[code].proofs(spot, bench.at)[0]?.keys ?? [], device: spot.device },
    ])
    .slice(0, bench.hints());
}
