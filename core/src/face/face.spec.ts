import { deviceGrid, factoryOf, parameterFor, strokesOf, type Card, type DeviceValues, type Role, type Stroke } from '../card';
import { cardOfSurvey } from '../survey';
import { seeded } from '../testing/fixtures';
import { manuals, surveyedFrom } from '../testing/manuals';
import { shipped } from '../testing/shipped';
import { surveyEnglish } from '../words';
import {
  brokenRule,
  cutFacePower,
  enterOnPage,
  entryAt,
  faceRules,
  faceView,
  frontWay,
  holdsOf,
  isUnsaved,
  makeMove,
  menuOf,
  movesTo,
  movesToSet,
  newFace,
  passFaceTime,
  placeOf,
  pressKey,
  reachLevel,
  runsWhenHeld,
  savePage,
  turnSwitch,
  unsavedRoles,
  type FaceRules,
  type FaceState,
} from './index';

const { cards } = shipped;
const card = (id: string): Card => cards.find((c) => c.id === id)!;

const factoryOn = (of: Card, systemVolts: number): DeviceValues =>
  Object.fromEntries(of.parameters.flatMap((p) => (factoryOf(p, systemVolts) === undefined ? [] : [[p.role, factoryOf(p, systemVolts)!]])));
function front(of: Card, systemVolts = of.ratings.systemVolts[0]!, change: DeviceValues = {}): { rules: FaceRules; state: FaceState } {
  const factory = factoryOn(of, systemVolts);
  const values = { ...factory, ...change };
  return { rules: faceRules({ card: of, factory, systemVolts }), state: newFace({ inUse: values, stored: values }) };
}
/** What somebody does who follows the way printed on a card: a knob is turned until the name shows. */
function follow(rules: FaceRules, from: FaceState, keys: readonly string[]): FaceState {
  let state = from;
  let turning: string | null = null;
  for (const text of keys) {
    if (text.startsWith('[')) {
      const name = text.slice(1, -1);
      for (let i = 0; turning !== null && i < 40 && faceView(rules, state).trail.at(-1) !== name; i++)
        state = pressKey(rules, state, { key: turning, act: 'right' });
      expect(faceView(rules, state).trail)
        .withContext(`${rules.card.id}: ${keys.join(' ')}`)
        .toContain(name);
      turning = null;
      continue;
    }
    const read = strokesOf(text);
    for (const stroke of read.strokes) state = pressKey(rules, state, stroke);
    turning = read.turnsTo;
  }
  return state;
}
/** Reveals everything: the level of access, and the words of a choice that hide something. */
function revealed(of: Card, role: Role): DeviceValues {
  const quoted = /“([^”]+)”/.exec(parameterFor(of, role)?.shownWhen ?? '')?.[1];
  const by = of.parameters.find((p) => p.unit === 'choice' && p.options.some((o) => o.value === quoted));
  return by && quoted !== undefined ? { [by.role]: quoted } : {};
}
const run = (rules: FaceRules, state: FaceState, ...strokes: readonly (string | Stroke)[]): FaceState =>
  strokes.reduce<FaceState>(
    (s, stroke) => (typeof stroke === 'string' ? strokesOf(stroke).strokes : [stroke]).reduce((t, one) => pressKey(rules, t, one), s),
    state,
  );

