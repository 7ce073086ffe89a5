import { movesTo, movesToSet, type FaceMove } from '../face';
import type { Role } from '../card';
import type { Bench } from './bench';
import type { Action } from './done';
import { faultKinds } from './faults';
import { leftWrong, type Claim } from './judge';

const asAction = (device: string, move: FaceMove): Action =>
  move.do === 'key' ? { do: 'key', device, stroke: move.stroke } : move.do === 'reach' ? { do: 'reach', device, level: move.level } : { do: 'leave', device };

/** What is done to get a line of a key into the list; nothing for a value, which is walked to on its front. */
export function actionsFor(key: string): readonly Action[] {
  const [what = '', id = ''] = key.split(':');
  switch (what) {
    case 'meter':
      return [id === 'bank' ? { do: 'meter', red: 'bank+', black: 'bank-' } : { do: 'meter', red: `at:${id}+`, black: `at:${id}-` }];
    case 'drop':
      return [{ do: 'meter', red: `at:${id}+`, black: 'bus+' }];
    case 'clamp':
      return [{ do: 'clamp', at: id }];
    case 'strings':
      return [{ do: 'strings', device: id }];
    case 'thermometer':
      return [{ do: 'thermometer', at: id === 'air' ? 'air' : 'battery' }];
    case 'look':
      return [{ do: 'look', at: key.slice('look:'.length) }];
    case 'monitor':
      return [{ do: 'note', device: 'monitor' }];
    case 'display':
    case 'sensor':
      return [
        { do: 'leave', device: id },
        { do: 'note', device: id },
      ];
    case 'ice':
      return [{ do: 'ice', device: id }];
    case 'cut':
      return [
        { do: 'isolate', device: id, off: true },
        { do: 'cut', device: id },
        { do: 'isolate', device: id, off: false },
      ];
    case 'log':
      return [{ do: 'log' }];
    default:
      return [];
  }
}

/** Walks a front to a value and reads it. */
function readValue(bench: Bench, device: string, role: Role): void {
  const moves = movesToRead(bench, device, role);
  for (const move of moves) bench.act(asAction(device, move));
}
function movesToRead(bench: Bench, device: string, role: Role): readonly FaceMove[] {
  const d = bench.devices.find((x) => x.id === device);
  return (d && movesTo(d.rules, bench.face(device), role)) ?? [];
}

/** Sets a value by the keys of its device; where a rule with another setting refuses it, that one first. False where neither goes. */
function setByKeys(bench: Bench, device: string, role: Role, value: number | string, tries = 2): boolean {
  const d = bench.devices.find((x) => x.id === device);
  if (!d) return false;
  const moves = movesToSet(d.rules, bench.face(device), role, value);
  if (moves) {
    for (const move of moves) bench.act(asAction(device, move));
    return true;
  }
  const others = d.card.constraints.flatMap((c) => (c.parameter === role ? [c.other] : c.other === role ? [c.parameter] : []));
  const first = others.some((other) => {
    const right = bench.truePlan().setting(device, other)?.value;
    return tries > 0 && right != null && right !== bench.face(device).memory.stored[other] && setByKeys(bench, device, other, right, tries - 1);
  });
  return first && setByKeys(bench, device, role, value, tries - 1);
}

/** Sets every value that is wrong, again and again until none is or no front takes any: a battery type moves others. */
export function setAllRight(bench: Bench): void {
  for (let round = 0; round < 4; round++) {
    const left = leftWrong(bench);
    if (left.length === 0) return;
    for (const { device, role, right } of left) if (right !== null) setByKeys(bench, device, role, right);
  }
}

/**
 * Solves an exercise by what it is known to be: looks where it shows, says so, and puts it right with hands and keys. It proves that an
 * exercise can be solved; nobody is shown it before theirs is judged.
 */
export function solve(bench: Bench): readonly Claim[] {
  const claims: Claim[] = [];
  if (bench.exercise.kind === 'find')
    for (const { code, spot } of bench.exercise.faults) {
      const showing = faultKinds[code].proofs(spot, bench.at).at(-1);
      if (!showing) continue;
      // What is read after the power came back is read after it.
      for (const key of [...showing.keys].reverse()) {
        const [what, device, role] = key.split(':');
        if (what === 'value') readValue(bench, device ?? '', role as Role);
        else for (const action of actionsFor(key)) bench.act(action);
      }
      claims.push({ code, device: spot.device, shownBy: bench.done().flatMap((d, i) => (showing.keys.includes(d.key) ? [i] : [])) });
    }
  if (bench.exercise.kind === 'find')
    for (const { code, spot } of bench.exercise.faults) {
      const { remedy } = faultKinds[code];
      if (remedy !== 'value' && remedy !== 'nothing' && !bench.hands().some((h) => h.hand === remedy && h.device === spot.device))
        bench.act({ do: 'hand', hand: remedy, device: spot.device });
    }
  setAllRight(bench);
  return claims;
}
