import { speak } from '../quantity';
import { coldOpenVolts } from '../physics';
import { consequenceOf } from '../findings';
import { applyChange } from '../job';
import { cardNamed, skarrow, stage, tumbler, withBank, withCard, withSchools, withSite } from '../testing/findingCases';
import { plan, rookMoss, seeded, teasel, wholeTeasel, withCharger, withFigure, withSystem } from '../testing/fixtures';
import { english, sayFor } from '../words';
import {
  coldGuards,
  coldPlan,
  compensationOf,
  deriveSettings,
  nearestHeld,
  nextHeld,
  relayPlan,
  schoolQuestions,
  schoolsSchema,
  setpointAt,
  shareCurrent,
} from './index';
import { rounds } from '../testing/rounds';

describe('leader and follower', () => {
  const p = plan(skarrow());

  it('a follower shows its leader’s figures as inherited and keeps its own limit', () => {
    const inherited = p.setting('follower', 'absorbVoltage');
    expect([inherited?.inherited, inherited?.value]).toEqual(['leader', p.setting('leader', 'absorbVoltage')?.value as number]);
    expect(inherited?.derivation[0]?.words).toContain('not entered');
    expect(p.setting('follower', 'chargeCurrentLimit')?.inherited).toBeUndefined();
    expect(p.setting('follower', 'follows')?.value).toBe('follower');
    expect(p.setting('leader', 'follows')?.value).toBe('leader');
  });

  it('an override of the leader reaches the follower', () => {
    const moved = plan({
      ...skarrow(),
      overrides: [{ charger: 'leader', role: 'floatVoltage', value: 27.4, reason: 'asked', by: 'owner', date: '2026-06-09' }],
    });
    expect(moved.setting('follower', 'floatVoltage')?.value).toBe(27.4);
    expect(moved.setting('turbine', 'floatVoltage')?.value).toBe(13.6);
  });

  it('a follower of another kind inherits nothing', () => {
    const odd = plan(withCharger(wholeTeasel(), 'dcdc', { follows: 'fore' }));
    expect(odd.setting('dcdc', 'absorbVoltage')?.inherited).toBeUndefined();
  });
});

describe('the turbine of the hut by hand', () => {
  const p = plan(skarrow());

  it('diverts between absorb 28.8 and the most 29.2, brakes 0.8 above, is caught at 9/10 of its input rating', () => {
    expect(p.setting('turbine', 'diversionVoltage')?.trueValue).toBeCloseTo(29, 9);
    expect(p.setting('turbine', 'brakeVoltage')?.trueValue).toBeCloseTo(29.8, 9);
    expect(p.setting('turbine', 'inputLimitVoltage')?.value).toBe(180);
  });

  it('sounds its alarm above the coldest setpoint: 29.2 − 0.048 × (−12 − 25) + 0.4 = 31.38 → 15.6 per 12 V', () => {
    expect(p.setting('turbine', 'highVoltageAlarm')?.exact).toBeCloseTo(29.2 + 0.048 * 37 + 0.4, 6);
    expect(p.setting('turbine', 'highVoltageAlarm')?.value).toBe(15.6);
  });
});

describe('compensation', () => {
  it('moves setpoints by slope × (clamped temperature − reference), and others not', () => {
    const p = plan(skarrow());
    const absorb = p.setting('leader', 'absorbVoltage')!;
    // −4 mV × 12 cells = −48 mV/°C, followed down to −10 °C only.
    expect(setpointAt(p, absorb, 25)).toBeCloseTo(28.8, 9);
    expect(setpointAt(p, absorb, 0)).toBeCloseTo(28.8 + 1.2, 9);
    expect(setpointAt(p, absorb, -27)).toBeCloseTo(28.8 + 0.048 * 35, 9);
    expect(setpointAt(p, absorb, 60)).toBeCloseTo(28.8 - 0.048 * 15, 9);
    expect(setpointAt(p, p.setting('leader', 'rechargeVoltage')!, 0)).toBe(p.setting('leader', 'rechargeVoltage')?.trueValue ?? null);
  });

  it('moves nothing without a sensor on the battery, nor on lithium', () => {
    const blind = withCharger(skarrow(), 'leader', { sensor: { ...skarrow().system.chargers[0]!.sensor, fitted: false } });
    expect(compensationOf(plan(blind), 'leader')).toBeNull();
    expect(compensationOf(plan(wholeTeasel()), 'fore')).toBeNull();
  });

  it('is clamped so that absorb stays under what the loads bear: 25 + (30 − 28.8)/−0.048 = 0 °C', () => {
    const p = plan(withSystem(skarrow(), { loads: { ...skarrow().system.loads, maxVolts: 30 } }));
    expect(p.setting('leader', 'compensationMinTemp')?.value).toBe(0);
    expect(setpointAt(p, p.setting('leader', 'absorbVoltage')!, -27)).toBeLessThanOrEqual(30);
  });

  it('that cannot be switched off is clamped to nothing on lithium', () => {
    const job = wholeTeasel();
    const p = plan(withCharger({ ...job, cards: [...job.cards, cardNamed('hadrin-h80')] }, 'aft', { card: 'hadrin-h80', present: {} }));
    expect([
      p.setting('aft', 'compensationSlope')?.value,
      p.setting('aft', 'compensationMinTemp')?.value,
      p.setting('aft', 'compensationMaxTemp')?.value,
    ]).toEqual([-1, 20, 25]);
  });
});