describe('the fronts of the shipped cards', () => {
  it('have no two things under the same strokes', () => {
    for (const c of cards) expect(menuOf(c).clashes).withContext(c.id).toEqual([]);
  });

  it('come to every setting by the way printed for it, and to no other', () => {
    for (const c of cards)
      for (const p of c.parameters) {
        const { rules, state } = front(c, undefined, revealed(c, p.role));
        const there = follow(rules, reachLevel(state, 'installer'), p.keys);
        const view = faceView(rules, there);
        expect(view.role).withContext(`${c.id} ${p.role}`).toBe(p.role);
        expect(view.value).withContext(`${c.id} ${p.role}`).not.toBeNull();
        expect(view.editing)
          .withContext(`${c.id} ${p.role}`)
          .toBe(entryAt(rules.menu, there.at)!.opens !== null);
        expect(placeOf(rules.menu, p.role)).toEqual(there.at);
      }
  });

  it('keep a value changed in the way of the card through a power cut', () => {
    for (const c of cards)
      for (const p of c.parameters) {
        if (p.unit === 'choice') continue;
        const { rules, state } = front(c, undefined, revealed(c, p.role));
        let s = follow(rules, reachLevel(state, 'installer'), p.keys);
        const before = s.memory.inUse[p.role];
        if (typeof before !== 'number') continue;
        const raises = before < deviceGrid(p, rules.systemVolts).at(-1)!;
        s = run(rules, s, (raises ? c.entry?.raise : c.entry?.lower) ?? 'Up');
        if (s.edit) s = run(rules, s, c.entry?.keep ?? p.keys.at(-1)!);
        if (s.note?.code === 'refused') continue;
        if (c.commit.stroke !== undefined) s = run(rules, s, c.commit.stroke);
        if (c.commit.kind === 'endOfList') s = run(rules, s, 'Step: 20 times');
        expect(s.memory.inUse[p.role]).withContext(`${c.id} ${p.role}`).not.toBe(before);
        expect(isUnsaved(s.memory)).withContext(`${c.id} ${p.role}`).toBeFalse();
        expect(cutFacePower(rules, s).memory.inUse[p.role]).withContext(`${c.id} ${p.role}`).toBe(s.memory.inUse[p.role]);
      }
  });

  it('hold only values in range that break no rule, whatever is pressed', () => {
    const random = seeded(11);
    for (const c of cards) {
      const start = front(c, c.ratings.systemVolts.at(-1));
      const { rules } = start;
      // Factory values may break a rule of their own; then only new breaks count.
      const broken = (v: DeviceValues) => c.constraints.filter((r) => brokenRule(c, v, r.parameter) !== undefined).length;
      const first = broken(start.state.memory.inUse);
      let s = reachLevel(start.state, 'installer');
      const places = new Set<string>();
      for (let i = 0; i < 2000; i++) {
        const key = rules.menu.keys[Math.floor(random() * rules.menu.keys.length)]!;
        const act = (['press', 'press', 'press', 'hold', ...(rules.menu.turns.includes(key) ? (['right', 'right', 'left'] as const) : [])] as const)[
          Math.floor(random() * (rules.menu.turns.includes(key) ? 7 : 4))
        ]!;
        const held = s.memory;
        s = pressKey(rules, s, act === 'hold' ? { key, act, seconds: 2 + Math.floor(random() * 4) } : { key, act });
        if (random() < 0.02) s = passFaceTime(rules, s, 30);
        if (s.at.length > 0) expect(entryAt(rules.menu, s.at)).not.toBeNull();
        places.add(s.at.join('.'));
        if (s.memory === held) continue;
        for (const [role, value] of Object.entries(s.memory.inUse)) {
          const p = parameterFor(c, role as Role)!;
          if (p.unit !== 'choice' && typeof value === 'number')
            expect(deviceGrid(p, rules.systemVolts).includes(value) || p.special.some((x) => x.value === value) || value === rules.factory[role as Role])
              .withContext(`${c.id} ${role} ${value}`)
              .toBeTrue();
        }
        expect(broken(s.memory.inUse)).toBeLessThanOrEqual(first);
      }
      expect(places.size).withContext(c.id).toBeGreaterThan(3);
    }
  });
});

