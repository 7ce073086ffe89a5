/**
 * A simulator of its own for judging the stage inference: a bank as one resistance and one slow polarisation, chargers as a few comparisons.
 * It shares nothing with the product's models, stage machine or inference, so that what they have in common cannot hide what they get wrong.
 */

export type TrueStage = 'off' | 'bulk' | 'absorb' | 'float' | 'rest' | 'cold' | 'equalise';

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
  /** What gives it current. */
  readonly source?: 'sun' | 'engine';
  /** Its recharge stays where it is while the other levels move. */
  readonly rechargeStays?: boolean;
  /** Held once after the first absorb: V, and for how long, s. */
  readonly equalise?: { readonly volts: number; readonly seconds: number };
  /** A thermostat takes its current away below this at a probe of its own, °C, and gives it back two degrees above. */
  readonly relayC?: number;
  /** What its display reads too high, V. */
  readonly displayV?: number;
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
  /** The panels are under snow up to this hour of the first day; a light sensor beside them is not. */
  readonly snowUntilH?: number;
  /** Hours in which the engine turns. */
  readonly engineH?: { readonly from: number; readonly to: number };
  /** A load surge in the afternoon of each day: hour, how long, s, and A. */
  readonly surge?: { readonly hour: number; readonly seconds: number; readonly amps: number };
  /** The bank is off the bus: hour of the first day, and for how long, s. */
  readonly opens?: { readonly hour: number; readonly seconds: number };
  /** Loads are cut off below this for so long, and come back above that. */
  readonly cut?: { readonly offV: number; readonly onV: number; readonly delayS: number };
  /** The monitor goes to full where the bank touches absorb, not where absorb ends. */
  readonly monitorEarly?: boolean;
}

/** One absorb that a charger ended by itself. */
export interface SimEnding {
  readonly day: number;
  readonly atVoltageS: number;
  /** Net current into the bank at that moment, A. */
  readonly net: number;
}

export interface SimTrace {
  readonly t: number[];
  readonly volts: number[];
  readonly net: number[];
  readonly celsius: number[];
  readonly loads: number[];
  /** Light beside the panels, W/m². */
  readonly light: number[];
  readonly engine: number[];
  /** As the monitor shows it, %. */
  readonly charge: number[];
  readonly chargers: { readonly id: string; readonly amps: number[]; readonly array: number[]; readonly own: number[]; readonly stage: TrueStage[] }[];
  /** Held absorb voltage by charger, and seconds at voltage in its longest absorb. */
  readonly truth: Record<
    string,
    {
      heldAbsorb: number | null;
      coldestCharging: number;
      endings: SimEnding[];
      /** Days on which it was in bulk for half an hour, or at absorb. */
      charged: Set<number>;
      /** Highest referred voltage it held for five minutes while it gave current. */
      highestGiven: number;
    }
  >;
  /** The bank was off the bus for so long while anything flowed, s. */
  readonly openS: number;
  /** When the monitor went to full, and whether absorb had ended by then. */
  readonly fulls: { readonly rightly: boolean }[];
  /** The loads were cut off and came back by themselves. */
  readonly cuts: number;
  readonly returns: number;
}

interface State {
  stage: TrueStage;
  timer: number;
  atVoltage: number;
  taperFor: number;
  lowFor: number;
  cold: boolean;
  relay: boolean;
  equalised: number;
  bulkFor: number;
  bulkDay: number;
}

/**
 * Volts of an array: those at which it works while it gives all the light has, and towards its open circuit, a fifth above, the more of that is not
 * taken, steeply at first; as high under snow.
 */
function arrayVolts(day: SimDay, light: number, given: number, taken: number): number {
  if (light <= 0.02) return light * 100;
  const works = (day.ocvFullV * 1.6 + 12) * (0.95 + 0.05 * Math.min(1, light));
  return works * (1 + 0.22 * Math.sqrt(1 - Math.min(1, taken / Math.max(given, 1e-9))));
}

