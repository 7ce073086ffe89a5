import { bad, fieldsOfJson, good, isRecord, parseNumber, parseQuantity, type Result } from '../quantity';
import { type Card, type Parameter } from './card';
import { deviceRange, displayText, rangeText, specialAt } from './convention';
import { roleInfo, type DeviceValues, type Role } from './role';
import { unitInfo } from './unit';

/** One setting as a file writes it. */
export interface WrittenSetting {
  readonly name: string;
  readonly value: string;
  /** Where the file has a column for it. */
  readonly unit?: string;
}

/** What a settings file says of a device, measured by the device's card. */
export interface BroughtSettings {
  /** As the display would show them, by role. */
  readonly values: DeviceValues;
  readonly fits: readonly { readonly role: Role; readonly name: string; readonly text: string; /** Its name as it was written. */ readonly written: string }[];
  /** What was not taken, and why, in a sentence. */
  readonly leftOut: readonly { readonly name: string; readonly value: string; readonly why: string }[];
  /** The model that the file itself names; null where it names none. */
  readonly model: string | null;
}

/** Longer files are not one device's settings. */
const mostSettings = 600;
const heads = {
  name: /^(setting|parameter|name|label|item|key)$/i,
  value: /^(value|set|setting value|present|current|data)$/i,
  unit: /^(unit|units|set_unit)$/i,
};
const modelNames = /^(model|product|type|device|device type|product name|model name)$/i;
/** What a settings file tells besides its settings. */
const aboutItself = /^(format|version|date|time|timestamp|serial( number)?|firmware|fw|hardware|maker|manufacturer|name|user|exported( at)?)$/i;

/**
 * The settings in a text that a charger's own program wrote: a table with names and values, lines of names and values, or JSON.
 *
 * @param split splits a table into rows of fields; the CSV package of the caller
 * @returns a problem where no names with values can be told in it
 */
