import * as z from 'zod';
import { roleInfo, roleSchema } from '../card';
import type { Job } from '../job';
import { tidy } from '../quantity';
import { allowedText, cardOf, deviceName, devicesOf, fateWords, inCelsius, keyedText, type Plan } from '../settings';
import { between, isoDate, shortText } from '../sheet';
import { writeCsv } from './csv';

/** Settings of one charger by role, in units of the bank: what another charger of any make can be set by. */
export const settingsFileSchema = z.object({
  format: z.literal('calm-keel/settings'),
  version: z.literal(1),
  date: isoDate,
  job: shortText(80),
  charger: shortText(60),
  model: shortText(170),
  sheet: z.object({ maker: shortText(80), battery: shortText(80), document: shortText(160), revision: shortText(40), date: isoDate.or(z.literal('')) }),
  bank: z.object({ nominalVolts: between(0.5, 5000), cellsInSeries: z.int().min(1), capacityAh: between(0.1, 1e7).nullable() }),
  settings: z
    .array(
      z.object({
        role: roleSchema,
        name: shortText(60),
        /** Wanted at the battery, in `unit`; a word for choices. Null where nothing is to be set. */
        wanted: z.union([between(-1e6, 1e6), shortText(60)]).nullable(),
        unit: z.string().max(30),
        /** What this charger makes of it, in the same unit. */
        made: between(-1e6, 1e6).nullable(),
        band: z.object({ min: z.number().optional(), max: z.number().optional() }).nullable(),
        /** Set by somebody against the sheet. */
        outsideSheet: z.boolean(),
      }),
    )
    .max(200),
});
export type SettingsFile = z.infer<typeof settingsFileSchema>;

/** Settings of one charger as a file that knows no card. Null for a device the job has not. */
export function settingsFile(job: Job, plan: Plan, device: string, date: string): SettingsFile | null {
  const place = devicesOf(plan.input).find((d) => d.id === device);
  if (!place) return null;
  const card = cardOf(plan.input, place);
  const { maker, battery, document, revision, date: printed } = job.sheet;
  return {
    format: 'calm-keel/settings',
    version: 1,
    date,
    job: job.name,
    charger: place.name,
    model: card ? `${card.maker} ${card.model}` : '',
    sheet: { maker, battery, document, revision, date: printed },
    bank: { nominalVolts: plan.facts.nominalVolts, cellsInSeries: plan.facts.cells, capacityAh: plan.facts.ratedAh },
    settings: plan.settings
      .filter((s) => s.charger === device)
      .map((s) => ({
        role: s.role,
        name: roleInfo[s.role].name,
        wanted: typeof s.exact === 'number' ? tidy(s.exact) : s.exact,
        unit: roleInfo[s.role].unit,
        made: s.trueValue === null ? null : tidy(s.trueValue),
        band: s.band,
        outsideSheet: s.override !== undefined || s.within === 'outside',
      })),
  };
}

/** Settings of one charger as a table for a spreadsheet: what its menu calls them, what is keyed, what that makes, what the sheet allows and where it comes from. */
export function settingsCsv(plan: Plan, device: string): string {
  const name = (id: string): string => deviceName(plan.input, id);
  const rows = plan.settings
    .filter((s) => s.charger === device)
    .map((s) => [
      s.menu.join(' › '),
      s.label,
      roleInfo[s.role].name,
      s.value,
      typeof s.value === 'number' ? s.unit : '',
      s.trueValue === null ? null : tidy(s.trueValue),
      roleInfo[s.role].unit,
      s.uncertainty === null ? null : Number(s.uncertainty.toFixed(3)),
      allowedText(s, inCelsius),
      s.override ? `outside the sheet: ${s.override.reason}` : fateWords(s, name),
      [...new Set(s.derivation.flatMap((step) => (step.source ? [step.source] : [])))].join('; '),
      keyedText(s),
    ]);
  return writeCsv([
    ['menu', 'setting', 'role', 'set', 'set_unit', 'at_battery', 'at_battery_unit', 'uncertainty', 'sheet_allows', 'remark', 'source', 'as_displayed'],
    ...rows,
  ]);
}
