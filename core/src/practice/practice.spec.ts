import { fromDevice, parameterFor, type Role } from '../card';
import { movesTo, type FaceMove } from '../face';
import { proveLog } from '../proof';
import { provingMeter } from '../settings';
import { wireOhms, systemSchema } from '../system';
import { seeded } from '../testing/fixtures';
import { shipped } from '../testing/shipped';
import {
  acceptable,
  actionSchema,
  assess,
  choicesAt,
  drawExercise,
  exerciseSchema,
  faultCodes,
  faultKinds,
  handCodes,
  handsAt,
  hintsOf,
  judgeExercise,
  logOfDay,
  leftWrong,
  mostWrong,
  openBench,
  places,
  prepare,
  programmable,
  setAllRight,
  shows,
  solve,
  spotsOf,
  type Action,
  type Bench,
  type Claim,
  type Done,
  type FaultCode,
  type PlaceCode,
  type Spot,
} from './index';

const at = (place: PlaceCode) => prepare(place, shipped);
const spot = (place: PlaceCode, code: FaultCode, device?: string): Spot =>
  spotsOf(at(place), code).find((s) => device === undefined || s.device === device) ?? { device: null, role: null };
const open = (place: PlaceCode, code: FaultCode, device?: string, seed = 5): Bench =>
  openBench({ kind: 'find', seed, place, faults: [{ code, spot: spot(place, code, device) }] }, shipped);
const acts = (bench: Bench, ...list: readonly Action[]): Bench => {
  for (const action of list) bench.act(action);
  return bench;
};
const key = (device: string, ...keys: readonly string[]): readonly Action[] =>
  keys.map((k): Action => ({ do: 'key', device, stroke: { key: k, act: 'press' } }));
const last = (bench: Bench, of: string): Done => bench.done().findLast((d) => d.key === of)!;
const all = (bench: Bench): readonly number[] => bench.done().map((_, i) => i);
const claim = (bench: Bench, code: FaultCode, device: string | null = null): Claim => ({ code, device, shownBy: all(bench) });
/** Walks a front to a setting, so that it is read. */
function look(bench: Bench, device: string, role: Role): void {
  const d = bench.devices.find((x) => x.id === device)!;
  for (const move of movesTo(d.rules, bench.face(device), role) ?? []) bench.act(asAction(device, move));
}
const asAction = (device: string, move: FaceMove): Action => (move.do === 'leave' ? { do: 'leave', device } : { ...move, device });

describe('the places of the practice bench', () => {
  it('find on their devices only choices that these have', () => {
    for (const { code, system } of places)
      for (const device of [...system.chargers, ...system.companions])
        for (const p of shipped.cards.find((c) => c.id === device.card)!.parameters) {
          const found = device.present[p.role];
          if (p.unit !== 'choice' || found === undefined) continue;
          expect(p.options.map((o) => o.value))
            .withContext(`${code} ${device.id} ${p.role}`)
            .toContain(String(found));
        }
  });

  it('are six banks of all five chemistries, sound when nothing is planted', () => {
    expect(places.map((p) => p.code)).toEqual(['cabin', 'mast', 'pump', 'launch', 'hut', 'stage']);
    expect(new Set(places.map((p) => shipped.sheets.find((s) => s.id === p.sheet)!.chemistry))).toEqual(new Set(['lfp', 'flooded', 'gel', 'agm', 'nmc']));
    for (const place of places) {
      expect(systemSchema.safeParse(place.system).success).withContext(place.code).toBeTrue();
      // Cloud plants nothing into devices and wires.
      expect(leftWrong(open(place.code, 'cloud')))
        .withContext(place.code)
        .toEqual([]);
    }
  });

  it('have every charger of the sun at work when somebody arrives', () => {
    for (const place of places) {
      const bench = open(place.code, 'cloud');
      for (const c of place.system.chargers) if (c.array) expect(bench.reading(c.id)!.amps).withContext(`${place.code} ${c.id}`).toBeGreaterThan(1);
    }
  });
});

