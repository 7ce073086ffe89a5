/** Resistivity of annealed copper at 20 °C, Ω·mm²/m, and its rise with temperature, 1/°C (IEC 60028). */
const copper = 0.017241;
const copperRise = 0.00393;

/**
 * Resistance of a pair of conductors, out and back, Ω.
 *
 * @param lengthM one way, m
 * @param areaMm2 of one conductor, mm²
 * @param celsius of the copper; under load it runs warm
 */
export const pairOhms = (lengthM: number, areaMm2: number, celsius = 50): number => (2 * lengthM * copper * (1 + copperRise * (celsius - 20))) / areaMm2;

/** Voltage lost over a pair of conductors, V. */
export const voltageDrop = (lengthM: number, areaMm2: number, amps: number, celsius = 50): number => pairOhms(lengthM, areaMm2, celsius) * amps;

/**
 * Current-carrying capacity of two loaded copper conductors with PVC insulation, clipped to a surface, at 30 °C: mm² and A
 * (IEC 60364-5-52, table B.52.2, method C). A table to begin with; local codes and a licensed electrician decide.
 */
const ampacityTable: readonly (readonly [number, number])[] = [
  [1.5, 19.5],
  [2.5, 27],
  [4, 36],
  [6, 46],
  [10, 63],
  [16, 85],
  [25, 112],
  [35, 138],
  [50, 168],
  [70, 213],
  [95, 258],
  [120, 299],
];
export const ampacitySource = 'IEC 60364-5-52, table B.52.2, method C, two loaded conductors, PVC, 30 °C';

/**
 * Ampacity of a conductor at a surrounding temperature, A: the largest table size not above its own, times √((70 − T)/40) for PVC
 * (table B.52.14 in closed form). Sizes between two rows count as the smaller one; 0 from 70 °C on, or below the table.
 */
export function ampacity(areaMm2: number, surroundingC = 30): number {
  const row = ampacityTable.filter(([area]) => area <= areaMm2 + 1e-9).at(-1);
  return row && surroundingC < 70 ? row[1] * Math.sqrt((70 - surroundingC) / 40) : 0;
}

/** The smallest table size that carries a current and keeps the drop; null when none does. */
export const conductorFor = (amps: number, lengthM: number, mostDropV: number, surroundingC = 30): number | null =>
  ampacityTable.find(([area]) => ampacity(area, surroundingC) >= amps && voltageDrop(lengthM, area, amps) <= mostDropV)?.[0] ?? null;
