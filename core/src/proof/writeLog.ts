import { isoWithOffset } from '../quantity';
import { stages } from '../charger';
import { bankColumns, chargerColumns, type Log } from './log';

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
    ...(log.batteryC ? [log.batterySensor === undefined ? 'battery_degC' : `battery_${log.batterySensor}_degC`] : []),
    ...(log.stateOfCharge ? ['bank_charge_pct'] : []),
    ...(log.loadAmps ? ['load_A'] : []),
    ...(log.irradiance ? ['irradiance_W/m2'] : []),
    ...(log.engine ? ['engine_rpm'] : []),
  ];
  for (const [id, c] of chargers)
    header.push(
      ...(c.amps ? [`${id}_A`] : []),
      ...(c.volts ? [`${id}_V`] : []),
      ...(c.arrayVolts ? [`${id}_array_V`] : []),
      ...(c.inputWatts ? [`${id}_input_W`] : []),
      ...(c.machineC ? [`${id}_machine_degC`] : []),
      ...(c.stage ? [`${id}_stage`] : []),
    );
  const lines = [header.join(',')];
  for (let i = 0; i < log.time.length; i++) {
    const row = [isoWithOffset(log.time[i] ?? 0, log.offsetMinutes), number(log.bankVolts[i])];
    for (const key of bankColumns) if (log[key]) row.push(number(log[key][i]));
    for (const [, c] of chargers) {
      for (const key of chargerColumns) if (c[key]) row.push(number(c[key][i]));
      if (c.stage) row.push(stages[c.stage[i] ?? 255] ?? '');
    }
    lines.push(row.join(','));
  }
  return `${lines.join('\n')}\n`;
}
