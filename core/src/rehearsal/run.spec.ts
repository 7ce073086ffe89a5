import { demoJob, dayOn, eventOf, only, on, ran, trail, withCard } from '../testing/rehearsals';
import { deriveSettings } from '../settings';
import { stages } from '../charger';
import { rehearse, replayOf, runLog, scenarioKinds, variantValues, type Run } from './index';

const teasel = demoJob('teasel');
const solar = only(teasel, { fore: {}, aft: {} });
/** The launch with one bare charger and a cable of so many ohms: the plain case for physics. */
const oneOn = (areaMm2: number, lengthM = 1) => only(teasel, { aft: { wire: { areaMm2, lengthM }, displayReadings: [] } });
const state = (run: Run, id: string, stage: (typeof stages)[number]): number =>
  run.chargers.find((c) => c.id === id)?.totals.seconds[stages.indexOf(stage)] ?? 0;

describe('a rehearsed day', () => {
  it('keeps charge to 1e-9 on every demo job and every day that suits it', () => {
    for (const name of ['teasel', 'rook-moss', 'skarrow', 'tumbler'] as const) {
      const job = demoJob(name);
      const plan = deriveSettings(job);
      for (const kind of scenarioKinds) {
        if (!kind.suits(plan) || kind.name === 'year') continue;
        const { run } = ran(job, kind.name);
        const moved = Math.max(1, run.totals.inAh + run.totals.outAh);
        expect(Math.abs(run.totals.imbalanceAh) / moved)
          .withContext(`${name} ${kind.name}`)
          .toBeLessThan(1e-9);
        // What the chargers gave is in the bank, in the loads, or dumped.
        const given = run.chargers.reduce((sum, c) => sum + c.totals.ah, 0);
        const { loadAh, dumpedAh, inAh, outAh } = run.totals;
        if (run.totals.bmsOpenings === 0)
          expect(Math.abs(given - loadAh - dumpedAh - (inAh - outAh)) / moved)
            .withContext(`${name} ${kind.name}, bus`)
            .toBeLessThan(1e-9);
      }
    }
  });

  it('is the same bit for bit with the same seed, and another sky with another', () => {
    const one = ran(teasel, 'broken-cloud').run;
    const two = ran(teasel, 'broken-cloud').run;
    expect(two.bankVolts).toEqual(one.bankVolts);
    expect(two.events).toEqual(one.events);
    expect(two.totals).toEqual(one.totals);
    expect(ran(teasel, 'broken-cloud', { scenario: { seed: 2 } }).run.bankVolts).not.toEqual(one.bankVolts);
  });

  it('comes to the same in growing steps as in even ones of a second', () => {
    for (const name of ['clear-day', 'broken-cloud', 'motoring', 'cold-start']) {
      const even = ran(teasel, name, { options: { longestS: 1 } }).run;
      const growing = ran(teasel, name).run;
      expect(growing.steps).toBeLessThan(even.steps / 4);
      expect(trail(growing, 'fore')).withContext(name).toEqual(trail(even, 'fore'));
      expect(growing.charge.at(-1)!).withContext(name).toBeCloseTo(even.charge.at(-1)!, 3);
      const late = growing.events.map((e, i) => Math.abs(e.at - (even.events[i]?.at ?? NaN)));
      expect(Math.max(...late))
        .withContext(name)
        .toBeLessThan(45);
      let worst = 0;
      even.bankVolts.forEach((v, i) => (worst = Math.max(worst, Math.abs(v - (growing.bankVolts[i] ?? NaN)))));
      // Where a stage changes half a minute later the voltage differs for so long.
      expect(worst).withContext(name).toBeLessThan(0.5);
    }
  });

  it('20 mΩ of cable make a charger touch absorb while the bank is still half a volt lower', () => {
    // Two metres out and back of 4 mm²: about 20 mΩ warm.
    const thin = ran(oneOn(3.9, 2), 'clear-day', { scenario: { charge: 0.8 } }).run;
    const thick = ran(oneOn(120, 2), 'clear-day', { scenario: { charge: 0.8 } }).run;
    const early = eventOf(thin, 'aft', 'touched')!;
    const late = eventOf(thick, 'aft', 'touched')!;
    expect(early.ownV! - early.bankV).toBeGreaterThan(0.4);
    expect(early.amps! * 0.0195).toBeCloseTo(early.ownV! - early.bankV, 1);
    expect(late.ownV! - late.bankV).toBeLessThan(0.06);
    expect(early.charge).toBeLessThan(late.charge);
  });

  it('one charger of 2X A does what two of X A do, with equal figures', () => {
    const base = oneOn(240, 0.5);
    const charger = base.system.chargers[0]!;
    const array = charger.array!;
    const big = { ...base, cards: base.cards.map((c) => (c.id === 'varrow-s45' ? { ...c, ratings: { ...c.ratings, outputA: 60 } } : c)) };
    const twin = { ...base, system: { ...base.system, chargers: [charger, { ...charger, id: 'second' }] } };
    const half = { ...array, shaded: 0, inParallel: 1 };
    const of = (job: typeof base, parts: number) =>
      ran(
        {
          ...job,
          system: {
            ...job.system,
            chargers: job.system.chargers.map((c) => ({
              ...c,
              array: parts === 2 ? half : { ...half, inParallel: 2 },
              wire: { areaMm2: parts === 2 ? 120 : 240, lengthM: 0.5 },
            })),
          },
        },
        'clear-day',
        {
          scenario: { charge: 0.7 },
          values: (v) =>
            job.system.chargers.reduce(
              (all, c) => on(all, c.id, { ...v['aft'], chargeCurrentLimit: parts === 2 ? 15 : 30, taperCurrent: parts === 2 ? 2 : 4 }),
              v,
            ),
        },
      ).run;
    const two = of(twin, 2);
    const one = of(big, 1);
    expect(two.chargers.reduce((s, c) => s + c.totals.ah, 0)).toBeCloseTo(one.chargers[0]!.totals.ah, 1);
    expect(two.totals.highest).toBeCloseTo(one.totals.highest, 3);
    expect(trail(two, 'aft')).toEqual(trail(one, 'aft'));
  });

  it('is longest in bulk, and fills the launch on a clear day', () => {
    const { run } = ran(solar, 'clear-day');
    expect(trail(run, 'aft').slice(0, 4)).toEqual(['off start', 'bulk sourceOn', 'absorb touched', 'float taper']);
    expect(run.totals.fullAt).toBeGreaterThan(run.from);
    expect(run.totals.ahToFull).toBeGreaterThan(200);
    expect(run.totals.highest).toBeLessThan(28.2);
  });

  it('writes a log that reads back like any other', () => {
    const { run } = ran(solar, 'clear-day');
    const log = runLog(run);
    expect(Object.keys(log.chargers)).toEqual(['fore', 'aft']);
    expect(log.time.length).toBe(2881);
    for (let i = 1; i < log.time.length; i++) expect(log.time[i]! - log.time[i - 1]!).toBeCloseTo(30, 6);
  });
});

