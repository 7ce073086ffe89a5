import { isKnown, parameterFor, quickCard, type Card, type NumberParameter, type Role } from '../card';
import { shipped } from '../testing/shipped';
import { surveyEnglish } from '../words';
import { cardSeen, seenAsks, type Seen } from './seen';

const quick = quickCard({ id: 'mine', maker: 'Ostmark', model: 'Q40', kind: 'solarMppt', outputA: 40, systemVolts: [12, 24], inputVoltsMax: 100 });
const at = { by: 'KM', on: '2026-06-09' };
const seen = (card: Card, role: Role, what: Seen, shown = ''): Card => cardSeen(card, role, what, at, surveyEnglish, shown);
const number = (card: Card, role: Role): NumberParameter => parameterFor(card, role) as NumberParameter;

describe('a setting seen while it is set', () => {
  it('puts an end, a step and the label on the card, and leaves the rest not known', () => {
    const after = seen(quick, 'floatVoltage', { step: 0.5, label: 'Flt' });
    const float = number(after, 'floatVoltage');
    expect([float.step, float.label, isKnown(float, 'step'), isKnown(float, 'least'), isKnown(float, 'most')]).toEqual([0.5, 'Flt', true, false, false]);
    const more = number(seen(after, 'floatVoltage', { least: 24, most: 30 }), 'floatVoltage');
    expect([more.min, more.max, more.step, more.label]).toEqual([24, 30, 0.5, 'Flt']);
    expect(more.notKnown).toBeUndefined();
    // Every other setting, and the order of the menu, stay.
    expect(after.parameters.map((p) => p.role)).toEqual(quick.parameters.map((p) => p.role));
    expect(after.parameters.filter((p) => p.role !== 'floatVoltage')).toEqual(quick.parameters.filter((p) => p.role !== 'floatVoltage'));
    expect(after.surveyed).toEqual([{ by: 'KM', on: '2026-06-09', from: 'device' }]);
    // Seen again by the same person on the same day: one line.
    expect(seen(after, 'absorbTime', { step: 10 }).surveyed?.length).toBe(1);
  });

  it('counts steps from what the display shows', () => {
    const float = number(seen(quick, 'floatVoltage', { step: 0.5 }, '26.8'), 'floatVoltage');
    const steps = (26.8 - float.min) / 0.5;
    expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-9);
  });

  it('leaves a card alone of which nothing was seen, and one whose setting is a choice', () => {
    for (const card of shipped.cards)
      for (const p of card.parameters) {
        expect(seen(card, p.role, {})).toBe(card);
        if (p.unit === 'choice') expect(seen(card, p.role, { label: 'Other' })).toBe(card);
      }
  });

  it('keeps everything of a card that is known but the one thing that was seen otherwise', () => {
    for (const card of shipped.cards.filter(({ id }) => ['varrow-s45', 'quern-r9', 'ostrel-w12'].includes(id)))
      for (const p of card.parameters) {
        if (p.unit === 'choice') continue;
        const { surveyed: _who, ...after } = seen(card, p.role, { label: `${p.label} 2` });
        const { surveyed: _before, ...before } = card;
        expect(JSON.parse(JSON.stringify(after)))
          .withContext(`${card.id} ${p.role}`)
          .toEqual(
            JSON.parse(
              JSON.stringify({
                ...before,
                parameters: before.parameters.map((x) => (x.role === p.role ? { ...x, label: `${p.label} 2`, said: { ...at, from: 'device' } } : x)),
              }),
            ),
          );
      }
  });

  it('asks what does not fit together, and takes none of it for known', () => {
    expect(seenAsks(quick, 'floatVoltage', { least: 30, most: 24 }).map((a) => a.code)).toEqual(['endsCrossed']);
    expect(seenAsks(quick, 'floatVoltage', { most: 26 }, '26.9').map((a) => a.code)).toEqual(['ranRound']);
    expect(seenAsks(quick, 'floatVoltage', { most: 27 }, '26.9')).toEqual([]);
    const crossed = number(seen(quick, 'floatVoltage', { least: 30, most: 24 }), 'floatVoltage');
    expect([isKnown(crossed, 'least'), isKnown(crossed, 'most')]).toEqual([false, false]);
  });

  it('is said to be looked up on the device, that setting alone', () => {
    const quick = quickCard({ id: 'mine', maker: 'A', model: 'B', kind: 'solarMppt', outputA: 10, systemVolts: [12] });
    const learnt = seen(quick, 'floatVoltage', { step: 0.5 });
    expect(learnt.parameters.filter((p) => p.said).map((p) => [p.role, p.said])).toEqual([['floatVoltage', { ...at, from: 'device' }]]);
  });
});
