/**
 * A simulator of its own for judging the stage inference: a bank as one resistance and one slow polarisation, chargers as a few comparisons.
 * It shares nothing with the product's models, stage machine or inference, so that what they have in common cannot hide what they get wrong.
 */

export type TrueStage = 'off' | 'bulk' | 'absorb' | 'float' | 'rest' | 'cold';

export interface SimCharger {
  readonly id: string;
  readonly limitA: number;
  readonly cableOhms: number;
  readonly arrayA: number;
  readonly absorbV: number;
  /** Null: charging stops after absorb. */
  readonly floatV: number | null;
  readonly rechargeV: number;
  readonly absorbS: number;
  readonly taperA: number;
  /** The timer runs by the clock once begun, not only at voltage. */
  readonly wallClock: boolean;
  /** V/°C for the bank. */
  readonly slope: number;
  readonly cutoffC: number | null;
  readonly resumeC: number;
  /** What its sensor reads too warm, °C. */
  readonly sensorOffsetC: number;
}

export interface SimDay {
  readonly days: number;
  readonly stepS: number;
  readonly startHour: number;
  readonly capacityAh: number;
  readonly ocvEmptyV: number;
  readonly ocvFullV: number;
  /** How far the voltage rises in the last part of charge, V, and how wide that part is, of 1. */
  readonly kneeV: number;
  readonly kneeWide: number;
  readonly ohms: number;
  readonly polarOhms: number;
  readonly polarS: number;
  readonly charge: number;
  readonly meanC: number;
  readonly swingC: number;
  /** 0 clear, 1 overcast with gaps. */
  readonly cloud: number;
  readonly loadA: number;
  readonly loadExtraA: number;
}

export interface SimTrace {
  readonly t: number[];
  readonly volts: number[];
  readonly net: number[];
  readonly celsius: number[];
  readonly chargers: { readonly id: string; readonly amps: number[]; readonly array: number[]; readonly stage: TrueStage[] }[];
  /** Held absorb voltage by charger, and seconds at voltage in its longest absorb. */
  readonly truth: Record<string, { heldAbsorb: number | null; longestAtVoltage: number; coldChargedS: number; coldestCharging: number }>;
  readonly highestHeld: number;
}

interface State {
  stage: TrueStage;
  timer: number;
  atVoltage: number;
  taperFor: number;
  lowFor: number;
  cold: boolean;
}