describe('quirks, rehearsed', () => {
  it('a cloud’s bright edge starts absorb early on a card that needs only a touch, not on one that waits', () => {
    // A thin cable and a nearly full bank: the edge lifts the terminals to the setpoint for seconds.
    const values = { scenario: { charge: 0.75, clearness: 0.6, seed: 3 } };
    const job = oneOn(1.5, 3.4);
    const touch = ran(job, 'clear-day', values).run;
    const held = ran(
      { ...job, cards: job.cards.map((c) => (c.id === 'varrow-s45' ? { ...c, absorb: { ...c.absorb, start: { kind: 'held' as const, seconds: 600 } } } : c)) },
      'clear-day',
      values,
    ).run;
    const early = eventOf(touch, 'aft', 'touched')!;
    expect(early.charge).toBeLessThan(0.95);
    expect(early.ownV! - early.bankV).toBeGreaterThan(0.5);
    const later = eventOf(held, 'aft', 'held');
    expect(later === undefined || later.at > early.at + 590).toBeTrue();
  });

  it('its timer counts only at voltage: under broken cloud absorb outlasts its forty minutes on the clock', () => {
    const { run } = ran(oneOn(6, 1), 'clear-day', {
      scenario: { charge: 0.98, clearness: 0.9, load: { baseA: 1, fridgeA: 25, duty: 0.2, eveningA: 0 } },
      values: (v) => on(v, 'aft', { taperCurrent: 0 }),
    });
    const span = run.chargers[0]!.spans.find((s) => s.stage === 'absorb')!;
    expect(span.to - span.from).toBeGreaterThan(span.counted + 300);
  });

  it('a wall clock runs on while the voltage is away: the alternator ends absorb with little of it at voltage', () => {
    const job = only(teasel, { alternator: { sensor: teasel.system.chargers[3]!.sensor } });
    const { run } = ran(job, 'motoring', {
      scenario: { charge: 0.985, engine: { fromHour: 4.5, hours: 3, output: 0.3 }, load: { baseA: 2, fridgeA: 34, duty: 0.5, eveningA: 0 } },
      values: (v) => on(v, 'alternator', { absorbTime: 40 }),
    });
    const end = run.events.find((e) => e.device === 'alternator' && e.before === 'absorb' && e.cause === 'time')!;
    expect(end.lasted!).toBeCloseTo(2400, -2);
    expect(end.counted!).toBeLessThan(1500);
  });

  it('ten minutes stepped down once wrap to twelve hours: absorb lasts as long as the engine', () => {
    const job = only(teasel, { alternator: {} });
    const at = (absorbTime: number) =>
      ran(job, 'motoring', { scenario: { charge: 0.95, engine: { fromHour: 9, hours: 5, output: 0.3 } }, values: (v) => on(v, 'alternator', { absorbTime }) })
        .run;
    expect(state(at(10), 'alternator', 'absorb')).toBeLessThan(700);
    expect(state(at(720), 'alternator', 'absorb')).toBeGreaterThan(3 * 3600);
  });

  it('an adapting card absorbs as long as its bulk took', () => {
    const job = oneOn(35);
    const adaptive = { ...job, cards: job.cards.map((c) => (c.id === 'varrow-s45' ? { ...c, absorb: { ...c.absorb, end: 'adaptive' as const } } : c)) };
    const absorb = (charge: number): number =>
      state(ran(adaptive, 'clear-day', { scenario: { charge }, values: (v) => on(v, 'aft', { absorbTime: 600 }) }).run, 'aft', 'absorb');
    expect(absorb(0.9)).toBeGreaterThan(absorb(0.97) + 600);
  });

  it('begins anew by its offset below float when the evening’s load pulls the bank down', () => {
    const job = only(teasel, { dcdc: { feed: { name: 'start', volts: 12, engineSignal: true } } });
    const day = (offset: number) =>
      ran(job, 'motoring', {
        scenario: { charge: 0.97, engine: { fromHour: 6, hours: 16, output: 0.5 }, load: { baseA: 24, fridgeA: 0, duty: 0, eveningA: 40 } },
        values: (v) => on(v, 'dcdc', { remoteControl: 'used', rechargeVoltage: offset }),
      }).run;
    const event = eventOf(day(0.3), 'dcdc', 'recharge')!;
    expect(event.ownV!).toBeLessThan(26.6);
    const deep = eventOf(day(1.9), 'dcdc', 'recharge');
    expect(deep === undefined || deep.at > event.at).toBeTrue();
  });

  it('without a sensor one menu stops and the next charges frozen cells', () => {
    const cold = { scenario: { unplugged: ['aft'], dawnC: -8 } };
    const job = only(teasel, { aft: {} });
    const stops = ran(job, 'sensor-unplugged', cold).run;
    expect(stops.chargers[0]!.totals.ah).toBe(0);
    expect(trail(stops, 'aft')).toContain('fault noSensor');
    const ignores = ran(withCard(job, 'varrow-s45', 'varrow-s45-b'), 'sensor-unplugged', cold).run;
    expect(ignores.chargers[0]!.totals.coldAh).toBeGreaterThan(1);
    expect(ignores.chargers[0]!.totals.coldest).toBeLessThan(-3);
  });

  it('a sensor over a pad reads warm, and lets frozen cells be charged at the sheet’s own cutoff', () => {
    const job = only(teasel, { aft: {} });
    const asFound = ran(job, 'freezing-dawn', { values: (_, plan) => variantValues(plan, 'asFound') }).run;
    expect(asFound.chargers[0]!.totals.coldest).toBeLessThan(-1);
    expect(ran(job, 'freezing-dawn').run.chargers[0]!.totals.coldAh).toBe(0);
  });

  it('a heated hold warms the air at once and the cells hours later: a sensor in the air lets charge begin too early', () => {
    const inAir = { fitted: true, place: 'air' as const, errorC: 0.5, offsetC: 0, lagSeconds: 300, warmLeadC: 0 };
    const job = only(teasel, { aft: { sensor: inAir } });
    expect(ran(job, 'heated-hold').run.chargers[0]!.totals.coldAh).toBeGreaterThan(1);
    const onCase = only(teasel, { aft: { sensor: { ...inAir, place: 'batteryCase' } } });
    expect(ran(onCase, 'heated-hold').run.chargers[0]!.totals.coldAh).toBe(0);
  });

  it('begins anew every sunrise on the card that does, and goes on in float on the one that does not', () => {
    const days = { scenario: { days: 3, charge: 0.95, load: { baseA: 1, fridgeA: 0, duty: 0, eveningA: 0 } } };
    const skarrow = only(demoJob('skarrow'), { leader: {} });
    expect(trail(ran(skarrow, 'clear-day', days).run, 'leader').filter((s) => s === 'bulk sourceOn').length).toBeGreaterThan(2);
    const launch = trail(ran(oneOn(35), 'clear-day', days).run, 'aft');
    expect(launch.filter((s) => s === 'bulk sourceOn').length).toBe(1);
    expect(launch).toContain('float sourceOn');
  });

  it('a follower changes stage with its leader, and goes its own way when its link is switched off', () => {
    const skarrow = demoJob('skarrow');
    const job = { ...skarrow, system: { ...skarrow.system, chargers: skarrow.system.chargers.filter((c) => c.id !== 'turbine') } };
    const day = { scenario: { charge: 0.8, load: { baseA: 3, fridgeA: 0, duty: 0, eveningA: 0 } } };
    const linked = ran(job, 'clear-day', day).run;
    const changes = (run: Run, id: string): number[] =>
      run.chargers
        .find((c) => c.id === id)!
        .spans.filter((s) => s.stage === 'absorb' || s.stage === 'float')
        .map((s) => s.from);
    expect(changes(linked, 'follower').length).toBeGreaterThan(1);
    for (const [i, at] of changes(linked, 'leader').entries()) expect(Math.abs(at - changes(linked, 'follower')[i]!)).toBeLessThan(3);
    const alone = ran(job, 'clear-day', { ...day, values: (_, plan) => variantValues(plan, 'factory') }).run;
    expect(alone.events.some((e) => e.cause === 'leader')).toBeFalse();
  });

  it('an alternator ramps in, and gives way when its machine is hot', () => {
    const job = only(teasel, { alternator: {} });
    const hot = { scenario: { charge: 0.1, engine: { fromHour: 6, hours: 3, output: 1 } } };
    const { run } = ran(job, 'motoring', { ...hot, values: (v) => on(v, 'alternator', { softStartTime: 120, machineTempLimit: 90, fieldLimit: 100 }) });
    const amps = run.chargers[0]!.amps;
    const start = run.time.findIndex((t) => t >= run.from + 2 * 3600);
    expect(amps[start + 1]!).toBeLessThan(45);
    expect(Math.max(...amps)).toBeGreaterThan(85);
    expect(amps[start + 300]!).toBeLessThan(85);
    expect(eventOf(run, 'alternator', 'heatCut')!.figure!).toBeGreaterThan(85);
    const cool = ran(job, 'motoring', {
      ...hot,
      values: (v) => on(v, 'alternator', { softStartTime: 0, machineTempLimit: 130, fieldLimit: 60, beltRelief: 0 }),
    }).run;
    expect(cool.chargers[0]!.totals.peakA).toBeCloseTo(60, 0);
  });

  it('a DC-DC charger follows the engine by its input volts, runs on after it, and drains the start bank where its stop stands too low', () => {
    const job = only(teasel, { dcdc: { feed: { name: 'start', volts: 12, restingV: 12.7, dropV: 0.2 } } });
    const after = (inputStopVoltage: number): number =>
      state(
        ran(job, 'motoring', {
          scenario: { charge: 0.2, engine: { fromHour: 9, hours: 2, output: 0.5 } },
          values: (v) => on(v, 'dcdc', { remoteControl: 'not used', inputStartVoltage: 13.2, inputStopVoltage }),
        }).run,
        'dcdc',
        'bulk',
      ) -
      2 * 3600;
    expect(after(12.9)).toBeLessThan(3600);
    expect(after(11.5)).toBeGreaterThan(4 * 3600);
  });

  it('PWM passes on the panel’s own current, whatever its best voltage', () => {
    const mast = demoJob('rook-moss');
    const pwm = ran(mast, 'clear-day').run.chargers[0]!;
    const mppt = ran({ ...mast, cards: mast.cards.map((c) => (c.kind === 'solarPwm' ? { ...c, kind: 'solarMppt' as const } : c)) }, 'clear-day').run
      .chargers[0]!;
    // A panel of 18 V into a bank of 12.5 V: a third more for the converter, and never more than the short-circuit current for PWM.
    expect(mppt.totals.ah / pwm.totals.ah).toBeGreaterThan(1.15);
    expect(pwm.totals.peakA).toBeLessThan(5.4 * 1.2);
  });

  it('a turbine whose bank is gone runs into its diversion load, and into its brake where that is too small', () => {
    const skarrow = demoJob('skarrow');
    const hut = only(skarrow, { turbine: {} });
    const open = (diversionW: number) =>
      ran(only(skarrow, { turbine: { machine: { ...hut.system.chargers[0]!.machine!, diversionW } } }), 'bms-opens', {
        scenario: { flow: 1, load: { baseA: 1, fridgeA: 0, duty: 0, eveningA: 0 }, charge: 0.1 },
      }).run;
    const diverted = open(1500);
    expect(eventOf(diverted, 'turbine', 'diverting')).toBeDefined();
    expect(eventOf(diverted, 'turbine', 'brake')).toBeUndefined();
    expect(diverted.totals.dumpedAh).toBeGreaterThan(0);
    expect(eventOf(open(50), 'turbine', 'brake')).toBeDefined();
  });

  it('unsaved values are lost at a power cut: the day ends with the float that was found', () => {
    const job = only(teasel, { aft: {} });
    const day = { charge: 0.96, load: { baseA: 2, fridgeA: 0, duty: 0, eveningA: 0 } };
    const lost = ran(job, 'power-cut', { scenario: { ...day, powerCut: { hour: 6, saved: false } } }).run;
    const saved = ran(job, 'power-cut', { scenario: { ...day, powerCut: { hour: 6, saved: true } } }).run;
    const floatV = (run: Run): number => run.chargers[0]!.totals.floatVs / run.chargers[0]!.totals.floatS;
    expect(floatV(lost)).toBeCloseTo(27.6, 1);
    expect(floatV(saved)).toBeCloseTo(26.9, 1);
    expect(eventOf(lost, 'aft', 'powerCut')).toBeDefined();
  });

  it('a BMS opens on one full cell while the bank stands below its own trip', () => {
    const spread = { ...solar, system: { ...solar.system, bank: { ...solar.system.bank, cellSpreadV: 0.3 } } };
    const high = { scenario: { charge: 0.9, raised: { charger: 'fore', volts: 0.4 } } };
    const event = eventOf(ran(spread, 'clear-day', high).run, undefined, 'bmsOpen')!;
    expect(event.trip).toBe('cell');
    expect(event.bankV).toBeLessThan(29);
    expect(eventOf(ran(solar, 'clear-day', high).run, undefined, 'bmsOpen')).toBeUndefined();
  });

  it('a sister set 0.4 V higher carries the bank on alone and holds it above what the other wants', () => {
    const job = { ...solar, system: { ...solar.system, chargers: solar.system.chargers.map((c) => ({ ...c, displayReadings: [] })) } };
    const day = { scenario: { charge: 0.9, raised: { charger: 'fore', volts: 0.4 } } };
    const { run } = ran(job, 'sister-high', day);
    const even = ran(job, 'sister-high', { scenario: { charge: 0.9, raised: null } }).run;
    expect(run.totals.highest).toBeGreaterThan(even.totals.highest + 0.25);
    const float = (r: Run, id: string) => r.chargers.find((c) => c.id === id)!;
    expect(float(run, 'fore').totals.floatVs / float(run, 'fore').totals.floatS).toBeGreaterThan(27.2);
  });

  it('a thermostat opens in the cold, and a heating output does just the opposite', () => {
    const tumbler = demoJob('tumbler');
    const sensor = { fitted: true, place: 'batteryCase' as const, errorC: 1, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 };
    const job = only(tumbler, { roof: { sensor } });
    const day = { scenario: { dawnC: -6, swingC: 14 } };
    const cooling = ran(job, 'freezing-dawn', {
      ...day,
      values: (v) => on(on(v, 'thermostat', { outputMode: 'cooling' }), 'roof', { lowTempCutoff: -20, lowTempResume: -18 }),
    }).run;
    const heating = ran(job, 'freezing-dawn', {
      ...day,
      values: (v) => on(on(v, 'thermostat', { outputMode: 'heating' }), 'roof', { lowTempCutoff: -20, lowTempResume: -18 }),
    }).run;
    expect(cooling.chargers[0]!.totals.coldAh).toBe(0);
    expect(heating.chargers[0]!.totals.coldAh).toBeGreaterThan(0.5);
  });

  it('loads are cut off where the monitor’s relay says so, and come back', () => {
    const day = { scenario: { days: 3, charge: 0.15, clearness: 0.9, load: { baseA: 8, fridgeA: 0, duty: 0, eveningA: 0 } } };
    const { run } = ran(teasel, 'clear-day', { ...day, values: (v) => on(v, 'monitor', { loadMode: 'loads', loadDisconnect: 25.9, loadReconnect: 26.5 }) });
    expect(eventOf(run, 'monitor', 'loadOff')!.bankV).toBeLessThan(25.92);
    expect(eventOf(run, 'monitor', 'loadOn')!.bankV).toBeGreaterThan(26.48);
    expect(run.totals.loadOffSeconds).toBeGreaterThan(600);
  });
});