describe('the faults of the practice bench', () => {
  it('are at least thirty kinds, each at some place, twelve of them at every one', () => {
    expect(faultCodes.length).toBeGreaterThanOrEqual(30);
    const suits = (code: FaultCode) => places.filter((p) => spotsOf(at(p.code), code).length > 0).length;
    for (const code of faultCodes) expect(suits(code)).withContext(code).toBeGreaterThan(0);
    expect(faultCodes.filter((code) => suits(code) === places.length).length).toBeGreaterThanOrEqual(12);
  });

  it('can each be shown, said and put right at every spot, and are there until they are', () => {
    for (const place of places)
      for (const code of faultCodes)
        for (const where of spotsOf(at(place.code), code)) {
          const bench = openBench({ kind: 'find', seed: 11, place: place.code, faults: [{ code, spot: where }] }, shipped);
          const named = `${place.code} ${code} ${where.device} ${where.role}`;
          if (faultKinds[code].remedy === 'value') expect(leftWrong(bench)).withContext(named).not.toEqual([]);
          const judged = judgeExercise(bench, solve(bench));
          expect(judged.passed)
            .withContext(`${named} ${JSON.stringify({ ...judged, faults: judged.faults.map((f) => [f.named, f.shown, f.cured]) })}`)
            .toBeTrue();
          expect([judged.wrong, judged.left, judged.needless, judged.hazards, judged.slips]).withContext(named).toEqual([[], [], [], [], []]);
        }
  });

  it('can be solved two and three at a time, from any seed', () => {
    const random = seeded(7);
    const met = new Set<string>();
    for (let i = 0; i < 30; i++) {
      const exercise = drawExercise(Math.floor(random() * 2 ** 31), shipped, { faults: 2 + (i % 2) });
      const bench = openBench(exercise, shipped);
      const judged = judgeExercise(bench, solve(bench));
      expect(judged.passed)
        .withContext(`${JSON.stringify(exercise)} ${JSON.stringify({ ...judged, faults: judged.faults.map((f) => [f.named, f.shown, f.cured]) })}`)
        .toBeTrue();
      for (const f of exercise.faults) met.add(f.code);
    }
    expect(met.size).toBeGreaterThan(20);
  });

  it('are not passed by doing nothing, by saying everything, or by doing every work there is', () => {
    for (const code of faultCodes)
      for (const place of places.filter((p) => spotsOf(at(p.code), code).length > 0).slice(-1)) {
        const where = spotsOf(at(place.code), code)[0]!;
        const exercise = { kind: 'find' as const, seed: 3, place: place.code, faults: [{ code, spot: where }] };
        const idle = openBench(exercise, shipped);
        expect(judgeExercise(idle, []).passed).withContext(`${place.code} ${code} nothing`).toBeFalse();
        const bench = openBench(exercise, shipped);
        solve(bench);
        const everything = choicesAt(bench).map((c): Claim => ({ ...c, shownBy: all(bench) }));
        const judged = judgeExercise(bench, everything);
        expect(judged.passed).withContext(`${place.code} ${code} everything`).toBeFalse();
        expect(judged.wrong.length).withContext(`${place.code} ${code}`).toBeGreaterThan(mostWrong);
        const busy = openBench(exercise, shipped);
        const said = solve(busy);
        for (const hand of handCodes) busy.act({ do: 'hand', hand, device: where.device });
        const after = judgeExercise(busy, said);
        expect([after.passed, after.needless.length > 0])
          .withContext(`${place.code} ${code} every work`)
          .toEqual([false, true]);
      }
  });
});