describe('a front that saves by a long press and throws away what is left alone', () => {
  const s45 = card('varrow-s45');
  const opened = () => {
    const { rules, state } = front(s45, 24, { absorbVoltage: 28.1 });
    return { rules, state: follow(rules, state, parameterFor(s45, 'absorbVoltage')!.keys) };
  };

  it('shows the names passed, the value, and how long is left', () => {
    const { rules, state } = opened();
    expect(faceView(rules, state)).toEqual(jasmine.objectContaining({ trail: ['Levels', 'Top level'], value: '28.1\u00a0V', editing: true, left: 60 }));
    expect(faceView(rules, passFaceTime(rules, state, 19)).left).toBe(41);
  });

  it('stores what is held for three seconds, and only lays down what is pressed', () => {
    const { rules, state } = opened();
    const raised = run(rules, state, 'Up: 2 times');
    expect(raised.memory.inUse.absorbVoltage).withContext('not before it is kept').toBe(28.1);
    const pressed = run(rules, raised, 'Enter');
    expect([pressed.memory.inUse.absorbVoltage, pressed.memory.stored.absorbVoltage, pressed.note?.code]).toEqual([28.3, 28.1, 'inUse']);
    expect(faceView(rules, pressed).unstored).toBeTrue();
    expect(cutFacePower(rules, pressed).memory.inUse.absorbVoltage).toBe(28.1);
    const almost = run(rules, raised, { key: 'Enter', act: 'hold', seconds: 2.9 });
    expect(almost.memory.stored.absorbVoltage).toBe(28.1);
    const held = run(rules, raised, { key: 'Enter', act: 'hold', seconds: 3 });
    expect([held.memory.stored.absorbVoltage, held.note?.code]).toEqual([28.3, 'stored']);
    expect(cutFacePower(rules, held).memory.inUse.absorbVoltage).toBe(28.3);
  });

  it('stores one value at a time: what was laid down before stays unstored', () => {
    const { rules, state } = opened();
    const first = run(rules, state, 'Up', 'Enter');
    const second = run(rules, first, 'Down: 3 times', 'Enter', 'Down', 'Enter: hold 3 s');
    expect(unsavedRoles(second.memory)).toEqual(['absorbVoltage']);
    expect(second.memory.stored.floatVoltage).toBe(27.5);
  });

  it('throws an edit away after a minute, not before', () => {
    const { rules, state } = opened();
    const raised = run(rules, state, 'Up');
    expect(passFaceTime(rules, raised, 59.9).edit?.value).toBe(28.2);
    const gone = passFaceTime(rules, raised, 60);
    expect([gone.edit, gone.at.length, gone.note?.code, gone.memory.inUse.absorbVoltage]).toEqual([null, 0, 'thrownAway', 28.1]);
    const kept = passFaceTime(rules, run(rules, passFaceTime(rules, raised, 50), 'Up'), 50);
    expect(kept.edit?.value).withContext('a key begins the minute anew').toBe(28.3);
  });

  it('locks what is expert’s, and hides what another battery type hides', () => {
    const way = parameterFor(s45, 'taperCurrent')!.keys;
    const own = front(s45, 24, { batteryType: 'own figures' });
    expect(follow(own.rules, own.state, way).note).toEqual({ code: 'locked', access: 'expert' });
    expect(follow(own.rules, reachLevel(own.state, 'expert'), way).edit?.role).toBe('taperCurrent');
    const vented = front(s45, 24, { batteryType: 'vented' });
    expect(follow(vented.rules, reachLevel(vented.state, 'expert'), way).note).toEqual({ code: 'hidden', when: 'with battery “own figures”' });
    expect(faceView(vented.rules, follow(vented.rules, vented.state, way)).value).toBeNull();
  });

  it('lets a type overwrite the levels, as its preset says for this system', () => {
    const { rules, state } = front(s45, 24, { batteryType: 'own figures', absorbVoltage: 28.1 });
    const at = follow(rules, state, parameterFor(s45, 'batteryType')!.keys);
    const chosen = run(rules, at, 'Down: 2 times', 'Enter: hold 3 s');
    expect([chosen.memory.stored.batteryType, chosen.memory.stored.absorbVoltage]).toEqual(['vented', 28.8]);
  });

  it('refuses what breaks a rule and says which', () => {
    const b = front(s45, 24, { batteryType: 'own figures', equaliseVoltage: 28.8, absorbVoltage: 28.8 });
    const edit = follow(b.rules, b.state, parameterFor(s45, 'absorbVoltage')!.keys);
    const over = run(b.rules, edit, 'Up', 'Enter: hold 3 s');
    expect(over.note).toEqual(jasmine.objectContaining({ code: 'refused', role: 'absorbVoltage' }));
    expect([over.edit?.value, over.memory.inUse.absorbVoltage]).toEqual([28.9, 28.8]);
  });
});

