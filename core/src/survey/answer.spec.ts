import { isUnknown, quickCard, type Card } from '../card';
import { shipped } from '../testing/shipped';
import { answersOf, habitsFor, habitsOf, withAnswer, type HabitId } from './habits';

const quick = quickCard({ id: 'mine', maker: 'Ostmark', model: 'Q40', kind: 'solarMppt', outputA: 40, systemVolts: [12, 24], inputVoltsMax: 100 });
const stored = (card: Card): unknown => JSON.parse(JSON.stringify(card));
const tried = { timeoutS: 45, holdS: 20, forgets: ['floatVoltage'] };

describe('a question answered on a card', () => {
  it('leaves a card as it is when the answer is what it says already', () => {
    for (const card of shipped.cards)
      for (const [id, answer] of Object.entries(habitsOf(card)))
        expect(stored(withAnswer(card, id as HabitId, answer)))
          .withContext(`${card.id} ${id}`)
          .toEqual(stored({ ...card, notKnown: card.notKnown ?? [] }));
  });

  it('is then what the card says, for every answer of every question, from a card that knows nothing', () => {
    let answered = 0;
    for (const id of habitsFor(quick))
      for (const answer of answersOf(id)) {
        const after = withAnswer(quick, id, answer, tried);
        expect(habitsOf(after)[id]).withContext(`${id} ${answer}`).toBe(answer);
        answered++;
      }
    expect(answered).toBeGreaterThan(35);
  });

  it('can be taken back: it is not known again, and the careful guess is counted with', () => {
    for (const id of habitsFor(quick))
      for (const answer of answersOf(id)) {
        const back = withAnswer(withAnswer(quick, id, answer, tried), id, null);
        expect(habitsOf(back)[id]).withContext(`${id} ${answer}`).toBeUndefined();
      }
    const stops: Card = withAnswer(quick, 'sensorLoss', 'stops');
    expect(stops.sensor.withoutSensor).toBe('stopsCharging');
    expect(isUnknown(stops, 'sensorLoss')).toBeFalse();
    const forgotten = withAnswer(stops, 'sensorLoss', null);
    expect(forgotten.sensor.withoutSensor).toBe('ignoresCutoff');
    expect(isUnknown(forgotten, 'sensorLoss')).toBeTrue();
    // Nothing else of it is touched.
    expect(forgotten.sensor.reads).toBe(stops.sensor.reads);
    expect(isUnknown(withAnswer(stops, 'batteryLoss', null), 'sensorLoss')).toBeFalse();
  });

  it('waits for what an answer needs: seconds that were counted, settings that were lost', () => {
    for (const [id, answer] of [
      ['timeout', 'goes'],
      ['absorbStart', 'held'],
      ['powerCut', 'some'],
    ] as const)
      expect(withAnswer(quick, id, answer))
        .withContext(id)
        .toEqual(quick);
    expect(withAnswer(quick, 'timeout', 'goes', { timeoutS: 45 }).commit.timeoutSeconds).toBe(45);
    expect(withAnswer(quick, 'absorbStart', 'held', { holdS: 20 }).absorb.start).toEqual({ kind: 'held', seconds: 20 });
    expect(withAnswer(quick, 'powerCut', 'some', { forgets: ['floatVoltage'] }).forgets).toEqual(['floatVoltage']);
  });
});
