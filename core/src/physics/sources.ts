import type { PanelData } from './array';

/** A panel in the sun stands above the air by irradiance × (NOCT − 20 °C)/800 W/m², with a usual NOCT of 45 °C (Ross 1976). */
const riseCPerWatt = 25 / 800;

/** Change of power with cell temperature where the label gives none, 1/°C (crystalline silicon). */
const powerPerC = -0.004;

/** Cell temperature of a panel, °C. */
export const panelC = (airC: number, irradiance: number): number => airC + riseCPerWatt * irradiance;

/** Power at the best point of an array, W: label × light × temperature. */
export const bestWatts = (stcW: number, irradiance: number, celsius: number): number =>
  Math.max(0, ((stcW * irradiance) / 1000) * (1 + powerPerC * (celsius - 25)));

/** The explicit current curve of a panel: I = Isc·g·(1 − C₁(exp(V/(C₂·Voc)) − 1)) (Rauschenbach 1980), its constants worked out once. */
export interface PanelCurve {
  readonly iscA: number;
  readonly c1: number;
  /** C₂·Voc at 25 °C, V. */
  readonly scaleV: number;
  readonly vocPerC: number;
}

/** Constants of a panel's curve. */
export function panelCurve(panel: PanelData): PanelCurve {
  const c2 = (panel.vmpV / panel.vocV - 1) / Math.log(1 - panel.impA / panel.iscA);
  return {
    iscA: panel.iscA,
    c1: (1 - panel.impA / panel.iscA) * Math.exp(-panel.vmpV / (c2 * panel.vocV)),
    scaleV: c2 * panel.vocV,
    vocPerC: (panel.vocPercentPerC ?? -0.3) / 100,
  };
}

/** Current that a panel joined straight to a voltage gives, A; what a PWM charger passes on. */
export const ampsAtVolts = (curve: PanelCurve, irradiance: number, celsius: number, volts: number): number => {
  const scale = curve.scaleV * (1 + curve.vocPerC * (celsius - 25));
  return Math.max(0, ((curve.iscA * irradiance) / 1000) * (1 - curve.c1 * (Math.exp(volts / scale) - 1)));
};

/** Rise of a machine at its rated current above the engine room, °C, and its time constant, s: usual for an open alternator, not a maker's figure. */
export const machineRiseC = 95;
export const machineSeconds = 900;
export const engineRoomC = 40;
