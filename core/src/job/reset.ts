import { parameterFor, roleInfo, type Role } from '../card';
import { backPrefix } from '../runsheet';
import { cardOf, devicesOf } from '../settings';
import { onCharger, onCompanion, onPresent } from './devices';
import type { Job } from './job';

/** Steps whose answers say nothing any more once a device has been reset: what was read, keyed, saved and proved on it. */
const gone = ['readOff', 'edit', 'commit', 'persist', 'passcode', 'reach'];

/**
 * Notes that a device was reset: whatever stood on it is in doubt until it is read, but for what its card says a reset spares. Steps that were answered on it
 * stand open again, its passcode is the factory’s where it has one, a display that can be adjusted is to be compared again, and evidence on it counts no
 * more until every value was read again. Firmware, sensor, wiring and what was noted in words stay.
 *
 * @param at ISO time
 */
export function noteReset(job: Job, device: string, at: string): Job {
  const found = devicesOf(job).find((d) => d.id === device);
  const card = found && cardOf(job, found);
  if (!found || !card) return job;
  const spared = new Set(card.procedures?.factoryReset?.spares);
  const left = <T extends object>(values: T): T => Object.fromEntries(Object.entries(values).filter(([role]) => spared.has(role as Role))) as T;
  const compared = card.display.calibratable;
  let next = onPresent(job, device, left);
  next = onCharger(next, device, (c) => ({
    ...c,
    resetSinceProof: true,
    passcodeChanged: card.defaultPasscode ? false : c.passcodeChanged,
    displayReadings: compared ? [] : c.displayReadings,
  }));
  next = onCompanion(next, device, (c) => ({ ...c, resetSinceProof: true }));
  const record = next.programming;
  if (record?.endedAt !== null) return next;
  const kinds = compared ? [...gone, 'compare'] : gone;
  const stays = (step: string): boolean => {
    const own = step.startsWith(backPrefix) ? step.slice(backPrefix.length) : step;
    return !kinds.some((kind) => own === `${device}/${kind}` || own.startsWith(`${device}/${kind}/`));
  };
  const names = [...spared].flatMap((role) => (parameterFor(card, role) ? [roleInfo[role].name] : []));
  const text = `It was reset. ${names.length > 0 ? `Not reset: ${names.join(', ')}. Everything else` : 'Everything'} on it is in doubt until it is read.`;
  return {
    ...next,
    programming: {
      ...record,
      at: null,
      found: { ...record.found, [device]: left(record.found[device] ?? {}) },
      beforeReset: { [device]: record.found[device] ?? {}, ...record.beforeReset },
      answers: record.answers.filter((a) => stays(a.step)),
      trouble: [...record.trouble, { at, device, step: `${device}/readOff`, text: text.slice(0, 400) }].slice(-300),
    },
  };
}
