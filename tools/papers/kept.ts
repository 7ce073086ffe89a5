/**
 * Layouts kept for measuring. The reader is never changed because of what is seen here: they tell how it does on paper it has not met.
 */
import type { FigureKey } from '../../core/src/sheet';
import { hours, num, page, table, v } from './html';
import { figureIn as f, only, perCell, saidOf, type Said, type Truth } from './truth';

export interface Layout {
  readonly name: string;
  readonly chemistries: readonly Truth['chemistry'][];
  readonly draw: (truth: Truth) => { readonly html: string; readonly says: Said; readonly battery?: string };
}

const lithium = ['lfp', 'nmc'] as const;
const lead = ['agm', 'gel'] as const;

export const keptLayouts: readonly Layout[] = [
  {
    name: 'rotated head',
    chemistries: lithium,
    draw: (t) => {
      const says = saidOf(t, ['absorbVoltage', 'floatVoltage', 'chargeCurrentMax', 'chargeTemperature', 'bmsOverVoltage', 'bmsUnderVoltage']);
      const cell = (key: FigureKey, end: 'min' | 'target' | 'max', unit: string, digits: number): string => {
        const n = f(says, key)[end];
        return n === undefined ? '' : `${num(n, digits)} ${unit}`;
      };
      const row = (name: string, key: FigureKey, unit: string, digits: number): string[] => [
        name,
        cell(key, 'min', unit, digits),
        cell(key, 'target', unit, digits),
        cell(key, 'max', unit, digits),
      ];
      return {
        says,
        html: page(
          'th.r{writing-mode:vertical-rl;transform:rotate(180deg);height:70px}td,th{border:1px solid #555;padding:4px 12px}',
          `<h1>${t.maker} ${t.battery}</h1><p>Lithium battery, ${num(t.nominalVolts, 1)} V ${t.capacityAh} Ah. Data sheet revision ${t.revision}.</p>
          <table><thead><tr><th>Item</th><th class="r">Minimum</th><th class="r">Nominal</th><th class="r">Maximum</th></tr></thead><tbody>${[
            row('Charge voltage', 'absorbVoltage', 'V', 1),
            row('Float charge voltage', 'floatVoltage', 'V', 1),
            row('Continuous charge current', 'chargeCurrentMax', 'A', 0),
            row('Operating temperature, charging', 'chargeTemperature', '°C', 0),
            row('Protection: over voltage', 'bmsOverVoltage', 'V', 1),
            row('Protection: under voltage', 'bmsUnderVoltage', 'V', 1),
          ]
            .map((r) => `<tr>${r.map((c) => `<td>${c}</td>`).join('')}</tr>`)
            .join('')}</tbody></table>`,
        ),
      };
    },
  },
  {
    name: 'French table',
    chemistries: lead,
    draw: (t) => {
      const says = saidOf(t, [
        'absorbVoltage',
        'floatVoltage',
        'absorbTime',
        'chargeCurrentRecommended',
        'compensationSlope',
        'compensationReference',
        'equaliseVoltage',
        'storageVoltage',
      ]);
      const a = f(says, 'absorbVoltage');
      return {
        // Printed as a range alone.
        says: { ...says, floatVoltage: only(f(says, 'floatVoltage'), 'min', 'max') },
        html: page(
          'td{padding:3px 16px 3px 0}',
          `<h2>${t.maker} — fiche de charge ${t.battery}</h2><p>Batterie au plomb ${num(t.nominalVolts, 0)} V, ${t.capacityAh} Ah. Indice ${t.revision}.</p>${table(
            [],
            [
              ['Tension d’absorption', `${num(a.target ?? 0, 1, true)} V (${num(a.min ?? 0, 1, true)} à ${num(a.max ?? 0, 1, true)} V)`],
              ['Durée d’absorption', `${hours(f(says, 'absorbTime').target ?? 0).replace('.', ',')} heures`],
              ['Tension de maintien (floating)', `${num(f(says, 'floatVoltage').min ?? 0, 1, true)} – ${num(f(says, 'floatVoltage').max ?? 0, 1, true)} V`],
              ['Courant de charge conseillé', `${num(f(says, 'chargeCurrentRecommended').max ?? 0, 2, true)} C`],
              ['Compensation en température', `${num((f(says, 'compensationSlope').target ?? 0) * 1000, 1, true)} mV/°C par élément`],
              ['Température de référence', `${f(says, 'compensationReference').target} °C`],
              ['Égalisation', 'interdite'],
              ['Tension de stockage', `${num(f(says, 'storageVoltage').target ?? 0, 1, true)} V`],
            ],
          )}`,
        ),
      };
    },
  },
  {
    name: 'Spanish list',
    chemistries: lithium,
    draw: (t) => {
      const says = saidOf(t, [
        'absorbVoltage',
        'chargeCurrentMax',
        'taperCurrent',
        'chargeTemperature',
        'disconnectVoltage',
        'bmsOverVoltage',
        'equaliseVoltage',
      ]);
      const a = f(says, 'absorbVoltage');
      return {
        says: { ...says, absorbVoltage: only(a, 'target') },
        html: page(
          'li{margin:4px 0}',
          `<h2>${t.maker} ${t.battery}</h2><p>Batería de litio ${num(t.nominalVolts, 1, true)} V / ${t.capacityAh} Ah. Edición ${t.revision}.</p><ul>
          <li>Tensión de absorción: ${num(a.target ?? 0, 1, true)} V</li>
          <li>Corriente de carga máxima: ${f(says, 'chargeCurrentMax').max} A</li>
          <li>Corriente de corte de carga: ${num(f(says, 'taperCurrent').max ?? 0, 2, true)} C</li>
          <li>Temperatura de carga: de ${num(f(says, 'chargeTemperature').min ?? 0, 0)} a ${f(says, 'chargeTemperature').max} °C</li>
          <li>Desconexión por baja tensión: ${num(f(says, 'disconnectVoltage').target ?? 0, 1, true)} V</li>
          <li>Protección por sobretensión (BMS): ${num(f(says, 'bmsOverVoltage').max ?? 0, 1, true)} V</li>
          <li>Ecualización: no permitida</li></ul>`,
        ),
      };
    },
  },
  {
    name: 'American sheet in °F and VPC',
    chemistries: ['flooded', 'agm'],
    draw: (t) => {
      const keys: FigureKey[] = [
        'absorbVoltage',
        'floatVoltage',
        'equaliseVoltage',
        'chargeCurrentRecommended',
        'absorbTime',
        'compensationReference',
        'chargeTemperature',
      ];
      const cut = perCell(t, saidOf(t, keys));
      const says: Said = {
        ...cut,
        absorbVoltage: only(f(cut, 'absorbVoltage'), 'target'),
        floatVoltage: only(f(cut, 'floatVoltage'), 'target'),
        compensationReference: { state: 'stated', target: 25, unit: '°C', basis: 'unit' },
        chargeTemperature: { state: 'stated', min: -10, max: 45, unit: '°C', basis: 'unit' },
      };
      const equalise = f(cut, 'equaliseVoltage');
      return {
        says,
        html: page(
          'td,th{border-bottom:1px solid #888;padding:5px 14px 5px 2px;text-align:left}',
          `<h2>${t.battery} charging instructions</h2><p>Rev. ${t.revision} ${t.date}. Deep-cycle lead-acid, ${num(t.nominalVolts, 0)} volts, ${t.capacityAh} AH.</p>${table(
            ['Charger setting', 'Value'],
            [
              ['Absorption charge', `${num(f(cut, 'absorbVoltage').target ?? 0, 2)} VPC`],
              ['Absorption duration', `${hours(f(cut, 'absorbTime').target ?? 0)} hrs`],
              ['Float charge', `${num(f(cut, 'floatVoltage').target ?? 0, 2)} VPC`],
              ['Equalize charge', equalise.state === 'stated' ? `${num(equalise.target ?? 0, 2)} VPC` : 'Do not equalize'],
              ['Recommended charge current', `${((f(cut, 'chargeCurrentRecommended').max ?? 0) * 100).toFixed(0)}% of capacity`],
              ['Temperature reference', '77°F'],
              ['Charging temperature range', '14°F to 113°F'],
            ],
          )}`,
        ),
      };
    },
  },
  {
    name: 'dotted leaders',
    chemistries: ['lfp', 'agm', 'gel'],
    draw: (t) => {
      const said = saidOf(t, [
        'absorbVoltage',
        'floatVoltage',
        'rechargeVoltage',
        'disconnectVoltage',
        'reconnectVoltage',
        'chargeCurrentMax',
        'absorbTime',
        'seriesMax',
        'parallelMax',
      ]);
      const says: Said = {
        ...said,
        absorbVoltage: only(f(said, 'absorbVoltage'), 'target'),
        floatVoltage: only(f(said, 'floatVoltage'), 'target'),
      };
      const line = (name: string, value: string): string => `<div>${name} ${'.'.repeat(Math.max(6, 56 - name.length))} ${value}</div>`;
      return {
        says,
        html: page(
          'div{white-space:pre;font:10pt/1.6 "DejaVu Sans Mono",monospace}',
          `<h3>${t.maker} ${t.battery} (${num(t.nominalVolts, 1)} V, ${t.capacityAh} Ah)</h3><div>CHARGING</div>${[
            line('Bulk/absorption voltage', `${v(t, f(said, 'absorbVoltage').target ?? 0)} VDC`),
            line('Absorption time, typical', `${((f(said, 'absorbTime').target ?? 0) / 60).toFixed(0)} minutes`),
            line('Float voltage', `${v(t, f(said, 'floatVoltage').target ?? 0)} VDC`),
            line('Recharge below', `${v(t, f(said, 'rechargeVoltage').max ?? 0)} VDC`),
            line('Maximum charging current', `${f(said, 'chargeCurrentMax').max} A`),
          ].join('')}<div>DISCHARGING</div>${[
            line('Low voltage disconnect', `${v(t, f(said, 'disconnectVoltage').target ?? 0)} VDC`),
            line('Low voltage reconnect', `${v(t, f(said, 'reconnectVoltage').target ?? 0)} VDC`),
          ].join(
            '',
          )}<div>INSTALLATION</div>${line('Batteries in series, max.', `${f(said, 'seriesMax').max}`)}${line('Batteries in parallel, max.', `${f(said, 'parallelMax').max}`)}`,
        ),
      };
    },
  },
  {
    name: 'transposed table',
    chemistries: ['agm', 'gel'],
    draw: (t) => {
      const said = saidOf(t, ['absorbVoltage', 'floatVoltage', 'chargeCurrentMax']);
      const says: Said = { ...said, absorbVoltage: only(f(said, 'absorbVoltage'), 'min', 'max'), floatVoltage: only(f(said, 'floatVoltage'), 'min', 'max') };
      const range = (key: FigureKey): string => `${num(f(said, key).min ?? 0, 1)}–${num(f(said, key).max ?? 0, 1)}`;
      const other = (name: string, ah: number): string[] => [name, `${ah}`, range('absorbVoltage'), range('floatVoltage'), `${ah * 0.3}`];
      return {
        says,
        battery: t.battery,
        html: page(
          'td,th{border:1px solid #999;padding:4px 10px}',
          `<h2>${t.maker}, ${num(t.nominalVolts, 0)} V range</h2>${table(
            ['Model', 'Capacity (Ah)', 'Cycle use (V)', 'Standby use (V)', 'Max. charging current (A)'],
            [
              other('Z-20', 20),
              [t.battery, String(t.capacityAh), range('absorbVoltage'), range('floatVoltage'), String(t.figures.chargeCurrentMax?.max)],
              other('Z-300', 300),
            ],
          )}`,
        ),
      };
    },
  },
  {
    name: 'two tables side by side',
    chemistries: ['lfp'],
    draw: (t) => {
      const says = saidOf(t, [
        'absorbVoltage',
        'floatVoltage',
        'chargeCurrentMax',
        'taperCurrent',
        'bmsOverVoltage',
        'bmsUnderVoltage',
        'disconnectVoltage',
        'bmsLowTemperature',
      ]);
      const a = f(says, 'absorbVoltage');
      const left = table(
        ['Charging', ''],
        [
          ['Charging voltage', `${num(a.target ?? 0, 1)} V ± ${num((a.max ?? 0) - (a.target ?? 0), 1)} V`],
          ['Float voltage', `${num(f(says, 'floatVoltage').target ?? 0, 1)} V ± 0.1 V`],
          ['Max charge current', `${f(says, 'chargeCurrentMax').max} A`],
          ['Charge cut-off current', `${num(f(says, 'taperCurrent').max ?? 0, 2)}C`],
        ],
      );
      const right = table(
        ['Protection (BMS)', ''],
        [
          ['Overvoltage protection', `${num(f(says, 'bmsOverVoltage').max ?? 0, 1)} V`],
          ['Undervoltage protection', `${num(f(says, 'bmsUnderVoltage').min ?? 0, 1)} V`],
          ['Discharge cut-off voltage', `${num(f(says, 'disconnectVoltage').target ?? 0, 1)} V`],
          ['Low temperature protection (charge)', `${num(f(says, 'bmsLowTemperature').min ?? 0, 0)} °C`],
        ],
      );
      return {
        says,
        html: page(
          '.two{display:flex;gap:40px}td,th{text-align:left;padding:4px 8px;border-bottom:1px solid #bbb;font-size:9.5pt}',
          `<h2>${t.maker} ${t.battery}</h2><p>LiFePO4 battery pack ${num(t.nominalVolts, 1)} V ${t.capacityAh} Ah, document version ${t.revision}</p><div class="two">${left}${right}</div>`,
        ),
      };
    },
  },
];