describe('fronts of other kinds', () => {
  it('a list is kept only after its last entry', () => {
    const p15 = card('varrow-p15');
    const { rules, state } = front(p15);
    const changed = run(rules, state, 'Step', 'Down: 2 times');
    expect([faceView(rules, changed).trail, changed.note?.code]).toEqual([['U1'], 'inUse']);
    const first = factoryOn(p15, 12).absorbVoltage as number;
    expect(cutFacePower(rules, run(rules, changed, 'Step: 11 times')).memory.inUse.absorbVoltage).toBe(first);
    const out = run(rules, changed, 'Step: 13 times');
    expect([out.at.length, out.note?.code]).toEqual([0, 'stored']);
    expect(cutFacePower(rules, out).memory.inUse.absorbVoltage).toBeCloseTo(first - 0.2, 9);
  });

  it('pages last until a restart unless they are written', () => {
    const w12 = card('ostrel-w12');
    const { rules, state } = front(w12, 24);
    const there = run(rules, state, 'Page: 3 times', 'Next');
    expect(faceView(rules, there).trail).toEqual(['Brake', 'Vin max']);
    const raised = run(rules, there, 'Plus');
    const before = there.memory.stored.inputLimitVoltage as number;
    expect(cutFacePower(rules, raised).memory.inUse.inputLimitVoltage).toBe(before);
    expect(cutFacePower(rules, run(rules, raised, 'Store')).memory.inUse.inputLimitVoltage).toBe(before + 5);
    expect(run(rules, there, 'Esc').at).toEqual([]);
    expect(run(rules, state, 'Esc').note).toEqual({ code: 'second', key: 'Esc' });
  });

  it('a knob is turned and tapped; a value wraps past its least', () => {
    const ar = card('murrel-ar-2');
    const { rules, state } = front(ar, 24, { absorbTime: 10 });
    const there = follow(rules, state, parameterFor(ar, 'absorbTime')!.keys);
    const wrapped = run(rules, there, { key: 'Knob', act: 'left' }, 'Knob: tap');
    expect([wrapped.memory.stored.absorbTime, wrapped.note?.code]).toEqual([720, 'stored']);
    const thrown = run(rules, there, { key: 'Knob', act: 'left' }, 'Back');
    expect([thrown.memory.inUse.absorbTime, thrown.note?.code]).toEqual([10, 'thrownAway']);
  });

  it('a key held too long restores the factory’s values', () => {
    const h80 = card('hadrin-h80');
    const { rules, state } = front(h80, 24, { absorbVoltage: 12.3 });
    expect(run(rules, state, { key: 'Menu', act: 'hold', seconds: 9 }).memory.inUse.absorbVoltage).toBe(12.3);
    const restored = run(rules, state, { key: 'Menu', act: 'hold', seconds: 10 });
    expect([restored.memory.stored.absorbVoltage, restored.note?.code]).toEqual([factoryOn(h80, 24).absorbVoltage, 'factory']);
    expect(holdsOf(rules, 'Menu')).toEqual([10]);
  });

  it('lends a way back where a card names none, and steps home from it', () => {
    const d30 = card('tessick-d30');
    const { rules, state } = front(d30, 24);
    const inside = run(rules, state, 'Set: hold 2 s', 'Set');
    expect(faceView(rules, inside).trail).toEqual(['Output', 'Kind']);
    const last = run(rules, inside, 'Plus: 6 times');
    expect(faceView(rules, last).back).toBeTrue();
    expect(faceView(rules, run(rules, last, 'Set')).trail).toEqual(['Output']);
    expect(run(rules, last, 'Set', 'Plus: 2 times', 'Set').at).toEqual([]);
  });

  it('lets only a value run while its key is held', () => {
    const { rules, state } = front(card('varrow-s45'), 24);
    const list = run(rules, state, 'Enter');
    expect(runsWhenHeld(rules, list, { key: 'Down', act: 'press' })).toBeFalse();
    const open = follow(rules, state, parameterFor(rules.card, 'absorbVoltage')!.keys);
    expect(runsWhenHeld(rules, open, { key: 'Down', act: 'press' })).toBeTrue();
    expect(runsWhenHeld(rules, open, { key: 'Enter', act: 'press' })).toBeFalse();
  });
});

describe('a front of somebody’s own card', () => {
  const plain = (change: Partial<Card>, keys: readonly (readonly string[])[]): Card => ({
    ...card('varrow-s45'),
    ...change,
    parameters: card('varrow-s45')
      .parameters.slice(3, 3 + keys.length)
      .map((p, i) => ({ ...p, keys: [...keys[i]!] })),
  });

  it('without any printed way has its menus in the order of the card, worked with keys that are lent', () => {
    const { entry: _e, ...bare } = plain({ keys: [] }, [[], [], []]);
    const { rules, state } = front(bare, 24);
    expect([rules.menu.lent, rules.menu.keys]).toEqual([true, ['Up', 'Down', 'Enter', 'Back']]);
    const there = run(rules, state, 'Enter: 3 times', 'Down');
    expect(faceView(rules, there).trail).toEqual(['Set-up', 'Levels', 'Top time']);
    expect(run(rules, there, 'Back').at.length).toBe(2);
  });

  it('says which two settings the card reaches by the same strokes, and shows both', () => {
    const c = plain({}, [
      ['Enter', '[Top level]', 'Enter'],
      ['Enter', '[Top time]', 'Enter'],
      ['Enter', 'Down: 3 times', '[Top ends at]', 'Enter'],
    ]);
    const menu = menuOf(c);
    expect(menu.clashes).toEqual([{ first: 'Top level', second: 'Top time' }]);
    expect(menu.root.entries.map((e) => (e.unnamed ? '·' : e.name))).toEqual(['Top level', 'Top time', '·', 'Top ends at']);
  });
});

