import { quickCard, type Plate, type Role, type SettingWay } from '../card';
import { meaningsOf, startSurvey, surveySchema, type Survey } from '../survey';
import { surveyEnglish } from '../words';

/** A line of a made-up manual: what the display shows, and what is found when it is tried. */
interface Line {
  readonly label: string;
  readonly shows: string;
  /** What the manual says it is; null where it says nothing. */
  readonly is: Role | null;
  readonly least?: number;
  readonly most?: number;
  readonly step?: number;
  readonly runsRound?: true;
  readonly options?: readonly string[];
}

/** A made-up charger that no shipped card resembles, as half a page of its manual tells it. */
export interface Manual {
  readonly plate: Omit<Plate, 'id'>;
  readonly way: SettingWay;
  readonly keys?: { readonly raise: string; readonly lower: string; readonly keep?: string; readonly runsFaster?: true };
  readonly lines: readonly Line[];
  readonly habits: Readonly<Record<string, string>>;
  readonly timeoutS?: number;
  readonly holdS?: number;
  readonly forgets?: readonly string[];
  /** What is read again after one change: by label. */
  readonly changes?: readonly { readonly of: string; readonly to: string; readonly shows: Readonly<Record<string, string>> }[];
  /** What its card must say of it. */
  readonly quirks: readonly string[];
}

