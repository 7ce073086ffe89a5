/** A panel as its maker's label gives it, at standard test conditions (1000 W/m², 25 °C cell). */
export interface PanelData {
  readonly vocV: number;
  readonly vmpV: number;
  readonly iscA: number;
  readonly impA: number;
  /** Change of open-circuit voltage, % per °C, negative; unknown when missing. */
  readonly vocPercentPerC?: number | undefined;
  /** Change of operating voltage, or of power, % per °C, negative; unknown when missing. */
  readonly vmpPercentPerC?: number | undefined;
  /** Bypass diodes, each over an equal part of the cells. */
  readonly bypassDiodes: number;
}

/**
 * Cold factors for crystalline silicon panels whose coefficient is unknown: open-circuit voltage at the lowest expected air temperature
 * divided by the label's. Each row holds down to its temperature (NFPA 70, table 690.7(A)).
 */
const coldFactors: readonly (readonly [number, number])[] = [
  [25, 1],
  [20, 1.02],
  [15, 1.04],
  [10, 1.06],
  [5, 1.08],
  [0, 1.1],
  [-5, 1.12],
  [-10, 1.14],
  [-15, 1.16],
  [-20, 1.18],
  [-25, 1.2],
  [-30, 1.21],
  [-35, 1.23],
  [-40, 1.25],
];

/** Where a cold factor comes from. */
export interface ColdFactor {
  readonly factor: number;
  readonly from: 'coefficient' | 'table';
}

/**
 * Open-circuit voltage at a temperature, as a multiple of the label's: 1 + k (T − 25) with the panel's own coefficient, else the table.
 * Below −40 °C the table has no row; its last one is used.
 *
 * @param celsius lowest air temperature: at dawn a panel is as cold as the air
 */
export function coldFactor(panel: PanelData, celsius: number): ColdFactor {
  if (panel.vocPercentPerC !== undefined) return { factor: 1 + (panel.vocPercentPerC / 100) * (celsius - 25), from: 'coefficient' };
  const row = coldFactors.find(([down]) => celsius >= down) ?? coldFactors.at(-1);
  return { factor: row?.[1] ?? 1.25, from: 'table' };
}

/** Open-circuit voltage of a string at the record low, V. */
export const coldOpenVolts = (panel: PanelData, inSeries: number, celsius: number): number => inSeries * panel.vocV * coldFactor(panel, celsius).factor;

/** Open-circuit volts of a panel may be this much above its label, unless the label says otherwise. */
const labelTolerance = 1.03;
/** Under a clear night sky cells are this much colder than the air, °C. */
const nightSky = 3;

/** The most a string may reach at the record low, V: cells colder than the air, and panels at the top of the usual label tolerance of 3 %. */
export const coldMostVolts = (panel: PanelData, inSeries: number, celsius: number): number =>
  labelTolerance * coldOpenVolts(panel, inSeries, celsius - nightSky);

/** A panel in full sun stands this much above the air, °C (rule of thumb from the nominal operating cell temperature). */
const sunRise = 30;
/** Change of operating voltage with temperature where the label gives none, % per °C (crystalline silicon). */
const usualVmpPercent = -0.4;

/**
 * Operating voltage of a string on the hottest day, V: air + 30 °C, with the panel's own coefficient of operating voltage or of power, else −0.4 %/°C. The
 * coefficient of the open-circuit voltage does not serve: the operating voltage falls faster.
 */
export const hotOperatingVolts = (panel: PanelData, inSeries: number, airC: number): number =>
  inSeries * panel.vmpV * (1 + ((panel.vmpPercentPerC ?? usualVmpPercent) / 100) * (airC + sunRise - 25));

/** Sun brighter than the label's 1000 W/m², at cloud edges and over snow: current counts 1.25 times (NFPA 70, 690.8(A)). */
const irradianceFactor = 1.25;

/** Short-circuit current of an array to design for, A. */
export const designAmps = (panel: PanelData, inParallel: number): number => inParallel * panel.iscA * irradianceFactor;

/** Voltage of a bypass diode that carries current, V. */
const diodeV = 0.6;

/**
 * Voltage of one part of a panel behind one bypass diode at a current, by the four-point explicit model
 * I = Isc g (1 − C₁ (exp(V / (C₂ Voc)) − 1)), turned round (Rauschenbach 1980). Past its own light the part is bypassed.
 *
 * @param light 0 to 1, relative to full sun
 */
function partVolts(panel: PanelData, amps: number, light: number): number {
  const c2 = (panel.vmpV / panel.vocV - 1) / Math.log(1 - panel.impA / panel.iscA);
  const c1 = (1 - panel.impA / panel.iscA) * Math.exp(-panel.vmpV / (c2 * panel.vocV));
  const parts = Math.max(1, panel.bypassDiodes);
  const left = light <= 0 ? -1 : 1 - amps / (panel.iscA * light);
  if (left <= 0) return panel.bypassDiodes > 0 ? -diodeV : -panel.vocV * 4;
  return Math.max(-diodeV, (c2 * panel.vocV * Math.log(1 + left / c1)) / parts);
}

/** Light on a panel, 0 to 1 relative to full sun: the same on all of it, or on each of its parts behind a bypass diode. */
export type PanelLight = number | readonly number[];

/** Voltage of a string at a current: its panels one after another, each with the light it has. */
export function stringVolts(panel: PanelData, light: readonly PanelLight[], amps: number): number {
  const parts = Math.max(1, panel.bypassDiodes);
  return light.reduce<number>(
    (sum, g) => sum + (typeof g === 'number' ? parts * partVolts(panel, amps, g) : g.reduce((volts, part) => volts + partVolts(panel, amps, part), 0)),
    0,
  );
}

/** Current of a string at a voltage, A: the voltage falls with the current, so it is found by halving; never below 0 (no current back into a string). */
function stringAmps(panel: PanelData, light: readonly PanelLight[], volts: number): number {
  let low = 0;
  let high = panel.iscA * Math.max(0, ...light.flat());
  if (stringVolts(panel, light, 0) <= volts) return 0;
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (stringVolts(panel, light, middle) > volts) low = middle;
    else high = middle;
  }
  return low;
}

/** One point of a power curve. */
export interface PowerPoint {
  readonly volts: number;
  readonly watts: number;
}

/**
 * Power of strings side by side against their common voltage, 120 points from 0 to the highest open-circuit voltage.
 *
 * @param strings light of every panel of every string
 */
export function powerCurve(panel: PanelData, strings: readonly (readonly PanelLight[])[]): readonly PowerPoint[] {
  const most = Math.max(0, ...strings.map((light) => stringVolts(panel, light, 0)));
  return Array.from({ length: 121 }, (_, i) => {
    const volts = (most * i) / 120;
    return { volts, watts: volts * strings.reduce((sum, light) => sum + stringAmps(panel, light, volts), 0) };
  });
}

/** The best point of a curve within what a charger's input takes; null when none lies there. */
export function bestPoint(curve: readonly PowerPoint[], leastV: number, mostV: number): PowerPoint | null {
  return curve
    .filter((p) => p.volts >= leastV && p.volts <= mostV)
    .reduce<PowerPoint | null>((best, p) => (best === null || p.watts > best.watts ? p : best), null);
}