describe('the thermostat and its relay', () => {
  it('by hand: 5 °C + 1.9 of margin, differential 2.5 → 5 °F, setpoint 9.68 °C = 49.4 → 50 °F; opens at 45 °F', () => {
    const p = plan(tumbler());
    expect([p.setting('thermostat', 'thermostatDifferential')?.value, p.setting('thermostat', 'thermostatSetpoint')?.value]).toEqual([5, 50]);
    const relay = relayPlan(p, 'thermostat')!;
    expect(relay.opensC).toBeCloseTo((45 - 32) / 1.8, 9);
    expect(relay.coldestCellC).toBeGreaterThanOrEqual(5);
  });

  it('refuses its own 30 V contact for an array of 135 V when cold, takes one that is large enough', () => {
    const own = relayPlan(plan(tumbler()), 'thermostat')!;
    const roof = tumbler().system.chargers[0]!.array!;
    expect(own.sources[0]?.volts).toBeCloseTo(coldOpenVolts(roof.panel, 3, -16), 9);
    expect(own.sources[0]?.amps).toBeCloseTo(1.25 * roof.panel.iscA, 9);
    expect(own.sources[0]?.enough).toBeFalse();
    expect(relayPlan(plan(stage()), 'thermostat')?.sources[0]?.enough).toBeTrue();
  });

  it('never charges when cold, without a sensor or without power; the charger stays alive on the array side only', () => {
    const cooling = relayPlan(plan(stage()), 'thermostat')!;
    expect(cooling.rows.filter((r) => r.bankCharging).map((r) => r.when)).toEqual(['between, on the way down', 'warmer than it closes']);
    expect(cooling.rows.every((r) => r.chargerAlive && !r.wrong)).toBeTrue();
    const battery = relayPlan(plan(stage({ breaks: 'batterySide' })), 'thermostat')!;
    expect(battery.rows.some((r) => !r.chargerAlive)).toBeTrue();
    expect(battery.sources[0]?.breaks).not.toBe(battery.sources[0]?.right);
  });

  it('counts as cold protection only when contact, place and output are right', () => {
    const guard = (job: ReturnType<typeof tumbler>): boolean | undefined => {
      const p = plan(job);
      const roof = job.system.chargers[0]!;
      return coldGuards(
        p,
        roof,
        job.cards.find((c) => c.id === roof.card)!,
      ).find((g) => g.kind === 'relay')?.works;
    };
    expect(guard(tumbler())).toBeFalse();
    expect(guard(stage())).toBeTrue();
    expect(guard(stage({ breaks: 'batterySide' }))).toBeFalse();
    expect(guard(withSystem(stage(), { companions: stage().system.companions.map((c) => ({ ...c, switches: [] })) }))).toBeUndefined();
  });

  it('is nobody’s plan for a monitor', () => {
    expect(relayPlan(plan(wholeTeasel()), 'monitor')).toBeNull();
    expect(relayPlan(plan(wholeTeasel()), 'nobody')).toBeNull();
  });
});

describe('the ceiling shared', () => {
  const share = (allocation: 'byRating' | 'priority' | 'fixed', total: number, more: Partial<{ aft: number }> = {}): number[] => {
    const job = withSchools(wholeTeasel(), { allocation });
    const with_ = more.aft === undefined ? job : withCharger(job, 'aft', { shareA: more.aft });
    const shares = shareCurrent(with_, total);
    return ['fore', 'aft', 'dcdc'].map((id) => Number((shares.get(id)?.amps ?? 0).toFixed(3)));
  };

  it('by rating, in the order of the roster, or by agreed shares first', () => {
    expect(share('byRating', 184)).toEqual([31.5, 31.5, 21]);
    expect(share('priority', 184)).toEqual([45, 39, 0]);
    expect(share('fixed', 184, { aft: 10 })).toEqual([44.4, 10, 29.6]);
  });

  it('never gives more than is left, nor more than a charger bears, for random totals and ways', () => {
    const random = seeded(77);
    for (let i = 0; i < 200; i++) {
      const total = random() * 300;
      const way = (['byRating', 'priority', 'fixed'] as const)[Math.floor(random() * 3)] ?? 'byRating';
      const list = share(way, total, { aft: random() * 60 });
      // The alternator’s 100 A come off first.
      expect(list.reduce((a, b) => a + b, 0)).toBeLessThanOrEqual(Math.max(0, total - 100) + 0.01);
      expect(Math.max(...list)).toBeLessThanOrEqual(45);
      expect(Math.min(...list)).toBeGreaterThanOrEqual(0);
    }
  });
});