/** Eight of them, of every way to be set. */
export const manuals: Readonly<Record<string, Manual>> = {
  /** One contact: held, the list scrolls by itself, over its end back to the beginning. */
  hoyle: {
    plate: { maker: 'Hoyle', model: 'K20', kind: 'solarPwm', outputA: 20, systemVolts: [12, 24], inputVoltsMax: 50 },
    way: 'contact',
    keys: { raise: 'Contact', lower: 'Contact', keep: 'Contact', runsFaster: true },
    lines: [
      { label: 'bAt', shows: 'USE', is: 'batteryType', options: ['GEL', 'Sld', 'FLd', 'USE'] },
      { label: 'bSt', shows: '14.4', is: 'absorbVoltage', least: 13, most: 15, step: 0.1, runsRound: true },
      { label: 'FLo', shows: '13.7', is: 'floatVoltage', least: 13, most: 15, step: 0.1, runsRound: true },
      { label: 'LvD', shows: '10.7', is: 'loadDisconnect', least: 9, most: 12, step: 0.1, runsRound: true },
      { label: 'LvR', shows: '12.6', is: 'loadReconnect', least: 12, most: 14, step: 0.1, runsRound: true },
    ],
    habits: { save: 'long', timeout: 'goes', absorbCount: 'clock', sensorKind: 'ownCase', powerCut: 'nothing', passcode: 'none' },
    timeoutS: 8,
    changes: [{ of: 'bAt', to: 'GEL', shows: { bSt: '14.2', FLo: '13.8', LvD: '10.7', LvR: '12.6' } }],
    quirks: [
      'Set by one key or contact and a list that scrolls.',
      'An edit left alone for 8 s is discarded.',
      'bSt jumps from 13 to 15 when stepped below its end.',
      'The preset “GEL” overwrites 2 values.',
      'Its absorb timer runs on the wall clock, at voltage or not.',
      'Its temperature is that of its own warm case.',
    ],
  },
  /** Numbered settings in volts of a 12 V block; a profile number that moves them. */
  fennick: {
    plate: { maker: 'Fennick', model: 'N60', kind: 'solarMppt', outputA: 60, systemVolts: [24, 48], inputVoltsMax: 190 },
    way: 'numbers',
    keys: { raise: '+', lower: '−', keep: 'Set' },
    lines: [
      { label: 'P01 profile', shows: '9', is: 'batteryType', options: ['1', '2', '9'] },
      { label: 'P02 absorption', shows: '14.40', is: 'absorbVoltage', least: 12, most: 16, step: 0.05 },
      { label: 'P03 absorption time', shows: '2 h', is: 'absorbTime', least: 0, most: 12, step: 1 },
      { label: 'P04 float', shows: '13.60', is: 'floatVoltage', least: 12, most: 16, step: 0.05 },
      { label: 'P05 restart', shows: '12.60', is: 'rechargeVoltage', least: 11, most: 14, step: 0.05 },
      { label: 'P06 temp comp', shows: '-24', is: 'compensationSlope', least: -60, most: 0, step: 1 },
      { label: 'P07', shows: '50', is: null },
    ],
    habits: { save: 'key', timeout: 'stays', absorbStart: 'held', absorbEnd: 'first', absorbCurrent: 'own', rechargeDaily: 'yes', passcode: 'factory' },
    holdS: 30,
    quirks: [
      'Set by numbered settings.',
      'P02 absorption is in volts of a 12 V block, whatever the system.',
      'Absorb begins after 30 s at its voltage.',
      'It begins a new charge every day, whatever the voltage.',
      'Settings that nobody knows the meaning of; leave them alone: P07.',
      'It leaves the factory with a passcode that everybody knows.',
    ],
  },
  /** A rotary switch with fixed tables: nothing else can be set. */
  osgood: {
    plate: { maker: 'Osgood', model: 'R3', kind: 'inverterCharger', outputA: 70, systemVolts: [24] },
    way: 'switch',
    lines: [{ label: 'Switch', shows: '2', is: 'batteryType', options: ['0', '1', '2', '3'] }],
    habits: { save: 'atOnce', absorbEnd: 'itself', sensorKind: 'none', displayAdjust: 'no' },
    quirks: ['Set by switches with fixed tables.', 'Every change is saved at once, a slip too.', 'Absorb lasts by how long bulk took.'],
  },
  /** A page on a phone, with names in full. */
  lume: {
    plate: { maker: 'Lume', model: 'A50', kind: 'solarMppt', outputA: 50, systemVolts: [48], inputVoltsMax: 150 },
    way: 'app',
    lines: [
      { label: 'Absorption voltage', shows: '56.80 V', is: 'absorbVoltage', least: 48, most: 68, step: 0.01 },
      { label: 'Float voltage', shows: '54.00 V', is: 'floatVoltage', least: 48, most: 68, step: 0.01 },
      { label: 'Absorption duration', shows: '120 min', is: 'absorbTime', least: 0, most: 600, step: 1 },
      { label: 'End current', shows: '2.0 A', is: 'taperCurrent', least: 0, most: 10, step: 0.1 },
      { label: 'Low temperature cut-off', shows: '5 °C', is: 'lowTempCutoff', least: -10, most: 15, step: 1 },
      { label: 'Max. charge current', shows: '50 A', is: 'chargeCurrentLimit', least: 0, most: 50, step: 1 },
    ],
    habits: { save: 'atOnce', sensorKind: 'network', sensorUse: 'both', sensorLoss: 'ignores', absorbEnd: 'both', absorbCurrent: 'bank' },
    quirks: ['Set in an app or page on another device.', 'Without a battery sensor it silently ignores the cutoff.'],
  },
  /** A knob: float follows absorb by itself. */
  tarn: {
    plate: { maker: 'Tarn', model: 'D4', kind: 'alternator', outputA: 120, systemVolts: [12] },
    way: 'list',
    keys: { raise: 'Knob right', lower: 'Knob left', keep: 'Knob' },
    lines: [
      { label: 'ABS', shows: '14.2', is: 'absorbVoltage', least: 13.8, most: 14.8, step: 0.2 },
      { label: 'FLT', shows: '13.4', is: 'floatVoltage' },
      { label: 'TMR', shows: '60', is: 'absorbTime', least: 0, most: 240, step: 30 },
    ],
    habits: { save: 'key', absorbEnd: 'time', batteryLoss: 'no', powerCut: 'some' },
    forgets: ['TMR'],
    changes: [{ of: 'ABS', to: '14.4', shows: { FLT: '13.6', TMR: '60' } }],
    quirks: [
      'Changed by itself when absorb is changed, so set last: FLT.',
      'Lost at a restart unless saved apart: absorb time.',
      'It does not survive losing the battery while the source is on.',
    ],
  },
  /** Two keys and a load output with four modes. */
  skerry: {
    plate: { maker: 'Skerry', model: 'P10', kind: 'solarPwm', outputA: 10, systemVolts: [12], inputVoltsMax: 30 },
    way: 'list',
    keys: { raise: 'Up', lower: 'Up', keep: 'Enter' },
    lines: [
      { label: 'Charge', shows: '14.4 V', is: 'absorbVoltage', least: 13.5, most: 15, step: 0.1 },
      { label: 'Float', shows: '13.6 V', is: 'floatVoltage', least: 13, most: 14.5, step: 0.1 },
      { label: 'Load mode', shows: 'dusk', is: 'loadMode', options: ['on', 'off', 'dusk', 'hours'] },
      { label: 'Load hours', shows: '6 h', is: 'loadTimer', least: 1, most: 15, step: 1 },
      { label: 'Load off', shows: '11.1 V', is: 'loadDisconnect', least: 10.5, most: 12, step: 0.1 },
    ],
    habits: { save: 'end', timeout: 'goes', sensorKind: 'ownCase', sensorUse: 'slope' },
    timeoutS: 30,
    quirks: [
      'Values are saved only at the end of the list: go through all of it.',
      'An edit left alone for 30 s is discarded.',
      'It has no low-temperature cutoff.',
    ],
  },
  /** A DC-DC charger that is set on the bench. */
  bolder: {
    plate: { maker: 'Bolder', model: 'B25', kind: 'dcdc', outputA: 25, systemVolts: [24], inputVoltsMax: 32 },
    way: 'menus',
    keys: { raise: 'Up', lower: 'Down', keep: 'OK' },
    lines: [
      { label: 'Charge voltage', shows: '28.4 V', is: 'absorbVoltage', least: 26, most: 30, step: 0.1 },
      { label: 'Hold voltage', shows: '27.0 V', is: 'floatVoltage', least: 26, most: 29, step: 0.1 },
      { label: 'Engine on voltage', shows: '13.2 V', is: 'inputStartVoltage', least: 12, most: 14.5, step: 0.1 },
      { label: 'Engine off voltage', shows: '12.5 V', is: 'inputStopVoltage', least: 11, most: 13.5, step: 0.1 },
      { label: 'Output limit', shows: '80 %', is: 'chargeCurrentLimit', least: 20, most: 100, step: 20 },
    ],
    habits: { save: 'key', bench: 'yes', sensorKind: 'none', rechargeRule: 'never' },
    quirks: ['Output limit is in percent of its rating.', 'It has no recharge setting.'],
  },
  /** A nameless clone without a manual: three letters, short ranges, a display without a point. */
  clone: {
    plate: { maker: '', model: 'No name 30', kind: 'solarPwm', outputA: 30, systemVolts: [12, 24], inputVoltsMax: 50 },
    way: 'list',
    keys: { raise: 'Menu', lower: 'Menu' },
    lines: [
      { label: 'H', shows: '13.7', is: 'floatVoltage', most: 15 },
      { label: 'L', shows: '12.6', is: 'loadReconnect' },
      { label: 'U', shows: '10.7', is: 'loadDisconnect', least: 9, most: 11.2, step: 0.1 },
      { label: 'b', shows: 'b1', is: 'batteryType', options: ['b1', 'b2', 'b3'] },
      { label: '24H', shows: '24', is: null },
    ],
    habits: { save: 'atOnce', powerCut: 'nothing' },
    quirks: [
      'Every change is saved at once, a slip too.',
      'Settings that nobody knows the meaning of; leave them alone: 24H.',
      'Not known: its ranges and steps',
    ],
  },
};

