import { cardOfSurvey, type Survey } from '../survey';
import { manuals, surveyedFrom } from '../testing/manuals';
import { rounds } from '../testing/rounds';
import { seeded } from '../testing/fixtures';
import { surveyEnglish as texts } from '../words';
import {
  allUnknowns,
  cardSchema,
  differenceKey,
  isUnknown,
  mergeCards,
  parameterFor,
  quickCard,
  sameDevice,
  unknownGroups,
  unknownsOf,
  type Card,
  type NumberParameter,
} from './index';

const manual = manuals['fennick']!;
const whole = (): Survey => surveyedFrom(manual);
const card = (change: (survey: Survey) => Survey): Card => cardOfSurvey(change(whole()), texts);
const absorb = (c: Card): NumberParameter => parameterFor(c, 'absorbVoltage') as NumberParameter;
const only =
  (labels: readonly string[], habits: readonly string[]) =>
  (survey: Survey): Survey => ({
    ...survey,
    items: survey.items.filter((i) => labels.some((l) => i.label.startsWith(l))),
    habits: Object.fromEntries(Object.entries(survey.habits).filter(([h]) => habits.includes(h))),
    walked: false,
  });

describe('two people’s cards of one device', () => {
  it('say of each setting who looked up what counts now', () => {
    const by = (c: Card, who: string): Card => ({
      ...c,
      parameters: c.parameters.map((p) => ({ ...p, said: { by: who, on: '2026-06-09', from: 'device' as const } })),
    });
    const full = by(
      card((x) => x),
      'KM',
    );
    const blank = by(
      card((x) => ({ ...x, items: x.items.map((item) => (item.role === 'absorbVoltage' ? { ...item, least: undefined } : item)) })),
      'LO',
    );
    const other = by(
      { ...full, parameters: full.parameters.map((p) => (p.role === 'absorbVoltage' && p.unit !== 'choice' ? { ...p, max: p.max + 1 } : p)) },
      'LO',
    );
    expect(absorb(mergeCards(full, full).card).said?.by).toBe('KM');
    // What the other alone knows is theirs; what I know stays mine unless theirs is taken.
    expect(absorb(mergeCards(blank, full).card).said?.by).toBe('KM');
    expect(absorb(mergeCards(full, blank).card).said?.by).toBe('KM');
    expect(absorb(mergeCards(full, other).card).said?.by).toBe('KM');
    expect(absorb(mergeCards(full, other, new Set(['absorbVoltage most'])).card).said?.by).toBe('LO');
  });

  it('have the ways back and the lines of both, mine where both say one', () => {
    const bare = card((x) => x);
    const mine: Card = { ...bare, procedures: { factoryReset: { steps: ['mine'] } }, lines: [{ before: 'wake', says: 'a' }] };
    const theirs: Card = {
      ...bare,
      procedures: { factoryReset: { steps: ['theirs'] }, forgottenPasscode: { steps: ['call'], resets: true } },
      lines: [
        { before: 'wake', says: 'a' },
        { before: 'end', says: 'b' },
      ],
    };
    const { card: made } = mergeCards(mine, theirs);
    expect(made.procedures).toEqual({ factoryReset: { steps: ['mine'] }, forgottenPasscode: { steps: ['call'], resets: true } });
    expect(made.lines?.map((l) => l.says)).toEqual(['a', 'b']);
    expect('procedures' in mergeCards(bare, bare).card).toBeFalse();
  });

  it('come to what both together have seen, whichever comes first', () => {
    const [a, b] = [
      card(only(['P01', 'P02', 'P03'], ['save', 'timeout', 'absorbStart'])),
      card(only(['P04', 'P05', 'P06', 'P07'], ['absorbEnd', 'absorbCurrent', 'rechargeDaily', 'passcode'])),
    ];
    for (const [mine, theirs] of [
      [a, b],
      [b, a],
    ] as const) {
      const { card: made, asked } = mergeCards(mine, theirs);
      expect(asked).toEqual([]);
      const full = card((s) => ({ ...s, walked: false }));
      for (const p of full.parameters) expect([p.role, (parameterFor(made, p.role) as NumberParameter).min]).toEqual([p.role, (p as NumberParameter).min]);
      expect([...unknownsOf(made)].sort()).toEqual([...unknownsOf(full)].sort());
      expect(made.absorb).toEqual(full.absorb);
    }
  });

  it('tells what was learnt', () => {
    const { learnt } = mergeCards(
      quickCard({ ...manual.plate, id: 'mine' }),
      card((s) => s),
    );
    expect(learnt.settings).toContain('absorbVoltage');
    const lume = { ...manuals['lume']!.plate, id: 'mine' };
    const named = mergeCards(quickCard(lume), cardOfSurvey(surveyedFrom(manuals['lume']!), texts)).card;
    expect([absorb(named).label, absorb(named).max]).toEqual(['Absorption voltage', 68]);
    expect(learnt.habits).toEqual(jasmine.arrayContaining(['saveWay', 'absorbStart', 'settings']));
    expect(
      mergeCards(
        card((s) => s),
        quickCard({ ...manual.plate, id: 'mine' }),
      ).learnt,
    ).toEqual({ settings: [], habits: [] });
  });

  it('ask where both know and differ: mine counts until theirs is taken', () => {
    const mine = card((s) => s);
    const theirs = card((s) => ({
      ...s,
      items: s.items.map((i) => (i.label.startsWith('P02') ? { ...i, most: 15.5 } : i)),
      habits: { ...s.habits, rechargeDaily: 'no' },
    }));
    const merged = mergeCards(mine, theirs);
    expect(merged.asked.map(differenceKey)).toEqual(['absorbVoltage most', 'rechargeDaily']);
    expect(merged.asked[0]).toEqual(jasmine.objectContaining({ mine: 16, theirs: 15.5 }));
    expect([absorb(merged.card).max, merged.card.recharge.restartsDaily]).toEqual([16, true]);
    const taken = mergeCards(mine, theirs, new Set(['absorbVoltage most', 'rechargeDaily'])).card;
    expect([absorb(taken).max, taken.recharge.restartsDaily]).toEqual([15.5, false]);
  });

  it('that both walked to the end of the list keep a setting that one met; one only supposed goes', () => {
    const quick = quickCard({ ...manual.plate, id: 'mine' });
    const walked = card((s) => s);
    expect(parameterFor(quick, 'equaliseVoltage')).toBeDefined();
    expect(parameterFor(mergeCards(quick, walked).card, 'equaliseVoltage')).toBeUndefined();
    const one = card((s) => ({ ...s, items: s.items.filter((i) => !i.label.startsWith('P05')) }));
    expect(parameterFor(mergeCards(one, walked).card, 'rechargeVoltage')).toBeDefined();
  });

  it('in another unit is one question for the whole setting, or none where nothing of mine was seen', () => {
    const theirs = card((s) => ({
      ...s,
      items: s.items.map((i) => (i.label.startsWith('P02') ? { ...i, unit: 'V' as const, shown: '57.6', least: 48, most: 64 } : i)),
    }));
    const merged = mergeCards(
      card((s) => s),
      theirs,
    );
    expect(merged.asked.map((d) => [d.kind, differenceKey(d)])).toEqual([['setting', 'absorbVoltage']]);
    expect(
      absorb(
        mergeCards(
          card((s) => s),
          theirs,
          new Set(['absorbVoltage']),
        ).card,
      ).unit,
    ).toBe('V');
    const blank = card((s) => ({
      ...s,
      items: s.items.map((i) => (i.label.startsWith('P02') ? { ...i, least: undefined, most: undefined, step: undefined } : i)),
    }));
    expect(mergeCards(blank, theirs).asked).toEqual([]);
    expect(absorb(mergeCards(blank, theirs).card).unit).toBe('V');
  });

  it('has a place for every habit that may be unknown', () => {
    const blank: Card = { ...card((s) => s), notKnown: allUnknowns.filter((u) => u in unknownGroups) };
    const known: Card = { ...card((s) => s), notKnown: [] };
    expect(mergeCards(blank, known).card.notKnown).toBeUndefined();
    for (const what of allUnknowns)
      expect(isUnknown(mergeCards({ ...known, notKnown: [what] }, known).card, what))
        .withContext(what)
        .toBeFalse();
  });

  it('are always a card, at random: three hundred pairs of halves', () => {
    const next = seeded(3);
    const names = Object.keys(manuals);
    for (let i = 0; i < rounds(300); i++) {
      const some = manuals[names[Math.floor(next() * names.length)]!]!;
      const half = (): Card => {
        const survey = surveyedFrom(some);
        const bent = survey.items
          .filter(() => next() < 0.6)
          .map((item) => (next() < 0.3 && item.most !== undefined ? { ...item, most: item.most * (0.5 + next()) } : item));
        return cardOfSurvey(
          { ...survey, items: bent, walked: next() < 0.5, habits: Object.fromEntries(Object.entries(survey.habits).filter(() => next() < 0.5)) },
          texts,
        );
      };
      const [mine, theirs] = [half(), half()];
      const { card: made, asked } = mergeCards(mine, theirs, new Set(next() < 0.5 ? mergeCards(mine, theirs).asked.map(differenceKey) : []));
      expect(cardSchema.safeParse(made).success).withContext(`${i}`).toBeTrue();
      for (const what of allUnknowns) if (!isUnknown(mine, what)) expect(isUnknown(made, what)).withContext(what).toBeFalse();
      expect(asked.length).toBeLessThan(60);
    }
  });

  it('of one device are told by id, or by maker, model and menu revision', () => {
    const mine = quickCard({ ...manual.plate, id: 'mine' });
    expect(sameDevice(mine, { ...mine, maker: 'X' })).toBeTrue();
    expect(sameDevice(mine, { ...mine, id: 'b', maker: 'FENNICK ' })).toBeTrue();
    expect(sameDevice(mine, { ...mine, id: 'b', describes: { firmware: '', menuRevision: 'c' } })).toBeFalse();
    expect(sameDevice(mine, { ...mine, id: 'b', model: 'N61' })).toBeFalse();
  });
});