describe('judging', () => {
  it('needs the cause named on its device, shown, and put right; each alone is not enough', () => {
    const solved = (change: (bench: Bench, claims: readonly Claim[]) => readonly Claim[]) => {
      const bench = open('cabin', 'floatHigh', 'west');
      return judgeExercise(bench, change(bench, solve(bench)));
    };
    expect(solved((_, c) => c).passed).toBeTrue();
    expect(solved((_, c) => c.map((x) => ({ ...x, device: 'east' }))).faults[0]).toEqual(jasmine.objectContaining({ named: false, shown: null, cured: true }));
    expect(solved((_, c) => c.map((x) => ({ ...x, shownBy: [] }))).faults[0]).toEqual(jasmine.objectContaining({ named: true, shown: false }));
    const unmended = open('cabin', 'floatHigh', 'west');
    look(unmended, 'west', 'floatVoltage');
    expect(judgeExercise(unmended, [claim(unmended, 'floatHigh', 'west')]).faults[0]).toEqual(
      jasmine.objectContaining({ named: true, shown: true, cured: false }),
    );
  });

  it('forgives two wrong answers and no third', () => {
    const wrong: readonly FaultCode[] = ['absorbLow', 'taperHigh', 'limitLow'];
    const judged = (n: number) => {
      const bench = open('cabin', 'floatHigh', 'west');
      const claims = solve(bench);
      return judgeExercise(bench, [...claims, ...wrong.slice(0, n).map((code) => claim(bench, code, 'west'))]);
    };
    expect([0, 1, 2, 3].map((n) => judged(n).passed)).toEqual([true, true, true, false]);
  });

  it('calls a value laid down and not saved what it is', () => {
    const bench = open('cabin', 'floatHigh', 'east');
    look(bench, 'east', 'floatVoltage');
    const from = bench.face('east').memory.inUse.floatVoltage as number;
    acts(bench, ...key('east', 'Enter'), ...Array.from({ length: Math.round((from - 26.9) / 0.1) }, () => key('east', 'Down')).flat(), ...key('east', 'Enter'));
    expect(bench.face('east').memory.inUse.floatVoltage).toBe(26.9);
    expect(leftWrong(bench)).toEqual([jasmine.objectContaining({ device: 'east', role: 'floatVoltage', value: from, right: 26.9, unsaved: true })]);
    expect(judgeExercise(bench, [claim(bench, 'floatHigh', 'east')]).faults[0]?.cured).toBeFalse();
  });

  it('counts a cut under the sun, not one with the source isolated', () => {
    const danger = (isolated: boolean) => {
      const bench = open('mast', 'cloud', undefined, 2);
      if (isolated) bench.act({ do: 'isolate', device: 'mast', off: true });
      return acts(bench, { do: 'cut', device: 'mast' })
        .hazards()
        .map((h) => h.code);
    };
    expect([danger(false), danger(true)]).toEqual([['cutUnderSun'], []]);
  });

  it('counts the second meaning of a key, and factory values restored, and fails for either', () => {
    const second = open('mast', 'absorbHigh');
    const claims = solve(second);
    acts(second, ...key('mast', 'Down'));
    expect(judgeExercise(second, claims)).toEqual(
      jasmine.objectContaining({ passed: false, hazards: [jasmine.objectContaining({ code: 'secondMeaning', device: 'mast' })] }),
    );
    const reset = acts(open('hut', 'absorbHigh', 'leader'), { do: 'key', device: 'leader', stroke: { key: 'Menu', act: 'hold', seconds: 10 } });
    expect(reset.hazards().map((h) => h.code)).toEqual(['factoryReset']);
    expect(leftWrong(reset).length).toBeGreaterThan(3);
  });

  it('takes what a battery type has moved as true, and as no cause of its own', () => {
    const bench = open('pump', 'typeChosen');
    look(bench, 'pump', 'batteryType');
    look(bench, 'pump', 'absorbVoltage');
    expect(assess(bench, claim(bench, 'typeChosen', 'pump'))).toBe('so');
    expect(assess(bench, claim(bench, 'absorbHigh', 'pump'))).toBe('follows');
    expect(assess(bench, claim(bench, 'absorbTimeLong', 'pump'))).toBe('wrong');
  });

  it('takes a value within two steps and in its band, and no other', () => {
    const { plan } = at('cabin');
    const float = (value: number) => acceptable(plan, at('cabin'), 'east', 'floatVoltage', value);
    expect([26.6, 26.7, 26.8, 26.9, 27.0, 27.1, 27.2].map(float)).toEqual([false, true, true, true, true, true, false]);
    const limit = (value: number) => acceptable(plan, at('cabin'), 'east', 'chargeCurrentLimit', value);
    expect([42, 43, 45].map(limit)).withContext('inside its band, and three steps away').toEqual([false, true, true]);
    expect(acceptable(plan, at('cabin'), 'east', 'equaliseEnabled', 'on')).toBeFalse();
    expect(acceptable(plan, at('hut'), 'follower', 'absorbVoltage', 12))
      .withContext('what the leader gives is the leader’s affair')
      .toBeFalse();
    expect(acceptable(at('hut').plan, at('hut'), 'follower', 'absorbVoltage', 12)).toBeTrue();
    expect(acceptable(at('hut').plan, at('hut'), 'leader', 'displaySleep', at('hut').right['leader']!.displaySleep)).toBeTrue();
    expect(acceptable(at('hut').plan, at('hut'), 'leader', 'displaySleep', 59))
      .withContext('nobody asked for it')
      .toBeFalse();
  });
});