/** Runs a bank with its chargers; `random` gives numbers from 0 to 1. */
export function simulate(day: SimDay, chargers: readonly SimCharger[], random: () => number): SimTrace {
  const steps = Math.floor((day.days * 86_400) / day.stepS);
  const states = chargers.map((): State => ({ stage: 'off', timer: 0, atVoltage: 0, taperFor: 0, lowFor: 0, cold: false }));
  const out: SimTrace = {
    t: [],
    volts: [],
    net: [],
    celsius: [],
    chargers: chargers.map((c) => ({ id: c.id, amps: [], array: [], stage: [] })),
    truth: Object.fromEntries(chargers.map((c) => [c.id, { heldAbsorb: null, longestAtVoltage: 0, coldChargedS: 0, coldestCharging: Infinity }])),
    highestHeld: 0,
  };
  let soc = day.charge;
  let polar = 0;
  let sky = 1;
  let skyGoal = 1;
  let skyFor = 0;
  let extra = 0;
  let extraFor = 0;
  let celsius = day.meanC;
  const held = new Map<string, number[]>();
  for (let k = 0; k < steps; k++) {
    const t = k * day.stepS;
    const hour = (day.startHour + t / 3600) % 24;
    celsius += ((day.meanC + day.swingC * Math.sin(((hour - 9) / 24) * 2 * Math.PI) - celsius) * day.stepS) / 7200;
    if ((skyFor -= day.stepS) <= 0) {
      const under = random() < day.cloud;
      skyGoal = under ? 0.12 + 0.4 * random() : 0.9 + 0.12 * random();
      skyFor = (under ? 120 + 1800 * random() : 200 + 3600 * random() * (1.2 - day.cloud)) * 1;
    }
    sky += (skyGoal - sky) * Math.min(1, day.stepS / 25);
    const sun = Math.max(0, Math.sin(((hour - 6) / 12) * Math.PI)) * sky;
    if ((extraFor -= day.stepS) <= 0) {
      extra = random() < 0.3 ? day.loadExtraA * random() : 0;
      extraFor = 300 + 2400 * random();
    }
    const load = day.loadA + extra;
    const ocv = day.ocvEmptyV + (day.ocvFullV - day.ocvEmptyV) * soc + day.kneeV * Math.exp((soc - 1) / day.kneeWide);
    // What each would give by its light, and the voltage it holds.
    const wants = chargers.map((c, i) => {
      const s = states[i]!;
      const live = sun > 0.02;
      const read = celsius + c.sensorOffsetC;
      if (c.cutoffC !== null) {
        if (!s.cold && read <= c.cutoffC) s.cold = true;
        else if (s.cold && read >= c.resumeC) s.cold = false;
      }
      if (!live) {
        Object.assign(s, { stage: 'off', timer: 0, atVoltage: 0, taperFor: 0 });
        return { most: 0, level: 0 };
      }
      if (s.cold) {
        Object.assign(s, { stage: 'cold', timer: 0, atVoltage: 0, taperFor: 0 });
        return { most: 0, level: 0 };
      }
      if (s.stage === 'off' || s.stage === 'cold') Object.assign(s, { stage: 'bulk', timer: 0, atVoltage: 0 });
      if (s.stage === 'rest') return { most: 0, level: 0 };
      const shift = c.slope * (read - 25);
      return { most: Math.min(c.limitA, c.arrayA * sun), level: (s.stage === 'float' ? (c.floatV ?? 0) : c.absorbV) + shift };
    });
    // Each holds its own terminals; its cable drops a little on the way to the bank, so that equal ones share.
    const give = (v: number): number[] => wants.map((w, i) => (w.most <= 0 ? 0 : Math.min(w.most, Math.max(0, (w.level - v) / chargers[i]!.cableOhms))));
    let low = ocv + polar - day.ohms * load;
    let high = low + day.ohms * wants.reduce((sum, w) => sum + w.most, 0);
    for (let round = 0; round < 40 && high - low > 1e-5; round++) {
      const v = (low + high) / 2;
      if (ocv + polar + day.ohms * (give(v).reduce((x, y) => x + y, 0) - load) > v) low = v;
      else high = v;
    }
    const volts = (low + high) / 2;
    const amps = give(volts);
    const net = amps.reduce((x, y) => x + y, 0) - load;
    polar += ((net * day.polarOhms - polar) * day.stepS) / day.polarS;
    soc = Math.min(1.02, Math.max(0.05, soc + (net * day.stepS) / 3600 / day.capacityAh));
    out.t.push(t);
    out.volts.push(volts);
    out.net.push(net);
    out.celsius.push(celsius);
    chargers.forEach((c, i) => {
      const s = states[i]!;
      const a = amps[i] ?? 0;
      const level = wants[i]?.level ?? 0;
      // A comparator is off by a little: within 0.15 % of its level it takes it for reached.
      const at = level > 0 && (a < (wants[i]?.most ?? 0) * 0.999 || volts + a * c.cableOhms >= level * 0.9985);
      if (s.stage === 'bulk' && at) Object.assign(s, { stage: 'absorb', timer: 0, atVoltage: 0, taperFor: 0 });
      if (s.stage === 'absorb') {
        s.timer += c.wallClock || at ? day.stepS : 0;
        if (at) {
          s.atVoltage += day.stepS;
          const list = held.get(c.id) ?? [];
          if (list.length < 5000) list.push(volts - c.slope * (celsius - 25));
          held.set(c.id, list);
        }
        s.taperFor = at && a <= c.taperA ? s.taperFor + day.stepS : 0;
        const truth = out.truth[c.id];
        if (truth) truth.longestAtVoltage = Math.max(truth.longestAtVoltage, s.atVoltage);
        if (s.timer >= c.absorbS || s.taperFor >= 30) Object.assign(s, { stage: c.floatV === null ? 'rest' : 'float', lowFor: 0 });
      } else if (s.stage === 'float' || s.stage === 'rest') {
        s.lowFor = volts < c.rechargeV + c.slope * (celsius - 25) ? s.lowFor + day.stepS : 0;
        if (s.lowFor >= 60) Object.assign(s, { stage: 'bulk', timer: 0, atVoltage: 0 });
      }
      if (a > 0.5) {
        const truth = out.truth[c.id];
        if (truth) truth.coldestCharging = Math.min(truth.coldestCharging, celsius);
      }
      const trace = out.chargers[i];
      trace?.amps.push(a);
      trace?.array.push(sun > 0.02 ? ocv * 1.6 + 12 : sun * 100);
      trace?.stage.push(s.stage);
    });
  }
  for (const [id, list] of held) {
    list.sort((a, b) => a - b);
    const truth = out.truth[id];
    if (truth && list.length > 0) truth.heldAbsorb = list[Math.floor(list.length / 2)] ?? null;
  }
  let highest = 0;
  const hold = Math.max(1, Math.ceil(30 / day.stepS));
  for (let k = hold; k < out.volts.length; k++) {
    let least = Infinity;
    for (let j = 0; j <= hold; j++) least = Math.min(least, out.volts[k - j] ?? Infinity);
    highest = Math.max(highest, least);
  }
  return Object.assign(out, { highestHeld: highest });
}