export function readSettingsText(text: string, split: (text: string, separator: string) => readonly (readonly string[])[]): Result<readonly WrittenSetting[]> {
  const plain = text.replace(/^\ufeff/, '');
  const written = /^\s*[[{]/.test(plain) ? ofJson(plain) : ofLines(plain.split(/\r\n|\r|\n/), split);
  if (written.length > mostSettings)
    return bad(
      'settings-too-many',
      `This file has ${written.length} names with values. One device’s settings are ${mostSettings} at most; a log is brought in on Prove.`,
    );
  return written.length > 0
    ? good(written)
    : bad('settings-none', 'No names with values were found in this file. Export the settings as a table, as lines “name = value”, or as JSON.');
}

function ofJson(text: string): readonly WrittenSetting[] {
  const listed: WrittenSetting[] = [];
  // A list of {name, value} is what many programs write; anything else goes by its path.
  const look = (value: unknown): void => {
    if (Array.isArray(value)) value.forEach(look);
    else if (isRecord(value)) {
      const key = (pattern: RegExp): unknown => Object.entries(value).find(([k]) => pattern.test(k))?.[1];
      const [name, of, unit] = [key(heads.name), key(heads.value), key(heads.unit)];
      if (typeof name === 'string' && (typeof of === 'string' || typeof of === 'number' || typeof of === 'boolean'))
        listed.push({ name, value: String(of), ...(typeof unit === 'string' && unit !== '' ? { unit } : {}) });
      else Object.values(value).forEach(look);
    }
  };
  try {
    look(JSON.parse(text));
  } catch {
    return [];
  }
  return listed.length > 0 ? listed : [...(fieldsOfJson(text) ?? [])].map(([path, value]) => ({ name: path.slice(path.lastIndexOf('.') + 1), value }));
}

function ofLines(lines: readonly string[], split: Parameters<typeof readSettingsText>[1]): readonly WrittenSetting[] {
  const filled = lines.filter((l) => l.trim() !== '' && !/^\s*(#|\/\/|\[)/.test(l));
  const separator = ['\t', ';', ','].find((s) => filled.filter((l) => l.includes(s)).length > filled.length / 2 && !filled.every((l) => /[=:]/.test(l)));
  if (separator === undefined)
    return filled.flatMap((line): WrittenSetting[] => {
      const pair = /^\s*([^=:]{1,80}?)\s*[=:]\s*(.*?)\s*$/.exec(line);
      return pair?.[1] !== undefined && pair[2] !== undefined && pair[2] !== '' ? [{ name: pair[1], value: pair[2] }] : [];
    });
  const rows = split(filled.join('\n'), separator).map((row) => row.map((field) => field.trim()));
  const headAt = rows.findIndex((r) => r.some((f) => heads.name.test(f)) && r.some((f) => heads.value.test(f)));
  const head = rows[headAt] ?? [];
  const place = (pattern: RegExp, otherwise: number): number => (headAt < 0 ? otherwise : head.findIndex((f) => pattern.test(f)));
  const [nameAt, valueAt, unitAt] = [place(heads.name, 0), place(heads.value, 1), place(heads.unit, 2)];
  return rows.slice(headAt + 1).flatMap((r): WrittenSetting[] => {
    const [name = '', value = '', unit = ''] = [r[nameAt], r[valueAt], unitAt < 0 ? '' : r[unitAt]];
    return name === '' || value === '' ? [] : [{ name, value, ...(unit === '' ? {} : { unit }) }];
  });
}

const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/** The setting that a name means: its label in the menu, its path through the menu, the name of its role. */
function meant(card: Card, name: string): readonly Parameter[] {
  const wanted = plain(name);
  const named = (of: (p: Parameter) => string): readonly Parameter[] => card.parameters.filter((p) => plain(of(p)) === wanted);
  for (const of of [
    (p: Parameter) => p.label,
    (p: Parameter) => [...p.menu, p.label].join(' '),
    (p: Parameter) => p.role,
    (p: Parameter) => roleInfo[p.role].name,
  ]) {
    const found = named(of);
    if (found.length > 0) return found;
  }
  return [];
}

/**
 * What a settings file says stands on a device. Only what this menu can show is taken: a value out of its range, between its steps, or in a unit that does
 * not fit is left out with its reason, as is a name that it does not know. Nothing is taken from a file that names another model.
 *
 * @param systemVolts nominal volts of the system the device is set to, for ranges that go by it
 */
export function settingsOn(card: Card, written: readonly WrittenSetting[], systemVolts: number): BroughtSettings {
  const model = written.find((w) => modelNames.test(w.name.trim()) && !meant(card, w.name).length)?.value ?? null;
  const other = model !== null && !namesModel(card, model);
  const values: Partial<Record<Role, number | string>> = {};
  const fits: { role: Role; name: string; text: string; written: string }[] = [];
  const leftOut: { name: string; value: string; why: string }[] = [];
  for (const { name, value, unit } of written) {
    const leave = (why: string): void => void leftOut.push({ name, value, why });
    const found = meant(card, name);
    const [parameter] = found;
    if (!parameter) {
      if (!modelNames.test(name.trim()) && !aboutItself.test(name.trim())) leave('No setting of this card is called so.');
    } else if (found.length > 1) leave(`It could mean ${found.map((p) => [...p.menu, p.label].join(' › ')).join(' or ')}.`);
    else if (values[parameter.role] !== undefined) leave('It comes twice; the first was taken.');
    else if (other) leave('The file is of another model.');
    else {
      const read = valueOf(parameter, unit === undefined ? value : `${value} ${unit}`, systemVolts);
      if (!read.ok) leave(read.problems[0]?.text ?? 'It cannot be read.');
      else {
        values[parameter.role] = read.value;
        fits.push({ role: parameter.role, name: parameter.label, text: displayText(parameter, read.value), written: name });
      }
    }
  }
  return { values, fits, leftOut, model };
}

/**
 * What a device that only talks says of its own settings, among its readings: the fields whose names the card knows as settings, measured like those of a
 * settings file. A reading may be called like a setting, so a person has to look at each before it counts.
 */
export const settingsSaid = (card: Card, fields: Readonly<Record<string, string>>, systemVolts: number): BroughtSettings =>
  settingsOn(
    card,
    Object.entries(fields).flatMap(([name, value]) => (meant(card, name).length > 0 ? [{ name, value }] : [])),
    systemVolts,
  );

/** Whether a file's word for its model can mean the card's: it has the model in it, or is a part of maker and model. */
function namesModel(card: Card, word: string): boolean {
  const [said, model, whole] = [plain(word), plain(card.model), plain(`${card.maker} ${card.model}`)];
  return said === model || ` ${said} `.includes(` ${model} `) || ` ${whole} `.includes(` ${said} `);
}

function valueOf(parameter: Parameter, text: string, systemVolts: number): Result<number | string> {
  if (parameter.unit === 'choice') {
    const wanted = plain(text);
    const option = parameter.options.find((o) => plain(o.value) === wanted) ?? byMeaning(parameter, wanted);
    return option ? good(option.value) : bad('no-option', `“${text.trim()}” is none of its choices: ${parameter.options.map((o) => o.value).join(', ')}.`);
  }
  const special = parameter.special.find((s) => plain(text) === s.means.toLowerCase() || (s.means === 'off' && /^(off|disabled|none)$/.test(plain(text))));
  if (special) return good(special.value);
  const read = parseQuantity(text, unitInfo[parameter.unit].typed);
  const number = read.ok ? read : parseNumber(text).ok ? parseNumber(text) : read;
  if (!number.ok) return number;
  const { value } = number;
  if (specialAt(parameter, value)) return good(value);
  const { min, max } = deviceRange(parameter, systemVolts);
  if (value < min - 1e-9 || value > max + 1e-9) return bad('out-of-range', `This menu takes ${rangeText(parameter, systemVolts)}.`);
  const steps = (value - min) / parameter.step;
  if (Math.abs(steps - Math.round(steps)) > 1e-6) return bad('between-steps', `This menu goes in steps of ${parameter.step}, and shows no such value.`);
  return good(Number(value.toFixed(6)));
}

/** “1”, “true” and “enabled” are the option that means on, where just one does. */
function byMeaning(parameter: Extract<Parameter, { unit: 'choice' }>, wanted: string): { readonly value: string } | undefined {
  const means = /^(1|true|yes|enabled|on)$/.test(wanted) ? 'on' : /^(0|false|no|disabled|off)$/.test(wanted) ? 'off' : null;
  const options = parameter.options.filter((o) => o.means === means);
  return means !== null && options.length === 1 ? options[0] : undefined;
}
