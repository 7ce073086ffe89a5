import type { Page } from '@playwright/test';
import { roleInfo } from '../core/src/card';
import { meaningsOf } from '../core/src/survey';
import { surveyEnglish } from '../core/src/words';
import type { Manual } from '../core/src/testing/manuals';

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** What a survey took: presses of keys and buttons, and screens. */
export interface Effort {
  presses: number;
  screens: number;
}

/** Types the plate of a charger that is not listed, on System, and adds it. */
export async function addByPlate(page: Page, { plate }: Manual, effort: Effort): Promise<void> {
  await page.getByRole('button', { name: 'Mine is not listed' }).click();
  await page.getByLabel('Maker').fill(plate.maker);
  await page.getByLabel('Model').fill(plate.model);
  await page.getByRole('combobox', { name: 'What it is' }).selectOption(plate.kind);
  await page.getByLabel('Output').fill(String(plate.outputA));
  if (plate.inputVoltsMax !== undefined) {
    const label = plate.kind.startsWith('solar') ? 'Most volts from the array' : 'Most input volts';
    if ((await page.getByLabel(label).count()) > 0) await page.getByLabel(label).fill(String(plate.inputVoltsMax));
  }
  for (const volts of plate.systemVolts) await page.getByRole('checkbox', { name: `${volts} V`, exact: true }).check();
  await page.getByRole('button', { name: 'Add this charger' }).click();
  effort.screens++;
  effort.presses += plate.maker.length + plate.model.length + String(plate.outputA).length + 4 + plate.systemVolts.length;
}

/** Surveys a charger as its made-up manual tells it, through every screen to the result. */
export async function surveyByHand(page: Page, manual: Manual, effort: Effort): Promise<void> {
  const press = async (name: string | RegExp): Promise<void> => {
    effort.presses++;
    await page.getByRole('button', { name, exact: typeof name === 'string' }).click();
  };
  const type = async (label: string, text: string): Promise<void> => {
    effort.presses += text.length + 1;
    await page.getByLabel(label, { exact: true }).fill(text);
  };
  await page.getByLabel('Your initials').fill('NN');
  await press('Next: how it is set');
  await press(new RegExp(`^${surveyEnglish.ways[manual.way].name}`));
  if (manual.keys) {
    await type('Raises a value', manual.keys.raise);
    await type('Lowers a value', manual.keys.lower);
    if (manual.keys.keep) await type('Saves it', manual.keys.keep);
    if (manual.keys.runsFaster) await page.getByLabel('Runs faster when held').check();
  }
  await press('Next: its settings');
  effort.screens += 2;

  const taken: (typeof manual.lines)[number]['is'][] = [];
  for (const [i, line] of manual.lines.entries()) {
    await type('As the display calls it', line.label);
    await type('It shows', line.shows);
    const { kind, systemVolts } = manual.plate;
    const [guess] = meaningsOf(
      { label: line.label, shown: line.shows },
      { kind, systemVolts, taken: taken.flatMap((role) => role ?? []), before: taken.at(-1) ?? undefined, terms: surveyEnglish.roleTerms },
    );
    if (line.is === null) await press('Don’t know');
    else if (guess?.role !== line.is) {
      await press('Another');
      await page.getByRole('searchbox', { name: 'Search meanings' }).fill(roleInfo[line.is].name);
      effort.presses += 6;
      await press(capital(roleInfo[line.is].name));
    }
    for (const option of line.options ?? []) {
      if (option === line.shows) continue;
      await type('Another choice', option);
      await page.keyboard.press('Enter');
    }
    if (line.runsRound) await press('It runs round at its ends');
    if (line.least !== undefined) await type('stops below at', String(line.least));
    if (line.most !== undefined) await type('stops above at', String(line.most));
    if (line.step !== undefined) await type('one press', String(line.step));
    taken.push(line.is);
    effort.screens++;
    if (i + 1 < manual.lines.length) await press('Yes, next setting');
    else {
      // The last one is taken, then the list is said to end.
      await press('Yes, next setting');
      await press('There is no more: the list ends here');
    }
  }

  for (;;) {
    const question = await page.getByRole('heading', { level: 1 }).textContent();
    const habit = Object.entries(surveyEnglish.habits).find(([, words]) => words.question === question?.trim());
    if (!habit) break;
    const [id, words] = habit;
    const answer = manual.habits[id];
    effort.screens++;
    if (answer === undefined) {
      await press('Not known');
      continue;
    }
    await press((words.answers as Readonly<Record<string, string>>)[answer]!);
    if (answer === 'goes') await type('Lost after', String(manual.timeoutS));
    if (answer === 'held') await type('Seconds at its voltage', String(manual.holdS));
    if (id === 'powerCut' && answer === 'some') for (const label of manual.forgets ?? []) await page.getByRole('checkbox', { name: label }).check();
    await press(/^Yes, (next question|go on)$/);
  }

  for (const { of, to, shows } of manual.changes ?? []) {
    await page.getByLabel('I changed').selectOption({ label: of });
    const field = page.getByLabel('to', { exact: true });
    if ((await field.evaluate((f) => f.tagName)) === 'SELECT') await field.selectOption(to);
    else await field.fill(to);
    for (const [label, text] of Object.entries(shows)) await page.getByLabel(new RegExp(`^${label}was`)).fill(text);
    effort.presses += 12;
    await press('Note this change');
  }
  effort.screens++;
  await press('Next: the result');
}
