import { isoWithOffset } from '../quantity';
import { stages } from '../charger';
import type { Log } from './log';

/** The shortest decimal that reads back as the same 32-bit number; empty for a missing sample. */
function number(value: number | undefined): string {
  if (value === undefined || Number.isNaN(value)) return '';
  for (let digits = 6; digits < 9; digits++) {
    const short = Number(value.toPrecision(digits));
    if (Math.fround(short) === value) return String(short);
  }
  return String(Number(value.toPrecision(9)));
}

/** Writes a log as standard CSV, the form `createLogReader` takes. Missing samples are empty fields. */
export function writeLog(log: Log): string {
  const chargers = Object.entries(log.chargers);
  const header = [
    'time',
    'bank_V',
    ...(log.bankAmps ? ['bank_A'] : []),
    ...(log.batteryC ? ['battery_degC'] : []),
    ...(log.stateOfCharge ? ['bank_charge_pct'] : []),
  ];
  for (const [id, c] of chargers)
    header.push(
      ...(c.amps ? [`${id}_A`] : []),
      ...(c.volts ? [`${id}_V`] : []),
      ...(c.arrayVolts ? [`${id}_array_V`] : []),
      ...(c.stage ? [`${id}_stage`] : []),
    );
  const lines = [header.join(',')];
  for (let i = 0; i < log.time.length; i++) {
    const row = [isoWithOffset(log.time[i] ?? 0, log.offsetMinutes), number(log.bankVolts[i])];
    if (log.bankAmps) row.push(number(log.bankAmps[i]));
    if (log.batteryC) row.push(number(log.batteryC[i]));
    if (log.stateOfCharge) row.push(number(log.stateOfCharge[i]));
    for (const [, c] of chargers) {
      if (c.amps) row.push(number(c.amps[i]));
      if (c.volts) row.push(number(c.volts[i]));
      if (c.arrayVolts) row.push(number(c.arrayVolts[i]));
      if (c.stage) row.push(stages[c.stage[i] ?? 255] ?? '');
    }
    lines.push(row.join(','));
  }
  return `${lines.join('\n')}\n`;
}