describe('cold plans', () => {
  it('by every school that says it bears, no stair is passed, for random tables and sources', () => {
    const random = seeded(5);
    for (let i = 0; i < rounds(400); i++) {
      let amps = 5 + random() * 30;
      let from = -5 + random() * 5;
      const stairs = Array.from({ length: 1 + Math.floor(random() * 4) }, () => {
        const stair = { fromC: from, toC: from + 3 + random() * 10, amps };
        from = stair.toC;
        amps += random() * 120;
        return stair;
      });
      const ceiling = stairs.at(-1)?.amps ?? 0;
      for (const school of ['sheetMinimum', 'raiseCutoff', 'stagger', 'lowerLimits'] as const) {
        const cold = coldPlan(wholeTeasel(), ceiling, stairs, school);
        const passed = stairs.some((stair) => cold.sources.filter((s) => s.fromC < stair.toC - 1e-9).reduce((sum, s) => sum + s.amps, 0) > stair.amps + 1e-6);
        expect(passed).withContext(school).toBe(!cold.bears);
        // Where the alternator alone fits the warmest stair, a way out exists.
        if (ceiling >= 100 && school === 'raiseCutoff') expect(cold.bears).withContext(JSON.stringify(stairs)).toBeTrue();
      }
    }
  });
});

describe('values a device can hold', () => {
  const p = plan(wholeTeasel());

  it('nearest to a wish, and the next one on the display', () => {
    expect(nearestHeld(p, 'fore', 'absorbVoltage', 28.23)).toEqual({ device: 28.4, real: 28.19 });
    expect(nextHeld(p, 'aft', 'absorbVoltage', 1)?.device).toBe(28.2);
    expect(nextHeld(p, 'dcdc', 'chargeCurrentLimit', -1)?.device).toBe(17.5);
    expect(nearestHeld(p, 'aft', 'equaliseEnabled', 1)).toBeNull();
    expect(nearestHeld(p, 'nobody', 'absorbVoltage', 28)).toBeNull();
  });

  it('none beyond the end', () => {
    const top = plan({ ...wholeTeasel(), overrides: [{ charger: 'aft', role: 'absorbVoltage', value: 32, reason: 'x', by: 'x', date: '2026-06-09' }] });
    expect(nextHeld(top, 'aft', 'absorbVoltage', 1)).toBeNull();
  });
});

