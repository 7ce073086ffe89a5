import type { SimTrace, TrueStage } from './simulate';

/** How a logger writes a day down: what it adds, leaves out and how it spells it. */
export interface Logger {
  readonly everyS: number;
  readonly noiseV: number;
  readonly stepV: number;
  readonly stepA: number;
  readonly stepC: number;
  readonly millivolts: boolean;
  readonly fahrenheit: boolean;
  readonly comma: boolean;
  readonly separator: ',' | ';' | '\t';
  readonly times: 'iso' | 'zone' | 'epoch' | 'epochMs' | 'dayFirst';
  readonly temperature: boolean;
  readonly bankAmps: boolean;
  readonly discharge: boolean;
  readonly arrays: boolean;
  readonly stages: 'none' | 'words' | 'codes';
  readonly rows: boolean;
  /** Only the bank’s current and what the loads take: no charger has a column. */
  readonly netOnly?: boolean;
  /** Columns beside the usual ones. */
  readonly loads?: boolean;
  readonly light?: boolean;
  readonly engine?: boolean;
  readonly charge?: boolean;
  readonly ownVolts?: boolean;
  /** Parts of the samples lost in gaps, doubled, and how far the clock jumps, s. */
  readonly gaps: number;
  readonly doubled: number;
  readonly jumpS: number;
  /** Samples left out at the beginning. */
  readonly skipS: number;
}

export interface Observed {
  readonly text: string;
  /** True stage of each charger at each kept sample, by the time that was written, s. */
  readonly truth: Map<string, { time: number; stage: TrueStage; seconds: number }[]>;
}

const start = Date.UTC(2026, 4, 3, 0, 0, 0) / 1000;
const pad = (n: number, width = 2): string => String(n).padStart(width, '0');

function timeText(seconds: number, form: Logger['times']): string {
  const d = new Date(seconds * 1000);
  const clock = `${pad(d.getUTCHours())}:${pad(d.getUTCMinutes())}:${pad(d.getUTCSeconds())}`;
  switch (form) {
    case 'iso':
      return `${d.getUTCFullYear()}-${pad(d.getUTCMonth() + 1)}-${pad(d.getUTCDate())} ${clock}`;
    case 'zone':
      return `${d.getUTCFullYear()}-${pad(d.getUTCMonth() + 1)}-${pad(d.getUTCDate())}T${clock}Z`;
    case 'epoch':
      return String(seconds);
    case 'epochMs':
      return String(seconds * 1000);
    case 'dayFirst':
      return `${pad(d.getUTCDate())}.${pad(d.getUTCMonth() + 1)}.${d.getUTCFullYear()} ${clock}`;
  }
}

