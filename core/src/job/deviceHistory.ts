import type { DeviceValues, Role } from '../card';
import type { Job } from './job';

/** What was known to stand on a device from one moment on. */
export interface DeviceState {
  /** ISO time. */
  readonly at: string;
  /** `found`: somebody looked; `keyed`: it was set and read back by this book. */
  readonly source: 'found' | 'keyed';
  readonly by: string;
  readonly values: DeviceValues;
}

/**
 * Everything that is on record of what stood on a device, the oldest first. Each state carries on what was known before and not looked at again.
 * What a run sheet found before it keyed anything counts as found at its beginning.
 */
export function deviceHistory(job: Pick<Job, 'snapshots' | 'pastSheets' | 'programming'>, device: string): readonly DeviceState[] {
  const sheets = [...job.pastSheets, ...(job.programming ? [job.programming] : [])];
  const seen: DeviceState[] = [
    ...sheets.flatMap((s): DeviceState[] => {
      const values = s.found[device];
      return values && Object.keys(values).length > 0 ? [{ at: s.begunAt, source: 'found', by: s.by, values }] : [];
    }),
    ...job.snapshots
      .filter((s) => s.device === device)
      .map((s): DeviceState => ({ at: s.at, source: s.verified === 'readOff' ? 'found' : 'keyed', by: s.by, values: s.values })),
  ].sort((a, b) => a.at.localeCompare(b.at));
  let known: DeviceValues = {};
  return seen.map((state) => {
    known = { ...known, ...state.values };
    return { ...state, values: known };
  });
}

/** What stood on a device at the end of a day, as far as anybody knew; null where nothing is on record. */
export const stateOn = (history: readonly DeviceState[], date: string): DeviceState | null => history.findLast((s) => s.at.slice(0, 10) <= date) ?? null;

/** One setting that stands otherwise than it stood. */
export interface SettingChange {
  readonly device: string;
  readonly role: Role;
  readonly from: number | string;
  readonly to: number | string;
  /** Whether a run sheet of this book keyed it; otherwise somebody, or something, changed it and it was found so. */
  readonly byBook: boolean;
  /** When it was keyed, or first found. ISO time. */
  readonly at: string;
  readonly by: string;
}

/**
 * What changed on the devices between the end of one day and the end of another.
 *
 * @param from year-month-day; what stood then is what is compared with
 */
export function settingChanges(job: Job, from: string, to: string): readonly SettingChange[] {
  return [...job.system.chargers, ...job.system.companions].flatMap((device) => {
    const history = deviceHistory(job, device.id);
    const before = stateOn(history, from);
    const after = stateOn(history, to);
    if (!before || !after || before === after) return [];
    return (Object.entries(after.values) as [Role, number | string][]).flatMap(([role, value]): SettingChange[] => {
      const was = before.values[role];
      if (was === undefined || was === value) return [];
      // The state in which it came to be what it is now.
      const index = history.indexOf(after);
      let first = index;
      while (first > 0 && history[first - 1]?.values[role] === value) first--;
      const state = history[first] ?? after;
      return [{ device: device.id, role, from: was, to: value, byBook: state.source === 'keyed', at: state.at, by: state.by }];
    });
  });
}
