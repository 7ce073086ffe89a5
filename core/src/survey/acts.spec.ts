import { programOf } from '../charger';
import type { Card, DeviceValues } from '../card';
import { editPlan } from '../edits';
import { trialOf } from '../job';
import { runSheet, type SheetStep } from '../runsheet';
import type { Plan } from '../settings';
import { manuals, surveyedFrom } from '../testing/manuals';
import { shipped } from '../testing/shipped';
import { surveyEnglish } from '../words';
import { cardOfSurvey } from './index';

/** A made-up charger after its survey, with a sheet of the library for a bank that it is made for. */
function tried(name: string, sheetId: string, inSeries: number): { readonly card: Card; readonly plan: Plan; readonly steps: readonly SheetStep[] } {
  const card = cardOfSurvey(surveyedFrom(manuals[name]!), surveyEnglish);
  const plan = trialOf(
    card,
    shipped.sheets.find((s) => s.id === sheetId)!,
    inSeries,
  );
  return { card, plan, steps: runSheet(plan, null).steps };
}
const flooded = 'dunmere-t6-210-rev-5';
const agm = 'dunmere-gx-110-rev-2';
const gel = 'dunmere-gl-90-rev-3';
const lfp = 'pellow-lb-25-rev-d';
const hoyle = () => tried('hoyle', flooded, 2);
const fennick = () => tried('fennick', agm, 2);
const tarn = () => tried('tarn', gel, 1);

const step = ({ steps }: ReturnType<typeof tried>, end: string): SheetStep => steps.find((s) => s.id.endsWith(end))!;
const notes = (of: ReturnType<typeof tried>, end: string): string => step(of, end).notes.join(' ');
const order = ({ plan }: ReturnType<typeof tried>): readonly string[] => editPlan(plan, 'tried')!.steps.map((s) => s.role);
const program = (of: ReturnType<typeof tried>, systemVolts: number, cells: number, values: DeviceValues) => {
  const made = programOf(of.card, values, { systemVolts, cellsInSeries: cells, ratingA: of.card.ratings.outputA }, 25, 'tried');
  if (!made.ok) throw new Error(made.problems[0]?.text);
  return made.value;
};