describe('played back', () => {
  const recorded = () => runLog(ran(solar, 'broken-cloud', { scenario: { charge: 0.7 } }).run);

  it('a recorded day with the same settings comes out as it was', () => {
    const log = recorded();
    const replay = replayOf(log);
    if (!replay.ok) throw new Error('a replay');
    const again = ran(solar, 'broken-cloud', { scenario: { charge: 0.7, replay: 'x' }, replay: replay.value }).run;
    let sum = 0;
    again.bankVolts.forEach((v, i) => (sum += Math.abs(v - (log.bankVolts[i] ?? v))));
    expect(sum / again.bankVolts.length).toBeLessThan(0.03);
    expect(again.from).toBe(log.time[0]!);
  });

  it('gives a source what the log shows of it, engine driven ones too, and nothing to one it does not show', () => {
    const log = runLog(ran(teasel, 'motoring').run);
    const { fore: _fore, ...chargers } = log.chargers;
    const replay = replayOf({ ...log, chargers });
    if (!replay.ok) throw new Error('a replay');
    const again = ran(teasel, 'motoring', { scenario: { replay: 'x', engine: null }, replay: replay.value }).run;
    const ah = (id: string): number => again.chargers.find((c) => c.id === id)!.totals.ah;
    expect(ah('fore')).toBe(0);
    expect(ah('dcdc')).toBeGreaterThan(25);
    expect(ah('alternator')).toBeGreaterThan(90);
  });

  it('says what is missing: samples, currents, temperature, loads', () => {
    const log = recorded();
    const text = (made: ReturnType<typeof replayOf>): string => (made.ok ? made.value.notes.join(' ') : (made.problems[0]?.text ?? ''));
    expect(text(replayOf({ ...log, time: new Float64Array(0) }))).toContain('no samples');
    expect(text(replayOf({ ...log, chargers: {} }))).toContain('no charger’s current');
    const { batteryC: _b, bankAmps: _a, ...bare } = log;
    expect(text(replayOf(bare))).toContain('no battery temperature');
    expect(text(replayOf(bare))).toContain('no bank current');
  });

  it('does not take what a charger gave in float for all its source had', () => {
    const time = Float64Array.from({ length: 5 }, (_, i) => 1000 + 10 * i);
    const chargers = { aft: { amps: Float32Array.of(20, 5, 5, 5, 20), stage: Uint8Array.of(2, 4, 4, 4, 2) } };
    const made = replayOf({ time, offsetMinutes: 0, bankVolts: Float32Array.of(27, 27, 27, 27, 27), chargers });
    expect(made.ok && [...made.value.watts['aft']!]).toEqual([540, 540, 540, 540, 540]);
  });
});

