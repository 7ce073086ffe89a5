import { quickCard, type Card } from '../card';
import { startSurvey, type Survey } from '../survey';
import { manuals, surveyedFrom } from '../testing/manuals';
import { plan, teasel } from '../testing/fixtures';
import { surveyEnglish } from '../words';
import { editPlan } from '../edits';
import type { Job } from './job';
import { surveyedCard, withSurvey } from './surveyed';

const texts = surveyEnglish;
/** The launch with two chargers of one card of its own, and an override on each of two settings. */
function launch(): Job {
  const job = teasel();
  const card = quickCard({ ...manuals['lume']!.plate, id: 'mine', systemVolts: [24] });
  const [first] = job.system.chargers;
  const override = { reason: 'seen', by: 'NN', date: '2026-06-01' };
  return {
    ...job,
    cards: [card],
    system: {
      ...job.system,
      chargers: [1, 2].map((n) => ({ ...first!, id: `roof${n}`, name: `Roof ${n}`, card: 'mine', present: { absorbTime: 45 }, displayReadings: [] })),
      companions: [],
    },
    overrides: [
      { ...override, charger: 'roof1', role: 'absorbVoltage', value: 28.2 },
      { ...override, charger: 'roof1', role: 'equaliseVoltage', value: 28.2 },
    ],
  };
}
const survey = (own: Partial<Survey> = {}): Survey => ({
  ...surveyedFrom({ ...manuals['lume']!, plate: { ...manuals['lume']!.plate, systemVolts: [24] } }),
  items: [
    {
      id: 'i1',
      label: 'Absorption voltage',
      menu: [],
      shown: '28.80 V',
      role: 'absorbVoltage',
      unit: 'V',
      least: 24,
      most: 34,
      step: 0.05,
      options: [],
      looked: true,
    },
  ],
  on: { job: launch().id, device: 'roof2' },
  by: 'KM',
  ...own,
});

describe('a survey on its job', () => {
  it('changes the card of every device of it, and what was read is as found on the one it was read on', () => {
    const job = withSurvey(launch(), survey(), texts, '2026-06-09');
    expect(job.cards[0]!.parameters.map((p) => [p.role, p.label])).toEqual([['absorbVoltage', 'Absorption voltage']]);
    expect(job.system.chargers.map((c) => c.present)).toEqual([{ absorbTime: 45 }, { absorbTime: 45, absorbVoltage: 28.8 }]);
    expect(plan(job).setting('roof1', 'absorbVoltage')?.value).toBe(28.2);
    expect(editPlan(plan(job), 'roof2')?.steps.map((s) => [s.role, s.stands, s.to])).toEqual([['absorbVoltage', '28.80\u00a0V', 28.1]]);
  });

  it('lets an override go whose setting is not there, and holds the other', () => {
    expect(withSurvey(launch(), survey(), texts, '2026-06-09').overrides.map((o) => o.role)).toEqual(['absorbVoltage']);
  });

  it('made on no job or on another one leaves what was found as it is; a card that the job has not changes nothing', () => {
    const elsewhere = withSurvey(launch(), survey({ on: { job: 'other', device: 'roof2' } }), texts, '2026-06-09');
    expect(elsewhere.system.chargers[1]!.present).toEqual({ absorbTime: 45 });
    const job = launch();
    expect(withSurvey(job, { ...survey(), card: { ...survey().card, id: 'another' } }, texts, '2026-06-09')).toBe(job);
  });

  it('says who made it, when and from what; the same day counts once', () => {
    const once = surveyedCard(survey({ from: 'document', document: 'Manual, p. 4' }), texts, '2026-06-09');
    expect(once.surveyed).toEqual([{ by: 'KM', on: '2026-06-09', from: 'document', document: 'Manual, p. 4' }]);
    const again = surveyedCard({ ...startSurvey(once, '2026-06-09'), by: 'KM', from: 'document', document: 'Manual, p. 4' }, texts, '2026-06-09');
    expect(again.surveyed?.length).toBe(1);
    expect(surveyedCard({ ...startSurvey(once, '2026-06-10'), by: 'KM' }, texts, '2026-06-10').surveyed?.map((s) => s.from)).toEqual(['document', 'device']);
  });

  it('says of each setting who looked it up last and where: what the display showed on the device, what a manual alone prints in it', () => {
    const base = survey({ from: 'document', document: 'Manual, p. 4' });
    const float = { ...base.items[0]!, id: 'i2', label: 'Float voltage', shown: '', role: 'floatVoltage' as const, factory: '27.0 V' };
    const said = (card: Card) => Object.fromEntries(card.parameters.map((p) => [p.role, p.said]));
    const made = surveyedCard({ ...base, items: [...base.items, float] }, texts, '2026-06-09');
    const [device, paper] = [
      { by: 'KM', on: '2026-06-09', from: 'device' as const },
      { by: 'KM', on: '2026-06-09', from: 'document' as const, document: 'Manual, p. 4' },
    ];
    expect(said(made)).toEqual({ absorbVoltage: device, floatVoltage: paper });
    // Gone over again by another: only what is otherwise is theirs.
    const again = startSurvey(made, '2026-07-01');
    const items = again.items.map((item) => (item.role === 'floatVoltage' ? { ...item, most: 33 } : item));
    expect(said(surveyedCard({ ...again, items, by: 'LO', from: 'device' }, texts, '2026-07-01'))).toEqual({
      absorbVoltage: device,
      floatVoltage: { by: 'LO', on: '2026-07-01', from: 'device' },
    });
  });
});
