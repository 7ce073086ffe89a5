import { randomFrom } from '@calm-keel/core/physics';

/**
 * Small seeded days of the demo banks, enough to write believable logs. It is not the product's rehearsal: its battery is
 * an open-circuit voltage, two resistances and one time constant.
 */

const restingVolts: readonly (readonly [number, number])[] = [
  [0, 2.9],
  [0.1, 3.22],
  [0.3, 3.29],
  [0.5, 3.302],
  [0.65, 3.318],
  [0.8, 3.334],
  [0.92, 3.342],
  [0.97, 3.356],
  [1, 3.372],
];

/** Resting volts of the launch's bank of eight LFP cells. */
function lfpRest(charge: number): number {
  const upper = restingVolts.findIndex(([s]) => s >= charge);
  const [s1, v1] = restingVolts[Math.max(1, upper === -1 ? restingVolts.length - 1 : upper)] ?? [1, 3.372];
  const [s0, v0] = restingVolts[Math.max(0, (upper === -1 ? restingVolts.length - 1 : upper) - 1)] ?? [0, 2.9];
  return 8 * (v0 + ((v1 - v0) * (charge - s0)) / (s1 - s0));
}

/** A bank as the simulation knows it. */
export interface SimulatedBank {
  readonly capacityAh: number;
  /** Resting volts by charge, 0 to 1. */
  readonly rest: (charge: number) => number;
  /** Resistances at once and over `tauSeconds`, Ω. */
  readonly fast: number;
  readonly slow: number;
  readonly tauSeconds: number;
  /** Charge from which acceptance falls, 0 to 1. */
  readonly crowdsFrom: number;
}

const launchBank: SimulatedBank = { capacityAh: 460, rest: lfpRest, fast: 0.0142, slow: 0.0068, tauSeconds: 260, crowdsFrom: 0.96 };

export interface SimulatedCharger {
  readonly id: string;
  readonly absorbV: number;
  readonly floatV: number;
  readonly rechargeV: number;
  readonly absorbSeconds: number;
  readonly taperA: number;
  readonly cutoffC: number;
  readonly resumeC: number;
  /** What its sensor reads above the cell. */
  readonly sensorOffsetC: number;
  readonly arrayPeakW: number;
  /** Array voltage at full power, V; about a quarter more with no current drawn. */
  readonly arrayV: number;
  /** Amps a source without panels has to give at an hour: an engine that turns or not. */
  readonly engineA?: (hour: number) => number;
  /** Rated output, A; 45 when missing. */
  readonly mostA?: number;
  /** Change of its setpoints with battery temperature, V/°C of the bank, and where it is zero. */
  readonly compensation?: { readonly slope: number; readonly referenceC: number };
}

export interface Day {
  readonly seed: number;
  /** Local midnight, ISO with offset. */
  readonly date: string;
  readonly offset: string;
  readonly offsetMinutes: number;
  readonly fromHour: number;
  readonly toHour: number;
  readonly sunrise: number;
  readonly sunset: number;
  readonly startCharge: number;
  readonly temperature: (hour: number) => number;
  /** Part of the clear-sky power that gets through; may pass 1 at a cloud's edge. */
  readonly sky: (hour: number, random: () => number) => number;
  readonly load: (hour: number) => number;
  readonly chargers: readonly SimulatedCharger[];
  readonly intervalSeconds: number;
  /** The launch's when missing. */
  readonly bank?: SimulatedBank;
  /** Step of the simulation, s; 1 when missing. */
  readonly stepSeconds?: number;
}

/** Array voltage: near zero in the dark, at its power point when all of it is drawn, near open circuit when the charger holds back. */
function arrayVolts(atPower: number, ready: { watts: number; available: number } | undefined, given: number): number {
  const light = Math.min(1, (ready?.watts ?? 0) / 20);
  const drawn = ready && ready.available > 0 ? given / ready.available : 0;
  return atPower * light * (1.24 - 0.24 * drawn);
}

