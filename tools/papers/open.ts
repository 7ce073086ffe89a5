/** Layouts that the reader is made with. */
import type { FigureKey } from '../../core/src/sheet';
import { hours, num, page, table, v } from './html';
import type { Layout } from './kept';
import { figureIn as f, only, perCell, saidOf, type Said, type Truth } from './truth';

const lithium = ['lfp', 'nmc'] as const;

export const openLayouts: readonly Layout[] = [
  {
    name: 'table with lines',
    chemistries: lithium,
    draw: (t) => {
      const keys: FigureKey[] = [
        'absorbVoltage',
        'floatVoltage',
        'rechargeVoltage',
        'chargeCurrentMax',
        'chargeTemperature',
        'bmsOverVoltage',
        'bmsUnderVoltage',
        'bmsLowTemperature',
      ];
      const says = saidOf(t, keys);
      const names: Partial<Record<FigureKey, [string, string, number]>> = {
        absorbVoltage: ['Charge voltage', 'V', 1],
        floatVoltage: ['Float voltage', 'V', 1],
        rechargeVoltage: ['Recharge voltage', 'V', 1],
        chargeCurrentMax: ['Charge current', 'A', 0],
        chargeTemperature: ['Charge temperature', '°C', 0],
        bmsOverVoltage: ['BMS over-voltage trip', 'V', 1],
        bmsUnderVoltage: ['BMS under-voltage trip', 'V', 1],
        bmsLowTemperature: ['BMS charge stop when cold', '°C', 0],
      };
      const cell = (key: FigureKey, end: 'min' | 'target' | 'max'): string => {
        const n = f(says, key)[end];
        return n === undefined ? '–' : num(n, names[key]?.[2] ?? 1);
      };
      return {
        says,
        html: page(
          'td,th{border:1px solid #333;padding:5px 12px}',
          `<h1>${t.maker} ${t.battery}</h1><p>Charging data, revision ${t.revision}, ${t.date}. ${t.chemistry === 'lfp' ? 'LiFePO4' : 'NMC'} battery of ${num(t.nominalVolts, 1)} V and ${t.capacityAh} Ah.</p>${table(
            ['Parameter', 'Min.', 'Typ.', 'Max.', 'Unit'],
            keys.map((key) => [names[key]?.[0] ?? '', cell(key, 'min'), cell(key, 'target'), cell(key, 'max'), names[key]?.[1] ?? '']),
          )}`,
        ),
      };
    },
  },
  {
    name: 'table without lines',
    chemistries: ['lfp', 'agm', 'gel', 'flooded'],
    draw: (t) => {
      const keys: FigureKey[] = [
        'absorbVoltage',
        'absorbTime',
        'floatVoltage',
        'taperCurrent',
        'chargeCurrentMax',
        'equaliseVoltage',
        'compensationSlope',
        'compensationReference',
        'chargeTemperature',
        'storageVoltage',
      ];
      const says = saidOf(t, keys);
      const band = (key: FigureKey): string => {
        const one = f(says, key);
        return one.state === 'stated' ? `${v(t, one.target ?? 0)} V (${v(t, one.min ?? 0)}–${v(t, one.max ?? 0)} V)` : 'not permitted';
      };
      const slope = f(says, 'compensationSlope');
      return {
        says,
        html: page(
          'td{padding:2px 40px 2px 0;vertical-align:top}',
          `<h2>${t.maker} ${t.battery}</h2><p>${t.chemistry.toUpperCase()} battery, ${num(t.nominalVolts, 1)} V, ${t.capacityAh} Ah</p>${table(
            [],
            [
              ['Absorption voltage', band('absorbVoltage')],
              ['Absorption time', `${hours(f(says, 'absorbTime').target ?? 0)} h`],
              ['Float voltage', band('floatVoltage')],
              ['End of absorption (end current)', `${((f(says, 'taperCurrent').max ?? 0) * 100).toFixed(0)} % of capacity`],
              ['Maximum charge current', `${f(says, 'chargeCurrentMax').max} A`],
              ['Equalisation', f(says, 'equaliseVoltage').state === 'stated' ? `${v(t, f(says, 'equaliseVoltage').target ?? 0)} V` : 'Not allowed'],
              ['Temperature compensation', slope.state === 'stated' ? `${num((slope.target ?? 0) * 1000, 1)} mV/°C per cell` : 'none'],
              ...(says.compensationReference ? [['Reference temperature', `${says.compensationReference.target} °C`]] : []),
              ['Permitted temperature while charging', `${num(f(says, 'chargeTemperature').min ?? 0, 0)} °C to ${f(says, 'chargeTemperature').max} °C`],
              ['Storage voltage', `${v(t, f(says, 'storageVoltage').target ?? 0)} V`],
            ],
          )}`,
        ),
      };
    },
  },
  {
    name: 'prose',
    chemistries: lithium,
    draw: (t) => {
      const said = saidOf(t, [
        'absorbVoltage',
        'floatVoltage',
        'absorbTime',
        'taperCurrent',
        'chargeCurrentMax',
        'chargeTemperature',
        'equaliseVoltage',
        'compensationSlope',
        'disconnectVoltage',
      ]);
      const says: Said = { ...said, floatVoltage: only(f(said, 'floatVoltage'), 'target') };
      const a = f(says, 'absorbVoltage');
      return {
        says,
        html: page(
          'p{max-width:150mm}',
          `<h2>4 Charging</h2><p>The ${t.battery} is a ${num(t.nominalVolts, 1)} V, ${t.capacityAh} Ah battery. Charge each battery at constant current and constant voltage. The charge voltage is ${v(t, a.target ?? 0)} V per battery and shall stay between ${v(t, a.min ?? 0)} V and ${v(t, a.max ?? 0)} V.
          When ${((f(says, 'absorbTime').target ?? 0) / 60).toFixed(0)} minutes have passed at the upper voltage, or the current has fallen to ${num(f(says, 'taperCurrent').max ?? 0, 2)} C, whichever comes first, the battery is full. Do not equalise. Temperature compensation must be disabled.</p>
          <p>The charge current shall not exceed ${f(says, 'chargeCurrentMax').max} A. Charge only between ${num(f(says, 'chargeTemperature').min ?? 0, 0)} °C and ${f(says, 'chargeTemperature').max} °C. If the charger has a float stage, set it to ${v(t, f(says, 'floatVoltage').target ?? 0)} V.
          Disconnect loads at ${v(t, f(says, 'disconnectVoltage').target ?? 0)} V. The case is 260 mm long, weighs 11.4 kg and is tested at 3.0 m/s².</p>`,
        ),
      };
    },
  },
  {
    name: 'two columns',
    chemistries: ['agm', 'gel', 'lfp'],
    draw: (t) => {
      const said = saidOf(t, ['absorbVoltage', 'floatVoltage', 'absorbTime', 'chargeCurrentMax', 'chargeTemperature']);
      const says: Said = { ...said, absorbVoltage: only(f(said, 'absorbVoltage'), 'target'), floatVoltage: only(f(said, 'floatVoltage'), 'target') };
      return {
        says,
        html: page(
          '.two{display:flex;gap:28px}.two>*{flex:1}td{padding:3px 8px 3px 0;font-size:9.5pt}p{font-size:9.5pt;text-align:justify}',
          `<h2>${t.maker} ${t.battery}</h2><div class="two"><div><p>This battery was made for boats, huts and vehicles that are away from the mains for weeks. Its plates are thick and its lid is closed. Mount it upright, in a dry place, away from heat, and leave a finger’s width of air at each side. Nominal voltage ${num(t.nominalVolts, 1)} V, rated capacity ${t.capacityAh} Ah at the twenty-hour rate. Tighten the terminals to 8 Nm and check them after 30 days.</p><p>Charging must take place between ${num(f(says, 'chargeTemperature').min ?? 0, 0)} and ${f(says, 'chargeTemperature').max} °C. Clean the lid with a damp cloth only.</p></div>
          <div>${table(
            [],
            [
              ['Absorption voltage', `${v(t, f(says, 'absorbVoltage').target ?? 0)} V`],
              ['Absorption time', `${hours(f(says, 'absorbTime').target ?? 0)} h`],
              ['Float voltage', `${v(t, f(says, 'floatVoltage').target ?? 0)} V`],
              ['Max. charge current', `${f(says, 'chargeCurrentMax').max} A`],
              ['Weight', '24.5 kg'],
              ['Self-discharge', '2 % a month'],
              ['Terminal', 'M8'],
            ],
          )}</div></div>`,
        ),
      };
    },
  },
  {
    name: 'per cell, with footnotes',
    chemistries: ['flooded', 'agm'],
    draw: (t) => {
      const keys: FigureKey[] = [
        'absorbVoltage',
        'floatVoltage',
        'equaliseVoltage',
        'disconnectVoltage',
        'chargeCurrentRecommended',
        'compensationSlope',
        'compensationReference',
      ];
      const says = perCell(t, saidOf(t, keys));
      const lone = (key: FigureKey): string => (f(says, key).state === 'stated' ? num(f(says, key).target ?? 0, 2) : 'not permitted');
      const range = (key: FigureKey): string => `${num(f(says, key).min ?? 0, 2)}–${num(f(says, key).max ?? 0, 2)}`;
      return {
        says: { ...says, absorbVoltage: only(f(says, 'absorbVoltage'), 'min', 'max'), floatVoltage: only(f(says, 'floatVoltage'), 'min', 'max') },
        html: page(
          'td,th{padding:4px 16px 4px 0;text-align:left;border-bottom:1px solid #ccc}sup{font-size:60%}small{font-size:8.5pt}',
          `<h2>${t.maker} ${t.battery} cells, ${num(t.nominalVolts, 0)} V block</h2><p>All voltages in volts per cell at ${f(says, 'compensationReference').target} °C.</p>${table(
            ['', 'V/cell'],
            [
              ['Boost charge <sup>1</sup>', range('absorbVoltage')],
              ['Float charge', range('floatVoltage')],
              ['Equalising charge <sup>2</sup>', lone('equaliseVoltage')],
              ['End of discharge', lone('disconnectVoltage')],
            ],
          )}<p>Recommended charging current ${num(f(says, 'chargeCurrentRecommended').max ?? 0, 2)} C. Correct the voltage by ${num((f(says, 'compensationSlope').target ?? 0) * 1000, 1)} mV per °C and cell.</p>
          <p><small>1 Until the current no longer falls.<br>2 Only when the acid densities differ by more than 0.03 kg/l.</small></p>`,
        ),
      };
    },
  },
  {
    name: 'German table',
    chemistries: ['agm', 'gel', 'lfp'],
    draw: (t) => {
      const keys: FigureKey[] = [
        'absorbVoltage',
        'floatVoltage',
        'absorbTime',
        'chargeCurrentMax',
        'taperCurrent',
        'chargeTemperature',
        'equaliseVoltage',
        'disconnectVoltage',
        'storageVoltage',
      ];
      const said = saidOf(t, keys);
      const says: Said = { ...said, floatVoltage: only(f(said, 'floatVoltage'), 'target') };
      const a = f(says, 'absorbVoltage');
      return {
        says,
        html: page(
          'td,th{border:1px solid #777;padding:4px 10px;text-align:left}',
          `<h2>${t.maker} ${t.battery}</h2><p>Batterie ${num(t.nominalVolts, 1, true)} V, ${t.capacityAh} Ah. Ausgabe ${t.revision}, Stand ${t.date}.</p>${table(
            ['Kenngröße', 'Wert'],
            [
              ['Ladeschlussspannung (Absorption)', `${num(a.target ?? 0, 1, true)} V (${num(a.min ?? 0, 1, true)} bis ${num(a.max ?? 0, 1, true)} V)`],
              ['Erhaltungsladespannung', `${num(f(says, 'floatVoltage').target ?? 0, 1, true)} V`],
              ['Absorptionszeit', `${hours(f(says, 'absorbTime').target ?? 0).replace('.', ',')} Std.`],
              ['Maximaler Ladestrom', `${f(says, 'chargeCurrentMax').max} A`],
              ['Abschaltstrom', `${num(f(says, 'taperCurrent').max ?? 0, 2, true)} C`],
              ['Ladetemperatur', `${num(f(says, 'chargeTemperature').min ?? 0, 0)} bis ${f(says, 'chargeTemperature').max} °C`],
              [
                'Ausgleichsladung',
                f(says, 'equaliseVoltage').state === 'stated' ? `${num(f(says, 'equaliseVoltage').target ?? 0, 1, true)} V` : 'nicht zulässig',
              ],
              ['Entladeschlussspannung', `${num(f(says, 'disconnectVoltage').target ?? 0, 1, true)} V`],
              ['Lagerspannung', `${num(f(says, 'storageVoltage').target ?? 0, 1, true)} V`],
              ['Gewicht', '12,4 kg'],
            ],
          )}`,
        ),
      };
    },
  },
  {
    name: 'programming sheet for other chargers',
    chemistries: ['lfp'],
    draw: (t) => {
      const said = saidOf(t, ['absorbVoltage', 'floatVoltage', 'rechargeVoltage', 'disconnectVoltage', 'reconnectVoltage', 'absorbTime', 'equaliseVoltage']);
      const says: Said = {
        ...said,
        absorbVoltage: only(f(said, 'absorbVoltage'), 'target'),
        floatVoltage: only(f(said, 'floatVoltage'), 'target'),
        // Switched off in a charger is not what a maker forbids.
        equaliseVoltage: { state: 'notNeeded', unit: 'V', basis: 'unit' },
      };
      const trip = tidyVolts(t, 3.65);
      return {
        says,
        html: page(
          'td{padding:3px 30px 3px 0}',
          `<h2>Solar controller settings for ${t.battery}</h2><p>Use these for other makers’ charge controllers. ${num(t.nominalVolts, 1)} V ${t.capacityAh} Ah LiFePO4.</p>${table(
            [],
            [
              ['High voltage disconnect', `${num(trip, 1)} V`],
              ['Absorption', `${num(f(says, 'absorbVoltage').target ?? 0, 1)} V`],
              ['Absorption time', `${((f(says, 'absorbTime').target ?? 0) / 60).toFixed(0)} min`],
              ['Absorption extension', `${num(tidyVolts(t, 3.1), 1)} V`],
              ['Float', `${num(f(says, 'floatVoltage').target ?? 0, 1)} V`],
              ['Float cancel', `${num(tidyVolts(t, 2.9), 1)} V`],
              ['Boost reconnect', `${num(f(says, 'rechargeVoltage').max ?? 0, 1)} V`],
              ['Equalization', 'Disabled'],
              ['Low voltage disconnect', `${num(f(says, 'disconnectVoltage').target ?? 0, 1)} V`],
              ['Low voltage reconnect', `${num(f(says, 'reconnectVoltage').target ?? 0, 1)} V`],
            ],
          )}`,
        ),
      };
    },
  },
  {
    name: 'several batteries',
    chemistries: ['lfp', 'agm'],
    draw: (t) => {
      const said = saidOf(t, ['absorbVoltage', 'floatVoltage', 'chargeCurrentMax', 'disconnectVoltage']);
      const says: Said = { ...said, absorbVoltage: only(f(said, 'absorbVoltage'), 'target'), floatVoltage: only(f(said, 'floatVoltage'), 'target') };
      const scale = (n: number | undefined, by: number, digits: number): string => num((n ?? 0) * by, digits);
      const row = (name: string, key: FigureKey, unit: string, digits: number, by: number): string[] => {
        const n = f(says, key).target ?? f(says, key).max;
        return [name, `${scale(n, 1, digits)} ${unit}`, `${scale(n, by, digits)} ${unit}`];
      };
      return {
        says,
        battery: t.battery,
        html: page(
          'td,th{border-top:1px solid #777;padding:4px 22px 4px 0;text-align:left}',
          `<h2>${t.maker} batteries</h2>${table(
            ['', t.battery, 'Q-999'],
            [
              ['Nominal voltage', `${num(t.nominalVolts, 1)} V`, `${num(t.nominalVolts * 2, 1)} V`],
              ['Capacity', `${t.capacityAh} Ah`, '75 Ah'],
              row('Charge voltage', 'absorbVoltage', 'V', 1, 2),
              row('Float voltage', 'floatVoltage', 'V', 1, 2),
              row('Maximum charge current', 'chargeCurrentMax', 'A', 0, 0.5),
              row('Discharge cut-off', 'disconnectVoltage', 'V', 1, 2),
            ],
          )}`,
        ),
      };
    },
  },
];

const tidyVolts = (t: Truth, perCellVolts: number): number => Math.round(perCellVolts * t.cells * 10) / 10;
