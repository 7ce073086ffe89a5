/** The launch a year on: set up in June, looked at in September, its cold protection proved in December, and found changed the June after. */
import type { Role } from '@calm-keel/core/card';
import { subjectOf, testNamed } from '@calm-keel/core/fieldtest';
import { findFindings } from '@calm-keel/core/findings';
import {
  answerStep,
  answerTest,
  beginProgramming,
  beginTest,
  beginVisit,
  closeVisit,
  coverage,
  endProgramming,
  endTest,
  noteFound,
  noteVisit,
  sheetOf,
  type Job,
} from '@calm-keel/core/job';
import { openPoints } from '@calm-keel/core/report';
import { deriveSettings, devicesOf } from '@calm-keel/core/settings';

const at = (day: string, minute: number): string => new Date(Date.parse(`${day}T08:00:00Z`) + minute * 60_000).toISOString();

/** Keys everything in, as somebody does for whom everything goes well. */
function keyedIn(job: Job, day: string, by: string): Job {
  let minute = 10;
  let next = beginProgramming(job, { at: at(day, minute++), by, way: 'display' }, 'meter');
  for (let guard = 0; guard < 400; guard++) {
    const id = next.programming?.at ?? sheetOf(next).steps.find((s) => !next.programming?.answers.some((a) => a.step === s.id))?.id;
    const step = sheetOf(next).steps.find((s) => s.id === id);
    if (!step) break;
    const values = Object.fromEntries((step.looks ?? []).flatMap((l) => (l.want === null ? [] : [[l.role, l.want]])));
    const device = devicesOf(next).find((d) => d.id === step.device);
    const off = device?.displayReadings[0];
    next = answerStep(
      next,
      step.id,
      { at: at(day, minute++), by, way: 'display' },
      {
        state: 'done',
        ...(step.value ? { reading: step.value.to } : {}),
        ...(step.kind === 'persist' ? { values } : {}),
        ...(step.kind === 'identify' ? { reading: step.expects ?? '1.4' } : {}),
        ...(step.kind === 'readOff' && device ? { values: device.present } : {}),
        ...(step.kind === 'compare' ? { meterV: 26.6, displayV: off ? Math.round((26.6 + off.displayV - off.meterV) * 100) / 100 : 26.6 } : {}),
      },
    );
    if (next.programming?.at === null) break;
  }
  return endProgramming(next, { at: at(day, minute), by, way: 'display' });
}

/** The low-temperature test in ice, on one charger: it stops and comes back where it should. */
function iced(job: Job, id: string, device: string, day: string, by: string, minute: number): Job {
  let next = beginTest(job, { id, code: 'lowTemperature', device, at: at(day, minute), by, instrument: 'meter' });
  const plan = deriveSettings(next);
  const subject = subjectOf(plan, device);
  if (!subject) return job;
  const cutoff = plan.setting(device, 'lowTempCutoff')?.trueValue ?? 2;
  const resume = plan.setting(device, 'lowTempResume')?.trueValue ?? 5;
  const reading: Readonly<Record<string, number | string>> = {
    'cells/cell': 1.5,
    'cells/shown': 1.5,
    'warm/cell': resume + 5,
    'trip/celsius': cutoff,
    'trip/amps': 0,
    'trip/stopped': 'yes',
    'alive/charger': 'yes',
    'alive/count': 'yes',
    'resume/celsius': resume,
  };
  let late = minute + 2;
  for (const step of testNamed('lowTemperature').prepare(plan, subject).steps) {
    const values = Object.fromEntries(
      (step.fields ?? []).flatMap((f) => {
        const value = reading[`${step.id}/${f.id}`];
        return value === undefined ? [] : [[f.id, value]];
      }),
    );
    next = answerTest(next, id, { step: step.id, at: at(day, late), values });
    late += 4;
  }
  return endTest(next, id, at(day, late));
}

function closed(job: Job, id: string, day: string): Job {
  const plan = deriveSettings(job);
  const covered = coverage(job, plan, []);
  const open = openPoints(job, findFindings(plan, day), covered).map((p) => p.text);
  return closeVisit(job, plan, covered, open, id, at(day, 300));
}

/** A job with a year of visits. */
export function aYearOn(start: Job): Job {
  let job: Job = { ...start, id: 'teasel-year', name: 'Survey launch Teasel, a year on', createdAt: '2025-06-11T08:00:00.000Z' };
  // The DC-DC charger gets its lead, the alarm and the monitor are keyed with the rest.
  job = {
    ...job,
    system: {
      ...job.system,
      chargers: job.system.chargers.map((c) => (c.id === 'dcdc' ? { ...c, sensor: { ...c.sensor, fitted: true, place: 'batteryCase' as const } } : c)),
    },
  };
  job = beginVisit(job, { id: 'visit-1', date: '2025-06-12', by: 'KM', purpose: 'First setting-up' });
  job = keyedIn(job, '2025-06-12', 'KM');
  job = noteVisit(job, 'visit-1', { note: 'Owner shown the displays. The aft sensor still sits on its pad.' });
  job = closed(job, 'visit-1', '2025-06-12');

  job = beginVisit(job, { id: 'visit-2', date: '2025-09-20', by: 'KM', purpose: 'Before the autumn survey' });
  for (const [i, device] of devicesOf(job).entries())
    job = noteFound(job, device.id, { at: at('2025-09-20', 5 + i), by: 'KM', way: 'display' }, device.present);
  job = noteVisit(job, 'visit-2', { note: 'All values as left.' });
  job = closed(job, 'visit-2', '2025-09-20');

  job = beginVisit(job, { id: 'visit-3', date: '2025-12-05', by: 'RT', purpose: 'Cold protection' });
  job = iced(job, 'cold-fore', 'fore', '2025-12-05', 'RT', 10);
  job = closed(job, 'visit-3', '2025-12-05');

  job = beginVisit(job, { id: 'visit-4', date: '2026-06-10', by: 'KM', purpose: 'A year on' });
  for (const [i, device] of devicesOf(job).entries()) {
    const changed: Partial<Record<Role, number | string>> = device.id === 'fore' ? { floatVoltage: 27.4 } : {};
    job = noteFound(job, device.id, { at: at('2026-06-10', 5 + i), by: 'KM', way: 'display' }, { ...device.present, ...changed });
  }
  return noteVisit(job, 'visit-4', { note: 'Somebody was at the forward charger: its hold level stands higher than it was left.' });
}