describe('fronts that have no keys', () => {
  const s45 = card('varrow-s45');

  it('are told by the way a card is set', () => {
    const way = (setBy: Card['setBy']) => frontWay({ ...s45, setBy });
    expect((['app', 'wire', 'switch', 'nothing', 'menus', 'list', 'contact', 'numbers', undefined] as const).map(way)).toEqual([
      'page',
      'page',
      'switch',
      'fixed',
      'keys',
      'keys',
      'keys',
      'keys',
      'keys',
    ]);
  });

  it('a page takes a value at once, saves when it is saved, and refuses what the device refuses', () => {
    const { rules, state } = front({ ...s45, setBy: 'app' }, 24, { batteryType: 'own figures', absorbVoltage: 28, equaliseVoltage: 28.8 });
    const entered = enterOnPage(rules, state, 'absorbVoltage', 28.34);
    expect([entered.memory.inUse.absorbVoltage, entered.memory.stored.absorbVoltage, entered.note?.code])
      .withContext('to the step, and not saved')
      .toEqual([28.3, 28, 'inUse']);
    expect(savePage(entered).memory.stored.absorbVoltage).toBe(28.3);
    expect(cutFacePower(rules, entered).memory.inUse.absorbVoltage).toBe(28);
    expect(enterOnPage(rules, state, 'absorbVoltage', 40).memory).toBe(state.memory);
    expect(enterOnPage(rules, state, 'absorbVoltage', 29).note?.code)
      .withContext('above equalise')
      .toBe('refused');
    expect(enterOnPage(rules, state, 'taperCurrent', 5).note).toEqual({ code: 'locked', access: 'expert' });
    const auto = front({ ...s45, setBy: 'app', commit: { ...s45.commit, kind: 'auto' } }, 24, { absorbVoltage: 28 });
    expect(enterOnPage(auto.rules, auto.state, 'absorbVoltage', 28.2).memory.stored.absorbVoltage).toBe(28.2);
  });

  it('a switch sets its whole table for this system, and there is no other position', () => {
    const { rules, state } = front({ ...s45, setBy: 'switch' }, 24);
    const [first] = s45.presets;
    const turned = turnSwitch(rules, state, first!.name);
    expect(turned.memory.stored.absorbVoltage).toBe(2 * (first!.sets.absorbVoltage as number));
    expect(turned.memory.inUse).toEqual(turned.memory.stored);
    expect(turnSwitch(rules, state, 'nowhere').memory).toBe(state.memory);
  });
});