describe('leads and relays on the wrong screws', () => {
  const amps = (bench: Bench): readonly (number | null)[] => {
    // Clamping takes half a minute, noting none: the two are of one moment.
    acts(bench, { do: 'clamp', at: 'bank' }, { do: 'note', device: 'monitor' });
    return [last(bench, 'monitor').number, last(bench, 'clamp:bank').number];
  };

  it('a shunt with its leads swapped counts backwards, until they are swapped back', () => {
    const bench = open('cabin', 'shuntReversed');
    const [shown, clamped] = amps(bench);
    expect(clamped).toBeGreaterThan(2);
    expect(shown! + clamped!).toBeCloseTo(0, 0);
    acts(bench, { do: 'pass', seconds: 3600 });
    expect(bench.monitorCharge()).toBeLessThan(0.6);
    expect(acts(bench, { do: 'look', at: 'shunt:monitor' }).done().at(-1)?.sight).toBe('leadsSwapped');
    acts(bench, { do: 'hand', hand: 'swapShuntLeads', device: 'monitor' });
    const [after, clampedAfter] = amps(bench);
    expect(after! - clampedAfter!).toBeCloseTo(0, 0);
    expect(acts(bench, { do: 'look', at: 'shunt:monitor' }).done().at(-1)?.sight).toBe('leadsRight');
    const sound = open('cabin', 'cloud');
    acts(sound, { do: 'pass', seconds: 3600 });
    expect(sound.monitorCharge()).toBeGreaterThan(0.6);
  });

  it('a clamp near nought does not show it', () => {
    const [proof] = faultKinds.shuntReversed.proofs(spot('cabin', 'shuntReversed'), at('cabin'));
    const bench = open('cabin', 'shuntReversed');
    acts(bench, { do: 'conditions', light: 0 }, { do: 'pass', seconds: 60 });
    const [, clamped] = amps(bench);
    expect(shows(proof!, bench.done(), bench.done())).toBe(2 * Math.abs(clamped!) >= 1.5);
  });

  it('a relay on the battery’s side is seen by its wires, and moved', () => {
    const bench = open('stage', 'relayWrongSide');
    const look = (): unknown => acts(bench, { do: 'look', at: 'relay:thermostat' }).done().at(-1)?.sight;
    expect(look()).toBe('partsBattery');
    acts(bench, { do: 'hand', hand: 'moveRelay', device: 'thermostat' });
    expect(look()).toBe('partsSource');
    expect(acts(bench, { do: 'look', at: 'relay:roof' }).done().at(-1)?.sight).toBe('none');
    expect(places.filter((p) => spotsOf(at(p.code), 'relayWrongSide').length > 0).map((p) => p.code)).toEqual(['stage']);
  });

  it('hands are offered where they can do something', () => {
    const on = (place: PlaceCode, device: string) =>
      handsAt(open(place, 'cloud'), device)
        .filter((h) => h.device !== null)
        .map((h) => h.hand);
    expect(on('cabin', 'monitor')).toEqual(['swapShuntLeads']);
    expect(on('stage', 'thermostat')).toEqual(['moveRelay']);
    expect(on('cabin', 'east')).toEqual(['plugSensor', 'moveSensor', 'remakeJoint', 'joinString', 'closeIsolator', 'moveNegative', 'replaceCharger']);
    expect(
      handsAt(open('cabin', 'cloud'), 'monitor')
        .filter((h) => h.device === null)
        .map((h) => h.hand),
    ).toEqual(['clearArray', 'switchOffLoad', 'balanceCells', 'replaceBattery']);
  });
});

