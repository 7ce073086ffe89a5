import { cardOf, devicesOf, type Plan } from '../settings';
import type { FieldTest, Subject } from './definition';
import { absorbHold } from './tests/absorbHold';
import { absorbToFloat } from './tests/absorbToFloat';
import { alternatorStart } from './tests/alternatorStart';
import { chill } from './tests/chill';
import { currentCeiling } from './tests/currentCeiling';
import { display } from './tests/display';
import { history } from './tests/history';
import { loadCutoff } from './tests/loadCutoff';
import { lowTemperature } from './tests/lowTemperature';
import { monitorFull } from './tests/monitorFull';
import { passcode } from './tests/passcode';
import { powerCycle } from './tests/powerCycle';
import { recharge } from './tests/recharge';
import { regulatorTerminals } from './tests/regulatorTerminals';
import { sisters } from './tests/sisters';
import { thermostat } from './tests/thermostat';
import { turbine } from './tests/turbine';
import type { TestCode } from './record';

/** Every guided test, in the order of the work. A new one is one file and one line here. */
export const fieldTests: readonly FieldTest[] = [
  display,
  chill,
  lowTemperature,
  thermostat,
  absorbHold,
  absorbToFloat,
  recharge,
  loadCutoff,
  currentCeiling,
  regulatorTerminals,
  alternatorStart,
  sisters,
  monitorFull,
  powerCycle,
  turbine,
  passcode,
  history,
];

/** A test by its code. */
export const testNamed = (code: TestCode): FieldTest => {
  const found = fieldTests.find((t) => t.code === code);
  if (!found) throw new Error(`no test ${code}`);
  return found;
};

/** A device of a plan as a test sees it; null without a card. */
export function subjectOf(plan: Plan, device: string): Subject | null {
  const found = devicesOf(plan.input).find((d) => d.id === device);
  const card = found && cardOf(plan.input, found);
  return found && card ? { device: found, card } : null;
}

/** Every test that can be done on this system, device by device. */
export const testsFor = (plan: Plan): readonly { readonly test: FieldTest; readonly subject: Subject }[] =>
  fieldTests.flatMap((test) =>
    devicesOf(plan.input).flatMap((device) => {
      const subject = subjectOf(plan, device.id);
      return subject && test.fits(plan, subject) ? [{ test, subject }] : [];
    }),
  );