describe('one contact and a list that scrolls', () => {
  const found = cardOfSurvey(surveyedFrom(manuals['hoyle']!), surveyEnglish);
  // As if a touch saved: its manual says that a hold does.
  const hoyle: Card = { ...found, commit: { ...found.commit, kind: 'keyPress' } };
  const held: Stroke = { key: 'Contact', act: 'hold', seconds: 1 };
  const touch: Stroke = { key: 'Contact', act: 'press' };
  const begun = { batteryType: 'USE', absorbVoltage: 14.4, floatVoltage: 13.7, loadDisconnect: 10.7, loadReconnect: 12.6 };
  const { rules, state } = front(hoyle, 12, begun);
  const after = (from: FaceState, ...strokes: readonly Stroke[]): FaceState => strokes.reduce((s, stroke) => pressKey(rules, s, stroke), from);
  const times = (n: number): readonly Stroke[] => Array.from({ length: n }, () => held);

  it('held, it runs through the list and over its end home; a touch on the way opens, and moves nothing', () => {
    expect(frontWay(hoyle)).toBe('contact');
    expect([rules.menu.keys, rules.menu.lent]).toEqual([['Contact'], false]);
    const names = [1, 2, 3, 4, 5].map((n) => faceView(rules, after(state, ...times(n))).trail.join());
    expect(names).toEqual(['bAt', 'bSt', 'FLo', 'LvD', 'LvR']);
    expect(after(state, ...times(6)).at).toEqual([]);
    expect(after(state, touch).at).toEqual([]);
    const opened = after(state, ...times(2), touch);
    expect(faceView(rules, opened)).toEqual(jasmine.objectContaining({ trail: ['bSt'], editing: true, value: '14.4\u00a0V' }));
  });

  it('raises what is open while it is held, begins again below over the top, and keeps by a touch', () => {
    const opened = after(state, ...times(2), touch);
    expect(after(opened, ...times(6)).edit?.value).toBe(15);
    expect(after(opened, ...times(7)).edit?.value).toBe(13);
    const kept = after(opened, ...times(7), touch);
    expect([kept.edit, kept.memory.inUse.absorbVoltage]).toEqual([null, 13]);
    const type = after(state, held, touch);
    expect(after(type, held).edit?.value).withContext('USE is the last').toBe('GEL');
    expect(after(type, held, held).edit?.value).toBe('Sld');
  });

  it('begins again below though nobody has seen it do so: there is no other way down', () => {
    const plainEnd: Card = { ...hoyle, parameters: hoyle.parameters.map((p) => (p.unit === 'choice' ? p : { ...p, wraps: false })) };
    const { rules: by, state: at } = front(plainEnd, 12, { ...begun, absorbVoltage: 15 });
    const raised = [...times(2), touch, held].reduce((s, stroke) => pressKey(by, s, stroke), at);
    expect(raised.edit?.value).toBe(13);
  });

  it('throws an edit away that is left alone for its 8 s, not before', () => {
    const opened = after(state, ...times(3), touch, held);
    expect(passFaceTime(rules, opened, 7.9).edit).not.toBeNull();
    const left = passFaceTime(rules, opened, 8);
    expect([left.edit, left.at, left.memory.inUse.floatVoltage]).toEqual([null, [], 13.7]);
  });

  it('where its card keeps by a hold, a touch moves on and the hold opens and keeps', () => {
    const byHold: Card = { ...hoyle, entry: { raise: 'Pin', lower: 'Pin', keep: 'Pin: hold 2 s' } };
    const { rules: by, state: at } = front(byHold, 12, begun);
    const pin = (act: 'press' | 'hold'): Stroke => (act === 'hold' ? { key: 'Pin', act, seconds: 2 } : { key: 'Pin', act });
    const done = [pin('press'), pin('press'), pin('hold'), pin('press'), pin('hold')].reduce((s, stroke) => pressKey(by, s, stroke), at);
    expect([done.memory.inUse.absorbVoltage, done.edit]).toEqual([14.5, null]);
    expect(holdsOf(by, 'Pin')).toEqual([2]);
    expect(holdsOf(rules, 'Contact')).toEqual([1]);
    expect(runsWhenHeld(by, at, pin('press'))).toBeFalse();
  });

  it('saves by a hold where its card says so; how long is lent where nobody said it', () => {
    const { rules: by, state: at } = front(found, 12, begun);
    expect([by.menu.lentHold, holdsOf(by, 'Contact')]).toEqual([3, [3]]);
    const long: Stroke = { key: 'Contact', act: 'hold', seconds: 3 };
    const edited = [touch, touch, long, touch].reduce((s, stroke) => pressKey(by, s, stroke), at);
    expect([edited.edit?.value, edited.memory.inUse.absorbVoltage]).toEqual([14.5, 14.4]);
    expect(pressKey(by, edited, long).memory.stored.absorbVoltage).toBe(14.5);
    expect(menuOf({ ...found, commit: { ...found.commit, stroke: 'Contact: hold 5 s' } }).lentHold).toBeNull();
    // The same with more keys than one.
    const keyed: Card = { ...found, setBy: 'list', entry: { raise: 'Up', lower: 'Down', keep: 'Set' } };
    const list = front(keyed, 12, begun);
    expect([list.rules.menu.worked.save, list.rules.menu.lentHold]).toEqual([{ key: 'Set', act: 'hold', seconds: 3 }, 3]);
  });

  it('is lent a contact where nobody named one, and printed ways go before', () => {
    const { entry, ...unnamed } = hoyle;
    expect(entry?.raise).toBe('Contact');
    const menu = menuOf({ ...unnamed, keys: [] });
    expect([menu.keys, menu.lent]).toEqual([['Contact'], true]);
    expect(frontWay({ ...hoyle, parameters: hoyle.parameters.map((p) => ({ ...p, keys: ['Contact', `[${p.label}]`] })) })).toBe('keys');
  });
});