describe('what shows a fault', () => {
  const line = (key: string, number: number | null): Done => ({
    at: 0,
    minuteOfDay: 0,
    key,
    device: null,
    role: null,
    number,
    unit: null,
    beside: null,
    text: null,
    sight: null,
    stage: null,
  });
  it('is all of its lines, one of them pointed at, and numbers far enough apart', () => {
    const [a, b] = [line('a', 20), line('b', 18)];
    const proof = { keys: ['a', 'b'], apart: 2 };
    expect(shows(proof, [a, b], [a])).toBeTrue();
    expect(shows(proof, [a, b], [])).toBeFalse();
    expect(shows(proof, [a], [a])).toBeFalse();
    expect(shows(proof, [a, line('b', 18.1)], [a])).toBeFalse();
    expect(shows({ keys: ['a'], atLeast: 20 }, [a], [a])).toBeTrue();
    expect(shows({ keys: ['a'], atLeast: 20.1 }, [a], [a])).toBeFalse();
    expect(shows({ keys: ['a'], atMost: 20 }, [a], [a])).toBeTrue();
    expect(shows({ keys: ['a'], atMost: 19.9 }, [a], [a])).toBeFalse();
    expect(shows({ keys: ['a'], blank: true }, [a], [a])).toBeFalse();
    expect(shows({ keys: ['a'], blank: true }, [line('a', NaN)], [line('a', NaN)])).toBeTrue();
  });

  it('a sensor on a pad reads seven degrees above the battery, one in its place does not', () => {
    const apart = (bench: Bench) => {
      acts(bench, { do: 'note', device: 'east' }, { do: 'thermometer', at: 'battery' });
      return last(bench, 'sensor:east').number! - last(bench, 'thermometer:battery').number!;
    };
    expect(apart(open('cabin', 'sensorOnPad', 'east'))).toBeGreaterThan(6);
    expect(Math.abs(apart(open('cabin', 'sensorOnPad', 'west')))).toBeLessThan(1.5);
    const blank = acts(open('cabin', 'sensorUnplugged', 'east'), { do: 'note', device: 'east' });
    expect(last(blank, 'sensor:east').number).toBeNaN();
    expect(last(acts(blank, { do: 'hand', hand: 'plugSensor', device: 'east' }, { do: 'note', device: 'east' }), 'sensor:east').number).not.toBeNaN();
  });

  it('a bad joint loses the volts that Ohm’s law gives its cable, three quarters of them on the plus side', () => {
    const bench = acts(open('cabin', 'badJoint', 'east'), { do: 'meter', red: 'at:east+', black: 'bus+' });
    const amps = bench.reading('east')!.amps;
    const ohms = wireOhms({ lengthM: 15.5, areaMm2: 16 })!;
    expect(last(bench, 'drop:east').number!).toBeCloseTo(0.75 * amps * ohms, 1);
    expect(last(acts(bench, { do: 'meter', red: 'bus+', black: 'at:east+' }), 'drop:east').number!).toBeLessThan(0);
    acts(bench, { do: 'hand', hand: 'remakeJoint', device: 'east' }, { do: 'meter', red: 'at:east+', black: 'bus+' });
    expect(last(bench, 'drop:east').number!).toBeLessThan(0.15);
    expect(last(acts(bench, { do: 'look', at: 'joints:east' }), 'look:joints:east').sight).toBe('fine');
  });

  it('what flows into the bank and the loads is what the chargers give, and the monitor misses what goes beside its shunt', () => {
    const bench = acts(open('cabin', 'besideShunt', 'west'), { do: 'clamp', at: 'bank' }, { do: 'clamp', at: 'loads' }, { do: 'note', device: 'monitor' });
    const given = bench.reading('east')!.amps + bench.reading('west')!.amps;
    expect(last(bench, 'clamp:bank').number! + last(bench, 'clamp:loads').number!).toBeCloseTo(given, 0);
    expect(last(bench, 'clamp:bank').number! - last(bench, 'monitor').number!).toBeCloseTo(bench.reading('west')!.amps, 0);
  });

  it('an open string carries nothing in the sun; in the dark nothing can be told', () => {
    const bench = acts(open('hut', 'stringOpen', 'leader'), { do: 'strings', device: 'leader' });
    expect(last(bench, 'strings:leader')).toEqual(jasmine.objectContaining({ number: 0 }));
    expect(last(bench, 'strings:leader').beside!).toBeGreaterThan(1);
    const night = acts(open('hut', 'stringOpen', 'leader'), { do: 'pass', seconds: 12 * 3600 }, { do: 'strings', device: 'leader' });
    expect(night.done().map((d) => d.key)).toEqual(['dark:leader']);
  });

  it('a display that reads high shows against the meter, and the sheet is corrected for it', () => {
    const bench = open('cabin', 'displayHigh', 'east');
    const before = bench.wall().setting('east', 'absorbVoltage')!.value as number;
    acts(bench, { do: 'meter', red: 'at:east+', black: 'at:east-' }, { do: 'note', device: 'east' });
    expect(last(bench, 'display:east').number! - last(bench, 'meter:east').number!).toBeGreaterThan(0.25);
    expect((bench.wall().setting('east', 'absorbVoltage')!.value as number) - before).toBeCloseTo(0.4, 0);
    const late = acts(
      open('cabin', 'displayHigh', 'east'),
      { do: 'meter', red: 'at:east+', black: 'at:east-' },
      { do: 'pass', seconds: 400 },
      { do: 'note', device: 'east' },
    );
    expect(late.wall().setting('east', 'absorbVoltage')!.value).withContext('read too far apart').toBe(before);
  });

  it('a value that was never saved is right until the power is cut', () => {
    const bench = open('cabin', 'notSaved', 'east');
    const { role } = spot('cabin', 'notSaved', 'east');
    look(bench, 'east', role!);
    const seen = last(bench, `value:east:${role!}`).text;
    acts(bench, { do: 'isolate', device: 'east', off: true }, { do: 'cut', device: 'east' });
    look(bench, 'east', role!);
    expect(last(bench, `value:east:${role!}`).text).not.toBe(seen);
  });

  it('snow, a load left on, an open isolator and an older sheet are seen, and gone when they are mended', () => {
    const sight = (code: FaultCode, place: PlaceCode, at: string, ...then: readonly Action[]) => {
      const bench = acts(open(place, code), { do: 'look', at });
      return [last(bench, `look:${at}`).sight, last(acts(bench, ...then, { do: 'look', at }), `look:${at}`).sight];
    };
    expect(sight('snow', 'cabin', 'array', { do: 'hand', hand: 'clearArray', device: null })).toEqual(['snow', 'clear']);
    expect(sight('loadLeftOn', 'cabin', 'loads', { do: 'hand', hand: 'switchOffLoad', device: null })).toEqual(['loadLeftOn', 'loadsUsual']);
    expect(sight('sourceOff', 'cabin', 'isolator:east', { do: 'isolate', device: 'east', off: false })).toEqual(['open', 'closed']);
    expect(sight('olderSheet', 'cabin', 'label')).toEqual(['otherSheet', 'otherSheet']);
    expect(sight('cloud', 'cabin', 'label')).toEqual(['sameSheet', 'sameSheet']);
    expect(sight('cellAhead', 'cabin', 'cells', { do: 'hand', hand: 'balanceCells', device: null })).toEqual(['cells', 'cells']);
    expect(sight('cloud', 'hut', 'cells')).toEqual(['none', 'none']);
  });

  it('a value planted on a device is one that it can hold, wrong by what the fault says', () => {
    const bench = open('cabin', 'absorbHigh', 'east');
    const card = bench.devices.find((d) => d.id === 'east')!.card;
    const p = parameterFor(card, 'absorbVoltage')!;
    const volts = bench.arrived.stored['east']!.absorbVoltage as number;
    expect(p.unit !== 'choice' && fromDevice(p, volts, { systemVolts: 24, cellsInSeries: 8, ratingA: 45 }) - 28.2).toBeCloseTo(0.5, 1);
    expect(open('stage', 'wrongScale').arrived.stored['thermostat']!.thermostatSetpoint).toBe(Math.round(((47 - 32) * 5) / 9));
  });
});