/** Runs a bank with its chargers; `random` gives numbers from 0 to 1. */
export function simulate(day: SimDay, chargers: readonly SimCharger[], random: () => number): SimTrace {
  const steps = Math.floor((day.days * 86_400) / day.stepS);
  const states = chargers.map((): State => ({
    stage: 'off',
    timer: 0,
    atVoltage: 0,
    taperFor: 0,
    lowFor: 0,
    cold: false,
    relay: false,
    equalised: 0,
    bulkFor: 0,
    bulkDay: -1,
  }));
  const out: SimTrace = {
    t: [],
    volts: [],
    net: [],
    celsius: [],
    loads: [],
    light: [],
    engine: [],
    charge: [],
    chargers: chargers.map((c) => ({ id: c.id, amps: [], array: [], own: [], stage: [] })),
    truth: Object.fromEntries(
      chargers.map((c) => [c.id, { heldAbsorb: null, coldestCharging: Infinity, endings: [], charged: new Set<number>(), highestGiven: -Infinity }]),
    ),
    openS: 0,
    fulls: [],
    cuts: 0,
    returns: 0,
  };
  let openS = 0;
  let [cuts, returns, lowFor, highFor] = [0, 0, 0, 0];
  let off = false;
  let shown = Math.min(99, 100 * day.charge);
  let doneToday = false;
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
    const dayNow = Math.floor((day.startHour + t / 3600) / 24);
    const light = Math.max(0, Math.sin(((hour - 6) / 12) * Math.PI)) * sky;
    const sun = dayNow === 0 && hour < (day.snowUntilH ?? 0) ? 0 : light;
    const turning = day.engineH !== undefined && hour >= day.engineH.from && hour < day.engineH.to;
    if (hour < 1) doneToday = false;
    const surge = day.surge && hour >= day.surge.hour && hour < day.surge.hour + day.surge.seconds / 3600 ? day.surge.amps : 0;
    const open = day.opens !== undefined && dayNow === 0 && hour >= day.opens.hour && hour < day.opens.hour + day.opens.seconds / 3600;
    if ((extraFor -= day.stepS) <= 0) {
      extra = random() < 0.3 ? day.loadExtraA * random() : 0;
      extraFor = 300 + 2400 * random();
    }
    const load = off ? 0 : day.loadA + extra + surge;
    const ocv = day.ocvEmptyV + (day.ocvFullV - day.ocvEmptyV) * soc + day.kneeV * Math.exp((soc - 1) / day.kneeWide);
    // What each would give by its light, and the voltage it holds.
    const wants = chargers.map((c, i) => {
      const s = states[i]!;
      const live = c.source === 'engine' ? turning : sun > 0.02;
      const given = c.source === 'engine' ? c.arrayA : c.arrayA * sun;
      const read = celsius + c.sensorOffsetC;
      if (c.cutoffC !== null) {
        if (!s.cold && read <= c.cutoffC) s.cold = true;
        else if (s.cold && read >= c.resumeC) s.cold = false;
      }
      if (c.relayC !== undefined) {
        if (!s.relay && celsius < c.relayC) s.relay = true;
        else if (s.relay && celsius > c.relayC + 2) s.relay = false;
        if (s.relay) {
          Object.assign(s, { stage: 'off', timer: 0, atVoltage: 0, taperFor: 0 });
          return { most: 0, level: 0 };
        }
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
      return {
        most: Math.min(c.limitA, given),
        level: (s.stage === 'float' ? (c.floatV ?? 0) : s.stage === 'equalise' ? (c.equalise?.volts ?? 0) : c.absorbV) + shift,
      };
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
    let volts = (low + high) / 2;
    if (open) {
      // Without a bank the chargers hold their level, or the bus comes down with the loads.
      const top = Math.max(...wants.map((w) => w.level));
      volts = wants.reduce((sum, w) => sum + w.most, 0) > load ? top : 0.2 * ocv;
    }
    const amps = open
      ? wants.map((w) =>
          volts < ocv / 2
            ? 0
            : (w.most /
                Math.max(
                  1e-9,
                  wants.reduce((sum, x) => sum + x.most, 0),
                )) *
              load,
        )
      : give(volts);
    const net = open ? 0 : amps.reduce((x, y) => x + y, 0) - load;
    if (open && (amps.some((a) => a > 0.5) || load > 0.5)) openS += day.stepS;
    if (day.cut) {
      lowFor = volts < day.cut.offV && !off ? lowFor + day.stepS : 0;
      highFor = volts > day.cut.onV && off ? highFor + day.stepS : 0;
      if (lowFor >= day.cut.delayS) {
        off = true;
        cuts++;
      } else if (highFor >= day.cut.delayS) {
        off = false;
        returns++;
      }
    }
    polar += ((net * day.polarOhms - polar) * day.stepS) / day.polarS;
    soc = Math.min(1.02, Math.max(0.05, soc + (net * day.stepS) / 3600 / day.capacityAh));
    out.t.push(t);
    // The monitor counts, and goes to full where it was told to.
    shown = Math.min(99, Math.max(0, shown + (net * day.stepS) / 36 / day.capacityAh));
    const touched = wants.some((w, i) => w.level > 0 && states[i]?.stage === 'absorb');
    const full = day.monitorEarly ? touched : doneToday && hour < 20;
    if (full && (out.charge.at(-1) ?? 0) < 99.5) out.fulls.push({ rightly: doneToday });
    if (full) shown = 100;
    out.charge.push(shown);
    out.volts.push(volts);
    out.net.push(net);
    out.celsius.push(celsius);
    out.loads.push(open && volts < ocv / 2 ? 0 : load);
    out.light.push(1000 * light);
    out.engine.push(turning ? 1800 : 0);
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
        truth?.charged.add(dayNow);
        if (s.timer >= c.absorbS || s.taperFor >= 30) {
          truth?.endings.push({ day: dayNow, atVoltageS: s.atVoltage, net });
          doneToday = true;
          Object.assign(s, { stage: c.equalise && s.equalised === 0 ? 'equalise' : c.floatV === null ? 'rest' : 'float', lowFor: 0 });
        }
      } else if (s.stage === 'equalise') {
        s.equalised += at ? day.stepS : 0;
        if (s.equalised >= (c.equalise?.seconds ?? 0)) Object.assign(s, { stage: c.floatV === null ? 'rest' : 'float', lowFor: 0 });
      } else if (s.stage === 'float' || s.stage === 'rest') {
        s.lowFor = volts < c.rechargeV + (c.rechargeStays ? 0 : c.slope * (celsius - 25)) ? s.lowFor + day.stepS : 0;
        if (s.lowFor >= 60) Object.assign(s, { stage: 'bulk', timer: 0, atVoltage: 0 });
      }
      if (a > 0.5) {
        const truth = out.truth[c.id];
        if (truth) truth.coldestCharging = Math.min(truth.coldestCharging, celsius);
      }
      if (s.bulkDay !== dayNow) Object.assign(s, { bulkDay: dayNow, bulkFor: 0 });
      if (s.stage === 'bulk' && (s.bulkFor += day.stepS) >= 1800) out.truth[c.id]?.charged.add(dayNow);
      const trace = out.chargers[i];
      trace?.amps.push(a);
      trace?.own.push(volts + a * c.cableOhms + (c.displayV ?? 0));
      trace?.array.push(c.source === 'engine' ? (turning ? 14.1 : 12.5) : arrayVolts(day, light, c.arrayA * sun, a));
      trace?.stage.push(s.stage);
    });
  }
  for (const [i, c] of chargers.entries()) {
    const truth = out.truth[c.id];
    const amps = out.chargers[i]?.amps ?? [];
    const given = out.volts.map((v, k) => ((amps[k] ?? 0) > 0.5 ? v - c.slope * ((out.celsius[k] ?? 25) - 25) : -Infinity));
    if (truth) truth.highestGiven = highestHeld(given, Math.round(300 / day.stepS));
  }
  for (const [id, list] of held) {
    list.sort((a, b) => a - b);
    const truth = out.truth[id];
    if (truth && list.length > 0) truth.heldAbsorb = list[Math.floor(list.length / 2)] ?? null;
  }
  return Object.assign(out, { openS, cuts, returns });
}

/** The highest of all least values over so many samples in a row: what was held, and not touched. */
export function highestHeld(values: readonly number[], samples: number): number {
  const window = Math.max(1, samples);
  let highest = -Infinity;
  for (let k = window - 1; k < values.length; k++) {
    let least = Infinity;
    for (let j = k - window + 1; j <= k && least > highest; j++) least = Math.min(least, values[j] ?? Infinity);
    highest = Math.max(highest, least);
  }
  return highest;
}