describe('a rehearsal without sense', () => {
  const refused = (change: Parameters<typeof rehearse>[0], options = {}): string => {
    const made = rehearse(change, options);
    return made.ok ? '' : made.problems.map((p) => p.text).join(' ');
  };
  const plan = deriveSettings(teasel);
  const input = { plan, scenario: dayOn(plan, 'clear-day'), values: variantValues(plan, 'asSet') };

  it('answers with a sentence: steps, numbers, capacity, chargers, settings', () => {
    for (const stepS of [0, -1, NaN, 1e9]) expect(refused(input, { stepS })).toContain('cannot be rehearsed');
    expect(refused({ ...input, scenario: { ...input.scenario, dawnC: NaN } })).toContain('no number');
    expect(refused({ ...input, unknowns: { capacity: 0 } })).toContain('capacity of the battery is not known');
    expect(refused({ ...input, values: on(input.values, 'aft', { floatVoltage: 30 }) })).toContain('is above absorb');
    expect(refused({ ...input, values: on(input.values, 'aft', { absorbVoltage: NaN }) })).toContain('no number');
    const none = deriveSettings({ ...teasel, system: { ...teasel.system, chargers: [] } });
    expect(refused({ plan: none, scenario: dayOn(none, 'clear-day'), values: {} })).toContain('no charger');
    const noCard = deriveSettings({ ...teasel, cards: [] });
    expect(refused({ plan: noCard, scenario: input.scenario, values: variantValues(noCard, 'asSet') })).toContain('no card');
  });

  it('stops when it is asked to', () => {
    let asked = 0;
    expect(refused({ ...input, scenario: { ...input.scenario, days: 300 } }, { stop: () => ++asked > 5 })).toContain('stopped');
    expect(asked).toBe(6);
    const parts: number[] = [];
    rehearse(input, { progress: (part) => parts.push(part) });
    expect(parts.length).toBe(24);
    expect(parts.at(-1)).toBeGreaterThan(0.95);
    expect([...parts].sort((a, b) => a - b)).toEqual(parts);
  });

  it('takes any values in range without a number running away', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const { run } = ran(teasel, seed % 2 ? 'broken-cloud' : 'cold-start', {
        scenario: {
          seed,
          charge: (seed % 10) / 10 + 0.02,
          dawnC: -30 + 1.5 * seed,
          clearness: Math.min(1, 0.02 + seed / 40),
          load: { baseA: seed * 4, fridgeA: 200, duty: 0.5, eveningA: 0 },
          stringSpread: seed % 3 === 0 ? 0.2 : 0,
        },
        options: { stepS: 5, longestS: 60, everyS: 60 },
      });
      expect(run.bankVolts.every(Number.isFinite)).withContext(String(seed)).toBeTrue();
      expect(run.charge.every((c) => c > -0.1 && c < 1.1))
        .withContext(String(seed))
        .toBeTrue();
    }
  });
});