/** A whole survey of a made-up manual, as a person would make it. */
export function surveyedFrom(manual: Manual, id = 'mine'): Survey {
  const start: Survey = startSurvey(quickCard({ ...manual.plate, id }), '2026-06-09');
  const ids = new Map(manual.lines.map((line, i) => [line.label, `i${i + 1}`]));
  return surveySchema.parse({
    ...start,
    way: manual.way,
    ...manual.keys,
    walked: true,
    habits: manual.habits,
    timeoutS: manual.timeoutS,
    holdS: manual.holdS,
    forgets: (manual.forgets ?? []).map((label) => ids.get(label)),
    changes: (manual.changes ?? []).map(({ of, to, shows }) => ({
      item: ids.get(of),
      to,
      shows: Object.fromEntries(Object.entries(shows).map(([label, text]) => [ids.get(label) ?? '', text])),
    })),
    items: manual.lines.map(({ label, shows, is, options, ...ends }) => {
      const meant =
        is === null
          ? undefined
          : meaningsOf(
              { label, shown: shows },
              { kind: manual.plate.kind, systemVolts: manual.plate.systemVolts, taken: [], terms: surveyEnglish.roleTerms },
            ).find((g) => g.role === is);
      return { id: ids.get(label), label, shown: shows, role: is, unit: options ? 'choice' : meant?.unit, options: options ?? [], ...ends, looked: true };
    }),
  });
}