describe('numbered settings', () => {
  const fennick = cardOfSurvey(surveyedFrom(manuals['fennick']!), surveyEnglish);
  const begun = { batteryType: '9', absorbVoltage: 14.4, absorbTime: 2, floatVoltage: 13.6, rechargeVoltage: 12.6, compensationSlope: -24 };
  const { rules, state } = front(fennick, 24, begun);
  const press = (key: string): Stroke => ({ key, act: 'press' });
  const after = (...keys: readonly string[]): FaceState => keys.reduce((s, k) => pressKey(rules, s, press(k)), state);

  it('the raising key goes up through the numbers, the lowering one down and home; setting opens, changes and keeps one', () => {
    expect([frontWay(fennick), rules.menu.keys]).toEqual(['numbers', ['−', '+', 'Set']]);
    expect(faceView(rules, after('+', '+')).trail).toEqual(['P02 absorption']);
    expect(after('+', '+', '+', '+', '+', '+', '+').note?.code).toBe('end');
    expect(after('+', '−').at).toEqual([]);
    expect(after('+', '+', '+', '−').at).toEqual([1]);
    const changed = after('+', '+', 'Set', '−', '−');
    expect([changed.edit?.value, changed.memory.inUse.absorbVoltage]).toEqual([14.3, 14.4]);
    const kept = after('+', '+', 'Set', '−', '−', 'Set');
    expect([kept.memory.inUse.absorbVoltage, kept.edit, kept.at]).toEqual([14.3, null, [1]]);
  });

  it('stops at its ends: it has a key down', () => {
    expect(after('+', 'Set', '+').edit?.value)
      .withContext('9 is the last')
      .toBe('9');
    expect(after('+', 'Set', '−').edit?.value).toBe('2');
  });

  it('is lent its keys where nobody named them', () => {
    const { entry, ...unnamed } = fennick;
    expect(entry?.keep).toBe('Set');
    const menu = menuOf({ ...unnamed, keys: [] });
    expect([menu.keys, menu.lent]).toEqual([['−', '+', 'Set'], true]);
  });
});

describe('the way to a value', () => {
  it('comes to every setting of a contact and of numbers, from home, from elsewhere, and out of an open value', () => {
    for (const [name, volts, values] of [
      ['hoyle', 12, { batteryType: 'USE', absorbVoltage: 14.4, floatVoltage: 13.7, loadDisconnect: 10.7, loadReconnect: 12.6 }],
      ['fennick', 24, { batteryType: '9', absorbVoltage: 14.4, absorbTime: 2, floatVoltage: 13.6, rechargeVoltage: 12.6, compensationSlope: -24 }],
    ] as const) {
      const of = cardOfSurvey(surveyedFrom(manuals[name]!), surveyEnglish);
      for (const timed of [true, false]) {
        const { timeoutSeconds, ...commit } = of.commit;
        const { rules, state } = front({ ...of, commit: timed && timeoutSeconds !== undefined ? { ...commit, timeoutSeconds } : commit }, volts, values);
        let from = state;
        for (const p of rules.card.parameters) {
          const named = `${name} ${p.role} ${timed}`;
          const there = movesTo(rules, from, p.role);
          const seen = (there ?? []).reduce((s, move) => makeMove(rules, s, move), from);
          expect(faceView(rules, seen).role).withContext(named).toBe(p.role);
          const now = from.memory.inUse[p.role]!;
          const wanted = p.unit === 'choice' ? p.options[0]!.value : deviceGrid(p, volts).find((v) => v !== now)!;
          const moves = movesToSet(rules, from, p.role, wanted);
          expect(moves).withContext(named).not.toBeNull();
          from = moves!.reduce((s, move) => makeMove(rules, s, move), from);
          expect(from.memory.stored[p.role]).withContext(named).toBe(wanted);
          // Somebody leaves the next one open.
          const opens = entryAt(rules.menu, from.at)?.opens;
          if (opens) from = pressKey(rules, from, opens);
        }
      }
      const { rules, state } = front(of, volts, values);
      expect(movesToSet(rules, state, 'absorbVoltage', 14.413))
        .withContext('between two steps')
        .toBeNull();
    }
  });
});