describe('the extremes of a run', () => {
  for (const [name, charge] of [
    ['clear-day', 1],
    ['clear-day', 0.3],
    ['motoring', 0.5],
    ['cold-start', 0.9],
  ] as const)
    it(`are where the traces have them: ${name}, begun at ${charge}`, () => {
      const { run } = ran(teasel, name, { scenario: { charge } });
      const { totals, time, from, to } = run;
      /** The sample at or just after a moment; the extremes there are those since the sample before. */
      const near = (at: number): number => time.findIndex((t) => t >= at - 1e-6);
      for (const at of [totals.highestAt, totals.lowestAt]) {
        expect(at).toBeGreaterThanOrEqual(from);
        expect(at).toBeLessThanOrEqual(to);
      }
      expect(run.bankHigh[near(totals.highestAt)]).toBeCloseTo(totals.highest, 3);
      expect(run.bankLow[near(totals.lowestAt)]).toBeCloseTo(totals.lowest, 3);
      // From the second sample on: the first is the bank before anything has moved.
      expect(totals.highest).toBeCloseTo(Math.max(...run.bankHigh.subarray(1)), 3);
      expect(totals.lowest).toBeCloseTo(Math.min(...run.bankLow.subarray(1)), 3);
      expect(totals.coldest).toBeCloseTo(Math.min(...run.batteryC), 1);
      expect(totals.hottest).toBeCloseTo(Math.max(...run.batteryC), 1);
      if (totals.fullAt === totals.fullAt) {
        expect(run.charge[near(totals.fullAt)]).toBeGreaterThanOrEqual(0.9899);
        expect(run.charge.subarray(0, Math.max(1, near(totals.fullAt))).every((c) => c < 0.9901 || charge === 1)).toBeTrue();
      } else expect(Math.max(...run.charge)).toBeLessThan(0.9901);
    });
});