describe('a bench', () => {
  it('comes to the same when the same is done again', () => {
    const doings: readonly Action[] = [
      { do: 'meter', red: 'bank+', black: 'bank-' },
      ...key('east', 'Enter', 'Down', 'Enter'),
      { do: 'pass', seconds: 7 },
      { do: 'clamp', at: 'east' },
      { do: 'hand', hand: 'remakeJoint', device: 'east' },
      { do: 'next' },
      { do: 'thermometer', at: 'air' },
    ];
    const runs = [1, 2].map(() => acts(open('cabin', 'absorbLow', 'east'), ...doings));
    expect(runs[0]!.done()).toEqual(runs[1]!.done());
    expect(runs[0]!.samples()).toEqual(runs[1]!.samples());
    expect(runs[0]!.hands()).toEqual([{ hand: 'remakeJoint', device: 'east' }]);
    expect(doings.every((d) => actionSchema.safeParse(d).success)).toBeTrue();
    const other = acts(open('cabin', 'absorbLow', 'east', 6), ...doings);
    expect(last(other, 'meter:bank').number).withContext('another seed, another meter').not.toBe(last(runs[0]!, 'meter:bank').number);
  });

  it('lets time pass over fronts too: an edit left for a minute is gone', () => {
    const bench = open('cabin', 'absorbLow', 'east');
    look(bench, 'east', 'absorbVoltage');
    acts(bench, ...key('east', 'Enter', 'Up'), { do: 'clamp', at: 'bank' });
    expect(bench.face('east').edit).not.toBeNull();
    acts(bench, { do: 'clamp', at: 'bank' });
    expect([bench.face('east').edit, bench.face('east').note?.code]).toEqual([null, 'thrownAway']);
    expect(bench.minuteOfDay()).toBe(10 * 60 + 1);
  });

  it('has a day before: what the owner complains of can be read in it', () => {
    const full = (code: FaultCode) =>
      open('pump', code)
        .yesterday()!
        .chargers[0]!.spans.some((s) => s.stage === 'absorb' && s.to - s.from > 3600);
    expect([full('floatLow'), full('absorbTimeShort'), full('snow')]).toEqual([true, false, false]);
  });

  it('has that day judged as any log is: what fails is said of the charger it is on, and a sound day fails nothing', () => {
    const provedYesterday = (bench: Bench) => {
      const { log, report } = logOfDay(bench.yesterday()!);
      return proveLog(bench.wall(), log, report, provingMeter(bench.wall().input));
    };
    const fails = (place: PlaceCode, code: FaultCode) =>
      provedYesterday(open(place, code))
        .rows.filter((r) => r.verdict === 'fail')
        .map((r) => r.requirement.charger ?? 'bank');
    expect(fails('pump', 'absorbHigh')).toContain('pump');
    expect(fails('cabin', 'floatHigh')).toContain('east');
    expect(fails('cabin', 'fullHigh')).toEqual([]);
    expect(fails('pump', 'fullHigh')).toEqual([]);
    expect(provedYesterday(open('pump', 'absorbHigh')).rows.find((r) => r.verdict === 'fail')!.why).toMatch(/\d\sV/);
  });

  it('takes sky, loads and engine as somebody sets them, and gives them back', () => {
    const bench = open('launch', 'fullHigh');
    const solar = bench.reading('roof')!.amps;
    const before = bench.bank().amps;
    acts(bench, { do: 'conditions', light: 0, engine: false }, { do: 'pass', seconds: 60 });
    expect([bench.reading('roof')!.amps, bench.reading('alternator')!.amps].map((a) => Math.round(a))).toEqual([0, 0]);
    expect(bench.around()).toEqual({ light: 0, loadA: 0, engine: false });
    const dark = bench.bank().amps;
    acts(bench, { do: 'conditions', loadA: 11 }, { do: 'pass', seconds: 30 });
    expect(dark - bench.bank().amps).toBeGreaterThan(8);
    acts(bench, { do: 'conditions', light: 1, loadA: 0, engine: null }, { do: 'pass', seconds: 600 });
    expect(bench.reading('roof')!.amps).toBeGreaterThan(0.7 * solar);
    expect(bench.bank().amps).toBeGreaterThan(0.7 * before);
    // What the hands mend does not bring back a sky that was set.
    acts(bench, { do: 'conditions', light: 0 }, { do: 'hand', hand: 'remakeJoint', device: 'roof' });
    expect(bench.reading('roof')!.amps).toBe(0);
  });

  it('gives hints one by one: where, then what shows it', () => {
    const bench = open('cabin', 'sensorOnPad', 'west');
    expect(hintsOf(bench)).toEqual([]);
    bench.act({ do: 'hint' });
    expect(hintsOf(bench)).toEqual([{ tells: 'where', device: 'west' }]);
    bench.act({ do: 'hint' });
    expect(hintsOf(bench)[1]).toEqual({ tells: 'proof', keys: ['sensor:west', 'thermometer:battery'], device: 'west' });
    expect(judgeExercise(bench, []).hints).toBe(2);
  });

  it('is programmed from its box by the sheet, at every place', () => {
    for (const place of places)
      for (const device of programmable(at(place.code))) {
        const bench = openBench({ kind: 'program', seed: 1, place: place.code, device }, shipped);
        const named = `${place.code} ${device}`;
        expect(judgeExercise(bench, []).passed).withContext(named).toBeFalse();
        setAllRight(bench);
        expect(leftWrong(bench)).withContext(named).toEqual([]);
        const judged = judgeExercise(bench, []);
        expect(judged.passed).withContext(named).toBeTrue();
      }
  });

  it('counts a wrong value saved on the way, once', () => {
    const bench = openBench({ kind: 'program', seed: 1, place: 'cabin', device: 'east' }, shipped);
    look(bench, 'east', 'absorbVoltage');
    acts(bench, ...key('east', 'Enter', 'Up'), { do: 'key', device: 'east', stroke: { key: 'Enter', act: 'hold', seconds: 3 } });
    expect(bench.slips()).toEqual([{ device: 'east', role: 'absorbVoltage', value: 28.9 }]);
  });
});

