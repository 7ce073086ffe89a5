/**
 * The same cloudy day with stage events by a general solver of ordinary differential equations (Gragg, Bulirsch and Stoer; Hairer’s ODEX), beside
 * the rehearsal. One solar charger on the launch’s bank. The solver gets the model as derivatives, finds events on its dense output, and is run
 * both straight through and restarted at every kink of cloud and load, at the widest tolerance that errs no more than the rehearsal does.
 */
import { readFileSync } from 'node:fs';
import { performance } from 'node:perf_hooks';
import odex from 'odex';
import { readJob } from '@calm-keel/core/job';
import { airAt, arrhenius, cellModels, pairOhms, panelC, restingAt, restingTable } from '@calm-keel/core/physics';
import { rehearse, scenarioNamed, variantValues } from '@calm-keel/core/rehearsal';
import { deriveSettings } from '@calm-keel/core/settings';
import { arrayModel, arrayWatts, makeSky } from '../../core/src/rehearsal/site';

const read = readJob(readFileSync(process.argv[2] ?? 'demo/teasel.job.json', 'utf8'));
if (!read.ok) throw new Error('the demo job cannot be read');
const aft = read.value.system.chargers.find((c) => c.id === 'aft');
const charger = { ...aft, displayReadings: [], sensor: { ...aft.sensor, offsetC: 0 } };
const job = { ...read.value, system: { ...read.value.system, chargers: [charger], companions: [] } };
const plan = deriveSettings(job);
const values = variantValues(plan, 'asSet');
const scenario = { ...scenarioNamed(plan, 'clear-day'), clearness: 0.7, charge: 0.85, seed: 5, load: { baseA: 2, fridgeA: 5, duty: 0.4, eveningA: 0 } };
const day = 86_400;

const ours = (options) => {
  const made = rehearse({ plan, scenario, values }, options);
  if (!made.ok) throw new Error(made.problems[0].text);
  const run = made.value;
  return { charge: run.totals.storedAfterAh / 460, touch: (run.events.find((e) => e.cause === 'touched')?.at ?? NaN) - run.from, steps: run.steps };
};

// The model as derivatives: charge, two RC pairs, temperature, time at voltage.
const model = cellModels.lfp;
const table = restingTable(model);
const [one, two] = model.pairs;
const { bank } = job.system;
const seriesOhms = 0.0025 / 2 + pairOhms(bank.wire.lengthM, bank.wire.areaMm2, 30);
const cable = pairOhms(charger.wire.lengthM, charger.wire.areaMm2);
const sky = makeSky(scenario, [charger.array], job.system.site.latitude, day);
const array = arrayModel(charger.array, 0);
const heatCapacity = 460 * plan.facts.nominalVolts * model.kgPerWh * model.heat;
const tau = 4 * 3600;
const on = values.aft;
const hourAt = (t) => ((scenario.fromHour * 3600 + t) / 3600) % 24;
const loadAt = (t) => 2 + ((scenario.fromHour * 3600 + t) % 3600 < 0.4 * 3600 ? 5 : 0);
let stage = 'bulk';
const state = { target: on.absorbVoltage };
let evaluations = 0;

function flows(t, y) {
  const [soc, v1, v2, celsius] = y;
  const air = airAt(hourAt(t), scenario.dawnC, scenario.swingC, 5.5);
  const watts = 0.97 * arrayWatts(array, sky.light(0, t), air);
  const f = arrhenius(model.activation, celsius) / 460;
  const source = 8 * (restingAt(table, soc) + model.restingPerC * (celsius - 25) + v1 + v2);
  const ohms = 8 * f * model.ohmAh + seriesOhms;
  const load = loadAt(t);
  const free = source - ohms * load;
  const all = (-free + Math.sqrt(free * free + 4 * (ohms + cable) * watts)) / (2 * (ohms + cable));
  const held = (state.target - free) / (ohms + cable);
  const most = Math.min(all, on.chargeCurrentLimit);
  const amps = Math.max(0, Math.min(most, held));
  return { amps, load, f, ohms, air, celsius, source, over: most - held };
}
function derivative(t, y) {
  evaluations++;
  const { amps, load, f, air, celsius } = flows(t, y);
  const net = amps - load;
  const heat = Math.max(0, (8 * f * model.ohmAh * net + 8 * (y[1] + y[2])) * net) + net * net * seriesOhms * 0.5;
  return [
    (net > 0 ? net * model.efficiency : net) / 3600 / 460,
    (f * one.ohmAh * net - y[1]) / one.seconds,
    (f * two.ohmAh * net - y[2]) / two.seconds,
    (air - celsius) / tau + heat / heatCapacity,
    stage === 'absorb' && amps < on.chargeCurrentLimit && flows(t, y).over >= 0 ? 1 : 0,
  ];
}
/** Above 0 when the present stage is over. */
function over(t, y) {
  const flow = flows(t, y);
  if (stage === 'bulk') return sky.light(0, t) > 0 ? flow.over : -1;
  if (stage === 'absorb') return Math.max(y[4] - on.absorbTime * 60, flow.over >= 0 && t > state.since + 60 ? on.taperCurrent - flow.amps : -1);
  return -1;
}
const next = { bulk: 'absorb', absorb: 'float' };

