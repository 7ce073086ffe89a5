import { stages, type Stage } from '../../charger';
import type { ColumnUnit } from './mapping';

/** A text in small letters without accents, as heads are compared. */
export const words = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase();

/** Name and unit of a column head: “Battery voltage [mV]”, “bank_V”, “Temp (°F)”. */
export function headOf(header: string): { name: string; unit: ColumnUnit | null } {
  const plain = header.trim();
  const bracket = /[[(]\s*([^\])]+?)\s*[\])]\s*$/.exec(plain);
  const tail = /(?:[_\s/.]|^)(mv|v|ma|a|°?c|°?f|deg_?c|deg_?f|celsius|fahrenheit|volts?|amps?|pct|percent|%|k?w(?:att)?s?|k?w\/m[2²]|rpm)$/i.exec(plain);
  const said = words(bracket?.[1] ?? tail?.[1] ?? '')
    .replace('°', 'deg')
    .replace('_', '');
  const known: Readonly<Record<string, ColumnUnit>> = {
    v: 'V',
    volt: 'V',
    volts: 'V',
    'v dc': 'V',
    vdc: 'V',
    mv: 'mV',
    millivolts: 'mV',
    a: 'A',
    amp: 'A',
    amps: 'A',
    ma: 'mA',
    c: 'degC',
    degc: 'degC',
    celsius: 'degC',
    f: 'degF',
    degf: 'degF',
    fahrenheit: 'degF',
    '%': 'percent',
    pct: 'percent',
    percent: 'percent',
    w: 'W',
    watt: 'W',
    watts: 'W',
    kw: 'kW',
    'w/m2': 'W/m2',
    'w/m²': 'W/m2',
    'kw/m2': 'kW/m2',
    'kw/m²': 'kW/m2',
    rpm: 'turns',
  };
  const name = bracket ? plain.slice(0, bracket.index) : tail && tail.index > 0 ? plain.slice(0, tail.index) : plain;
  return {
    name: words(name)
      .replace(/[_\-./]+/g, ' ')
      .trim(),
    unit: known[said] ?? null,
  };
}

/** Whether a name fits one of the patterns. */
export const says = (name: string, ...patterns: readonly RegExp[]): boolean => patterns.some((p) => p.test(name));
/** What columns are called, by what they hold; in small letters without accents. */
export const timeWords = [/\b(time|timestamp|datetime|date ?time|zeit|zeitstempel|heure|horodatage|fecha ?hora|utc|epoch|unix|recorded|when)\b/, /^(ts|t)$/];
export const dateWords = [/\b(date|datum|fecha|day|tag|jour)\b/];
export const voltWords = [/\bvolt/, /spannung/, /\btension/, /\bvoltaje/, /^[vu]$/, /\b[vu] ?(bat|batt|bank|bus)/, /\b(bat|batt|bank|bus) ?[vu]\b/];
export const ampWords = [/\bcurrent/, /\bamp/, /strom/, /\bcourant/, /\bcorriente/, /^i$/, /\bi ?(bat|batt|bank|out)/, /\b(bat|batt|bank|out) ?i\b/];
export const warmthWords = [/\btemp/, /^t$/, /\bt ?(bat|batt|bank)/];
export const chargeWords = [/\bsoc\b/, /^bank charge$/, /state of charge/, /\bladezustand/, /charge level/];
export const machineWords = [/\b(machine|stator|winding|alternator temp\w*|generator temp\w*|lichtmaschine|alternateur|alternador)\b/];
export const stageWords = [/\b(stage|state|status|mode|phase|zustand|etat|estado)\b/];
export const inputWords = [/\b(pv|solar in|array|panel|panels|input|eingang|entree|entrada|stator|source)\b/];
export const bankWords = [/\b(bat|batt|battery|bank|bus|shunt|monitor|batterie|bateria|net)\b/];
export const nameWords = [/^(charger|device|unit|source|name|channel|regulator|gerat|appareil)( (name|id))?$/];
export const probeWords = /\b(probe|cell|core|post|terminal)\b/;
export const loadWords = [/\bloads?\b/, /\bverbrauch/, /\bconsumption\b/];
export const lightWords = [/\birradiance\b/, /\binsolation\b/, /\bpyranometer\b/, /\beinstrahlung\b/, /\bsun(light)?\b/];
export const engineWords = [/\bengine\b/, /\bmotor\b/, /\brpm\b/];
export const outWords = [/\bdischarge/, /\bentlad/, /\bout of (the )?(bank|battery)/];

/** A column head, taken apart. */
type Head = ReturnType<typeof headOf>;
/** Whether a column is a current, by its unit or by its name. */
export const ofAmps = ({ name, unit }: Head): boolean => unit === 'A' || unit === 'mA' || (unit === null && says(name, ...ampWords));
/** Whether a column is a stage that is reported: a state of charge is none. */
export const ofStage = ({ name }: Head): boolean => says(name, ...stageWords) && !says(name, ...chargeWords);

/** Reported stages in the words that menus and files use. Codes are numbers, and only a person knows what they stand for. */
const stageNames: readonly (readonly [RegExp, Stage])[] = [
  [/^(off|idle|night|not charging|standby|aus|sleep)$/, 'off'],
  [/^(rest|full|storage|done)$/, 'rest'],
  [/^(bulk|boost|mppt|constant current|cc|charging|main)/, 'bulk'],
  [/^(abs|acceptance|topping|constant voltage|cv)/, 'absorb'],
  [/^(float|trickle|maintain)/, 'float'],
  [/^(equali[sz]e|equali[sz]ation|eq)/, 'equalise'],
  [/^(cold|low temp|lt|too cold)/, 'cold'],
  [/^(hot|high temp|too hot)/, 'hot'],
  [/^(fault|error|err|alarm|fail)/, 'fault'],
];

/** What a reported stage stands for, where its word is plain. */
export const stageNamed = (word: string): Stage | null => {
  const plain = words(word).trim();
  return stages.find((s) => s === plain) ?? stageNames.find(([p]) => p.test(plain))?.[1] ?? null;
};