describe('schools', () => {
  it('every option of every question is one the document takes, and the default is the first', () => {
    for (const q of schoolQuestions) {
      for (const o of q.options) expect(schoolsSchema.shape[q.school].safeParse(o.value).success).withContext(`${q.school} ${o.value}`).toBeTrue();
      expect(q.options[0]?.value).toBe(wholeTeasel().schools[q.school]);
    }
  });

  it('a choice is kept with who made it and why', () => {
    const chosen = { by: 'owner', reason: 'long life', date: '2026-06-09' };
    const job = applyChange(wholeTeasel(), { kind: 'setSchool', school: 'topCharge', to: 'gentle', chosen });
    expect(job.choices).toEqual([{ school: 'topCharge', to: 'gentle', ...chosen }]);
    expect(applyChange(job, { kind: 'setSchool', school: 'topCharge', to: 'never heard of', chosen })).toBe(job);
  });

  it('consequence in numbers: raising every cutoff clears the derating stop and changes eight temperatures', () => {
    const c = consequenceOf(plan(wholeTeasel()), 'coldCurrent', 'raiseCutoff', '2026-06-09');
    expect(c.changes.length).toBe(8);
    expect(english.changed(c.changes[0]!, sayFor(wholeTeasel(), 'C'))).toBe('Solar fore: low-temperature cutoff 2\u00a0°C → 14\u00a0°C');
    expect(c.gone.map((f) => f.code)).toEqual(['deratingExceeded']);
    expect(c.come).toEqual([]);
  });

  it('short and hot: bulk at the top of the band, absorb and float at the bottom, the case nearer its limit', () => {
    const p = plan(withSchools(wholeTeasel(), { alternator: 'shortHot' }));
    const of = (role: Parameters<typeof p.setting>[1]) => p.setting('alternator', role)?.value;
    expect([of('bulkVoltage'), of('absorbVoltage'), of('floatVoltage'), of('machineTempLimit'), of('fieldLimit')]).toEqual([28.3, 28.1, 26.8, 115, 100]);
  });

  it('end of absorb: by time the taper is off, by taper the timer becomes a backstop', () => {
    const time = plan(withSchools(wholeTeasel(), { absorbEnd: 'time' }));
    expect(time.setting('fore', 'taperCurrent')?.off).toBeTrue();
    const taper = plan(withSchools(wholeTeasel(), { absorbEnd: 'taper' }));
    expect(taper.setting('fore', 'absorbTime')?.value).toBe(160);
    expect(taper.setting('alternator', 'absorbTime')?.value).toBe(40);
  });

  it('a taper beside a source that does not taper ends nothing worth ending: time ends absorb', () => {
    const p = plan(wholeTeasel());
    const fore = p.setting('fore', 'taperCurrent')!;
    expect(fore.off).toBeTrue();
    // 18.4 A of the bank and 2 A of load, 45 of 120 A; beside 100 A of alternator 105.65 A would still go in.
    expect(fore.derivation.map((d) => speak(d.words, 'C').replaceAll('\u00a0', ' ')).join(' ')).toContain(
      'Beside Alternator, up to 100 A, its share of 7.65 A would end absorb while as much as 105.7 A still flow into the bank.',
    );
    // A charger without an off is left at its least.
    expect(p.setting('dcdc', 'taperCurrent')?.value).toBe(0.5);
  });

  it('a taper beside a small source still ends absorb', () => {
    const { machine } = wholeTeasel().system.chargers.find((c) => c.id === 'alternator')!;
    const beside = (ratedA: number) => plan(withCharger(wholeTeasel(), 'alternator', { machine: { ...machine!, ratedA } })).setting('fore', 'taperCurrent')!;
    // 7.65 + 9.65 − 2 A are twice the share.
    expect([beside(9.6).value, beside(9.7).off]).toEqual([7.5, true]);
  });

  it('a taper that somebody asked for stays, and so does that of a charger that no timer would end', () => {
    for (const absorbEnd of ['taper', 'whicheverFirst'] as const)
      expect(plan(withSchools(wholeTeasel(), { absorbEnd })).setting('fore', 'taperCurrent')?.off).toBeFalse();
    const job = wholeTeasel();
    for (const end of ['taper', 'both'] as const) {
      const cards = job.cards.map((c) => (c.id === 'varrow-s45' ? { ...c, absorb: { ...c.absorb, end } } : c));
      expect(plan({ ...job, cards }).setting('fore', 'taperCurrent')?.off).toBeFalse();
    }
    expect(plan(withFigure(job, 'absorbTime', null)).setting('fore', 'taperCurrent')?.off).toBeFalse();
  });

  it('charge current: the maker’s most sets the recommendation aside, a third adds its own', () => {
    expect(plan(withSchools(wholeTeasel(), { chargeCurrent: 'makerMost' })).ceiling.binding?.name).toBe('Main fuse');
    expect(plan(withSchools(wholeTeasel(), { chargeCurrent: 'third' })).ceiling.binding?.amps).toBeCloseTo(138, 9);
  });

  it('agree on full by raising absorb: to 28.2 + 0.2 and inside the most by the proving uncertainty', () => {
    const p = plan(withSchools(wholeTeasel(), { monitorFull: 'raiseAbsorb' }));
    expect(p.setting('aft', 'absorbVoltage')?.value).toBe(28.3);
  });

  it('the cutoff figure exactly, without the margin', () => {
    const p = plan(withSchools(wholeTeasel(), { cutoffFigure: 'exact' }));
    expect(['fore', 'aft'].map((c) => p.setting(c, 'lowTempCutoff')?.value)).toEqual([0, 0]);
  });

  it('capacity: rated, or rated × the factor, down to the step of 5 Ah', () => {
    expect(plan(skarrow()).setting('monitor', 'capacity')?.value).toBe(395);
    expect(plan(withSchools(skarrow(), { monitorCapacity: 'rated' })).setting('monitor', 'capacity')?.value).toBe(440);
  });
});