function general(tolerance, kinks) {
  stage = 'bulk';
  state.target = on.absorbVoltage;
  evaluations = 0;
  const omega = (2 * Math.PI) / day;
  const damp = 1 / Math.hypot(1, omega * tau);
  let y = [
    scenario.charge,
    0,
    0,
    scenario.dawnC + (scenario.swingC / 2) * (1 - damp * Math.cos(((scenario.fromHour - 5.5) / 24) * 2 * Math.PI - Math.atan(omega * tau))),
    0,
  ];
  let t = 0;
  let touch = NaN;
  while (t < day - 1e-6) {
    let end = day;
    if (kinks) {
      const into = (scenario.fromHour * 3600 + t + 1e-6) % 3600;
      end = Math.min(day, sky.nextEdge(t + 1e-6), t + (into < 1440 ? 1440 - into : 3600 - into) + 2e-6, t + 300);
      if (end <= t) end = t + 1;
    }
    const solver = new odex.Solver(5);
    solver.absoluteTolerance = solver.relativeTolerance = tolerance;
    solver.denseOutput = true;
    solver.maxSteps = 1e6;
    solver.initialStepSize = Math.min(1, end - t);
    if (!kinks) solver.maxStepSize = 600;
    let event = null;
    const result = solver.solve(derivative, t, y, end, (n, from, to, at, interpolate) => {
      if (stage === 'float' || n <= 1 || over(to, at) < 0) return;
      let [low, high] = [from, to];
      const whole = (x) => [0, 1, 2, 3, 4].map((i) => interpolate(i, x));
      for (let k = 0; k < 30; k++) {
        const middle = (low + high) / 2;
        if (over(middle, whole(middle)) < 0) low = middle;
        else high = middle;
      }
      event = { t: high, y: whole(high) };
      return false;
    });
    if (event) {
      if (stage === 'bulk') touch = event.t;
      stage = next[stage];
      state.since = event.t;
      state.target = stage === 'float' ? on.floatVoltage : on.absorbVoltage;
      ({ t, y } = event);
    } else {
      t = end;
      ({ y } = result);
    }
  }
  return { charge: y[0], touch, evaluations };
}

const time = (work) => {
  const list = [];
  let answer;
  // Warm first, both of them: as in a worker that has done it before.
  for (let i = 0; i < 25; i++) work();
  for (let i = 0; i < 9; i++) {
    const start = performance.now();
    answer = work();
    list.push(performance.now() - start);
  }
  return { ms: list.sort((a, b) => a - b)[4], answer };
};
const exact = ours({ stepS: 0.1, longestS: 0.1 });
const mine = time(() => ours({}));
const error = (a) => Math.max(Math.abs(a.charge - exact.charge), Math.abs(a.touch - exact.touch) / day);
console.log(
  `A cloudy day with stage events, one charger: rehearsal ${mine.ms.toFixed(1)} ms, ${mine.answer.steps} steps, error ${error(mine.answer).toExponential(1)} of the charge or the day`,
);
for (const [name, kinks] of [
  ['straight through', false],
  ['restarted at every kink', true],
]) {
  let best = null;
  for (const tolerance of [1e-3, 1e-4, 1e-5, 1e-6, 1e-7, 1e-8, 1e-9, 1e-10, 1e-11]) {
    const tried = time(() => general(tolerance, kinks));
    best = { ...tried, tolerance };
    if (error(tried.answer) <= error(mine.answer)) break;
  }
  console.log(
    `General solver, ${name}: ${best.ms.toFixed(0)} ms, tolerance ${best.tolerance}, ${best.answer.evaluations} evaluations, error ${error(best.answer).toExponential(1)}: ${(best.ms / mine.ms).toFixed(1)} times as long   goal 10`,
  );
}