describe('drawing an exercise', () => {
  it('is the same for the same seed, at the place and of the kinds that are wished for', () => {
    const random = seeded(3);
    for (let i = 0; i < 12; i++) {
      const seed = Math.floor(random() * 2 ** 31);
      const exercise = drawExercise(seed, shipped, { place: 'hut', faults: 1 + (i % 3) });
      expect(drawExercise(seed, shipped, { place: 'hut', faults: 1 + (i % 3) })).toEqual(exercise);
      expect(exercise.place).toBe('hut');
      expect(exerciseSchema.safeParse(exercise).success).toBeTrue();
      const only = drawExercise(seed, shipped, { weight: (code) => (code === 'wrongScale' ? 1 : 0) });
      expect([only.place, only.faults.map((f) => f.code)]).toEqual(['stage', ['wrongScale']]);
    }
    expect(() => drawExercise(1, shipped, { place: 'mast', weight: (code) => (code === 'wrongScale' ? 1 : 0) })).toThrowError(/nothing that was wished for/);
  });

  it('plants together only what can be told apart', () => {
    const random = seeded(9);
    for (let i = 0; i < 60; i++) {
      const { faults } = drawExercise(Math.floor(random() * 2 ** 31), shipped, { faults: 3 });
      for (const [j, a] of faults.entries())
        for (const b of faults.slice(j + 1)) {
          expect([faultKinds[a.code].touches, faultKinds[b.code].touches]).not.toContain('all');
          expect(a.code === b.code && a.spot.device === b.spot.device).toBeFalse();
          if (faultKinds[a.code].touches === faultKinds[b.code].touches) expect(a.spot.device).not.toBe(b.spot.device);
        }
    }
  });

  it('knows every work of the hands', () => {
    const asked = faultCodes.map((code) => faultKinds[code].remedy).filter((remedy) => remedy !== 'value' && remedy !== 'nothing');
    expect([...new Set([...asked, 'replaceBattery', 'replaceCharger'])].sort()).toEqual([...handCodes].sort());
  });
});