/** Runs one day, or several where the hours go past 24, and returns the log as standard CSV. */
export function simulateDay(day: Day): string {
  const random = randomFrom(day.seed);
  const { rest: openCircuit, fast, slow, tauSeconds: tau, crowdsFrom, capacityAh } = day.bank ?? launchBank;
  const capacity = capacityAh * 3600;
  const step = day.stepSeconds ?? 1;
  // Amps a regulator gives up per volt of error, so that two chargers share instead of fighting.
  const stiffness = 900;
  let charge = day.startCharge;
  let polarisation = 0;
  const units = day.chargers.map((c) => ({ ...c, stage: 'off', timer: 0, low: 0 }));
  const lines = [['time', 'bank_V', 'bank_A', 'battery_probe_degC', ...units.flatMap((c) => [`${c.id}_A`, `${c.id}_array_V`, `${c.id}_stage`])].join(',')];
  const base = Date.parse(`${day.date}T00:00:00${day.offset}`) / 1000;

  for (let second = day.fromHour * 3600; second < day.toHour * 3600; second += step) {
    const hour = second / 3600;
    const phase = ((hour % 24) - day.sunrise) / (day.sunset - day.sunrise);
    const clear = phase > 0 && phase < 1 ? Math.sin(Math.PI * phase) ** 1.3 : 0;
    const sky = day.sky(hour, random);
    const celsius = day.temperature(hour);
    const load = day.load(hour);
    const ready = units.map((c) => {
      const engine = c.engineA?.(hour);
      const watts = engine === undefined ? c.arrayPeakW * clear * sky : engine * 27;
      const shift = c.compensation ? c.compensation.slope * (celsius - c.compensation.referenceC) : 0;
      const reading = celsius + c.sensorOffsetC;
      if (watts < 3) c.stage = 'off';
      else if (reading < c.cutoffC) c.stage = 'cold';
      else if (c.stage === 'off' || (c.stage === 'cold' && reading >= c.resumeC)) {
        c.stage = 'bulk';
        c.timer = 0;
      }
      const on = c.stage !== 'off' && c.stage !== 'cold';
      const volts = c.absorbV > 20 ? 27 : 13.5;
      const most = c.mostA ?? 45;
      const given = engine ?? (0.96 * watts) / volts;
      return { watts, shift, available: on ? Math.min(most, given) : 0, setpoint: (c.stage === 'float' ? c.floatV : c.absorbV) + shift };
    });
    const rest = openCircuit(charge) + polarisation;
    const current = (volts: number): number => ready.reduce((sum, r) => sum + Math.min(r.available, Math.max(0, (r.setpoint - volts) * stiffness)), 0);
    let low = rest - load * fast - 1;
    let high = rest + 120 * fast + 1;
    for (let k = 0; k < 40; k++) {
      const middle = (low + high) / 2;
      if (rest + (current(middle) - load) * fast > middle) low = middle;
      else high = middle;
    }
    const volts = (low + high) / 2;
    const net = current(volts) - load;
    charge = Math.min(1, charge + (net * step) / capacity);
    // Acceptance falls towards full: the slow resistance grows steeply over the last few percent.
    const crowding = 1 + 20 * Math.max(0, (charge - crowdsFrom) / (1 - crowdsFrom)) ** 2;
    polarisation += ((net * slow * crowding - polarisation) * step) / tau;
    const given = ready.map((r) => Math.min(r.available, Math.max(0, (r.setpoint - volts) * stiffness)));
    units.forEach((c, i) => {
      const shift = ready[i]?.shift ?? 0;
      const at = volts >= c.absorbV + shift - 0.1;
      if (c.stage === 'bulk' && volts >= c.absorbV + shift - 0.06) {
        c.stage = 'absorb';
        c.timer = 0;
        c.low = 0;
      }
      if (c.stage === 'absorb' && at) {
        c.timer += step;
        c.low = (given[i] ?? 0) <= c.taperA && (ready[i]?.available ?? 0) > c.taperA + 2 ? c.low + step : 0;
        if (c.timer >= c.absorbSeconds || c.low >= 30) c.stage = 'float';
      } else if (c.stage === 'float' && volts < c.rechargeV) {
        c.stage = 'bulk';
      }
    });
    if (second % day.intervalSeconds !== 0) continue;
    const noise = (size: number): number => (random() + random() + random() - 1.5) * size;
    const stamp = new Date((base + second + day.offsetMinutes * 60) * 1000).toISOString().slice(0, 19) + day.offset;
    lines.push(
      [
        stamp,
        (volts + noise(0.012)).toFixed(2),
        (net + noise(0.1)).toFixed(1),
        (celsius + noise(0.05)).toFixed(1),
        ...units.flatMap((c, i) => [
          Math.max(0, (given[i] ?? 0) + ((given[i] ?? 0) > 0 ? noise(0.1) : 0)).toFixed(1),
          arrayVolts(c.arrayV, ready[i], given[i] ?? 0).toFixed(0),
          c.stage,
        ]),
      ].join(','),
    );
  }
  return `${lines.join('\n')}\n`;
}