/** Writes a trace as a logger would. */
export function observe(trace: SimTrace, logger: Logger, startHour: number, random: () => number): Observed {
  const quantised = (value: number, step: number): number => Math.round(value / step) * step;
  const gauss = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const digits = (step: number): number => Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));
  const spell = (value: number, step: number): string => {
    const text = value.toFixed(digits(step));
    return logger.comma ? text.replace('.', ',') : text;
  };
  const v = (value: number): string => {
    const read = quantised(value + logger.noiseV * gauss(), logger.stepV);
    return logger.millivolts ? spell(read * 1000, 1) : spell(read, logger.stepV);
  };
  const a = (value: number): string => spell(quantised(value, logger.stepA), logger.stepA);
  const c = (value: number): string => {
    const read = quantised(value, logger.stepC);
    return logger.fahrenheit ? spell(read * 1.8 + 32, 0.1) : spell(read, logger.stepC);
  };
  const unitV = logger.millivolts ? 'mV' : 'V';
  const header = ['time'];
  if (logger.rows) header.push('charger', `voltage (${unitV})`, 'current (A)', 'state');
  else {
    header.push(`bank_${unitV}`);
    if (logger.bankAmps) header.push(logger.discharge ? 'battery discharge current (A)' : 'bank_A');
    if (logger.temperature) header.push(logger.fahrenheit ? 'battery probe temperature (°F)' : 'battery_probe_degC');
    if (logger.loads) header.push('load_A');
    if (logger.light) header.push('irradiance_W/m2');
    if (logger.engine) header.push('engine_rpm');
    if (logger.charge) header.push('bank_charge_pct');
    for (const x of logger.netOnly ? [] : trace.chargers) {
      header.push(`${x.id}_A`);
      if (logger.ownVolts) header.push(`${x.id}_${unitV}`);
      if (logger.arrays) header.push(`${x.id}_array_V`);
      if (logger.stages !== 'none') header.push(`${x.id}_stage`);
    }
  }
  const words: Readonly<Record<TrueStage, string>> = {
    off: 'Off',
    bulk: 'Bulk',
    absorb: 'Absorption',
    float: 'Float',
    rest: 'Rest',
    cold: 'Cold',
    equalise: 'Equalise',
  };
  const codes: Readonly<Record<TrueStage, string>> = { off: '0', bulk: '3', absorb: '4', float: '5', rest: 'E33', cold: 'E17', equalise: '7' };
  const lines = [header.join(logger.separator)];
  const truth: Observed['truth'] = new Map(trace.chargers.map((x) => [x.id, []]));
  const step = (trace.t[1] ?? 1) - (trace.t[0] ?? 0);
  const every = Math.max(1, Math.round(logger.everyS / step));
  let gapLeft = 0;
  let jump = 0;
  let lastTime = -Infinity;
  const jumpAt = logger.jumpS === 0 ? Infinity : Math.floor(trace.t.length * (0.3 + 0.4 * random()));
  const first = Math.floor(logger.skipS / step);
  for (let i = first - (first % every) + (first % every ? every : 0); i < trace.t.length; i += every) {
    if (i >= jumpAt && jump === 0) jump = logger.jumpS;
    if (gapLeft > 0) {
      gapLeft -= every * step;
      continue;
    }
    if (random() < logger.gaps / 40) gapLeft = logger.everyS * (8 + 30 * random());
    const time = start + startHour * 3600 + (trace.t[i] ?? 0) + jump;
    const stamp = timeText(time, logger.times);
    const stageText = (s: TrueStage): string => (logger.stages === 'codes' ? codes[s] : words[s]);
    if (logger.rows)
      for (const x of trace.chargers)
        lines.push([stamp, x.id, v(trace.volts[i] ?? 0), a(x.amps[i] ?? 0), stageText(x.stage[i] ?? 'off')].join(logger.separator));
    else {
      const row = [stamp, v(trace.volts[i] ?? 0)];
      if (logger.bankAmps) row.push(a((trace.net[i] ?? 0) * (logger.discharge ? -1 : 1)));
      if (logger.temperature) row.push(c(trace.celsius[i] ?? 0));
      if (logger.loads) row.push(a(trace.loads[i] ?? 0));
      if (logger.light) row.push(spell(Math.round(trace.light[i] ?? 0), 1));
      if (logger.engine) row.push(spell(trace.engine[i] ?? 0, 1));
      if (logger.charge) row.push(spell(Math.round(trace.charge[i] ?? 0), 1));
      for (const x of logger.netOnly ? [] : trace.chargers) {
        row.push(a(x.amps[i] ?? 0));
        if (logger.ownVolts) row.push(v(x.own[i] ?? 0));
        if (logger.arrays) row.push(spell(Math.round(x.array[i] ?? 0), 1));
        if (logger.stages !== 'none') row.push(stageText(x.stage[i] ?? 'off'));
      }
      const line = row.join(logger.separator);
      lines.push(line);
      if (random() < logger.doubled / 40) lines.push(line);
    }
    if (time > lastTime) {
      for (const x of trace.chargers)
        truth.get(x.id)?.push({ time, stage: x.stage[i] ?? 'off', seconds: time - lastTime <= 5 * logger.everyS ? time - lastTime : 0 });
      lastTime = time;
    }
  }
  return { text: `${lines.join('\n')}\n`, truth };
}