describe('what was found out about a charger acts', () => {
  it('in the run sheet: an edit that is discarded, a value that jumps over its end, how it saves', () => {
    const of = hoyle();
    expect(notes(of, 'tried/wake')).toContain('An edit left alone for 8 s is discarded');
    expect(notes(of, 'edit/absorbVoltage')).toMatch(/Come straight from where it is; below 13\.0\sV it jumps to 15\.0\sV\./);
    expect(notes(of, 'edit/absorbVoltage')).toContain('Held down, the keys run faster');
    expect(step(of, 'tried/commit').says.join(' ')).toContain('Hold Contact until the display answers');
    expect(notes(fennick(), 'tried/wake')).not.toContain('thrown away');
    expect(notes(fennick(), 'edit/absorbVoltage')).not.toContain('jumps');
    expect(step(fennick(), 'tried/commit').says.join(' ')).toContain('Press Set to save');
  });

  it('in the run sheet: no save where every change is saved at once, a way through the whole list where only its end saves', () => {
    expect(step(tried('clone', flooded, 2), 'tried/commit')).toBeUndefined();
    expect(step(tried('skerry', flooded, 2), 'tried/commit').says.join(' ')).toContain('Go through the whole list to its end: only that saves');
    expect(notes(tried('skerry', flooded, 2), 'tried/wake')).toContain('An edit left alone for 30 s is discarded');
  });

  it('in the run sheet: what a power cut takes is read again, a passcode that everybody knows is changed', () => {
    expect(notes(tarn(), 'tried/persist')).toContain('It loses at a restart unless saved: absorb time.');
    expect(notes(hoyle(), 'tried/persist')).toBe('');
    expect(step(fennick(), 'tried/passcode')).toBeDefined();
    expect(step(hoyle(), 'tried/passcode')).toBeUndefined();
  });

  it('in the run sheet: a step that nobody knows is said where it is entered, and nobody’s firmware is called none', () => {
    const of = tried('clone', flooded, 2);
    expect(notes(of, 'edit/floatVoltage')).toContain('Its steps are not known. If it does not take this value, set the nearest below that it takes');
    expect(notes(of, 'edit/loadDisconnect')).not.toContain('steps are not known');
    expect(notes(of, 'tried/identify')).toBe('The card describes No name 30. Nobody has noted its firmware yet. Screens differ between revisions.');
    expect(notes(hoyle(), 'tried/identify')).toBe('The card describes Hoyle K20. Nobody has noted its firmware yet. Screens differ between revisions.');
  });

  it('in the order of edits: what moves with another is set after it, and what nobody knows the meaning of is never touched', () => {
    const of = tarn();
    expect(order(of).indexOf('floatVoltage')).toBeGreaterThan(order(of).indexOf('absorbVoltage'));
    expect(notes(of, 'edit/floatVoltage')).toContain('It moves by itself when absorb is changed.');
    const numbered = fennick();
    expect(numbered.card.others?.map((o) => o.label)).toEqual(['P07']);
    expect(numbered.steps.some((s) => JSON.stringify(s).includes('P07'))).toBeFalse();
    expect(order(numbered)).toEqual(['compensationSlope', 'absorbVoltage', 'absorbTime', 'floatVoltage', 'rechargeVoltage']);
  });

  it('in what is entered: volts of a 12 V block, percent of the rating, steps of a knob', () => {
    const value = (of: ReturnType<typeof tried>, role: string) => of.plan.settings.find((s) => s.role === role)!.value;
    // AGM on 24 V: 28.8 V of twelve cells are 14.40 V of a block.
    expect([value(fennick(), 'absorbVoltage'), fennick().plan.setting('tried', 'absorbVoltage')!.trueValue]).toEqual([14.4, 28.8]);
    expect(value(tried('bolder', lfp, 1), 'chargeCurrentLimit')).toBe(100);
    // Steps of 0.2 V from 13.8 V: 14.1 V is not among them.
    expect(value(tarn(), 'absorbVoltage')).toBe(14);
  });

  it('in the rehearsal: a wait before absorb, a new charge every day, a timer on the wall clock, none of them where they were not found', () => {
    const values = { absorbVoltage: 14.4, absorbTime: 2, floatVoltage: 13.6, rechargeVoltage: 12.6, compensationSlope: -24 };
    const numbered = program(fennick(), 24, 12, values);
    expect([numbered.startHoldS, numbered.restartsDaily, numbered.absorbV, numbered.absorbS]).toEqual([30, true, 28.8, 7200]);
    // Nobody has found out what its sensor is used for: no compensation is made up.
    expect(numbered.slope).toBeCloseTo(0, 9);
    const contact = program(hoyle(), 12, 6, { absorbVoltage: 14.4, floatVoltage: 13.7 });
    expect([contact.startHoldS, contact.restartsDaily, contact.card.absorb.timerCounts]).toEqual([0, false, 'wallClock']);
    expect([numbered.card.absorb.timerCounts, numbered.card.absorb.end]).toEqual(['atVoltage', 'whicheverFirst']);
    expect(tried('osgood', agm, 2).card.absorb.end).toBe('adaptive');
  });

  it('in the rehearsal: percent of the rating are amps, and no recharge setting begins no charge', () => {
    const of = tried('bolder', lfp, 1);
    const made = (percent: number) =>
      program(of, 24, 8, { absorbVoltage: 28.4, floatVoltage: 27, inputStartVoltage: 13.2, inputStopVoltage: 12.5, chargeCurrentLimit: percent });
    expect([made(80).limitA, made(100).limitA]).toEqual([20, 25]);
    expect([made(80).rechargeV, made(80).inputStartV, made(80).inputStopV]).toEqual([NaN, 13.2, 12.5]);
  });
});