describe('settings that are kept while a value is dragged', () => {
  it('are the same as worked out from nothing, for random overrides on every demo job', () => {
    const random = seeded(19);
    for (const job of [wholeTeasel(), skarrow(), tumbler(), rookMoss()]) {
      const numbers = deriveSettings(job).settings.filter((s) => typeof s.trueValue === 'number' && !s.inherited);
      for (let i = 0; i < 12; i++) {
        const s = numbers[Math.floor(random() * numbers.length)]!;
        const overrides = [
          { charger: s.charger, role: s.role, value: (s.trueValue ?? 0) * (0.98 + random() * 0.04), reason: 'x', by: 'x', date: '2026-06-09' },
        ];
        const kept = deriveSettings({ ...job, overrides });
        const fresh = deriveSettings({ ...structuredClone(job), overrides });
        expect(kept.settings).toEqual(fresh.settings);
      }
    }
  });
});

describe('details that change a setting', () => {
  it('the feed’s measured rest moves the DC-DC’s input stop, the drop of its cable does not', () => {
    const p = plan(withCharger(wholeTeasel(), 'dcdc', { feed: { name: 'Start', volts: 12, restingV: 12.9, dropV: 0.3 } }));
    expect([p.setting('dcdc', 'inputStopVoltage')?.value, p.setting('dcdc', 'inputStartVoltage')?.value]).toEqual([12.9, 13.3]);
    expect(p.setting('dcdc', 'inputStopVoltage')?.derivation.some((s) => s.words.includes('drops 0.30\u00a0V at full current'))).toBeTrue();
  });

  it('a wired charge enable puts the DC-DC under the BMS’s command; earthing decides the ground-fault detector', () => {
    expect(plan(withBank(wholeTeasel(), { chargeEnable: 'wired' })).setting('dcdc', 'remoteControl')?.value).toBe('used');
    expect(plan(withSite(skarrow(), { grounding: 'bonded' })).setting('leader', 'groundFaultDetection')?.value).toBe('off');
    const { grounding: _g, ...site } = skarrow().system.site;
    expect(plan(withSystem(skarrow(), { site })).setting('leader', 'groundFaultDetection')?.noValue).toBe('left');
  });

  it('a card’s own rule moves a value that would break it, and says so', () => {
    const job = withCard(wholeTeasel(), 'tessick-m1', (c) => ({
      ...c,
      constraints: [{ parameter: 'loadReconnect', relation: 'atLeast', other: 'loadDisconnect', gap: 2 }],
    }));
    const reconnect = plan(withFigure(job, 'reconnectVoltage', { target: 25 })).setting('monitor', 'loadReconnect');
    expect(reconnect?.value).toBe(26.6);
    expect(reconnect?.derivation.some((s) => s.words.includes('holds load reconnect'))).toBeTrue();
  });

  it('without a disconnect figure one is derived and marked', () => {
    const s = plan(withFigure(wholeTeasel(), 'disconnectVoltage', null)).setting('monitor', 'loadDisconnect');
    expect(s?.value).toBe(24.4);
    expect(s?.derivation[0]?.source).toContain('not the maker’s figure');
  });

  it('high-temperature cutoff and resume, for a card that has them: 45 − 0.5 → 44, resume 44 − 2 = 42', () => {
    const job = withCard(teasel(), 'varrow-s45', (c) => ({
      ...c,
      parameters: [
        ...c.parameters,
        {
          role: 'highTempCutoff',
          label: 'Hot stop',
          menu: [],
          unit: '°C',
          min: 30,
          max: 60,
          step: 1,
          per12V: false,
          special: [],
          wraps: false,
          keys: [],
          access: 'basic',
        },
        {
          role: 'highTempResume',
          label: 'Hot go',
          menu: [],
          unit: '°C',
          min: 20,
          max: 60,
          step: 1,
          per12V: false,
          special: [],
          wraps: false,
          keys: [],
          access: 'basic',
        },
        {
          role: 'clock',
          label: 'Clock',
          menu: [],
          unit: 'choice',
          options: [
            { value: 'a', means: 'other' },
            { value: 'b', means: 'other' },
          ],
          keys: [],
          access: 'basic',
        },
        {
          role: 'absorbIntervalDays',
          label: 'Every',
          menu: [],
          unit: 'd',
          min: 1,
          max: 60,
          step: 1,
          per12V: false,
          special: [],
          wraps: false,
          keys: [],
          access: 'basic',
        },
      ],
    }));
    const p = plan(job);
    expect([p.setting('fore', 'highTempCutoff')?.value, p.setting('fore', 'highTempResume')?.value]).toEqual([44, 42]);
    expect([p.setting('fore', 'clock')?.noValue, p.setting('fore', 'absorbIntervalDays')?.noValue]).toEqual(['left', 'left']);
  });
});
