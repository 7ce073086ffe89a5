/** Area of an American wire gauge, mm²; 1/0 to 4/0 are 0 to −3 (ASTM B258: a ratio of 92 over 39 steps of diameter). */
export const awgArea = (gauge: number): number => (Math.PI / 4) * (0.127 * 92 ** ((36 - gauge) / 39)) ** 2;

/** The gauge nearest to an area, in words: "6 AWG", "2/0 AWG". */
export function nearestAwg(areaMm2: number): string {
  const gauges = Array.from({ length: 28 }, (_, i) => i - 3);
  const best = gauges.reduce((a, b) => (Math.abs(Math.log(awgArea(b) / areaMm2)) < Math.abs(Math.log(awgArea(a) / areaMm2)) ? b : a));
  return best > 0 ? `${best} AWG` : `${1 - best}/0 AWG`;
}
